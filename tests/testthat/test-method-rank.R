# Rankings of rows, of groups, and of groups by a share.

test_that("groups are ranked by the share of an event", {
  d <- call_data(); s <- open_study(d)
  a <- ask(s, "which agent has the lowest resolution rate?")
  share <- tapply(d$resolved == "Y", d$agent, mean)
  expect_equal(value_of(a, "estimate"), min(share))
  expect_match(as.list(a)$sentences$headline, names(which.min(share)))
  t <- table_of(a, "shares")
  low <- vapply(seq_len(nrow(t)), function(i) prop.test(t$count[i], t$n[i], correct = FALSE)$conf.int[1], 1)
  expect_equal(t$ci_low, low, tolerance = 1e-8)
})

test_that("ties with the last place are listed", {
  d <- data.frame(shop = rep(c("a", "b", "c"), each = 10), sold = rep(c("yes", "no"), 15))
  a <- ask(open_study(d), "top 1 shops by share sold")
  expect_equal(nrow(table_of(a, "ranking")), 3)
  expect_match(paste(unlist(as.list(a)$sentences$details), collapse = " "), "tie")
})

test_that("the largest means and totals come first", {
  d <- order_data(); s <- open_study(d)
  a <- ask(s, "top 3 customers by total revenue")
  total <- sort(tapply(d$revenue, d$customer, sum), decreasing = TRUE)
  expect_equal(table_of(a, "ranking")$customer, names(total)[1:3])
  expect_retraces(a)
})

test_that("most of what happened is a count, and a rate is a share", {
  d <- with_seed(12, data.frame(player = rep(sprintf("P%02d", 1:8), times = c(40, 60, 80, 30, 55, 45, 70, 90))))
  d$injured <- with_seed(13, ifelse(runif(nrow(d)) < 0.1, "yes", "no"))
  s <- open_study(d)
  hurt <- tapply(d$injured == "yes", d$player, sum)
  a <- ask(s, "which player had the most injuries")
  expect_equal(value_of(a, "estimate"), max(hurt))
  expect_setequal(table_of(a, "ranking")$player, names(hurt)[hurt == max(hurt)])
  expect_retraces(a)
  expect_equal(value_of(ask(s, "which player had the fewest injuries"), "estimate"), min(hurt))
  expect_equal(value_of(ask(s, "which player has the highest injury rate"), "estimate"), max(tapply(d$injured == "yes", d$player, mean)))
  # units of which each has several rows are counted one by one
  each <- table_of(ask(s, "how many injuries did each player have"), "crosstab")
  expect_equal(each$n[each$injured == "yes"][match(names(hurt), each$player[each$injured == "yes"])], unname(c(hurt)))
})

test_that("groups that tie with the last one asked for are listed too", {
  d <- data.frame(guest = rep(sprintf("G%d", 1:6), each = 3), nights = c(1, 2, 14, 3, 3, 9, 14, 1, 1, 2, 2, 2, 5, 5, 5, 1, 1, 4))
  a <- ask(open_study(local_data(d)), "who had the longest stay?")
  expect_equal(sort(table_of(a, "ranking")$guest), c("G1", "G3"))
  expect_equal(value_of(a, "estimate"), 14)
  expect_match(paste(unlist(as.list(a)$sentences$details), collapse = " "), "tie with the last one", fixed = TRUE)
  expect_retraces(a)
})
