trial <- hive_study()
rows <- read.csv(demo_file(), na.strings = c("", "NA", "-99"), stringsAsFactors = TRUE)

test_that("a model of chances with one measured column is drawn as its curve, with shares seen and values asked about", {
  a <- ask(trial, "what is the predicted probability of survived winter at 5, 10 and 20 mites before")
  built <- ggplot2::ggplot_build(figure(a))
  fit <- glm(survived_winter ~ mites_before, binomial, rows)
  line <- built$data[[2]]
  expect_equal(line$y, unname(predict(fit, data.frame(mites_before = line$x), type = "response")), tolerance = 1e-6)
  stated <- Filter(function(d) any(d$shape %in% 23), built$data)[[1]]
  expect_equal(stated$x, c(5, 10, 20))
  seen <- internal("seen_shares")(rows$mites_before, as.numeric(rows$survived_winter == "yes"), 0.95)
  expect_true(all(seen$low <= seen$fit & seen$fit <= seen$high))
  # the ratios themselves where they are asked for, and with several columns
  ratios <- figure(ask(trial, "forest plot of the odds ratios for survived winter on mites before"))
  expect_match(ratios$labels$title, "Odds ratio")
  expect_match(figure(ask(trial, "logistic regression of survived winter on arm and mites before"))$labels$title, "Odds ratio")
})

test_that("counts are drawn as rows with the expected count", {
  plot <- figure(ask(trial, "poisson regression of mites after on mites before"))
  line <- ggplot2::ggplot_build(plot)$data[[2]]
  fit <- glm(mites_after ~ mites_before, poisson, rows)
  expect_equal(line$y, unname(predict(fit, data.frame(mites_before = line$x), type = "response")), tolerance = 1e-6)
})
