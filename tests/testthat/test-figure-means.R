# Means in tables of groups, drawn by groups and by measures.

trial_rows <- function() with_seed(21, {
  d <- expand.grid(subject = 1:30, week = c(0, 4, 8, 12))
  d$arm <- c("placebo", "10 mg", "20 mg")[d$subject %% 3 + 1]
  d$sbp_mmhg <- round(150 - d$week * (d$subject %% 3) / 2 + rnorm(nrow(d), 0, 6))
  d$pulse <- round(rnorm(nrow(d), 72, 8)); d$event <- ifelse(runif(nrow(d)) < 0.2, "yes", "no")
  d
})

test_that("a table of two groupings is drawn as lines along the one with an order", {
  d <- trial_rows()
  a <- ask(open_study(d), "mean sbp by arm and week")
  plot <- figure(a)
  shown <- ggplot2::ggplot_build(plot)$data
  points <- Filter(function(l) all(c("shape", "y") %in% names(l)) && nrow(l) == 12, shown)[[1]]
  expect_setequal(round(points$y, 9), round(c(tapply(d$sbp_mmhg, list(d$week, d$arm), mean)), 9))
  expect_true(any(vapply(plot$layers, function(l) inherits(l$geom, "GeomLine"), NA)))
  expect_match(plot$labels$x, "Week")
  expect_retraces(a)
})

test_that("several measures have a panel each", {
  d <- trial_rows()
  a <- ask(open_study(d), "mean of sbp and pulse by arm")
  built <- ggplot2::ggplot_build(figure(a))
  expect_equal(nrow(built$layout$layout), 2)
  means <- c(tapply(d$sbp_mmhg, d$arm, mean), tapply(d$pulse, d$arm, mean))
  expect_setequal(round(built$data[[2]]$x, 9), round(unname(means), 9))
  expect_retraces(a)
})

test_that("a size that no page has is refused before anything is drawn", {
  a <- ask(open_study(trial_rows()), "mean sbp by arm")
  file <- withr::local_tempfile(fileext = ".png")
  expect_error(figure(a, file = file, width = 1000, height = 640), "1 to 50 inches", class = "upbeatquill_error")
  expect_error(figure(a, file = file, dpi = 5), "dots per inch", class = "upbeatquill_error")
  expect_false(file.exists(file))
})

test_that("units with several rows are counted once, and shares and trends say when rows repeat them", {
  d <- trial_rows()
  s <- design(open_study(d), unit = "subject")
  a <- ask(s, "how many subjects had an event in each arm")
  own <- d[d$event == "yes", ]
  expect_equal(table_of(a, "groups")$distinct, unname(c(tapply(own$subject, own$arm, function(x) length(unique(x))))))
  status <- function(a) { k <- checks(a); k$verdict[k$id == "independent_rows"] }
  expect_equal(status(ask(s, "share of rows with an event")), "broken")
  b <- ask(s, "does sbp fall over time")
  expect_equal(status(b), "broken")
  expect_equal(method_of(ask(b, "1")), "mixed_linear")
  # the bound is what happened, the week says which rows
  a <- ask(s, "what share of subjects reached a sbp below 140 at week 12")
  expect_equal(value_of(a, "estimate"), mean(d$sbp_mmhg[d$week == 12] < 140))
})

test_that("another statistic than the mean is drawn by itself", {
  d <- trial_rows()
  a <- ask(open_study(d), "median sbp by arm and week")
  built <- ggplot2::ggplot_build(figure(a))
  points <- Filter(function(l) "shape" %in% names(l), built$data)[[1]]
  expect_setequal(round(points$y, 9), round(c(tapply(d$sbp_mmhg, list(d$week, d$arm), stats::median)), 9))
  expect_false(any(vapply(built$plot$layers, function(l) inherits(l$geom, "GeomLinerange"), NA)))
  file <- withr::local_tempfile(fileext = ".R")
  writeLines(script(a), file)
  expect_match(paste(readLines(file), collapse = "\n"), "median(v)", fixed = TRUE)
})
