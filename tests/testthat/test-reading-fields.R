# Questions in the words of other fields: hotels, races, wards, mailings, pots.

hotel_data <- function(n = 240) with_seed(41, {
  d <- data.frame(booking_ref = sprintf("BK%04d", seq_len(n)), hotel = sample(c("Harbour", "Lakeside", "Old Mill"), n, TRUE),
                  channel = sample(c("website", "agency", "phone"), n, TRUE), booked_on = as.Date("2024-01-01") + sample(0:600, n, TRUE),
                  lead_days = rpois(n, 25), nights = 1 + rpois(n, 2), breakfast = sample(c("yes", "no"), n, TRUE),
                  cancelled = sample(c("yes", "no"), n, TRUE, c(0.3, 0.7)), country = sample(c("DE", "NL", "UK"), n, TRUE), rating = sample(1:5, n,
                      TRUE))
  d$revenue_eur <- round(d$nights * rnorm(n, 110, 20), 2)
  d
})

race_data <- function(n = 240) with_seed(42, data.frame(bib = seq_len(n), sex = sample(c("F", "M"), n, TRUE), club = sample(c("Harriers", "Road"),
    n, TRUE),
  start_wave = sample(c("A", "B"), n, TRUE), first_marathon = sample(c("yes", "no"), n, TRUE), finished = sample(c("yes", "no"), n, TRUE, c(0.9,
      0.1)),
  half_split_min = round(rnorm(n, 118, 15), 1), finish_min = round(rnorm(n, 245, 30), 1)))

ward_data <- function(n = 240) with_seed(43, data.frame(patient_no = sprintf("P%03d", seq_len(n)), severity = sample(c("mild", "moderate",
    "severe"), n, TRUE),
  treatment = sample(c("protocol", "usual care"), n, TRUE), age_years = round(rnorm(n, 64, 12)), follow_up_days = round(rexp(n, 1 / 60) + 1),
  stay_days = 1 + rpois(n, 6), died = sample(0:1, n, TRUE, c(0.7, 0.3))))

test_that("a unit of time in a name answers to 'time', and does not hide behind a like-sounding yes/no column", {
  d <- race_data(); s <- open_study(d)
  a <- ask(s, "average finish time by sex")
  expect_equal(unlist(reading(a)$outcome), "finish_min")
  expect_equal(unlist(reading(ask(s, "finish time of men vs women"))$outcome), "finish_min")
  expect_equal(unlist(reading(ask(s, "half split time by club"))$outcome), "half_split_min")
  expect_equal(unlist(reading(ask(s, "how many finished?"))$outcome), "finished")
  fast <- ask(s, "finish time by club, fastest first")
  expect_equal(unlist(reading(fast)$by), "club")
  expect_equal(reading(fast)$top$order, "lowest")
  expect_equal(unlist(reading(ask(open_study(hotel_data()), "mean lead time"))$outcome), "lead_days")
})

test_that("shares are those of the event that is named, within the groups", {
  d <- race_data(); a <- ask(open_study(d), "percentage of starters who did not finish by wave")
  first <- with(d[d$start_wave == "A", ], mean(finished == "no"))
  expect_match(as.list(a)$sentences$headline, sprintf("Finished is no in %.1f %% of A", 100 * first))
  h <- hotel_data(); b <- ask(open_study(h), "share of bookings with breakfast at Lakeside")
  expect_equal(value_of(b, "estimate"), mean(h$breakfast[h$hotel == "Lakeside"] == "yes"))
  w <- ward_data(); s <- open_study(w)
  expect_equal(value_of(ask(s, "mortality rate in severe patients"), "estimate"), mean(w$died[w$severity == "severe"]))
  c <- ask(s, "do patients on protocol die less often?")
  expect_equal(c(unlist(reading(c)$outcome), unlist(reading(c)$by)), c("died", "treatment"))
})

test_that("what adds up over what is counted is a rate of totals", {
  d <- hotel_data(); a <- ask(open_study(d), "revenue per night by hotel")
  t <- a$result$tables[[1]]$data
  own <- tapply(d$revenue_eur, d$hotel, sum) / tapply(d$nights, d$hotel, sum)
  expect_equal(sort(t$rate), sort(as.vector(own)), tolerance = 1e-12)
  expect_retraces(a)
  most <- ask(open_study(d), "which channel brings the most revenue?")
  expect_equal(reading(most)$statistic, "sum")
})

test_that("a week is no 'weekly', a name nobody has is not passed over, a drop leaves nothing out", {
  p <- with_seed(44, data.frame(pot = 1:60, watering = rep(c("daily", "weekly"), 30), height_week2_cm = round(rnorm(60, 12, 2), 1),
                                height_week6_cm = round(rnorm(60, 30, 3), 1)))
  a <- ask(open_study(p), "did plants grow between week 2 and week 6?")
  expect_length(filters_of(a), 0)
  expect_equal(value_of(a, "n"), 60)
  h <- open_study(hotel_data())
  # (codes of countries are known by their names, and a country that no code stands for is said to be absent)
  expect_setequal(filters_of(ask(h, "do guests from Germany rate us better than guests from the UK?")), "country in DE|UK")
  expect_equal(status_of(ask(h, "do guests from Brazil rate us better than guests from the UK?")), "cannot_answer")
  drop <- ask(h, "did bookings drop in summer 2025?")
  expect_equal(reading(drop)$task, "trend")
  expect_true(any(grepl("== summer", filters_of(drop))))
})

