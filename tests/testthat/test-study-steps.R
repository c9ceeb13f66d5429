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

admissions <- function() { d <- as.data.frame(UCBAdmissions); d[1:3] <- lapply(d[1:3], as.character); d }

test_that("rows of a table of counts stand for their cases: told, retraced, and left alone where the counts are asked about", {
  s <- open_study(admissions())
  both <- margin.table(UCBAdmissions, c(1, 2))
  a <- ask(s, "is admission related to gender?")
  own <- chisq.test(both, correct = FALSE)
  expect_equal(value_of(a, "n"), sum(UCBAdmissions))
  expect_equal(value_of(a, "statistic"), own$statistic[[1]], tolerance = 1e-10)
  expect_match(paste(unlist(reading(a)$assumed), collapse = " "), "Each row of .* stands for as many cases as Freq says")
  expect_retraces(a)
  b <- ask(s, "admission rate by gender")
  expect_match(as.list(b)$sentences$headline, sprintf("%.1f %%", 100 * both["Admitted", "Female"] / sum(both[, "Female"])))
  expect_equal(value_of(ask(s, "how many women applied?"), "n"), sum(UCBAdmissions[, "Female", ]))
  m <- mantelhaen.test(UCBAdmissions, correct = FALSE)
  c <- ask(s, "is admission related to gender within department?")
  expect_equal(value_of(c, "statistic"), m$statistic[[1]], tolerance = 1e-8)
  # the counts themselves
  expect_equal(value_of(ask(s, "total Freq for women"), "estimate"), sum(UCBAdmissions[, "Female", ]))
  expect_equal(sort(table_of(ask(s, "mean Freq by department"), "groups")$mean), sort(as.numeric(apply(UCBAdmissions, 3, mean))))
  # the study itself is as it was opened, and says what it found
  expect_equal(nrow(as.data.frame(s)), 24)
  expect_match(paste(utils::capture.output(print(look(s))), collapse = " "), "each row stands for Freq cases")
})

test_that("the amendment is a sentence or an argument, is undone, and refuses counts that are none", {
  d <- admissions()
  for (s in list(amend(open_study(d), "each row stands for Freq cases"), amend(open_study(d), cases = "Freq"))) {
    a <- ask(s, "share of applicants who were admitted")
    expect_equal(value_of(a, "estimate"), sum(UCBAdmissions["Admitted", , ]) / sum(UCBAdmissions))
    expect_match(paste(unlist(reading(a)$assumed), collapse = " "), "Amended before: Each row")
    expect_retraces(a)
    expect_equal(nrow(as.data.frame(undo(s))), 24)
    expect_error(amend(s, cases = "Freq"), class = "upbeatquill_error_bad_amendment")
  }
  d$Freq[3] <- -1
  expect_error(amend(open_study(d), cases = "Freq"), class = "upbeatquill_error_bad_amendment")
  expect_error(amend(open_study(d), cases = "Dept"), class = "upbeatquill_error_bad_amendment")
  # repeated combinations are rows of their own, not cells
  twice <- rbind(admissions(), admissions())
  expect_equal(value_of(ask(open_study(twice), "is admission related to gender?"), "n"), 48)
})

test_that("a logbook repeats that rows stand for cases", {
  folder <- withr::local_tempdir()
  file <- file.path(folder, "admissions.csv")
  write.csv(admissions(), file, row.names = FALSE)
  book <- file.path(folder, "book.jsonl")
  s <- amend(open_study(file, logbook = book), "each row stands for Freq cases")
  a <- ask(s, "is admission related to gender?")
  again <- replay(book)
  expect_true(again$ok, info = paste(format(again), collapse = "\n"))
  expect_equal(value_of(again$answers[[length(again$answers)]], "statistic"), value_of(a, "statistic"))
})
