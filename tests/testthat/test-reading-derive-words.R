# Everyday turns of phrase, and what they name.

staff_rows <- function() with_seed(5, {
  n <- 240
  out <- data.frame(employee_no = sprintf("E%04d", seq_len(n)), department = sample(c("Sales", "R&D", "Human Resources", "Operations"), n, TRUE),
                    gender = sample(c("F", "M"), n, TRUE), hire_date = as.character(as.Date("2018-01-01") + sample(0:2000, n, TRUE)),
                    contract = sample(c("permanent", "fixed-term", "agency"), n, TRUE, c(0.6, 0.2, 0.2)),
                    monthly_salary_eur = round(rlnorm(n, 8.1, 0.35)), sick_days = rnbinom(n, 1.2, 0.2))
  out$left_company <- sample(c("Yes", "No"), n, TRUE, c(0.3, 0.7))
  out
})

test_that("levels with signs and levels told by their initials are conditions, never passed over", {
  rows <- staff_rows()
  s <- open_study(rows)
  a <- ask(s, "median monthly salary for permanent R&D staff")
  expect_equal(value_of(a, "estimate"), stats::median(rows$monthly_salary_eur[rows$contract == "permanent" & rows$department == "R&D"]))
  a <- ask(s, "what proportion of HR staff are women")
  expect_equal(value_of(a, "estimate"), mean(rows$gender[rows$department == "Human Resources"] == "F"))
  a <- ask(s, "how many people joined in 2020")
  expect_equal(value_of(a, "estimate"), sum(substr(rows$hire_date, 1, 4) == "2020"))
})

test_that("per head is a mean over rows, a gap is a difference, and who is a list of rows", {
  rows <- staff_rows()
  s <- open_study(rows)
  a <- ask(s, "which departments have the most sick days per head")
  expect_equal(value_of(a, "estimate"), max(tapply(rows$sick_days, rows$department, mean)), tolerance = 1e-12)
  a <- ask(s, "is there a gender pay gap")
  expect_equal(value_of(a, "p_value"), stats::t.test(monthly_salary_eur ~ gender, rows)$p.value, tolerance = 1e-9)
  a <- ask(s, "is there a gender pay gap after controlling for department and contract")
  own <- summary(stats::lm(monthly_salary_eur ~ gender + department + contract, rows))$coefficients["genderM", ]
  expect_equal(reading(a)$outcome, "monthly_salary_eur")
  expect_equal(abs(value_of(a, "estimate")), abs(own[["Estimate"]]), tolerance = 1e-8)
  a <- ask(s, "who earns more than 4500 a month")
  expect_equal(method_of(a), "row_listing")
  expect_equal(value_of(a, "n"), sum(rows$monthly_salary_eur > 4500))
  # a number and a yes or no are never two measurements of one thing
  expect_equal(ask(s, "compare sick days and leaving between fixed-term and permanent")$status, "needs_choice")
})

test_that("months as numbers, days that are rows, and values missing in groups", {
  rows <- datasets::airquality
  s <- open_study(rows)
  a <- ask(s, "is ozone higher in july than in september")
  expect_equal(value_of(a, "p_value"), stats::t.test(rows$Ozone[rows$Month == 7], rows$Ozone[rows$Month == 9])$p.value, tolerance = 1e-9)
  expect_equal(filters_of(ask(s, "mean ozone in may")), "Month == 5")
  expect_equal(reading(ask(s, "monthly average ozone"))$by, "Month")
  expect_equal(value_of(ask(s, "how many days had ozone above 100"), "estimate"), sum(rows$Ozone > 100, na.rm = TRUE))
  a <- ask(s, "correlation of ozone and temp ignoring missing days")
  expect_equal(value_of(a, "estimate"), stats::cor(rows$Ozone, rows$Temp, use = "complete.obs"), tolerance = 1e-10)
  for (q in c("missing ozone values by month", "how many ozone values are missing in each month", "is ozone missing more often in some months")) {
    a <- ask(s, q)
    expect_true("Ozone_missing" %in% c(reading(a)$outcome, vapply(reading(a)$filters, `[[`, "", "column"), reading(a)$extra$event$column), info = q)
    expect_equal(reading(a)$by, "Month", info = q)
  }
})

