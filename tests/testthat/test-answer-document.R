test_that("the document has its public keys, and JSON carries every digit", {
  a <- ask(hive_study(), "Does the honey yield differ between syrup and control?")
  d <- as.list(a)
  expect_true(all(c("format", "version", "status", "question", "reading", "method", "rows", "numbers", "tables", "checks", "second_opinions",
                    "sentences", "cautions", "figures", "next", "script", "seed", "engine") %in% names(d)))
  expect_true(all(c("task", "outcome", "by", "predictors", "adjust_for", "unit", "filters", "statistic", "time", "top", "method_asked", "tables",
                    "assumed", "plain", "confidence", "alternatives") %in% names(d$reading)))
  back <- jsonlite::fromJSON(internal("to_json")(d), simplifyVector = FALSE)
  ids <- vapply(back$numbers, `[[`, "", "id")
  expect_identical(back$numbers[[match("p_value", ids)]]$value, value_of(a, "p_value"))
})

test_that("missing values are null and infinities are words", {
  expect_null(internal("plain_value")(NA_real_))
  expect_null(internal("plain_value")(NaN))
  expect_identical(internal("plain_value")(Inf), "Inf")
  expect_identical(internal("plain_value")(-Inf), "-Inf")
  text <- internal("to_json")(as.list(ask(open_study(data.frame(a = rep(c("x", "y"), each = 4), b = rep(c("p", "q"), each = 4))),
    "is a related to b")))
  expect_no_match(text, "\"NaN\"|\"NA\"|: *NaN")
})

test_that("an answer that was not given computes nothing", {
  d <- as.list(ask(hive_study(), "mean wing length"))
  expect_equal(d$status, "cannot_answer")
  expect_length(d$numbers, 0)
  expect_null(d$script)
})
