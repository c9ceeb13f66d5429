run_command <- internal("run_command")
run_quietly <- function(...) {
  withr::local_envvar(NO_COLOR = "1", COLUMNS = "90")
  suppressMessages(capture.output(invisible(run_command(c(...))), type = "output"))
}
spoken <- function(expr) {
  lines <- NULL
  con <- textConnection("lines", "w", local = TRUE)
  sink(con, type = "message")
  on.exit({ sink(type = "message"); close(con) })
  force(expr)
}

test_that("--json prints one document and nothing else", {
  out <- spoken(run_quietly("ask", demo_file(), "Does the honey yield differ between syrup and control?", "only in the north", "--json"))
  d <- jsonlite::fromJSON(paste(out, collapse = "\n"), simplifyVector = FALSE)
  expect_equal(d$format, "upbeatquill/answer")
  expect_equal(d$question, "only in the north")
  s <- jsonlite::fromJSON(paste(run_quietly("look", demo_file(), "--json"), collapse = "\n"), simplifyVector = FALSE)
  expect_equal(s$format, "upbeatquill/study")
})

test_that("a thread of questions is shown answer by answer; figure, script and logbook are written", {
  folder <- withr::local_tempdir()
  png <- file.path(folder, "f.png"); r <- file.path(folder, "s.R"); log <- file.path(folder, "l.jsonl")
  out <- spoken(run_quietly("ask", demo_file(), "honey yield by arm", "only in the north", "--figure", png, "--script", r, "--logbook", log))
  expect_true(any(grepl("^Read as", out)) && any(grepl("region is north", out)))
  expect_gt(file.size(png), 5000)
  expect_length(readLines(log), 3)
  expect_equal(spoken({ s <- NULL; capture.output(s <- run_command(c("retrace", r))); s }), 0L)
})

test_that("the codebook is shown or written", {
  out <- run_quietly("codebook", demo_file("keeper_survey.csv"))
  expect_true(any(grepl("feed_affordable", out)))
  f <- withr::local_tempfile(fileext = ".csv")
  spoken(run_quietly("codebook", demo_file(), "-o", f))
  expect_equal(nrow(read.csv(f)), 15)
})

test_that("a report answers a file of questions, follow-ups included", {
  q <- local_csv(c("# the trial", "mean honey yield", "> only in the north", "mean wing length"), "questions.txt")
  out <- withr::local_tempfile(fileext = ".html")
  spoken(run_quietly("report", demo_file(), "--questions", q, "-o", out))
  expect_match(paste(readLines(out), collapse = ""), "only in the north")
})

test_that("ideas are numbered", {
  expect_match(run_quietly("ideas", demo_file())[1], "^ 1  ")
})
