test_that("bands of a measured column lie between round numbers", {
  d <- with_seed(81, data.frame(tenure_yrs = round(rexp(200, 0.2), 1), left = rbinom(200, 1, 0.3), sick_days = rpois(200, 4),
                                salary_band = sample(c("a", "b"), 200, TRUE)))
  s <- open_study(d)
  a <- ask(s, "mean sick days by tenure band")
  t <- table_of(a, "groups")
  cuts <- pretty(quantile(d$tenure_yrs, c(0.05, 0.95)), 4)
  cuts <- cuts[cuts > quantile(d$tenure_yrs, 0.05) & cuts < quantile(d$tenure_yrs, 0.95)]
  own <- tapply(d$sick_days, findInterval(d$tenure_yrs, cuts), mean)
  expect_equal(t$mean, as.vector(own))
  expect_retraces(a)
  # a column of bands that the data hold is taken as it is
  expect_equal(unlist(as.list(ask(s, "mean sick days by salary band"))$reading$by), "salary_band")
})
