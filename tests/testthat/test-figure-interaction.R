trial <- hive_study()
rows <- read.csv(demo_file(), na.strings = c("", "NA", "-99"), stringsAsFactors = TRUE)

test_that("an interaction with a measured column has a line for each group, over the values that the group has", {
  plot <- figure(ask(trial, "does the effect of arm on honey yield depend on strength before?"))
  lines <- ggplot2::ggplot_build(plot)$data[[3]]
  expect_equal(length(unique(lines$group)), 3)
  fit <- lm(honey_yield_kg ~ strength_before * arm, rows)
  for (g in 1:3) {
    own <- lines[lines$group == g, ]
    arm <- levels(rows$arm)[g]
    expect_equal(own$y, unname(predict(fit, data.frame(strength_before = own$x, arm = arm))), tolerance = 1e-8)
    expect_equal(range(own$x), range(rows$strength_before[rows$arm == arm & !is.na(rows$honey_yield_kg)]))
  }
})

test_that("an interaction of two columns of levels shows the model's means", {
  plot <- figure(ask(trial, "does the effect of arm on honey yield depend on region, adjusting for strength before"))
  fit <- lm(honey_yield_kg ~ arm * region + strength_before, rows)
  used <- rows[!is.na(rows$honey_yield_kg), ]
  own <- predict(fit, data.frame(arm = plot$data$x, region = plot$data$line, strength_before = mean(used$strength_before)))
  expect_equal(plot$data$mean, unname(own), tolerance = 1e-8)
})

test_that("a line in time is broken where nothing was measured, and panels have few labels", {
  weights <- demo_study("hive_weights.csv")
  for (q in c("small multiples of weight over time by hive", "plot weight over time, one panel for each hive",
      "weight over time for each hive in separate panels")) {
    plot <- figure(ask(weights, q))
    expect_equal(nrow(ggplot2::ggplot_build(plot)$layout$layout), 14, info = q)
  }
  expect_match(plot$labels$subtitle, "broken where no rows are", fixed = TRUE)
  expect_equal(internal("time_runs")(as.Date("2024-01-01") + c(0:9, 200:209)), rep(1:2, each = 10))
  expect_equal(internal("time_runs")(as.Date("2024-01-01") + 0:9), rep(1L, 10))
})

test_that("expected counts stand beside those there are", {
  plot <- figure(ask(trial, "does region follow 40% north, 35% south and 25% coast"))
  expect_equal(plot$data$expected[match(c("coast", "north", "south"), plot$data$level)], 180 * c(0.25, 0.4, 0.35))
  expect_true(any(vapply(plot$layers, function(l) identical(l$aes_params$shape, 23), NA)))
})

test_that("an interaction of two columns of levels on a yes/no outcome is told as one, and drawn as shares", {
  s <- hive_study()
  d <- utils::read.csv(demo_file())
  a <- ask(s, "does the effect of arm on winter survival depend on region")
  y <- d$survived_winter == "yes"
  own <- stats::anova(stats::glm(y ~ arm + region, stats::binomial(), d), stats::glm(y ~ arm * region, stats::binomial(), d), test = "LRT")
  expect_equal(value_of(a, "statistic"), own$Deviance[2], tolerance = 1e-7)
  expect_match(as.list(a)$sentences$headline, "does not clearly depend on region: interaction chi-square(4)", fixed = TRUE)
  expect_equal(as.list(a)$figures[[1]]$id, "pair_shares")
  shares <- figure(a)$data
  expect_equal(shares$mean, stats::aggregate(y, list(d$arm, d$region), mean)$x, tolerance = 1e-12)
  # the outcome is what stands behind "on", whatever else is a number
  b <- ask(s, "does the effect of arm on winter survival depend on strength before")
  expect_equal(reading(b)$outcome, "survived_winter")
})
