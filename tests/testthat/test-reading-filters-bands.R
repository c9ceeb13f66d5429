# Bounds on bands: 50-64 and 65+ say nothing of who is over 60.

keepers <- function() open_study(demo_file("keeper_survey.csv"))
keeper_rows <- function() utils::read.csv(demo_file("keeper_survey.csv"))

test_that("a bound between two bands leaves the whole bands beyond it", {
  own <- keeper_rows()
  old <- own$age_band == "65+"
  for (q in c("how many keepers are over 64", "how many keepers are over 65", "how many keepers have an age band of at least 65")) {
    expect_equal(value_of(ask(keepers(), q), "estimate"), sum(old), info = q)
  }
  a <- ask(keepers(), "mean hives owned of keepers over 65")
  expect_equal(filters_of(a), "age_band == 65+")
  expect_equal(value_of(a, "estimate"), mean(own$hives_owned[old], na.rm = TRUE), tolerance = 1e-12)
  expect_match(paste(unlist(reading(a)$assumed), collapse = " "), "over 65.*bands.*65\\+")
  expect_equal(filters_of(ask(keepers(), "mean hives owned where age band is under 50")), "age_band in 18-34|35-49")
  expect_equal(filters_of(ask(ask(keepers(), "mean hives owned by region"), "only those under 35")), "age_band == 18-34")
})

test_that("a bound that cuts a band is asked about, with that band and without it", {
  own <- keeper_rows()
  for (a in list(ask(keepers(), "how many keepers are over 60"), ask(ask(keepers(), "how many keepers are there"), "only those over 60"))) {
    expect_equal(a$status, "needs_choice")
    expect_match(as.list(a)$sentences$headline, "cuts .50-64.")
  }
  a <- ask(keepers(), "how many keepers are over 60")
  expect_equal(value_of(ask(a, "1"), "estimate"), sum(own$age_band == "65+"))
  expect_equal(value_of(ask(a, "2"), "estimate"), sum(own$age_band %in% c("50-64", "65+")))
  expect_equal(ask(keepers(), "how many keepers are under 30")$status, "needs_choice")
})

test_that("the share of rows beyond a bound on bands is compared between groups", {
  own <- keeper_rows()
  own <- own[own$age_band != "" & own$region != "", ]
  a <- ask(keepers(), "does the proportion of keepers over 64 differ by region")
  expect_equal(method_of(a), "share_by_group")
  second <- suppressWarnings(stats::chisq.test(table(own$age_band == "65+", own$region), correct = FALSE))
  expect_equal(value_of(a, "p_value"), second$p.value, tolerance = 1e-10)
  expect_equal(ask(keepers(), "does the proportion of keepers over 60 differ by region")$status, "needs_choice")
})

test_that("a last band that is open counts beyond a bound, and steps of a scale stay numbers", {
  rows <- with_seed(3, data.frame(respondent = 1:80, y = rnorm(80), visits = sample(c("0", "1", "2", "3", "4+"), 80, TRUE),
                                  rating = sample(1:5, 80, TRUE)))
  s <- open_study(rows)
  expect_equal(value_of(ask(s, "mean y where visits is at least 3"), "estimate"), mean(rows$y[rows$visits %in% c("3", "4+")]), tolerance = 1e-12)
  expect_equal(value_of(ask(s, "mean y where rating is at least 4"), "estimate"), mean(rows$y[rows$rating >= 4]), tolerance = 1e-12)
})

test_that("a bound behind the name of another column is no bound on ages", {
  own <- keeper_rows()
  a <- ask(keepers(), "how many keepers with an overall satisfaction below 5")
  expect_equal(filters_of(a), "satisfaction < 5")
  a <- ask(keepers(), "mean hives owned of keepers with years keeping over 65")
  expect_false(any(grepl("age_band", filters_of(a))))
})
