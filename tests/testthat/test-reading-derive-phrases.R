# Shares of a level, courses over a stretch of time, counts by period, parts of the day, shares of yes/no columns.

emergency_rows <- function(n = 300) with_seed(77, {
  arrival <- as.POSIXct("2024-03-01 00:00", tz = "UTC") + sort(runif(n, 0, 60 * 86400))
  data.frame(visit_no = 10000 + seq_len(n), arrival = format(arrival, "%Y-%m-%d %H:%M"), age = pmax(0, round(rnorm(n, 45, 24))),
             sex = sample(c("female", "male"), n, TRUE), triage = sample(1:5, n, TRUE), wait_min = round(rgamma(n, 2, 0.025)),
             stay_hours = round(rgamma(n, 3, 0.8), 1), disposition = sample(c("discharged", "admitted", "transferred"), n, TRUE))
})

site_rows <- function(n = 500) with_seed(78, {
  out <- data.frame(user = sprintf("u%05d", sample(1e5, n)), variant = sample(c("A", "B"), n, TRUE), device = sample(c("phone", "desktop"), n, TRUE),
                    new_visitor = sample(c(TRUE, FALSE), n, TRUE), pages = 1 + rpois(n, 3), country = sample(c("UK", "Ireland", "France"), n, TRUE))
  out$converted <- rbinom(n, 1, 0.2)
  out$order_value <- ifelse(out$converted == 1, round(rlnorm(n, 3.7, 0.5), 2), NA)
  out
})

test_that("a share of a level among others, and how likely it is", {
  rows <- emergency_rows(); s <- open_study(rows)
  a <- ask(s, "share admitted among those over 65")
  expect_equal(value_of(a, "estimate"), mean(rows$disposition[rows$age > 65] == "admitted"), tolerance = 1e-12)
  b <- ask(s, "are men more likely to be admitted than women")
  expect_equal(value_of(b, "p_value"), chisq.test(rows$disposition == "admitted", rows$sex, correct = FALSE)$p.value, tolerance = 1e-10)
})

test_that("rows are counted by period, whatever they are called", {
  rows <- emergency_rows(); s <- open_study(rows)
  day <- substr(rows$arrival, 1, 10)
  for (q in c("arrivals per day", "patients per day", "number of rows by day")) {
    expect_equal(table_of(ask(s, q), "time")$n, as.vector(table(day)), info = q)
  }
  a <- table_of(ask(s, "admissions per month"), "time")
  expect_equal(a$n, as.vector(table(substr(day, 1, 7)[rows$disposition == "admitted"])))
})

test_that("parts of the day, and a course over the whole time", {
  rows <- emergency_rows(); s <- open_study(rows)
  hour <- as.integer(substr(rows$arrival, 12, 13))
  night <- hour < 6 | hour >= 22
  a <- ask(s, "is the wait longer at night")
  expect_equal(abs(value_of(a, "statistic")), abs(unname(t.test(rows$wait_min ~ night)$statistic)), tolerance = 1e-10)
  expect_retraces(a)
  b <- ask(s, "average wait in the evening")
  expect_equal(value_of(b, "estimate"), mean(rows$wait_min[hour >= 18 & hour < 22]), tolerance = 1e-12)
  expect_retraces(b)
  expect_equal(as.list(ask(s, "did waits get longer over the two months"))$reading$task, "trend")
})

test_that("what someone does is the outcome, what they are explains it", {
  rows <- emergency_rows()
  a <- ask(open_study(rows), "do older patients stay longer, taking triage into account")
  expect_equal(reading(a)$outcome, "stay_hours")
  fit <- lm(stay_hours ~ age + triage, rows)
  expect_equal(table_of(a, "coefficients")$estimate[2], unname(coef(fit)[2]), tolerance = 1e-8)
})

test_that("the first of two yes/no columns says whose share it is", {
  rows <- site_rows(); s <- open_study(rows)
  expect_equal(value_of(ask(s, "what share of new visitors converted"), "estimate"), mean(rows$converted[rows$new_visitor]), tolerance = 1e-12)
  expect_equal(value_of(ask(s, "what share of new visitors on phones converted"), "estimate"),
               mean(rows$converted[rows$new_visitor & rows$device == "phone"]), tolerance = 1e-12)
})

test_that("rows are what a value is per, two percentages, and what groups are compared on", {
  rows <- site_rows(); s <- open_study(rows)
  a <- ask(s, "average order value per visitor")
  expect_equal(value_of(a, "estimate"), mean(rows$order_value, na.rm = TRUE), tolerance = 1e-12)
  expect_match(paste(as.list(a)$reading$assumed, collapse = " "), "do not count as 0")
  b <- ask(s, "how many visitors would we need to detect an increase from 8 to 10 percent")
  expect_equal(method_of(b), "power_proportions")
  d <- ask(s, "compare the three countries on conversion")
  expect_equal(unname(unlist(reading(d)[c("outcome", "by")])), c("converted", "country"))
})

