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