test_that("a hazard ratio of one level compares it with the others", {
  w <- ward_data(); a <- ask(open_study(w), "hazard ratio of protocol adjusting for age and severity")
  expect_equal(method_of(a), "cox_regression")
  expect_length(filters_of(a), 0)
  expect_equal(value_of(a, "n"), 240)
  expect_true("treatment" %in% unlist(reading(a)$predictors))
})

test_that("odds per step, chances at stated values and interactions have what happens as their outcome", {
  w <- ward_data(); s <- open_study(w)
  a <- ask(s, "odds ratio of death per year of age")
  fit <- glm(died ~ age_years, binomial, w)
  expect_equal(value_of(a, "odds_ratio"), exp(coef(fit)[["age_years"]]), tolerance = 1e-8)
  h <- hotel_data(); b <- ask(open_study(h), "chance of cancellation for a website booking with 40 lead days")
  f2 <- glm(cancelled == "yes" ~ lead_days, binomial, h[h$channel == "website", ])
  p <- predict(f2, data.frame(lead_days = 40), se.fit = TRUE)
  expect_equal(value_of(b, "estimate"), plogis(p$fit[[1]]), tolerance = 1e-8)
  expect_equal(value_of(b, "ci_high"), plogis(p$fit[[1]] + qnorm(0.975) * p$se.fit[[1]]), tolerance = 1e-6)
  expect_retraces(b)
  c <- ask(s, "interaction of treatment and severity on death")
  expect_equal(unlist(reading(c)$outcome), "died")
})

test_that("values above zero, rows that are their own unit, shares over time, steps in percentage points", {
  m <- with_seed(45, data.frame(recipient_id = 1001:1200, version = sample(c("A", "B"), 200, TRUE), sent_on = as.Date("2025-02-03") + sample(0:9,
      200, TRUE),
    opened = sample(c("TRUE", "FALSE"), 200, TRUE), spend = round(ifelse(runif(200) < 0.3, rgamma(200, 2, 0.05), 0), 2)))
  s <- open_study(m)
  expect_equal(value_of(ask(s, "average spend of those who spent something"), "estimate"), mean(m$spend[m$spend > 0]))
  a <- ask(s, "average spend per recipient by version")
  expect_equal(unlist(reading(a)$by), "version")
  b <- ask(s, "opened per day")
  expect_equal(table_of(b, "time")$mean, as.vector(tapply(m$opened == "TRUE", m$sent_on, mean)), tolerance = 1e-12)
  expect_equal(value_of(ask(s, "sample size to detect 2 points more opens from 15%"), "estimate"),
               value_of(ask(s, "sample size to detect a difference between 15% and 17%"), "estimate"))
})

test_that("a number with a unit belongs to the column of that unit; a plot is a key; a named random effect groups the rows", {
  soil <- with_seed(46, data.frame(plot = rep(1:20, each = 3), treatment = rep(rep(c("none", "compost"), 10), each = 3), depth_cm = rep(c(5, 15,
      30), 20),
                                   nitrate_mg_kg = round(rgamma(60, 4, 0.3), 1), ph = round(rnorm(60, 6.3, 0.4), 2)))
  s <- open_study(soil)
  a <- ask(s, "nitrate at 5 cm by treatment")
  expect_equal(filters_of(a), "depth_cm == 5")
  expect_equal(unlist(reading(a)$outcome), "nitrate_mg_kg")
  expect_equal(filters_of(ask(s, "mean ph with nitrate above 5")), "nitrate_mg_kg > 5")
  b <- ask(s, "average ph per plot")
  expect_equal(method_of(b), "group_summary")
  c <- ask(s, "treatment effect on ph with plot as random effect")
  expect_equal(c(unlist(reading(c)$outcome), method_of(c)), c("ph", "mixed_linear"))
  expect_retraces(c)
})

test_that("those who left are those who did, and an effect size compares", {
  d <- with_seed(47, data.frame(emp = 1001:1120, left = sample(c("Yes", "No"), 120, TRUE), training_days = rpois(120, 3), salary = round(rnorm(120,
      5e4, 8e3))))
  s <- open_study(d)
  expect_equal(value_of(ask(s, "mean training days for those who left"), "estimate"), mean(d$training_days[d$left == "Yes"]))
  a <- ask(s, "effect size of left on salary")
  expect_equal(method_of(a), "t_welch")
  f <- glm(left == "Yes" ~ training_days, binomial, d)
  expect_equal(value_of(ask(s, "probability of leaving with 5 training days"), "estimate"), plogis(sum(coef(f) * c(1, 5))), tolerance = 1e-8)
})

test_that("sides of a yes/no column, its people, days of the week, and sales that are counted or added", {
  d <- with_seed(49, data.frame(order_no = 5001:5200, store = sample(c("City", "Mall"), 200, TRUE), sold_on = as.Date("2025-01-06") + sample(0:80,
      200, TRUE),
    items = 1 + rpois(200, 1), amount = round(rgamma(200, 2, 0.03), 2), member = sample(c("yes", "no"), 200, TRUE), insured = sample(c("yes", "no"),
        200, TRUE)))
  s <- open_study(d)
  a <- ask(s, "compare amount of insured and uninsured people, adjusting for items")
  expect_length(filters_of(a), 0)
  expect_equal(value_of(a, "n"), 200)
  b <- ask(s, "correlation between items and amount for members")
  expect_equal(value_of(b, "estimate"), with(d[d$member == "yes", ], cor(items, amount)), tolerance = 1e-10)
  c <- ask(s, "mean amount on Saturdays")
  expect_equal(value_of(c, "estimate"), mean(d$amount[format(d$sold_on, "%u") == "6"]))
  expect_match(paste(reading(c)$assumed, collapse = " "), "day of the week of sold_on")
  expect_equal(unlist(reading(ask(s, "sales by store"))$outcome), "amount")
  expect_length(unlist(reading(ask(s, "number of sales by store"))$outcome) |> setdiff("store"), 0)
  expect_equal(table_of(ask(s, "number of sales per day"), "time")$n, as.vector(table(d$sold_on)))
})

