# Verbs and nouns that stand for a measure, its course and its difference.

energy_data <- function() {
  grid <- expand.grid(month = seq(as.Date("2023-01-01"), by = "month", length.out = 24), household = sprintf("H%02d", 1:24))
  k <- as.integer(grid$household)
  with_seed(2, data.frame(household = grid$household, month = format(grid$month, "%Y-%m"), tariff = ifelse(k %% 2 == 0, "time-of-use", "flat"),
    persons = 1 + k %% 5, heat_pump = ifelse(k %% 4 == 0, "yes", "no"),
    kwh = round(200 + 40 * (k %% 5) + 60 * cos(as.integer(format(grid$month, "%m"))) + stats::rnorm(nrow(grid), 0, 20))))
}
energy <- energy_data()
study <- open_study(local_data(energy, "energy.csv", env = parent.frame()))

test_that("yearly values of units count each unit once a year", {
  a <- ask(study, "average annual consumption per household")
  yearly <- stats::aggregate(kwh ~ household + substr(month, 1, 4), energy, sum)$kwh
  expect_equal(c(value_of(a, "estimate"), value_of(a, "n")), c(mean(yearly), 48))
  expect_retraces(a)
})

test_that("what is used has its column, alone, per head and in a season", {
  winter <- substr(energy$month, 6, 7) %in% c("12", "01", "02")
  a <- ask(study, "do homes with heat pumps use more in winter")
  t <- table_of(a, "groups")
  expect_equal(t$mean, as.vector(tapply(energy$kwh[winter], energy$heat_pump[winter], mean)[t$heat_pump]))
  expect_identical(unlist(reading(ask(study, "which household uses most"))$outcome), "kwh")
  t <- table_of(ask(study, "which household uses most per person"), "rates")
  base <- tapply(energy$kwh, energy$household, sum) / tapply(energy$persons, energy$household, sum)
  expect_equal(t$rate, as.vector(base[t$group]))
})

test_that("how groups developed is their course, and whether one of them changed is told of its own rows", {
  a <- ask(study, "how did consumption of time-of-use and flat households develop")
  expect_identical(c(as.list(a)$reading$task, unlist(reading(a)$by)), c("trend", "tariff"))
  a <- ask(study, "did the time-of-use households reduce their consumption after June 2023")
  own <- energy[energy$tariff == "time-of-use", ]
  t <- table_of(a, "groups")
  expect_equal(t$mean[t$period == "before"], mean(own$kwh[own$month <= "2023-06"]))
  expect_equal(t$mean[t$period == "after"], mean(own$kwh[own$month > "2023-06"]))
  expect_identical(unlist(reading(ask(study, "seasonality of consumption"))$by), "month_of_year")
})

league <- with_seed(6, data.frame(match_no = 1:80, home_team = rep(c("Rovers", "City", "Town", "Albion"), 20), home_goals = stats::rpois(80, 1.6),
                                  away_goals = stats::rpois(80, 1.1), weather = sample(c("dry", "rain"), 80, TRUE)))
matches <- open_study(local_data(league, "league.csv", env = parent.frame()))

test_that("a condition whose words fit two columns is asked about, and each choice is carried out", {
  a <- ask(matches, "share of matches with more than 2.5 goals")
  expect_identical(status_of(a), "needs_choice")
  expect_equal(value_of(ask(a, "2"), "estimate"), mean(league$away_goals > 2.5))
  expect_identical(status_of(ask(matches, "how many matches without goals")), "needs_choice")
  expect_equal(value_of(ask(matches, "share of matches with more than 2.5 home goals"), "estimate"), mean(league$home_goals > 2.5))
})

test_that("a difference of sides is the one less the other", {
  t <- table_of(ask(matches, "goal difference by home team"), "groups")
  expect_equal(t$mean, as.vector(tapply(league$home_goals - league$away_goals, league$home_team, mean)[t$home_team]))
})

