trial <- hive_study()
look_of <- function(...) { a <- trial; for (q in c(...)) a <- ask(a, q); a$reading$extra$look }
layers_of <- function(plot, geom) sum(vapply(plot$layers, function(l) inherits(l$geom, geom), NA))

test_that("colours by name replace those of the groups, or the one colour there is", {
  expect_equal(look_of("honey yield by arm", "in blue and orange")$palette, c("blue", "orange"))
  expect_equal(look_of("histogram of honey yield in dark green")$palette, "darkgreen")
  plot <- figure(ask(trial, "plot honey yield against strength before coloured by arm in red, green and blue"))
  built <- ggplot2::ggplot_build(plot)$data[[1]]
  expect_setequal(unique(built$colour), grDevices::rgb(t(grDevices::col2rgb(c("red", "green", "blue"))), maxColorValue = 255))
  bars <- ggplot2::ggplot_build(figure(ask(trial, "histogram of honey yield in dark green")))$data[[1]]
  expect_equal(unique(bars$fill), "darkgreen")
  # a level of that name is a condition, and a question without a figure keeps its word
  shirts <- open_study(data.frame(shirt = rep(c("blue", "red"), 10), price = 1:20))
  expect_null(ask(shirts, "plot the price of shirts in blue")$reading$extra$look$palette)
  expect_equal(status_of(ask(trial, "mean honey yield in blue")), "cannot_answer")
})

test_that("a figure is saved in the size that the words or the argument ask for", {
  skip_if_not_installed("png")
  saved <- function(a, ...) { file <- withr::local_tempfile(fileext = ".png"); figure(a, file, dpi = 50, ...); rev(dim(png::readPNG(file))[1:2]) }
  a <- ask(trial, "honey yield by arm")
  expect_equal(saved(a), c(400, 250))
  expect_equal(saved(ask(a, "make it wider")), c(550, 250))
  expect_equal(saved(ask(a, "6 by 4 inches")), c(300, 200))
  expect_equal(saved(ask(a, "25.4 x 12.7 cm")), c(500, 250))
  expect_equal(saved(ask(a, "6 by 4 inches"), width = 10), c(500, 200))
  expect_equal(saved(a, size = c(4, 3)), c(200, 150))
  expect_match(paste(script(ask(a, "6 by 4 inches")), collapse = "\n"), "width = 6, height = 4", fixed = TRUE)
  expect_error(figure(a, size = c(0, 3)), class = "upbeatquill_error_bad_argument")
})

test_that("a figure lies or stands as asked, with and without its points, its text in a size", {
  a <- ask(trial, "honey yield by arm")
  flipped <- function(...) { b <- a; for (q in c(...)) b <- ask(b, q); inherits(figure(b)$coordinates, "CoordFlip") }
  expect_false(inherits(figure(a)$coordinates, "CoordFlip"))
  expect_true(flipped("horizontal"))
  expect_true(flipped("flip the axes"))
  expect_false(flipped("horizontal", "vertical"))
  expect_equal(layers_of(figure(a), "GeomPoint") - layers_of(figure(ask(a, "without the points")), "GeomPoint"), 1)
  expect_no_match(figure(ask(a, "without the points"))$labels$subtitle, "Points")
  violin <- ask(trial, "violin plot of honey yield by arm")
  expect_equal(layers_of(figure(violin), "GeomPoint"), 0)
  expect_equal(layers_of(figure(ask(violin, "show the points")), "GeomPoint"), 1)
  expect_equal(figure(ask(a, "font size 16"))$theme$text$size, 16)
  expect_gt(figure(ask(a, "bigger text"))$theme$text$size, 12)
})

test_that("lines, curves and names go to the points of a scatter plot", {
  a <- ask(trial, "scatter plot of honey yield against strength before")
  curve <- figure(ask(a, "add a smooth curve"))
  expect_equal(layers_of(curve, "GeomSmooth"), 1)
  line <- ggplot2::ggplot_build(figure(ask(a, "add a fitted line")))$data[[2]]
  rows <- read.csv(demo_file(), na.strings = c("", "NA", "-99"))
  own <- predict(lm(honey_yield_kg ~ strength_before, rows), data.frame(strength_before = line$x))
  expect_equal(line$y, unname(own), tolerance = 1e-8)
  named <- figure(ask(a, "label the points with hive_id"))
  expect_true("H001" %in% ggplot2::ggplot_build(named)$data[[2]]$label)
  expect_equal(look_of("plot honey yield against strength before coloured by arm with a fitted line")[c("colour", "smooth")],
               list(colour = "arm", smooth = "line"))
})

test_that("the script draws what the words changed", {
  skip_if_not_installed("ggplot2")
  folder <- withr::local_tempdir()
  file.copy(demo_file(), folder)
  a <- ask(ask(trial, "scatter plot of honey yield against strength before"), "add a smooth curve")
  a <- ask(ask(a, "in dark green"), "label the points with hive_id")
  file <- file.path(folder, "figure.R")
  script(a, file)
  text <- paste(readLines(file), collapse = "\n")
  for (part in c("geom_smooth", "geom_text(aes(label = name)", "darkgreen")) expect_match(text, part, fixed = TRUE)
  withr::with_dir(folder, withr::with_envvar(c(UPBEATQUILL_FIGURE = "yes"), system2(file.path(R.home("bin"), "Rscript"), "figure.R", stdout = FALSE,
                                                                                     stderr = FALSE)))
  expect_true(file.exists(file.path(folder, "answer.png")))
})

test_that("words of shape in ordinary questions stay what they are", {
  expect_null(look_of("how many points does syrup have")$points)
  expect_null(look_of("is honey yield larger with syrup than with control")$size)
  survey <- open_study(data.frame(points = c(3, 5, 8, 9, 2, 7), team = rep(c("a", "b"), 3)))
  expect_equal(reading(ask(survey, "mean points by team"))$outcome, "points")
  expect_equal(reading(ask(survey, "show the points by team"))$outcome, "points")
})
