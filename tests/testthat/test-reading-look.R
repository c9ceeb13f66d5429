trial <- hive_study()
look <- function(q) ask(trial, q)$figure$look

test_that("what a question says of its figure is taken into it and told", {
  expect_equal(look("histogram of honey yield with 30 bins")$bins, 30L)
  expect_true(look("box plot of honey yield by arm in grey")$grey)
  expect_equal(look("bar chart of mean honey yield by apiary, ordered by yield")$order, "mean")
  expect_equal(look("density of honey yield by arm")$kind, "density")
  marked <- ask(trial, "mark the hives that swarmed in the scatter plot of honey yield and strength before")
  expect_equal(marked$figure$look$mark[[1]]$column, "swarmed")
  expect_setequal(c(reading(marked)$outcome, reading(marked)$predictors), c("honey_yield_kg", "strength_before"))
})

test_that("bars of a histogram are as many as asked, and the script draws the same", {
  a <- ask(trial, "histogram of honey yield with 8 bins")
  bars <- ggplot2::ggplot_build(figure(a))$data[[1]]
  expect_equal(nrow(bars), 8)
  expect_equal(sum(bars$count), value_of(a, "n"))
  expect_match(script(a), "bins = 8", all = FALSE)
  expect_error(figure(a, bins = 0), class = "upbeatquill_error_bad_argument")
})

test_that("groups stand in the order of what is drawn", {
  a <- ask(trial, "bar chart of mean honey yield by apiary, ordered by yield")
  rows <- read.csv(demo_file())
  means <- sort(tapply(rows$honey_yield_kg, rows$apiary, mean, na.rm = TRUE), decreasing = TRUE)
  data <- ggplot2::ggplot_build(figure(a))$plot$data
  expect_equal(as.character(levels(data$x)), names(means))
})

test_that("a write-up and a figure of ratios are asked for at once", {
  a <- ask(trial, "write up the difference in honey yield between arms")
  expect_equal(as.list(a)$sentences$headline, as.list(a)$sentences$write_up)
  expect_equal(method_of(a), "anova_welch")
  b <- ask(trial, "forest plot of the odds ratios for survived winter on mites before and arm")
  expect_equal(c(method_of(b), b$figure$id), c("logistic_regression", "ratios"))
})
