# Late, overdue, on time, not yet done: a due date beside the date on which it was done.

loans_data <- function() {
  with_seed(3, {
    out <- as.Date("2024-01-02") + sample(0:200, 160, TRUE)
    due <- out + 21
    back <- due + sample(-12:9, 160, TRUE)
    back[sample(160, 12)] <- NA
    data.frame(loan_id = 1000 + 1:160, member_id = sprintf("M%02d", sample(30, 160, TRUE)), branch = sample(c("Central", "Harbour"), 160, TRUE),
               item_type = sample(c("novel", "comic", "atlas"), 160, TRUE), loan_date = out, due_date = due, return_date = back,
               fine_eur = round(stats::rexp(160), 2))
  })
}
loans <- loans_data()
late <- as.numeric(loans$return_date - loans$due_date)
study <- open_study(local_data(loans, "loans.csv", env = parent.frame()))

test_that("late, overdue and on time are told from the two dates, and rows that are still out are not among them", {
  expect_identical(value_of(ask(study, "how many loans were returned late"), "n"), sum(late > 0, na.rm = TRUE) + 0)
  expect_identical(value_of(ask(study, "how many loans were on time"), "n"), sum(late <= 0, na.rm = TRUE) + 0)
  a <- ask(study, "what share of loans is overdue by item type")
  shares <- table_of(a, "shares")
  base <- tapply(late > 0, loans$item_type, mean, na.rm = TRUE)
  expect_equal(shares$share, as.vector(base[shares$group]))
  expect_true(any(grepl("Late means after due_date", reading(a)$assumed)))
  expect_equal(value_of(ask(study, "how many days late are loans on average"), "estimate"), mean(late, na.rm = TRUE))
})

test_that("a late one is a condition, not a word to be passed over", {
  a <- table_of(ask(study, "fines per late loan by branch"), "groups")
  base <- tapply(loans$fine_eur[which(late > 0)], loans$branch[which(late > 0)], mean)
  expect_equal(a$mean, as.vector(base[a$branch]))
  expect_identical(filters_of(ask(study, "late loans per month")), "days_late > 0")
})

test_that("what is not yet back is counted, and how long the others were kept is the time between the dates", {
  for (q in c("how many items are still out", "how many loans have not been returned", "how many loans were not returned")) {
    expect_identical(value_of(ask(study, q), "n"), sum(is.na(loans$return_date)) + 0, info = q)
  }
  kept <- as.numeric(loans$return_date - loans$loan_date)
  expect_equal(value_of(ask(study, "how long do people keep a comic"), "estimate"), mean(kept[loans$item_type == "comic"], na.rm = TRUE))
  a <- ask(study, "average loan duration by branch")
  expect_equal(sort(table_of(a, "groups")$mean), sort(as.vector(tapply(kept, loans$branch, mean, na.rm = TRUE))))
  expect_retraces(a)
})

test_that("data that says itself what was late keeps its own word", {
  own <- open_study(local_data(cbind(loans, late = ifelse(is.na(late), NA, ifelse(late > 5, "yes", "no"))), "loans.csv"))
  t <- table_of(ask(own, "how many loans were late"), "counts")
  expect_equal(t$n[t$late == "yes"], sum(late > 5, na.rm = TRUE))
})

test_that("units are told apart by their key, their rows counted", {
  rows <- table(loans$member_id)
  expect_identical(value_of(ask(study, "how many members borrowed more than 5 items"), "estimate"), sum(rows > 5) + 0)
  a <- table_of(ask(study, "which branch has the most loans per member"), "groups")
  base <- tapply(rep(1, 160), list(loans$member_id, loans$branch), sum)
  expect_equal(a$mean, as.vector(colMeans(base, na.rm = TRUE)[a$branch]))
})