test_that("an effect named before its noun, a gap in each group, and the most of those that", {
  rows <- with_seed(85, data.frame(farm = sample(sprintf("F%02d", 1:8), 160, TRUE), cow = 1000 + 1:160, breed = sample(c("Holstein", "Jersey"), 160, TRUE),
                                   lactation = sample(1:6, 160, TRUE), milk_kg = round(rnorm(160, 28, 5), 1), lame = sample(c("yes", "no"), 160, TRUE)))
  s <- open_study(rows)
  a <- ask(s, "does the breed effect on milk depend on lactation")
  expect_equal(reading(a)$outcome, "milk_kg")
  fit <- lm(milk_kg ~ breed * lactation, rows)
  expect_equal(abs(table_of(a, "coefficients")$estimate[4]), abs(unname(coef(fit)[4])), tolerance = 1e-8)
  b <- ask(s, "which farm has the most lame cows")
  lame <- table(rows$farm[rows$lame == "yes"])
  expect_match(as.list(b)$sentences$headline, names(lame)[which.max(lame)])
  expect_equal(value_of(b, "estimate"), max(lame))
  d <- ask(s, "which farm has the biggest gap in milk between Holstein and Jersey")
  expect_setequal(reading(d)$by, c("farm", "breed"))
  expect_equal(status_of(ask(s, "which farm has the biggest gap between Holstein and Jersey")), "needs_choice")
  e <- as.list(ask(s, "milk in the best and the worst farm"))$sentences$headline
  means <- tapply(rows$milk_kg, rows$farm, mean)
  for (name in names(means)[c(which.max(means), which.min(means))]) expect_match(e, name)
})

# Calls of a service: camelCase names with units in them, a time of day, who answered a question.
service_calls <- function() {
  set.seed(6)
  n <- 240
  d <- data.frame(CallID = 200000 + seq_len(n), Agent = sample(c("Amira", "Ben", "Chloe"), n, TRUE),
                  Call_Start = as.POSIXct("2026-05-01 08:00", tz = "UTC") + sort(sample(0:(86400 * 30), n)),
                  WaitSecs = round(stats::rexp(n, 1 / 70)), HandleMins = round(stats::rgamma(n, 3, 0.4), 1),
                  Resolved = sample(c("Y", "N"), n, TRUE, c(0.7, 0.3)), CSAT = sample(c(1:5, NA), n, TRUE))
  d
}

test_that("units joined to names by a capital are units", {
  d <- service_calls()
  s <- open_study(local_data(d))
  book <- codebook(s)
  expect_equal(book$unit[match(c("WaitSecs", "HandleMins"), book$column)], c("s", "min"))
  a <- ask(s, "what percentage of callers waited more than 2 minutes?")
  expect_equal(value_of(a, "estimate"), mean(d$WaitSecs > 120))
})

test_that("times of day bound the rows, and hours count them", {
  d <- service_calls()
  s <- open_study(local_data(d))
  hour <- as.numeric(format(d$Call_Start, "%H", tz = "UTC")) + as.numeric(format(d$Call_Start, "%M", tz = "UTC")) / 60 +
    as.numeric(format(d$Call_Start, "%S", tz = "UTC")) / 3600
  a <- ask(s, "average wait before 10am")
  expect_equal(value_of(a, "estimate"), mean(d$WaitSecs[hour < 10]))
  expect_retraces(a)
  expect_equal(value_of(ask(s, "how many calls came in after 17:30"), "n"), sum(hour >= 17.5))
  expect_equal(value_of(ask(s, "calls between 9 and 11am by agent"), "n"), sum(hour >= 9 & hour < 11))
  expect_equal(value_of(ask(s, "average wait between noon and 2 pm"), "estimate"), mean(d$WaitSecs[hour >= 12 & hour < 14]))
  a <- ask(s, "how many calls per hour of the day?")
  expect_equal(table_of(a, "time")$n, as.vector(table(factor(floor(hour), sort(unique(floor(hour)))))))
})

test_that("rows with an event are counted for each group, answers that are there are responses, and who is told by an event narrows", {
  d <- service_calls()
  s <- open_study(local_data(d))
  a <- ask(s, "which agent resolves the most calls?")
  expect_equal(value_of(a, "estimate"), max(table(d$Agent[d$Resolved == "Y"])))
  a <- ask(s, "which agent has the most unresolved calls?")
  expect_equal(value_of(a, "n"), sum(d$Resolved == "N"))
  a <- ask(s, "response rate of the csat question")
  expect_equal(value_of(a, "estimate"), mean(!is.na(d$CSAT)))
  own <- d[d$Resolved == "Y", ]
  expect_equal(value_of(ask(s, "correlation between wait and handle time for resolved calls"), "r"), stats::cor(own$WaitSecs, own$HandleMins),
               tolerance = 1e-10)
})

