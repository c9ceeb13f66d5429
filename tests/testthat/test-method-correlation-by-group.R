test_that("each group's correlation is cor.test's, and the test of equality has its level", {
  d <- with_seed(6, data.frame(g = rep(c("a", "b", "c"), each = 25), x = rnorm(75), y = rnorm(75)))
  a <- ask(open_study(d), "correlation of x and y in each g")
  expect_equal(method_of(a), "correlation_by_group")
  t <- table_of(a, "correlations")
  for (g in t$group) expect_equal(unlist(t[t$group == g, c("estimate", "p_value")], use.names = FALSE), unlist(with(d[d$g == g, ], cor.test(x,
    y)[c("estimate", "p.value")]), use.names = FALSE), tolerance = 1e-8)
  expect_retraces(a)
})