test_that("what everything else explains is a model with all the other columns", {
  rows <- datasets::swiss
  a <- ask(open_study(rows), "how much of the variation in fertility is explained by everything else")
  expect_equal(value_of(a, "r_squared"), summary(stats::lm(Fertility ~ ., rows))$r.squared, tolerance = 1e-9)
})

test_that("the other side of a bound need not be told again, and a measure may stand behind its bound", {
  rows <- rpart::kyphosis
  a <- ask(open_study(rows), "share with kyphosis where start is below 9 versus above")
  expect_equal(reading(a)$by, "Start_band")
  shares <- tapply(rows$Kyphosis == "present", rows$Start < 9, mean)
  expect_match(as.list(a)$sentences$headline, sprintf("%.1f %%", 100 * shares[["TRUE"]]))
  cars <- data.frame(model = sprintf("m%02d", 1:40), cty = 10 + (1:40) %% 17, hwy = 15 + (1:40) %% 31)
  s <- open_study(cars)
  expect_equal(filters_of(ask(s, "cars with over 40 mpg on the highway")), "hwy > 40")
  a <- ask(s, "difference between highway and city mileage")
  expect_equal(value_of(a, "p_value"), stats::t.test(cars$hwy, cars$cty, paired = TRUE)$p.value, tolerance = 1e-9)
})

test_that("a yes or no of each row is counted over what the rows measure", {
  d <- with_seed(14, data.frame(session = sample(c("match", "training"), 400, TRUE), minutes = sample(40:100, 400, TRUE),
                                injured = ifelse(runif(400) < 0.1, "yes", "no")))
  s <- open_study(d)
  a <- ask(s, "injury rate per 1000 minutes in matches versus training")
  rate <- 1000 * tapply(d$injured == "yes", d$session, sum) / tapply(d$minutes, d$session, sum)
  expect_equal(sort(table_of(a, "rates")$rate), sort(unname(c(rate))), tolerance = 1e-10)
  expect_match(paste(unlist(reading(a)$assumed), collapse = " "), "injured is \"yes\" counts as one")
  expect_retraces(a)
})

test_that("days mean the one column of elapsed time, and numbered groups are groups", {
  d <- as.data.frame(datasets::ChickWeight)
  d$Chick <- as.integer(as.character(d$Chick)); d$Diet <- as.integer(as.character(d$Diet))
  s <- open_study(local_data(d))
  expect_equal(codebook(s)$kind[codebook(s)$column == "Diet"], "category")
  a <- ask(s, "which diet gives the heaviest chicks at day 21")
  expect_equal(value_of(a, "estimate"), max(tapply(d$weight[d$Time == 21], d$Diet[d$Time == 21], mean)), tolerance = 1e-12)
  expect_equal(filters_of(a), "Time == 21")
  expect_equal(reading(ask(s, "mean weight per diet and day"))$by, c("Diet", "Time"))
  a <- ask(s, "compare diet 1 and diet 3 at day 20")
  own <- d[d$Time == 20, ]
  expect_equal(value_of(a, "p_value"), stats::t.test(own$weight[own$Diet == 1], own$weight[own$Diet == 3])$p.value, tolerance = 1e-9)
  # a noun of change is not passed over, and a question how is no list of rows
  own <- d[d$Time == 21, ]; own$gain <- own$weight - d$weight[d$Time == 0][match(own$Chick, d$Chick[d$Time == 0])]
  expect_equal(value_of(ask(s, "does weight gain depend on diet"), "p_value"), stats::oneway.test(gain ~ Diet, own)$p.value, tolerance = 1e-8)
  expect_equal(value_of(ask(s, "how fast do chicks grow on diet 4"), "estimate"), mean(own$gain[own$Diet == 4]) / 21, tolerance = 1e-10)
})

visit_rows <- function() with_seed(11, {
  n <- 240
  out <- data.frame(appointment_id = sprintf("A%05d", seq_len(n)), patient_id = sprintf("P%03d", sample(90, n, TRUE)),
                    clinic = sample(c("Cardiology", "Dermatology", "ENT"), n, TRUE), booked_on = as.Date("2025-01-02") + sample(0:150, n, TRUE),
                    age = pmax(1, round(rnorm(n, 52, 18))), wait_min = round(rgamma(n, 2, 0.08)))
  out$appointment_date <- out$booked_on + rpois(n, 14)
  out
})

