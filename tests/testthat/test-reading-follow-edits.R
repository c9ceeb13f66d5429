# Conversations: each follow-up goes on from the last answer that was given.

school <- function() open_study(with_seed(11, { n <- 150
  d <- data.frame(student = sprintf("S%03d", 1:n), class = sample(c("7A", "7B", "8A"), n, TRUE), method = sample(c("lecture", "project", "online"),
    n, TRUE), pretest = round(rnorm(n, 55, 10)), hours = round(rgamma(n, 3, 0.5), 1), meals = sample(c("yes", "no"), n, TRUE))
  d$score <- round(d$pretest + ifelse(d$method == "project", 5, 0) + 0.8 * d$hours + rnorm(n, 0, 7)); d })) # nolint

talk <- function(a, ...) { for (q in c(...)) a <- ask(a, q); a }

test_that("rows in play narrow, change and come back", {
  a <- talk(hive_study(), "mean honey yield by arm", "only hives that survived the winter")
  expect_equal(filters_of(a), "survived_winter == yes")
  expect_equal(reading(a)$by, "arm")
  b <- talk(a, "what about the south?", "drop the filter")
  expect_length(filters_of(b), 0)
  expect_equal(reading(b)$by, "arm")
})

test_that("a summary becomes a test, a test a rank test, at another level, with something held constant", {
  a <- talk(hive_study(), "mean honey yield by arm", "is the difference significant?")
  expect_equal(method_of(a), "anova_welch")
  b <- talk(a, "use a rank test", "at 99 %")
  expect_equal(method_of(b), "kruskal_wallis")
  expect_equal(value_of(b, "conf_level"), 0.99)
  c <- talk(b, "compare just syrup and control")
  expect_equal(method_of(c), "mann_whitney")
  expect_equal(filters_of(c), "arm in syrup|control")
  d <- talk(c, "adjusting for strength before")
  expect_equal(method_of(d), "linear_regression")
  expect_equal(c(reading(d)$predictors, reading(d)$adjust_for), c("arm", "strength_before"))
})

test_that("levels and columns are exchanged", {
  a <- ask(hive_study(), "Does the honey yield differ between syrup and control?")
  expect_equal(filters_of(ask(a, "now for pollen patty")), "arm in pollen patty|control")
  expect_equal(filters_of(ask(a, "instead of syrup use pollen patty")), "arm in pollen patty|control")
  b <- talk(school(), "predict score from pretest", "add hours")
  expect_equal(reading(ask(b, "replace hours with method"))$predictors, c("pretest", "method"))
  expect_equal(reading(ask(b, "drop hours"))$predictors, "pretest")
  expect_equal(reading(ask(a, "do the same for queen age"))$outcome, "queen_age_months")
})

test_that("going back, starting again, and going on after something that failed", {
  a <- talk(hive_study(), "mean honey yield by arm", "by region", "go back")
  expect_equal(reading(a)$by, "arm")
  expect_equal(status_of(ask(ask(hive_study(), "mean honey yield by arm"), "go back")), "needs_choice")
  b <- talk(hive_study(), "mean honey yield by arm", "only in Atlantis", "and the median?")
  expect_equal(reading(b)$statistic, "median")
  expect_equal(reading(b)$by, "arm")
  c <- talk(hive_study(), "mean honey yield in the north", "start again", "how many rows are there?")
  expect_length(filters_of(c), 0)
  # looking at the rows or asking for the meaning does not lose the thread
  d <- talk(hive_study(), "Does the honey yield differ between syrup and control?", "show me the rows", "why this test?", "only in the north")
  expect_equal(method_of(d), "t_welch")
})

test_that("models are questioned further", {
  a <- talk(school(), "predict score from pretest", "add hours", "does the effect of hours depend on method?")
  expect_match(as.list(a)$sentences$headline, "interaction")
  expect_equal(reading(a)$outcome, "score")
  b <- talk(school(), "predict score from pretest and hours", "which one matters most?")
  expect_equal(method_of(b), "relative_importance")
  c <- talk(school(), "predict score from pretest and hours", "what would someone with pretest 60 get?")
  d <- as.data.frame(school()); fit <- lm(score ~ pretest + hours, d)
  expect_equal(value_of(c, "estimate"), unname(predict(fit, data.frame(pretest = 60, hours = mean(d$hours)))), tolerance = 1e-8)
  expect_match(as.list(c)$sentences$headline, "its mean")
  expect_retraces(c)
  e <- talk(school(), "mean score by method", "sorted from lowest")
  expect_equal(as.list(e)$reading$top$order, "lowest")
  f <- talk(school(), "mean hours by method", "as a percentage of the total")
  expect_equal(method_of(f), "share_of_total")
})

