# The picture of curves: what is read at a time is marked where the table has it.

skip_if_not_installed("ggplot2")

test_that("the time asked about is marked, with a dot on every curve at the share told", {
  a <- ask(hive_study(), "survival without swarming at 60 days by arm")
  built <- ggplot2::ggplot_build(figure(a))
  segments <- Filter(function(d) all(c("xend", "yend") %in% names(d)) && nrow(d) == 1 && d$x[1] == d$xend[1], built$data)
  expect_equal(segments[[1]]$x, 60)
  dots <- Filter(function(d) nrow(d) == 3 && all(d$x == 60) && "shape" %in% names(d) && !"label" %in% names(d), built$data)
  expect_equal(sort(dots[[1]]$y), sort(table_of(a, "groups")$survival_at), tolerance = 1e-12)
  expect_match(paste(script(a), collapse = "\n"), "geom_vline(xintercept = at", fixed = TRUE)
  # without a time there is nothing to mark
  b <- ask(hive_study(), "Kaplan-Meier curves by arm, the event is swarmed")
  expect_no_match(paste(script(b), collapse = "\n"), "geom_vline")
})

test_that("numbers at risk stand under the curves as the survival package counts them", {
  skip_if_not_installed("survival")
  d <- read.csv(demo_file())
  a <- ask(hive_study(), "Kaplan-Meier curves, the event is swarmed")
  built <- ggplot2::ggplot_build(figure(a))
  labels <- Filter(function(x) "label" %in% names(x), built$data)[[1]]
  own <- summary(survival::survfit(survival::Surv(days_to_swarm, swarmed == "yes") ~ 1, data = d), times = labels$x, extend = TRUE)
  expect_equal(as.numeric(labels$label), own$n.risk)
})