test_that("rows of a unit are counted, and a key is under no bound", {
  d <- visit_rows()
  s <- open_study(d)
  often <- names(which(table(d$patient_id) >= 3))
  expect_equal(value_of(ask(s, "how many patients had at least 3 appointments"), "estimate"), length(often))
  a <- ask(s, "patients with 3 or more appointments")
  expect_equal(value_of(a, "n"), sum(d$patient_id %in% often))
  expect_false(any(grepl("appointment_id", filters_of(a))))
})

test_that("two bounds with a gap between are two groups, and what lies between is left out", {
  d <- visit_rows()
  a <- ask(open_study(d), "compare wait times of patients under 40 with those over 60")
  expect_equal(value_of(a, "p_value"), stats::t.test(d$wait_min[d$age < 40], d$wait_min[d$age > 60])$p.value, tolerance = 1e-9)
  expect_equal(filters_of(a), "age_band in under 40|over 60")
  expect_retraces(a)
})

test_that("days from one date to another, and statistics asked for beside each other", {
  d <- visit_rows()
  s <- open_study(d)
  a <- ask(s, "how long between booking and appointment on average")
  expect_equal(value_of(a, "estimate"), mean(as.numeric(d$appointment_date - d$booked_on)), tolerance = 1e-12)
  t <- table_of(ask(s, "median wait, mean wait and 90th percentile by clinic"), "groups")
  expect_equal(t$p90, unname(c(tapply(d$wait_min, d$clinic, stats::quantile, 0.9))), tolerance = 1e-10)
})

test_that("while a choice is open a condition is taken into every reading to choose from", {
  d <- visit_rows()
  d$fee <- d$wait_min + with_seed(2, rnorm(nrow(d)))
  a <- ask(open_study(d), "does the clinic matter")
  expect_equal(a$status, "needs_choice")
  b <- ask(a, "only patients over 50")
  expect_equal(b$status, "needs_choice")
  c <- ask(b, "1")
  expect_equal(filters_of(c), "age > 50")
})

test_that("spreads are compared in everyday words, and letters stand for low, medium and high", {
  d <- datasets::warpbreaks
  s <- open_study(local_data(d))
  centred <- abs(d$breaks - stats::ave(d$breaks, d$tension, FUN = stats::median))
  own <- stats::anova(stats::lm(centred ~ d$tension))$`Pr(>F)`[1]
  for (q in c("is the variance of breaks the same in all tensions", "test of equal variances of breaks by tension")) {
    expect_equal(value_of(ask(s, q), "p_value"), own, tolerance = 1e-9, info = q)
  }
  a <- ask(s, "breaks at low tension versus high")
  expect_equal(value_of(a, "p_value"), stats::t.test(d$breaks[d$tension == "L"], d$breaks[d$tension == "H"])$p.value, tolerance = 1e-9)
})

test_that("a measure per measure is a total over a total, measures of different things stand side by side, and men are not passed over", {
  d <- with_seed(15, data.frame(cut = sample(c("Fair", "Good", "Ideal"), 300, TRUE), carat = round(rgamma(300, 4, 5), 2)))
  d$price <- round(4000 * d$carat + with_seed(16, rnorm(300, 0, 300))); d$table <- with_seed(17, round(rnorm(300, 57, 2), 1))
  d$depth <- with_seed(18, round(rnorm(300, 62, 1.5), 1)); d$sex <- rep(0:1, 150); d$age <- rep(20:49, 10)
  s <- open_study(d)
  rates <- tapply(d$price, d$cut, sum) / tapply(d$carat, d$cut, sum)
  expect_equal(sort(table_of(ask(s, "average price per carat by cut"), "rates")$rate), sort(unname(c(rates))), tolerance = 1e-10)
  a <- ask(s, "compare fair and good on table and depth")
  expect_equal(method_of(a), "group_summary")
  expect_equal(ask(s, "are men older")$status, "cannot_answer")
  b <- ask(ask(s, "median price by cut"), "as a chart")
  expect_equal(reading(b)$outcome, "price")
  expect_equal(reading(b)$statistic, "median")
})

