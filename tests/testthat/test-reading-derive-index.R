# Occasions that a column numbers: they are counted, bounded and averaged over, never added up.

squad_rows <- function() with_seed(75, {
  out <- merge(data.frame(player = c("Abara", "Bell", "Cruz", "Dietz", "Egan", "Fofana"), position = rep(c("defender", "forward"), 3)),
               data.frame(match = 1:20, date = as.Date("2024-08-10") + 7 * 0:19, venue = rep(c("home", "away"), 10),
                          result = sample(c("win", "draw", "loss"), 20, TRUE)))
  out <- out[out$player == "Bell" | runif(nrow(out)) < 0.75, ]
  out$minutes <- pmin(90, pmax(5, round(rnorm(nrow(out), 70, 20))))
  out$goals <- rpois(nrow(out), 0.4)
  out$rating <- round(rnorm(nrow(out), 6.8, 0.8), 1)
  out
})

test_that("the last matches, matches of a unit, and every match", {
  rows <- squad_rows(); s <- open_study(rows)
  a <- ask(s, "average rating in the last 5 matches")
  expect_equal(filters_of(a), "match > 15")
  expect_equal(value_of(a, "estimate"), mean(rows$rating[rows$match > 15]), tolerance = 1e-12)
  expect_equal(value_of(ask(s, "average rating over the first three matches"), "estimate"), mean(rows$rating[rows$match <= 3]), tolerance = 1e-12)
  b <- ask(s, "which player has the best average rating among those with at least 16 matches")
  often <- names(which(table(rows$player) >= 16))
  best <- tapply(rows$rating, rows$player, mean)[often]
  expect_match(as.list(b)$sentences$headline, names(which.max(best)))
  expect_equal(value_of(b, "n"), sum(rows$player %in% often))
  d <- ask(s, "who played every match")
  expect_equal(filters_of(d), "player_occurrences == 20")
})

test_that("values per match are means of rows for a unit, and means of totals over matches that are shared", {
  rows <- squad_rows(); s <- open_study(rows)
  own <- table_of(ask(s, "goals per match by player"), "groups")
  expect_equal(own$mean, as.vector(tapply(rows$goals, rows$player, mean)), tolerance = 1e-12)
  totals <- tapply(rows$goals, rows$match, sum)
  a <- ask(s, "goals per match")
  expect_equal(value_of(a, "estimate"), mean(totals), tolerance = 1e-12)
  expect_retraces(a)
  home <- tapply(rows$goals[rows$venue == "home"], rows$match[rows$venue == "home"], sum)
  expect_equal(value_of(ask(s, "average goals per match at home"), "estimate"), mean(home), tolerance = 1e-12)
  # nights that every person has for itself are rows
  nights <- with_seed(76, data.frame(person = rep(1:15, each = 8), night = rep(1:8, 15), awakenings = rpois(120, 2), noise = round(rnorm(120, 45, 4))))  # nolint: line_length_linter.
  nights$person <- paste0("P", nights$person)
  expect_equal(value_of(ask(open_study(nights), "how many awakenings per night"), "estimate"), mean(nights$awakenings), tolerance = 1e-12)
})

test_that("matches are counted by their numbers, and a noun after a level is no measure", {
  rows <- squad_rows(); s <- open_study(rows)
  expect_equal(value_of(ask(s, "how many matches did we win"), "estimate"), length(unique(rows$match[rows$result == "win"])))
  a <- ask(s, "compare ratings of defenders and forwards in away matches")
  away <- rows[rows$venue == "away", ]
  expect_equal(reading(a)$outcome, "rating")
  expect_equal(abs(value_of(a, "statistic")), abs(unname(t.test(rating ~ position, away)$statistic)), tolerance = 1e-10)
  b <- table_of(ask(s, "which matches had no goals"), "groups")
  expect_equal(sort(b$sum), sort(as.vector(tapply(rows$goals, rows$match, sum))))
  d <- table_of(ask(s, "total goals in wins vs losses"), "groups")
  expect_setequal(d$sum, as.vector(tapply(rows$goals, rows$result, sum)[c("loss", "win")]))
})

test_that("only whole numbers without a gap, each once for a unit, number occasions", {
  rows <- squad_rows()
  index <- function(d) internal("index_columns")(open_study(d))
  expect_equal(index(rows), "match")
  gap <- rows[rows$match != 7, ]
  expect_equal(index(gap), character())
  twice <- rbind(rows, rows[1, ])
  expect_equal(index(twice), character())
  names(rows)[names(rows) == "match"] <- "dose"
  expect_equal(index(rows), character())
})

test_that("totals of numbered months are sums, a season is read off the month, and a share of a total names the part", {
  d <- with_seed(12, {
    rows <- expand.grid(month = 1:12, meter = sprintf("MT%02d", 1:10))
    rows$building <- ifelse(as.integer(rows$meter) <= 4, "school", "office")
    rows$kwh <- round(400 + 150 * cos(2 * pi * rows$month / 12) + rnorm(nrow(rows), 0, 30))
    rows
  })
  s <- open_study(local_data(d))
  total <- table_of(ask(s, "total kwh per month"), "groups")
  expect_equal(total$sum, as.vector(tapply(d$kwh, d$month, sum)))
  season <- table_of(ask(s, "seasonal pattern of kwh"), "groups")
  expect_equal(season$mean, as.vector(tapply(d$kwh, d$month, mean)), tolerance = 1e-12)
  a <- ask(s, "what share of kwh is school?")
  expect_equal(method_of(a), "share_of_total")
  parts <- table_of(a, "shares")
  expect_equal(parts$percent[parts$group == "school"], 100 * sum(d$kwh[d$building == "school"]) / sum(d$kwh), tolerance = 1e-10)
})
