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

test_that("a number asks the question that an answer offers, or one of those this data can answer", {
  d <- catch_data()
  s <- open_study(d)
  a <- ask(s, "describe length by species")
  offered <- as.list(a)[["next"]]
  b <- ask(a, "1")
  expect_equal(as.list(b)$question, offered[[1]])
  expect_equal(status_of(b), "answered")
  help <- ask(s, "what can I ask?")
  expect_equal(status_of(ask(help, "2")), "answered")
  expect_match(paste(format(a), collapse = "\n"), "1 Does", fixed = TRUE)
  # where readings are to be chosen the number is theirs
  choice <- ask(open_study(trust_data()), "mean trust")
  expect_equal(status_of(choice), "needs_choice")
  expect_match(paste(unlist(reading(ask(choice, "2"))$assumed), collapse = " "), "You chose this reading")
})

test_that("rows are listed by plain words, and a level that is called as its column is a level beside another", {
  d <- data.frame(wine = sprintf("W%02d", 1:40), organic = rep(c("organic", "conventional"), 20), price = with_seed(5, round(rlnorm(40, 2.7, 0.4),
      2)))
  s <- open_study(d)
  expect_equal(method_of(ask(s, "show me the first five rows")), "row_listing")
  expect_equal(value_of(ask(s, "which wines cost more than 20?"), "n") %||% NA, sum(d$price > 20))
  a <- ask(s, "are organic wines cheaper on average than conventional ones?")
  expect_equal(value_of(a, "p_value"), t.test(price ~ organic, d)$p.value, tolerance = 1e-9)
})

test_that("what does not vary is named, and a number of one value is still described", {
  d <- data.frame(g = rep(c("a", "b"), 20), x = 5, y = sin(1:40), e = NA_real_, k = "one", steps = rep(3:4, 20))
  s <- open_study(local_data(d))
  headline <- function(q) as.list(ask(s, q))$sentences$headline
  expect_equal(value_of(ask(s, "mean of x"), "estimate"), 5)
  for (q in c("does x differ by g", "correlation of x and y", "regress y on x")) expect_match(headline(q), "\"x\" is 5 in all rows used", info = q)
  expect_match(headline("mean of e"), "\"e\" holds no value")
  expect_match(headline("compare y by k"), "only one group")
  expect_match(headline("compare steps by g"), "same in all rows of a group (a: 3 and b: 4)", fixed = TRUE)
  expect_equal(reading(ask(s, "mean y by k"))$by, "k")
})
