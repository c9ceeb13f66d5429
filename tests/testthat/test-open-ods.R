# An OpenDocument spreadsheet written by hand: a title, a header, typed cells, repeats, trailing empty cells.
write_ods <- function(rows, file, name = "Sheet 1", extra = "") {
  cell <- function(v) if (is.na(v)) "<table:table-cell/>"
    else if (suppressWarnings(!is.na(as.numeric(v)))) sprintf(paste0("<table:table-cell office:value-type=\"float\" ",
        "office:value=\"%s\"><text:p>%s shown</text:p></table:table-cell>"), v, v)
    else if (grepl("^[0-9]{4}-",
      v)) sprintf("<table:table-cell office:value-type=\"date\" office:date-value=\"%sT00:00:00\"><text:p>a day</text:p></table:table-cell>", v)
    else sprintf("<table:table-cell office:value-type=\"string\"><text:p>%s</text:p></table:table-cell>", v)
  body <- vapply(rows, function(r) paste0("<table:table-row>", paste(vapply(r, cell, ""), collapse = ""),
    "<table:table-cell table:number-columns-repeated=\"1000\"/></table:table-row>"), "")
  xml <- paste0("<?xml version=\"1.0\" encoding=\"UTF-8\"?><office:document-content ",
      "xmlns:office=\"urn:oasis:names:tc:opendocument:xmlns:office:1.0\" ",
                "xmlns:table=\"urn:oasis:names:tc:opendocument:xmlns:table:1.0\" ",
                    "xmlns:text=\"urn:oasis:names:tc:opendocument:xmlns:text:1.0\"><office:body><office:spreadsheet>",
                "<table:table table:name=\"", name, "\">", paste(body, collapse = ""),
                  "<table:table-row table:number-rows-repeated=\"1000000\"><table:table-cell/></table:table-row></table:table>",
                extra, "</office:spreadsheet></office:body></office:document-content>")
  folder <- withr::local_tempdir()
  writeLines(xml, file.path(folder, "content.xml"))
  zip::zip(file, "content.xml", root = folder)
  file
}

test_that("an ODS sheet opens with its stored values and retraces", {
  skip_if_not_installed("zip")
  file <- withr::local_tempfile(fileext = ".ods")
  write_ods(list(c("Harvest of the year", NA, NA), c("plot", "kg", "day"), c("a", "1.5", "2024-03-01"), c("b", "2.25", "2024-03-02"), c("a", NA,
    "2024-03-04"),
                 c("b", "4", "2024-03-05"), c("a", "7", "2024-03-06")), file)
  d <- as.data.frame(open_study(file))
  expect_equal(d$kg, c(1.5, 2.25, NA, 4, 7))
  expect_equal(d$day[1], as.Date("2024-03-01"))
  expect_retraces(ask(open_study(file), "mean kg by plot"))
})

test_that("a broken ODS is refused in one message", {
  file <- withr::local_tempfile(fileext = ".ods")
  writeLines("no zip", file)
  expect_error(open_study(file), class = "upbeatquill_error_file_unreadable")
})