# Staff: when they were hired and born, how much of a full post, who left.
staff_rows <- function() {
  set.seed(12)
  n <- 150
  d <- data.frame(employee_no = 3000 + seq_len(n), department = sample(c("Finance", "IT", "Operations"), n, TRUE), birth_year = sample(1960:2003, n, TRUE),
                  hired = as.Date("2012-01-01") + sample(0:4500, n, TRUE), fte = sample(c(1, 0.8, 0.5), n, TRUE), sick_days = stats::rpois(n, 6),
                  salary_eur = round(stats::rlnorm(n, 10.7, 0.3), -2), left_company = sample(c("yes", "no"), n, TRUE, c(0.2, 0.8)))
  d$left_on <- as.Date(ifelse(d$left_company == "yes", pmin(d$hired + 400, as.Date("2025-06-30")), NA), origin = "1970-01-01")
  d
}

test_that("tenure, age, attrition, part time and leavers come from what the data holds", {
  d <- staff_rows()
  s <- open_study(local_data(d))
  last <- max(d$hired, d$left_on, na.rm = TRUE)
  end <- d$left_on
  end[is.na(end)] <- last
  a <- ask(s, "average tenure by department")
  expect_equal(as.numeric(table_of(a, "groups")$mean), as.vector(tapply(as.numeric(end - d$hired) / 365.25, d$department, mean)), tolerance = 1e-9)
  expect_match(reading(a)$assumed, "left_on", all = FALSE)
  expect_retraces(a)
  expect_equal(value_of(ask(s, "how many employees are over 50?"), "n"), sum(as.numeric(format(last, "%Y")) - d$birth_year > 50))
  a <- ask(s, "attrition by department")
  expect_equal(reading(a)$by, "department")
  expect_match(reading(a)$plain, "left_company is yes")
  expect_equal(value_of(ask(s, "share of part-timers"), "estimate"), mean(d$fte < 1))
  a <- ask(s, "sick days of leavers vs stayers")
  expect_equal(value_of(a, "p_value"), stats::t.test(sick_days ~ left_company, d)$p.value, tolerance = 1e-8)
})

test_that("a measure is told in the unit asked for, at once or afterwards, and times of day narrow an answer", {
  d <- service_calls()
  s <- open_study(local_data(d))
  expect_equal(value_of(ask(s, "average wait in minutes"), "estimate"), mean(d$WaitSecs) / 60, tolerance = 1e-10)
  a <- ask(s, "average wait by agent")
  b <- ask(a, "in minutes")
  expect_equal(as.numeric(table_of(b, "groups")$mean), as.vector(tapply(d$WaitSecs / 60, d$Agent, mean)), tolerance = 1e-10)
  expect_retraces(b)
  hour <- as.POSIXlt(d$Call_Start, tz = "UTC")$hour
  late <- ask(a, "only after 5pm")
  expect_equal(value_of(late, "n"), sum(hour >= 17))
})

test_that("ages narrow an answer where only a year of birth is held", {
  d <- staff_rows()
  a <- ask(ask(open_study(local_data(d)), "average sick days by department"), "those over 50")
  year <- as.numeric(format(max(d$hired, d$left_on, na.rm = TRUE), "%Y"))
  expect_equal(value_of(a, "n"), sum(year - d$birth_year > 50))
})

test_that("a day of the week is set against all others, and rows on it are counted beside them", {
  d <- service_calls()
  s <- open_study(local_data(d))
  monday <- format(d$Call_Start, "%u", tz = "UTC") == "1"
  a <- ask(s, "is wait longer on Mondays than on other days")
  expect_equal(value_of(a, "p_value"), stats::t.test(d$WaitSecs[monday], d$WaitSecs[!monday])$p.value, tolerance = 1e-8)
  expect_retraces(a)
  a <- ask(s, "are there more calls on Mondays?")
  counts <- table_of(a, "counts")
  expect_equal(as.numeric(counts$n[as.character(counts[[1]]) == "Monday"]), sum(monday))
})

test_that("days beyond a bound of their mean, night against day, names with digits", {
  rows <- with_seed(55, { out <- data.frame(timestamp = format(as.POSIXct("2025-01-06", tz = "UTC") + 3600 * (0:(24 * 30 - 1)), "%Y-%m-%d %H:%M"))
    hour <- as.numeric(substr(out$timestamp, 12, 13)); out$station <- rep(c("Mill", "Quay"), length.out = nrow(out))
    out$no2 <- round(25 + 10 * (hour %in% 7:9) + rnorm(nrow(out), 0, 6), 1); out$pm25 <- round(rlnorm(nrow(out), 2.3, 0.5), 1); out$no2[c(5, 40, 41)] <- NA; out })
  s <- open_study(local_data(rows)); day <- substr(rows$timestamp, 1, 10); hour <- as.numeric(substr(rows$timestamp, 12, 13))
  a <- ask(s, "on how many days did the mean pm25 exceed 11.5?")
  expect_match(as.list(a)$sentences$headline, sprintf("^%d of the 30 days lie above 11.5", sum(tapply(rows$pm25, day, mean) > 11.5)))
  b <- ask(s, "no2 at night vs day")
  night <- hour >= 22 | hour < 6
  expect_equal(abs(value_of(b, "statistic")), abs(unname(t.test(rows$no2 ~ night)$statistic)), tolerance = 1e-10)
  expect_equal(reading(ask(s, "missing no2 by station"))$by, "station")
  expect_equal(status_of(ask(s, "24 hour rolling mean of no2")), "cannot_answer")
})
