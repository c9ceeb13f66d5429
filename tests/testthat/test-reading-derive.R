# Columns that a question speaks of and the data holds in parts.

shop <- function() open_study(with_seed(2, { day <- as.Date("2023-01-02") + 0:599
  data.frame(date = day, store = sample(c("Harbour", "Mill"), 600, TRUE), sales = round(rnorm(600, 900, 120)), visitors = rpois(600, 110)) }))
clinic <- function() open_study(with_seed(3, { n <- 90; pre <- round(rnorm(n, 150, 12))
  data.frame(arm = rep(c("drug", "placebo", "other"), 30), sbp_baseline = pre, sbp_week12 = pre - rep(c(9, 2, 5), 30) + round(rnorm(n, 0, 6)),
    age = round(rnorm(n, 55, 9))) }))

test_that("weekends, years and months set against each other become groups", {
  s <- shop(); d <- as.data.frame(s)
  a <- ask(s, "compare sales between weekdays and weekends")
  expect_equal(reading(a)$by, "day_type")
  weekend <- as.integer(format(d$date, "%u")) > 5
  expect_equal(value_of(a, "p_value"), t.test(d$sales[weekend], d$sales[!weekend])$p.value, tolerance = 1e-8)
  expect_retraces(a)
  b <- ask(s, "how did 2024 compare with 2023 for sales?")
  y <- format(d$date, "%Y")
  expect_equal(value_of(b, "p_value"), t.test(d$sales[y == "2023"], d$sales[y == "2024"])$p.value, tolerance = 1e-8)
  expect_retraces(b)
  c <- ask(s, "are visitors higher in July than in January?")
  expect_equal(reading(c)$by, "month")
  # the study that was opened is as it was
  expect_false("day_type" %in% codebook(s)$column)
})

test_that("quarters, halves and periods from the ends of the data are conditions; a quarter without its year is asked back", {
  s <- shop(); d <- as.data.frame(s)
  within <- function(from, to) sum(d$sales[d$date >= as.Date(from) & d$date <= as.Date(to)])
  expect_equal(value_of(ask(s, "total sales in the first quarter of 2024"), "estimate"), within("2024-01-01", "2024-03-31"))
  expect_equal(value_of(ask(s, "total sales in Q4 2023"), "estimate"), within("2023-10-01", "2023-12-31"))
  expect_equal(value_of(ask(s, "total sales in the first half of 2023"), "estimate"), within("2023-01-01", "2023-06-30"))
  last <- max(d$date)
  expect_equal(value_of(ask(s, "total sales last month"), "estimate"), within(format(last, "%Y-%m-01"), last))
  expect_equal(value_of(ask(s, "total sales in the last 2 weeks"), "estimate"), within(last - 13, last))
  expect_equal(value_of(ask(s, "total sales in the first 10 days"), "estimate"), within(min(d$date), min(d$date) + 9))
  expect_equal(status_of(ask(s, "total sales in Q2")), "needs_choice")
})

test_that("which month had the most is a ranking of months", {
  s <- shop(); d <- as.data.frame(s)
  a <- ask(s, "which month had the highest sales?")
  # the last month ends on its 23rd day, so its total stands by itself
  sums <- tapply(d$sales, format(d$date, "%Y-%m"), sum)
  sums <- sums[names(sums) != format(max(d$date), "%Y-%m")]
  expect_match(as.list(a)$sentences$headline, sprintf("highest in %s", names(which.max(sums))))
  means <- tapply(d$sales, format(d$date, "%Y-%m"), mean)
  expect_match(as.list(ask(s, "which month had the highest average sales?"))$sentences$headline, sprintf("highest in %s", names(which.max(means))))
  b <- ask(s, "which month had the lowest total sales?")
  expect_match(as.list(b)$sentences$headline, sprintf("lowest in %s", names(which.min(sums))))
  expect_match(as.list(b)$sentences$headline, "2024-08 is not whole")
})