test_that("births: rows called by other names, ages in words, none and some, which of two weights", {
  skip_if_not_installed("MASS")
  b <- MASS::birthwt
  d <- data.frame(mother_id = seq_len(nrow(b)), low_birth_weight = ifelse(b$low == 1, "yes", "no"), mother_age = b$age, mother_weight_lb = b$lwt,
                  race = c("white", "black", "other")[b$race], smoker = ifelse(b$smoke == 1, "yes", "no"), premature_labours = b$ptl,
                  hypertension = ifelse(b$ht == 1, "yes", "no"), birth_weight_g = b$bwt)
  s <- open_study(d)
  expect_read_as(s, c(
    "do smokers have more low birth weight babies?" = "relate low_birth_weight from smoker",
    "what share of the babies weighed less than 2500 g?" = "frequency birth_weight_g event birth_weight_g is below 2500",
    "percentage of low birth weight babies by race" = "frequency low_birth_weight by race event low_birth_weight is yes",
    "median birth weight for teenage mothers" = "describe birth_weight_g [median] where mother_age is from 13 to 19",
    "how many mothers had at least one premature labour?" = "frequency  where premature_labours is at least 1",
    "logistic regression of low birth weight on age, mother weight, race and smoker" =
      "predict low_birth_weight from mother_age+mother_weight_lb+race+smoker"))
  # whose weight is meant is told by the noun, or by the unit behind the number
  expect_equal(reading(ask(s, "heaviest baby"))$outcome, "birth_weight_g")
  expect_equal(reading(ask(s, "heaviest mother"))$outcome, "mother_weight_lb")
  expect_equal(filters_of(ask(s, "median birth weight of babies whose mothers weigh more than 150 lb")), "mother_weight_lb > 150")
  expect_equal(ask(s, "who is heaviest?")$status, "needs_choice")
  # what is counted or divides has to be in the data
  for (q in c("how many dentists are there?", "birth weight per invoice", "number of invoices by race")) {
    expect_true(ask(s, q)$status %in% c("cannot_answer", "needs_choice"), info = q)
  }
  a <- ask(s, "relative risk of low birth weight with hypertension")
  t <- table(b$low, b$ht)
  risk <- (t[2, 2] / sum(t[, 2])) / (t[2, 1] / sum(t[, 1]))
  expect_equal(1 / value_of(a, "risk_ratio"), risk, tolerance = 1e-10)
  expect_match(as.list(a)$sentences$headline, sprintf("yes against no, it is %.2f", risk))
})

test_that("countries and states are values even where each names one row", {
  d <- data.frame(state = rownames(USArrests), USArrests, region = as.character(state.region[match(rownames(USArrests), state.name)]),
      row.names = NULL)
  s <- open_study(d)
  expect_read_as(s, c("murder rate of California" = "look_up Murder [percent] where state is California",
                      "assault in Texas and Georgia" = "look_up Assault where state is Texas or Georgia",
                      "average murder without Alaska" = "describe Murder [mean] where state is not Alaska",
                      "do southern states have more murders?" = "compare Murder by region",
                      "cluster the states" = "describe Murder+Assault+UrbanPop+Rape"))
  expect_match(as.list(ask(s, "murder rate of California"))$sentences$headline, "Murder: 9 (California)", fixed = TRUE)
  expect_equal(nrow(table_of(ask(s, "least urban states"), "ranking")) >= 5, TRUE)
  expect_equal(method_of(ask(s, "cluster the states")), "cluster_kmeans")
})

test_that("fields and machines: levels that say none, crossed factors, the same units, first and last", {
  n <- datasets::npk
  d <- data.frame(block = as.integer(n$block), nitrogen = ifelse(n$N == "1", "applied", "none"), phosphate = ifelse(n$P == "1", "applied", "none"),
                  potassium = ifelse(n$K == "1", "applied", "none"), pea_yield_lb = n$yield)
  s <- open_study(d)
  expect_read_as(s, c("pea yield for plots with nitrogen but no potassium" = "describe pea_yield_lb where nitrogen is applied & potassium is none",
                      "average yield with and without nitrogen" = "describe pea_yield_lb by nitrogen [mean]",
                      "interaction of nitrogen and phosphate" = "compare pea_yield_lb by nitrogen+phosphate",
                      "does phosphate matter?" = "compare pea_yield_lb by phosphate"))
  skip_if_not_installed("nlme")
  m <- nlme::Machines
  machines <- open_study(data.frame(worker = as.integer(as.character(m$Worker)), machine = as.character(m$Machine), productivity_score = m$score))
  a <- ask(machines, "does productivity differ between machines?")
  b <- ask(a, "the same workers used every machine")
  expect_equal(method_of(b), "anova_repeated")
  expect_equal(reading(b)$unit, "worker")
  o <- nlme::Oxboys
  boys <- open_study(data.frame(boy = as.integer(as.character(o$Subject)), height_cm = o$height, occasion = as.integer(as.character(o$Occasion))))
  expect_equal(codebook(boys)$kind[codebook(boys)$column == "boy"], "id")
  c <- ask(boys, "difference in height between first and last occasion")
  wide <- tapply(o$height, list(as.character(o$Subject), as.character(o$Occasion)), mean)
  expect_equal(value_of(c, "p_value"), t.test(wide[, "1"], wide[, "9"], paired = TRUE)$p.value, tolerance = 1e-8)
})

