# Who meets a condition, who has one level of a column, and groups set against everywhere else.

gym_rows <- function() with_seed(26, {
  n <- 320
  out <- data.frame(member_no = 10000 + seq_len(n), joined = as.Date("2022-01-10") + sample(0:900, n, TRUE),
                    plan = sample(c("Basic", "Plus", "Premium"), n, TRUE, c(0.5, 0.3, 0.2)),
                    club = sample(c("Riverside", "Station", "Old Town"), n, TRUE),
                    birth_year = sample(1950:2006, n, TRUE), visits_last_month = rpois(n, 2), satisfaction = sample(1:10, n, TRUE),
                    months_active = sample(1:36, n, TRUE))
  out$monthly_fee <- c(Basic = 24.9, Plus = 39.9, Premium = 64.9)[out$plan]
  out$cancelled <- ifelse(stats::runif(n) < stats::plogis(0.4 - 0.5 * out$visits_last_month), "Yes", "No")
  out
})

travel_rows <- function() with_seed(8, {
  n <- 300
  data.frame(resp_id = seq_len(n), region = sample(c("North East", "South West", "London", "Wales"), n, TRUE),
             main_mode = sample(c("car", "bus", "train", "bicycle"), n, TRUE, c(0.45, 0.25, 0.2, 0.1)), commute_min = round(rgamma(n, 3, 0.1)),
             reason_cost = rbinom(n, 1, 0.4), reason_time = rbinom(n, 1, 0.55), reason_comfort = rbinom(n, 1, 0.3))
})

test_that("who did or did not is a condition, wherever the clause stands", {
  rows <- gym_rows()
  s <- open_study(rows)
  stayed <- rows[rows$cancelled == "No", ]
  for (q in c("compare satisfaction across clubs among those who did not cancel", "compare satisfaction across clubs excluding those who cancelled",
              "compare satisfaction across clubs for members who have not cancelled")) {
    a <- ask(s, q)
    expect_equal(filters_of(a), "cancelled == No", info = q)
    expect_equal(value_of(a, "p_value"), stats::oneway.test(satisfaction ~ club, stayed)$p.value, tolerance = 1e-9, info = q)
  }
  a <- ask(s, "average satisfaction by club excluding those with no visits")
  came <- rows[rows$visits_last_month > 0, ]
  t <- table_of(a, "groups")
  expect_equal(stats::setNames(t$mean, t[[1]]), c(tapply(came$satisfaction, came$club, mean)), tolerance = 1e-12, ignore_attr = TRUE)
})

test_that("the share without is of those named, never the share of those named among those without", {
  rows <- gym_rows()
  a <- ask(open_study(rows), "what share of members at Station had no visits?")
  expect_equal(value_of(a, "estimate"), mean(rows$visits_last_month[rows$club == "Station"] == 0), tolerance = 1e-12)
})

test_that("a chance that moves with a number is modelled, a total that comes from a level is divided", {
  rows <- gym_rows()
  s <- open_study(rows)
  fit <- stats::glm(I(cancelled == "Yes") ~ visits_last_month, stats::binomial, rows)
  for (q in c("does visiting more reduce the chance of cancelling?", "does the risk of cancelling fall with visits?")) {
    a <- ask(s, q)
    expect_equal(method_of(a), "logistic_regression", info = q)
    expect_equal(value_of(a, "odds_ratio"), exp(stats::coef(fit)[[2]]), tolerance = 1e-6, info = q)
  }
  a <- ask(s, "what percentage of monthly fees comes from Premium members?")
  expect_equal(method_of(a), "share_of_total")
  own <- tapply(rows$monthly_fee, rows$plan, sum) / sum(rows$monthly_fee)
  t <- table_of(a, "shares")
  expect_equal(stats::setNames(t$percent, t$group)[names(own)] / 100, c(own), tolerance = 1e-9, ignore_attr = TRUE)
})

