test_that("records, one record a line, and nested records open", {
  records <- withr::local_tempfile(fileext = ".json")
  writeLines(jsonlite::toJSON(data.frame(g = c("a", "b", "a"), y = c(1.5, 2, 4))), records)
  expect_equal(as.data.frame(open_study(records))$y, c(1.5, 2, 4))
  expect_retraces(ask(open_study(records), "mean y"))
  lines <- withr::local_tempfile(fileext = ".ndjson")
  writeLines(c("{\"g\":\"a\",\"y\":1}", "{\"g\":\"b\",\"y\":2.5,\"z\":{\"w\":3}}", "{\"g\":\"b\",\"y\":4}"), lines)
  d <- as.data.frame(open_study(lines))
  expect_equal(d$y, c(1, 2.5, 4))
  expect_true("z.w" %in% names(d))
  expect_retraces(ask(open_study(lines), "mean y by g"))
})

test_that("Dataset-JSON brings labels and types", {
  f <- withr::local_tempfile(fileext = ".json")
  writeLines(jsonlite::toJSON(list(datasetJSONVersion = "1.1.0", columns = data.frame(name = c("USUBJID", "AGE"), label = c("Subject",
    "Age in years"), dataType = c("string", "integer")),
                                   rows = list(list("S1", 34), list("S2", 51), list("S3", 47))), auto_unbox = TRUE), f)
  study <- open_study(f)
  expect_equal(as.data.frame(study)$AGE, c(34, 51, 47))
  expect_equal(codebook(study)$label, c("Subject", "Age in years"))
  expect_retraces(ask(study, "mean age"))
})

test_that("a data package opens its tables with their schema, and follows no path that leads out of its folder", {
  folder <- withr::local_tempdir()
  writeLines(c("size,kg", "L,3", "S,1", "M,2"), file.path(folder, "fruit.csv"))
  field <- list(name = "size", type = "string", title = "Size class", constraints = list(enum = list("S", "M", "L")), categoriesOrdered = TRUE)
  package <- function(path) jsonlite::toJSON(list(name = "p", resources = list(list(name = "fruit", path = path, schema = list(fields = list(field,
    list(name = "kg", type = "number")))))), auto_unbox = TRUE)
  writeLines(package("fruit.csv"), file.path(folder, "datapackage.json"))
  b <- codebook(open_study(folder))
  expect_equal(b$levels[b$column == "size"], "S|M|L")
  expect_equal(b$label[b$column == "size"], "Size class")
  writeLines(package("../../etc/passwd"), file.path(folder, "datapackage.json"))
  expect_error(open_study(folder), class = "upbeatquill_error_unsafe_archive")
})

test_that("broken JSON is refused in one message", {
  f <- withr::local_tempfile(fileext = ".json")
  writeLines("{\"a\": [1, 2", f)
  expect_error(open_study(f), class = "upbeatquill_error_input")
})

test_that("values kept column by column are a table too", {
  x <- 1:9 * 1.5; g <- rep(c("a", "b", "c"), 3)
  keyed <- function(v) stats::setNames(as.list(v), seq_along(v) - 1)
  forms <- list(list(x = x, g = g), list(x = keyed(x), g = keyed(g)), list(columns = c("x", "g"), index = 0:8, data = lapply(1:9,
      function(i) list(x[i], g[i]))))
  for (form in forms) {
    f <- withr::local_tempfile(fileext = ".json")
    writeLines(jsonlite::toJSON(form, auto_unbox = TRUE), f)
    a <- ask(open_study(f), "mean of x by g")
    expect_equal(table_of(a, "groups")$mean, as.vector(tapply(x, g, mean)))
    expect_retraces(a)
  }
})

test_that("a line that is no record is named", {
  f <- file.path(withr::local_tempdir(), "events.ndjson")
  writeLines(c("{\"id\":1,\"v\":2}", "{\"id\":2,\"v\":3}", "{bad", "{\"id\":3,\"v\":5}"), f)
  expect_error(open_study(f), "Line 3", class = "upbeatquill_error_file_unreadable")
})

test_that("NaN and Infinity, which some programs write, are missing values, and the same words in a text are words", {
  file <- withr::local_tempfile(fileext = ".json")
  writeLines(c('[{"x": NaN, "note": "a NaN here", "y": 1},', '{"x": 2.5, "note": "-Infinity \\" NaN", "y": 2},',
               '{"x": -Infinity, "note": "c", "y": 4}]'), file)
  s <- open_study(file)
  d <- as.data.frame(s)
  expect_equal(d$x, c(NA, 2.5, NA))
  expect_equal(as.character(d$note), c("a NaN here", "-Infinity \" NaN", "c"))
  a <- ask(s, "mean of y")
  expect_equal(value_of(a, "estimate"), 7 / 3)
  expect_retraces(a)
})
