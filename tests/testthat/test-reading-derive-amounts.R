# Amounts that are there at all, what is left, what was lost, periods, logarithms, rows that are numbered.

order_rows <- function() with_seed(771, {
  n <- 400
  out <- data.frame(order_id = 500000 + seq_len(n), customer_id = sample(sprintf("C%03d", 1:150), n, TRUE),
                    order_date = as.Date("2025-01-01") + sample(0:272, n, TRUE), channel = sample(c("web", "app", "phone"), n, TRUE),
                    country = sample(c("DE", "FR", "IT"), n, TRUE), items = 1 + rpois(n, 1.6), discount_pct = sample(c(0, 0, 0, 5, 10, 20), n, TRUE))
  out$revenue_eur <- round(out$items * rlnorm(n, 3, 0.4), 2)
  out$shipping_eur <- round(runif(n, 0, 9), 2)
  out$delivery_days <- 1 + rpois(n, 3)
  out$returned <- rbinom(n, 1, 0.2)
  out$rating <- sample(1:5, n, TRUE)
  out
})

night_rows <- function() with_seed(4, {
  out <- expand.grid(night = 1:8, person = 1:20)[, 2:1]
  out$area <- ifelse(out$person %% 2 == 1, "airport", "quiet")
  out$noise_db <- round(rnorm(160, ifelse(out$area == "airport", 48, 42), 5), 1)
  out$sleep_min <- round(440 - 1.6 * (out$noise_db - 42) + rnorm(160, 0, 22))
  out$awakenings <- rpois(160, 1.5)
  out
})

haul_rows <- function() with_seed(9, {
  n <- 150
  out <- data.frame(haul = seq_len(n), vessel = sample(c("Aurora", "Borealis"), n, TRUE), duration_min = sample(c(20, 30, 45), n, TRUE),
                    temp_c = round(rnorm(n, 8, 1), 1), catch_kg = round(rlnorm(n, 4, 0.6), 1))
  out$bycatch_kg <- round(out$catch_kg * runif(n, 0, 0.4), 1)
  out$temp_c[1:7] <- NA
  out$catch_kg[11] <- 4000
  out
})

test_that("with any of something is above nothing", {
  rows <- order_rows()
  s <- open_study(rows)
  expect_equal(value_of(ask(s, "share of orders with a discount"), "estimate"), mean(rows$discount_pct > 0), tolerance = 1e-12)
  a <- ask(s, "average revenue when there is a discount")
  expect_equal(value_of(a, "estimate"), mean(rows$revenue_eur[rows$discount_pct > 0]), tolerance = 1e-12)
  expect_equal(value_of(ask(s, "what percentage of orders were discounted?"), "estimate"), mean(rows$discount_pct > 0), tolerance = 1e-12)
})

test_that("net of is a difference, what was lost a total, and two quarters are compared", {
  rows <- order_rows()
  s <- open_study(rows)
  a <- ask(s, "revenue net of shipping by channel")
  t <- table_of(a, "groups")
  own <- tapply(rows$revenue_eur - rows$shipping_eur, rows$channel, mean)
  expect_equal(stats::setNames(t$mean, t[[1]])[names(own)], c(own), tolerance = 1e-12, ignore_attr = TRUE)
  expect_equal(value_of(ask(s, "how much revenue was lost to returns?"), "estimate"), sum(rows$revenue_eur[rows$returned == 1]), tolerance = 1e-12)
  quarter <- quarters(rows$order_date)
  two <- rows[quarter %in% c("Q1", "Q2"), ]
  a <- ask(s, "revenue in Q2 vs Q1")
  expect_equal(value_of(a, "p_value"), stats::t.test(revenue_eur ~ quarters(order_date), two)$p.value, tolerance = 1e-9)
})

test_that("a condition whose other side is asked about divides the rows, and a total divides so too", {
  rows <- order_rows()
  s <- open_study(rows)
  a <- ask(s, "is rating lower when delivery takes more than 4 days?")
  expect_equal(value_of(a, "p_value"), stats::t.test(rating ~ delivery_days > 4, rows)$p.value, tolerance = 1e-9)
  a <- ask(s, "what share of revenue comes from orders with more than 3 items?")
  own <- tapply(rows$revenue_eur, rows$items > 3, sum) / sum(rows$revenue_eur)
  expect_equal(sort(table_of(a, "shares")$percent / 100), sort(as.vector(own)), tolerance = 1e-9)
  seen <- table(rows$customer_id)[rows$customer_id] > 1
  a <- ask(s, "what share of revenue comes from repeat customers?")
  expect_equal(max(table_of(a, "shares")$percent) / 100, max(tapply(rows$revenue_eur, as.vector(seen), sum)) / sum(rows$revenue_eur), tolerance = 1e-9)
})

