test_that("kind, label, missing codes and order can be amended, and the answers follow", {
  study <- amend(hive_study(), arm = list(order = c("syrup", "control", "pollen patty"), label = "Feeding"),
                 queen_age_months = list(missing = c(4, 36)), hive_id = list(kind = "text"))
  b <- codebook(study)
  row <- function(name) b[b$column == name, ]
  expect_equal(row("arm")$levels, "syrup|control|pollen patty")
  expect_equal(row("arm")$label, "Feeding")
  expect_equal(row("hive_id")$kind, "text")
  raw <- read.csv(demo_file())
  a <- ask(study, "mean queen age")
  expect_equal(value_of(a, "estimate"), with(raw, mean(queen_age_months[!queen_age_months %in% c(4, 36)])))
  # the first level named in the order comes first: syrup minus control
  d <- ask(study, "Does the honey yield differ between syrup and control?")
  means <- tapply(raw$honey_yield_kg, raw$arm, mean, na.rm = TRUE)
  expect_equal(value_of(d, "estimate"), means[["syrup"]] - means[["control"]], tolerance = 1e-12)
  expect_retraces(d)
})

test_that("a codebook can be edited and given back", {
  b <- codebook(hive_study())
  b$label[b$column == "honey_yield_kg"] <- "Harvest"
  study <- amend(hive_study(), codebook = b)
  expect_equal(codebook(study)$label[b$column == "honey_yield_kg"], "Harvest")
  expect_equal(value_of(ask(study, "mean harvest"), "n"), 177)
})

test_that("wrong amendments are refused with what would be right", {
  study <- hive_study()
  expect_error(amend(study, armm = list(kind = "category")), class = "upbeatquill_error_column_unknown")
  expect_error(amend(study, arm = list(kind = "banana")), class = "upbeatquill_error_bad_amendment")
  expect_error(amend(study, arm = list(colour = "red")), class = "upbeatquill_error_bad_amendment")
  expect_error(amend(study, arm = list(kind = "number")), class = "upbeatquill_error_bad_amendment")
  expect_error(amend(study), class = "upbeatquill_error_input")
})
