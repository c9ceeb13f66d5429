booked <- function() {
  with_seed(21, data.frame(booking_no = sprintf("B%03d", 1:300), arrival = as.Date("2024-01-03") + sort(sample(0:520, 300, TRUE)),
                           channel = sample(c("direct", "online"), 300, TRUE), rating = sample(5:10, 300, TRUE), revenue_eur = round(rexp(300, 1 / 90), 2)))
}

test_that("two periods joined by and are each told, whether years, months or quarters", {
  d <- booked()
  s <- open_study(local_data(d))
  mean_of <- function(rows) mean(d$rating[rows])
  month <- format(d$arrival, "%Y-%m")
  a <- ask(s, "average rating in 2024 and 2025")
  expect_equal(sort(table_of(a, "groups")$mean), sort(as.vector(tapply(d$rating, format(d$arrival, "%Y"), mean))))
  b <- ask(s, "average rating in March and April 2024")
  expect_equal(table_of(b, "groups")$mean, c(mean_of(month == "2024-03"), mean_of(month == "2024-04")))
  c <- ask(s, "average revenue in q1 and q2 2024")
  quarter <- paste(format(d$arrival, "%Y"), quarters(d$arrival))
  expect_equal(table_of(c, "groups")$mean, as.vector(tapply(d$revenue_eur, quarter, mean)[c("2024 Q1", "2024 Q2")]))
  e <- ask(s, "average rating in January, February and March 2025")
  expect_equal(table_of(e, "groups")$mean, vapply(sprintf("2025-%02d", 1:3), function(m) mean_of(month == m), 1, USE.NAMES = FALSE))
  for (x in list(a, b, c, e)) expect_retraces(x)
  # amounts of one stretch, and what is asked for together, are one total
  expect_equal(value_of(ask(s, "total revenue in November and December 2024"), "estimate"), sum(d$revenue_eur[month %in% c("2024-11", "2024-12")]))
  expect_equal(table_of(ask(s, "total revenue in March 2024 and in March 2025"), "groups")$sum,
               c(sum(d$revenue_eur[month == "2024-03"]), sum(d$revenue_eur[month == "2025-03"])))
  expect_equal(value_of(ask(s, "total revenue in 2024 and 2025 together"), "estimate"), sum(d$revenue_eur))
})

test_that("a change from one year to another compares the two years", {
  d <- booked()
  a <- ask(open_study(local_data(d)), "did ratings improve from 2024 to 2025?")
  year <- format(d$arrival, "%Y")
  expect_equal(method_of(a), "t_welch")
  expect_equal(value_of(a, "p_value"), t.test(d$rating ~ year)$p.value, tolerance = 1e-10)
  expect_retraces(a)
})

test_that("periods without a row are said, not the name of the column that was made for them", {
  a <- ask(hive_study(), "average honey yield in May and June 2024")
  expect_equal(status_of(a), "cannot_answer")
  expect_match(as.list(a)$sentences$headline, "no row for inspected_on in May 2024 or in June 2024", fixed = TRUE)
})