test_that("above average is a bound, the most consistent has the least spread, and survival is who survived", {
  d <- utils::read.csv(demo_file())
  s <- hive_study()
  over <- d$honey_yield_kg > mean(d$honey_yield_kg, na.rm = TRUE)
  for (q in c("how many hives had above average yield", "hives with yield above average")) expect_equal(value_of(ask(s, q), "n"), sum(over,
      na.rm = TRUE),
                                                                                                        info = q)
  t <- table_of(ask(s, "share of hives with yield above average by region"), "shares")
  expect_equal(t$share, unname(c(tapply(over, d$region, mean, na.rm = TRUE)))[match(t$group, sort(unique(d$region)))], tolerance = 1e-12)
  a <- ask(s, "is the yield above average in the north")
  expect_equal(method_of(a), "t_one_sample")
  a <- ask(s, "which apiary has the most consistent yield")
  expect_equal(value_of(a, "estimate"), min(tapply(d$honey_yield_kg, d$apiary, stats::sd, na.rm = TRUE)), tolerance = 1e-10)
  a <- ask(s, "does survival differ by arm")
  expect_equal(value_of(a, "p_value"), suppressWarnings(stats::chisq.test(table(d$survived_winter, d$arm), correct = FALSE))$p.value,
      tolerance = 1e-9)
  expect_equal(value_of(ask(s, "rank the apiaries by survival"), "estimate"), max(tapply(d$survived_winter == "yes", d$apiary, mean)))
  expect_equal(method_of(ask(s, "how long until the hives swarm, by arm")), "log_rank")
})

test_that("each unit has its own course over time", {
  w <- demo_study("hive_weights.csv")
  for (q in c("weekly mean weight of each hive", "weekly mean weight by hive")) expect_equal(reading(ask(w, q))$by, "hive_id", info = q)
})

test_that("what the data does not hold is told: keys, changes and values of first days", {
  w <- demo_study("hive_weights.csv")
  a <- ask(w, "on which day was hive H01 heaviest")
  expect_equal(a$status, "cannot_answer")
  expect_match(as.list(a)$sentences$headline, "holds no \"H01\"")
  expect_equal(filters_of(ask(w, "on which day was hive H038 heaviest")), "hive_id == H038")
  rows <- as.data.frame(w)
  gains <- vapply(split(rows[!is.na(rows$weight_kg), ], rows$hive_id[!is.na(rows$weight_kg)]), function(d) {
    d <- d[order(d$date), ]
    d$weight_kg[nrow(d)] - d$weight_kg[1]
  }, 1)
  expect_equal(value_of(ask(w, "which hive gained the most weight"), "estimate"), max(gains), tolerance = 1e-10)
  for (q in c("does temperature drive weight change", "first and last weight of each hive")) {
    expect_equal(ask(w, q)$status, "cannot_answer", info = q)
  }
})

test_that("columns called mean, by, test and if are columns or words, as the question uses them", {
  d <- with_seed(19, data.frame(`if` = sample(c("yes", "no"), 90, TRUE), mean = rnorm(90, 50, 8), n = rpois(90, 5), by = sample(c("a", "b", "c"),
      90, TRUE),
                                test = rnorm(90, 10, 2), check.names = FALSE))
  s <- open_study(local_data(d))
  expect_equal(value_of(ask(s, "mean of n where by is a"), "estimate"), mean(d$n[d$by == "a"]), tolerance = 1e-12)
  expect_equal(value_of(ask(s, "does test differ by if"), "p_value"), stats::t.test(d$test ~ d[["if"]])$p.value, tolerance = 1e-8)
  expect_equal(value_of(ask(s, "t test of mean by if"), "p_value"), stats::t.test(d$mean ~ d[["if"]])$p.value, tolerance = 1e-8)
  expect_equal(table_of(ask(s, "what is the mean of test for each by"), "groups")$mean, unname(c(tapply(d$test, d$by, mean))), tolerance = 1e-8)
})