test_that("ages follow from years of birth, and rows are counted by the date that the verb names", {
  rows <- gym_rows()
  s <- open_study(rows)
  last <- as.numeric(format(max(rows$joined), "%Y"))
  a <- ask(s, "how old are our members?")
  expect_equal(value_of(a, "estimate"), mean(last - rows$birth_year), tolerance = 1e-12)
  expect_match(reading(a)$assumed, "minus birth_year", all = FALSE)
  expect_retraces(a)
  a <- ask(s, "average satisfaction of members under 30 at Station")
  expect_equal(value_of(a, "estimate"), mean(rows$satisfaction[last - rows$birth_year < 30 & rows$club == "Station"]), tolerance = 1e-12)
  a <- ask(s, "how many members joined per month in 2023?")
  own <- table(format(rows$joined[format(rows$joined, "%Y") == "2023"], "%Y-%m"))
  expect_equal(table_of(a, "time")$n, as.vector(own))
})

test_that("what lacks its outcome asks for it, and is never a summary of what divides", {
  s <- open_study(gym_rows())
  for (q in c("is there a plan effect?", "did Station members benefit more from Premium than the others?")) {
    expect_equal(status_of(ask(s, q)), "needs_choice", info = q)
  }
  expect_equal(method_of(ask(s, "who is most likely to cancel?")), "association_ranking")
  a <- ask(s, "is there a relationship between satisfaction and cancelling?")
  expect_equal(reading(a)$outcome, "satisfaction")
  expect_equal(reading(a)$by, "cancelled")
})

test_that("one level of a column is an event: the most of it, more of it, the share of it", {
  rows <- travel_rows()
  s <- open_study(rows)
  a <- ask(s, "which region has the most bus users?")
  expect_equal(value_of(a, "estimate"), max(tapply(rows$main_mode == "bus", rows$region, sum)))
  two <- rows[rows$region %in% c("London", "Wales"), ]
  own <- stats::chisq.test(two$region, two$main_mode == "train", correct = FALSE)
  for (q in c("is the train more common in London than in Wales?", "do people in London use the train more than people in Wales?")) {
    a <- ask(s, q)
    expect_equal(value_of(a, "statistic"), own$statistic[[1]], tolerance = 1e-9, info = q)
    expect_retraces(a)
  }
  a <- ask(s, "what share of people commute by car in Wales?")
  expect_equal(value_of(a, "estimate"), mean(rows$main_mode[rows$region == "Wales"] == "car"), tolerance = 1e-12)
  a <- ask(s, "share of car commuters by region")
  t <- table_of(a, "shares")
  own <- tapply(rows$main_mode == "car", rows$region, mean)
  expect_equal(stats::setNames(t$share, t$group)[names(own)], c(own), tolerance = 1e-12, ignore_attr = TRUE)
  a <- ask(s, "do people in London commute longer than elsewhere?")
  m <- tapply(rows$commute_min, rows$region, mean)
  expect_equal(value_of(a, "estimate"), m[["London"]] - mean(m[names(m) != "London"]), tolerance = 1e-9)
})

test_that("a column of modes is no statistic, options of one question are told together, and a wide table answers quickly", {
  rows <- travel_rows()
  s <- open_study(rows)
  a <- ask(s, "which mode has the longest commute?")
  expect_equal(value_of(a, "estimate"), max(tapply(rows$commute_min, rows$main_mode, mean)), tolerance = 1e-12)
  a <- ask(s, "which reasons are given by bus users?")
  expect_equal(method_of(a), "item_answers")
  expect_equal(filters_of(a), "main_mode == bus")
  time <- system.time(a <- ask(s, "is mode associated with region?"))[["elapsed"]]
  expect_equal(value_of(a, "p_value"), stats::chisq.test(rows$main_mode, rows$region)$p.value, tolerance = 1e-9)
  expect_lt(time, 3)
})

test_that("rows that miss a value are listed with their names, and counted in groups", {
  rows <- gym_rows()
  rows$satisfaction[c(4, 9)] <- NA
  s <- open_study(rows)
  a <- ask(s, "which members have a missing satisfaction score?")
  expect_equal(value_of(a, "n"), 2)
  expect_match(as.list(a)$sentences$headline, "10004.*10009")
  a <- ask(s, "how many members are missing satisfaction by club?")
  expect_equal(reading(a)$by, "club")
  expect_equal(method_of(a), "crosstab")
})

