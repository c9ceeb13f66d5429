lab_results <- function() {
  d <- expand.grid(test = c("ALT", "Creatinine", "HbA1c"), day = c(0, 14, 90), patient_id = 101:140)
  person <- with_seed(31, data.frame(patient_id = 101:140, sex = sample(c("F", "M"), 40, TRUE), age = sample(25:80, 40, TRUE)))
  d <- merge(d, person)
  middle <- c(ALT = 28, Creatinine = 0.9, HbA1c = 6)[as.character(d$test)]; size <- c(ALT = 9, Creatinine = 0.2, HbA1c = 0.8)[as.character(d$test)]
  d$result <- round(with_seed(32, rnorm(nrow(d), middle, size)), 2)
  d$ref_high <- c(ALT = 40, Creatinine = 1.2, HbA1c = 6.2)[as.character(d$test)]
  d$flag <- ifelse(d$result > d$ref_high, "high", ifelse(d$result < d$ref_high / 2, "low", "normal"))
  d$test <- as.character(d$test)
  d[order(d$patient_id, d$day, d$test), ]
}

test_that("a measure that stands in rows is asked for by its name", {
  d <- lab_results()
  s <- open_study(local_data(d))
  alt <- d[d$test == "ALT", ]; sugar <- d[d$test == "HbA1c", ]
  a <- ask(s, "mean ALT by sex")
  expect_equal(table_of(a, "groups")$mean, as.vector(tapply(alt$result, alt$sex, mean)))
  b <- ask(s, "is ALT higher in men?")
  expect_equal(value_of(b, "p_value"), t.test(result ~ sex, alt)$p.value, tolerance = 1e-10)
  c <- ask(s, "did HbA1c fall between day 0 and day 90?")
  wide <- merge(sugar[sugar$day == 0, c("patient_id", "result")], sugar[sugar$day == 90, c("patient_id", "result")], by = "patient_id")
  expect_equal(value_of(c, "p_value"), t.test(wide$result.x, wide$result.y, paired = TRUE)$p.value, tolerance = 1e-10)
  e <- ask(s, "mean ALT and HbA1c by sex")
  expect_setequal(round(table_of(e, "groups")$mean, 8), round(c(tapply(alt$result, alt$sex, mean), tapply(sugar$result, sugar$sex, mean)), 8))
  for (x in list(a, b, c, e)) expect_retraces(x)
})

test_that("two measures of the same unit and time are set beside each other", {
  d <- lab_results()
  s <- open_study(local_data(d))
  wide <- merge(d[d$test == "ALT", c("patient_id", "day", "result", "age")], d[d$test == "HbA1c", c("patient_id", "day", "result")],
                by = c("patient_id", "day"))
  a <- ask(s, "correlation of ALT and HbA1c at day 0")
  expect_equal(value_of(a, "estimate"), with(wide[wide$day == 0, ], cor(result.x, result.y)), tolerance = 1e-10)
  b <- ask(s, "does age go with creatinine?")
  creatinine <- d[d$test == "Creatinine", ]
  expect_equal(value_of(b, "estimate"), cor(creatinine$age, creatinine$result), tolerance = 1e-10)
  for (x in list(a, b)) expect_retraces(x)
})

test_that("what another column says of each value is counted and shared", {
  d <- lab_results()
  s <- open_study(local_data(d))
  expect_equal(value_of(ask(s, "how many results are high"), "n"), sum(d$flag == "high"))
  a <- ask(s, "share of abnormal results")
  expect_equal(value_of(a, "estimate"), mean(d$flag != "normal"))
  b <- ask(s, "proportion of patients with any high result")
  expect_equal(value_of(b, "estimate"), mean(tapply(d$flag == "high", d$patient_id, any)))
  c <- ask(s, "did the share of high HbA1c fall between day 0 and day 90?")
  sugar <- d[d$test == "HbA1c" & d$day %in% c(0, 90), ]
  changed <- tapply(sugar$flag == "high", list(sugar$patient_id, sugar$day), identity)
  expect_equal(value_of(c, "estimate"), mean(changed[, 1]) - mean(changed[, 2]), tolerance = 1e-10)
  for (x in list(a, b, c)) expect_retraces(x)
})

test_that("a column called test beside no values of it is left alone", {
  s <- open_study(local_data(data.frame(test = rep(c("maths", "reading"), 20), hours = 1:40 / 4, passed = rep(c("yes", "no", "no", "yes"), 10))))
  expect_equal(reading(ask(s, "hours by test"))$by, "test")
})
