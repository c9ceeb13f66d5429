# Models compared on rows held back.

test_that("the errors are those of predictions by lm on the same folds", {
  d <- with_seed(51, data.frame(x = rnorm(80), z = rnorm(80))); d$y <- with_seed(52, d$x + rnorm(80))
  out <- internal("stat_model_comparison")(d[c("x", "z")], d$y, FALSE)
  held <- numeric(80); middle <- numeric(80)
  for (k in 1:10) { i <- out$fold != k
    held[!i] <- predict(lm(y ~ x + z, d[i, ]), d[!i, ]); middle[!i] <- mean(d$y[i]) }
  expect_equal(out$error[["linear"]], mean((d$y - held)^2), tolerance = 1e-10)
  expect_equal(out$error[["mean"]], mean((d$y - middle)^2), tolerance = 1e-12)
  expect_equal(sort(unique(out$fold)), 1:10)
})

test_that("a straight line is preferred where curves gain nothing, curves where they do", {
  d <- with_seed(53, data.frame(x = runif(200, -3, 3)))
  straight <- with_seed(54, d$x + rnorm(200)); bent <- with_seed(55, 3 * sin(2 * d$x) + rnorm(200))
  expect_equal(names(internal("stat_model_comparison")(d, straight, FALSE)$error)[internal("stat_model_comparison")(d, straight, FALSE)$chosen],
      "linear")
  out <- internal("stat_model_comparison")(d, bent, FALSE)
  expect_true(names(out$error)[out$chosen] %in% c("curves", "tree"))
})

test_that("ridge at a vanishing penalty is least squares", {
  d <- with_seed(56, data.frame(a = rnorm(60), b = rnorm(60), c = rnorm(60))); y <- with_seed(57, 5 * d$a - 4 * d$b + 3 * d$c + rnorm(60, 0, 0.01))
  train <- 1:50; test <- 51:60
  second <- predict(lm(y[train] ~ ., d[train, ]), d[test, ])
  expect_equal(internal("held_ridge")(d, y, train, test), unname(second), tolerance = 1e-2)
})

test_that("nothing predicts noise, and the answer says so", {
  d <- with_seed(58, data.frame(y = rnorm(120), a = rnorm(120), b = sample(letters[1:3], 120, TRUE)))
  a <- ask(open_study(d), "which model predicts y best?")
  expect_equal(method_of(a), "model_comparison")
  expect_match(as.list(a)$sentences$headline, "Nothing here predicts y")
  expect_equal(checks(a)$verdict[checks(a)$id == "any_gain"], "caution")
  expect_retraces(a)
})

test_that("numbers, chances and levels are all compared, and retrace", {
  s <- hive_study()
  for (q in c("which model predicts honey yield best?", "is a straight line good enough for honey yield from strength before?",
              "which model predicts winter survival best?")) {
    a <- ask(s, q)
    expect_equal(method_of(a), "model_comparison", info = q)
    expect_retraces(a)
  }
})

test_that("too few rows are refused", {
  expect_error(internal("stat_model_comparison")(list(x = rnorm(20)), rnorm(20), FALSE), class = "upbeatquill_error_too_few_rows")
})
