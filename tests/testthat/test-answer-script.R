test_that("the script of a filtered, joined, amended answer stands alone", {
  study <- amend(demo_study("hive_trial.csv", "apiaries.csv"), queen_age_months = list(missing = 36))
  a <- ask(study, "correlation between queen age and altitude in the north")
  expect_retraces(a)
  lines <- script(a)
  expect_true(any(grepl("<- NA  # codes for missing", lines, fixed = TRUE)))
  expect_true(any(grepl("hive_trial.csv", lines, fixed = TRUE)) && any(grepl("apiaries.csv", lines, fixed = TRUE)))
})

test_that("there is no script of nothing", {
  expect_error(script(ask(hive_study(), "mean wing length")), class = "upbeatquill_error_not_answered")
})

test_that("the script finds the data beside it when the first place is gone", {
  folder <- withr::local_tempdir(); elsewhere <- withr::local_tempdir()
  file.copy(demo_file(), folder)
  a <- ask(open_study(file.path(folder, "hive_trial.csv")), "mean honey yield")
  script(a, file.path(elsewhere, "s.R"))
  file.rename(file.path(folder, "hive_trial.csv"), file.path(elsewhere, "hive_trial.csv"))
  expect_true(as.list(retrace(file.path(elsewhere, "s.R")))$ok)
})
