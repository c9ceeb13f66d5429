# Counts against shares, all tables counted through or drawn.

test_that("the chance of tables no likelier than the one seen is that of all tables by brute force", {
  exact <- internal("stat_multinomial_exact")
  for (counts in list(c(3, 1, 2), c(0, 5, 1), c(4, 4, 0, 1))) for (share in list(rep(1, length(counts)), seq_along(counts))) {
    p <- share / sum(share); n <- sum(counts)
    all <- as.matrix(expand.grid(rep(list(0:n), length(counts))))
    all <- all[rowSums(all) == n, ]
    chance <- apply(all, 1, dmultinom, prob = p)
    expect_equal(exact(counts, share)$p_value, sum(chance[chance <= dmultinom(counts, prob = p) * (1 + 1e-9)]), tolerance = 1e-12)
  }
  # two levels are the binomial test
  expect_equal(exact(c(7, 13), c(0.3, 0.7))$p_value, binom.test(7, 20, 0.3)$p.value, tolerance = 1e-12)
  expect_equal(exact(c(7, 13), c(0.3, 0.7))$tables, 21)
  expect_equal(sum(internal("compositions")(6, 4)) / 6, choose(9, 3))
})

test_that("many tables are drawn from the seed, the same each time, near the exact chance", {
  exact <- internal("stat_multinomial_exact")
  counts <- c(9, 4, 7, 6)
  drawn <- exact(counts, most = 10)
  expect_false(drawn$exact)
  expect_identical(drawn, exact(counts, most = 10))
  truth <- exact(counts)$p_value
  expect_lt(abs(drawn$p_value - truth), 4 * sqrt(truth * (1 - truth) / 9999))
  expect_error(exact(c(3, 2), c(1, 0)), class = "upbeatquill_error_data")
})

test_that("it stands beside the chi-square test of shares, and is asked for by name", {
  rows <- data.frame(die = rep(c("one", "two", "three", "four"), c(4, 9, 3, 2)))
  a <- ask(open_study(rows), "are the levels of die equally common?")
  expect_equal(method_of(a), "chi_square_goodness")
  o <- as.list(a)$second_opinions[[1]]
  expect_equal(o$method$id, "multinomial_exact")
  # Cohen's w has the interval of the noncentral chi-square
  w <- c(value_of(a, "cohens_w_low"), value_of(a, "cohens_w_high"))
  chi <- value_of(a, "statistic")
  expect_equal(pchisq(chi, 3, w[2]^2 * 18), 0.025, tolerance = 1e-6)
  expect_true(w[1] <= value_of(a, "cohens_w") && value_of(a, "cohens_w") <= w[2])
  expect_retraces(a)
  b <- ask(open_study(rows), "exact multinomial test of die")
  expect_equal(value_of(b, "p_value"), Find(function(n) n$id == "p_value", o$numbers)$value)
  expect_retraces(b)
})

test_that("the exact interval of a share is that of Clopper and Pearson", {
  rows <- data.frame(score = c(1:18, 3, 4))
  a <- ask(open_study(rows), "what proportion has a score above 14, with an exact interval?")
  own <- binom.test(sum(rows$score > 14), 20)$conf.int
  expect_equal(c(value_of(a, "ci_low"), value_of(a, "ci_high")), as.numeric(own), tolerance = 1e-10)
  expect_match(format_answer(a), "Clopper")
  expect_retraces(a)
  limits <- internal("stat_clopper_pearson")(c(0, 20), c(20, 20))
  expect_equal(c(limits$low, limits$high), c(0, binom.test(20, 20)$conf.int[1], binom.test(0, 20)$conf.int[2], 1))
  # not asked for, the interval is Wilson's
  plain <- ask(open_study(rows), "what proportion has a score above 14?")
  expect_equal(value_of(plain, "ci_low"), prop.test(4, 20, correct = FALSE)$conf.int[1], tolerance = 1e-10)
})
