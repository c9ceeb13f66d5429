# Amounts that may be none, extreme rows by period, effects in everyday words.

order_rows <- function() with_seed(21, {
  n <- 120
  d <- data.frame(OrderID = sprintf("O-%04d", 1:n), OrderDate = as.Date("2024-03-01") + sort(sample(0:150, n, TRUE)),
      Country = sample(c("DE", "FR", "NL"), n, TRUE),
                  NewCustomer = sample(c("yes", "no"), n, TRUE), Rating = sample(c(1:5, NA), n, TRUE), Items = 1 + rpois(n, 1.5),
                      OrderValue = round(rexp(n, 1 / 60), 2))
  d$Discount <- ifelse(runif(n) < 0.3, round(d$OrderValue / 10, 2), 0)
  d$Shipping <- ifelse(d$OrderValue > 60, 0, 4.95)
  d
})

test_that("an amount that is there, is nothing or is missing is a condition", {
  d <- order_rows(); s <- open_study(d)
  expect_equal(value_of(ask(s, "average discount among discounted orders"), "estimate"), mean(d$Discount[d$Discount > 0]), tolerance = 1e-10)
  expect_equal(value_of(ask(s, "how many orders had a discount?"), "n"), sum(d$Discount > 0))
  expect_equal(value_of(ask(s, "orders with free shipping"), "n"), sum(d$Shipping == 0))
  expect_equal(value_of(ask(s, "how many customers gave no rating"), "n"), sum(is.na(d$Rating)))
  # (an amount that is asked about is no condition)
  expect_length(filters_of(ask(s, "what is the discount?")), 0)
})

test_that("the largest order of each month is the highest of the measure that the noun names", {
  d <- order_rows()
  a <- ask(open_study(d), "largest order each month")
  own <- tapply(d$OrderValue, format(d$OrderDate, "%Y-%m"), max)
  expect_equal(table_of(a, "time")$max, as.vector(own), tolerance = 1e-10)
  expect_retraces(a)
})

test_that("net amounts, values per piece and orders of new customers", {
  d <- order_rows(); s <- open_study(d)
  a <- ask(s, "net revenue after discount by country")
  expect_equal(table_of(a, "groups")$mean, as.vector(tapply(d$OrderValue - d$Discount, d$Country, mean)), tolerance = 1e-10)
  expect_equal(value_of(ask(s, "average value per item"), "estimate"), sum(d$OrderValue) / sum(d$Items), tolerance = 1e-10)
  b <- ask(s, "revenue of new customers by month")
  expect_equal(filters_of(b), "NewCustomer == yes")
  own <- tapply(d$OrderValue[d$NewCustomer == "yes"], format(d$OrderDate[d$NewCustomer == "yes"], "%Y-%m"), sum)
  expect_equal(table_of(b, "time")$sum, as.vector(own), tolerance = 1e-8)
})

test_that("countries are found by their names where all levels are codes", {
  d <- order_rows(); s <- open_study(d)
  expect_equal(filters_of(ask(s, "mean order value in Germany")), "Country == DE")
  expect_equal(status_of(ask(s, "mean order value in Spain")), "cannot_answer")
  # (codes of something else are no countries)
  other <- transform(d, Country = NULL, line = sample(c("DE", "FR", "XQ"), nrow(d), TRUE))
  expect_equal(status_of(ask(open_study(other), "mean order value in Germany")), "cannot_answer")
})

