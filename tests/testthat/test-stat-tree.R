# Trees against a second implementation of the same book.

tree_data <- function(n = 300) with_seed(3, {
  d <- data.frame(a = rnorm(n), b = round(runif(n, 0, 5)), c = factor(sample(letters[1:5], n, TRUE)), z = rnorm(n))
  d$y <- with(d, ifelse(a > 0.3, 3, 0) + ifelse(c %in% c("b", "d"), 2, 0) * (b > 2) + rnorm(n))
  d
})

test_that("splits, the pruning path and its cross-validated errors are those of rpart", {
  skip_if_not_installed("rpart")
  d <- tree_data()
  fit <- internal("stat_tree")(d[c("a", "b", "c", "z")], d$y)
  second <- rpart::rpart(y ~ a + b + c + z, d, method = "anova", control = rpart::rpart.control(minsplit = 10, minbucket = 5, cp = 0, maxdepth = 5,
    maxcompete = 0, maxsurrogate = 0, xval = fit$fold))
  table <- second$cptable
  ours <- fit$path[match(table[, "nsplit"] + 1, fit$path$leaves), ]
  expect_equal(ours$penalty, unname(table[, "CP"]), tolerance = 1e-8)
  expect_equal(ours$error, unname(table[, "xerror"]), tolerance = 1e-8)
  expect_equal(ours$error_se, unname(table[, "xstd"]), tolerance = 1e-6)
  expect_equal(sort(fit$tree$rows), sort(as.numeric(second$frame$n)))
})

test_that("two classes are split like rpart's Gini", {
  skip_if_not_installed("rpart")
  d <- tree_data(); d$k <- factor(ifelse(d$y > 1, "high", "low"))
  fit <- internal("stat_tree")(d[c("a", "b", "c", "z")], d$k)
  second <- rpart::rpart(k ~ a + b + c + z, d, method = "class", control = rpart::rpart.control(minsplit = 10, minbucket = 5, cp = -1, maxdepth = 5,
    maxcompete = 0, maxsurrogate = 0, xval = 0))
  expect_equal(sort(fit$tree$rows), sort(as.numeric(second$frame$n)))
})

test_that("the best first cut is the best of all cuts, by brute force", {
  d <- tree_data(60)
  fit <- internal("stat_tree")(d["a"], d$y)
  v <- sort(d$a); cuts <- (v[-1] + v[-60]) / 2
  rss <- vapply(cuts, function(k) { l <- d$y[d$a < k]; r <- d$y[d$a >= k]
    if (min(length(l), length(r)) < 5) Inf else sum((l - mean(l))^2) + sum((r - mean(r))^2) }, 1)
  expect_equal(fit$tree$cut[1], cuts[which.min(rss)])
})

test_that("the tree is the same for one thread and two, for shuffled rows, and after a monotone change of a predictor", {
  d <- tree_data(4000)
  grow <- function(data, threads) {
    x <- internal("tree_predictors")(data[c("a", "b", "c", "z")])
    internal("kernel_grow_tree")(x$values, x$levels, cbind(data$y - mean(d$y)), 40, 80, 5L, threads)
  }
  one <- grow(d, 1L)
  expect_identical(grow(d, 2L), one)
  mixed <- grow(d[with_seed(1, sample(4000)), ], 2L)
  expect_equal(mixed$rows, one$rows)
  bent <- d; bent$a <- exp(bent$a)
  expect_equal(grow(bent, 2L)$rows, one$rows)
})

test_that("noise keeps no rule and says so; trees and forests are asked for in plain words", {
  noise <- with_seed(8, data.frame(y = rnorm(120), u = rnorm(120), v = sample(c("p", "q"), 120, TRUE)))
  a <- ask(open_study(noise), "regression tree of y on u and v")
  expect_equal(value_of(a, "leaves"), 1)
  expect_match(as.list(a)$sentences$headline, "No set of plain rules")
  expect_retraces(a)
  b <- ask(hive_study(), "Which kinds of hives have the highest honey yield?")
  expect_equal(method_of(b), "regression_tree")
  expect_retraces(b)
  expect_equal(sum(table_of(b, "rules")$n), value_of(b, "n"))
  few <- open_study(data.frame(y = c(1, 5, 2), x = c(3, 4, 1)))
  expect_equal(status_of(ask(few, "regression tree of y on x")), "cannot_answer")
})

test_that("a forest is the same every time and for any number of threads", {
  skip_if_not_installed("ranger")
  a <- ask(hive_study(), "random forest for honey yield")
  expect_equal(method_of(a), "random_forest")
  expect_gt(value_of(a, "r_squared"), 0)
  expect_retraces(a)
})
