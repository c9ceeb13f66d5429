test_that("follow-ups keep what was asked and change what they name", {
  a <- ask(hive_study(), "Does the honey yield differ between syrup and control?")
  north <- ask(a, "only in the north")
  expect_setequal(filters_of(north), c("arm in syrup|control", "region == north"))
  south <- ask(north, "and in the south?")
  expect_setequal(filters_of(south), c("arm in syrup|control", "region == south"))
  ranks <- ask(a, "use a rank test")
  expect_equal(method_of(ranks), "mann_whitney")
  expect_equal(reading(ranks)$outcome, "honey_yield_kg")
  level <- ask(a, "at 99 % confidence")
  expect_equal(value_of(level, "conf_level"), 0.99)
  other <- ask(a, "and the queen age?")
  expect_equal(reading(other)$outcome, "queen_age_months")
  # the two arms make the groups; the region was a condition
  expect_equal(filters_of(ask(north, "drop the filter")), "arm in syrup|control")
  expect_length(filters_of(ask(ask(hive_study(), "mean honey yield in the north"), "remove the filters")), 0)
})

test_that("a question of its own starts anew even after an answer", {
  a <- ask(hive_study(), "mean honey yield in the north")
  b <- ask(a, "What is the correlation between queen age and mites before?")
  expect_length(reading(b)$filters, 0)
  expect_equal(method_of(b), "pearson")
})

test_that("an explanation is about the answer before it", {
  a <- ask(hive_study(), "Does the honey yield differ between syrup and control?")
  e <- ask(a, "What does the p value mean?")
  expect_equal(reading(e)$task, "explain")
  expect_equal(value_of(e, "p_value"), value_of(a, "p_value"))
})

sales_team <- function() with_seed(91, { n <- 240
  data.frame(rep = rep(paste("Rep", LETTERS[1:8]), each = 30), region = rep(c("North", "South"), each = 120),
             month = rep(seq(as.Date("2023-01-01"), by = "month", length.out = 30), 8), deals_won = rpois(n, 6), sales_eur = round(rgamma(n, 9,
                 0.0002))) })
chain <- function(study, ...) { a <- NULL; for (q in c(...)) a <- if (is.null(a)) ask(study, q) else ask(a, q); a }

test_that("after a share of the total the totals come back: ranked, tested, by period", {
  d <- sales_team(); s <- open_study(d)
  lead <- c("total sales by rep", "by region instead", "as a share of the total")
  expect_equal(method_of(do.call(chain, c(list(s), as.list(lead)))), "share_of_total")
  low <- chain(s, lead, "which is lowest?")
  expect_equal(method_of(low), "rank_table")
  total <- tapply(d$sales_eur, d$region, sum)
  expect_match(as.list(low)$sentences$headline, names(which.min(total)))
  test <- chain(s, lead, "is that difference significant?")
  expect_equal(value_of(test, "p_value"), t.test(sales_eur ~ region, d)$p.value, tolerance = 1e-8)
  by_month <- chain(s, "total sales by region", "per month")
  expect_equal(reading(by_month)$task, "trend")
  t <- table_of(by_month, "time")
  expect_equal(sum(t$sum), sum(d$sales_eur))
  expect_retraces(by_month)
})

test_that("a rank test stays one when the groups change, a picture gives way to a model", {
  skip_if_not_installed("MASS")
  b <- MASS::birthwt
  d <- data.frame(race = c("white", "black", "other")[b$race], smoker = ifelse(b$smoke == 1, "yes", "no"), mother_weight_lb = b$lwt,
      birth_weight_g = b$bwt)
  s <- open_study(d)
  k <- chain(s, "is birth weight lower among smokers?", "use a rank test", "by race")
  expect_equal(method_of(k), "kruskal_wallis")
  expect_equal(value_of(k, "p_value"), kruskal.test(birth_weight_g ~ factor(race), d)$p.value, tolerance = 1e-10)
  m <- chain(s, "does birth weight differ by race?", "as a box plot", "adjust for mother's weight")
  fit <- anova(lm(birth_weight_g ~ mother_weight_lb, d), lm(birth_weight_g ~ mother_weight_lb + race, d))
  expect_equal(method_of(m), "linear_regression")
  expect_equal(value_of(m, "p_value"), fit[["Pr(>F)"]][2], tolerance = 1e-8)
})

test_that("of a model that compares groups another outcome can be asked; after a model of the hazard the curves", {
  d <- with_seed(92, { pre <- round(rnorm(80, 50, 9)); data.frame(method = rep(c("new", "old"), 40), pretest = pre, posttest = pre + round(rnorm(80,
      5, 6)),
                                                               followup = pre + round(rnorm(80, 4, 6))) })
  a <- chain(open_study(d), "compare posttest between methods", "adjusting for pretest", "what about the followup?")
  expect_equal(unlist(reading(a)[c("outcome", "predictors", "adjust_for")], use.names = FALSE), c("followup", "method", "pretest"))
  fit <- summary(lm(followup ~ pretest + method, d))$coefficients
  expect_equal(abs(value_of(a, "estimate")), abs(fit["methodold", 1]), tolerance = 1e-8)
  skip_if_not_installed("survival")
  l <- with(survival::lung, data.frame(survival_days = time, status = c("censored", "dead")[status], age = age, sex = c("male", "female")[sex]))
  k <- chain(open_study(l), "median survival by sex", "cox regression adjusting for age", "what about survival at 200 days?")
  own <- summary(survival::survfit(survival::Surv(survival_days, status == "dead") ~ sex, l), times = 200)
  expect_equal(table_of(k, "groups")$survival_at, own$surv, tolerance = 1e-10)
})

