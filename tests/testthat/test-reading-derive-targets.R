# Units over months: targets met and missed, conversion, months as rows, periods set against each other.

shop_rows <- function() with_seed(74, {
  stores <- sprintf("S%02d", 1:8)
  out <- expand.grid(store = stores, month = seq(as.Date("2023-01-01"), by = "month", length.out = 18), stringsAsFactors = FALSE)
  k <- match(out$store, stores)
  out$format <- c("city", "mall")[(k - 1) %/% 4 + 1]
  out$visitors <- rpois(nrow(out), 900 + 60 * k)
  out$purchases <- rbinom(nrow(out), out$visitors, 0.28)
  out$revenue_eur <- round(out$purchases * rnorm(nrow(out), 31, 3), 2)
  out$target_eur <- round(out$visitors * 0.28 * 31 * runif(nrow(out), 0.9, 1.15))
  out$promo <- sample(c("yes", "no"), nrow(out), TRUE)
  out
})

test_that("a target is what another column is set against in each row", {
  rows <- shop_rows(); s <- open_study(rows)
  gap <- rows$revenue_eur - rows$target_eur
  a <- table_of(ask(s, "did stores reach their target"), "shares")
  expect_equal(a$share, as.vector(tapply(gap >= 0, rows$store, mean)), tolerance = 1e-10)
  b <- ask(s, "how many months did each store miss its target")
  expect_equal(table_of(b, "shares")$share, as.vector(tapply(gap < 0, rows$store, mean)), tolerance = 1e-10)
  expect_retraces(b)
  d <- table_of(ask(s, "which store missed its target most often"), "ranking")
  missed <- tapply(gap < 0, rows$store, mean)
  expect_equal(as.character(d[[grep("store|group", names(d))[1]]][1]), names(which.max(missed)))
  expect_equal(value_of(ask(s, "how often was the target met in malls"), "estimate"), mean(gap[rows$format == "mall"] >= 0), tolerance = 1e-12)
  e <- table_of(ask(s, "revenue in months below target by format"), "groups")
  expect_equal(sort(e$mean), sort(as.vector(tapply(rows$revenue_eur[gap < 0], rows$format[gap < 0], mean))), tolerance = 1e-12)
})

test_that("conversion is purchases per visitors, which they never exceed", {
  rows <- shop_rows(); s <- open_study(rows)
  total <- function(v) tapply(v, rows$format, sum)
  for (q in c("conversion rate by format", "which format has the worst conversion")) {
    a <- table_of(ask(s, q), "rates")
    expect_equal(sort(a$rate), sort(as.vector(100 * total(rows$purchases) / total(rows$visitors))), tolerance = 1e-10)
  }
  b <- ask(s, "revenue per visitor in malls versus city stores")
  expect_equal(sort(table_of(b, "rates")$rate), sort(as.vector(total(rows$revenue_eur) / total(rows$visitors))), tolerance = 1e-10)
})

test_that("months of a store are rows", {
  rows <- shop_rows(); s <- open_study(rows)
  a <- ask(s, "top 3 stores by average monthly revenue")
  expect_equal(reading(a)$by, "store")
  best <- sort(tapply(rows$revenue_eur, rows$store, mean), decreasing = TRUE)
  expect_match(as.list(a)$sentences$headline, names(best)[1])
  b <- ask(s, "is revenue higher in months with a promo")
  expect_equal(abs(value_of(b, "statistic")), abs(unname(t.test(rows$revenue_eur ~ rows$promo)$statistic)), tolerance = 1e-10)
  # a verb without a column asks what is meant
  expect_equal(status_of(ask(s, "which store did the most in 2024")), "needs_choice")
})

