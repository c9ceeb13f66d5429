# Recent values of each unit against its own past.

usual_data <- function() with_seed(14, {
  d <- expand.grid(day = as.Date("2025-03-01") + 0:69, player = c("Ana", "Bo", "Cy", "Dee"), stringsAsFactors = FALSE)
  d$distance_km <- round(rnorm(nrow(d), c(Ana = 8, Bo = 10, Cy = 6, Dee = 9)[d$player], 0.8), 2)
  late <- d$day > max(d$day) - 7
  d$distance_km[late & d$player == "Bo"] <- d$distance_km[late & d$player == "Bo"] + 5
  d$distance_km[late & d$player == "Cy"] <- d$distance_km[late & d$player == "Cy"] - 4
  d[!(d$player == "Dee" & late), ]
})

test_that("each unit is held against its own earlier days", {
  d <- usual_data(); s <- open_study(d)
  a <- ask(s, "which players are above their usual distance?")
  expect_equal(method_of(a), "own_baseline")
  t <- table_of(a, "baseline")
  end <- max(d$day)
  for (who in c("Ana", "Bo", "Cy")) {
    own <- d[d$player == who, ]; row <- t[t$player == who, ]
    recent <- own$distance_km[own$day > end - 7]; before <- own$distance_km[own$day <= end - 7 & own$day > end - 35]
    expect_equal(row$short, mean(recent), tolerance = 1e-12)
    expect_equal(row$long, mean(before), tolerance = 1e-12)
    expect_equal(row$distance, (mean(recent) - mean(before)) / sd(before), tolerance = 1e-12)
  }
  expect_equal(t$place[match(c("Ana", "Bo", "Cy", "Dee"), t$player)], c("within", "above", "below", "not known"))
  expect_equal(c(value_of(a, "above"), value_of(a, "below")), c(1, 1))
  expect_match(paste(reading(a)$assumed, collapse = " "), "last 7 days")
  expect_retraces(a)
  expect_s3_class(figure(a), "ggplot")
})

test_that("stated windows are used: following each other, or the long one taking in the short one", {
  d <- usual_data(); s <- open_study(d); end <- max(d$day)
  a <- ask(s, "ratio of the 7-day to the 28-day mean distance per player")
  own <- d[d$player == "Bo", ]
  expect_equal(with(table_of(a, "baseline"), ratio[player == "Bo"]),
               mean(own$distance_km[own$day > end - 7]) / mean(own$distance_km[own$day > end - 28]), tolerance = 1e-12)
  expect_retraces(a)
  b <- ask(s, "distance in the last 14 days against the 42 days before for each player")
  expect_equal(c(value_of(b, "short_days"), value_of(b, "long_days")), c(14, 42))
  expect_length(reading(b)$filters, 0)
  expect_equal(with(table_of(b, "baseline"), long[player == "Ana"]),
               with(d[d$player == "Ana", ], mean(distance_km[day <= end - 14 & day > end - 56])), tolerance = 1e-12)
  expect_retraces(b)
})

test_that("windows longer than the data are refused with a way on", {
  a <- ask(open_study(usual_data()[1:12, ]), "last 30 days against the 180 days before of distance")
  expect_equal(status_of(a), "cannot_answer")
  expect_match(as.list(a)$sentences$headline, "Name other lengths")
})
