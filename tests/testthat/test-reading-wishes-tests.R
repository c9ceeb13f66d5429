trial <- hive_study()
rows <- read.csv(demo_file(), na.strings = c("", "NA", "-99"), stringsAsFactors = TRUE)

test_that("the share that is trimmed is the one said", {
  y <- rows$honey_yield_kg[!is.na(rows$honey_yield_kg)]
  for (said in c("10% trimmed mean of honey yield", "trimmed mean (10%) of honey yield", "trimmed mean of honey yield with 10 % trimming")) {
    a <- ask(trial, said)
    expect_equal(value_of(a, "estimate"), mean(y, trim = 0.1), tolerance = 1e-12, info = said)
    expect_match(reading(a)$plain, "10 % trimmed mean", fixed = TRUE, info = said)
  }
  expect_equal(value_of(ask(trial, "20% trimmed mean of honey yield"), "estimate"), mean(y, trim = 0.2), tolerance = 1e-12)
  expect_retraces(ask(trial, "5 % winsorised mean of honey yield by arm"))
  yuen <- ask(trial, "trimmed t test of honey yield between syrup and control with 10% trimming")
  half <- split(rows$honey_yield_kg, rows$arm)
  own <- mean(half$control, trim = 0.1, na.rm = TRUE) - mean(half$syrup, trim = 0.1, na.rm = TRUE)
  expect_equal(value_of(yuen, "estimate"), own, tolerance = 1e-10)
  expect_retraces(yuen)
})

test_that("non-inferiority is asked for in plain words", {
  both <- split(rows$honey_yield_kg, rows$arm)
  own <- t.test(both$syrup, both$control, mu = -2, alternative = "greater")
  for (said in c("is syrup not inferior to control in honey yield by 2 kg", "is syrup no worse than control in honey yield, margin 2 kg",
                 "is syrup not worse than control in honey yield by more than 2 kg")) {
    a <- ask(trial, said)
    expect_equal(method_of(a), "noninferiority_t", info = said)
    expect_equal(c(value_of(a, "p_value"), value_of(a, "margin")), c(own$p.value, 2), tolerance = 1e-8, info = said)
  }
})

test_that("counts are held against the shares that the question expects", {
  a <- ask(trial, "does region follow 40% north, 35% south and 25% coast")
  own <- chisq.test(table(rows$region), p = c(coast = 0.25, north = 0.4, south = 0.35))
  expect_equal(value_of(a, "statistic"), unname(own$statistic), tolerance = 1e-10)
  t <- table_of(a, "counts")
  expect_equal(t$expected, as.vector(own$expected))
  expect_equal(t$residual, as.vector(own$residuals), tolerance = 1e-10)
  expect_retraces(a)
  b <- ask(trial, "is region split 40 30 30")
  expect_equal(value_of(b, "p_value"), chisq.test(table(rows$region), p = c(0.4, 0.3, 0.3))$p.value, tolerance = 1e-10)
  expect_match(paste(unlist(reading(b)$assumed), collapse = " "), "order of the levels", fixed = TRUE)
  # too few shares are no such question
  expect_false(identical(method_of(ask(trial, "is region split 40 60")), "chi_square_goodness"))
  even <- ask(trial, "do the regions occur equally often")
  expect_equal(value_of(even, "p_value"), chisq.test(table(rows$region))$p.value, tolerance = 1e-10)
  expect_match(as.list(ask(trial, "are the arms equally frequent"))$sentences$headline, "60 at each", fixed = TRUE)
})

