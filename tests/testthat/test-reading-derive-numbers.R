test_that("numbers in words are read as the numbers they are", {
  s <- open_study(with_seed(161, data.frame(wait_sec = round(rexp(120, 0.01)), handle_time_min = round(rexp(120, 0.2), 1), csat = sample(1:5, 120, TRUE))))
  expect_read_as(s, c(
    "average csat of calls that waited more than twenty five seconds" = "describe csat [mean] where wait_sec is above 25",
    "how many calls waited over two hundred and fifty seconds" = "frequency  where wait_sec is above 250",
    "do customers who wait longer than two minutes give lower csat" = "compare csat by wait_sec_band"))
  digits <- internal("compounds_in_digits")
  expect_equal(digits("at least two thousand three hundred of forty-two", s), "at least 2300 of 42")
  expect_equal(digits("a hundred, thirty and per thousand", s), "100, thirty and per thousand")
})

test_that("a day said month first is that day", {
  d <- with_seed(162, data.frame(day = as.Date("2025-02-03") + 0:79, downtime = round(rexp(80, 0.1), 1)))
  s <- open_study(d)
  expect_read_as(s, c("mean downtime between March 3 and March 9" = "describe downtime [mean] where day is from 2025-03-03 to 2025-03-09",
                      "average downtime since March 15th" = "describe downtime [mean] where day is on or after 2025-03-15"))
  a <- ask(s, "did downtime increase after March 1")
  expect_equal(table_of(a, "groups")$n, as.vector(table(d$day >= as.Date("2025-03-01"))))
  # two months that follow each other are one stretch
  expect_equal(value_of(ask(s, "total downtime in March and April 2025"), "estimate"), sum(d$downtime[d$day >= as.Date("2025-03-01")]))
})
