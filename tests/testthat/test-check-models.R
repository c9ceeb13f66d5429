verdict_of <- function(check) check$verdict

test_that("a predictor computed from the outcome is called out, a good predictor is not", {
  x <- with_seed(211, rnorm(80)); y <- with_seed(212, 2 * x + rnorm(80))
  near <- internal("check_near_outcome")
  expect_null(near(list(x = x), y))
  expect_equal(near(list(x = x, twice = 2 * y + 1), y)$facts$column, "twice")
  expect_null(near(list(g = factor(seq_along(y))), y))
  hit <- as.numeric(y > 0)
  expect_null(near(list(x = x), hit, TRUE))
  expect_equal(near(list(x = x, y = -y), hit, TRUE)$facts$column, "y")
})

test_that("zeros beyond those of the model are called out, whatever the number of rows", {
  zeros <- internal("check_zeros")
  mu <- rep(2, 500)
  plain <- with_seed(213, rpois(500, 2))
  expect_equal(verdict_of(zeros(plain, mu)), "ok")
  inflated <- plain * with_seed(214, rbinom(500, 1, 0.6))
  expect_equal(verdict_of(zeros(inflated, rep(mean(inflated), 500))), "caution")
  expect_null(zeros(plain + 1, mu))
})

test_that("misfit of chances along a bend is seen", {
  x <- with_seed(215, rnorm(600)); bent <- with_seed(216, rbinom(600, 1, plogis(x^2 - 1))); straight <- with_seed(217, rbinom(600, 1, plogis(x)))
  chances <- function(y) unname(stats::fitted(glm(y ~ x, family = binomial)))
  expect_equal(verdict_of(internal("check_calibrated")(chances(bent), bent)), "caution")
  expect_equal(verdict_of(internal("check_calibrated")(chances(straight), straight)), "ok")
  expect_null(internal("check_calibrated")(chances(straight)[1:50], straight[1:50]))
})

test_that("residuals are put in the order of the dates before neighbours are compared", {
  e <- with_seed(218, as.numeric(arima.sim(list(ar = 0.8), 120)))
  days <- as.Date("2025-01-01") + seq_along(e)
  mixed <- with_seed(219, sample(length(e)))
  check <- internal("check_residual_order")(e[mixed], days[mixed])
  expect_equal(check$facts$r, acf(e, plot = FALSE)$acf[2], tolerance = 1e-10)
  expect_equal(verdict_of(check), "caution")
  expect_null(internal("check_residual_order")(e, NULL))
})

test_that("the checks stand beside the models that they are about", {
  d <- with_seed(220, data.frame(day = as.Date("2024-01-01") + 0:149, load = rnorm(150, 50, 8)))
  d$cost <- with_seed(221, round(3 + 2 * d$load + as.numeric(arima.sim(list(ar = 0.7), 150)) * 5, 2))
  d$bill <- round(d$cost * 1.2, 2)
  d$visits <- with_seed(222, rpois(150, 3) * rbinom(150, 1, 0.5))
  s <- open_study(d)
  of <- function(q) { k <- checks(ask(s, q)); stats::setNames(k$verdict, k$id) }
  expect_equal(of("regression of cost on load")[["residual_order"]], "caution")
  expect_equal(of("model of cost on bill and load")[["near_outcome"]], "caution")
  expect_equal(of("poisson regression of visits on load")[["zeros"]], "caution")
  expect_false("zeros" %in% names(of("poisson regression of visits on load, only where visits is above 0")))
})