test_that("a share gives way to another measure, is tested as it stands, and is told per an exposure", {
  set.seed(21)
  n <- 300
  d <- data.frame(id = seq_len(n), variant = sample(c("a", "b", "c"), n, TRUE), country = sample(c("DE", "FR", "UK"), n, TRUE),
                  converted = sample(c("Yes", "No"), n, TRUE), minutes = round(stats::rexp(n, 1 / 20), 1), revenue = round(stats::rexp(n, 1 / 30), 2))
  s <- open_study(local_data(d))
  a <- ask(ask(s, "conversion rate by variant"), "now by country")
  tested <- ask(a, "is that significant?")
  expect_equal(value_of(tested, "p_value"), stats::chisq.test(table(d$converted, d$country), correct = FALSE)$p.value, tolerance = 1e-8)
  expect_retraces(tested)
  b <- ask(a, "what about revenue?")
  expect_equal(as.numeric(table_of(b, "groups")$mean), as.vector(tapply(d$revenue, d$country, mean)), tolerance = 1e-10)
  b <- ask(tested, "what about revenue?")
  expect_equal(value_of(b, "p_value"), stats::oneway.test(revenue ~ country, d)$p.value, tolerance = 1e-8)
  top <- ask(ask(s, "average revenue by country"), "top 2")
  expect_equal(table_of(top, "ranking")$mean, sort(as.vector(tapply(d$revenue, d$country, mean)), decreasing = TRUE)[1:2])
  rate <- ask(a, "per 1000 minutes")
  expect_equal(value_of(rate, "estimate"), 1000 * sum(d$converted == "Yes") / sum(d$minutes), tolerance = 1e-9)
})

test_that("a value at another visit is held constant, and what is explained is not", {
  set.seed(22)
  n <- 60
  d <- expand.grid(subject = 1000 + seq_len(n), visit = c("Baseline", "Week 12"))
  d$arm <- rep_len(c("active", "placebo"), n)[match(d$subject, 1000 + seq_len(n))]
  d$age <- round(stats::rnorm(n, 50, 9))[match(d$subject, 1000 + seq_len(n))]
  d$sbp <- round(stats::rnorm(n, 150, 8)[match(d$subject, 1000 + seq_len(n))] - 5 * (d$visit != "Baseline") + stats::rnorm(2 * n, 0, 4))
  s <- open_study(local_data(d))
  a <- ask(ask(s, "sbp by arm at week 12"), "adjust for age")
  b <- ask(a, "and for baseline sbp")
  last <- d[d$visit == "Week 12", ]
  last$first <- d$sbp[d$visit == "Baseline"]
  expect_equal(abs(value_of(b, "estimate")), abs(stats::coef(stats::lm(sbp ~ arm + age + first, last))[[2]]), tolerance = 1e-8)
  expect_equal(reading(ask(a, "adjust for sbp"))$adjust_for, "age")
})

test_that("whether a relation is straight is asked of models held against each other, on the rows of the answer before", {
  a <- ask(hive_study(), "correlation between honey yield and strength before in the north")
  b <- ask(a, "is it linear?")
  expect_equal(method_of(b), "model_comparison")
  expect_equal(filters_of(b), filters_of(a))
  expect_retraces(b)
})

test_that("a rank test after a model is of its groups, and says what is no longer held constant", {
  s <- hive_study(); d <- as.data.frame(s)
  a <- ask(ask(ask(s, "does honey yield differ between syrup and control"), "and with queen age held constant"), "use a rank test")
  own <- d[d$arm %in% c("syrup", "control") & !is.na(d$honey_yield_kg) & !is.na(d$queen_age_months), ]
  expect_equal(value_of(a, "p_value"), suppressWarnings(wilcox.test(honey_yield_kg ~ factor(arm), own, exact = FALSE)$p.value), tolerance = 1e-8)
  expect_match(paste(reading(a)$assumed, collapse = " "), "no longer held constant")
  expect_length(reading(a)$adjust_for, 0)
  b <- ask(ask(s, "does swarmed differ by arm"), "how was this computed?")
  expect_equal(reading(b)$task, "explain")
})

test_that("groups after a change over times divide the change, and a matrix of correlations is not divided", {
  rows <- data.frame(athlete = rep(sprintf("P%02d", 1:12), each = 4), squad = rep(c("A", "B"), each = 24), week = rep(1:4, 12),
                     jump_cm = 40 + rep(1:12, each = 4) / 3 + rep(1:4, 12) / 2 + sin(1:48), load_au = 400 + 30 * cos(1:48 * 1.3), sleep_h = 7 + cos(1:48))
  s <- open_study(local_data(rows))
  first <- ask(s, "jump in week 1 vs week 4")
  expect_equal(method_of(first), "t_paired")
  expect_equal(method_of(ask(first, "by squad")), "anova_mixed")
  matrix <- ask(s, "correlations between jump, load and sleep")
  divided <- ask(matrix, "by squad")
  expect_equal(status_of(divided), "cannot_answer")
  expect_match(as.list(divided)$sentences$headline, "by GROUPS")
})
