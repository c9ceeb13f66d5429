test_that("the Welch answer carries base R's numbers", {
  raw <- subset(read.csv(demo_file()), arm %in% c("syrup", "control"))
  ref <- t.test(honey_yield_kg ~ arm, raw)
  a <- ask(hive_study(), "Does the honey yield differ between syrup and control?")
  expect_equal(c(value_of(a, "statistic"), value_of(a, "df"), value_of(a, "p_value"), value_of(a, "ci_low"), value_of(a, "ci_high")),
               unname(c(ref$statistic, ref$parameter, ref$p.value, ref$conf.int)), tolerance = 1e-10)
  expect_equal(value_of(a, "estimate"), unname(ref$estimate[1] - ref$estimate[2]), tolerance = 1e-12)
  g <- table_of(a, "groups")
  expect_equal(g$n, c(59L, 60L))
  expect_equal(g$missing, c(1L, 0L))
  expect_equal(g$median, as.vector(tapply(raw$honey_yield_kg, raw$arm, median, na.rm = TRUE)))
})

test_that("the headline names the higher group and the write-up the whole test", {
  a <- as.list(ask(hive_study(), "Does the honey yield differ between syrup and control?"))
  expect_match(a$sentences$headline, "higher in syrup than in control")
  expect_match(a$sentences$write_up, "t(116.0) = -2.65, p = .009", fixed = TRUE)
})

test_that("the answer holds for groups of two, for ties and for a large offset", {
  d <- data.frame(g = rep(c("a", "b"), each = 2), y = c(1, 3, 10, 14))
  a <- ask(open_study(d), "does y differ by g")
  expect_equal(value_of(a, "p_value"), t.test(y ~ g, d)$p.value, tolerance = 1e-12)
  far <- data.frame(g = rep(c("a", "b"), each = 50), y = 1e9 + rep(1:50, 2) / 8 + rep(c(0, 1), each = 50))
  b <- ask(open_study(far), "does y differ by g")
  near <- far; near$y <- near$y - 1e9
  expect_equal(value_of(b, "statistic"), value_of(ask(open_study(near), "does y differ by g"), "statistic"), tolerance = 1e-10)
})

test_that("one group, constant outcomes and all-missing outcomes cannot be answered, in words", {
  cases <- list(one_group = data.frame(g = "a", y = 1:6 + 0.5, h = 1:6 / 2), constant = data.frame(g = rep(c("a", "b"), 3), y = 2.5, h = 1:6 / 2),
                missing = data.frame(g = rep(c("a", "b"), 3), y = NA_real_, h = 1:6 / 2))
  for (case in names(cases)) {
    a <- ask(open_study(cases[[case]]), "does y differ by g")
    expect_equal(status_of(a), "cannot_answer", info = case)
    expect_true(nzchar(as.list(a)$sentences$headline), info = case)
  }
  single <- ask(open_study(data.frame(g = "a", y = 1)), "does y differ by g")
  expect_equal(status_of(single), "cannot_answer")
})