test_that("counts and shares: levels and better, whose rows, what has not happened since", {
  d <- with_seed(68, { n <- 200; data.frame(customer_id = sprintf("C%03d", seq_len(n)), plan = sample(c("Basic", "Plus"), n, TRUE),
      tickets = rpois(n, 2),
    tenure_months = 1 + rpois(n, 20), rating = sample(c("Poor", "Fair", "Good", "Very good", "Excellent"), n, TRUE),
    payment_method = sample(c("credit card", "bank transfer"), n, TRUE), last_login = as.Date("2025-06-30") - rpois(n, 12),
    churned = sample(c("Yes", "No"), n, TRUE)) })
  s <- open_study(d)
  expect_read_as(s, c(
    "share rating Good or better by plan" = "frequency rating by plan [percent] event rating is Good, Very good or Excellent",
    "average tenure of churned customers" = "describe tenure_months [mean] where churned is Yes",
    "customers with more than 3 tickets who did not churn" = "look_up  where tickets is above 3 & churned is No",
    "customers who have not logged in since 10 June 2025" = "look_up  where last_login is before 2025-06-10",
    "share paying by credit card by plan" = "frequency payment_method by plan [percent] event payment_method is credit card",
    "number of tickets for Plus" = "describe tickets [sum] where plan is Plus",
    "customers who never had a ticket" = "look_up  where tickets is 0"))
  worse <- ask(s, "percentage rated Fair or worse")
  expect_equal(value_of(worse, "estimate"), mean(d$rating %in% c("Poor", "Fair")))
})

test_that("a condition that sets one column against another is asked back, not taken for a group", {
  d <- with_seed(69, data.frame(rep = rep(paste("Rep", LETTERS[1:6]), each = 20), sales = round(rnorm(120, 50, 9)), target = rep(40:45, each = 20)))
  expect_equal(ask(open_study(d), "reps below target")$status, "needs_choice")
  expect_match(ask(open_study(d), "reps below target")$sentences$headline %||% as.list(ask(open_study(d), "reps below target"))$sentences$headline,
      "target")
})

test_that("a follow-up that changes nothing says so", {
  s <- hive_study()
  a <- ask(s, "compare honey yield between syrup and control")
  b <- ask(a, "only syrup and control")
  expect_equal(method_of(b), method_of(a))
  expect_match(paste(unlist(reading(b)$assumed), collapse = " "), "Nothing in this changes|Continued")
})

test_that("textbook data: what explains what, which predictor, when it peaks, who died", {
  trees <- open_study(data.frame(girth_in = datasets::trees$Girth, height_ft = datasets::trees$Height, volume_ft3 = datasets::trees$Volume))
  expect_read_as(trees, c("volume from girth and height" = "predict volume_ft3 from girth_in+height_ft",
                          "log volume on log girth and log height" = "predict log_volume_ft3 from log_girth_in+log_height_ft",
                          "which is the better predictor of volume, girth or height?" = "drivers volume_ft3 from girth_in+height_ft",
                          "trees taller than 80 feet: mean volume" = "describe volume_ft3 [mean] where height_ft is above 80"))
  a <- ask(trees, "log volume on log girth and log height")
  fit <- summary(lm(log(Volume) ~ log(Girth) + log(Height), datasets::trees))
  expect_equal(value_of(a, "r_squared"), fit$r.squared, tolerance = 1e-10)
  expect_retraces(a)
  # a length in another unit is turned into the column's own
  expect_equal(value_of(ask(trees, "mean volume of trees taller than 25 metres"), "estimate"),
               mean(datasets::trees$Volume[datasets::trees$Height > 25 / 0.3048]), tolerance = 1e-10)
  th <- datasets::Theoph
  course <- open_study(data.frame(subject = as.integer(as.character(th$Subject)), dose_mg_kg = th$Dose, time_h = th$Time,
      concentration_mg_l = th$conc))
  peak <- ask(course, "when does the concentration peak?")
  expect_equal(reading(peak)$task, "trend")
  means <- tapply(th$conc, th$Time, mean)
  expect_match(as.list(peak)$sentences$headline, sprintf("highest in %s", names(which.max(means))))
  plants <- open_study(data.frame(weight = datasets::PlantGrowth$weight, group = as.character(datasets::PlantGrowth$group)))
  expect_read_as(plants, c("which groups differ?" = "compare weight by group",
      "trt1 vs ctrl" = "compare weight by group where group is trt1 or ctrl"))
  ship <- as.data.frame(datasets::Titanic)
  ship[1:4] <- lapply(ship[1:4], as.character)
  s <- open_study(ship)
  a <- ask(s, "how many crew members died?")
  expect_equal(value_of(a, "n"), sum(ship$Freq[ship$Class == "Crew" & ship$Survived == "No"]))
  expect_match(paste(unlist(reading(a)$assumed), collapse = " "), "died")
  b <- ask(s, "did women survive more often than men?")
  own <- chisq.test(margin.table(datasets::Titanic, c("Survived", "Sex")), correct = FALSE)
  expect_equal(value_of(b, "statistic"), own$statistic[[1]], tolerance = 1e-10)
})

