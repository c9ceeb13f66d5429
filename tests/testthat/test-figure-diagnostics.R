trial <- hive_study()

test_that("each side of a model has its figure, in words and in the script", {
  wanted <- c(residuals = "residual plots of honey yield on strength before", influence = "influential rows in the regression of honey yield on arm",
              roc = "roc curve for survived winter from mites after",
              calibration = "calibration of the model of survived winter on mites after")
  for (id in names(wanted)) {
    a <- ask(trial, wanted[[id]])
    expect_equal(a$figure$id, id)
    expect_gt(nchar(a$figure$alt), 30)
    file <- withr::local_tempfile(fileext = ".png")
    figure(a, file = file)
    expect_gt(file.size(file), 5000)
    expect_match(script(a), "ggsave", all = FALSE)
  }
})

test_that("the curve starts at no call and ends with every row called", {
  built <- ggplot2::ggplot_build(figure(ask(trial, "roc curve for survived winter from mites after")))
  step <- built$data[[2]]
  expect_equal(c(step$x[1], step$y[1]), c(0, 0))
  expect_equal(c(step$x[nrow(step)], step$y[nrow(step)]), c(1, 1))
  expect_true(all(diff(step$x) >= 0) && all(diff(step$y) >= 0))
})

test_that("many rows are thinned in the picture, not in the numbers", {
  d <- with_seed(241, data.frame(x = rnorm(20000)))
  d$y <- with_seed(242, d$x + rnorm(20000))
  a <- ask(open_study(d), "residual plots of y on x")
  points <- Filter(function(l) nrow(l) > 1000, ggplot2::ggplot_build(figure(a))$data)
  expect_lte(max(vapply(points, nrow, 1L)), 16000)
  expect_equal(value_of(a, "n"), 20000)
})