test_that("the power of a named test is a question of its size", {
  power <- function(q) value_of(ask(trial, q), "estimate")
  expect_equal(power("power of an anova with 60 per group and f 0.25 for 3 groups"),
               power.anova.test(groups = 3, n = 60, between.var = 0.25^2 * 3 / 2, within.var = 1)$power, tolerance = 1e-8)
  expect_equal(power("power of an anova with 3 groups of 60 and an effect size f of 0.25"), power("power of an anova with 60 per group and f 0.25 for 3 groups"))
  expect_equal(power("power for a paired t test with 40 pairs and a difference of 0.4 sd"),
               power.t.test(n = 40, delta = 0.4, type = "paired", strict = TRUE)$power, tolerance = 1e-8)
  expect_equal(power("power of a t test with 30 per group and d = 0.5"), power.t.test(n = 30, delta = 0.5, strict = TRUE)$power, tolerance = 1e-8)
  expect_equal(power("power of a chi square test with 100 per group, 50% against 65%"), power.prop.test(n = 100, p1 = 0.5, p2 = 0.65)$power,
               tolerance = 1e-8)
  expect_equal(power("how many pairs for a paired t test to detect 0.3 sd"),
               ceiling(power.t.test(delta = 0.3, power = 0.8, type = "paired", strict = TRUE)$n))
  expect_equal(power("how many hives per arm for a 2 kg difference with an sd of 6?"), ceiling(power.t.test(delta = 2, sd = 6, power = 0.8)$n))
  a <- ask(trial, "sample size for a noninferiority trial with a margin of 2 kg and an sd of 6")
  expect_equal(value_of(a, "estimate"), ceiling(power.t.test(delta = 2, sd = 6, power = 0.8, alternative = "one.sided")$n))
  expect_match(paste(unlist(reading(a)$assumed), collapse = " "), "one-sided level is 0.05", fixed = TRUE)
  expect_retraces(a)
})

test_that("all measures are meant by their plural, columns by a word of their names", {
  for (said in c("correlations among the measures with pairwise rows", "heat map of correlations between the measures", "heatmap of all correlations")) {
    a <- ask(trial, said)
    expect_equal(method_of(a), "correlation_matrix", info = said)
    expect_equal(nrow(table_of(a, "correlations")), 21, info = said)
  }
  b <- ask(trial, "principal components of the strength and mites columns")
  expect_setequal(reading(b)$outcome, c("strength_before", "strength_after", "mites_before", "mites_after"))
})

test_that("a trend of shares takes the values of a measured column as scores", {
  a <- ask(trial, "cochran armitage trend of survived winter across mites before")
  t <- table(rows$mites_before, rows$survived_winter)
  own <- suppressWarnings(prop.trend.test(t[, "yes"], rowSums(t), as.numeric(rownames(t))))
  expect_equal(value_of(a, "statistic"), unname(own$statistic), tolerance = 1e-8)
  expect_retraces(a)
  b <- ask(trial, "does survival fall with more mites before?")
  expect_equal(value_of(b, "estimate"), coef(glm(survived_winter ~ mites_before, binomial, rows))[[2]], tolerance = 1e-7)
})

test_that("a trend over groups that nothing orders carries a caution", {
  verdict <- function(a) { k <- checks(a); k$verdict[k$id == "group_order"] }
  expect_equal(verdict(ask(trial, "jonckheere trend test of honey yield over region")), "caution")
  doses <- data.frame(dose = rep(c("placebo", "low dose", "high dose"), each = 20), effect = with_seed(5, rnorm(60)) + rep(0:2, each = 20))
  expect_equal(verdict(ask(open_study(doses), "jonckheere trend test of effect over dose")), "ok")
})

test_that("the number needed names who gains", {
  a <- ask(trial, "number needed to treat for survival, syrup against control")
  expect_match(as.list(a)$sentences$headline, "One more row with survived winter = yes for every 5.45 in syrup rather than control", fixed = TRUE)
})

pupils <- with_seed(82, {
  n <- 160
  d <- data.frame(pupil = sprintf("P%03d", 1:n), class = sample(paste0("C", 1:8), n, TRUE), gender = sample(c("girl", "boy"), n, TRUE), reading_pre = round(rnorm(n, 50, 10)))
  d$programme <- ifelse(as.integer(sub("C", "", d$class)) %% 2 == 0, "phonics", "usual")
  d$reading_post <- round(d$reading_pre + ifelse(d$programme == "phonics", 7, 2) + rnorm(n, 0, 6))
  d$enjoys_reading <- sample(c("never", "sometimes", "often", "always"), n, TRUE)
  d$needs_help <- ifelse(runif(n) < plogis((48 - d$reading_post) / 6), "yes", "no")
  d$came <- ifelse(runif(n) < 0.7, "attended", "no show")
  names(d)[names(d) == "came"] <- "attended"
  d$wait_days <- rpois(n, 18)
  d
})
school <- open_study(pupils)
gain <- pupils$reading_post - pupils$reading_pre

