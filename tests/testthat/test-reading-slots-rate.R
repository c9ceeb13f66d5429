# One amount as part of another, and durations.

test_that("the share of one amount that is the other is total over total", {
  d <- claim_data()
  a <- ask(open_study(d), "what percent of the claimed amount is paid out?")
  expect_equal(value_of(a, "estimate"), sum(d$amount_paid) / sum(d$amount_claimed), tolerance = 1e-10)
  expect_retraces(a)
})

test_that("a duration is found by long, slow and the noun of its unit", {
  d <- claim_data()
  s <- open_study(d)
  expect_equal(value_of(ask(s, "how long does it take to settle a claim on average?"), "estimate"), mean(d$days_to_settle), tolerance = 1e-10)
  a <- ask(s, "do fraud claims take longer?")
  expect_equal(value_of(a, "p_value"), t.test(days_to_settle ~ fraud_flag, d)$p.value, tolerance = 1e-9)
  expect_equal(reading(ask(s, "which handler is slowest?"))$outcome, "days_to_settle")
  expect_match(as.list(ask(s, "settlement time by policy type"))$sentences$headline, "days\\)")
})

test_that("a chance at a stated duration is that of a model, not of the few rows with just that value", {
  d <- claim_data()
  a <- ask(open_study(d), "what's the chance of a complaint if it takes 90 days?")
  expect_equal(method_of(a), "logistic_regression")
  own <- predict(glm(complaint == "Yes" ~ days_to_settle, binomial, d), data.frame(days_to_settle = 90), type = "response")
  expect_match(as.list(a)$sentences$headline, sprintf("%.1f %%", 100 * own), fixed = TRUE)
})

test_that("whether an amount is log-normal is a question about its logarithm", {
  d <- claim_data()
  a <- ask(open_study(d), "is the amount claimed log-normal?")
  expect_equal(value_of(a, "p_value"), shapiro.test(log(d$amount_claimed))$p.value, tolerance = 1e-3)
})

test_that("what heads a question and is measured nowhere is not passed over", {
  s <- open_study(claim_data())
  for (q in c("load factor by handler", "performance by policy type")) expect_true(status_of(ask(s, q)) %in% c("cannot_answer", "needs_choice"),
      info = q)
  expect_equal(filters_of(ask(s, "how many claims were made on rainy days?")), "weather == rain")
})

test_that("trips numbered without gaps are counted once, and nights are the rows they stand for", {
  d <- catch_data()
  s <- open_study(d)
  a <- ask(s, "how many trips did each vessel make?")
  expect_setequal(table_of(a, "groups")$distinct, as.integer(tapply(d$trip, d$vessel, function(v) length(unique(v)))))
  b <- ask(s, "proportion of small fish (under 40cm) discarded")
  expect_equal(value_of(b, "estimate"), mean(d$discarded[d$length_cm < 40] == "yes"), tolerance = 1e-10)
  c <- ask(s, "does the length weight relationship differ between species?")
  expect_equal(method_of(c), "correlation_by_group")
  e <- ask(s, "are longline fish longer, allowing for species?")
  own <- summary(lm(length_cm ~ gear + species, d))$coefficients["geartrawl", ]
  expect_equal(value_of(e, "p_value"), own[["Pr(>|t|)"]], tolerance = 1e-8)
})

test_that("a time to an end is found by the noun of its verb, and no other column ends another duration", {
  d <- ticket_data()
  s <- open_study(d)
  a <- ask(s, "average resolution time by team")
  expect_equal(sort(table_of(a, "groups")$mean), sort(as.numeric(tapply(d$hours_to_resolve, d$team, mean, na.rm = TRUE))), tolerance = 1e-10)
  b <- ask(s, "how long until the first reply?")
  expect_equal(value_of(b, "estimate"), mean(d$first_reply_h), tolerance = 1e-10)
  expect_equal(value_of(ask(s, "average csat excluding missing"), "estimate"), mean(d$csat, na.rm = TRUE), tolerance = 1e-10)
  expect_equal(reading(ask(s, "busiest hour"))$outcome, character())
  expect_true(status_of(ask(s, "are Network tickets resolved faster?")) %in% c("cannot_answer", "needs_choice"))
})

test_that("stores under their numbers are groups, and weeks with something are the rows", {
  d <- store_data()
  s <- open_study(d)
  expect_equal(codebook(s)$kind[codebook(s)$column == "store_no"], "category")
  a <- ask(s, "how many stores in each region?")
  expect_setequal(table_of(a, "groups")$distinct, as.integer(tapply(d$store_no, d$region, function(v) length(unique(v)))))
  b <- ask(s, "are refunds higher during promo weeks?")
  expect_equal(value_of(b, "p_value"), t.test(refunds_eur ~ promo, d)$p.value, tolerance = 1e-9)
  c <- ask(s, "refunds as a share of revenue by region")
  expect_equal(sort(table_of(c, "rates")$rate), sort(as.numeric(tapply(d$refunds_eur, d$region, sum) / tapply(d$revenue_eur, d$region, sum))),
               tolerance = 1e-9)
  e <- ask(s, "do promotions lift revenue?")
  expect_equal(value_of(e, "p_value"), t.test(revenue_eur ~ promo, d)$p.value, tolerance = 1e-9)
  expect_match(paste(unlist(reading(ask(s, "rank stores by revenue per visitor"))$assumed), collapse = " "), "each row as one visitor")
})

