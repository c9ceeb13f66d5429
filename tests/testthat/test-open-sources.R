test_that("a file, several files, a folder and a data frame open", {
  expect_equal(nrow(as.data.frame(hive_study())), 180)
  two <- demo_study("hive_trial.csv", "apiaries.csv")
  expect_equal(vapply(as.list(two)$tables, `[[`, "", "name"), c("hive_trial", "apiaries"))
  folder <- withr::local_tempdir()
  file.copy(c(demo_file("apiaries.csv"), demo_file("earlier_trials.csv")), folder)
  expect_length(as.list(open_study(folder))$tables, 2)
  mine <- data.frame(g = c("a", "b", "a"), y = 1:3)
  study <- open_study(mine)
  expect_equal(as.list(study)$tables[[1]]$name, "mine")
  expect_equal(as.data.frame(study)$y, c(1, 2, 3))
})

test_that("the fingerprint is the file's SHA-256", {
  study <- hive_study()
  expect_equal(as.list(study)$sources[[1]]$sha256, unname(cli::hash_file_sha256(demo_file())))
  expect_equal(as.list(study)$sources[[1]]$bytes, file.size(demo_file()))
})

test_that("what is not there is said with what is", {
  error <- expect_error(open_study(sub("hive_trial", "hive_trail", demo_file())), class = "upbeatquill_error_file_missing")
  expect_match(conditionMessage(error), "hive_trial.csv", fixed = TRUE)
  expect_error(open_study(withr::local_tempdir()), class = "upbeatquill_error_folder_empty")
  expect_error(open_study(1:3), class = "upbeatquill_error_input")
  expect_error(open_study(data.frame()), class = "upbeatquill_error_input")
})
