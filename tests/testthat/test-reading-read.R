# question -> task, outcome, by, predictors on the demo trial
asked <- list(
  list("What is in this data?", "overview"),
  list("mean honey yield", "describe", "honey_yield_kg"),
  list("Describe the queen age", "describe", "queen_age_months"),
  list("average honey yield by region", "describe", "honey_yield_kg", "region"),
  list("How many hives are there in each arm?", "frequency", "arm"),
  list("How is the honey yield distributed?", "distribution", "honey_yield_kg"),
  list("Does the honey yield differ between syrup and control?", "compare", "honey_yield_kg", "arm"),
  list("compare queen age between hives that swarmed and those that did not", "compare", "queen_age_months", "swarmed"),
  list("Is queen age correlated with honey yield?", "relate", c("queen_age_months", "honey_yield_kg")),
  list("Is winter survival associated with the arm?", "relate", c("survived_winter", "arm")),
  list("Predict honey yield from strength before and queen age", "predict", "honey_yield_kg", NULL, c("strength_before", "queen_age_months")),
  list("regress honey yield on mites before", "predict", "honey_yield_kg", NULL, "mites_before"))

test_that("each kind of question is read for what it asks", {
  study <- hive_study()
  for (q in asked) {
    r <- reading(ask(study, q[[1]]))
    expect_equal(r$task, q[[2]], info = q[[1]])
    if (length(q) == 3 && q[[2]] == "relate") { expect_setequal(c(r$outcome, r$by, r$predictors), q[[3]]); next }
    if (length(q) >= 3) expect_setequal(c(r$outcome, if (q[[2]] == "frequency") r$by), q[[3]])
    if (length(q) >= 4 && !is.null(q[[4]])) expect_equal(r$by, q[[4]], info = q[[1]])
    if (length(q) >= 5) expect_setequal(r$predictors, q[[5]])
  }
})

test_that("every answer says how it was read, with a confidence", {
  study <- hive_study()
  for (q in asked) {
    r <- as.list(ask(study, q[[1]]))$reading
    expect_true(nzchar(r$plain) && r$confidence > 0 && r$confidence <= 1, info = q[[1]])
  }
})

test_that("the same question gives the same document, every time", {
  one <- as.list(ask(hive_study(), "Does the honey yield differ between syrup and control?"))
  two <- as.list(ask(hive_study(), "Does the honey yield differ between syrup and control?"))
  expect_identical(one, two)
})

test_that("junk, code, control characters and floods end in a civil refusal", {
  study <- hive_study()
  stop_file <- file.path(withr::local_tempdir(), "made")
  bad <- c("", "   ", "????", "asdkjh qwoeiu zmxncb", sprintf("file.create('%s')", stop_file), "'); DROP TABLE hives; --", "\u0001\u0007\u202e",
           strrep("honey ", 20000), "`; system('ls')`", "\\x00 %s %n {x} {{stop()}}")
  for (q in bad) {
    took <- system.time(a <- ask(study, q))[["elapsed"]]
    expect_true(status_of(a) %in% c("cannot_answer", "needs_choice"), info = substr(q, 1, 200))
    expect_lt(took, 1)
    expect_true(nzchar(as.list(a)$sentences$headline))
  }
  expect_false(file.exists(stop_file))
})

test_that("bytes that are no UTF-8 do not break the reading", {
  a <- suppressWarnings(ask(hive_study(), "mean honey yield \xff\xfe"))
  expect_true(status_of(a) %in% c("answered", "cannot_answer"))
})

test_that("everyday turns of phrase are read for what they ask", {
  trial <- demo_study("hive_trial.csv", "apiaries.csv")
  cases <- list(
    list("did the syrup hives make more honey than the control hives", "t_welch", "honey_yield_kg"),
    list("how many hives survived the winter in each arm", "crosstab", "survived_winter"),
    list("does queen age matter for honey?", "pearson", "honey_yield_kg"),
    list("compare strength before and after", "t_paired", c("strength_before", "strength_after")),
    list("average honey yield for hives older than 12 months", "descriptives", "honey_yield_kg"),
    list("who are the top 3 keepers by honey", "rank_table", "honey_yield_kg"),
    list("number of hives with more than 20 mites before", "frequency_table", character()))
  for (case in cases) {
    a <- ask(trial, case[[1]])
    expect_equal(method_of(a), case[[2]], info = case[[1]])
    expect_setequal(reading(a)$outcome, case[[3]])
  }
})

test_that("a key names its row, a word of several levels all of them, a month its year where there is one", {
  a <- ask(hive_study(), "what is the mites after of hive H018?")
  expect_equal(filters_of(a), "hive_id == H018")
  d <- data.frame(age = 31:60, status = rep(c("alive", "died of mites", "died of cold"), 10))
  expect_equal(value_of(ask(open_study(d), "mean age of those who died"), "estimate"), mean(d$age[d$status != "alive"]))
  expect_equal(value_of(ask(open_study(d), "mean age of those who died from cold"), "estimate"), mean(d$age[d$status == "died of cold"]))
  days <- data.frame(day = format(as.Date("2023-05-01") + 0:99), y = (0:99) / 2)
  expect_equal(filters_of(ask(open_study(days), "mean y in june")), "day between 2023-06-01|2023-06-30")
  expect_equal(status_of(ask(demo_study("hive_weights.csv"), "mean weight in june")), "needs_choice")
})

test_that("one side named against the rest, values to compare with, rows to be shown, shares in combinations", {
  s <- hive_study()
  expect_equal(method_of(ask(s, "is honey yield higher than 20 kg on average in syrup hives?")), "t_one_sample")
  expect_equal(filters_of(ask(s, "is honey yield higher than 20 kg on average in syrup hives?")), "arm == syrup")
  expect_equal(reading(ask(s, "hives with more than 20 mites after"))$task, "look_up")
  a <- ask(s, "share surviving winter by arm and region")
  expect_equal(method_of(a), "share_by_group")
  d <- as.data.frame(s)
  t <- table_of(a, "shares")
  expect_equal(sum(t$count), sum(as.character(d$survived_winter) %in% c("yes", "1", "TRUE")))
  expect_retraces(a)
  b <- ask(s, "average honey yield of hives that did not survive")
  expect_equal(method_of(b), "descriptives")
  expect_equal(filters_of(b), "survived_winter == no")
  expect_equal(reading(ask(s, "how much more honey do syrup hives give?"))$by, "arm")
})
