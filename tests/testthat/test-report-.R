test_that("a plan names each step and computes nothing", {
  plan <- report(hive_study(), questions = c("Does the honey yield differ between syrup and control?", "# a comment", "> only in the north",
    "mean wing length"), plan = TRUE)
  expect_equal(plan$step, 1:3)
  expect_match(plan$reads_as[2], "region is north")
  expect_equal(plan$status, c("will be computed", "will be computed", "cannot answer"))
})

test_that("a study with questions is reported; one that fails does not lose the others", {
  file <- withr::local_tempfile(fileext = ".html")
  report(hive_study(), file, questions = c("mean honey yield by arm", "mean wing length", "> only in the north"))
  page <- paste(readLines(file, encoding = "UTF-8"), collapse = "\n")
  html <- xml2::read_html(page)
  expect_length(xml2::xml_find_all(html, "//section[@class='answer']"), 3)
  failed <- upbeatquill:::failed_answer(hive_study(), "why?", "the disk is full\nand more")
  expect_equal(failed$status, "cannot_answer")
  report(list(failed, ask(hive_study(), "mean honey yield")), file)
  expect_match(paste(readLines(file), collapse = " "), "the disk is full", fixed = TRUE)
})

test_that("what holds counts the tests, and names what to rely on with care", {
  a <- ask(hive_study(), "Does the honey yield differ between syrup and control?")
  b <- ask(hive_study(), "Is winter survival related to swarming?")
  sections <- upbeatquill:::report_sections(list(a, b), "t")
  holds <- Filter(function(s) s$role == "holds", sections)[[1]]
  expect_equal(holds$blocks[[1]]$words[1], "holds")
  p <- vapply(list(a, b), function(x) numbers(x)$value[numbers(x)$id == "p_value"], 1)
  expect_match(holds$blocks[[3]]$text, sprintf("2 tests were made here: %d of them below .05 by themselves, %d once", sum(p < 0.05),
    sum(p.adjust(p, "BH") < 0.05)))
})

test_that("errors at the door come before any work", {
  expect_error(report(hive_study(), tempfile(fileext = ".html")), class = "upbeatquill_error_input")
  expect_error(report(hive_study(), tempfile(fileext = ".xyz"), questions = "mean honey yield"), "written as")
  expect_error(report(hive_study(), questions = "", plan = TRUE), class = "upbeatquill_error_file_empty")
  expect_error(report(hive_study(), file.path(tempdir(), "nowhere", "x.pdf"), questions = "mean honey yield"),
    class = "upbeatquill_error_folder_missing")
})

test_that("quill report shows the plan, and writes every form", {
  run <- function(...) { status <- NULL
    out <- suppressMessages(capture.output(status <- upbeatquill:::run_command(c(...)), type = "output"))
    list(status = status, out = paste(out, collapse = "\n")) }
  folder <- withr::local_tempdir()
  asked <- file.path(folder, "q.txt")
  writeLines(c("honey yield by arm", "> only in the north"), asked)
  shown <- run("report", demo_file(), "--questions", asked, "--plan")
  expect_equal(shown$status, 0)
  expect_match(shown$out, "region is north", fixed = TRUE)
  for (type in c("qmd", "pdf", "ipynb", "html")) {
    out <- file.path(folder, paste0("r.", type))
    expect_equal(run("report", demo_file(), "--questions", asked, "-o", out, "--yes")$status, 0)
    expect_gt(file.size(out), 2000)
  }
  expect_equal(list.files(folder, "quill-", all.files = TRUE), character())
  expect_equal(run("report", demo_file(), "-o", file.path(folder, "r.txt"), "--yes")$status, 1)
  expect_equal(run("report", demo_file(), "--yes")$status, 2)
})
