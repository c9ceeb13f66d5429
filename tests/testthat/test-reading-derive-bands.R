# Bands that a question states itself.

test_that("stated bands are a column of their own, closed below", {
  d <- with_seed(12, data.frame(age = sample(18:80, 200, TRUE), score = round(rnorm(200, 50, 10), 1), diabetes = sample(c("yes", "no"), 200, TRUE)))
  s <- open_study(d)
  cut_at <- function(breaks, labels) cut(d$age, c(-Inf, breaks, Inf), labels, right = FALSE)
  for (q in c("mean score by age 18-39, 40-59 and 60+", "mean score by age group: 18-39, 40-59, 60 and over")) {
    a <- ask(s, q)
    own <- tapply(d$score, cut_at(c(40, 60), c("a", "b", "c")), mean)
    expect_equal(table_of(a, "groups")$mean, as.vector(own), tolerance = 1e-10, info = q)
    expect_retraces(a)
  }
  b <- ask(s, "share with diabetes by age under 30, 30-50, over 50")
  own <- tapply(d$diabetes == "yes", cut_at(c(30, 51), c("a", "b", "c")), mean)
  expect_match(as.list(b)$sentences$headline, sprintf("%.1f %% of 30-50", 100 * own[["b"]]), fixed = TRUE)
})

test_that("rows outside the stated bands have bands of their own, and bands with gaps are none", {
  edges <- internal("band_edges")
  expect_equal(edges(c("21-30", "31-40", "over 40"), whole = TRUE)[c("cuts", "from", "to")], list(cuts = c(31, 41), from = 21, to = Inf))
  expect_equal(edges(c("under 30", "30 to 50", "50 to 70"), whole = FALSE)$cuts, c(30, 50))
  expect_null(edges(c("20-30", "40-50", "60-70"), whole = TRUE))
  expect_null(edges(c("40-50", "20-39"), whole = TRUE))
  d <- data.frame(age = 15:64, y = (1:50) / 10)
  t <- table_of(ask(open_study(d), "mean y by age 20-39 and 40-59"), "groups")
  expect_equal(t$n, c(5, 20, 20, 5))
})