test_that("what is adjusted and for nothing is asked back, the measure at the start first", {
  a <- ask(school, "adjusted difference between phonics and usual in reading post")
  expect_equal(status_of(a), "needs_choice")
  first <- ask(a, "1")
  expect_equal(unlist(reading(first)$adjust_for), "reading_pre")
  expect_match(reading(first)$plain, "reading_pre held constant", fixed = TRUE)
  fit <- lm(reading_post ~ programme + reading_pre, pupils)
  expect_equal(abs(value_of(first, "estimate")), abs(coef(fit)[[2]]), tolerance = 1e-8)
  expect_equal(value_of(first, "p_value"), summary(fit)$coefficients[2, 4], tolerance = 1e-8)
})

test_that("an effect that the columns held constant determine is none", {
  a <- ask(school, "effect of programme on reading post adjusting for class")
  expect_equal(status_of(a), "cannot_answer")
  expect_match(as.list(a)$sentences$headline, "determined by \"class\"", fixed = TRUE)
  b <- ask(school, "effect of programme on needs help adjusting for class")
  expect_equal(status_of(b), "cannot_answer")
})

test_that("gains are compared, ranked and held against a value", {
  own <- t.test(gain ~ pupils$gender)
  for (q in c("who gained more, girls or boys?", "do girls gain more than boys?")) {
    expect_equal(value_of(ask(school, q), "p_value"), own$p.value, tolerance = 1e-9, info = q)
  }
  means <- sort(tapply(gain, pupils$class, mean), decreasing = TRUE)
  expect_equal(value_of(ask(school, "which class gained the most"), "estimate"), means[[1]], tolerance = 1e-10)
  expect_equal(value_of(ask(school, "is the average gain above zero?"), "p_value"), t.test(gain)$p.value, tolerance = 1e-9)
  part <- ask(school, "is the average gain in phonics above 5?")
  expect_equal(filters_of(part), "programme == phonics")
  expect_equal(value_of(part, "p_value"), t.test(gain[pupils$programme == "phonics"], mu = 5)$p.value, tolerance = 1e-9)
})

test_that("often that compares is no level, bounds belong to the column behind them", {
  a <- ask(school, "do boys need help more often?")
  expect_equal(filters_of(a), character())
  expect_equal(value_of(a, "n"), nrow(pupils))
  expect_equal(filters_of(ask(school, "pupils below 40 in reading post")), "reading_post < 40")
})

test_that("variation between groups, distances and relations on both sides", {
  fit <- anova(lm(reading_post ~ class, pupils))
  n <- table(pupils$class); n0 <- (sum(n) - sum(n^2) / sum(n)) / (length(n) - 1)
  icc <- (fit$`Mean Sq`[1] - fit$`Mean Sq`[2]) / (fit$`Mean Sq`[1] + (n0 - 1) * fit$`Mean Sq`[2])
  for (q in c("how much of the variation in reading post lies between classes?", "intraclass correlation of reading post by class")) {
    expect_equal(value_of(ask(school, q), "estimate"), icc, tolerance = 1e-8, info = q)
  }
  expect_equal(filters_of(ask(school, "how many standard deviations apart are phonics and usual in reading post?")), character())
  both <- ask(school, "correlation of reading pre and reading post for girls and for boys")
  expect_equal(method_of(both), "correlation_by_group")
})

