# Rows that lack a category, sides that are faster, prices per something, people named by what they do.

run_rows <- function(n = 240) with_seed(61, {
  out <- data.frame(bib = seq_len(n), sex = sample(c("F", "M"), n, TRUE), age = sample(20:65, n, TRUE),
                    club = sample(c("Harriers", "Striders", NA), n, TRUE), shoes = sample(c("carbon", "standard"), n, TRUE))
  out$finish_time <- round(200 + 0.7 * out$age - 8 * (out$shoes == "carbon") + rnorm(n, 0, 20), 1)
  out
})

test_that("rows without a category are those in which it is missing", {
  rows <- run_rows(); s <- open_study(local_data(rows))
  none <- is.na(rows$club)
  expect_equal(value_of(ask(s, "how many runners have no club"), "n"), sum(none))
  expect_equal(value_of(ask(s, "average finish_time of runners without a club"), "estimate"), mean(rows$finish_time[none]), tolerance = 1e-12)
  expect_equal(nrow(table_of(ask(s, "runners without a club"), "rows")), sum(none))
  a <- ask(s, "compare finish_time between those with and without a club")
  expect_equal(value_of(a, "p_value"), t.test(rows$finish_time ~ none)$p.value, tolerance = 1e-10)
  # where a level says that there is none, it is that level
  rows$club[none] <- "none"
  b <- ask(open_study(local_data(rows)), "average finish_time of runners without a club")
  if (status_of(b) == "answered") expect_false(any(grepl("_missing", unlist(filters_of(b)))))
})

test_that("how much faster a side is with something held constant is its effect on the time", {
  rows <- run_rows(); s <- open_study(local_data(rows))
  own <- coef(lm(finish_time ~ shoes + age + sex, rows))
  for (question in c("how much faster are carbon shoes after adjusting for age and sex?",
                     "effect of carbon shoes on finish_time after adjusting for age and sex")) {
    a <- ask(s, question)
    expect_equal(reading(a)$outcome, "finish_time")
    terms <- table_of(a, "coefficients")
    expect_equal(abs(terms$estimate[grep("shoes", terms$term)]), abs(own[["shoesstandard"]]), tolerance = 1e-8)
  }
  b <- ask(s, "how many minutes slower per year of age?")
  terms <- table_of(b, "coefficients")
  expect_equal(terms$estimate[grep("age", terms$term)], coef(lm(finish_time ~ age, rows))[["age"]], tolerance = 1e-8)
})

test_that("a cost per night is the column that holds it, and swimmers are those of swimming", {
  rows <- with_seed(3, data.frame(nights = sample(1:7, 150, TRUE), price_per_night = round(runif(150, 60, 140), 1),
                                  sport = sample(c("swimming", "running", "cycling"), 150, TRUE)))
  s <- open_study(local_data(rows))
  expect_equal(value_of(ask(s, "what is the average cost per night?"), "estimate"), mean(rows$price_per_night), tolerance = 1e-12)
  expect_equal(value_of(ask(s, "how many runners are there?"), "n"), sum(rows$sport == "running"))
  expect_equal(value_of(ask(s, "average price_per_night of swimmers"), "estimate"), mean(rows$price_per_night[rows$sport == "swimming"]),
               tolerance = 1e-12)
})