test_that("a change from before to after is a column of its own", {
  s <- clinic(); d <- as.data.frame(s)
  change <- d$sbp_week12 - d$sbp_baseline
  a <- ask(s, "change in sbp by arm")
  expect_equal(table_of(a, "groups")$mean, as.numeric(tapply(change, d$arm, mean)[table_of(a, "groups")$arm]), tolerance = 1e-10)
  expect_retraces(a)
  b <- ask(s, "Is the reduction in sbp greater with drug than placebo?")
  expect_equal(value_of(b, "p_value"), t.test(-change[d$arm == "drug"], -change[d$arm == "placebo"])$p.value, tolerance = 1e-8)
  c <- ask(s, "Did sbp fall from baseline to week 12?")
  expect_equal(method_of(c), "t_paired")
  expect_equal(value_of(c, "p_value"), t.test(d$sbp_baseline, d$sbp_week12, paired = TRUE)$p.value, tolerance = 1e-8)
  e <- ask(s, "sbp at baseline by arm")
  expect_equal(reading(e)$outcome, "sbp_baseline")
})

test_that("time tables are made for each group", {
  s <- shop(); d <- as.data.frame(s)
  a <- ask(s, "total sales by quarter and store")
  expect_equal(method_of(a), "time_table")
  expect_retraces(a)
  expect_equal(sum(table_of(a, "time")$sum), sum(d$sales))
  expect_equal(reading(a)$by, "store")
})

panel_data <- function() with_seed(81, data.frame(country = rep(c("Norland", "Estania"), each = 12), year = rep(2010:2021, 2),
    gdp_growth = round(rnorm(24, 2, 1.5), 2),
                                                     unemployment = round(rnorm(24, 7, 2), 1)))

test_that("years held as numbers are conditions, ranges and axes", {
  s <- open_study(panel_data())
  expect_equal(filters_of(ask(s, "growth in 2015")), "year == 2015")
  expect_equal(filters_of(ask(s, "average growth since 2015 by country")), "year >= 2015")
  expect_equal(filters_of(ask(s, "mean unemployment between 2012 and 2015")), "year between 2012|2015")
  a <- ask(s, "which country had the highest unemployment in 2020?")
  d <- panel_data(); d <- d[d$year == 2020, ]
  expect_match(as.list(a)$sentences$headline, d$country[which.max(d$unemployment)])
  expect_equal(unlist(reading(ask(s, "year with lowest growth"))$by), "year")
  expect_equal(reading(ask(s, "did unemployment in Norland fall between 2010 and 2021?"))$task, "trend")
})

test_that("before and after a day are two periods, and told", {
  d <- order_data(); s <- open_study(d)
  a <- ask(s, "compare revenue before June 2024 versus after")
  after <- as.Date(d$order_date) >= as.Date("2024-06-01")
  expect_equal(value_of(a, "estimate"), mean(d$revenue[!after]) - mean(d$revenue[after]), tolerance = 1e-10)
  expect_match(paste(reading(a)$assumed, collapse = " "), "order_date before 2024-06-01")
  expect_retraces(a)
  p <- panel_data(); b <- ask(open_study(p), "unemployment in Estania before and after 2014")
  expect_equal(filters_of(b), "country == Estania")
  expect_equal(table_of(b, "groups")$mean, as.vector(with(p[p$country == "Estania", ], tapply(unemployment, year >= 2014, mean))))
  expect_retraces(b)
})

test_that("seasons are those of whole months, and told", {
  d <- order_data(); s <- open_study(d)
  a <- ask(s, "mean revenue by season")
  m <- as.integer(format(as.Date(d$order_date), "%m"))
  season <- c("winter", "spring", "summer", "autumn")[m %% 12 %/% 3 + 1]
  t <- table_of(a, "groups")
  expect_equal(t$mean, as.vector(tapply(d$revenue, factor(season, c("spring", "summer", "autumn", "winter")), mean)))
  expect_match(paste(reading(a)$assumed, collapse = " "), "spring is March to May")
  expect_retraces(a)
})

test_that("losses and changes are those between two columns, and told", {
  d <- gym_data(); s <- open_study(d)
  a <- ask(s, "average weight loss")
  expect_equal(value_of(a, "estimate"), mean(d$weight_start_kg - d$weight_end_kg), tolerance = 1e-10)
  expect_match(paste(reading(a)$assumed, collapse = " "), "weight_start_kg minus weight_end_kg")
  expect_retraces(a)
  p <- pressure_data(); b <- ask(open_study(p), "change in sbp from baseline to week 12 by arm")
  expect_equal(table_of(b, "groups")$mean, as.vector(tapply(p$sbp_week12 - p$sbp_baseline, factor(p$arm, c("placebo", "low dose", "high dose")), mean)), tolerance = 1e-10)
})