test_that("totals of units count each unit once, under conditions and in follow-ups, and retrace", {
  rows <- order_rows()
  s <- open_study(rows)
  a <- ask(s, "average revenue per customer")
  own <- tapply(rows$revenue_eur, rows$customer_id, sum)
  expect_equal(value_of(a, "estimate"), mean(own), tolerance = 1e-12)
  expect_match(reading(a)$assumed, "Each customer_id counts once", all = FALSE)
  expect_retraces(a)
  b <- ask(a, "only web")
  web <- rows[rows$channel == "web", ]
  expect_equal(value_of(b, "estimate"), mean(tapply(web$revenue_eur, web$customer_id, sum)), tolerance = 1e-12)
  expect_retraces(b)
  expect_equal(value_of(ask(b, "drop the filters"), "estimate"), mean(own), tolerance = 1e-12)
  # a question of its own goes back to the rows
  expect_equal(value_of(ask(b, "what is the mean revenue?"), "estimate"), mean(rows$revenue_eur), tolerance = 1e-12)
  a <- ask(s, "median number of orders per customer")
  expect_equal(value_of(a, "estimate"), stats::median(as.vector(table(rows$customer_id))))
  a <- ask(s, "average revenue per customer by country")
  each <- stats::aggregate(revenue_eur ~ customer_id + country, rows, sum)
  own <- tapply(each$revenue_eur, each$country, mean)
  t <- table_of(a, "groups")
  expect_equal(stats::setNames(t$mean, t[[1]])[names(own)], c(own), tolerance = 1e-12, ignore_attr = TRUE)
  expect_retraces(a)
  back <- tapply(rows$returned, rows$customer_id, sum) > 0
  expect_equal(value_of(ask(s, "what share of customers returned something at least once"), "estimate"), mean(back), tolerance = 1e-12)
  expect_equal(value_of(ask(s, "which customers never returned anything"), "n"), sum(!back))
  # what cannot be done with totals is never done with rows instead
  expect_equal(status_of(ask(s, "average revenue per customer over time")), "cannot_answer")
  # what does not add up stays a mean of rows
  expect_equal(reading(ask(s, "average rating per customer"))$by, "customer_id")
  a <- ask(s, "top 3 customers by revenue")
  expect_equal(value_of(a, "estimate"), max(tapply(rows$revenue_eur, rows$customer_id, sum)), tolerance = 1e-12)
})

test_that("totals of units follow a join by their key", {
  rows <- order_rows()
  customers <- data.frame(customer_id = sprintf("C%03d", 1:160), segment = rep(c("home", "trade"), 80))
  s <- open_study(list(orders = rows, customers = customers))
  a <- ask(s, "average revenue per customer by segment")
  each <- stats::aggregate(revenue_eur ~ customer_id, rows, sum)
  own <- tapply(each$revenue_eur, customers$segment[match(each$customer_id, customers$customer_id)], mean)
  t <- table_of(a, "groups")
  expect_equal(stats::setNames(t$mean, t[[1]])[names(own)], c(own), tolerance = 1e-12, ignore_attr = TRUE)
  expect_retraces(a)
  expect_equal(status_of(ask(s, "how many customers never bought anything?")), "cannot_answer")
})

test_that("numbered nights are rows, adjectives are bounds, and one place is set against the others", {
  rows <- night_rows()
  s <- open_study(rows)
  expect_equal(value_of(ask(s, "how many nights were noisier than 50 dB?"), "estimate"), sum(rows$noise_db > 50))
  expect_equal(value_of(ask(s, "nights with more than 3 awakenings"), "n"), sum(rows$awakenings > 3))
  expect_equal(value_of(ask(s, "how many awakenings per night?"), "estimate"), mean(rows$awakenings), tolerance = 1e-12)
  a <- ask(s, "is noise louder near the airport?")
  expect_equal(value_of(a, "p_value"), stats::t.test(noise_db ~ area, rows)$p.value, tolerance = 1e-9)
  a <- ask(s, "which person sleeps the least?")
  expect_equal(value_of(a, "estimate"), min(tapply(rows$sleep_min, rows$person, mean)), tolerance = 1e-12)
})