test_that("chances after a time, odds by steps, what predicts a level, who did not attend", {
  came <- pupils$attended == "attended"
  fit <- glm(!came ~ wait_days, binomial, pupils)
  a <- ask(school, "chance of a no show after 30 days of waiting")
  expect_equal(value_of(a, "estimate"), predict(fit, data.frame(wait_days = 30), type = "response")[[1]], tolerance = 1e-7)
  b <- ask(school, "odds ratio of attending per 7 days of waiting")
  expect_equal(value_of(b, "odds_ratio"), exp(-7 * coef(fit)[[2]]), tolerance = 1e-6)
  expect_equal(length(unlist(reading(b)$predictors)), 1)
  c <- ask(school, "what predicts no shows?")
  expect_equal(unlist(reading(c)$outcome), "attended")
  d <- ask(school, "average reading post of those who did not attend")
  expect_equal(value_of(d, "estimate"), mean(pupils$reading_post[!came]))
  e <- ask(school, "how does the probability of attending change with waiting?")
  p <- fitted(glm(came ~ wait_days, binomial, pupils))
  expect_equal(value_of(e, "estimate"), mean(p * (1 - p)) * -coef(fit)[[2]], tolerance = 1e-6)
})

test_that("a share made by a bound is held against a value, exactly", {
  s <- demo_study("keeper_survey.csv"); rows <- as.data.frame(s)
  high <- sum(rows$satisfaction > 7, na.rm = TRUE); n <- sum(!is.na(rows$satisfaction))
  for (q in c("is the proportion with satisfaction above 7 different from 20%?", "do more than 20 % of keepers have satisfaction above 7?",
              "is the share of keepers with satisfaction above 7 higher than 20 percent")) {
    a <- ask(s, q)
    expect_equal(c(method_of(a), as.list(a)$reading$task), c("binomial_exact", "compare"), info = q)
    expect_equal(value_of(a, "p_value"), binom.test(high, n, 0.2)$p.value, tolerance = 1e-10, info = q)
    expect_match(unlist(as.list(a)$reading$assumed), "20 %", all = FALSE)
  }
  expect_retraces(a)
  # a share at the end of the scale is no share to be held against
  expect_false(identical(method_of(ask(s, "is the proportion with satisfaction above 7 different from 100%?")), "binomial_exact"))
})

test_that("a median is held against a value in other words, and says when it is that value", {
  s <- demo_study("keeper_survey.csv")
  for (q in c("is the median satisfaction 6?", "sign test of whether the median of satisfaction is 6", "sign test of satisfaction against 6")) {
    a <- ask(s, q)
    expect_equal(c(method_of(a), unlist(as.list(a)$reading$outcome)), c("sign_test", "satisfaction"), info = q)
    expect_length(as.list(a)$reading$filters, 0)
    expect_match(as.list(a)$sentences$headline, "the median itself is 6", info = q)
  }
})

test_that("parts of tables, items together and methods in other words are read as such", {
  s <- demo_study("keeper_survey.csv")
  items <- c("advice_helpful", "feed_affordable", "training_clear", "inspections_fair", "community_support", "website_easy")
  cases <- list(list("percentages of age band by region with expected counts and adjusted residuals", "crosstab", c("age_band", "region")),
                list("do the six items differ, repeated measures", "anova_repeated", items),
                list("correlation matrix of the six items", "correlation_matrix", items),
                list("gamma between advice helpful and training clear", "goodman_kruskal_gamma", c("advice_helpful", "training_clear")),
                list("Monte Carlo Fisher test of age band and region", "fisher_exact", c("age_band", "region")))
  for (case in cases) {
    a <- ask(s, case[[1]]); r <- as.list(a)$reading
    expect_equal(method_of(a), case[[2]], info = case[[1]])
    expect_setequal(unlist(c(r$outcome, r$by, r$predictors)), case[[3]])
  }
  several <- ask(s, "mean, sd and kurtosis of satisfaction")
  x <- as.data.frame(s)$satisfaction
  expect_equal(value_of(several, "sd"), sd(x, na.rm = TRUE), tolerance = 1e-12)
  expect_match(as.list(several)$sentences$headline, "standard deviation .* kurtosis")
  expect_retraces(several)
})

