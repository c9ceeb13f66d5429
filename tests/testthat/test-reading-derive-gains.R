# Gains of units over their days, and what is counted in periods.

scales <- function() with_seed(141, {
  d <- expand.grid(day = as.Date("2024-01-10") + seq(0, 210, by = 7), hive = c("A1", "B2", "C3", "D4"), stringsAsFactors = FALSE)
  d$weight_kg <- round(30 + as.integer(factor(d$hive)) * as.numeric(d$day - min(d$day)) / 40 + rnorm(nrow(d), 0, 0.5), 2)
  d$rain_mm <- round(rexp(length(unique(d$day)), 1 / 4), 1)[match(d$day, unique(d$day))]
  d[sample(nrow(d)), ]
})
gain <- function(d, h, from = "2000-01-01", to = "2100-01-01") {
  own <- d[d$hive == h & d$day >= as.Date(from) & d$day <= as.Date(to), ]
  own <- own[order(own$day), ]
  own$weight_kg[nrow(own)] - own$weight_kg[1]
}

test_that("the gain of a unit is its last value less its first, in the days that are named", {
  d <- scales(); s <- open_study(d); hives <- sort(unique(d$hive))
  a <- ask(s, "which hive gained the most weight?")
  own <- vapply(hives, gain, 1, d = d)
  expect_equal(value_of(a, "estimate"), max(own), tolerance = 1e-10)
  expect_retraces(a)
  b <- ask(s, "which hive gained the least weight from February to April 2024?")
  expect_equal(value_of(b, "estimate"), min(vapply(hives, gain, 1, d = d, from = "2024-02-01", to = "2024-04-30")), tolerance = 1e-10)
  expect_match(unlist(as.list(b)$reading$assumed), "from 2024-02-01 to 2024-04-30", all = FALSE)
  expect_retraces(b)
  c <- ask(s, "change in weight from first to last date per hive")
  t <- table_of(c, "groups")
  expect_equal(t$mean[match(hives, t$hive)], unname(own), tolerance = 1e-10)
  # a unit seen once has no gain
  one <- rbind(d, data.frame(day = as.Date("2024-03-01"), hive = "E5", weight_kg = 40, rain_mm = 0))
  expect_true(all(is.na(as.data.frame(amend(open_study(one), g = list(derive = "gain", from = "weight_kg", within = "hive", order = "day")))$g[one$hive == "E5"])))
})

test_that("different units and days are counted in each month, days once", {
  d <- scales(); s <- open_study(d)
  month <- format(d$day, "%Y-%m")
  a <- ask(s, "how many different hives per month?")
  t <- table_of(a, "groups")
  expect_equal(t$distinct, rep(4L, length(unique(month))))
  b <- ask(s, "how many days with rain above 5 per month?")
  wet <- d$rain_mm > 5
  t <- table_of(b, "groups")
  expect_equal(sum(t$distinct), length(unique(d$day[wet])))
  expect_retraces(b)
  expect_equal(value_of(ask(s, "how many days with rain above 5?"), "estimate"), length(unique(d$day[wet])))
  expect_equal(value_of(ask(s, "how many different dates with rain above 5?"), "estimate"), length(unique(d$day[wet])))
})

test_that("a date has no mean beside a measure", {
  a <- ask(open_study(scales()), "mean weight and day by hive")
  expect_equal(unlist(as.list(a)$reading$outcome), "weight_kg")
})

test_that("who improved most is told by the change, down where less is better", {
  d <- with_seed(151, data.frame(runner = rep(sprintf("Runner %02d", 1:6), each = 12), date = rep(as.Date("2025-03-01") + 7 * (0:11), 6)))
  d$pace_min_per_km <- with_seed(152, round(6 - 0.1 * rep(0:11, 6) * rep(runif(6), each = 12) + rnorm(72, 0, 0.05), 2))
  a <- ask(open_study(d), "which runner improved their pace the most")
  change <- vapply(split(d, d$runner), function(r) r$pace_min_per_km[12] - r$pace_min_per_km[1], 1)
  expect_equal(table_of(a, "ranking")$runner[1], names(which.min(change)))
  expect_match(paste(as.list(a)$reading$assumed, collapse = " "), "lower values of pace_min_per_km to be better", fixed = TRUE)
})
