trials <- demo_study("earlier_trials.csv")
d <- read.csv(demo_file("earlier_trials.csv"))
y <- d$effect_kg; v <- d$se_kg^2; k <- nrow(d)

# REML by maximising the restricted likelihood itself
reml <- function(y, v, x = matrix(1, length(y))) {
  minus <- function(t) {
    w <- 1 / (v + t); b <- solve(crossprod(x, w * x), crossprod(x, w * y))
    (sum(log(v + t)) + determinant(crossprod(x, w * x))$modulus[[1]] + sum(w * (y - x %*% b)^2)) / 2
  }
  t <- optimize(minus, c(0, 10 * var(y)), tol = 1e-10)$minimum
  if (minus(0) <= minus(t)) 0 else t
}

test_that("DerSimonian and Laird's variance and interval are taken where they are asked for", {
  a <- ask(trials, "dersimonian-laird pooling")
  w <- 1 / v; m <- weighted.mean(y, w); q <- sum(w * (y - m)^2)
  tau2 <- max(0, (q - (k - 1)) / (sum(w) - sum(w^2) / sum(w)))
  wr <- 1 / (v + tau2); est <- weighted.mean(y, wr); se <- sqrt(1 / sum(wr))
  expect_equal(c(value_of(a, "tau_squared"), value_of(a, "estimate"), value_of(a, "se")), c(tau2, est, se), tolerance = 1e-10)
  expect_equal(value_of(a, "ci_high"), est + qnorm(0.975) * se, tolerance = 1e-10)
  expect_retraces(a)
  b <- ask(trials, "random effects with hartung-knapp")
  expect_equal(value_of(b, "tau_squared"), reml(y, v), tolerance = 1e-5)
})

test_that("groups of studies are pooled each by itself, and the groups are tested", {
  a <- ask(trials, "is the pooled effect different by country?")
  t <- table_of(a, "subgroups")
  one <- function(g) { i <- d$country == g; t2 <- reml(y[i], v[i]); w <- 1 / (v[i] + t2); c(weighted.mean(y[i], w), sqrt(1 / sum(w))) }
  parts <- vapply(t$country, one, numeric(2))
  expect_equal(t$estimate, unname(parts[1, ]), tolerance = 1e-5)
  w <- 1 / parts[2, ]^2
  expect_equal(value_of(a, "statistic"), sum(w * (parts[1, ] - weighted.mean(parts[1, ], w))^2), tolerance = 1e-4)
  expect_equal(value_of(a, "df"), length(unique(d$country)) - 1)
  expect_retraces(a)
})

test_that("an effect that may depend on a column of the studies is a weighted line", {
  a <- ask(trials, "does the effect depend on the number of hives?")
  t2 <- reml(y, v, cbind(1, d$hives))
  fit <- summary(lm(y ~ hives, data = cbind(d, y = y), weights = 1 / (v + t2)))$coefficients
  expect_equal(value_of(a, "estimate"), fit[2, 1], tolerance = 1e-5)
  expect_equal(value_of(a, "p_value"), fit[2, 4], tolerance = 1e-4)
  expect_equal(reading(a)$predictors, "hives")
  expect_retraces(a)
})

test_that("small studies, single studies and heterogeneity have answers of their own", {
  e <- ask(trials, "egger's test")
  ref <- summary(lm(I(effect_kg / se_kg) ~ I(1 / se_kg), d))$coefficients
  expect_equal(c(value_of(e, "estimate"), value_of(e, "p_value")), c(ref[1, 1], ref[1, 4]), tolerance = 1e-8)
  expect_equal(e$figure$id, "funnel")
  one <- ask(trials, "leave one out analysis of the pooled effect")
  without <- vapply(seq_len(k), function(i) weighted.mean(y[-i], 1 / (v[-i] + reml(y[-i], v[-i]))), 1)
  expect_equal(c(value_of(one, "lowest"), value_of(one, "highest")), range(without), tolerance = 1e-5)
  h <- ask(trials, "how heterogeneous are the studies?")
  w <- 1 / v; q <- sum(w * (y - weighted.mean(y, w))^2)
  expect_equal(c(value_of(h, "estimate"), value_of(h, "statistic")), c(max(0, (q - k + 1) / q), q), tolerance = 1e-10)
  expect_match(as.list(ask(trials, "which study has most weight?"))$sentences$headline, d$study[which.max(1 / (v + reml(y, v)))], fixed = TRUE)
  for (a in list(e, one, h)) expect_retraces(a)
})

test_that("the weight of single studies is an answer of its own, in the pooling that was asked for", {
  w <- 1 / (v + reml(y, v))
  a <- ask(trials, "which study has the most weight?")
  expect_equal(value_of(a, "estimate"), max(w) / sum(w), tolerance = 1e-5)
  expect_equal(value_of(a, "even_share"), 1 / k)
  b <- ask(trials, "which trial carries the most weight with a fixed effect?")
  expect_equal(value_of(b, "estimate"), max(1 / v) / sum(1 / v), tolerance = 1e-10)
  expect_false(any(grepl("Took \"weight\"", unlist(as.list(b)$reading$assumed), fixed = TRUE)))
  for (x in list(a, b)) {
    expect_match(as.list(x)$sentences$headline, d$study[which.min(v)], fixed = TRUE)
    expect_retraces(x)
  }
})

test_that("where a new study would lie is not called a confidence interval", {
  lines <- capture.output(print(ask(trials, "prediction interval for a new trial")))
  expect_true(any(grepl("pooled result .*95 % prediction interval", lines)))
  expect_false(any(grepl("was not used", lines)))
})

test_that("data that holds no studies is not pooled", {
  expect_false(identical(reading(ask(hive_study(), "does the effect of arm on honey yield differ by region?"))$task, "pool"))
})

test_that("groups of studies are drawn as their pooled effects, themes by group as shares", {
  s <- demo_study("earlier_trials.csv")
  a <- ask(s, "pool the studies by country")
  f <- a$figure
  expect_equal(f$id, "forest")
  expect_match(f$title, "by country")
  file <- withr::local_tempfile(fileext = ".png")
  figure(a, file, width = 5, height = 3.5)
  expect_gt(file.size(file), 5000)
  expect_retraces(a)
  b <- ask(demo_study("keeper_survey.csv", "keeper_survey_codebook.csv"), "what do people want to improve by region")
  expect_match(b$figure$title, "by region")
})

test_that("titles are broken anew for a small figure", {
  a <- ask(hive_study(), "survival curve of days to swarm by arm")
  plot <- figure(a)
  small <- internal("fit_titles")(plot, 4, 3)
  lines <- function(text) strsplit(text, "\n", fixed = TRUE)[[1]]
  expect_gt(length(lines(small$labels$subtitle)), length(lines(plot$labels$subtitle)))
  expect_true(all(nchar(lines(small$labels$subtitle)) <= 46))
  expect_identical(internal("fit_titles")(plot, 8, 5)$labels, plot$labels)
})
