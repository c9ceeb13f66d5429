# Measures with a column for each year.

giving_rows <- function(n = 300) with_seed(28, {
  out <- data.frame(donor_id = sprintf("DN%04d", seq_len(n)), joined = as.Date("2018-01-01") + sample(0:2000, n, TRUE),
                    region = sample(c("North", "East", "South"), n, TRUE), gifts_2023 = rpois(n, 2), gifts_2024 = rpois(n, 2.3))
  out$amount_2023 <- round(out$gifts_2023 * rgamma(n, 3, 0.1), 2); out$amount_2024 <- round(out$gifts_2024 * rgamma(n, 3, 0.09), 2)
  out
})

test_that("a year names the columns of a measure, and a date only by its own name", {
  rows <- giving_rows(); s <- open_study(local_data(rows))
  expect_equal(value_of(ask(s, "total amount in 2024"), "estimate"), sum(rows$amount_2024), tolerance = 1e-12)
  expect_setequal(reading(ask(s, "total amount given in each year"))$outcome, c("amount_2023", "amount_2024"))
  expect_equal(value_of(ask(s, "is the number of gifts in 2023 correlated with 2024?"), "estimate"), cor(rows$gifts_2023, rows$gifts_2024), tolerance = 1e-12)
  a <- ask(s, "average amount in 2024 of donors who joined in 2020")
  own <- rows[format(rows$joined, "%Y") == "2020", ]
  expect_equal(value_of(a, "estimate"), mean(own$amount_2024), tolerance = 1e-12)
  big <- ask(s, "who are the ten biggest donors in 2024?")
  expect_equal(status_of(big), "needs_choice")
  expect_equal(length(filters_of(big)), 0L)
})

test_that("who gave in a year are the rows above nought of that year", {
  rows <- giving_rows(); s <- open_study(local_data(rows))
  gave <- function(year) rows[[paste0("gifts_", year)]] > 0
  count <- function(question) value_of(ask(s, question), "n")
  expect_equal(value_of(ask(s, "median amount among those who gave in 2024"), "estimate"), median(rows$amount_2024[gave(2024)]))
  expect_equal(count("how many donors gave in 2023 but not in 2024?"), sum(gave(2023) & !gave(2024)))
  expect_equal(count("how many donors gave in both 2023 and 2024?"), sum(gave(2023) & gave(2024)))
  for (question in c("what share of 2023 donors gave again in 2024?", "retention rate from 2023 to 2024")) {
    expect_equal(value_of(ask(s, question), "estimate"), mean(gave(2024)[gave(2023)]), tolerance = 1e-12)
  }
  # where no column tells it, the clause is not passed over
  plain <- open_study(local_data(rows[c("donor_id", "joined", "region")]))
  expect_false(status_of(ask(plain, "share of donors in the North who gave in 2024")) == "answered")
})
