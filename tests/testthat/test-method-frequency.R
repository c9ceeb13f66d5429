test_that("counts and shares are those of table()", {
  raw <- read.csv(demo_file())
  t <- table_of(ask(hive_study(), "How many hives are there in each arm?"), "counts")
  expect_equal(t$n, as.vector(table(raw$arm)))
  expect_equal(sum(t$percent), 100)
})

test_that("a share is counted within the rows that the question names", {
  raw <- read.csv(demo_file())
  a <- ask(hive_study(), "What share of the hives in the north swarmed?")
  expect_equal(value_of(a, "estimate"), mean(raw$swarmed[raw$region == "north"] == "yes"), tolerance = 1e-12)
  ref <- suppressWarnings(prop.test(sum(raw$region == "north" & raw$swarmed == "yes"), sum(raw$region == "north"), correct = FALSE)$conf.int)
  expect_equal(c(value_of(a, "ci_low"), value_of(a, "ci_high")), as.numeric(ref), tolerance = 1e-10)
})
