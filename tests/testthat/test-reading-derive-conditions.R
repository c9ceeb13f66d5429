trial <- hive_study()
rows <- read.csv(demo_file(), na.strings = c("", "NA", "-99"))
yield_where <- function(keep) mean(rows$honey_yield_kg[which(keep)], na.rm = TRUE)
expect_mean <- function(q, keep) expect_equal(value_of(ask(trial, q), "estimate"), yield_where(keep), tolerance = 1e-10, info = q)

test_that("parts of another column are bounds at its quantiles", {
  s <- rows$strength_before
  expect_mean("mean honey yield of hives in the top quarter of strength before", s >= quantile(s, 0.75))
  expect_mean("mean yield of the weakest quarter of hives by strength before", s <= quantile(s, 0.25))
  expect_mean("mean honey yield among the bottom 10 % of strength before", s <= quantile(s, 0.1))
  expect_mean("mean honey yield where strength before is above average", s > mean(s))
  # what the question ranks itself is no condition
  expect_equal(reading(ask(trial, "show the top 10 % of hives by honey yield"))$task, "rank")
})

test_that("ends that are left out are bounds on the measure itself", {
  y <- rows$honey_yield_kg
  expect_mean("mean honey yield excluding the lowest 5 %", y >= quantile(y, 0.05, na.rm = TRUE))
  expect_mean("mean honey yield without the three largest values", y < sort(y, decreasing = TRUE)[3])
})

test_that("what is left out is never what is kept", {
  expect_mean("mean yield of hives except those that swarmed", rows$swarmed == "no")
  expect_mean("mean yield of hives other than those that survived", rows$survived_winter == "no")
  expect_mean("mean yield for everything but the north", rows$region != "north")
  expect_mean("mean yield of hives not treated with syrup", rows$arm != "syrup")
  expect_mean("mean yield excluding hives with strength before over 12", rows$strength_before <= 12)
  d <- ward_data()
  w <- open_study(d)
  expect_equal(value_of(ask(w, "average age excluding patients over 90"), "estimate"), mean(d$age[d$age <= 90]))
  expect_equal(value_of(ask(w, "average age excluding patients younger than 30"), "estimate"), mean(d$age[d$age >= 30]))
  expect_equal(value_of(ask(w, "average length of stay for everyone but surgery patients"), "estimate"), mean(d$los_days[d$ward != "Surgery"]))
  both <- ask(w, "average length of stay of patients with diabetes and without diabetes")
  expect_equal(reading(both)$by, "diabetes")
})

test_that("two conditions in one clause are both taken", {
  expect_mean("mean yield of hives that neither swarmed nor survived", rows$swarmed == "no" & rows$survived_winter == "no")
  expect_mean("mean yield of hives that swarmed but survived", rows$swarmed == "yes" & rows$survived_winter == "yes")
  expect_mean("mean yield of hives that swarmed but did not survive", rows$swarmed == "yes" & rows$survived_winter == "no")
  d <- order_data()
  a <- ask(open_study(d), "average delivery time of orders that were returned and had a discount")
  expect_equal(value_of(a, "estimate"), mean(d$delivery_days[d$returned == "Yes" & d$discount > 0]))
})

test_that("rows that lack a value are a condition on others", {
  a <- ask(trial, "mean yield of hives with missing mites after")
  expect_equal(value_of(a, "estimate"), yield_where(is.na(rows$mites_after)), tolerance = 1e-10)
  expect_retraces(a)
  expect_equal(reading(ask(trial, "which columns have missing values?"))$task, "quality")
})

test_that("units, numbers of keys, beginnings and days are read as they are meant", {
  expect_mean("mean yield of hives older than a year", rows$queen_age_months > 12)
  expect_equal(filters_of(ask(trial, "mean honey yield of hive 19")), "hive_id == H019")
  expect_equal(filters_of(ask(trial, "mean honey yield of hives 18 and 19")), "hive_id in H018|H019")
  expect_mean("mean yield in apiaries starting with A", startsWith(rows$apiary, "A"))
  expect_equal(filters_of(ask(trial, "honey yield for hives inspected before the 10th")), "inspected_on < 2024-09-10")
  expect_equal(reading(ask(trial, "honey yield of hives inspected on weekdays"))$outcome, "honey_yield_kg")
  d <- ward_data()
  a <- ask(open_study(d), "share readmitted of patients who stayed longer than a week")
  expect_equal(value_of(a, "estimate"), mean(d$readmitted_30d[d$los_days > 7] == "yes"))
})

