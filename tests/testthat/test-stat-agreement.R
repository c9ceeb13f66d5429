a <- function(name) internal(name)

test_that("kappa of a published table, unweighted and weighted", {
  # Fleiss, Levin and Paik (2003), table 18.1: 100 subjects, kappa = .68 (.676)
  t <- matrix(c(75, 5, 0, 1, 4, 0, 4, 1, 10), 3)
  k <- a("stat_cohen_kappa")(t)
  expect_equal(k$kappa, 0.6765, tolerance = 1e-3)
  expect_equal(k$agreement, 0.89)
  # two levels: linear and quadratic weights change nothing
  two <- matrix(c(20, 5, 10, 15), 2)
  expect_equal(a("stat_cohen_kappa")(two)$kappa, a("stat_cohen_kappa")(two, "quadratic")$kappa)
  expect_equal(a("stat_cohen_kappa")(two)$kappa, 0.4)
  expect_equal(a("stat_cohen_kappa")(diag(c(5, 6, 7)))$kappa, 1)
  expect_error(a("stat_cohen_kappa")(matrix(c(5, 0, 0, 0), 2)), class = "upbeatquill_error_outcome_constant")
})

test_that("quadratic weights give the intraclass consistency of the scores up to 1/n", {
  x <- with_seed(4, sample(1:5, 400, TRUE)); y <- pmin(5, pmax(1, x + with_seed(5, sample(-1:1, 400, TRUE))))
  w <- a("stat_cohen_kappa")(table(factor(x, 1:5), factor(y, 1:5)), "quadratic")$kappa
  expect_equal(w, a("stat_intraclass")(cbind(x, y))$forms$estimate[2], tolerance = 0.005)
})

test_that("Fleiss' kappa of his own example", {
  # Wikipedia-known table of Fleiss (1971) shape: 10 subjects, 14 raters, 5 categories; kappa = 0.210
  counts <- rbind(c(0, 0, 0, 0, 14), c(0, 2, 6, 4, 2), c(0, 0, 3, 5, 6), c(0, 3, 9, 2, 0), c(2, 2, 8, 1, 1), c(7, 7, 0, 0, 0), c(3, 2, 6, 3, 0),
    c(2, 5, 3, 2, 2),
                  c(6, 5, 2, 1, 0), c(0, 2, 2, 3, 7))
  ratings <- t(apply(counts, 1, function(r) rep(1:5, r)))
  expect_equal(a("stat_fleiss_kappa")(ratings, 5)$kappa, 0.210, tolerance = 2e-3)
})

test_that("intraclass correlations of Shrout and Fleiss (1979), table 4", {
  x <- rbind(c(9, 2, 5, 8), c(6, 1, 3, 2), c(8, 4, 6, 8), c(7, 1, 2, 6), c(10, 5, 6, 9), c(6, 2, 4, 7))
  f <- a("stat_intraclass")(x)$forms
  expect_equal(round(f$estimate, 2), c(0.17, 0.29, 0.71, 0.44, 0.62, 0.91))
  expect_equal(round(f$ci_low[c(1, 2, 3)], 2), c(-0.13, 0.02, 0.34))
  expect_equal(round(f$ci_high[c(1, 2, 3)], 2), c(0.72, 0.76, 0.95))
})

test_that("limits of agreement are the mean difference plus and minus 1.96 standard deviations", {
  x <- with_seed(1, rnorm(30, 10)); y <- x + with_seed(2, rnorm(30, 0.5, 0.3))
  l <- a("stat_limits_of_agreement")(x, y)
  d <- x - y
  expect_equal(c(l$bias, l$lower, l$upper), mean(d) + c(0, -1.96, 1.96) * sd(d))
  expect_equal(c(l$bias_low, l$bias_high), as.vector(t.test(d)$conf.int))
})

test_that("omega is that of factanal's one factor", {
  f <- with_seed(3, rnorm(150))
  items <- vapply(1:5, function(k) with_seed(10 + k, f * 0.7 + rnorm(150)), numeric(150))
  o <- a("stat_omega")(items)
  l <- factanal(items, 1)$loadings[, 1]
  expect_equal(o$omega, sum(l)^2 / (sum(l)^2 + sum(1 - l^2)), tolerance = 1e-4)
  expect_error(a("stat_omega")(items[, 1:2]), class = "upbeatquill_error_too_few_columns")
})

test_that("ratings in rows give the intraclass correlations of the same ratings in columns", {
  x <- with_seed(41, matrix(round(rep(rnorm(15, 70, 8), 4) + rnorm(60, 0, 5)), 15))
  wide <- stats::setNames(as.data.frame(x), paste0("rater_", letters[1:4]))
  long <- data.frame(score = as.vector(x), product = rep(sprintf("P%02d", 1:15), 4), taster = rep(c("Ann", "Bo", "Cy", "Di"), each = 15))
  a <- ask(open_study(long), "how consistent are the tasters on score?")
  b <- ask(open_study(wide), "intraclass correlation of rater_a, rater_b, rater_c and rater_d")
  for (id in c("icc", "icc_low", "icc_high", "p_value")) expect_equal(value_of(a, id), value_of(b, id), tolerance = 1e-10, info = id)
  expect_match(reading(a)$plain, "of the same product")
  expect_retraces(a)
  expect_equal(status_of(ask(open_study(long), "do the tasters agree?")), "answered")
})

test_that("a method that ratings in rows call for is asked for only where the question names it", {
  long <- expand.grid(sample = paste0("s", 1:12), taster = c("Ann", "Ben", "Cy"))
  long$score <- round(50 + 6 * sin(as.integer(long$sample) * 3) + 2 * cos(seq_len(36) * 5), 1)
  study <- open_study(long)
  plain <- ask(study, "how consistent are the tasters in score")
  named <- ask(study, "icc of the score across tasters")
  expect_equal(plain$method$id, "intraclass_correlation")
  expect_equal(value_of(plain, "icc"), value_of(named, "icc"))
  expect_false(grepl("asked for", plain$reading$plain))
  expect_match(named$reading$plain, "you asked for: Intraclass correlation")
  expect_match(ask(plain, "why this test?")$sentences$headline, "rating of one subject by one rater")
})

test_that("the intraclass correlation within groups of unequal size is that of the one-way analysis of variance", {
  d <- line_data()[-c(1, 5, 6, 40), ]
  a <- ask(open_study(d), "intraclass correlation of hardness within batch")
  fit <- anova(lm(hardness ~ batch, d))
  sizes <- table(d$batch)
  size <- (sum(sizes) - sum(sizes^2) / sum(sizes)) / (length(sizes) - 1)
  f <- fit$`F value`[1]
  expect_equal(value_of(a, "estimate"), (f - 1) / (f + size - 1), tolerance = 1e-10)
  expect_equal(value_of(a, "p_value"), fit$`Pr(>F)`[1], tolerance = 1e-10)
  expect_retraces(a)
})