test_that("the variance of groups is shown, a difference of variances is tested", {
  m <- datasets::morley
  s <- open_study(data.frame(experiment = m$Expt, speed_km_s = m$Speed + 299000))
  a <- ask(s, "variance of speed per experiment")
  expect_equal(method_of(a), "group_summary")
  expect_equal(method_of(ask(s, "do the variances of speed differ between experiments?")), "brown_forsythe")
  expect_equal(unlist(reading(ask(s, "do the experiments differ?"))$by), "experiment")
})

test_that("a survey: ranges of numbered items, levels with signs, numbers that are no items, words of comments", {
  d <- with_seed(70, { n <- 240; data.frame(respondent = seq_len(n), department = sample(c("Sales", "IT"), n, TRUE),
    tenure = sample(c("<1 year", "1-3 years", "4-9 years", "10+ years"), n, TRUE), Q1_proud = sample(1:5, n, TRUE), Q2_recommend = sample(1:5, n,
        TRUE),
    Q3_workload = sample(1:5, n, TRUE), Q4_support = sample(1:5, n, TRUE), intends_to_leave = sample(c("Yes", "No"), n, TRUE),
    comments = sample(c("Great team but low pay", "Too many meetings", "Workload is too high"), n, TRUE)) })
  s <- open_study(d)
  items <- "Q1_proud+Q2_recommend+Q3_workload+Q4_support"
  expect_read_as(s, c(
    "cronbach alpha of Q1 to Q4" = paste("agreement", items),
    "average score of Q1 to Q4" = paste("describe", items, "[mean]"),
    "employees with less than 1 year tenure who intend to leave" = "look_up  where intends_to_leave is Yes & tenure is <1 year",
    "how many have 10 or more years tenure?" = "frequency  where tenure is 10+ years",
    "is workload rated worse in Sales than in IT?" = "compare Q3_workload by department"))
  alpha <- function(x) ncol(x) / (ncol(x) - 1) * (1 - sum(apply(x, 2, var)) / var(rowSums(x)))
  expect_equal(value_of(ask(s, "cronbach alpha of Q1 to Q4"), "alpha"), alpha(as.matrix(d[4:7])), tolerance = 1e-10)
})

test_that("countries over years, visits over days: growth, changes, events counted, weights named before", {
  p <- with_seed(71, data.frame(country = rep(c("Avaria", "Borland"), each = 12), year = rep(2010:2021, 2), gdp_usd = round(rlnorm(24, 9.5, 0.2)),
                                unemployment_pct = round(runif(24, 3, 12), 1), population_m = rep(c(10, 25), each = 12)))
  s <- open_study(p)
  expect_read_as(s, c("how did unemployment change in Borland?" = "trend unemployment_pct where country is Borland",
                      "gdp growth of Avaria from 2010 to 2021" = "trend gdp_usd where year is from 2010 to 2021 & country is Avaria"))
  own <- p$gdp_usd[p$country == "Avaria"]
  expect_match(as.list(ask(s, "gdp growth of Avaria from 2010 to 2021"))$sentences$headline, sprintf("%+.1f %%", 100 * (own[12] / own[1] - 1)),
      fixed = TRUE)
  expect_equal(value_of(ask(s, "population weighted average gdp"), "estimate"), weighted.mean(p$gdp_usd, p$population_m), tolerance = 1e-12)
  v <- with_seed(72, data.frame(visit_date = as.Date("2025-03-01") + sample(0:27, 300, TRUE), converted = rbinom(300, 1, 0.2),
                                returning = sample(c("yes", "no"), 300, TRUE), device = sample(c("mobile", "desktop"), 300, TRUE)))
  w <- open_study(v)
  a <- ask(w, "conversions per day")
  expect_equal(table_of(a, "time")$sum, as.vector(tapply(v$converted, v$visit_date, sum)))
  expect_retraces(a)
  b <- ask(w, "probability of converting for returning mobile visitors")
  expect_equal(value_of(b, "estimate"), mean(v$converted[v$returning == "yes" & v$device == "mobile"]), tolerance = 1e-12)
})

test_that("people named by what they have, distances by their nouns and units, bands of equal size", {
  skip_if_not_installed("MASS")
  d <- MASS::Pima.te
  names(d) <- c("pregnancies", "glucose", "blood_pressure", "skin_fold", "bmi", "pedigree", "age", "diabetic")
  d$diabetic <- as.character(d$diabetic)
  s <- open_study(d)
  expect_read_as(s, c("average bmi of diabetics over 50" = "describe bmi [mean] where age is above 50 & diabetic is Yes",
                      "standard deviation of glucose in diabetics" = "describe glucose [sd] where diabetic is Yes",
                      "probability of diabetes at glucose 150 and bmi 35" = "predict diabetic from glucose+bmi"))
  fit <- glm(diabetic == "Yes" ~ glucose + bmi, binomial, d)
  a <- ask(s, "probability of diabetes at glucose 150 and bmi 35")
  chance <- predict(fit, data.frame(glucose = 150, bmi = 35), type = "response")
  expect_match(as.list(a)$sentences$headline, sprintf("%.1f %%", 100 * chance))
  q <- ask(s, "mean glucose by quartile of bmi")
  cuts <- quantile(d$bmi, 1:3 / 4, names = FALSE)
  expect_equal(table_of(q, "groups")$mean, as.vector(tapply(d$glucose, findInterval(d$bmi, cuts), mean)), tolerance = 1e-10)
  expect_retraces(q)
  h <- MASS::hills
  hills <- open_study(data.frame(hill = rownames(h), dist_miles = h$dist, climb_ft = h$climb, time_min = h$time))
  expect_read_as(hills, c("predict time from distance and climb" = "predict time_min from dist_miles+climb_ft",
                          "races longer than 10 miles" = "look_up  where dist_miles is above 10",
                          "how much time does each extra mile add?" = "predict time_min from dist_miles"))
  b <- ask(hills, "how much time does each extra mile add?")
  expect_equal(value_of(b, "estimate"), coef(lm(time ~ dist, h))[["dist"]], tolerance = 1e-10)
  expect_match(as.list(ask(hills, "record time for Ben Nevis"))$sentences$headline, "85.6 min (Ben Nevis)", fixed = TRUE)
})

