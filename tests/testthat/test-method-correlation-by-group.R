# Subjects with three rows each: their own level must not make a relation.
trials <- with_seed(12, {
  d <- expand.grid(subject = sprintf("S%02d", 1:20), drink = c("water", "tea", "milk"))
  level <- rnorm(20, 0, 30)[as.integer(factor(d$subject))]
  d$pulse <- 150 - level / 3 + rnorm(60, 0, 6)
  d$seconds <- 240 + level + 1.2 * (d$pulse - 150) + rnorm(60, 0, 10)
  d
})

test_that("a relation within subjects is told with their own means taken off", {
  a <- ask(open_study(trials), "is there a correlation between pulse and seconds within subjects?")
  fit <- summary(lm(seconds ~ factor(subject) + pulse, trials))$coefficients["pulse", ]
  df <- 60 - 20 - 1
  expect_equal(value_of(a, "statistic"), fit[["t value"]], tolerance = 1e-9)
  expect_equal(value_of(a, "estimate"), fit[["t value"]] / sqrt(fit[["t value"]]^2 + df), tolerance = 1e-9)
  expect_equal(c(value_of(a, "df"), value_of(a, "groups"), value_of(a, "n")), c(df, 20, 60))
  # between subjects it runs the other way, which must not show
  expect_gt(value_of(a, "estimate"), 0)
  expect_retraces(a)
  expect_match(figure(a)$labels$x, "less own mean", fixed = TRUE)
})

test_that("groups of enough rows have a correlation each", {
  d <- data.frame(g = rep(c("a", "b"), each = 15), x = with_seed(3, rnorm(30)))
  d$y <- d$x * rep(c(1, -1), each = 15) + with_seed(4, rnorm(30))
  a <- ask(open_study(d), "correlation between x and y for each g")
  t <- table_of(a, "correlations")
  expect_equal(t$estimate, c(cor(d$x[1:15], d$y[1:15]), cor(d$x[16:30], d$y[16:30])), tolerance = 1e-10)
  expect_retraces(a)
})