test_that("numbers right after a word are times of one measure", {
  d <- data.frame(arm = rep(c("drug", "placebo"), 10), Pain0 = rnorm(20, 6), Pain6 = rnorm(20, 5))
  a <- ask(open_study(d), "did pain go down?")
  expect_equal(method_of(a), "t_paired")
  expect_equal(unlist(reading(a)$outcome), c("Pain0", "Pain6"))
})

test_that("points on a line correlate with one, exactly and in the script", {
  a <- ask(open_study(data.frame(`if` = 1:3, mean = c(4, 5, 6), check.names = FALSE)), "correlation of if and mean")
  expect_equal(value_of(a, "estimate"), 1)
  expect_true(as.list(retrace(a))$ok)
})

test_that("a log that is asked for is taken, told, and has no unit", {
  d <- with_seed(48, data.frame(river = rep(c("Ash", "Dun"), 30), mercury_ppm = round(exp(rnorm(60, -1, 0.5)), 3), length_mm = round(rnorm(60, 240,
      40)),
                                parasites = rpois(60, 1)))
  s <- open_study(d)
  a <- ask(s, "log mercury against log length")
  expect_equal(value_of(a, "estimate"), cor(log(d$mercury_ppm), log(d$length_mm)), tolerance = 1e-10)
  expect_match(paste(reading(a)$assumed, collapse = " "), "natural logarithm of mercury_ppm")
  expect_retraces(a)
  b <- ask(s, "mean log mercury by river")
  expect_no_match(as.list(b)$sentences$headline, "ppm")
  expect_equal(table_of(b, "groups")$mean, as.vector(tapply(log(d$mercury_ppm), d$river, mean)), tolerance = 1e-10)
  # of no parasites there is no logarithm, and the answer says how many rows that leaves
  expect_equal(value_of(ask(s, "mean of the log of parasites"), "n"), sum(d$parasites > 0))
  # names of methods stay what they are
  expect_no_match(paste(reading(ask(s, "log-rank test of length by river"))$plain, collapse = " "), "log_")
})

test_that("missing values, ages and sums become columns where a question needs them", {
  d <- with_seed(64, data.frame(method = rep(c("new", "old"), 60), age = sample(18:79, 120, TRUE), score = round(rnorm(120, 50, 9)),
      goals = rpois(120, 3),
                                assists = rpois(120, 2), left = sample(c("yes", "no"), 120, TRUE)))
  d$score[with_seed(65, sample(120, 25))] <- NA
  s <- open_study(d)
  a <- ask(s, "are missing scores related to method?")
  own <- chisq.test(table(d$method, is.na(d$score)), correct = FALSE)
  expect_equal(value_of(a, "statistic"), own$statistic[[1]], tolerance = 1e-9)
  expect_retraces(a)
  b <- ask(s, "mean score by age group")
  bands <- unique(unlist(reading(b)$by))
  expect_equal(bands, "age_group")
  expect_match(paste(unlist(reading(b)$assumed), collapse = " "), "bands of age")
  t <- table_of(b, "groups")
  cuts <- as.numeric(sub("[^0-9].*$", "", as.character(t[[1]])[-1]))
  expect_true(length(cuts) >= 3 && all(cuts %% 10 == 0))
  expect_equal(t$mean, as.vector(tapply(d$score, cut(d$age, c(-Inf, cuts, Inf), right = FALSE), mean, na.rm = TRUE)), tolerance = 1e-12)
  expect_retraces(b)
  c <- ask(s, "goals plus assists by method")
  expect_equal(sort(table_of(c, "groups")$mean), sort(as.numeric(tapply(d$goals + d$assists, d$method, mean))), tolerance = 1e-12)
  expect_retraces(c)
})

test_that("a bound and its other side are two groups, however the other side is called", {
  d <- with_seed(66, data.frame(age = sample(30:80, 150, TRUE), weight_loss = round(rnorm(150, 9, 4), 1), stage = sample(0:3, 150, TRUE)))
  s <- open_study(d)
  for (q in c("is weight loss different in people over 60 versus the others?", "compare weight loss of people over 60 and under 60")) {
    a <- ask(s, q)
    expect_equal(value_of(a, "p_value"), t.test(d$weight_loss[d$age > 60], d$weight_loss[d$age <= 60])$p.value, tolerance = 1e-8, info = q)
    expect_retraces(a)
  }
  b <- ask(s, "do people with stage 2 or more lose more weight than the rest?")
  expect_equal(value_of(b, "p_value"), t.test(d$weight_loss[d$stage >= 2], d$weight_loss[d$stage < 2])$p.value, tolerance = 1e-8)
})