test_that("models are asked for by their errors, their assumptions and their slopes", {
  t <- hive_study()
  a <- ask(t, "honey yield on arm with HC3 standard errors")
  expect_equal(method_of(a), "linear_regression_hc3")
  ids <- vapply(as.list(a)$checks, `[[`, "", "id")
  expect_true("influential_rows" %in% ids && !"residual_spread" %in% ids)
  b <- ask(t, "check the assumptions of honey yield on queen age and mites before")
  expect_true("residuals" %in% vapply(as.list(b)$tables, `[[`, "", "id"))
  c <- ask(t, "simple slopes of queen age on honey yield by arm")
  expect_equal(unlist(as.list(c)$reading$outcome), "honey_yield_kg")
  slopes <- table_of(c, "simple_slopes")
  rows <- as.data.frame(t)
  own <- coef(lm(honey_yield_kg ~ queen_age_months, rows[rows$arm == "syrup", ]))[[2]]
  expect_true(any(abs(unlist(Filter(is.numeric, slopes)) - own) < 1e-8))
  d <- ask(t, "repeated measures anova of strength before and strength after")
  pair <- t.test(rows$strength_before, rows$strength_after, paired = TRUE)
  expect_equal(value_of(d, "statistic"), pair$statistic[[1]]^2, tolerance = 1e-8)
})

test_that("power, detectable effects and levels are worked out from what is given", {
  t <- hive_study()
  a <- ask(t, "power of a correlation of 0.3 with 100")
  expect_equal(value_of(a, "n"), 100)
  expect_gt(value_of(a, "power"), 0.8)
  b <- ask(t, "what effect can be detected with 50 per group?")
  expect_equal(value_of(b, "effect"), power.t.test(50, power = 0.8)$delta, tolerance = 1e-4)
  c <- ask(t, "sample size for equivalence within 0.5 with sd 1.5")
  expect_match(unlist(as.list(c)$reading$assumed), "two one-sided tests is at the level", all = FALSE)
})

test_that("studies pooled are looked at by their groups and for the next study", {
  s <- demo_study("earlier_trials.csv")
  a <- ask(s, "prediction interval of the pooled effect")
  expect_equal(value_of(a, "ci_low"), value_of(a, "prediction_low"))
  k <- value_of(a, "n")
  rows <- as.data.frame(s); tau2 <- value_of(a, "tau_squared")
  half <- qt(0.975, k - 2) * sqrt(tau2 + 1 / sum(1 / (rows$se_kg^2 + tau2)))
  expect_equal(c(value_of(a, "ci_low"), value_of(a, "ci_high")), value_of(a, "estimate") + c(-1, 1) * half, tolerance = 1e-7)
  expect_match(as.list(a)$sentences$headline, "new study")
  expect_retraces(a)
  expect_equal(unlist(as.list(ask(s, "subgroup by country"))$reading$by), "country")
})

test_that("ranks asked for at the end of a question choose the method of its task that takes them", {
  rows <- with_seed(7, data.frame(dose = round(rnorm(90, 10, 3), 1), weight = round(rnorm(90, 60, 8), 1), arm = rep(c("a", "b"), 45),
                                  site = rep(c("n", "s", "w"), 30)))
  s <- open_study(rows)
  method <- function(q) as.list(ask(s, q))$method$id
  expect_equal(method("is dose equivalent between arms within 1 by ranks"), "equivalence_ranks")
  expect_equal(method("is dose equivalent between arms within 1, with a rank test"), "equivalence_ranks")
  expect_equal(method("is a not inferior to b in dose with a margin of 1, by ranks"), "noninferiority_ranks")
  expect_equal(method("compare dose between arms using ranks"), "mann_whitney")
  expect_equal(method("does dose differ between sites, by ranks"), "kruskal_wallis")
  expect_equal(method("correlate dose with weight by ranks"), "spearman")
  plain <- ask(s, "describe dose by ranks")
  expect_equal(as.list(plain)$method$id, "descriptives")
  expect_match(paste(as.list(plain)$reading$assumed, collapse = " "), "Ranks are not used", fixed = TRUE)
  # a column of that name is what is meant
  own <- ask(open_study(cbind(rows, ranks = rep(1:5, 18))), "average dose by ranks")
  expect_false(any(grepl("Ranks are not used", as.list(own)$reading$assumed, fixed = TRUE)))
})
