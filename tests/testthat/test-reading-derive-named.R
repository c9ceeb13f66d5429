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
