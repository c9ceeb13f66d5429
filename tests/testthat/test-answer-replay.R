logged <- function(file, log) {
  s <- open_study(file, logbook = log)
  s <- amend(s, "leave out the south", gain = list(derive = "difference", from = c("mites_after", "mites_before")))
  s <- design(s, treatment = "arm", randomised = TRUE, control = "control")
  s <- amend(s, arm = list(recode = c("pollen patty" = "patty")))
  s <- amend(s, arm = list(label = "wrong"))
  s <- undo(s)
  s <- amend(s, "by harvest I mean honey yield")
  a <- ask(s, "does harvest differ between syrup and control?")
  b <- ask(a, "use a rank test")
  ask(s, "mean gain by arm")
  s
}

test_that("a logbook gives the whole study again, with the same numbers", {
  folder <- withr::local_tempdir()
  file <- file.path(folder, "hive_trial.csv")
  file.copy(demo_file(), file)
  log <- file.path(folder, "study.jsonl")
  s <- logged(file, log)
  r <- replay(log)
  expect_true(r$ok, info = paste(format(r), collapse = "\n"))
  expect_gt(r$total, 30)
  expect_false(any(r$sources$changed))
  expect_equal(as.data.frame(r$study), as.data.frame(s))
  expect_equal(r$study$design, s$design)
  expect_length(r$answers, 3)
  expect_equal(method_of(r$answers[[2]]), "mann_whitney")
})

test_that("changed data is named, with the numbers that moved", {
  folder <- withr::local_tempdir()
  file <- file.path(folder, "data.csv")
  utils::write.csv(data.frame(g = rep(c("a", "b"), each = 6), y = c(1, 2, 3, 4, 5, 6.5, 2, 4, 6, 8, 10, 12.5)), file, row.names = FALSE)
  log <- file.path(folder, "study.jsonl")
  ask(open_study(file, logbook = log), "does y differ by g?")
  lines <- readLines(file)
  writeLines(sub("12.5", "99.5", lines, fixed = TRUE), file)
  r <- replay(log)
  expect_false(r$ok)
  expect_true(r$sources$changed)
  expect_true(any(grepl("p_value", r$differences$id)))
  expect_match(paste(format(r), collapse = "\n"), "Changed since then: data.csv")
})

test_that("what is no logbook is refused", {
  expect_error(replay(local_csv("a,b")), class = "upbeatquill_error_not_a_logbook")
  expect_error(replay("nowhere.jsonl"), class = "upbeatquill_error_file_missing")
})
