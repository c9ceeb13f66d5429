# Totals, medians and means of several columns under weights; and questions that leave the weights open.

weighted_rows <- function(n = 120) with_seed(4, data.frame(person = sprintf("R%03d", seq_len(n)), region = sample(c("north", "south"), n, TRUE),
  hours = round(rnorm(n, 20, 5), 1), income = round(exp(rnorm(n, 7, 0.4))), weight = round(runif(n, 0.5, 2), 3)))

test_that("a weighted median is the middle of the rows repeated as often as they weigh", {
  y <- c(3, 1, 7, 5, 5, 9); w <- c(2, 1, 3, 1, 2, 1)
  expect_equal(internal("stat_weighted_quantile")(y, w, 0.5), median(rep(y, w)))
  expect_equal(internal("stat_weighted_quantile")(1:4, c(1, 1, 1, 1), 0.5), 2.5)
  expect_equal(internal("stat_weighted_quantile")(c(1, 2, 50), c(1, 1, 0), 0.5), 1.5)
})

test_that("totals and medians by group are those of the weighted rows, and retrace", {
  d <- weighted_rows(); s <- open_study(d)
  a <- ask(s, "weighted total income by region")
  expect_equal(table_of(a, "groups")$total, as.vector(tapply(d$income * d$weight, d$region, sum)), tolerance = 1e-12)
  z <- with(d, ifelse(region == "north", weight * income, 0))
  expect_equal(table_of(a, "groups")$se[1], sqrt(length(z) * var(z)), tolerance = 1e-10)
  expect_match(paste(unlist(as.list(a)$sentences), collapse = " "), "population's total only if")
  expect_retraces(a)
  b <- ask(s, "weighted median of hours by region")
  north <- d[d$region == "north", ]; north <- north[order(north$hours), ]
  expect_equal(table_of(b, "groups")$median[1], north$hours[which(cumsum(north$weight) >= sum(north$weight) / 2)[1]])
  expect_true(all(with(table_of(b, "groups"), ci_low <= median & median <= ci_high)))
  expect_retraces(b)
  expect_retraces(ask(design(s, weights = "weight"), "median income"))
})

test_that("several columns are weighted each by itself", {
  d <- weighted_rows(); d$hours[3] <- NA
  a <- ask(open_study(d), "weighted mean of hours and income")
  t <- table_of(a, "groups")
  expect_equal(t$mean, c(weighted.mean(d$hours[-3], d$weight[-3]), weighted.mean(d$income, d$weight)), tolerance = 1e-12)
  expect_equal(t$n, c(119, 120))
  expect_retraces(a)
  expect_retraces(ask(open_study(d), "weighted mean of hours and income by region"))
})

test_that("weights that are not there are asked for, and the choices say what would weigh", {
  s <- open_study(weighted_rows()[names(weighted_rows()) != "weight"])
  a <- ask(s, "weighted mean of hours by region")
  expect_equal(status_of(a), "needs_choice")
  expect_match(paste(format(a), collapse = " "), "rows weighted by income")
  expect_equal(method_of(ask(a, "1")), "weighted_means")
  expect_equal(status_of(ask(s, "mean hours weighted by income by region")), "answered")
})

test_that("weights set aside in words stay aside", {
  d <- weighted_rows(); s <- design(open_study(d), weights = "weight")
  for (q in c("unweighted mean of hours", "mean of hours without the weights", "mean hours ignoring the weights")) {
    a <- ask(s, q)
    expect_equal(value_of(a, "estimate"), mean(d$hours), info = q)
    expect_match(paste(unlist(as.list(a)$cautions), collapse = " "), "as asked", info = q)
  }
  expect_equal(value_of(ask(s, "mean hours"), "estimate"), weighted.mean(d$hours, d$weight), tolerance = 1e-12)
})
