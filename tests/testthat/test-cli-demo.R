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
