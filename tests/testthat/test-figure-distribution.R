test_that("the bars of a histogram hold every value once", {
  a <- ask(hive_study(), "How is the honey yield distributed?")
  built <- ggplot2::ggplot_build(figure(a))
  expect_equal(sum(built$data[[1]]$count), 177)
})