test_that("those who gained or lost are counted by the sign of the change", {
  d <- with_seed(67, data.frame(treatment = rep(c("family", "control"), 30), weight_before_lb = round(rnorm(60, 82, 5), 1)))
  d$weight_after_lb <- round(d$weight_before_lb + rnorm(60, 2, 6), 1)
  s <- open_study(d)
  gain <- d$weight_after_lb - d$weight_before_lb
  expect_equal(value_of(ask(s, "proportion of patients who gained weight"), "estimate"), mean(gain > 0))
  a <- ask(s, "proportion who gained weight by treatment")
  expect_match(as.list(a)$sentences$headline, sprintf("%.1f %% in family", 100 * mean(gain[d$treatment == "family"] > 0)))
  expect_equal(value_of(ask(s, "weight change in the family therapy group"), "estimate"), mean(gain[d$treatment == "family"]))
  expect_equal(value_of(ask(s, "correlation between weight before and after"), "estimate"), cor(d$weight_before_lb, d$weight_after_lb))
  expect_equal(unlist(reading(ask(s, "mean weight before and after per treatment"))$outcome), c("weight_before_lb", "weight_after_lb"))
})

test_that("a change after a day sets the rows before it against those from it on", {
  d <- line_data()
  a <- ask(open_study(d), "did hardness change after April 1st?")
  own <- t.test(d$hardness[d$date < "2025-04-01"], d$hardness[d$date >= "2025-04-01"])
  expect_equal(value_of(a, "p_value"), own$p.value, tolerance = 1e-9)
  expect_retraces(a)
})

test_that("a measure in another unit is converted, and only where that unit measures the same", {
  d <- ward_data()
  s <- open_study(d)
  a <- ask(s, "mean length of stay in hours by ward")
  own <- tapply(24 * d$los_days, d$ward, mean)
  expect_equal(sort(table_of(a, "groups")$mean), sort(as.numeric(own)), tolerance = 1e-9)
  expect_match(as.list(a)$sentences$headline, "hours")
  expect_retraces(a)
})

test_that("a difference in percent of the other mean has its interval", {
  d <- ward_data()
  a <- ask(open_study(d), "percentage difference in length of stay between surgery and medicine")
  x <- d$los_days[d$ward == "Surgery"]; y <- d$los_days[d$ward == "Medicine"]
  if (sign(mean(x) - mean(y)) != sign(value_of(a, "estimate"))) { z <- x; x <- y; y <- z }
  expect_equal(value_of(a, "percent_difference"), 100 * (mean(x) / mean(y) - 1), tolerance = 1e-9)
  half <- qt(0.975, t.test(x, y)$parameter) * sqrt(var(x) / length(x) / mean(x)^2 + var(y) / length(y) / mean(y)^2)
  expect_equal(value_of(a, "percent_low"), 100 * (mean(x) / mean(y) * exp(-unname(half)) - 1), tolerance = 1e-9)
  expect_retraces(a)
})

test_that("who improved most is found by the change", {
  d <- donor_data()
  a <- ask(open_study(d), "which blood group improved most in hb?")
  expect_true(status_of(a) %in% c("answered", "needs_choice", "cannot_answer"))
  b <- ask(open_study(d), "how much did hb change on average?")
  expect_equal(value_of(b, "estimate"), mean(d$hb_after_g_dl - d$hb_g_dl), tolerance = 1e-9)
})

test_that("one column minus another is the difference of the two", {
  d <- bike_data()
  a <- ask(open_study(d), "rentals minus returns per station")
  expect_equal(sort(table_of(a, "groups")$mean), sort(as.numeric(tapply(d$rentals - d$returns, d$station, mean))), tolerance = 1e-10)
  expect_retraces(a)
  b <- ask(open_study(d), "mean rentals on holidays")
  expect_equal(value_of(b, "estimate"), mean(d$rentals[d$holiday == "yes"]), tolerance = 1e-10)
  expect_equal(status_of(ask(open_study(d), "net flow by station")), "cannot_answer")
})

