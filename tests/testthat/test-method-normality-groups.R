# The shape of a column within groups.

test_that("each group has a test of its own, and the deviations from the group means one together", {
  d <- catch_data()
  a <- ask(open_study(d), "is length normally distributed within species?")
  expect_equal(method_of(a), "shapiro_within_groups")
  own <- lapply(split(d$length_cm, d$species), shapiro.test)
  t <- table_of(a, "groups")
  expect_equal(t$statistic, unname(vapply(own, function(s) s$statistic[[1]], 1)), tolerance = 1e-6)
  expect_equal(t$p_adjusted, p.adjust(vapply(own, `[[`, 1, "p.value"), "holm"), tolerance = 1e-4, ignore_attr = TRUE)
  expect_equal(value_of(a, "statistic"), shapiro.test(d$length_cm - ave(d$length_cm, d$species))$statistic[[1]], tolerance = 1e-6)
  expect_retraces(a, 1e-5)
})

test_that("a clear departure is named with its group, and groups without spread are told", {
  d <- data.frame(y = c(with_seed(3, rexp(60)^2), rep(5, 4), with_seed(4, rnorm(60))), g = rep(c("north", "south", "west"), c(60, 4, 60)))
  a <- ask(open_study(d), "is y normally distributed in each g?")
  said <- paste(unlist(as.list(a)$sentences), collapse = " ")
  expect_match(said, "not normally distributed in 1 of the 2 groups of g (north)", fixed = TRUE)
  expect_match(said, "Not tested for want of different values: south")
})
