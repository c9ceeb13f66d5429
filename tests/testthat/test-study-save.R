test_that("what is saved opens again with the same kinds and values", {
  s <- amend(hive_study(), "leave out the south", "mites after is in mites")
  d <- as.data.frame(s)
  folder <- withr::local_tempdir()
  for (name in c("out.csv", "out.json")) {
    file <- save_data(s, file.path(folder, name))
    again <- as.data.frame(open_study(file))
    expect_equal(nrow(again), nrow(d))
    expect_equal(again$honey_yield_kg, d$honey_yield_kg)
    expect_equal(as.character(again$arm), as.character(d$arm))
    expect_equal(again$inspected_on, d$inspected_on)
    expect_equal(is.na(again$mites_after), is.na(d$mites_after))
  }
})

test_that("Dataset-JSON read by another reader holds the described columns", {
  file <- save_data(hive_study(), withr::local_tempfile(fileext = ".json"))
  j <- jsonlite::fromJSON(file, simplifyVector = FALSE)
  expect_equal(j$records, 180)
  expect_equal(vapply(j$columns, `[[`, "", "name"), names(as.data.frame(hive_study())))
  expect_length(j$rows[[1]], length(j$columns))
})

test_that("a data package carries every table and its schema", {
  folder <- withr::local_tempdir()
  s <- demo_study("hive_trial.csv", "apiaries.csv")
  save_data(s, file.path(folder, "datapackage.json"))
  again <- open_study(folder)
  expect_length(as.list(again)$tables, 2)
  expect_equal(stats::setNames(codebook(again)$kind, codebook(again)$column), stats::setNames(codebook(s)$kind, codebook(s)$column))
})

test_that("cells that a spreadsheet would run are made inert", {
  s <- open_study(data.frame(a = c("=1+1", "x", "y"), b = 1:3))
  expect_match(readLines(save_data(s, withr::local_tempfile(fileext = ".csv")))[2], "^'=1\\+1")
  expect_error(save_data(s, "x.doc"), class = "upbeatquill_error_input")
})