test_that("rates per time spent, no measurement, logarithms, and outliers that are not simply dropped", {
  rows <- haul_rows()
  s <- open_study(rows)
  a <- ask(s, "catch per hour by vessel")
  own <- 60 * tapply(rows$catch_kg, rows$vessel, sum) / tapply(rows$duration_min, rows$vessel, sum)
  t <- table_of(a, "rates")
  expect_equal(stats::setNames(t$rate, t$group)[names(own)], c(own), tolerance = 1e-9, ignore_attr = TRUE)
  expect_retraces(a)
  a <- ask(s, "bycatch rate by vessel")
  own <- 100 * tapply(rows$bycatch_kg, rows$vessel, sum) / tapply(rows$catch_kg, rows$vessel, sum)
  t <- table_of(a, "rates")
  expect_equal(stats::setNames(t$rate, t$group)[names(own)], c(own), tolerance = 1e-9, ignore_attr = TRUE)
  expect_equal(value_of(ask(s, "how many hauls have no temperature?"), "estimate"), 7)
  a <- ask(s, "does a log transform make catch normal?")
  expect_equal(value_of(a, "statistic"), unname(stats::shapiro.test(log(rows$catch_kg))$statistic), tolerance = 1e-6)
  a <- ask(s, "compare catch between vessels after removing outliers")
  expect_equal(status_of(a), "needs_choice")
  expect_equal(method_of(ask(a, "1")), "mann_whitney")
  # the one slip in a long tail is told, the tail is not
  told <- look(s)
  expect_match(paste(format(told), collapse = "\n"), "4000")
})

test_that("a letter at the end of a name is a unit only of what can have a temperature", {
  rows <- data.frame(cultivar = rep(c("c39", "c52"), each = 8), head_kg = with_seed(2, rnorm(16, 2.6, 0.5)), vitamin_c = with_seed(3, rnorm(16, 57, 8)),
                     air_c = with_seed(4, rnorm(16, 18, 2)))
  s <- open_study(rows)
  unit <- vapply(internal("all_columns")(s), function(col) if (is.null(col$unit)) "" else col$unit, "")
  names(unit) <- vapply(internal("all_columns")(s), `[[`, "", "name")
  expect_equal(unit[["vitamin_c"]], "")
  expect_equal(unit[["air_c"]], "\u00b0C")
  a <- ask(s, "adjust the cultivar comparison of vitamin c for head weight")
  own <- summary(stats::lm(vitamin_c ~ cultivar + head_kg, rows))$coefficients[2, ]
  expect_equal(abs(value_of(a, "estimate")), abs(own[["Estimate"]]), tolerance = 1e-8)
  b <- ask(ask(s, "correlation of head weight and vitamin c"), "and within each cultivar?")
  expect_equal(method_of(b), "correlation_by_group")
})

test_that("what is asked by words is what is computed: shortest, with and without, number of, ratio to, log scales, a log that is there", {
  rows <- with_seed(6, data.frame(unit = sprintf("U%02d", 1:40), site = rep(c("Elm", "Oak"), 20), treated = sample(c("yes", "no"), 40, TRUE),
                                  wait_min = round(rexp(40, 1 / 30)) + 1, visits = rpois(40, 3), brain_g = rlnorm(40, 2), body_kg = rlnorm(40, 4)))
  s <- open_study(rows)
  mean_of <- function(column, by) tapply(rows[[column]], rows[[by]], mean)
  expect_equal(value_of(ask(s, "which site has the shortest wait?"), "estimate"), min(mean_of("wait_min", "site")), tolerance = 1e-12)
  t <- table_of(ask(s, "average wait with and without treatment"), "groups")
  expect_equal(stats::setNames(t$mean, t[[1]])[c("no", "yes")], c(mean_of("wait_min", "treated"))[c("no", "yes")], tolerance = 1e-12, ignore_attr = TRUE)
  a <- ask(s, "correlation between wait and number of visits")
  expect_equal(value_of(a, "estimate"), stats::cor(rows$wait_min, rows$visits), tolerance = 1e-12)
  expect_equal(value_of(ask(s, "brain to body ratio: top 3"), "estimate"), max(rows$brain_g / rows$body_kg), tolerance = 1e-12)
  a <- ask(s, "brain against body on log scales")
  expect_equal(value_of(a, "estimate"), stats::cor(log(rows$brain_g), log(rows$body_kg)), tolerance = 1e-12)
  names(rows)[6] <- "log_size"
  a <- ask(open_study(rows), "mean log size by site")
  expect_equal(reading(a)$outcome, "log_size")
})

