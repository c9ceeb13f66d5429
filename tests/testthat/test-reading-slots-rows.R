test_that("what is so or not is shared out over two groupings", {
  d <- with_seed(95, data.frame(variety = rep(c("Alba", "Brisa"), 40), nitrogen = rep(c(0, 40, 80, 120), each = 20), lodged = rbinom(80, 1, 0.3)))
  s <- open_study(d)
  a <- ask(s, "lodging by variety and nitrogen")
  expect_equal(method_of(a), "share_by_group")
  own <- tapply(d$lodged, paste(d$variety, d$nitrogen, sep = " & "), mean)
  t <- table_of(a, "shares")
  expect_equal(t$share, as.vector(own[t$group]))
  expect_retraces(a)
  expect_equal(method_of(ask(s, "is there a trend in lodging across nitrogen levels")), "trend_proportions")
})

test_that("periods of what adds up are set side by side by their totals", {
  d <- with_seed(96, data.frame(day = as.Date("2024-03-01") + 0:60, revenue = round(rexp(61, 0.01), 2)))
  s <- open_study(d)
  a <- ask(s, "revenue in March vs April")
  t <- table_of(a, "groups")
  expect_equal(t$sum, as.vector(tapply(d$revenue, format(d$day, "%m"), sum)[c("03", "04")]))
  expect_equal(as.list(ask(s, "is revenue different in March and April"))$reading$task, "compare")
})

test_that("a share is one of those who answered otherwise, and counts beside levels keep their bounds", {
  d <- with_seed(97, data.frame(household = 1:120, cars = rpois(120, 1.2), bikes = rpois(120, 0.8), main_mode = sample(c("car", "bus", "bike"), 120, TRUE),
                                would_switch = sample(c("yes", "no", "don't know"), 120, TRUE), commute_min = round(rgamma(120, 2, 0.07))))
  s <- open_study(d)
  a <- ask(s, "share who would switch, excluding don't know")
  expect_equal(value_of(a, "estimate"), mean(d$would_switch[d$would_switch != "don't know"] == "yes"))
  expect_retraces(a)
  expect_equal(value_of(ask(s, "how many households own both a car and a bike"), "estimate"), sum(d$cars > 0 & d$bikes > 0))
  expect_equal(value_of(ask(s, "share of households with at least one bike"), "estimate"), mean(d$bikes >= 1))
  top <- ask(s, "what are the top 2 modes")
  expect_equal(table_of(top, "ranking")$n, as.vector(sort(table(d$main_mode), decreasing = TRUE))[1:2])
})
