# Which groups lie beyond a bound that the question stated.

test_that("groups on the side asked about are named with their values", {
  s <- hive_study()
  d <- utils::read.csv(demo_file())
  m <- tapply(d$honey_yield_kg, d$region, mean, na.rm = TRUE)
  a <- ask(s, "which regions have a mean honey yield above 20")
  said <- as.list(a)$sentences$headline
  expect_match(said, sprintf("%d of the 3 groups", sum(m > 20)), fixed = TRUE)
  for (region in names(m)) expect_equal(grepl(region, sub("[.] The.*$", "", said)), m[[region]] > 20, info = region)
  expect_match(as.list(ask(s, "which arms have a median mites after over 50"))$sentences$headline, "None of the 3 groups lies above 50")
})

test_that("shares are held against a percentage", {
  s <- hive_study()
  d <- utils::read.csv(demo_file())
  share <- tapply(d$survived_winter == "yes", d$apiary, mean)
  for (q in c("which apiaries have a survival rate below 50%", "apiaries with a survival rate under 0.5")) {
    said <- as.list(ask(s, q))$sentences$headline
    expect_match(said, sprintf("%d of the %d groups lie below 50.0 %%", sum(share < 0.5), length(share)), fixed = TRUE, info = q)
  }
})

test_that("the bound is drawn as a line", {
  drawn <- ggplot2::ggplot_build(figure(ask(hive_study(), "which apiaries have a survival rate below 50%")))
  expect_true(any(vapply(drawn$data, function(d) identical(unique(d$xintercept), 0.5), NA)))
  drawn <- ggplot2::ggplot_build(figure(ask(hive_study(), "which regions have a mean honey yield above 20")))
  expect_true(any(vapply(drawn$data, function(d) identical(unique(d$yintercept), 20), NA)))
})
