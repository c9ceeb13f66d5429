test_that("the demo answers, writes its files and retraces every script", {
  folder <- file.path(withr::local_tempdir(), "tour")
  withr::local_envvar(NO_COLOR = "1")
  status <- NULL
  out <- capture.output(status <- internal("run_command")(c("demo", "-o", folder)))
  expect_equal(status, 0L)
  expect_gte(sum(grepl("^Retraced:", out)), 6)
  expect_false(any(grepl("NOT retraced", out)))
  made <- list.files(folder)
  expect_gte(sum(grepl("[.]png$", made)), 6)
  expect_gte(sum(grepl("[.]R$", made)), 6)
  expect_true("findings.html" %in% made)
})

test_that("the installed command answers on its own", {
  command <- system.file("exec", "quill", package = "upbeatquill")
  if (!nzchar(command)) command <- test_path("..", "..", "exec", "quill")
  run <- callr::rscript(normalizePath(command), cmdargs = c("ask", demo_file(), "mean honey yield", "--json"), show = FALSE, libpath = .libPaths(),
    fail_on_status = FALSE)
  expect_equal(run$status, 0L)
  expect_equal(jsonlite::fromJSON(run$stdout, simplifyVector = FALSE)$status, "answered")
})

test_that("a run that is interrupted says so, leaves status 130, no report and no copy of the data", {
  skip_on_os("windows")
  skip_if_not_installed("processx")
  folder <- withr::local_tempdir()
  questions <- file.path(folder, "questions.txt")
  writeLines(rep(c("does honey yield differ by arm?", "what predicts honey yield?"), 40), questions)
  writeLines("an older report", file.path(folder, "out.html"))
  command <- system.file("exec", "quill", package = "upbeatquill")
  run <- processx::process$new(file.path(R.home("bin"), "Rscript"), c(command, "report", demo_file(), "--questions", questions, "--yes", "-o",
    file.path(folder, "out.html")), stdout = "|", stderr = "|", env = c("current", R_LIBS = paste(.libPaths(), collapse = ":"), TMPDIR = folder))
  said <- character()
  for (i in 1:300) {
    run$poll_io(200)
    said <- c(said, run$read_error_lines())
    if (any(grepl("^2 of 80", said)) || !run$is_alive()) break
  }
  expect_true(run$is_alive())
  run$interrupt()
  run$wait(10000)
  expect_equal(run$get_exit_status(), 130L)
  expect_match(paste(run$read_all_error_lines(), collapse = " "), "Stopped", fixed = TRUE)
  expect_equal(sort(list.files(folder)), c("out.html", "questions.txt"))
  expect_equal(readLines(file.path(folder, "out.html")), "an older report")
})