appointment_data <- function(n = 240) with_seed(71, data.frame(
  appt_id = sprintf("A%04d", seq_len(n)), clinic = sample(c("Elm", "Oak", "Pine", "Birch"), n, TRUE),
  booked_on = as.Date("2025-01-05") + sample(0:300, n, TRUE), lead_days = rpois(n, 12),
  channel = sample(c("phone", "web", "walk-in"), n, TRUE, c(.4, .5, .1)), patient_age = sample(18:90, n, TRUE),
  new_patient = sample(c("Y", "N"), n, TRUE), no_show = sample(c("Y", "N"), n, TRUE, c(.2, .8)), wait_min = round(rgamma(n, 3, .15)),
  consult_min = round(rnorm(n, 18, 5), 1), fee = round(rlnorm(n, 4, .4), 2), reminder_sent = sample(c(TRUE, FALSE), n, TRUE)))

test_that("appointments: rows by the word that their key abbreviates, sides of a column, periods of the only year", {
  d <- appointment_data(); s <- open_study(d)
  expect_equal(value_of(ask(s, "how many appointments with fee over 80 and no_show = Y"), "estimate"), sum(d$fee > 80 & d$no_show == "Y"))
  expect_equal(method_of(ask(s, "appointments per month")), "time_table")
  two <- ask(s, "how long do new patients wait compared with existing patients?")
  expect_equal(value_of(two, "p_value"), t.test(wait_min ~ new_patient, d)$p.value, tolerance = 1e-10)
  for (q in c("average wait in Q3", "in the third quarter, what was the average wait?")) {
    a <- ask(s, q)
    expect_equal(value_of(a, "estimate"), mean(d$wait_min[quarters(d$booked_on) == "Q3"]), tolerance = 1e-12, info = q)
    expect_match(paste(a$reading$assumed, collapse = " "), "only year in the data", info = q)
  }
  ages <- ask(s, "no-show rate for patients aged 18 to 30")
  expect_equal(filters_of(ages), "patient_age between 18|30")
  expect_equal(value_of(ages, "estimate"), mean(d$no_show[d$patient_age %in% 18:30] == "Y"), tolerance = 1e-12)
})

test_that("appointments: who is older, what is shown, what is listed beside columns, what is shared", {
  d <- appointment_data(); s <- open_study(d)
  for (q in c("do older patients wait longer?", "do older patients have longer waits")) {
    expect_equal(value_of(ask(s, q), "estimate"), cor(d$patient_age, d$wait_min), tolerance = 1e-10, info = q)
  }
  expect_equal(ask(s, "show the distribution of consult times")$reading$outcome, "consult_min")
  model <- ask(s, "predict no show from lead days, age and reminder")
  expect_setequal(model$reading$predictors, c("lead_days", "patient_age", "reminder_sent"))
  expect_length(filters_of(model), 0)
  adjusted <- ask(s, "difference between clinics in wait adjusting for age")
  expect_equal(adjusted$reading$outcome, "wait_min")
  expect_equal(value_of(adjusted, "p_value"), anova(lm(wait_min ~ patient_age, d), lm(wait_min ~ patient_age + clinic, d))$`Pr(>F)`[2],
               tolerance = 1e-10)
  shows <- ask(s, "no shows per clinic")
  expect_match(as.list(shows)$sentences$headline, "No show is Y in")
  expect_equal(ask(s, "mean consult length excluding walk-ins")$reading$outcome, "consult_min")
  share <- table_of(ask(s, "share of fee from Oak"), "shares")
  expect_equal(share$percent, as.numeric(100 * prop.table(tapply(d$fee, d$clinic, sum))[share$group]), tolerance = 1e-10)
})

test_that("a season of whole years is a time; a bound is stated once and its other side by its word", {
  d <- with_seed(72, data.frame(player = sprintf("PL%03d", rep(1:30, 6)), season = rep(2019:2024, each = 30), goals = rpois(180, 4),
                                injured = sample(0:1, 180, TRUE), market_value = round(rlnorm(180, 2, .7), 1), height_cm = rep(round(rnorm(30, 182,
                                    7)), 6)))
  s <- open_study(d)
  expect_equal(method_of(ask(s, "has market value grown over time?")), "linear_trend")
  expect_equal(filters_of(ask(s, "mean market value of players with more than 5 goals in 2024")), c("season == 2024", "goals > 5"))
  expect_equal(value_of(ask(s, "total goals in 2023"), "estimate"), sum(d$goals[d$season == 2023]))
  a <- ask(s, "players taller than 190 cm vs shorter: goals")
  expect_equal(sort(table_of(a, "groups")$mean), sort(as.numeric(tapply(d$goals, d$height_cm > 190, mean))), tolerance = 1e-12)
  expect_length(filters_of(a), 0)
  expect_equal(method_of(ask(s, "do goals follow a normal distribution?")), "shapiro_wilk")
})

