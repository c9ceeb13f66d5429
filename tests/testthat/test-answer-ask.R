test_that("what is no question or no study is refused by class", {
  expect_error(ask(hive_study(), c("a", "b")), class = "upbeatquill_error_input")
  expect_error(ask(hive_study(), NA_character_), class = "upbeatquill_error_input")
  expect_error(ask(mtcars, "mean mpg"), class = "upbeatquill_error_input")
  expect_error(ask(hive_study(), "mean honey yield", conf_level = 95), class = "upbeatquill_error_input")
})

test_that("the confidence level is that of the argument or of the question", {
  expect_equal(value_of(ask(hive_study(), "mean honey yield", conf_level = 0.9), "conf_level"), 0.9)
  expect_equal(value_of(ask(hive_study(), "mean honey yield with a 99 % confidence interval"), "conf_level"), 0.99)
})

test_that("columns of hostile names and values are data: asked, scripted, retraced, drawn", {
  names <- c("if", "a \"b\"; stop('x')", "x\\y", "`tick`", "{cli}", "%s")
  d <- as.data.frame(lapply(seq_along(names), function(i) with_seed(100 + i, round(rnorm(24), 3))))
  names(d) <- names
  d$group <- rep(c("<script>alert(1)</script>", "\"; system('true') #"), 12)
  study <- open_study(local_data(d))
  for (name in names) {
    a <- internal("answer_reading")(study, "test", internal("new_verdict")("answered",
      internal("finish_reading")(internal("new_reading")("compare", name, "group"))), list())
    expect_equal(status_of(a), "answered", info = name)
    expect_silent(parse(text = script(a)))
    expect_retraces(a)
  }
  page <- withr::local_tempfile(fileext = ".html")
  report(a, page)
  expect_false(any(grepl("<script>alert", readLines(page), fixed = TRUE)))
})

test_that("rows lost to missing values are always counted", {
  d <- as.list(ask(hive_study(), "Is queen age correlated with mites after?"))
  expect_equal(d$rows$left_out_missing, 3L)
  expect_equal(d$rows$used, 177L)
})