test_that("of several tables the one with the rows gives the dates and the units", {
  folder <- withr::local_tempdir()
  d <- with_seed(20, {
    customers <- data.frame(customer_id = 1:40, segment = sample(c("retail", "trade"), 40, TRUE), joined = as.Date("2024-01-01") + sample(0:300, 40))
    orders <- data.frame(order_id = sprintf("O%04d", 1:200), customer_id = sample(1:40, 200, TRUE),
        order_date = as.Date("2024-01-01") + sample(0:500, 200,
      TRUE), amount_gbp = round(rlnorm(200, 4, 0.6), 2), channel = sample(c("web", "phone"), 200, TRUE))
    list(customers = customers, orders = orders)
  })
  for (name in names(d)) utils::write.csv(d[[name]], file.path(folder, paste0(name, ".csv")), row.names = FALSE)
  s <- open_study(folder)
  o <- d$orders
  expect_match(filters_of(ask(s, "revenue per month in 2024")), "^order_date")
  spent <- sort(tapply(o$amount_gbp, o$customer_id, sum), decreasing = TRUE)
  expect_equal(value_of(ask(s, "top 5 customers by spend"), "estimate"), spent[[1]], tolerance = 1e-10)
  own <- o[o$order_date >= as.Date("2024-10-01") & o$order_date <= as.Date("2024-12-31"), ]
  t <- table_of(ask(s, "orders in the last 3 months of 2024 by channel"), "counts")
  expect_equal(t$n, unname(c(table(own$channel)))[match(t$channel, sort(unique(own$channel)))])
  expect_equal(method_of(ask(s, "share of revenue from the web")), "share_of_total")
})

test_that("who is described is not what divides, and means of groups beyond a bound are told for every group", {
  d <- with_seed(22, expand.grid(house = sprintf("H%02d", 1:6), day = as.Date("2025-01-01") + 0:59))
  d$heat_pump <- ifelse(d$house %in% c("H03", "H05"), "yes", "no")
  d$kwh <- with_seed(23, round(rgamma(nrow(d), 8, 0.8) + 3 * (d$heat_pump == "yes"), 1)); d$outside_temp <- with_seed(24, round(rnorm(nrow(d), 6,
      3), 1))
  s <- open_study(d)
  a <- ask(s, "do houses with a heat pump use more kwh")
  expect_equal(value_of(a, "p_value"), stats::t.test(kwh ~ heat_pump, d)$p.value, tolerance = 1e-8)
  # (what is used has one column that says so, and this is told)
  a <- ask(s, "do houses with a heat pump use more")
  expect_equal(unlist(reading(a)$outcome), "kwh")
  expect_match(paste(reading(a)$assumed, collapse = " "), "Took what is used, spent, earned or made to be kwh")
  a <- ask(s, "relationship between temperature and kwh for houses with a heat pump")
  own <- d[d$heat_pump == "yes", ]
  expect_equal(value_of(a, "estimate"), stats::cor(own$outside_temp, own$kwh), tolerance = 1e-10)
  t <- table_of(ask(s, "which houses use more than 12 kwh a day on average"), "groups")
  expect_equal(t$mean, unname(c(tapply(d$kwh, d$house, mean))), tolerance = 1e-10)
})

test_that("what groups differ in is the outcome, what an analysis is with divides, and combinations divide together", {
  d <- with_seed(25, data.frame(admission_no = 100001:100300, hospital = sample(c("Anne", "Riverside", "General"), 300, TRUE),
                                ward = sample(c("medical", "elderly care"), 300, TRUE), age = round(rnorm(300, 68, 12)), los_days = rgeom(300,
                                    0.15) + 1,
                                emergency = sample(c("yes", "no"), 300, TRUE), readmitted = sample(c("yes", "no"), 300, TRUE, c(0.2, 0.8))))
  s <- open_study(d)
  a <- ask(s, "do the hospitals differ in length of stay once age and ward are allowed for")
  own <- stats::anova(stats::lm(los_days ~ age + ward, d), stats::lm(los_days ~ age + ward + hospital, d))$`Pr(>F)`[2]
  expect_equal(value_of(a, "p_value"), own, tolerance = 1e-8)
  # the last word of a level is no level
  expect_equal(ask(s, "share of good care by hospital")$status, "cannot_answer")
  # (few rows are of exactly that age: a model says what is expected there)
  a <- ask(s, "risk of readmission for an 85 year old emergency admission")
  model <- stats::glm(I(readmitted == "yes") ~ age + emergency, stats::binomial(), d)
  expect_equal(value_of(a, "estimate"), unname(stats::predict(model, data.frame(age = 85, emergency = "yes"), type = "response")), tolerance = 1e-6)
})

