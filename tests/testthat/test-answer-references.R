test_that("references in three forms say the same", {
  a <- ask(hive_study(), "Does the honey yield differ between syrup and control?")
  text <- references(a)
  expect_true(any(grepl("^Welch, B. L. \\(1947\\)", text)))
  bib <- references(a, "bibtex")
  expect_equal(sum(grepl("^@article", bib)), sum(grepl("\\(\\d{4}\\)", text)))
  expect_true(any(grepl("pages = {28--35}", bib, fixed = TRUE)))
  csl <- jsonlite::fromJSON(paste(references(a, "csl"), collapse = "\n"), simplifyVector = FALSE)
  welch <- Filter(function(e) e$id == "welch1947", csl)[[1]]
  expect_equal(welch$author[[1]], list(family = "Welch", given = "B. L."))
  expect_equal(welch$volume, "34")
  expect_error(references(1), class = "upbeatquill_error_input")
})

test_that("every reference of every method can be taken apart", {
  texts <- unique(unlist(lapply(upbeatquill:::registered_methods(), `[[`, "references")))
  entries <- lapply(texts, upbeatquill:::parse_reference)
  bad <- texts[vapply(entries, function(e) is.null(e$authors) || !nrow(e$authors) || !nzchar(e$title) || is.null(e$journal) &&
    is.null(e$publisher), NA)]
  expect_equal(bad, character())
})
