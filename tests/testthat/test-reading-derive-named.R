states <- function() cbind(state = state.name, region = state.region, as.data.frame(state.x77, row.names = NULL))

test_that("the values of rows with names are listed, the highest first, derived ones too", {
  d <- states()
  s <- open_study(local_data(d, "states.csv"))
  a <- ask(s, "income of each state")
  expect_identical(method_of(a), "rank_table")
  t <- table_of(a, "ranking")
  expect_equal(t[[ncol(t)]], sort(d$Income, decreasing = TRUE))
  b <- ask(s, "population density of each state")
  expect_match(as.list(b)$sentences$headline, "New Jersey", fixed = TRUE)
  expect_equal(nrow(table_of(b, "ranking")), 50)
  for (x in list(a, b)) expect_retraces(x)
  # a statistic that is asked for stays one
  expect_identical(method_of(ask(s, "average income by region")), "group_summary")
  expect_equal(value_of(ask(s, "average income by state"), "estimate"), mean(d$Income))
})

test_that("people are those that a column counts, not the rows", {
  d <- states()
  s <- open_study(local_data(d, "states.csv"))
  a <- ask(s, "how many people live in the South")
  expect_equal(value_of(a, "estimate"), sum(d$Population[d$region == "South"]))
  expect_match(as.list(a)$reading$plain, "total of Population", fixed = TRUE)
  expect_equal(value_of(ask(s, "how many states are in the South"), "estimate"), sum(d$region == "South"))
})

test_that("a row with a name is set among the outliers of all rows", {
  d <- LifeCycleSavings
  d <- cbind(country = rownames(d), d)
  a <- ask(open_study(local_data(d)), "is Libya an outlier in ddpi?")
  expect_identical(method_of(a), "quality_scan")
  expect_length(as.list(a)$reading$filters, 0)
  expect_true(any(grepl("Libya .*ddpi 16.7", unlist(as.list(a)$reading$assumed))))
  expect_match(as.list(a)$sentences$headline, "16.71", fixed = TRUE)
})

test_that("the key after paired by tells which rows belong together", {
  s <- open_study(local_data(sleep))
  for (q in c("compare extra between groups, paired by ID", "does extra differ by group, matched on ID?", "paired comparison of extra between groups")) {
    a <- ask(s, q)
    expect_identical(method_of(a), "t_paired")
    own <- with(sleep, t.test(extra[group == 1], extra[group == 2], paired = TRUE))
    expect_equal(abs(value_of(a, "statistic")), abs(unname(own$statistic)))
    expect_equal(value_of(a, "p_value"), own$p.value)
  }
  expect_retraces(a)
})

test_that("the measures that differ between the two sides of a column are those that go with it", {
  d <- subset(iris, Species != "virginica")
  d$Species <- as.character(d$Species)
  a <- ask(open_study(local_data(d)), "which measurements differ between setosa and versicolor?")
  expect_identical(method_of(a), "association_ranking")
  expect_identical(unlist(reading(a)$outcome), "Species")
  # of three sides two are no whole column
  b <- ask(open_study(local_data(iris)), "which measurements differ between setosa and versicolor?")
  expect_false(identical(status_of(b), "answered") && identical(unlist(reading(b)$outcome), "Species"))
})

test_that("one measure relative to another is their ratio in each row, and log-log models take both logarithms", {
  d <- with_seed(14, data.frame(species = sprintf("species %s", LETTERS[1:24]), body = round(exp(rnorm(24, 3, 2)), 2)))
  d$brain <- with_seed(15, round(exp(0.75 * log(d$body) + rnorm(24, 1, 0.5)), 2))
  s <- open_study(local_data(d))
  a <- ask(s, "which species has the largest brain relative to its body")
  expect_match(as.list(a)$sentences$headline, d$species[which.max(d$brain / d$body)], fixed = TRUE)
  b <- ask(s, "log-log regression of brain on body")
  expect_equal(value_of(b, "estimate"), unname(coef(lm(log(brain) ~ log(body), d))[2]))
  expect_retraces(b)
})

test_that("who pairs rows by a column says that it tells the units", {
  d <- with_seed(16, data.frame(day = rep(1:30, 2), limit = rep(c("no", "yes"), each = 30), y = rpois(60, 20)))
  a <- ask(open_study(local_data(d)), "compare y between days with and without a limit, paired by day")
  own <- t.test(d$y[1:30], d$y[31:60], paired = TRUE)
  expect_identical(method_of(a), "t_paired")
  expect_equal(value_of(a, "p_value"), own$p.value)
  expect_retraces(a)
})