test_that("sizes, ranks and reasons can be asked of the answer before", {
  s <- open_study(call_data())
  a <- ask(s, "resolution rate by agent")
  b <- ask(a, "which is highest?")
  expect_equal(method_of(b), "rank_table")
  d <- call_data(); share <- tapply(d$resolved == "Y", d$agent, mean)
  expect_match(as.list(b)$sentences$headline, names(which.max(share)))
  c <- ask(ask(s, "compare Asha and Ben on csat"), "how big is that difference?")
  expect_equal(reading(c)$task, "explain")
  expect_match(as.list(c)$sentences$headline, "Difference in means")
})

test_that("what was computed last stays what is explained, through a failed step and an explanation", {
  a <- ask(open_study(gym_data()), "does age differ by plan, adjusting for visits per month?")
  b <- ask(ask(a, "use a paired t test"), "what does the p value mean?")
  expect_equal(status_of(ask(a, "use a paired t test")), "cannot_answer")
  c <- ask(b, "why this test?")
  expect_equal(status_of(c), "answered")
  expect_equal(as.list(c)$sentences$headline, a$why)
})

test_that("the same for another column stays the same kind of answer; the other level of a yes/no column is its denial", {
  s <- open_study(pressure_data())
  a <- ask(ask(s, "mean sbp at week 12 by arm"), "same for week 4")
  expect_equal(c(reading(a)$task, unlist(reading(a)$outcome)), c("describe", "sbp_week4"))
  k <- open_study(call_data())
  b <- ask(ask(ask(k, "resolution rate by topic"), "for new customers only"), "what about existing customers?")
  expect_equal(filters_of(b), "new_customer == 0")
})

test_that("a forecast goes on from an answer over time", {
  d <- data.frame(day = as.Date("2022-01-01") + 0:899, sales = with_seed(91, 50 + 10 * sin((0:899) / 58) + rnorm(900)))
  a <- ask(ask(open_study(d), "sales per month"), "forecast the next 3 months")
  expect_equal(reading(a)$task, "forecast")
  expect_equal(unlist(reading(a)$outcome), "sales")
  short <- ask(ask(open_study(order_data()), "revenue per quarter"), "forecast the next 3 months")
  expect_true(status_of(short) %in% c("answered", "cannot_answer"))
})

test_that("shares go on as odds, and with something held constant", {
  d <- loan_data()
  a <- ask(open_study(d), "default rate by purpose")
  b <- ask(a, "as odds ratios")
  expect_equal(method_of(b), "logistic_regression")
  c <- ask(b, "adjusted for credit score")
  full <- glm(defaulted == "Yes" ~ purpose + credit_score, binomial, d); less <- glm(defaulted == "Yes" ~ credit_score, binomial, d)
  expect_equal(value_of(c, "statistic"), less$deviance - full$deviance, tolerance = 1e-8)
  expect_equal(value_of(c, "p_value"), anova(less, full, test = "LRT")$`Pr(>Chi)`[2], tolerance = 1e-8)
  expect_match(as.list(c)$sentences$headline, "credit score held constant")
  expect_retraces(c)
  e <- ask(a, "adjusted for credit score")
  expect_equal(value_of(e, "statistic"), value_of(c, "statistic"), tolerance = 1e-10)
})

test_that("a prediction goes on at another value, and a model is set against a curve", {
  d <- loan_data()
  a <- ask(open_study(d), "probability of default at a credit score of 600")
  b <- ask(a, "at 700?")
  own <- predict(glm(defaulted == "Yes" ~ credit_score, binomial, d), data.frame(credit_score = 700), type = "response")
  expect_equal(value_of(b, "estimate"), unname(own), tolerance = 1e-8)
  s <- open_study(exam_data())
  m <- ask(s, "do hours of study predict science?")
  expect_equal(method_of(ask(m, "is a curve better?")), "model_comparison")
  expect_equal(reading(ask(m, "control for absences"))$adjust_for, "absences")
})

test_that("one level after another is a comparison of both", {
  d <- bike_data()
  a <- ask(open_study(d), "mean rentals in Park")
  b <- ask(a, "compare with Quay")
  own <- t.test(rentals ~ station, d[d$station != "Campus", ])
  expect_equal(value_of(b, "p_value"), own$p.value, tolerance = 1e-9)
  w <- ask(ask(open_study(d), "weekly rentals for Park"), "compare with Quay")
  expect_equal(reading(w)$by, "station")
})

