# Clusters against base R's kmeans and against groups that are known.

blobs <- function() with_seed(2, rbind(matrix(rnorm(80, 0, 0.4), 40), matrix(rnorm(60, 4, 0.4), 30), cbind(rnorm(20, 0, 0.4), rnorm(20, 5, 0.4))))

test_that("groups that lie apart are found, numbered by size, and their number chosen", {
  fit <- internal("stat_clusters")(blobs())
  expect_equal(fit$k, 3)
  expect_equal(fit$cluster, rep(1:3, c(40, 30, 20)))
  expect_gt(fit$silhouette, 0.7)
})

test_that("no other beginning of base R's kmeans does better, and the same rows give the same answer", {
  x <- with_seed(6, matrix(rnorm(600), 150))
  fit <- internal("stat_clusters")(x, 4)
  second <- with_seed(1, kmeans(scale(x), 4, nstart = 50, algorithm = "Lloyd", iter.max = 200))
  expect_lt(fit$within, second$tot.withinss * 1.01)
  expect_identical(internal("stat_clusters")(x, 4)$cluster, fit$cluster)
})

test_that("silhouettes are those of their definition", {
  z <- with_seed(3, matrix(rnorm(30), 15)); g <- rep(1:3, 5); d <- as.matrix(dist(z))
  brute <- vapply(1:15, function(i) { a <- mean(d[i, setdiff(which(g == g[i]), i)]); b <- min(vapply(setdiff(1:3, g[i]), function(k) mean(d[i,
    g == k]), 1)); (b - a) / max(a, b) }, 1)
  expect_equal(internal("mean_silhouette")(z, g), mean(brute), tolerance = 1e-12)
})

test_that("clusters are asked for in plain words and retraced; too few rows are refused", {
  a <- ask(hive_study(), "divide the hives into 3 clusters by strength before, queen age and mites before")
  expect_equal(c(method_of(a), value_of(a, "clusters")), c("cluster_kmeans", "3"))
  expect_retraces(a)
  expect_retraces(ask(demo_study("keeper_survey.csv"), "k-means of the items"))
  expect_error(internal("stat_clusters")(cbind(1:4, 4:1), 5), class = "upbeatquill_error_too_few_rows")
})
