# Figures changed in words and by argument.

kind_of <- function(a) a$figure$kind
layer_kinds <- function(plot) vapply(plot$layers, function(l) class(l$geom)[1], "")

test_that("a picture that is asked for is the one that is drawn", {
  skip_if_not_installed("ggplot2")
  s <- hive_study()
  asked <- c("box plot of honey yield by arm" = "box", "violin plot of honey yield by arm" = "violin", "histogram of honey yield" = "histogram",
    "density plot of honey yield by region" = "density",
             "scatterplot of honey yield against queen age" = "scatter", "bar chart of arm" = "bar", "pie chart of arm" = "pie",
               "mosaic plot of winter survival by arm" = "mosaic", "heat map of arm by region" = "heatmap",
             "qq plot of honey yield" = "qq", "dot plot of honey yield by arm" = "dot")
  for (q in names(asked)) {
    a <- ask(s, q)
    expect_equal(status_of(a), "answered", info = q)
    expect_equal(kind_of(a), asked[[q]], info = q)
    expect_s3_class(figure(a), "ggplot")
    expect_silent(ggplot2::ggplot_build(figure(a)))
    expect_silent(parse(text = script(a)))
  }
})

test_that("wishes in words reach the figure, and the numbers stay", {
  skip_if_not_installed("ggplot2")
  a <- ask(hive_study(), "Does the honey yield differ by arm?")
  b <- ask(a, "as a violin plot, one panel for each region, titled \"Yield by feed\", legend at the top")
  expect_equal(value_of(b, "p_value"), value_of(a, "p_value"))
  plot <- figure(b)
  expect_true("GeomViolin" %in% layer_kinds(plot))
  expect_equal(plot$labels$title, "Yield by feed")
  expect_equal(plot$theme$legend.position, "top")
  expect_true("panel" %in% names(plot$facet$params$facets))
  c <- ask(a, "mark the hives that swarmed")
  expect_match(figure(c)$labels$subtitle, "Marked in red: 127 rows")
  expect_equal(as.list(c)$reading$task, "compare")
  d <- ask(a, "add a line at 20")
  expect_true("GeomHline" %in% layer_kinds(figure(d)))
  expect_retraces(b)
})

test_that("a scatter takes its colours from a third column", {
  skip_if_not_installed("ggplot2")
  a <- ask(hive_study(), "scatterplot of honey yield against queen age coloured by arm")
  expect_equal(method_of(a), "pearson")
  expect_equal(as.character(unique(figure(a)$data$group)), c("control", "syrup", "pollen patty")[order(match(c("control", "syrup", "pollen patty"),
    unique(as.character(figure(a)$data$group))))])
  expect_match(paste(script(a), collapse = "\n"), "colour = group", fixed = TRUE)
})

test_that("the same by argument, and what cannot be is said", {
  skip_if_not_installed("ggplot2")
  a <- ask(hive_study(), "Does the honey yield differ by arm?")
  plot <- figure(a, kind = "dot", order = "mean", title = "Means", limits = c(0, 40), legend = "none")
  expect_equal(plot$labels$title, "Means")
  expect_equal(levels(plot$data$x)[1], "syrup")
  expect_error(figure(a, kind = "spiral"), class = "upbeatquill_error_bad_argument")
  expect_error(figure(a, colour = "nothing"), class = "upbeatquill_error_column_unknown")
  expect_error(figure(a, shade = 1), class = "upbeatquill_error_bad_argument")
  expect_equal(a$figure$kind, "box")
})

test_that("text in a title is never run", {
  skip_if_not_installed("ggplot2")
  a <- ask(hive_study(), "box plot of honey yield by arm titled \"'); stop('x'); ('\"")
  expect_silent(parse(text = script(a)))
  expect_false(any(grepl("^ *stop\\('x'\\)", script(a))))
})