test_that("weekends, the write-up, the way back to a test and percentages", {
  d <- bike_data()
  a <- ask(ask(open_study(d), "rentals by station"), "only weekends")
  weekend <- format(d$day, "%u") %in% c("6", "7")
  expect_equal(sum(table_of(a, "groups")$n), sum(weekend))
  t <- ask(ask(open_study(d), "do rentals differ between Park and Quay?"), "use a rank test")
  expect_equal(method_of(ask(t, "back to Welch")), "t_welch")
  u <- ask(t, "write it up")
  expect_equal(as.list(u)$sentences$headline, as.list(t)$sentences$write_up)
  e <- ask(ask(open_study(exam_data()), "grade by school"), "as percentages")
  expect_setequal(c(reading(e)$outcome, reading(e)$by), c("grade", "school"))
  p <- ask(ask(open_study(loan_data()), "default rate by purpose"), "what does the p value mean here?")
  expect_match(as.list(p)$sentences$headline, "no p value")
})

test_that("another occasion, the worst of the groups, shares by month, and outliers are asked about", {
  rows <- with_seed(86, data.frame(patient = sprintf("P%03d", 1:90), sex = sample(c("F", "M"), 90, TRUE),
      surgeon = sample(c("Adler", "Brandt", "Cole"), 90, TRUE),
                                   smoker = sample(c("never", "former", "current"), 90, TRUE), pain_before = round(rnorm(90, 7, 1)),
                                   op_date = as.Date("2024-01-05") + sample(0:150, 90, TRUE), infection = sample(c("yes", "no"), 90, TRUE)))
  rows$pain_6w <- rows$pain_before - 2; rows$pain_6m <- rows$pain_before - 3
  s <- open_study(rows)
  a <- ask(ask(s, "average pain at six months by sex"), "and at six weeks?")
  expect_equal(reading(a)$outcome, "pain_6w")
  expect_equal(sort(table_of(a, "groups")$mean), sort(as.vector(tapply(rows$pain_6w, rows$sex, mean))), tolerance = 1e-12)
  expect_equal(filters_of(ask(a, "and in smokers?")), "smoker == current")
  b <- ask(ask(s, "what share of patients had an infection"), "by surgeon")
  worst <- tapply(rows$infection == "yes", rows$surgeon, mean)
  d <- ask(b, "which surgeon is worst?")
  expect_match(as.list(d)$sentences$headline, names(which.max(worst)))
  expect_retraces(d)
  e <- ask(b, "by month")
  expect_equal(sort(table_of(e, "shares")$share), sort(as.vector(tapply(rows$infection == "yes", format(rows$op_date, "%Y-%m"), mean))),
      tolerance = 1e-12)
  f <- ask(ask(s, "compare pain_6w by sex"), "without outliers")
  expect_equal(status_of(f), "needs_choice")
  expect_equal(status_of(ask(f, "1")), "answered")
})

test_that("another bound goes on from the one before, of a count and of a share", {
  s <- hive_study(); rows <- read.csv(demo_file())
  a <- ask(s, "how many hives have a queen age over 20?")
  b <- ask(a, "what about more than 30?")
  expect_equal(filters_of(b), "queen_age_months > 30")
  d <- ask(s, "what share of hives have a honey yield above 20?")
  e <- ask(d, "and above 25?")
  kept <- rows$honey_yield_kg[!is.na(rows$honey_yield_kg) & rows$honey_yield_kg != -99]
  expect_equal(value_of(e, "estimate"), mean(kept > 25), tolerance = 1e-10)
})

test_that("a follow-up of a question about what is not there starts afresh", {
  a <- ask(hive_study(), "what is the average pollen colour?")
  expect_equal(status_of(a), "cannot_answer")
  expect_true(status_of(ask(a, "only in the north")) %in% c("needs_choice", "cannot_answer", "answered"))
  expect_equal(reading(ask(a, "average honey yield in the north"))$outcome, "honey_yield_kg")
})