test_that("numbers of blocks are no measures, letters that stand for nothing are told, follow-ups keep event and column", {
  peas <- with_seed(7, data.frame(block = rep(1:6, each = 4), nitrogen = rep(c("yes", "no"), 12), pea_yield = rnorm(24, 55, 6)))
  s <- open_study(peas)
  expect_equal(reading(ask(s, "do the nitrogen groups differ?"))$outcome, "pea_yield")
  expect_equal(status_of(ask(s, "anova of yield on n p k with block")), "cannot_answer")
  items <- with_seed(8, data.frame(clinic = sample(c("Elm", "Oak"), 80, TRUE), age = sample(20:80, 80, TRUE),
                                   friendly = factor(sample(c("disagree", "neither", "agree"), 80, TRUE), c("disagree", "neither", "agree"), ordered = TRUE)))
  s <- open_study(items)
  a <- ask(ask(s, "what share agree that staff were friendly"), "by clinic")
  own <- tapply(items$friendly == "agree", items$clinic, mean)
  t <- table_of(a, "shares")
  expect_equal(stats::setNames(t$share, t$group)[names(own)], c(own), tolerance = 1e-12, ignore_attr = TRUE)
  a <- ask(ask(s, "average age where age is over 50"), "and under 40?")
  expect_equal(value_of(a, "estimate"), mean(items$age[items$age < 40]), tolerance = 1e-12)
})

visits <- function() {
  set.seed(14)
  n <- 160
  d <- data.frame(order_no = 10001:(10000 + n), branch = sample(c("Harbour", "Station"), n, TRUE), channel = sample(c("dine-in", "delivery"), n, TRUE),
    guests = sample(1:6, n, TRUE), bill_eur = round(stats::rnorm(n, 60, 9), 2), tip_eur = round(stats::runif(n, 0, 9), 2),
    wind = round(pmax(0, stats::rnorm(n, 2, 2)), 1), rating = sample(c(1:5, NA), n, TRUE), complaint = sample(0:1, n, TRUE),
    damp = sample(c("Yes", "No", "Don't know"), n, TRUE), household_size = sample(1:5, n, TRUE), wait_min = round(stats::rgamma(n, 4, 0.2)))
  d
}

test_that("an amount per what is counted is a total over a total", {
  d <- visits()
  s <- open_study(local_data(d))
  a <- ask(s, "average bill per guest by branch")
  expect_equal(table_of(a, "rates")$rate, as.vector(tapply(d$bill_eur, d$branch, sum) / tapply(d$guests, d$branch, sum)), tolerance = 1e-9)
  expect_retraces(a)
  a <- ask(s, "tip as a percentage of the bill")
  expect_equal(value_of(a, "estimate"), 100 * sum(d$tip_eur) / sum(d$bill_eur), tolerance = 1e-9)
  a <- ask(s, "bill per person")
  expect_equal(value_of(a, "estimate"), sum(d$bill_eur) / sum(d$household_size), tolerance = 1e-9)
})

test_that("rows at zero, missing values by group and yes among three answers are what they say", {
  d <- visits()
  s <- open_study(local_data(d))
  expect_equal(value_of(ask(s, "how many orders had no wind"), "n"), sum(d$wind == 0))
  a <- ask(s, "orders with no wind at all")
  expect_equal(as.list(a)$reading$filters[[1]][c("column", "op")], list(column = "wind", op = "=="))
  a <- ask(s, "is the rating missing more often for delivery")
  expect_equal(as.list(a)$reading$outcome[[1]], "rating_missing")
  expect_equal(as.list(a)$reading$by[[1]], "channel")
  a <- ask(s, "share of homes with damp by branch")
  expect_equal(sort(as.numeric(table_of(a, "shares")$share)), sort(as.vector(tapply(d$damp == "Yes", d$branch, mean))), tolerance = 1e-9)
  a <- ask(s, "do complaints go up with waiting time")
  fit <- stats::glm(complaint ~ wait_min, stats::binomial, d)
  expect_true(any(abs(as.numeric(table_of(a, "coefficients")$estimate) - exp(stats::coef(fit)[[2]])) < 1e-5) ||
                any(abs(as.numeric(table_of(a, "coefficients")$estimate) - stats::coef(fit)[[2]]) < 1e-5))
})

test_that("the best reduction of a burden is the largest", {
  set.seed(3)
  d <- data.frame(therapist = rep(c("A", "B", "C"), 20), pain_intake = sample(4:9, 60, TRUE))
  d$pain_discharge <- pmax(0, d$pain_intake - sample(0:5, 60, TRUE))
  s <- open_study(local_data(d))
  drop <- tapply(d$pain_intake - d$pain_discharge, d$therapist, mean)
  expect_equal(value_of(ask(s, "which therapist gets the best pain reduction"), "estimate"), max(drop), tolerance = 1e-9)
  expect_equal(value_of(ask(s, "which therapist had the worst pain reduction"), "estimate"), min(drop), tolerance = 1e-9)
})
