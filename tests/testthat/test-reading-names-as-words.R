# Columns and levels that are called like everyday words, and columns without the name of what they measure.

test_that("a statistic before a measure is no level of that name", {
  cars <- with_seed(9, data.frame(price = round(rnorm(60, 20, 4), 1), type = rep(c("small", "large"), 30),
                                  rating = factor(rep(c("worse", "average", "better"), 20))))
  s <- open_study(cars)
  a <- ask(s, "average price by type")
  expect_equal(table_of(a, "groups")$mean, as.vector(tapply(cars$price, cars$type, mean)))
  expect_length(filters_of(a), 0)
  b <- ask(s, "average price of cars with average rating")
  expect_equal(value_of(b, "estimate"), mean(cars$price[cars$rating == "average"]))
})

test_that("before and after without the name of a measure are two occasions of it", {
  rows <- data.frame(before = c(12, 15, 11, 14, 16, 10, 13, 12), after = c(14, 18, 13, 14, 19, 13, 15, 11), group = rep(c("a", "b"), 4))
  for (names in list(c("before", "after"), c("baseline", "month6"), c("pretest", "posttest"))) {
    s <- open_study(stats::setNames(rows, c(names, "group")))
    expect_equal(value_of(ask(s, "did it change?"), "p_value"), t.test(rows$after, rows$before, paired = TRUE)$p.value, tolerance = 1e-9, info = names[1])
    expect_equal(value_of(ask(s, "average increase"), "estimate"), mean(rows$after - rows$before), info = names[1])
    expect_match(ask(s, "how many improved?")$sentences$headline, "6 rows", info = names[1])
    expect_match(ask(s, "how many people got worse?")$sentences$headline, "1 row", info = names[1])
  }
})

test_that("who improved in pain has less of it", {
  rows <- data.frame(pain_before = c(6, 7, 5, 8, 6, 7), pain_after = c(3, 5, 6, 4, 6, 2))
  s <- open_study(rows)
  for (q in c("how many patients improved?", "how many patients improved in pain?")) {
    expect_match(ask(s, q)$sentences$headline, "4 rows", info = q)
  }
})

test_that("the row at the end of one measure is shown with the other, and asked back where it is not clear", {
  engine <- with_seed(3, data.frame(NOx = round(runif(40, 0.4, 4), 3), E = round(runif(40, 0.5, 1.2), 3)))
  s <- open_study(engine)
  top <- which.max(engine$NOx)
  for (q in c("at what E is NOx highest?", "which E has the highest NOx?", "highest NOx with its E")) {
    expect_match(ask(s, q)$sentences$headline, sprintf("row %d", top), fixed = TRUE, info = q)
    expect_match(ask(s, q)$sentences$headline, sprintf("E %s", format(signif(engine$E[top], 3))), fixed = TRUE, info = q)
  }
  expect_equal(status_of(ask(s, "which E NOx highest")), "needs_choice")
})

test_that("outliers that are asked for are those beyond the fences, counted on the rows that are meant", {
  s <- open_study(anscombe)
  a <- ask(s, "are there outliers in y3?")
  expect_equal(table_of(a, "beyond")$value, boxplot.stats(anscombe$y3)$out)
  expect_retraces(a)
  expect_match(ask(s, "outliers in y1")$sentences$headline, "No value of y1 lies beyond", fixed = TRUE)
})

test_that("a line of few rows is held against a parabola; levels without a rating are counted; a size is not its column", {
  s <- open_study(anscombe)
  fit <- lm(y1 ~ x1 + I(x1^2), anscombe)
  a <- ask(s, "is a straight line good enough for y1 on x1?")
  expect_equal(method_of(a), "polynomial_regression")
  expect_match(a$sentences$headline, sub("^0", "", sprintf("p = %.2f", summary(fit)$coefficients[3, 4])) |> sub(pattern = "= 0", replacement = "= "), fixed = TRUE)
  cars <- data.frame(reliability = c("good", NA, "bad", "good", NA, "bad", "good", "bad", "good", NA, "bad", "good"), price = 1:12 * 2.5,
                     class = rep(c("c10", "c11", "c12", "c13", "c14", "c15"), 2))
  expect_match(ask(open_study(cars), "how many cars have no reliability rating?")$sentences$headline, "3 rows")
  expect_equal(status_of(ask(open_study(cars), "average price by class size")), "cannot_answer")
})
