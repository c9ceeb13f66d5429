test_that("a changed number, changed data and a broken script are caught", {
  folder <- withr::local_tempdir()
  file.copy(demo_file(), folder)
  a <- ask(open_study(file.path(folder, "hive_trial.csv")), "mean honey yield")
  file <- file.path(folder, "s.R")
  script(a, file)
  expect_true(as.list(retrace(file))$ok)
  lines <- readLines(file)
  at <- grep("^#:\tnumber\testimate", lines)
  wrong <- lines
  wrong[at] <- "#:\tnumber\testimate\t21.5"
  writeLines(wrong, file)
  trace <- as.list(retrace(file))
  expect_false(trace$ok)
  expect_equal(trace$differences$id, "estimate")
  writeLines(lines, file)
  data <- readLines(file.path(folder, "hive_trial.csv"))
  writeLines(data[-5], file.path(folder, "hive_trial.csv"))
  expect_false(as.list(retrace(file))$ok)
  writeLines(c("stop('no')", lines), file)
  expect_match(as.list(retrace(file))$error, "stopped before its end")
})

test_that("a file that is no script of ours is refused", {
  f <- local_csv("x <- 1", "plain.R")
  expect_error(retrace(f), class = "upbeatquill_error_not_a_script")
  expect_error(retrace("nowhere.R"), class = "upbeatquill_error_file_missing")
})

test_that("a data frame of the session is retraced too", {
  d <- data.frame(g = rep(c("a", "b"), 10), y = with_seed(4, rnorm(20)), day = as.Date("2024-01-01") + 0:19)
  expect_retraces(ask(open_study(d), "does y differ by g"))
  expect_retraces(ask(open_study(d), "mean y after 2024-01-05"))
})