diet_data <- function(n = 150) with_seed(73, {
  d <- data.frame(participant = sprintf("P%03d", seq_len(n)), diet = sample(c("Mediterranean", "Low carb", "Usual"), n, TRUE),
                  sex = sample(c("F", "M"), n, TRUE), age_years = sample(25:70, n, TRUE), bmi_0 = round(rnorm(n, 29, 4), 1))
  d$bmi_12 <- round(d$bmi_0 - c(Mediterranean = 1.2, `Low carb` = 1.5, Usual = .2)[d$diet] + rnorm(n, 0, 1.5), 1)
  d$chol_0 <- round(rnorm(n, 5.4, .8), 2); d$chol_12 <- round(d$chol_0 - .3 + rnorm(n, 0, .5), 2)
  d$adherence_pct <- round(runif(n, 20, 100))
  d$side_effects <- sample(c("none", "mild", "moderate", "severe"), n, TRUE, c(.6, .2, .15, .05))
  d$completed <- sample(c("yes", "no"), n, TRUE, c(.85, .15))
  d
})

test_that("a trial of diets: changes wherever they stand in a question, risks, columns of several kinds", {
  d <- diet_data(); s <- open_study(d)
  change <- d$bmi_12 - d$bmi_0
  expect_equal(value_of(ask(s, "is adherence related to BMI change?"), "estimate"), cor(d$adherence_pct, change), tolerance = 1e-10)
  a <- ask(s, "Low carb vs usual: change in bmi")
  expect_equal(value_of(a, "p_value"), t.test(change[d$diet == "Low carb"], change[d$diet == "Usual"])$p.value, tolerance = 1e-10)
  more <- ask(s, "did cholesterol improve more on the Mediterranean diet?")
  expect_equal(value_of(more, "p_value"), oneway.test(I(chol_12 - chol_0) ~ diet, d)$p.value, tolerance = 1e-10)
  risk <- ask(s, "risk of severe side effects by diet")
  shares <- table_of(risk, "shares")
  expect_equal(shares$share, as.numeric(tapply(d$side_effects == "severe", d$diet, mean)[shares$group]), tolerance = 1e-10)
  # levels have no mean: a table by kind instead
  for (q in c("age and sex by diet", "mean age and sex by diet")) expect_equal(method_of(ask(s, q)), "baseline_table", info = q)
  expect_equal(status_of(ask(s, "what is the risk of dropping out by diet")), "cannot_answer")
  expect_equal(status_of(ask(s, "are the groups comparable at baseline?")), "needs_choice")
  size <- ask(s, "sample size to detect a difference of 1 bmi point with sd 2 and 90% power")
  expect_equal(value_of(size, "n_per_group"), ceiling(power.t.test(delta = 1, sd = 2, power = 0.9)$n))
})

test_that("insured people: smokers and others, levels of a compass, what people pay, whose rows are kept", {
  d <- with_seed(121, { n <- 200; d <- data.frame(age = sample(18:64, n, TRUE), sex = sample(c("male", "female"), n, TRUE),
      bmi = round(rnorm(n, 30, 6), 1),
    children = sample(0:4, n, TRUE), smoker = sample(c("yes", "no"), n, TRUE, c(0.3, 0.7)), region = sample(c("southwest", "southeast", "northwest",
      "northeast"), n, TRUE)); d$charges <- round(2500 + 250 * d$age + 20000 * (d$smoker == "yes") + rexp(n, 1 / 3000), 2); d })
  s <- open_study(d)
  expect_read_as(s, c(
    "How much more do smokers pay?" = "describe charges by smoker",
    "effect of bmi on charges adjusting for age and smoking" = "predict charges from bmi",
    "Is the effect of bmi on charges different for smokers and non-smokers?" = "predict charges from bmi+smoker",
    "who pays the most" = "rank charges",
    "people with a bmi over 35 who smoke" = "look_up  where bmi is above 35 & smoker is yes",
    "Which region has the most smokers?" = "rank smoker by region [count] event smoker is yes",
    "median charges of people without children" = "describe charges [median] where children is 0",
    "what percentage of people are obese (bmi of 30 or more)" = "frequency bmi event bmi is at least 30",
    "correlation between age and charges for non smokers only" = "relate age from charges where smoker is no",
    "compare bmi of men and women in the north" = "compare bmi by sex where region is northeast or northwest"))
  own <- d[d$smoker == "no", ]
  expect_equal(value_of(ask(s, "correlation between age and charges for non smokers only"), "estimate"), cor(own$age, own$charges), tolerance = 1e-12)
})