test_that("a model is read at stated values and levels, what is left open stands as in the rows", {
  rows <- with_seed(97, { n <- 150; out <- data.frame(age = sample(20:64, n, TRUE), bmi = round(rnorm(n, 30, 5), 1), smoker = sample(c("no", "yes"),
      n, TRUE),
    region = sample(c("east", "north", "west"), n, TRUE)); out$charges <- round(200 * out$age + 9000 * (out$smoker == "yes") + rnorm(n, 0, 2000),
        1); out })
  s <- open_study(rows)
  a <- ask(ask(s, "predict charges from age, bmi and smoker"), "what is expected for a smoker aged 40 with bmi 35")
  fit <- lm(charges ~ age + bmi + smoker, rows)
  at <- data.frame(age = 40, bmi = 35, smoker = "yes")
  expect_equal(value_of(a, "estimate"), predict(fit, at)[[1]], tolerance = 1e-9)
  expect_equal(value_of(a, "ci_low"), predict(fit, at, interval = "confidence")[1, "lwr"], tolerance = 1e-9)
  expect_equal(value_of(a, "prediction_high"), predict(fit, at, interval = "prediction")[1, "upr"], tolerance = 1e-9)
  expect_retraces(a)
  expect_length(filters_of(a), 0)
  b <- ask(s, "expected charges for a 40 year old in the north from age and region")
  fit2 <- lm(charges ~ age + region, rows)
  expect_equal(value_of(b, "estimate"), predict(fit2, data.frame(age = 40, region = "north"))[[1]], tolerance = 1e-9)
  # the smoker is left open: the mean over the rows' mix
  d <- ask(ask(s, "predict charges from age and smoker"), "what is expected at age 50")
  fit3 <- lm(charges ~ age + smoker, rows)
  expect_equal(value_of(d, "estimate"), sum(coef(fit3) * c(1, 50, mean(rows$smoker == "yes"))), tolerance = 1e-9)
  expect_match(format_answer(d), "mixed as in the rows")
  e <- ask(ask(s, "logistic regression of smoker on age and region"), "what is the chance for a 30 year old in the west")
  fit4 <- glm(I(smoker == "yes") ~ age + region, binomial, rows)
  expect_equal(value_of(e, "estimate"), predict(fit4, data.frame(age = 30, region = "west"), type = "response")[[1]], tolerance = 1e-6)
  expect_retraces(e, 1e-6)
})

test_that("an interaction by name and a further grouping are added to what stands", {
  rows <- with_seed(98, data.frame(y = rnorm(120), age = runif(120, 20, 60), dose = runif(120), arm = sample(c("a", "b"), 120, TRUE),
      sex = sample(c("f",
    "m"), 120, TRUE)))
  s <- open_study(rows)
  a <- ask(ask(s, "predict y from age, dose and arm"), "with an interaction between dose and arm")
  fit <- lm(y ~ dose * arm + age, rows)
  expect_equal(value_of(a, "p_value"), summary(fit)$coefficients["dose:armb", 4], tolerance = 1e-8)
  b <- ask(ask(s, "does y differ by arm?"), "add sex")
  expect_equal(reading(b)$by, c("arm", "sex"))
  expect_equal(method_of(b), "anova_two_way")
})

test_that("worst of an event, the number of rows in play, and a column added to what may explain", {
  set.seed(21)
  d <- data.frame(ward = sample(c("Heart", "Lung", "Bone"), 150, TRUE), age = round(stats::rnorm(150, 66, 12)), icu = sample(c("Y", "N"), 150, TRUE),
    outcome = sample(c("Home", "Died"), 150, TRUE, c(0.8, 0.2)), los_days = stats::rpois(150, 7))
  s <- open_study(local_data(d))
  a <- ask(ask(s, "mortality by ward"), "which is the worst")
  died <- tapply(d$outcome == "Died", d$ward, mean)
  expect_match(paste(format(a), collapse = " "), names(died)[which.max(died)])
  expect_equal(as.list(a)$reading$top$order, "highest")
  b <- ask(ask(ask(s, "mortality by ward"), "only over 70"), "how many is that")
  expect_equal(value_of(b, "n"), sum(d$age > 70))
  c <- ask(ask(ask(s, "what predicts length of stay"), "drop age"), "add age")
  expect_equal(as.list(c)$reading$outcome[[1]], "los_days")
  expect_true("age" %in% unlist(as.list(c)$reading$predictors))
})

