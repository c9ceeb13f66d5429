test_that("the band of the scatter is lm()'s confidence band", {
  raw <- read.csv(demo_file())
  a <- ask(hive_study(), "Is queen age correlated with honey yield?")
  built <- ggplot2::ggplot_build(figure(a))
  ribbon <- Filter(function(d) all(c("ymin", "ymax", "x") %in% names(d)) && nrow(d) == 60, built$data)[[1]]
  ref <- predict(lm(honey_yield_kg ~ queen_age_months, raw), data.frame(queen_age_months = ribbon$x), interval = "confidence")
  expect_equal(ribbon$ymin, unname(ref[, "lwr"]), tolerance = 1e-8)
  expect_equal(ribbon$ymax, unname(ref[, "upr"]), tolerance = 1e-8)
})
