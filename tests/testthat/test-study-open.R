test_that("a study is a value: nothing that uses it changes it", {
  study <- hive_study()
  before <- serialize(study, NULL)
  look(study); codebook(study); ideas(study, 2); ask(study, "mean honey yield")
  amend(study, arm = list(label = "Feeding"))
  design(study, unit = "hive_id")
  expect_identical(serialize(study, NULL), before)
})

test_that("the logbook records what was opened, declared, asked and found", {
  log <- withr::local_tempfile(fileext = ".jsonl")
  study <- open_study(demo_file(), logbook = log)
  study <- design(study, treatment = "arm", randomised = TRUE)
  ask(study, "Does the honey yield differ between syrup and control?")
  events <- lapply(readLines(log), jsonlite::fromJSON)
  expect_equal(vapply(events, `[[`, "", "event"), c("opened", "declared", "asked"))
  expect_equal(events[[1]]$sources$sha256, unname(cli::hash_file_sha256(demo_file())))
  expect_true(is.numeric(events[[3]]$numbers$p_value))
})

test_that("a logbook that cannot be written is an error, not a silence", {
  expect_error(open_study(demo_file(), logbook = file.path(tempdir(), "no", "such", "log.jsonl")), class = "upbeatquill_error_not_written")
})