test_that("employees: who left, overtime, initials of a department; names of words run together", {
  d <- with_seed(122, { n <- 220; data.frame(EmployeeNumber = 1:n, Age = sample(20:60, n, TRUE), Attrition = sample(c("Yes", "No"), n, TRUE, c(0.25,
      0.75)),
    Department = sample(c("Sales", "Research & Development", "Human Resources"), n, TRUE), DistanceFromHome = sample(1:29, n, TRUE),
        JobRole = sample(c("Manager",
      "Technician"), n, TRUE), JobSatisfaction = sample(1:4, n, TRUE), MonthlyIncome = round(rlnorm(n, 8.6, 0.5)), OverTime = sample(c("Yes", "No"),
          n, TRUE),
    YearsAtCompany = rpois(n, 7), WorkLifeBalance = sample(1:4, n, TRUE), Gender = sample(c("Male", "Female"), n, TRUE)) })
  s <- open_study(d)
  expect_read_as(s, c(
    "attrition rate by department" = "frequency Attrition by Department event Attrition is Yes",
    "Do people who work overtime leave more often?" = "compare Attrition by OverTime",
    "Is job satisfaction lower among those who left?" = "compare JobSatisfaction by Attrition",
    "share of employees with low job satisfaction (1 or 2)" = "frequency JobSatisfaction event JobSatisfaction is 1 or 2",
    "median years at company of managers" = "describe YearsAtCompany [median] where JobRole is Manager",
    "income gap between men and women in sales" = "compare MonthlyIncome by Gender where Department is Sales",
    "how many employees are in R&D" = "frequency  where Department is Research & Development",
    "average age of those who left" = "describe Age [mean] where Attrition is Yes"))
  a <- ask(s, "Do people who work overtime leave more often?")
  expect_equal(value_of(a, "p_value"), chisq.test(table(d$Attrition, d$OverTime), correct = FALSE)$p.value, tolerance = 1e-10)
})

test_that("customers and patients: units of time are no columns, bounds and their other side, numbers as groups", {
  d <- with_seed(123, { n <- 240; data.frame(customerID = sprintf("%04d-X", 1:n), SeniorCitizen = sample(0:1, n, TRUE, c(0.8, 0.2)),
      tenure = sample(0:72, n, TRUE),
    InternetService = sample(c("DSL", "Fiber optic", "No"), n, TRUE), Contract = sample(c("Month-to-month", "One year", "Two year"), n, TRUE),
    MonthlyCharges = round(runif(n, 18, 118), 2), Churn = sample(c("Yes", "No"), n, TRUE)) })
  expect_read_as(open_study(d), c(
    "average tenure of churned customers" = "describe tenure [mean] where Churn is Yes",
    "Do customers with fiber optic churn more than DSL customers?" = "compare Churn by InternetService where InternetService is Fiber optic or DSL",
    "odds of churning per extra month of tenure" = "predict Churn from tenure",
    "customers with tenure over 60 months who churned" = "look_up  where tenure is above 60 & Churn is Yes",
    "Is churn lower for two year contracts?" = "compare Churn by Contract_Two_year",
    "share of customers without internet" = "frequency InternetService event InternetService is No"))
  p <- with_seed(124, { n <- 200; data.frame(pregnancies = pmin(14, rpois(n, 3.5)), glucose = round(rnorm(n, 122, 30)), bmi = round(rnorm(n, 32, 6),
      1),
    age = round(runif(n, 21, 65)), diabetes = sample(c("Yes", "No"), n, TRUE, c(0.35, 0.65))) })
  s <- open_study(p)
  expect_read_as(s, c(
    "diabetes rate by number of pregnancies" = "frequency diabetes by pregnancies event diabetes is Yes",
    "bmi under 25 vs 25 and over: diabetes" = "compare diabetes by bmi_band",
    "average glucose of women under 30 without diabetes" = "describe glucose [mean] where age is below 30 & diabetes is No",
    "divide age into three groups and compare glucose" = "compare glucose by age_third",
    "median age at each number of pregnancies" = "describe age by pregnancies [median]",
    "proportion with glucose above 140 by diabetes" = "frequency glucose by diabetes event glucose is above 140"))
  t <- table_of(ask(s, "diabetes rate by number of pregnancies"), "shares")
  expect_equal(t$share, as.vector(tapply(p$diabetes == "Yes", p$pregnancies, mean)), tolerance = 1e-12)
})

test_that("cancer patients: curves, balance and risks in the words of a ward", {
  d <- with_seed(125, { n <- 130; data.frame(patient_id = 1:n, treatment = sample(c("standard", "test"), n, TRUE),
      cell_type = sample(c("squamous", "smallcell",
    "large"), n, TRUE), survival_days = round(rexp(n, 1 / 120)) + 1, status = sample(c("dead", "censored"), n, TRUE, c(0.9, 0.1)),
        karnofsky = sample(seq(20,
      90, 10), n, TRUE), age = round(rnorm(n, 60, 9)), prior_therapy = sample(c("yes", "no"), n, TRUE)) })
  curve <- "survival survival_days+status"
  expect_read_as(open_study(d), c(
    "How long do patients on the test treatment live compared with the standard?" = paste(curve, "by treatment event status is dead"),
    "Does the test treatment prolong survival?" = paste(curve, "by treatment event status is dead"),
    "hazard ratio of karnofsky" = paste(curve, "from karnofsky event status is dead"),
    "Do patients with prior therapy die earlier?" = paste(curve, "by prior_therapy event status is dead"),
    "patients older than 70: survival by treatment" = paste(curve, "by treatment event status is dead where age is above 70"),
    "compare survival of smallcell and squamous" = paste(curve, "by cell_type event status is dead where cell_type is smallcell or squamous"),
    "Is treatment balanced across cell types?" = "relate treatment from cell_type",
    "How many patients were censored?" = "frequency  where status is censored"))
})
