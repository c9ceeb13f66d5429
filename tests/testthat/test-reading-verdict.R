test_that("a column that is not there is never replaced by another", {
  study <- hive_study()
  for (q in c("mean wing length by arm", "Does the rainfall differ between syrup and control?", "correlation of honey yield and income",
    "predict honey yield from moonlight")) {
    a <- ask(study, q)
    expect_equal(status_of(a), "cannot_answer", info = q)
    expect_match(as.list(a)$sentences$headline, "Nothing in this data is called", info = q)
    expect_null(as.list(a)$method)
    expect_gt(length(as.list(a)[["next"]]), 0)
  }
})

test_that("the questions offered instead can be answered", {
  study <- hive_study()
  offered <- unlist(as.list(ask(study, "mean wing length by arm"))[["next"]])
  for (q in offered) expect_equal(status_of(ask(study, q)), "answered", info = q)
})

test_that("a number that fits nowhere is asked about, not passed over", {
  a <- ask(demo_study("keeper_survey.csv"), "mean satisfaction in 2019")
  expect_equal(status_of(a), "needs_choice")
  expect_match(as.list(a)$sentences$headline, "2019", fixed = TRUE)
})

test_that("a missing part is asked for with readings that can be chosen", {
  a <- ask(hive_study(), "Is there a difference between syrup and control?")
  expect_equal(status_of(a), "needs_choice")
  expect_gte(length(reading(a)$alternatives), 2)
  chosen <- ask(a, "1")
  expect_equal(status_of(chosen), "answered")
})

test_that("a single letter where a column is named is not passed over", {
  expect_equal(status_of(ask(open_study(data.frame(x = c(1.5, 2, 7, 4))), "x by y")), "cannot_answer")
})

test_that("a period to be left out is never turned into the period kept", {
  w <- demo_study("hive_weights.csv")
  expect_equal(status_of(ask(w, "mean weight per month in 2024, without june 2024")), "needs_choice")
})

test_that("several outcomes by group are each counted again by the script", {
  a <- ask(hive_study(), "mean honey yield and mites after by arm")
  expect_gt(length(as.list(a)$tables), 1)
  expect_retraces(a)
})

test_that("what is asked about and not there is never passed over", {
  k <- open_study(call_data())
  expect_equal(status_of(ask(k, "how many pupils had no exclusions?")), "cannot_answer")
  expect_true(status_of(ask(k, "percentage of pupils with any exclusions")) %in% c("cannot_answer", "needs_choice"))
  g <- open_study(gym_data())
  # a name that is an English word abbreviates nothing
  expect_false(identical(unlist(reading(ask(g, "7 day rolling average of electricity"))$outcome), "age"))
  expect_false(status_of(ask(open_study(pressure_data()), "average mood")) == "answered")
  expect_true(status_of(ask(k, "mean birds counted by topic")) %in% c("needs_choice", "cannot_answer"))
})

test_that("groups that are not named are the one column of groups, told, or asked about", {
  a <- ask(open_study(data.frame(feed = rep(c("a", "b"), 10), weight_g = rnorm(20, 100))), "how many chicks in each group?")
  expect_equal(unlist(reading(a)$outcome), "feed")
  expect_match(paste(reading(a)$assumed, collapse = " "), "Took feed as the groups")
  b <- ask(open_study(call_data()), "how many calls in each group?")
  expect_equal(status_of(b), "needs_choice")
})

test_that("a condition on a word that fits two columns is asked about, and an effect that may differ on a side is an interaction", {
  a <- ask(hive_study(), "what share of hives with more than 10 mites survived?")
  expect_equal(status_of(a), "needs_choice")
  expect_match(as.list(a)$sentences$headline, "mites_before.*mites_after")
  b <- ask(a, 2)
  expect_equal(filters_of(b), "mites_after > 10")
  c <- ask(hive_study(), "is the effect of syrup on yield different in the south?")
  expect_equal(unlist(reading(c)$predictors), c("arm", "region"))
  expect_length(reading(c)$filters, 0)
})

test_that("a clause about when or how often people did it is not passed over", {
  rows <- with_seed(4, data.frame(booking = sprintf("B%03d", 1:80), guests = sample(1:4, 80, TRUE), lead_days = sample(0:90, 80, TRUE),
                                  cancelled = sample(c("no", "yes"), 80, TRUE)))
  s <- open_study(rows)
  for (question in c("do guests who book early cancel more", "do guests who arrive late cancel more often")) {
    expect_equal(status_of(ask(s, question)), "cannot_answer", info = question)
  }
  expect_equal(value_of(ask(s, "average lead_days of those who cancel"), "estimate"), mean(rows$lead_days[rows$cancelled == "yes"]), tolerance = 1e-12)
})