test_that("units with many rows are chosen by how many they have", {
  d <- order_data()
  a <- ask(open_study(d), "average revenue per customer, only those with at least 18 orders")
  n <- table(d$customer)
  expect_setequal(table_of(a, "groups")$customer, names(n)[n >= 18])
  b <- ask(open_study(d), "which customers had no returns?")
  expect_equal(reading(b)$task, "look_up")
})

test_that("the same words narrow an answer that is there", {
  a <- ask(trial, "mean honey yield by arm")
  s <- rows$strength_before
  b <- ask(a, "only the top quarter of strength before")
  expect_equal(table_of(b, "groups")$n, as.vector(table(rows$arm[s >= quantile(s, 0.75) & !is.na(rows$honey_yield_kg)])))
  expect_equal(filters_of(ask(a, "except those that swarmed")), "swarmed == no")
})

test_that("shares of the rows at a level are not turned round", {
  d <- ticket_data()
  s <- open_study(d)
  wanted <- mean(d$resolved[d$team == "Apps"] == "no")
  for (q in c("share of apps tickets not resolved", "share of apps tickets that were not resolved", "what share of apps tickets were not resolved?")) {
    expect_equal(value_of(ask(s, q), "estimate"), wanted, info = q)
  }
})

test_that("rows, levels and extremes of other columns narrow what is measured", {
  l <- loan_data()
  s <- open_study(l)
  low <- l$credit_score <= sort(l$credit_score)[20]
  expect_equal(value_of(ask(s, "mean amount for the 20 lowest credit scores"), "estimate"), mean(l$amount_gbp[low]))
  expect_equal(value_of(ask(s, "average amount for loans with a score in the bottom third"), "estimate"),
               mean(l$amount_gbp[l$credit_score <= quantile(l$credit_score, 1 / 3)]))
  expect_equal(value_of(ask(s, "default rate of car loans above the median amount"), "estimate"),
               mean(l$defaulted[l$purpose == "car" & l$amount_gbp > median(l$amount_gbp)] == "Yes"))
  expect_equal(value_of(ask(s, "average credit score of people who defaulted and do not own a home"), "estimate"),
               mean(l$credit_score[l$defaulted == "Yes" & l$home_owner == "rent"]))
  f <- catch_data()
  c <- open_study(f)
  expect_equal(value_of(ask(c, "total weight of discarded hake"), "estimate"), sum(f$weight_g[f$species == "hake" & f$discarded == "yes"]))
  t <- table_of(ask(c, "heaviest fish of each species"), "groups")
  expect_equal(t$max, as.vector(tapply(f$weight_g, f$species, max))[match(t$species, sort(unique(f$species)))])
  none <- setdiff(unique(f$trip), f$trip[f$species == "monkfish"])
  a <- ask(c, "which trips caught no monkfish?")
  expect_setequal(unique(table_of(a, "rows")$trip), none)
  k <- ask(open_study(ticket_data()), "median time to resolve for tickets opened on mondays")
  expect_length(reading(k)$predictors, 0)
})

test_that("amounts in thousands and bounds in brackets are taken at their full size", {
  d <- city_data()
  s <- open_study(d)
  for (q in c("how many have an income above 40k?", "how many earn more than 40 thousand?", "how many earn over \u00a340k")) {
    expect_equal(value_of(ask(s, q), "n"), sum(d$household_income > 40000, na.rm = TRUE), info = q)
  }
  a <- ask(s, "mean satisfaction among those dissatisfied (satisfaction under 5)")
  expect_equal(filters_of(a), "satisfaction < 5")
  expect_length(reading(a)$by, 0)
  # a level written so is left as it is
  race <- data.frame(distance = rep(c("5k", "10k", "half"), each = 10), minutes = c(20:29, 45:54, 95:104))
  expect_equal(value_of(ask(open_study(race), "mean minutes for the 5k"), "estimate"), mean(20:29))
})