test_that("names with marks in them are the columns, and the worst hour is that of most dirt", {
  s <- open_study(air_data())
  expect_equal(reading(ask(s, "is there a trend in PM2.5?"))$outcome, "pm25")
  a <- ask(s, "worst hour for pm25")
  expect_match(as.list(a)$sentences$headline, "is highest in")
  expect_equal(reading(ask(s, "when is NO2 highest during the day?"))$time$every, "hour")
  b <- ask(s, "does wind disperse pm25?")
  expect_equal(value_of(b, "estimate"), cor(air_data()$wind_ms, air_data()$pm25), tolerance = 1e-9)
})

fall_data <- function(n = 150) with_seed(61, {
  d <- data.frame(patient = sprintf("P%03d", seq_len(n)), arm = sample(c("control", "drug"), n, TRUE), ward = sample(c("A", "B", "C"), n, TRUE),
                  age = sample(50:90, n, TRUE), patient_days = sample(3:200, n, TRUE), cost = round(rgamma(n, 3, 0.01)))
  d$falls <- rpois(n, d$patient_days / 40 * ifelse(d$arm == "drug", 0.6, 1))
  d
})

test_that("do falls per day differ: totals over totals in every group, tested without a kind of distribution", {
  d <- fall_data(); s <- open_study(d)
  a <- ask(s, "do falls per day differ between the arms?")
  expect_equal(method_of(a), "rate_table")
  parts <- lapply(split(d, d$arm), function(p) { r <- sum(p$falls) / sum(p$patient_days)
    c(r = r, v = var(p$falls - r * p$patient_days) / nrow(p) / mean(p$patient_days)^2, n = nrow(p)) })
  e <- parts$control[["r"]] - parts$drug[["r"]]; v <- c(parts$control[["v"]], parts$drug[["v"]])
  df <- sum(v)^2 / sum(v^2 / (c(parts$control[["n"]], parts$drug[["n"]]) - 1))
  expect_equal(value_of(a, "estimate"), e, tolerance = 1e-12)
  expect_equal(value_of(a, "se"), sqrt(sum(v)), tolerance = 1e-12)
  expect_equal(value_of(a, "p_value"), 2 * pt(-abs(e / sqrt(sum(v))), df), tolerance = 1e-10)
  expect_equal(value_of(a, "rate_ratio"), parts$control[["r"]] / parts$drug[["r"]], tolerance = 1e-12)
  expect_retraces(a)
  # the same error as a jackknife over patients, and near a quasi-Poisson model's test
  left <- vapply(seq_len(nrow(d)), function(i) { r <- tapply(d$falls[-i], d$arm[-i], sum) / tapply(d$patient_days[-i], d$arm[-i], sum)
    r[["control"]] - r[["drug"]] }, 1)
  expect_equal(value_of(a, "se"), sqrt((nrow(d) - 1) / nrow(d) * sum((left - mean(left))^2)), tolerance = 0.05)
  model <- glm(falls ~ arm + offset(log(patient_days)), quasipoisson, d)
  expect_equal(value_of(a, "rate_ratio"), exp(-coef(model)[["armdrug"]]), tolerance = 0.02)
  b <- ask(s, "do falls per day differ between wards?")
  expect_equal(c(value_of(b, "df1"), nrow(table_of(b, "rates"))), c(2, 3))
  expect_retraces(b)
})

test_that("per day is the column of days watched, whatever the question, and not where no column holds them", {
  d <- fall_data(); s <- open_study(d)
  rate <- sum(d$falls) / sum(d$patient_days)
  expect_equal(value_of(ask(s, "falls per day"), "estimate"), rate, tolerance = 1e-12)
  expect_equal(value_of(ask(s, "falls per 1,000 patient days"), "estimate"), 1000 * rate, tolerance = 1e-12)
  expect_equal(table_of(ask(s, "mean falls per day by ward"), "rates")$rate,
               as.numeric(tapply(d$falls, d$ward, sum) / tapply(d$patient_days, d$ward, sum)), tolerance = 1e-12)
  one <- ask(s, "is the rate of falls per day lower in the drug arm?")
  expect_equal(value_of(one, "rate_ratio"), value_of(ask(s, "compare falls per day between the arms"), "rate_ratio"))
  expect_equal(length(filters_of(one)), 0L)
  names(d)[5] <- "delivery_days"
  expect_false(identical(method_of(ask(open_study(d), "falls per day by ward")), "rate_table"))
})

test_that("a model of a count per day takes the days as its exposure, whichever words ask for it", {
  d <- fall_data(); s <- open_study(d)
  ref <- glm(falls ~ ward + age + offset(log(patient_days)), poisson, d, control = glm.control(epsilon = 1e-13))
  for (q in c("how do falls per day depend on ward and age?", "poisson regression of falls per day on ward and age",
              "poisson regression of falls on ward and age with exposure patient_days")) {
    a <- ask(s, q)
    expect_equal(method_of(a), "poisson_regression", info = q)
    t <- table_of(a, "coefficients")
    expect_equal(t$estimate, unname(coef(ref)), tolerance = 1e-8, info = q)
    expect_equal(t$se, unname(summary(ref)$coefficients[, 2]), tolerance = 1e-6, info = q)
  }
  expect_retraces(a)
})