test_that("columns beside ranked rows, the first of a ranking, a column left out of it, and another order", {
  s <- hive_study()
  d <- utils::read.csv(demo_file())
  a <- ask(ask(s, "top 5 hives by yield"), "show their arm")
  t <- table_of(a, "ranking")
  expect_equal(t$arm, d$arm[match(t$hive_id, d$hive_id)])
  expect_match(as.list(a)$reading$plain, "with arm beside them")
  expect_retraces(a)
  low <- ask(ask(a, "and the bottom 5"), "which region are they in")
  t <- table_of(low, "ranking")
  expect_equal(t$region, d$region[match(t$hive_id, d$hive_id)])
  b <- ask(s, "what predicts winter survival?")
  two <- ask(b, "only the top two")
  expect_match(as.list(two)$sentences$headline, "mites after .* and strength after [(]eta = .34[)];")
  fewer <- ask(two, "without mites after")
  expect_false("mites_after" %in% reading(fewer)$predictors)
  expect_length(filters_of(fewer), 0)
  c <- ask(ask(ask(s, "mean yield by region"), "and its standard deviation"), "sort by mean")
  expect_equal(value_of(c, "estimate"), max(tapply(d$honey_yield_kg, d$region, mean, na.rm = TRUE)), tolerance = 1e-10)
})

test_that("what a first column goes with is explained by it once something is held constant", {
  a <- ask(ask(hive_study(), "Is queen age related to honey yield?"), "controlling for strength before")
  d <- utils::read.csv(demo_file(), na.strings = c("", "NA", "-99"))
  own <- stats::lm(honey_yield_kg ~ queen_age_months + strength_before, d)
  expect_equal(reading(a)$outcome, "honey_yield_kg")
  expect_equal(value_of(a, "estimate"), unname(stats::coef(own)[2]), tolerance = 1e-8)
})

test_that("a relation is asked for in every group, and the most of a count alone", {
  s <- hive_study()
  d <- utils::read.csv(demo_file(), na.strings = c("", "NA", "-99"))
  a <- ask(ask(s, "is queen age related to honey yield?"), "does that hold in every region?")
  t <- table_of(a, as.list(a)$tables[[1]]$id)
  expect_setequal(intersect(unlist(lapply(t, as.character)), unique(d$region)), unique(d$region))
  b <- ask(ask(s, "how many hives per region"), "only the largest")
  counts <- table(d$region)
  expect_match(paste(format(b), collapse = " "), names(counts)[which.max(counts)])
  rare <- ask(b, "and the least common?")
  expect_equal(reading(rare)$top$order, "lowest")
  expect_match(as.list(rare)$sentences$headline, paste0(names(counts)[which.min(counts)], " ", min(counts)))
  expect_retraces(rare)
})

test_that("a word of time that is a level is that level, and what was not found is never left out in silence", {
  set.seed(8)
  d <- data.frame(joined = as.Date("2022-01-01") + sample(700, 160, TRUE), club = rep(c("Riverside", "Hilltop"), 80),
                  membership = sample(c("Annual", "Monthly", "Pay as you go"), 160, TRUE), weight_now_kg = round(rnorm(160, 75, 9), 1),
                  fee = round(rnorm(160, 35, 5), 2), visits = rpois(160, 9) + 1L, cancelled = sample(c("yes", "no"), 160, TRUE))
  s <- open_study(d)
  a <- ask(s, "average fee by club")
  for (said in c("exclude yearly members", "exclude annual members", "without annual membership")) {
    b <- ask(a, said)
    own <- d[d$membership != "Annual", ]
    expect_equal(as.numeric(value_of(b, "mean_1")), mean(own$fee[own$club == "Hilltop"]), tolerance = 1e-10)
  }
  expect_equal(value_of(ask(s, "average fee for yearly members"), "estimate"), mean(d$fee[d$membership == "Annual"]), tolerance = 1e-10)
  expect_equal(reading(ask(a, "now by membership"))$outcome, "fee")
  expect_equal(ask(a, "exclude weekly")$status, "cannot_answer")
  names(d)[6] <- "visits_last_month"
  own <- tapply(d$visits_last_month, d$membership, sum)
  a <- ask(open_study(d), "how many visits last month by membership")
  expect_equal(as.numeric(value_of(a, "sum_1")), own[["Annual"]])
  expect_equal(ask(ask(s, "total fee per month"), "as a share")$status, "cannot_answer")
})

test_that("what was described is compared between the groups that a follow-up names", {
  s <- hive_study()
  d <- utils::read.csv(demo_file(), na.strings = c("", "NA", "-99"))
  a <- ask(ask(s, "mean yield by region"), "does it differ between arms?")
  expect_equal(reading(a)$outcome, "honey_yield_kg")
  own <- if (length(unique(d$arm)) == 2) stats::t.test(honey_yield_kg ~ arm, d) else stats::oneway.test(honey_yield_kg ~ arm, d)
  expect_equal(value_of(a, "p_value"), own$p.value, tolerance = 1e-8)
})
