# One level against all the others, where the outcome is a level itself.

test_that("a share among one level is set against that among all others, and retraces", {
  rows <- with_seed(5, data.frame(contract = sample(c("permanent", "fixed-term", "agency"), 300, TRUE), left_company = sample(c("Yes", "No"), 300,
      TRUE)))
  a <- ask(open_study(rows), "is leaving more common among agency staff")
  own <- suppressWarnings(stats::chisq.test(table(rows$left_company, rows$contract == "agency"), correct = FALSE))
  expect_equal(reading(a)$by, "contract_agency")
  expect_equal(value_of(a, "p_value"), own$p.value, tolerance = 1e-6)
  expect_match(paste(unlist(reading(a)$assumed), collapse = " "), "\"agency\" against all others")
  expect_retraces(a)
})

test_that("numbers of one level are set against everyone else's, whatever else narrows the rows", {
  rows <- with_seed(6, data.frame(position = sample(c("defender", "forward", "goalkeeper"), 200, TRUE),
                                  session = sample(c("match", "training", "recovery"), 200, TRUE), distance = rnorm(200, 6000, 500)))
  a <- ask(open_study(rows), "compare goalkeepers with everyone else on distance in training only")
  expect_equal(method_of(a), "contrast")
  expect_equal(filters_of(a), "session == training")
  own <- tapply(rows$distance[rows$session == "training"], rows$position[rows$session == "training"], mean)
  expect_equal(abs(value_of(a, "estimate")), abs(own[["goalkeeper"]] - mean(own[c("defender", "forward")])), tolerance = 1e-9)
})
