line_data <- function() with_seed(51, {
  orders <- 90
  order <- rep(7001:(7000 + orders), times = sample(1:4, orders, TRUE))
  at <- order - 7000
  d <- data.frame(OrderNo = order, CustomerID = sample(sprintf("C%03d", 1:35), orders, TRUE)[at],
                  OrderDate = format((as.Date("2024-01-04") + sort(sample(355, orders, TRUE)))[at]),
                  Product = sample(c("Lamp", "Desk", "Chair"), length(order), TRUE), Quantity = sample(1:5, length(order), TRUE))
  d$Revenue <- round(d$Quantity * c(Lamp = 25, Desk = 240, Chair = 95)[d$Product] * runif(nrow(d), 0.8, 1), 2)
  d$Returned <- sample(c("yes", "no"), nrow(d), TRUE, c(0.15, 0.85))
  d
})
buyer_data <- function() data.frame(CustomerID = sprintf("C%03d", 1:35), Country = rep(c("Spain", "Malta", "Italy"), length.out = 35))

test_that("what an order holds is the total of its lines", {
  d <- line_data()
  s <- open_study(local_data(d, "lines.csv"))
  totals <- tapply(d$Revenue, d$OrderNo, sum)
  a <- ask(s, "average order value")
  expect_equal(value_of(a, "estimate"), mean(totals))
  expect_equal(value_of(a, "n"), length(totals))
  expect_match(paste(as.list(a)$reading$assumed, collapse = " "), "Each OrderNo counts once", fixed = TRUE)
  expect_retraces(a)
  expect_equal(value_of(ask(s, "median order value"), "estimate"), median(totals))
  expect_equal(value_of(ask(s, "average basket size"), "estimate"), mean(tapply(d$Quantity, d$OrderNo, sum)))
  expect_equal(value_of(ask(s, "average number of items per order"), "estimate"), mean(tapply(d$Quantity, d$OrderNo, sum)))
})

test_that("the customer of an order brings in a column of a joined table", {
  d <- line_data()
  s <- open_study(c(local_data(d, "lines.csv"), local_data(buyer_data(), "buyers.csv")))
  a <- ask(s, "average order value by country")
  totals <- aggregate(Revenue ~ OrderNo + CustomerID, d, sum)
  totals$Country <- buyer_data()$Country[match(totals$CustomerID, buyer_data()$CustomerID)]
  own <- tapply(totals$Revenue, totals$Country, mean)
  t <- table_of(a, "groups")
  expect_equal(t$mean, as.numeric(own[t$Country]))
  expect_retraces(a)
})

test_that("orders are counted, not their lines", {
  d <- line_data()
  s <- open_study(local_data(d, "lines.csv"))
  expect_equal(value_of(ask(s, "how many orders were there"), "estimate"), length(unique(d$OrderNo)))
  by_month <- ask(s, "number of orders per month")
  expect_equal(sum(table_of(by_month, "groups")$distinct), length(unique(d$OrderNo)))
  expect_retraces(by_month)
  per <- ask(s, "average number of orders per customer")
  expect_equal(value_of(per, "estimate"), mean(tapply(d$OrderNo, d$CustomerID, function(x) length(unique(x)))))
  expect_retraces(per)
})

test_that("customers are counted by the number of their orders", {
  d <- line_data()
  s <- open_study(local_data(d, "lines.csv"))
  orders <- tapply(d$OrderNo, d$CustomerID, function(x) length(unique(x)))
  expect_equal(value_of(ask(s, "how many customers ordered more than three times"), "estimate"), sum(orders > 3))
  expect_equal(value_of(ask(s, "how many customers have at least 2 orders"), "estimate"), sum(orders >= 2))
  early <- d[d$OrderDate <= "2024-06-30", ]
  few <- tapply(early$OrderNo, early$CustomerID, function(x) length(unique(x)))
  a <- ask(s, "what share of customers ordered at least twice between 2024-01-01 and 2024-06-30")
  expect_equal(value_of(a, "estimate"), mean(few >= 2))
  expect_retraces(a)
})

test_that("a share of orders is one of those with such a line", {
  d <- line_data()
  s <- open_study(local_data(d, "lines.csv"))
  a <- ask(s, "what percentage of orders contain a chair")
  expect_equal(value_of(a, "estimate"), mean(tapply(d$Product == "Chair", d$OrderNo, any)))
  expect_retraces(a)
  expect_equal(value_of(ask(s, "what share of orders were returned"), "estimate"), mean(tapply(d$Returned == "yes", d$OrderNo, any)))
})

test_that("what one customer brought in is a total over the rows, though the key is single in its own table", {
  d <- line_data()
  s <- open_study(c(local_data(d, "lines.csv"), local_data(buyer_data(), "buyers.csv")))
  expect_equal(value_of(ask(s, "revenue per customer"), "estimate"), mean(tapply(d$Revenue, d$CustomerID, sum)))
})

test_that("patients of a key that is not called so are told apart by it", {
  d <- with_seed(52, data.frame(mrn = sample(sprintf("M%04d", 1:60), 150, TRUE), ward = sample(c("A", "B"), 150, TRUE),
                                cost_gbp = round(rlnorm(150, 6, 0.5))))
  s <- open_study(d)
  expect_equal(value_of(ask(s, "how many patients were there"), "estimate"), length(unique(d$mrn)))
  expect_equal(value_of(ask(s, "average cost per patient"), "estimate"), mean(tapply(d$cost_gbp, d$mrn, sum)))
  total <- ask(s, "total cost per patient")
  expect_equal(unlist(as.list(total)$reading$by), "mrn")
  wards <- ask(s, "how many patients per ward")
  expect_equal(table_of(wards, "groups")$distinct, as.vector(tapply(d$mrn, d$ward, function(x) length(unique(x)))))
})
