# Items of a scale and options of one question, each counted by itself.

options_data <- function() with_seed(8, data.frame(id = 1:60, area = rep(c("town", "village"), 30), transport_bike = sample(c("yes", "no"), 60, TRUE),
  transport_car = sample(c("yes", "no"), 60, TRUE, c(0.7, 0.3)), transport_bus = sample(c("yes", "no", NA), 60, TRUE), km = round(runif(60, 1, 30),
      1)))

test_that("each item is counted on the rows that answered it, with Wilson's interval for the upper side", {
  s <- demo_study("keeper_survey.csv"); d <- as.data.frame(s)
  for (q in c("how were the items answered?", "frequencies of the ratings", "agreement with each item", "which statement has the most agreement?")) {
    expect_equal(method_of(ask(s, q)), "item_answers", info = q)
  }
  a <- ask(s, "how were the items answered?")
  t <- table_of(a, "answers")
  for (item in t$item) {
    x <- as.integer(as.character(d[[item]])); x <- x[!is.na(x)]; row <- t[t$item == item, ]
    expect_equal(row$n, length(x), info = item)
    expect_equal(row$upper, 100 * mean(x >= 4), tolerance = 1e-12)
    expect_equal(row$lower, 100 * mean(x <= 2), tolerance = 1e-12)
    expect_equal(c(row$ci_low, row$ci_high), as.vector(100 * prop.test(sum(x >= 4), length(x), correct = FALSE)$conf.int), tolerance = 1e-8)
  }
  expect_false(is.unsorted(rev(t$upper)))
  expect_retraces(a)
  expect_retraces(ask(s, "how were the items answered by region?"))
  expect_retraces(ask(s, "distribution of advice_helpful, training_clear and website_easy"))
})

test_that("how well items hang together and what they average to stay other questions", {
  s <- demo_study("keeper_survey.csv")
  expect_equal(method_of(ask(s, "do the items form a reliable scale?")), "cronbach_alpha")
  expect_equal(method_of(ask(s, "do the items hang together?")), "cronbach_alpha")
  expect_equal(method_of(ask(s, "correlations between the items")), "correlation_matrix")
  d <- as.data.frame(s)
  means <- table_of(ask(s, "mean of each item"), "describe")
  expect_equal(means$mean[means$column == "website_easy"], mean(as.integer(as.character(d$website_easy)), na.rm = TRUE), tolerance = 1e-12)
  expect_false(identical(method_of(ask(s, "is advice helpful related to training clear?")), "item_answers"))
})

test_that("options of one question are shares of yes, the word they share stands for all of them", {
  d <- options_data(); s <- open_study(d)
  a <- ask(s, "which options were ticked most?")
  expect_equal(method_of(a), "item_answers")
  t <- table_of(a, "answers")
  expect_equal(t$upper[t$item == "transport_bus"], 100 * mean(d$transport_bus == "yes", na.rm = TRUE), tolerance = 1e-12)
  expect_equal(t$n[t$item == "transport_bus"], sum(!is.na(d$transport_bus)))
  expect_setequal(unlist(reading(ask(s, "share using each transport by area"))$outcome), c("transport_bike", "transport_car", "transport_bus"))
  expect_retraces(a)
  expect_retraces(ask(s, "share using each transport by area"))
})

test_that("bars of a scale meet in its middle", {
  counts <- matrix(c(1L, 2L, 3L, 4L), 1, dimnames = list("all", 1:4))
  d <- internal("side_lengths")(counts, "x")
  expect_equal(d$to[2], 0)
  odd <- internal("side_lengths")(matrix(c(1L, 2L, 3L), 1, dimnames = list("all", 1:3)), "x")
  expect_equal(c(odd$from[2], odd$to[2]), c(-1, 1) * 100 * (2 / 6) / 2)
  expect_s3_class(figure(ask(demo_study("keeper_survey.csv"), "how were the items answered by region?")), "ggplot")
})
