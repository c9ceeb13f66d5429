survey <- demo_study("keeper_survey.csv")
rows <- read.csv(demo_file("keeper_survey.csv"), na.strings = c("", "NA"))
told <- c(rows$liked_most, rows$to_improve)
told <- told[!is.na(told)]

test_that("answers that mention a word are counted and quoted", {
  a <- ask(survey, "quotes about feed")
  hit <- grepl("\\bfeed", told, ignore.case = TRUE)
  expect_equal(c(value_of(a, "count"), value_of(a, "n"), value_of(a, "estimate")), c(sum(hit), length(told), mean(hit)))
  q <- table_of(a, "quotes")
  expect_true(all(grepl("feed", q$quote, ignore.case = TRUE)))
  expect_equal(q$quote[1], rows[[q$column[1]]][q$row[1]])
  expect_retraces(a)
  # what is asked about is a word of the answers, not a column called like it
  expect_false(any(grepl("feed_affordable", reading(a)$assumed)))
})

test_that("they are counted by group, forms of a word together, and none is told as none", {
  a <- ask(survey, "quotes about swarm alerts by region")
  t <- table_of(a, "counts")
  liked <- rows[!is.na(rows$liked_most), ]
  hit <- grepl("swarm", liked$liked_most, ignore.case = TRUE) & grepl("alert", liked$liked_most, ignore.case = TRUE)
  expect_equal(t$count[t$column == "liked_most"], as.vector(tapply(hit, liked$region, sum)))
  expect_retraces(a)
  expect_match(as.list(ask(survey, "comments about unicorns"))$sentences$headline, "No answer")
  expect_equal(value_of(ask(survey, "how many people mention training?"), "count"), sum(grepl("\\btrain", told, ignore.case = TRUE)))
})

test_that("open questions are read as questions for their themes, by group where that is asked", {
  expect_equal(c(reading(ask(survey, "what do people want improved?"))$task, reading(ask(survey, "what did keepers like most?"))$outcome),
               c("themes", "liked_most"))
  a <- ask(survey, "themes of what people like by region")
  t <- table_of(a, "themes_by_group"); all <- table_of(a, "themes")
  expect_equal(as.vector(tapply(t$n, factor(t$theme, all$theme), sum)), all$n)
  expect_equal(t$percent, 100 * t$n / t$answers)
  expect_retraces(a)
})

test_that("boxes of a scale are shares of its highest or lowest answers", {
  a <- ask(survey, "top two box of advice helpful by region")
  used <- rows[rows$advice_helpful %in% 1:5, ]
  share <- tapply(used$advice_helpful >= 4, used$region, mean)
  expect_equal(reading(a)$by, "region")
  text <- paste(format(a), collapse = " ")
  for (s in share) expect_match(text, sprintf("%.1f", 100 * s), fixed = TRUE)
})

test_that("items are taken together where a named method wants them", {
  expect_length(reading(ask(survey, "friedman test of the items"))$outcome, 6)
  expect_equal(method_of(ask(survey, "alpha if item deleted")), "item_analysis")
  expect_equal(method_of(ask(survey, "item-rest correlations of the survey items")), "item_analysis")
})
