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

test_that("rows that are months are not counted as what happened in them", {
  months <- with_seed(5, data.frame(month = rep(month.abb, 4), year = rep(2001:2004, each = 12), male = rpois(48, 90), female = rpois(48, 80)))
  s <- open_study(local_data(months, "deaths.csv"))
  a <- ask(s, "deaths by month")
  expect_equal(status_of(a), "needs_choice")
  expect_match(paste(vapply(as.list(a)$reading$alternatives, `[[`, "", "plain"), collapse = " "), "total of male by month", ignore.case = TRUE)
  expect_equal(status_of(ask(s, "how many rows per year")), "answered")
})

test_that("a column called year is no amount that things are counted over, also with two digits", {
  calls <- data.frame(year = 50:73, calls = round(exp(seq(1, 4, length.out = 24)), 1))
  s <- open_study(calls)
  expect_equal(method_of(ask(s, "calls per year")), "group_summary")
  a <- ask(s, "how did calls grow over the years?")
  expect_equal(value_of(a, "estimate"), coef(lm(calls ~ year, calls))[[2]], tolerance = 1e-9)
  lake <- data.frame(year = 1875:1972, level = as.numeric(LakeHuron))
  after <- lake$year >= 1920
  for (q in c("was the level lower after 1920 than before?", "is the level higher before 1920 than after?")) {
    expect_equal(value_of(ask(open_study(lake), q), "p_value"), t.test(lake$level[after], lake$level[!after])$p.value, tolerance = 1e-9, info = q)
  }
})

test_that("a column called kappa is no coefficient of agreement, and data may be named after what it measures", {
  blood <- with_seed(8, data.frame(kappa = round(rlnorm(120), 2), lambda = round(rlnorm(120), 2), age = round(rnorm(120, 60, 8)),
                                   death = sample(0:1, 120, TRUE)))
  a <- ask(open_study(blood), "does kappa predict death adjusting for age?")
  expect_equal(method_of(a), "logistic_regression")
  expect_equal(value_of(a, "estimate"), coef(glm(death ~ kappa + age, binomial, blood))[["kappa"]], tolerance = 1e-6)
  glucose <- with_seed(9, data.frame(Subject = rep(1:6, each = 8), Time = rep(c(0, 1, 2, 4), 12), conc = round(rnorm(48, 5, 1), 2),
                                     Meal = rep(c("morning", "evening"), each = 4)))
  s <- open_study(local_data(glucose, "glucose.csv"))
  expect_equal(table_of(ask(s, "peak glucose per subject"), "groups")$max, as.vector(tapply(glucose$conc, glucose$Subject, max)))
  expect_equal(table_of(ask(s, "mean glucose by meal"), "groups")$mean, as.vector(tapply(glucose$conc, glucose$Meal, mean)))
  expect_equal(status_of(ask(s, "mean conc before the meal")), "cannot_answer")
})

test_that("an effect that is stronger at an amount is an interaction, and a smooth curve is a spline", {
  air <- airquality[stats::complete.cases(airquality), ]
  s <- open_study(air)
  own <- coef(summary(lm(Ozone ~ Temp * Wind, air)))["Temp:Wind", "Pr(>|t|)"]
  a <- ask(s, "is the effect of Temp on Ozone stronger when it is windy?")
  expect_equal(value_of(a, "p_value"), own, tolerance = 1e-7)
  expect_equal(method_of(ask(s, "smooth curve of Ozone over Temp")), "spline_regression")
})
