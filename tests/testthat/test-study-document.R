test_that("the study document has its public keys and survives JSON", {
  document <- as.list(hive_study())
  expect_equal(document$format, "upbeatquill/study")
  expect_true(all(c("sources", "tables", "findings", "joins", "amendments", "design") %in% names(document)))
  column <- document$tables[[1]]$columns[[1]]
  expect_true(all(c("name", "kind", "label", "unit", "missing", "distinct", "levels", "reason") %in% names(column)))
  back <- jsonlite::fromJSON(internal("to_json")(document), simplifyVector = FALSE)
  expect_equal(back$tables[[1]]$rows, 180)
})

test_that("rows come back as understood", {
  d <- as.data.frame(hive_study())
  expect_s3_class(d$inspected_on, "Date")
  expect_type(d$survived_winter, "logical")
  expect_type(d$hive_id, "character")
  expect_equal(sum(is.na(d$mites_after)), 3)
  expect_error(as.data.frame(hive_study(), table = "nothing"), class = "upbeatquill_error_input")
})
