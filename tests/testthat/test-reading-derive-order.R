# Orders of groups, sides before a colon, how long things last, and what was done with what is counted.

visits <- function() {
  data.frame(visit = sprintf("V%03d", 1:80), clinic = rep(c("north", "south", "east", "west"), 20), kind = rep(c("phone", "room"), each = 40),
             age = rep(c(8, 15, 30, 44, 61, 70, 77, 83), 10), wait_days = rep(c(2, 9, 4, 6, 3), 16), duration_min = rep(c(10, 12, 20, 15, 9, 14, 11, 18), 10))
}

test_that("groups are listed in the order that is asked for, all of them", {
  rows <- visits()
  rows$duration_min <- rows$duration_min + match(rows$clinic, c("south", "west", "north", "east"))
  s <- open_study(local_data(rows))
  means <- sort(tapply(rows$duration_min, rows$clinic, mean))
  down <- table_of(ask(s, "average duration by clinic, longest first"), "ranking")
  expect_equal(as.character(down$clinic), rev(names(means)))
  for (q in c("average duration by clinic from shortest to longest", "average duration by clinic in ascending order")) {
    expect_equal(as.character(table_of(ask(s, q), "ranking")$clinic), names(means), info = q)
  }
})

test_that("what stands before a colon is compared by what stands behind it", {
  rows <- visits(); s <- open_study(local_data(rows))
  a <- ask(s, "phone vs room: wait")
  expect_equal(reading(a)$outcome, "wait_days")
  expect_equal(value_of(a, "p_value"), t.test(wait_days ~ kind, rows)$p.value, tolerance = 1e-8)
  young <- ask(s, "children under 16 vs adults: duration")
  expect_equal(value_of(young, "p_value"), t.test(rows$duration_min[rows$age < 16], rows$duration_min[rows$age >= 16])$p.value, tolerance = 1e-8)
  expect_retraces(young)
})

test_that("how long something lasts is its duration, and longer belongs to the time that was named", {
  rows <- visits(); s <- open_study(local_data(rows))
  expect_equal(value_of(ask(s, "how long do visits last on average for over 75s?"), "estimate"), mean(rows$duration_min[rows$age > 75]))
  a <- ask(s, "is the wait longer for phone than for room?")
  expect_equal(unlist(reading(a)$outcome), "wait_days")
})

test_that("units that were sold are added up, a share of them is one total over the other, takings are totals", {
  rows <- data.frame(sale_id = 70001:70060, day = as.Date("2024-01-01") + 0:59, town = rep(c("Lund", "Ystad", "Malmo"), 20),
                     units = rep(c(5, 8, 12, 20, 7, 9), 10), returned_units = rep(c(0, 1, 2, 0, 1, 3), 10), revenue_eur = rep(c(10, 20, 30.5, 40, 15, 12), 10))
  s <- open_study(local_data(rows))
  expect_equal(value_of(ask(s, "how many units were sold"), "estimate"), sum(rows$units))
  for (q in c("return rate", "what share of units was returned")) {
    expect_equal(value_of(ask(s, q), "estimate"), 100 * sum(rows$returned_units) / sum(rows$units), info = q, tolerance = 1e-9)
  }
  a <- ask(s, "revenue by town")
  expect_equal(sort(table_of(a, "groups")$sum), sort(as.vector(tapply(rows$revenue_eur, rows$town, sum))))
  expect_match(paste(unlist(reading(a)$assumed), collapse = " "), "total of its rows")
  # (no key is averaged, whatever a word for what was done may be kin to)
  for (q in c("units sold by town", "total units sold in january")) expect_equal(unlist(reading(ask(s, q))$outcome), "units", info = q)
})

test_that("of two measures, which is higher is asked of their means; ways of travel and numbers of answers are found", {
  rows <- data.frame(pupil = 1:40, travel = rep(c("bus; walk", "bike", "car; bus; walk", "walk", "car", "car; walk", "bus; bike", "bus"), 5), likes_school = rep(c("yes", "no"), 20),
                     maths = round(50 + 20 * sin(1:40)), english = round(55 + 18 * cos(1:40)))
  s <- open_study(local_data(rows))
  a <- ask(s, "maths vs english, which is better?")
  expect_equal(value_of(a, "p_value"), t.test(rows$maths, rows$english, paired = TRUE)$p.value, tolerance = 1e-8)
  expect_equal(unlist(reading(ask(s, "how do pupils get to school?"))$outcome), "travel")
  count <- ask(s, "average number of ways of travel per pupil")
  expect_equal(value_of(count, "estimate"), 13 / 8)
  expect_retraces(count)
})

test_that("each of each are two groupings, and an effect that differs by something asks of what", {
  rows <- expand.grid(variety = c("Astra", "Bering"), nitrogen = c(0, 60, 120), block = 1:4)
  rows$yield_t <- 4 + rows$nitrogen / 100 + (rows$variety == "Bering") * 0.4 + rows$block / 10
  rows$protein_pct <- 10 + rows$yield_t / 3 + rows$block / 7
  s <- open_study(local_data(rows))
  groups <- table_of(ask(s, "mean yield of each variety at each nitrogen level"), "groups")
  expect_equal(nrow(groups), 6L)
  expect_equal(groups$mean, as.vector(tapply(rows$yield_t, list(rows$nitrogen, rows$variety), mean)), tolerance = 1e-9)
  expect_equal(status_of(ask(s, "is the effect of nitrogen different by variety?")), "needs_choice")
})
