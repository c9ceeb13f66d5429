run_command <- internal("run_command")

run <- function(...) {
  status <- NULL
  withr::local_envvar(NO_COLOR = "1", COLUMNS = "90")
  error <- textConnection("said", "w", local = TRUE)
  sink(error, type = "message")
  out <- tryCatch(capture.output(status <- run_command(c(...))), finally = { sink(type = "message"); close(error) })
  list(status = status, out = out, error = said)
}

test_that("exit statuses are 0, 1, 2, 3 and 4 as promised", {
  f <- demo_file()
  expect_equal(run("ask", f, "mean honey yield")$status, 0L)
  expect_equal(run("ask", "nowhere.csv", "mean honey yield")$status, 1L)
  expect_equal(run("ask", f)$status, 2L)
  expect_equal(run("ask", f, "mean honey yield", "--bogus")$status, 2L)
  expect_equal(run("frobnicate")$status, 2L)
  expect_equal(run()$status, 2L)
  expect_equal(run("ask", f, "How does strength relate to honey yield?")$status, 3L)
  expect_equal(run("ask", f, "mean wing length")$status, 4L)
})

test_that("errors say what to do, on standard error, and never trace back", {
  for (args in list(c("lok", demo_file()), c("ask", "nowhere.csv", "x"), c("look"), c("retrace", demo_file()), c("report", demo_file()))) {
    r <- run(args)
    expect_length(r$out, 0)
    expect_gt(length(r$error), 0)
    expect_false(any(grepl("Traceback|Error in|Calls:", r$error)))
  }
  expect_match(paste(run("lok", demo_file())$error, collapse = " "), "quill look")
})

test_that("every command has help with examples", {
  expect_match(paste(run("--help")$out, collapse = "\n"), "Exit status")
  for (command in names(internal("command_specs")())) {
    r <- run(command, "--help")
    expect_equal(r$status, 0L, info = command)
    expect_true(any(grepl("^Examples:", r$out)) && any(grepl(paste("quill", command), r$out)), info = command)
  }
})
