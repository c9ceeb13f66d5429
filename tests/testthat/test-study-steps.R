test_that("rows left out are gone from counts, levels and answers, and come back with undo", {
  s <- hive_study()
  d <- as.data.frame(s)
  cut <- amend(s, leave_out = list(region = "south"))
  expect_equal(nrow(as.data.frame(cut)), sum(d$region != "south"))
  expect_false("south" %in% unlist(as.list(cut)$tables[[1]]$columns[[3]]$levels))
  a <- ask(cut, "mean honey yield by region")
  expect_match(paste(unlist(reading(a)$assumed), collapse = " "), "left out of hive_trial: region is south")
  expect_retraces(a)
  expect_equal(as.data.frame(undo(cut)), d)
})

test_that("a second amendment does not bring rows back", {
  s <- amend(amend(hive_study(), "leave out the south"), "add gain as mites_after minus mites_before")
  expect_equal(nrow(as.data.frame(s)), 120)
  expect_retraces(ask(s, "does gain differ by region?"))
})

test_that("rows are named by their numbers in the file", {
  s <- amend(hive_study(), leave_out = c(1, 3))
  d <- as.data.frame(hive_study())
  expect_equal(as.data.frame(s)$hive_id, d$hive_id[-c(1, 3)])
  again <- amend(s, leave_out = 4)
  expect_equal(as.data.frame(again)$hive_id, d$hive_id[-c(1, 3, 4)])
  expect_retraces(ask(again, "mean honey yield by arm"))
  expect_error(amend(s, leave_out = 9999), class = "upbeatquill_error_bad_amendment")
})

test_that("the last row is never left out", {
  expect_error(amend(hive_study(), keep_only = list(list(column = "honey_yield_kg", op = ">", value = 1e6))), class = "upbeatquill_error_no_rows")
})

test_that("a derived column follows a later change of its source", {
  s <- open_study(data.frame(a = c(1, 2, 999, 4, 5), b = c(2, 2, 2, 2, 2.5)))
  s <- amend(s, twice = list(derive = "sum", from = c("a", "b")))
  expect_equal(as.data.frame(s)$twice[3], 1001)
  s <- amend(s, a = list(missing = 999))
  expect_true(is.na(as.data.frame(s)$twice[3]))
})
