test_that("bars are the counts; shares come with Wilson intervals and the event alone where there are two levels", {
  raw <- read.csv(demo_file())
  bars <- ggplot2::ggplot_build(figure(ask(hive_study(), "How many hives are there in each arm?")))$data[[1]]
  expect_equal(sort(bars$y), sort(as.vector(table(raw$arm))))
  shares <- ggplot2::ggplot_build(figure(ask(hive_study(), "Is winter survival related to swarming?")))$data
  dots <- Filter(function(d) "shape" %in% names(d), shares)[[1]]
  expect_equal(sort(dots$x), sort(as.vector(tapply(raw$survived_winter == "yes", raw$swarmed, mean))), tolerance = 1e-12)
})
