test_that("a report is one well-formed page with every number of its answers", {
  a <- ask(hive_study(), "Does the honey yield differ between syrup and control?")
  b <- ask(hive_study(), "mean wing length")
  c <- ask(hive_study(), "How does strength relate to honey yield?")
  file <- withr::local_tempfile(fileext = ".html")
  report(list(a, b, c), file)
  page <- paste(readLines(file, encoding = "UTF-8"), collapse = "\n")
  skip_if_not_installed("xml2")
  html <- xml2::read_html(page)
  expect_length(xml2::xml_find_all(html, "//section[@class='answer']"), 3)
  expect_gt(length(xml2::xml_find_all(html, "//img[string-length(@alt) > 10]")), 0)
  expect_length(xml2::xml_find_all(html, "//th[not(@scope)]"), 0)
  expect_length(xml2::xml_find_all(html, "//head/style"), 1)
  expect_equal(xml2::xml_text(xml2::xml_find_all(html, "//head/title")), "Findings")
  text <- xml2::xml_text(html)
  for (word in c("95 % CI 0.73 to 5.09", "p = .009", "Nothing in this data is called", "strength_before",
    substr(cli::hash_file_sha256(demo_file()), 1, 16))) {
    expect_true(grepl(word, text, fixed = TRUE), info = word)
  }
  expect_false(grepl("(src|href)=\"https?:", page))
})

test_that("other types and things that are no answers are refused", {
  expect_error(report(list(), "x.html"), class = "upbeatquill_error_input")
  expect_error(report(list(1), "x.html"), class = "upbeatquill_error_input")
  a <- ask(hive_study(), "mean honey yield")
  expect_error(report(a, "x.xyz"), class = "upbeatquill_error_input")
  expect_error(report(a, file.path(tempdir(), "not", "there.html")), class = "upbeatquill_error_folder_missing")
})

test_that("a browser shows the page without overflow and without an error, wide and narrow", {
  skip_if_not_installed("htmltools")
  chromium <- Sys.which(c("chromium", "chromium-browser"))
  chromium <- chromium[nzchar(chromium)][1]
  skip_if(is.na(chromium), "no headless browser here")
  folder <- withr::local_tempdir()
  page <- file.path(folder, "findings.html")
  report(lapply(c("Does the honey yield differ by arm?", "honey yield by arm and apiary", "baseline characteristics by arm",
                  "logistic regression of winter survival on strength after, mites after and arm"), function(q) ask(hive_study(), q)), page)
  probe <- paste0("<script>window.addEventListener('load',function(){var w=document.documentElement.clientWidth;",
                  "parent.postMessage('width '+w+' needs '+document.documentElement.scrollWidth,'*')})</script>")
  cat(probe, file = page, append = TRUE)
  # headless browsers open no window as narrow as a telephone, so the page stands in a frame of the size
  frame <- file.path(folder, "frame.html")
  for (size in list(c(1280, 800), c(390, 844))) {
    writeLines(sprintf(paste0("<meta charset='utf-8'><title>none</title><script>addEventListener('message',function(e){document.title=e.data})</script>",  # nolint: line_length_linter.
                              "<iframe src='findings.html' width='%d' height='%d' style='border:0'></iframe>"), size[1], size[2]), frame)
    log <- file.path(folder, "log.txt")
    dom <- system2(chromium, shQuote(c("--headless", "--no-sandbox", "--disable-gpu", paste0("--user-data-dir=", file.path(folder, "profile")),
      "--window-size=1400,1000", "--enable-logging=stderr", "--dump-dom", paste0("file://", frame))), stdout = TRUE, stderr = log)
    title <- regmatches(dom, regexpr("width [0-9]+ needs [0-9]+", dom))
    skip_if(!length(title), "the browser does not start here")
    sizes <- as.integer(regmatches(title[1], gregexpr("[0-9]+", title[1]))[[1]])
    expect_lte(sizes[1], size[1])
    expect_gte(sizes[1], size[1] - 20)
    expect_lte(sizes[2], sizes[1])
    expect_false(any(grepl("CONSOLE", readLines(log, warn = FALSE))))
  }
})