test_that("benefits are effects, more of an event is a comparison, visits a month are in the column", {
  w <- expand.grid(block = 1:6, variety = c("Aldo", "Brisa"), irrigation = c("low", "high"), stringsAsFactors = FALSE)
  w$grain_yield_t_ha <- with_seed(4, round(5 + (w$irrigation == "high") + rnorm(nrow(w), 0, 0.4), 2))
  w$lodged <- rep(c("no", "yes", "no"), 8)
  s <- open_study(w)
  a <- ask(s, "yield gain from irrigation")
  expect_equal(abs(value_of(a, "estimate")), abs(diff(tapply(w$grain_yield_t_ha, w$irrigation, mean)))[[1]], tolerance = 1e-10)
  b <- ask(s, "did more plots lodge under high irrigation?")
  expect_equal(c(reading(b)$outcome, reading(b)$by), c("lodged", "irrigation"))
  expect_length(filters_of(b), 0)
  m <- with_seed(5, data.frame(member_no = 1:90 + 5000, visits_last_month = rpois(90, 5), joined = as.Date("2023-01-01") + sample(0:300, 90, TRUE),
                               cancelled = sample(c("yes", "no"), 90, TRUE)))
  s <- open_study(m)
  c <- ask(s, "members who visit less than 4 times a month: how many cancelled?")
  expect_equal(filters_of(c), "visits_last_month < 4")
  own <- table(m$cancelled[m$visits_last_month < 4])
  counts <- table_of(c, "counts")
  expect_equal(counts$n[match(names(own), counts$cancelled)], as.vector(own))
  expect_equal(sum(table_of(ask(s, "new members per month"), "time")$n), 90)
  who <- ask(s, "who cancels?")
  expect_equal(c(reading(who)$task, reading(who)$outcome), c("predict", "cancelled"))
  expect_true(any(grepl("only other column", unlist(reading(who)$assumed))))
})

test_that("days told by their weather, limits on both sides, and scores of numbered items", {
  d <- with_seed(71, data.frame(sample_no = 1:60 + 400, station = rep(c("Upper", "Lower", "Estuary"), 20), ph = round(rnorm(60, 7.6, 0.4), 2),
      turbidity = rexp(60),
                                rained = sample(c("Y", "N"), 60, TRUE)))
  s <- open_study(d)
  expect_equal(value_of(ask(s, "median turbidity on rainy days"), "estimate"), stats::median(d$turbidity[d$rained == "Y"]), tolerance = 1e-12)
  counts <- table_of(ask(s, "how many samples had pH outside 7 to 8"), "counts")
  expect_equal(counts$n[match(c("below 7", "7 to 8", "above 8"), counts$ph_limits)], c(sum(d$ph < 7), sum(d$ph >= 7 & d$ph <= 8), sum(d$ph > 8)))
  a <- ask(s, "are pH values in the estuary within 7.2 and 8")
  expect_equal(filters_of(a), "station == Estuary")
  e <- with_seed(72, data.frame(dept = rep(c("A1", "B2"), 40), performance = sample(c("below", "meets", "exceeds"), 80, TRUE),
      engagement_1 = sample(1:5, 80, TRUE)))
  e$engagement_2 <- pmin(5, pmax(1, e$engagement_1 + sample(-1:1, 80, TRUE))); e$engagement_3 <- pmin(5, pmax(1, e$engagement_1 + sample(-1:1, 80,
      TRUE)))
  s <- open_study(e)
  b <- ask(s, "mean engagement score by dept")
  expect_equal(table_of(b, "groups")$mean, as.vector(tapply(rowMeans(e[3:5]), e$dept, mean)), tolerance = 1e-12)
  expect_retraces(b)
  expect_equal(method_of(ask(s, "reliability of the engagement items")), "cronbach_alpha")
  c <- ask(s, "percentage exceeding expectations by dept")
  shares <- table_of(c, "shares")
  expect_equal(shares$share[match(c("A1", "B2"), shares$group)], as.vector(tapply(e$performance == "exceeds", e$dept, mean)), tolerance = 1e-12)
})

test_that("zeros are left out, not kept, however it is said", {
  rows <- with_seed(2, data.frame(line = rep(c("A", "B", "C"), 40), shift = rep(c("early", "late"), 60), downtime_min = rpois(120, 2), defects = rpois(120, 9)))
  s <- open_study(local_data(rows))
  some <- rows[rows$downtime_min > 0, ]
  for (q in c("mean downtime excluding zero downtime", "mean downtime without zeros", "mean downtime where downtime is not zero", "average non-zero downtime")) {
    a <- ask(s, q)
    expect_equal(value_of(a, "estimate"), mean(some$downtime_min), tolerance = 1e-12, info = q)
    expect_equal(filters_of(a), "downtime_min > 0", info = q)
  }
  expect_equal(value_of(ask(s, "compare lines on downtime excluding zero downtime"), "n"), nrow(some))
  expect_equal(value_of(ask(s, "average defects excluding rows with no downtime"), "estimate"), mean(some$defects), tolerance = 1e-12)
  expect_equal(value_of(ask(s, "how many rows have zero downtime"), "n"), sum(rows$downtime_min == 0))
})
