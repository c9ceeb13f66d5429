# Uplift, those who come back against those who are new, amounts per visitor who bought, hours of something.

visit_rows <- function(n = 500) with_seed(75, {
  out <- data.frame(visitor = seq_len(n), variant = sample(c("A", "B"), n, TRUE), device = sample(c("mobile", "desktop"), n, TRUE),
                    country = sample(c("Kenya", "Norway"), n, TRUE), returning = sample(0:1, n, TRUE))
  out$converted <- rbinom(n, 1, 0.3 + 0.1 * (out$variant == "B"))
  out$revenue <- ifelse(out$converted == 1, round(rlnorm(n, 3, 0.5), 2), 0)
  out
})

test_that("the uplift from a variant is the difference between the variants", {
  rows <- visit_rows(); s <- open_study(local_data(rows))
  a <- ask(s, "what's the uplift in conversion from B?")
  expect_equal(value_of(a, "p_value"), chisq.test(table(rows$variant, rows$converted), correct = FALSE)$p.value, tolerance = 1e-10)
  expect_equal(abs(value_of(a, "risk_difference")), abs(diff(tapply(rows$converted, rows$variant, mean)))[[1]], tolerance = 1e-10)
})

test_that("new ones are those who do not return", {
  rows <- visit_rows(); s <- open_study(local_data(rows))
  a <- ask(s, "do returning visitors spend more than new ones?")
  expect_equal(value_of(a, "p_value"), t.test(revenue ~ returning, rows)$p.value, tolerance = 1e-10)
  b <- ask(s, "conversion of returning visitors versus new ones")
  expect_setequal(c(reading(b)$outcome, reading(b)$by, reading(b)$predictors), c("converted", "returning"))
})

test_that("per converted visitor is the mean of those who converted", {
  rows <- visit_rows(); s <- open_study(local_data(rows))
  own <- table_of(ask(s, "revenue per converted visitor by country"), "groups")
  did <- rows[rows$converted == 1, ]
  expect_equal(own$mean, as.numeric(tapply(did$revenue, did$country, mean)), tolerance = 1e-12)
  # what may be meant by an effect that nobody named begins with what happened
  first <- reading(ask(s, "does the effect of the variant depend on device?"))$alternatives[[1]]
  expect_equal(first$outcome, "converted")
})

test_that("hours of something in minutes are its mean in hours, and half a point is 0.5", {
  rows <- with_seed(76, data.frame(person = 1:60, sleep_minutes = round(rnorm(60, 420, 40)), group = rep(c("a", "b"), 30), rating = sample(0:10, 60, TRUE)))
  s <- open_study(local_data(rows))
  expect_equal(value_of(ask(s, "hours of sleep on average"), "estimate"), mean(rows$sleep_minutes) / 60, tolerance = 1e-12)
  a <- ask(s, "sample size to see a difference of half a point in rating")
  own <- power.t.test(delta = 0.5, sd = sd(rows$rating), power = 0.8)$n
  expect_match(as.list(a)$sentences$headline, format(ceiling(own)), fixed = TRUE)
})
