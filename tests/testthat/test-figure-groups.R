test_that("the figure places the means and intervals of the answer", {
  a <- ask(hive_study(), "Does the honey yield differ between syrup and control?")
  built <- ggplot2::ggplot_build(figure(a))
  raw <- read.csv(demo_file())
  expected <- as.vector(tapply(raw$honey_yield_kg, raw$arm, mean, na.rm = TRUE)[c("control", "syrup")])
  placed <- lapply(built$data, function(d) if ("y" %in% names(d) && nrow(d) == 2) d$y)
  expect_true(any(vapply(placed, function(y) isTRUE(all.equal(y, expected)), NA)))
  expect_match(built$plot$labels$title, "Honey yield by arm")
  expect_match(built$plot$labels$caption, "n = 119.*hive_trial.csv")
  expect_match(built$plot$labels$y, "kg")
})

test_that("long level names, many groups and tiny groups are drawn without an error", {
  d <- data.frame(g = rep(paste("a very long name of a level number", 1:40), each = 3), y = with_seed(3, rnorm(120)))
  a <- ask(open_study(d), "y by g")
  f <- withr::local_tempfile(fileext = ".png")
  expect_silent(figure(a, f))
})

test_that("points are spread the same way every time and leave the session's generator alone", {
  a <- ask(hive_study(), "Does the honey yield differ between syrup and control?")
  set.seed(1); before <- .Random.seed
  one <- ggplot2::ggplot_build(figure(a))$data
  expect_identical(.Random.seed, before)
  expect_identical(one, ggplot2::ggplot_build(figure(a))$data)
})
