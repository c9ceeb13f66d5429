# Textbook data of the recommended packages, asked in everyday words; numbers by base R and survival.

test_that("tables of counts stand for their cases, whatever the question leaves open", {
  rows <- as.data.frame(datasets::UCBAdmissions)
  s <- open_study(rows)
  cases <- rows[rep(seq_len(nrow(rows)), rows$Freq), 1:3]
  a <- ask(s, "are men admitted more often than women?")
  own <- stats::chisq.test(cases$Gender, cases$Admit == "Admitted", correct = FALSE)
  expect_equal(value_of(a, "statistic"), own$statistic[[1]], tolerance = 1e-9)
  b <- ask(a, "adjusting for department")
  fit <- stats::glm(Admit == "Admitted" ~ Gender + Dept, stats::binomial, cases)
  expect_equal(abs(value_of(b, "estimate")), abs(stats::coef(fit)[["GenderFemale"]]), tolerance = 1e-6)
  a <- ask(s, "which department rejects the most?")
  expect_equal(value_of(a, "estimate"), max(tapply(cases$Admit == "Rejected", cases$Dept, mean)), tolerance = 1e-9)
  a <- ask(s, "distribution of Gender")
  expect_match(as.list(a)$sentences$headline, "2,?691")
})

test_that("regress names its outcome first, before and after are groups, degrees those of the temperature", {
  rows <- MASS::whiteside
  names(rows) <- c("insulation", "outside_temp", "gas_used")
  rows$insulation <- tolower(rows$insulation)
  s <- open_study(rows)
  a <- ask(s, "regress gas on temperature and insulation with interaction")
  expect_equal(reading(a)$outcome, "gas_used")
  a <- ask(s, "compare gas consumption before and after, holding temperature constant")
  own <- stats::coef(stats::lm(gas_used ~ insulation + outside_temp, rows))[["insulationbefore"]]
  expect_equal(abs(value_of(a, "estimate")), abs(own), tolerance = 1e-9)
  a <- ask(ask(s, "how does gas use depend on outside temperature"), "before and after separately")
  expect_equal(method_of(a), "correlation_by_group")
  a <- ask(s, "predicted gas use at 4 degrees after insulation")
  fit <- stats::lm(gas_used ~ outside_temp, rows[rows$insulation == "after", ])
  expect_match(as.list(a)$sentences$headline, format(round(stats::predict(fit, data.frame(outside_temp = 4))[[1]], 2)), fixed = TRUE)
})

test_that("survival in words: alive at a time, died by then, the follow-up, women only", {
  rows <- survival::ovarian
  names(rows) <- c("days", "died", "age", "residual_disease", "treatment", "performance")
  s <- open_study(rows)
  fit <- summary(survival::survfit(survival::Surv(days, died) ~ 1, rows), times = 365.25)$surv
  expect_match(as.list(ask(s, "probability of surviving one year"))$sentences$headline, sprintf("%.1f", 100 * fit), fixed = TRUE)
  expect_equal(value_of(ask(s, "what proportion died within 1 year"), "estimate"), 1 - fit, tolerance = 1e-10)
  expect_equal(value_of(ask(s, "median follow-up time"), "estimate"), stats::median(rows$days))
  rows$sex <- rep(c("female", "male"), 13)
  a <- ask(ask(open_study(rows), "cox regression with treatment, age and sex"), "only women")
  expect_equal(reading(a)$predictors, c("treatment", "age"))
  expect_match(reading(a)$assumed, "no longer varies", all = FALSE)
})

test_that("months and years of a series: warmer, coldest, one month of every year, the season allowed for", {
  rows <- data.frame(month = seq(as.Date("1920-01-01"), by = "month", length.out = 240), temperature = as.numeric(datasets::nottem))
  s <- open_study(rows)
  year <- format(rows$month, "%Y"); of_year <- format(rows$month, "%m")
  a <- ask(s, "is it getting warmer?")
  expect_equal(method_of(a), "linear_trend")
  expect_equal(method_of(ask(a, "allowing for the season")), "seasonal_trend")
  expect_equal(value_of(ask(s, "coldest month on average"), "estimate"), min(tapply(rows$temperature, of_year, mean)), tolerance = 1e-12)
  a <- ask(s, "temperature in July by year")
  expect_equal(table_of(a, "time")$mean, as.vector(tapply(rows$temperature[of_year == "07"], year[of_year == "07"], mean)), tolerance = 1e-12)
  a <- ask(s, "warmest year")
  expect_equal(max(table_of(a, "time")$mean), max(tapply(rows$temperature, year, mean)), tolerance = 1e-12)
})

test_that("a drug is set against placebo where there are three arms, and units that never had something are not counted", {
  rows <- MASS::bacteria[, c("ID", "week", "trt", "y")]
  names(rows) <- c("child", "week", "treatment", "infected")
  rows$infected <- ifelse(rows$infected == "y", "yes", "no")
  s <- open_study(rows)
  a <- ask(s, "does the drug reduce infection?")
  two <- rows[rows$treatment %in% c("drug", "placebo"), ]
  own <- stats::chisq.test(droplevels(two$treatment), two$infected, correct = FALSE)
  expect_equal(value_of(a, "statistic"), own$statistic[[1]], tolerance = 1e-9)
  rows$infected[rows$child %in% c("X02", "Y07", "Z05")] <- "no"
  s <- open_study(rows)
  free <- tapply(rows$infected == "yes", as.character(rows$child), sum) == 0
  b <- ask(s, "how many children were never infected")
  expect_equal(value_of(b, "estimate"), sum(free))
  expect_retraces(b)
  b <- ask(s, "which children were never infected")
  expect_equal(value_of(b, "n"), sum(free))
  expect_setequal(table_of(b, "rows")$child, names(free)[free])
  expect_equal(value_of(ask(s, "how many children were infected at least once"), "estimate"), sum(!free))
  # of what no column tells nothing is counted
  expect_match(as.list(ask(s, "which children never slept"))$sentences$headline, "never happened|slept")
})
