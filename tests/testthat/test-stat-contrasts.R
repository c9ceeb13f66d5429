# Planned comparisons of means against published tables, a simulation-free integral and base R.

group_moments <- function(groups) {
  m <- t(vapply(groups, function(v) c(n = length(v), mean = mean(v), m2 = sum((v - mean(v))^2)), numeric(3)))
  m
}

test_that("with one comparison Dunnett's procedure is the pooled t test", {
  g <- with_seed(1, list(rnorm(9, 5), rnorm(12, 6)))
  out <- internal("stat_dunnett")(group_moments(g), 1, 0.95)
  second <- t.test(g[[2]], g[[1]], var.equal = TRUE)
  expect_equal(out$p_adjusted, second$p.value, tolerance = 1e-9)
  expect_equal(c(out$ci_low, out$ci_high), as.numeric(second$conf.int), tolerance = 1e-8)
})

test_that("critical values are those of Dunnett's table (two-sided, equal sizes)", {
  # Dunnett (1964), Biometrics 20, 482-491: 5 % points for k comparisons and df of the pooled spread
  table <- data.frame(k = c(2, 3, 4, 2, 3), df = c(10, 10, 20, 60, 60), cut = c(2.57, 2.76, 2.65, 2.27, 2.41))
  for (i in seq_len(nrow(table))) {
    inside <- internal("dunnett_probability")(table$cut[i], rep(sqrt(0.5), table$k[i]), table$df[i])
    expect_equal(inside, 0.95, tolerance = 0.002)
  }
})

test_that("Dunnett's probability agrees with draws of the t statistics themselves", {
  n <- c(8, 5, 11); df <- sum(n) - 3
  draws <- with_seed(3, {
    control <- rnorm(2e5, sd = 1 / sqrt(n[1])); s <- sqrt(rchisq(2e5, df) / df)
    pmax(abs(rnorm(2e5, sd = 1 / sqrt(n[2])) - control) / (s * sqrt(1 / n[1] + 1 / n[2])),
         abs(rnorm(2e5, sd = 1 / sqrt(n[3])) - control) / (s * sqrt(1 / n[1] + 1 / n[3])))
  })
  share <- sqrt(n[2:3] / (n[2:3] + n[1]))
  for (q in c(1.5, 2.2, 3)) expect_equal(internal("dunnett_probability")(q, share, df), mean(draws < q), tolerance = 0.004)
})

test_that("a contrast of two groups is Welch's test, and shift and scale do what they should", {
  g <- with_seed(2, list(rnorm(10, 5, 1), rnorm(14, 6, 3), rnorm(7, 4, 2)))
  out <- internal("stat_contrast")(group_moments(g), c(1, -1, 0))
  second <- t.test(g[[1]], g[[2]])
  expect_equal(out$statistic, unname(second$statistic), tolerance = 1e-10)
  expect_equal(out$df, unname(second$parameter), tolerance = 1e-10)
  expect_equal(out$p_value, second$p.value, tolerance = 1e-10)
  three <- internal("stat_contrast")(group_moments(g), c(1, -0.5, -0.5))
  moved <- internal("stat_contrast")(group_moments(lapply(g, function(v) 2 * v + 1e7)), c(1, -0.5, -0.5))
  expect_equal(moved$statistic, three$statistic, tolerance = 1e-6)
  expect_equal(moved$estimate, 2 * three$estimate, tolerance = 1e-6)
})

test_that("each arm with the control, and one arm against the mean of others, in plain words", {
  a <- ask(hive_study(), "Compare honey yield of each arm with the control")
  expect_equal(method_of(a), "dunnett")
  d <- demo_study("hive_trial.csv")
  b <- ask(d, "Is the honey yield of syrup different from the mean of control and patty?")
  expect_equal(method_of(b), "contrast")
  expect_retraces(b)
  c <- ask(d, "planned contrast: honey yield of syrup versus the other arms")
  expect_equal(method_of(c), "contrast")
  expect_equal(value_of(c, "estimate"), value_of(b, "estimate"))
})
