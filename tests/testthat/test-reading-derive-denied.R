# Columns called by what is not so, and the words for what they deny.

clinic <- function(name = "did_not_attend") {
  rows <- data.frame(appointment = sprintf("A%03d", 1:60), practice = rep(c("Elm", "Harbour", "Oak"), each = 20), absent = rep(c("N", "N", "N", "Y"), 15),
                     age = rep(c(20, 35, 50, 65, 80), 12), wait_days = c(rep(c(3, 5, 4, 11), 15)), cost = rep(c(40, 20, 30, 25, 35), 12))
  names(rows)[3] <- name
  rows
}

test_that("a word for what a column denies is the other one of its levels", {
  rows <- clinic()
  s <- open_study(local_data(rows))
  here <- rows$did_not_attend == "N"
  expect_equal(value_of(ask(s, "what share of appointments were attended?"), "estimate"), mean(here))
  expect_equal(value_of(ask(s, "average wait of those who attended"), "estimate"), mean(rows$wait_days[here]))
  expect_equal(value_of(ask(s, "average cost per attended appointment"), "estimate"), mean(rows$cost[here]))
  a <- ask(s, "attendance rate by practice")
  expect_match(a$sentences$headline, "Attended is yes in 75.0 %")
  expect_true(any(grepl("did_not_attend is \"N\"", unlist(reading(a)$assumed))))
  expect_retraces(a)
})

test_that("words that deny it themselves name the column as it is", {
  rows <- clinic()
  s <- open_study(local_data(rows))
  gone <- rows$did_not_attend == "Y"
  for (q in c("how many failed to attend", "how many did not attend", "non-attendance")) {
    expect_match(ask(s, q)$sentences$headline, "is Y in 15 of 60 rows", info = q)
  }
  expect_equal(value_of(ask(s, "total cost of missed appointments"), "estimate"), sum(rows$cost[gone]))
  for (q in c("no-show rate", "DNA rate", "what is the rate of did not attend?")) expect_match(ask(s, q)$sentences$headline, "25.0 %", info = q)
  longer <- ask(s, "do people who wait longer miss their appointments more often?")
  expect_equal(reading(longer)$outcome, "wait_days")
  expect_equal(unlist(reading(longer)$by), "did_not_attend")
  expect_match(ask(s, "which practice has the worst no-show rate?")$sentences$headline, "^The highest share")
})

test_that("other names that deny something are turned round as well, and plain names are left alone", {
  s <- open_study(local_data(clinic("unpaid")))
  expect_match(ask(s, "how many were paid?")$sentences$headline, "Paid is yes in 45 of 60")
  expect_match(ask(s, "how many are unpaid?")$sentences$headline, "Unpaid is Y in 15 of 60")
  # (the stem of apply is "appli")
  applied <- open_study(local_data(clinic("not_applied")))
  expect_match(ask(applied, "how many applied?")$sentences$headline, "Applied is yes in 45 of 60")
  expect_match(ask(applied, "how many failed to apply?")$sentences$headline, "Not applied is Y in 15 of 60")
  plain <- open_study(local_data(clinic("attended")))
  expect_match(ask(plain, "how many attended")$sentences$headline, "Attended is Y in 15 of 60")
  expect_equal(filters_of(ask(plain, "total cost of missed appointments")), "attended == N")
})