test_that("fields: an effect on what is left open is asked about, factors of an analysis divide", {
  d <- with_seed(26, expand.grid(block = 1:4, variety = c("Aurora", "Borealis", "Crown"), nitrogen_kg_ha = c(0, 60, 120)))
  d$yield_t_ha <- with_seed(27, round(4 + 0.012 * d$nitrogen_kg_ha + c(0, 0.4, 0.9)[d$variety] + rnorm(nrow(d), 0, 0.3), 2))
  s <- open_study(d)
  # numbered blocks are no measure, so that only one is left, which is said
  a <- ask(s, "does the response to nitrogen depend on variety")
  expect_equal(reading(a)$outcome, "yield_t_ha")
  expect_match(reading(a)$assumed, "the only column that measures something", all = FALSE)
  a <- ask(s, "anova of yield with variety and nitrogen")
  expect_equal(reading(a)$outcome, "yield_t_ha")
  expect_setequal(reading(a)$by, c("variety", "nitrogen_kg_ha"))
  a <- ask(s, "best combination of variety and nitrogen for yield")
  expect_equal(value_of(a, "estimate"), max(tapply(d$yield_t_ha, list(d$variety, d$nitrogen_kg_ha), mean)), tolerance = 1e-12)
  expect_equal(reading(ask(s, "does yield increase across blocks"))$outcome, "yield_t_ha")
})

test_that("spreads, densities, blanks, weekdays and noun forms of verbs are understood", {
  d <- with_seed(51, data.frame(state = sprintf("State %s", c(LETTERS, letters)[1:48]), region = rep(c("North", "South", "West"), 16),
      population_k = round(rexp(48, 1 / 900)) + 50,
                                area_sq_mi = round(rexp(48, 1 / 5000)) + 300, income_usd = round(rnorm(48, 4500, 600))))
  s <- open_study(d)
  a <- ask(s, "which region has the widest spread of income")
  expect_equal(value_of(a, "estimate"), max(tapply(d$income_usd, d$region, sd)), tolerance = 1e-10)
  b <- ask(s, "which state has the highest population density")
  expect_equal(value_of(b, "estimate"), max(d$population_k / d$area_sq_mi), tolerance = 1e-10)
  expect_equal(value_of(ask(s, "is population overdispersed?"), "estimate"), var(d$population_k), tolerance = 1e-10)
  p <- with_seed(52, data.frame(plant = rep(sprintf("Q%d", 1:8), 6), concentration = rep(c(95, 175, 250, 350, 500, 675), each = 8),
      uptake = rnorm(48, 25, 6),
                                seen = as.Date("2024-01-01") + 0:47, pulse = c(NA, NA, round(rnorm(46, 72, 8))), hand = rep(c("Left", "Right"), 24)))
  s <- open_study(p)
  expect_equal(value_of(ask(s, "which plant takes up the most?"), "estimate"), max(tapply(p$uptake, p$plant, mean)), tolerance = 1e-10)
  expect_equal(value_of(ask(s, "linear trend of uptake over concentration"), "slope"), unname(stats::coef(stats::lm(uptake ~ concentration, p))[2]),
      tolerance = 1e-8)
  expect_equal(value_of(ask(s, "how many students left their pulse blank?"), "missing_cells"), 2)
  w <- ask(s, "does uptake differ by weekday?")
  expect_equal(value_of(w, "statistic"), stats::oneway.test(uptake ~ weekdays(seen), p)$statistic[[1]], tolerance = 1e-8)
})

test_that("amounts of time are told in the unit asked for", {
  d <- with_seed(53, data.frame(ticket = 1:60 + 900, team = rep(c("A", "B"), 30), wait_minutes = round(rexp(60, 0.2), 1),
      handle_minutes = round(rexp(60, 0.1), 1)))
  s <- open_study(d)
  expect_equal(value_of(ask(s, "total handling hours"), "estimate"), sum(d$handle_minutes) / 60, tolerance = 1e-10)
  expect_equal(value_of(ask(s, "average wait in seconds"), "estimate"), mean(d$wait_minutes) * 60, tolerance = 1e-10)
  a <- ask(s, "total handling hours by team")
  expect_equal(table_of(a, "groups")$sum, as.vector(tapply(d$handle_minutes, d$team, sum)) / 60, tolerance = 1e-10)
  expect_retraces(a)
  # (a mean in the unit of the column keeps it)
  expect_match(as.list(ask(s, "average wait"))$sentences$headline, "min (95 %", fixed = TRUE)
})