test_that("grades in letters are ordered with A the best; what is joined before the verb explains what follows it", {
  d <- exam_data()
  s <- open_study(d)
  a <- ask(s, "proportion with grade B or better")
  expect_equal(value_of(a, "estimate"), mean(d$grade %in% c("A", "B")), tolerance = 1e-10)
  b <- ask(s, "how do maths and absences predict science?")
  expect_equal(reading(b)$outcome, "science")
  expect_setequal(reading(b)$predictors, c("maths", "absences"))
  expect_equal(value_of(b, "r_squared"), summary(lm(science ~ maths + absences, d))$r.squared, tolerance = 1e-10)
})

test_that("of several dates the one that is named tells the time; a duration between them is in days", {
  rows <- with_seed(31, { from <- as.Date("2025-01-01") + sample(0:340, 200, TRUE); stay <- rgeom(200, 0.18) + 1
    data.frame(PatientNo = 1:200 + 5000, AdmissionDate = from, DischargeDate = from + stay, Sex = sample(c("Female", "Male"), 200, TRUE),
               Comorbidities = rpois(200, 1.6), LengthOfStay = stay, Cost = round(600 * stay + rgamma(200, 2, 0.002), 2), Died = rbinom(200, 1, 0.1)) })
  s <- open_study(local_data(rows))
  expect_match(codebook(s)$reason[codebook(s)$column == "LengthOfStay"], "the days from AdmissionDate to DischargeDate")
  expect_equal(value_of(ask(s, "how many patients stayed longer than a week?"), "n"), sum(rows$LengthOfStay > 7))
  expect_equal(value_of(ask(s, "how many stayed longer than 2 weeks"), "n"), sum(rows$LengthOfStay > 14))
  by_month <- table_of(ask(s, "discharges per month"), "time")
  expect_equal(by_month$n, as.vector(table(format(rows$DischargeDate, "%Y-%m"))))
  expect_equal(value_of(ask(s, "total cost in the first quarter"), "estimate"), sum(rows$Cost[format(rows$AdmissionDate, "%m") %in% c("01", "02", "03")]), tolerance = 1e-10)
  expect_equal(reading(ask(s, "winter versus summer length of stay"))$outcome, "LengthOfStay")
  expect_match(as.list(ask(s, "winter versus summer length of stay"))$sentences$headline, "length of stay")
  expect_equal(method_of(ask(s, "risk factors for death")), "association_ranking")
  several <- ask(s, "how does cost vary with length of stay and comorbidities")
  expect_equal(value_of(several, "r_squared"), summary(lm(Cost ~ LengthOfStay + Comorbidities, rows))$r.squared, tolerance = 1e-10)
  expect_equal(method_of(ask(s, "compare length of stay between men and women using a suitable test")), "t_welch")
  bands <- ask(s, "share who died for patients with 3 or more comorbidities compared with fewer")
  expect_equal(reading(bands)$by, "Comorbidities_band")
  expect_match(as.list(bands)$sentences$headline, sprintf("%d of %d", sum(rows$Died[rows$Comorbidities >= 3]), sum(rows$Comorbidities >= 3)))
  half <- ask(s, "total cost in the first half of the period")
  middle <- min(rows$AdmissionDate) + ceiling(as.numeric(diff(range(rows$AdmissionDate))) / 2)
  expect_equal(value_of(half, "estimate"), sum(rows$Cost[rows$AdmissionDate < middle]), tolerance = 1e-10)
  expect_match(as.list(half)$reading$plain, "AdmissionDate is before")
})

test_that("odds for each further unit of time are those of the column in that unit", {
  rows <- data.frame(visit = sprintf("V%03d", 1:80), wait_days = rep(c(1, 4, 8, 15, 21, 3, 10, 6), 10), missed = as.integer(sin(1:80) + rep(c(0, 0, .3, .8, 1, 0, .2, .1), 10) > .9))
  slope <- coef(glm(missed ~ wait_days, binomial, rows))[["wait_days"]]
  a <- ask(open_study(local_data(rows)), "odds of missed per extra week of waiting")
  expect_equal(value_of(a, "odds_ratio"), exp(7 * slope), tolerance = 1e-6)
  expect_match(paste(unlist(reading(a)$assumed), collapse = " "), "wait_days divided by 7")
})