test_that("a share is of those named before it, and the bound is what is shared", {
  d <- city_data()
  s <- open_study(d)
  rich <- mean(d$household_income[d$voted == "yes"] > 40000)
  for (q in c("what share of voters have income above 40k?", "share with income above 40k among voters", "share of voters with income above 40000",
              "what share had household_income above 40000 where voted is yes?")) expect_equal(value_of(ask(s, q), "estimate"), rich, info = q)
  expect_equal(value_of(ask(s, "share of owners with more than 2 children"), "estimate"), mean(d$children[d$housing == "own"] > 2))
  k <- school_data()
  expect_equal(value_of(ask(open_study(k), "what share of year 11 pupils had attendance below 85?"), "estimate"),
               mean(k$attendance_pct[k$year_group == 11] < 85))
  ranked <- table_of(ask(s, "which district has the highest share with income above 40k?"), "shares")
  expect_equal(ranked$share, as.vector(tapply(d$household_income > 40000, d$district, mean)))
  a <- ask(s, "which district has the lowest share agreeing that they feel safe?")
  expect_equal(reading(a)$task, "rank")
  expect_equal(table_of(a, "shares")$share, as.vector(tapply(d$feel_safe %in% c("Agree", "Strongly agree"), d$district, mean)))
})

test_that("what is to be left out is left out wherever it is said", {
  d <- with_seed(171, data.frame(subj = rep(sprintf("s%02d", 1:12), each = 20), condition = rep(c("congruent", "incongruent"), 120), trial = rep(1:20, 12),
                                 rt_ms = round(450 + rexp(240, 1 / 150)), correct = rbinom(240, 1, 0.9), age = rep(18:29, each = 20)))
  s <- open_study(d)
  own <- function(rows) as.vector(tapply(d$rt_ms[rows], d$condition[rows], mean))
  told <- function(q) { t <- table_of(ask(s, q), "groups"); t$mean[order(t$condition)] }
  slow <- d$rt_ms <= 700
  for (q in c("mean rt by condition, excluding rt above 700", "ignoring rt above 700, mean rt by condition", "mean rt by condition, dropping trials above 700 ms",
              "exclude trials with rt above 700 and give the mean rt by condition", "after removing trials over 700 ms, mean rt by condition",
              "remove trials slower than 700 ms and give the mean rt by condition")) expect_equal(told(q), own(slow), info = q)
  for (q in c("mean rt by condition excluding rows with correct = 0", "mean rt by condition excluding incorrect trials",
              "discard incorrect trials and give mean rt by condition")) {
    kept <- filters_of(ask(s, q))
    expect_true(any(grepl("correct", kept)), info = q)
    expect_equal(told(q), own(d$correct == 1), info = q)
  }
  expect_equal(told("leaving out participants younger than 20, mean rt by condition"), own(d$age >= 20))
})

test_that("rows of one person belong together where the question says so", {
  d <- with_seed(172, data.frame(subj = rep(sprintf("s%02d", 1:12), each = 20), condition = rep(c("congruent", "incongruent"), 120), trial = rep(1:20, 12)))
  d$rt_ms <- with_seed(173, round(450 + 30 * (d$condition == "incongruent") + rep(rnorm(12, 0, 40), each = 20) + rexp(240, 1 / 60)))
  s <- open_study(d)
  a <- ask(s, "compare congruent and incongruent reaction times within subjects")
  means <- tapply(d$rt_ms, list(d$subj, d$condition), mean)
  expect_equal(value_of(a, "p_value"), t.test(means[, "congruent"], means[, "incongruent"], paired = TRUE)$p.value)
  spread <- ask(s, "within subject sd of rt")
  expect_equal(method_of(spread), "intraclass_correlation")
  each <- ask(s, "median rt per subject per condition")
  expect_equal(nrow(table_of(each, "groups")), 24L)
  expect_equal(table_of(ask(s, "how many trials per subject"), "counts")$n, rep(20L, 12))
})

test_that("time is spent, and no money", {
  d <- with_seed(174, data.frame(device = sample(c("mobile", "desktop"), 80, TRUE), seconds_on_site = round(rexp(80, 0.01)), order_value_usd = round(rlnorm(80, 3), 2)))
  s <- open_study(d)
  expect_read_as(s, c("do mobile users spend less time on site than desktop users" = "compare seconds_on_site by device",
                      "average time on site by device" = "describe seconds_on_site by device [mean]"))
})
