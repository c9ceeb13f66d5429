# How contented people are, with what, and who recommends.

answers_data <- function() {
  scale <- c("Very dissatisfied", "Dissatisfied", "Neutral", "Satisfied", "Very satisfied")
  draw <- function(mean) scale[pmin(5, pmax(1, round(stats::rnorm(180, mean, 1))))]
  with_seed(9, data.frame(id = 1:180, Region = sample(c("North", "South"), 180, TRUE), `How likely are you to recommend us?` = sample(0:10, 180, TRUE),
    `Overall satisfaction` = draw(3.6), `Satisfaction with price` = draw(2.6), `Satisfaction with delivery` = draw(4),
    `Channels used` = replicate(180, paste(sample(c("email", "phone", "chat", "shop"), sample(3, 1)), collapse = "; ")),
    Comment = sample(c("late again", "great support", "too dear", NA), 180, TRUE), check.names = FALSE))
}
answers <- answers_data()
study <- open_study(local_data(answers, "customers.csv", env = parent.frame()))
recommend <- answers[["How likely are you to recommend us?"]]

test_that("who is very satisfied is satisfied, and this is told", {
  a <- ask(study, "share of satisfied customers")
  expect_equal(value_of(a, "estimate"), mean(answers$`Overall satisfaction` %in% c("Satisfied", "Very satisfied")))
  expect_true(any(grepl("counts as satisfied as well", reading(a)$assumed)))
  expect_equal(value_of(ask(study, "share of very satisfied customers"), "estimate"), mean(answers$`Overall satisfaction` == "Very satisfied"))
})

test_that("two things, and the least of all, are the answers of the same people beside each other", {
  a <- ask(study, "how satisfied are customers with price compared with delivery")
  expect_setequal(unlist(reading(a)$outcome), c("Satisfaction with price", "Satisfaction with delivery"))
  expect_identical(method_of(a), "wilcoxon_signed_rank")
  b <- ask(study, "which aspect are customers least satisfied with")
  expect_identical(method_of(b), "item_answers")
  expect_match(as.list(b)$sentences$headline, "satisfaction with price least often")
})

test_that("users of one of several answers are compared, not cross-tabulated", {
  a <- ask(study, "are chat users more satisfied")
  expect_identical(as.list(a)$reading$task, "compare")
  chat <- grepl("chat", answers$`Channels used`)
  t <- table_of(a, "groups")
  expect_equal(t$n, as.vector(table(chat)))
})

test_that("promoters and detractors are bands of the answers, whatever the question is called", {
  expect_equal(value_of(ask(study, "share of promoters"), "estimate"), mean(recommend >= 9))
  expect_identical(filters_of(ask(study, "what do detractors say")), "recommender == detractor")
  expect_equal(value_of(ask(study, "how many detractors are there"), "n"), sum(recommend <= 6))
})

test_that("how many of several answers people give is the mean of their number", {
  base <- mean(lengths(strsplit(answers$`Channels used`, "; ")))
  for (q in c("how many channels does a customer use", "average number of channels used")) expect_equal(value_of(ask(study, q), "estimate"), base, info = q)
})
