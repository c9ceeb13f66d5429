report_answers <- function() {
  list(ask(hive_study(), "Does the honey yield differ between syrup and control?"), ask(hive_study(), "mean wing length"),
       ask(hive_study(), "honey yield by arm, apiary and region"))
}

test_that("a document holds the headings, every number and the figures with their descriptions", {
  skip_if_not_installed("officer"); skip_if_not_installed("flextable")
  file <- withr::local_tempfile(fileext = ".docx")
  answers <- report_answers()
  report(answers, file, title = "Feeding & <yield>")
  doc <- officer::read_docx(file)
  content <- officer::docx_summary(doc)
  headings <- content$text[grepl("^heading", content$style_name)]
  expect_true(all(c("Feeding & <yield>", "The data", "Its quality", "What holds", "Limits", "Appendix: the scripts") %in% headings))
  expect_true(all(vapply(answers, `[[`, "", "question") %in% headings))
  text <- paste(content$text, collapse = "\n")
  n <- numbers(answers[[1]])
  shown <- vapply(seq_len(nrow(n)), function(i) upbeatquill:::say_document_value(n$value[i], n$id[i]), "")
  for (v in shown) expect_true(grepl(v, text, fixed = TRUE), info = v)
  xml <- officer::docx_body_xml(doc)
  pictures <- xml2::xml_find_all(xml, "//*[local-name()='docPr']")
  expect_length(pictures, 1)  # the third answer has a table only
  expect_true(all(nchar(xml2::xml_attr(pictures, "descr")) > 10))
  expect_match(text, "Nothing in this data is called", fixed = TRUE)
})

test_that("wide tables are cut into pieces that repeat the first column", {
  block <- upbeatquill:::block_table("t", letters[1:25], list(as.list(letters[1:25])), rep(FALSE, 25))
  pieces <- upbeatquill:::table_pieces(block, 11)
  expect_length(pieces, 3)
  expect_true(all(vapply(pieces, function(p) p$columns[1] == "a", NA)))
  expect_setequal(unlist(lapply(pieces, `[[`, "columns")), letters[1:25])
})