test_that("gains are ranked and set beside each other, and a level stands for its column where an outcome is lacking", {
  d <- with_seed(12, data.frame(pupil = 1:90, class = rep(c("A", "B", "C"), 30), condition = rep(c("program", "control"), 45),
    free_meals = sample(c("yes", "no"), 90, TRUE), reading_pre = rnorm(90, 50, 9), reading_post = rnorm(90, 56, 9), maths_pre = rnorm(90, 50, 9),
    maths_post = rnorm(90, 53, 9)))
  d$reading_post[1:7] <- NA
  s <- open_study(local_data(d, "classroom.csv"))
  gain <- tapply(d$maths_post - d$maths_pre, d$class, mean)
  expect_equal(table_of(ask(s, "which class gained most in maths"), "ranking")$mean, max(gain))
  a <- ask(s, "did maths and reading improve equally")
  own <- t.test(d$maths_post - d$maths_pre, d$reading_post - d$reading_pre, paired = TRUE)
  expect_equal(value_of(a, "p_value"), own$p.value)
  for (q in c("effect size of the program", "does the program help pupils with free meals more")) expect_identical(status_of(ask(s, q)), "needs_choice", info = q)
  # who missed a test has no value; the count of those who improved is a share of those of whom it is known
  expect_equal(table_of(ask(s, "pupils who missed the reading post test"), "missing")$missing, 7)
  up <- sum(d$reading_post > d$reading_pre, na.rm = TRUE)
  expect_match(as.list(ask(s, "how many pupils improved in reading"))$sentences$headline,
               sprintf("%d rows meet the conditions (%.1f %% of 83; of 7 more it is not known).", up, 100 * up / 83), fixed = TRUE)
})

test_that("units measured under two levels are held against themselves", {
  d <- with_seed(13, data.frame(subject = rep(1:24, each = 2), treatment = rep(c("A", "B"), 24), sleep_min = round(rnorm(48, 400, 30))))
  s <- open_study(local_data(d, "crossover.csv"))
  a <- ask(s, "how many subjects slept longer on B")
  more <- d$sleep_min[d$treatment == "B"] > d$sleep_min[d$treatment == "A"]
  expect_equal(c(value_of(a, "count"), value_of(a, "n")), c(sum(more), 24))
  expect_retraces(a)
})

test_that("rows that are sums of money are told by their amount", {
  d <- with_seed(14, data.frame(gift_id = 1:150, donor = sprintf("D%02d", sample(40, 150, TRUE)), campaign = sample(c("spring", "winter"), 150, TRUE),
                                region = sample(c("North", "Wales"), 150, TRUE), amount = round(rlnorm(150, 3.4, .9), 2)))
  s <- open_study(local_data(d, "donations.csv"))
  t <- table_of(ask(s, "total raised per campaign"), "groups")
  expect_equal(t$sum, as.vector(tapply(d$amount, d$campaign, sum)[t$campaign]))
  expect_equal(value_of(ask(s, "average gift per donor"), "estimate"), mean(tapply(d$amount, d$donor, sum)))
  expect_equal(value_of(ask(s, "gifts over 50"), "n"), sum(d$amount > 50))
  expect_equal(table_of(ask(s, "largest gift in wales"), "ranking")$amount, max(d$amount[d$region == "Wales"]))
  t <- table_of(ask(s, "donors by region"), "groups")
  expect_equal(t$distinct, as.vector(tapply(d$donor, d$region, function(x) length(unique(x)))[t$region]))
})

test_that("nights and parties of guests add up", {
  d <- with_seed(15, data.frame(booking_ref = sprintf("BK%03d", 1:120), hotel = sample(c("Seaview", "Parkside"), 120, TRUE),
    booked_on = as.Date("2024-01-01") + sample(0:200, 120, TRUE), adults = sample(3, 120, TRUE), children = rpois(120, .4),
    cancelled = sample(c("yes", "no"), 120, TRUE), review_score = round(rnorm(120, 8, 1), 1)))
  d$arrival <- d$booked_on + 1 + rpois(120, 30); d$departure <- d$arrival + 1 + rpois(120, 2)
  s <- open_study(local_data(d, "bookings.csv"))
  nights <- as.numeric(d$departure - d$arrival)
  expect_equal(value_of(ask(s, "how many nights were booked in total"), "estimate"), sum(nights))
  expect_equal(value_of(ask(s, "average party size"), "estimate"), mean(d$adults + d$children))
  expect_equal(value_of(ask(s, "how far in advance do people book"), "estimate"), mean(as.numeric(d$arrival - d$booked_on)))
  a <- ask(s, "average review score by hotel, only stays that were not cancelled")
  expect_identical(unlist(reading(a)$outcome), "review_score")
})