# Sessions of players: two measures in metres, minutes, sleep in hours, who was hurt.
player_sessions <- function() {
  set.seed(15)
  d <- expand.grid(player = sprintf("P%02d", 1:12), session = 1:12, stringsAsFactors = FALSE)
  d$date <- as.Date("2026-07-06") + 3 * (d$session - 1)
  d$session_type <- c("Training", "Training", "Match", "Recovery")[(d$session - 1) %% 4 + 1]
  d$distance_m <- round(stats::rnorm(nrow(d), 5000, 600)); d$sprint_m <- round(stats::rnorm(nrow(d), 220, 60))
  d$duration_min <- round(stats::rnorm(nrow(d), 70, 10)); d$load <- round(stats::rnorm(nrow(d), 400, 90))
  d$sleep_h <- round(stats::rnorm(nrow(d), 7.2, 0.9), 1) - rep(c(0.8, 0), c(3, 9))[match(d$player, unique(d$player))]
  d$injured <- stats::rbinom(nrow(d), 1, 0.12)
  d
}

test_that("units stand for the measures in them, each one's measures are told by group, bounds are on means", {
  d <- player_sessions()
  s <- open_study(local_data(d))
  a <- ask(s, "how many injuries per 1000 minutes?")
  expect_equal(value_of(a, "estimate"), 1000 * sum(d$injured) / sum(d$duration_min), tolerance = 1e-10)
  match <- d[d$session_type == "Match", ]
  expect_equal(value_of(ask(s, "metres per minute in matches"), "estimate"), sum(match$distance_m) / sum(match$duration_min), tolerance = 1e-10)
  a <- ask(s, "how variable is each player's load?")
  expect_equal(as.numeric(table_of(a, "groups")$sd), as.vector(tapply(d$load, d$player, stats::sd)), tolerance = 1e-10)
  few <- names(which(tapply(d$sleep_h, d$player, mean) < 7))
  for (said in c("which players slept less than 7 hours on average", "which players average less than 7 hours of sleep?",
                 "players whose average sleep is under 7 hours")) {
    a <- ask(s, said)
    expect_match(as.list(a)$sentences$headline, sprintf("%d of the 12 groups", length(few)), info = said)
  }
  expect_equal(value_of(ask(s, "list sessions where a player got injured"), "n"), sum(d$injured))
})

test_that("each one's last week against own past weeks, whoever they are called", {
  d <- player_sessions()
  s <- open_study(local_data(d))
  for (said in c("who is above their usual load?", "ratio of last week's load to the average of the past four weeks by player")) {
    a <- ask(s, said)
    expect_equal(method_of(a), "own_baseline", info = said)
    expect_equal(value_of(a, "units"), 12, info = said)
  }
})

# A field trial in blocks that are numbered, with a rate of nitrogen called N rate.
field_trial <- function() {
  set.seed(9)
  d <- expand.grid(Block = 1:4, Irrigation = c("none", "drip", "sprinkler"), rate = c(0, 60, 120, 180))
  d$yield <- round(4 + 0.4 * (d$Irrigation != "none") + 0.012 * d$rate + stats::rnorm(nrow(d), 0, 0.3) + c(0.3, 0, -0.1, -0.2)[d$Block], 2)
  stats::setNames(d, c("Block", "Irrigation", "N rate (kg/ha)", "Yield (t/ha)"))
}

test_that("nitrogen is the N rate, blocks are held constant, and a bare number is the value that one column holds", {
  d <- field_trial()
  s <- open_study(local_data(d))
  names(d) <- c("block", "irrigation", "n", "yield")
  expect_equal(codebook(s)$kind[1], "category")
  expect_equal(value_of(ask(s, "effect of nitrogen on yield"), "r"), stats::cor(d$yield, d$n), tolerance = 1e-10)
  a <- ask(s, "randomised block anova of yield by irrigation")
  own <- stats::anova(stats::lm(yield ~ factor(block) + irrigation, d))
  expect_equal(value_of(a, "statistic"), own["irrigation", "F value"], tolerance = 1e-8)
  expect_retraces(a)
  a <- ask(s, "which irrigation treatment yields most at 180?")
  expect_equal(value_of(a, "estimate"), max(tapply(d$yield[d$n == 180], d$irrigation[d$n == 180], mean)))
  a <- ask(s, "how much does yield increase per 10 kg of nitrogen?")
  expect_equal(value_of(a, "estimate"), 10 * stats::coef(stats::lm(yield ~ n, d))[[2]], tolerance = 1e-9)
})