# Visitors of a site who saw one of three variants: who returns, who converts, what they spend.
site_visitors <- function() {
  set.seed(77)
  n <- 300
  d <- data.frame(visitor_id = sprintf("V%04d", seq_len(n)), variant = sample(c("control", "new_layout", "new_price"), n, TRUE),
                  first_seen = as.Date("2026-03-02") + sample(0:41, n, TRUE), returning = sample(c(TRUE, FALSE), n, TRUE),
                  sessions = stats::rpois(n, 3) + 1, converted = sample(c("Yes", "No"), n, TRUE, c(0.3, 0.7)))
  d$revenue <- ifelse(d$converted == "Yes", round(stats::rlnorm(n, 3.5, 0.5), 2), 0)
  d
}

test_that("variants: lifts, even splits, new and returning visitors, revenue for each visitor", {
  d <- site_visitors()
  s <- open_study(local_data(d))
  two <- d[d$variant != "new_price", ]
  a <- ask(s, "what is the uplift of new_layout over control in conversion?")
  expect_equal(value_of(a, "n"), nrow(two))
  expect_equal(abs(value_of(a, "estimate")), abs(diff(as.vector(tapply(two$converted == "Yes", two$variant, mean)))))
  a <- ask(s, "are visitors split evenly across the variants?")
  expect_equal(value_of(a, "p_value"), stats::chisq.test(table(d$variant))$p.value, tolerance = 1e-10)
  a <- ask(s, "average revenue of new and returning visitors")
  expect_equal(as.numeric(table_of(a, "groups")$mean), as.vector(tapply(d$revenue, d$returning, mean)))
  expect_match(write_up(a), "returning|TRUE")
  a <- ask(s, "which variant earns the most revenue per visitor?")
  expect_equal(value_of(a, "estimate"), max(tapply(d$revenue, d$variant, mean)))
  # what they do is compared between who they are, not the other way round
  a <- ask(s, "do returning visitors convert more?")
  expect_equal(c(reading(a)$outcome, reading(a)$by), c("converted", "returning"))
})

test_that("a yes/no column over time is told by its share in each period", {
  d <- site_visitors()
  a <- ask(open_study(local_data(d)), "conversion rate by week")
  week <- d$first_seen - (as.integer(format(d$first_seen, "%u")) - 1)
  expect_equal(table_of(a, "time")$mean, as.vector(tapply(d$converted == "Yes", week, mean)))
  expect_match(as.list(a)$sentences$headline, "share of rows with converted = Yes runs from [0-9.]+ %")
  expect_match(reading(a)$assumed, "share of its rows in which converted is Yes", all = FALSE)
  expect_retraces(a)
})

test_that("a bound that is said of some rows is shared among these, and ids are counted once", {
  d <- with_seed(51, data.frame(booking_no = sprintf("B%03d", 1:200), guest = sprintf("G%02d", sample(1:60, 200, TRUE)), nights = sample(1:7, 200, TRUE),
                                cancelled = sample(c("no", "yes"), 200, TRUE), channel = sample(c("direct", "online"), 200, TRUE)))
  s <- open_study(local_data(d))
  a <- ask(s, "what share of cancelled bookings have at least 3 nights")
  expect_equal(value_of(a, "estimate"), mean(d$nights[d$cancelled == "yes"] >= 3))
  b <- ask(s, "what share of bookings that were not cancelled have at least 3 nights")
  expect_equal(value_of(b, "estimate"), mean(d$nights[d$cancelled == "no"] >= 3))
  c <- ask(s, "among online bookings, what percentage had more than 4 nights")
  expect_equal(value_of(c, "estimate"), mean(d$nights[d$channel == "online"] > 4))
  e <- ask(s, "what percentage of guests booked at least twice")
  expect_equal(value_of(e, "estimate"), mean(table(d$guest) >= 2))
  # the other way round stays so
  f <- ask(s, "what share of bookings with more than 4 nights were cancelled")
  expect_equal(value_of(f, "estimate"), mean(d$cancelled[d$nights > 4] == "yes"))
  for (x in list(a, b, c, e, f)) expect_retraces(x)
})