test_that("two periods of any length are set against each other, and a cut year is not", {
  rows <- shop_rows(); s <- open_study(rows)
  a <- ask(s, "compare revenue in the first quarter of 2023 with the first quarter of 2024")
  month <- format(rows$month, "%Y-%m")
  first <- rows$revenue_eur[month %in% c("2023-01", "2023-02", "2023-03")]; second <- rows$revenue_eur[month %in% c("2024-01", "2024-02", "2024-03")]
  expect_equal(abs(value_of(a, "statistic")), abs(unname(t.test(first, second)$statistic)), tolerance = 1e-10)
  expect_retraces(a)
  b <- ask(s, "did visitors change between H1 2023 and H1 2024")
  half <- function(year) rows$visitors[format(rows$month, "%Y") == year & as.integer(format(rows$month, "%m")) <= 6]
  expect_equal(abs(value_of(b, "statistic")), abs(unname(t.test(half("2023"), half("2024"))$statistic)), tolerance = 1e-10)
  d <- ask(s, "did revenue grow between 2023 and 2024")
  expect_match(as.list(d)$sentences$headline, "2024 is not whole")
  expect_false(any(grepl("growth", vapply(as.list(d)$numbers, `[[`, "", "id"))))
  expect_retraces(d)
})

test_that("the code of a period", {
  code <- internal("period_code")
  expect_equal(code(c("March", "Q3", "second half", "last quarter", NA)), c("-03", "-Q3", "-H2", "-Q4", ""))
  expect_equal(internal("period_months")(c("2023", "2023-Q2", "2024-11")), cbind(c(202301, 202304, 202411), c(202312, 202306, 202411)))
  expect_equal(internal("period_said")(c("2023-Q2", "2024-05", "2025")), c("Q2 2023", "May 2024", "2025"))
})

test_that("of several measures a target is set against the one that runs to about as much", {
  rows <- with_seed(6, { out <- expand.grid(rep = c("Ada", "Bo", "Chen", "Dev"), month = format(seq(as.Date("2025-01-01"), by = "month", length.out = 12), "%Y-%m"))
    out$region <- c("North", "South", "North", "South")[as.integer(out$rep)]; out$target <- c(50, 60, 45, 70)[as.integer(out$rep)] * 1000
    out$sales <- round(out$target * rnorm(48, 0.98, 0.15)); out$deals <- rpois(48, 12); out$calls <- rpois(48, 80); out })
  s <- open_study(local_data(rows))
  met <- rows$sales >= rows$target
  expect_equal(reading(ask(s, "who hit their target?"))$by, "rep")
  expect_equal(value_of(ask(s, "who hit their target?"), "estimate"), mean(met))
  expect_equal(value_of(ask(s, "how many times did Dev miss target?"), "n"), sum(rows$sales < rows$target & rows$rep == "Dev"))
  expect_equal(value_of(ask(s, "months in which sales exceeded target"), "n"), sum(rows$sales > rows$target))
  expect_equal(value_of(ask(s, "was the target met in June"), "estimate"), mean(met[rows$month == "2025-06"]))
  reached <- ask(s, "percentage of target reached by region")
  expect_equal(method_of(reached), "rate_table")
  expect_equal(value_of(reached, "estimate"), 100 * sum(rows$sales) / sum(rows$target), tolerance = 1e-10)
  # a mark of the possessive, a conversion, and what a deal is worth
  expect_equal(value_of(ask(s, "are Ada's sales higher than Bo's?"), "n"), 24)
  expect_equal(value_of(ask(s, "conversion of calls to deals"), "estimate"), sum(rows$deals) / sum(rows$calls), tolerance = 1e-10)
  expect_equal(status_of(ask(s, "average deal size by rep")), "cannot_answer")
  # reps within regions are not crossed with them
  a <- ask(s, "compare regions on sales per rep")
  expect_equal(status_of(a), "cannot_answer")
  expect_match(as.list(a)$sentences$headline, "one region only")
  # running totals
  run <- ask(s, "cumulative sales by month")
  expect_equal(table_of(run, "time")$running, cumsum(as.vector(tapply(rows$sales, rows$month, sum))))
  expect_retraces(run)
  expect_equal(status_of(ask(s, "best month for the north")), "needs_choice")
})
