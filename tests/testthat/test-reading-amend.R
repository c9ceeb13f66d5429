last_change <- function(study) utils::tail(study$amendments, 1)[[1]]

test_that("sentences about missing codes reach every column that holds the code", {
  s <- open_study(data.frame(a = c(1, 2, 999, 3), b = c(999, 5, 6, 7), c = c("x", "refused", "y", "x")))
  s <- amend(s, "treat 999 as missing everywhere", "refused means missing in c")
  d <- as.data.frame(s)
  expect_equal(is.na(d$a), c(FALSE, FALSE, TRUE, FALSE))
  expect_equal(is.na(d$b), c(TRUE, FALSE, FALSE, FALSE))
  expect_equal(is.na(d$c), c(FALSE, TRUE, FALSE, FALSE))
})

test_that("sentences about rows, levels, kinds and names do as they say", {
  s <- hive_study()
  n <- function(...) nrow(as.data.frame(amend(s, ...)))
  d <- as.data.frame(s)
  expect_equal(n("leave out hive H017"), nrow(d) - sum(d$hive_id == "H017"))
  expect_equal(n("keep only the control arm"), sum(d$arm == "control"))
  expect_equal(n("exclude rows where honey yield is over 30"), sum(!(d$honey_yield_kg > 30 & !is.na(d$honey_yield_kg))))
  expect_equal(n("drop rows where honey yield is missing"), sum(!is.na(d$honey_yield_kg)))
  merged <- amend(s, "merge syrup and pollen patty into fed")
  expect_setequal(levels(as.data.frame(merged)$arm), c("control", "fed"))
  expect_equal(sum(as.data.frame(merged)$arm == "fed"), sum(d$arm != "control"))
  ordered <- amend(s, "arm is ordered control < syrup < pollen patty")
  expect_equal(levels(as.data.frame(ordered)$arm), c("control", "syrup", "pollen patty"))
  expect_s3_class(as.data.frame(ordered)$arm, "ordered")
  expect_false("strength_before" %in% codebook(amend(s, "leave out the column strength before"))$column)
  expect_equal(codebook(amend(s, "unit of mites before is mites"))$unit[9], "mites")
})

test_that("an alias is understood in questions", {
  s <- amend(hive_study(), "by harvest I mean honey yield")
  a <- ask(s, "mean harvest by arm")
  expect_equal(unlist(reading(a)$outcome), "honey_yield_kg")
})

test_that("declarations in words", {
  s <- amend(hive_study(), "arm is the treatment", "the trial is randomised", "control is the control group", "hive_id is the unit")
  expect_equal(s$design[c("treatment", "randomised", "control", "unit")],
               list(treatment = "arm", randomised = TRUE, control = "control", unit = "hive_id"))
})

test_that("day or month first is settled in words", {
  s <- open_study(data.frame(visit = c("03/04/2024", "05/02/2024", "07/01/2024", "02/03/2024", "06/05/2024", "01/06/2024"), x = c(1.5, 2, 3, 4, 5,
    7)))
  expect_equal(codebook(s)$role[1], "undecided_date")
  expect_equal(status_of(ask(s, "trend of x over time")), "needs_choice")
  s <- amend(s, "visit is day first")
  expect_equal(as.data.frame(s)$visit[1], as.Date("2024-04-03"))
  expect_retraces(ask(s, "trend of x over time"))
})

test_that("what is not understood or not there is said, and nothing changes", {
  s <- hive_study()
  expect_error(amend(s, "wibble wobble"), class = "upbeatquill_error_bad_amendment")
  expect_error(amend(s, "leave out hive H999"), class = "upbeatquill_error_bad_amendment")
  expect_error(amend(s, "arm is ordered tea < coffee"), class = "upbeatquill_error_bad_amendment")
  expect_error(undo(s), class = "upbeatquill_error_nothing_to_undo")
  expect_error(amend(s, 3), class = "upbeatquill_error_input")
})

test_that("of several tables, the one that is named is amended; a column of several is amended in each", {
  d <- data.frame(who = sprintf("P%02d", 1:12), score = c(1.5, -77, 3:12), site = "a")
  s <- open_study(list(spring = d, autumn = d[12:1, ]))
  one <- amend(s, "leave out the column site in the table autumn")
  used <- function(s, table) !identical(s$tables[[table]]$columns$site$used, FALSE)
  expect_equal(c(used(one, "spring"), used(one, "autumn")), c(TRUE, FALSE))
  both <- amend(s, "leave out the column site")
  expect_equal(c(used(both, "spring"), used(both, "autumn")), c(FALSE, FALSE))
  # the tables that were out of sight are back
  expect_equal(names(as.list(one)$tables |> stats::setNames(c("spring", "autumn"))), c("spring", "autumn"))
  expect_error(amend(s, "leave out rows 2, 3"), "several tables")
  expect_equal(vapply(as.list(amend(s, "leave out rows 2, 3 in the table autumn"))$tables, `[[`, 1L, "rows"), c(12L, 10L))
  # one sentence, one step back
  expect_equal(length(undo(both)$amendments), 0)
})

test_that("the sentence that a finding offers settles it in its own table", {
  d <- data.frame(who = sprintf("P%02d", 1:40), same = "x", y = c(round(1.37 * 1:39, 2), 900))
  s <- open_study(list(first = d, second = d[c(1:30, 40), ]))
  said <- vapply(as.list(s)$findings, function(f) f$amendment %||% NA_character_, "")
  expect_true("leave out the column same in the table second" %in% said)
  for (sentence in said[!is.na(said)]) expect_s3_class(amend(s, sentence), "upbeatquill_study")
})

test_that("levels are renamed, ordered and columns scaled in plain sentences", {
  s <- hive_study()
  rows <- read.csv(demo_file())
  for (text in c("recode arm: syrup to sugar", "rename syrup to sugar", "call syrup sugar", "in arm, relabel syrup as sugar")) {
    t <- table(as.data.frame(amend(s, text))$arm)
    expect_equal(t[["sugar"]], sum(rows$arm == "syrup"), info = text)
    expect_false("syrup" %in% names(t))
  }
  for (text in c("make region ordered: coast, south, north", "sort levels of region: coast, south, north", "order region: coast, south, north")) {
    expect_equal(levels(as.data.frame(amend(s, text))$region), c("coast", "south", "north"), info = text)
  }
  d <- as.data.frame(amend(s, "add age in years as queen_age_months / 12"))
  expect_equal(d$age_in_years, rows$queen_age_months / 12)
  expect_equal(as.data.frame(amend(s, "add pounds as honey_yield_kg times 2.2"))$pounds, rows$honey_yield_kg * 2.2)
  expect_equal(as.list(amend(s, "hive_id identifies the hives"))$design$unit, "hive_id")
})

test_that("an amendment put as a question is told apart, and questions stay questions", {
  s <- hive_study()
  for (text in c("leave out hive H017", "treat -99 as missing", "merge pollen patty and syrup into fed", "by yield I mean honey_yield_kg",
                 "arm was randomised", "honey_yield_kg is in pounds", "keep only the north")) {
    a <- ask(s, text)
    expect_equal(status_of(a), "needs_choice", info = text)
    expect_match(as.list(a)$sentences$headline, "amend(study", fixed = TRUE, info = text)
  }
  for (text in c("is mites before a number?", "mean honey yield", "honey yield without the north", "which hives are in the north",
                 "does honey yield differ by arm")) {
    expect_no_match(as.list(ask(s, text))$sentences$headline %||% "", "amend(study", fixed = TRUE)
  }
  # after an answer the same words edit it
  b <- ask(ask(s, "mean honey yield by arm"), "leave out hive H017")
  expect_equal(filters_of(b), "hive_id != H017")
})

test_that("columns get another name, everyday names and answers turned round, in plain words", {
  t <- hive_study(); k <- demo_study("keeper_survey.csv")
  renamed <- amend(t, "rename arm to feed")
  expect_equal(Find(function(col) col$name == "arm", as.list(renamed)$tables[[1]]$columns)$label, "feed")
  a <- ask(renamed, "honey yield by feed")
  expect_equal(unlist(as.list(a)$reading$by), "arm")
  expect_equal(unlist(as.list(ask(amend(t, "the crop means honey_yield_kg"), "mean crop"))$reading$outcome), "honey_yield_kg")
  # a level keeps being renamed as a level
  expect_true("sugar" %in% unlist(lapply(as.list(amend(t, "rename syrup to sugar"))$tables[[1]]$columns, `[[`, "levels")))
  turned <- amend(k, "reverse website_easy")
  raw <- as.data.frame(k)$website_easy
  number <- if (is.factor(raw)) as.numeric(as.character(raw)) else as.numeric(raw)
  expect_equal(as.data.frame(turned)$website_easy_reversed, 6 - number)
  m <- ask(turned, "mean of website_easy_reversed")
  expect_equal(value_of(m, "estimate"), mean(6 - number, na.rm = TRUE), tolerance = 1e-12)
  expect_retraces(m)
})

test_that("new columns and scores are named as they are said", {
  t <- hive_study(); k <- demo_study("keeper_survey.csv")
  gain <- amend(t, "add a column gain as strength_after minus strength_before")
  rows <- as.data.frame(gain)
  expect_equal(rows$gain, rows$strength_after - rows$strength_before)
  expect_true("gain" %in% names(as.data.frame(amend(t, "create a new variable called gain = strength_after - strength_before"))))
  score <- amend(k, "average the six items into a score called support")
  items <- c("advice_helpful", "feed_affordable", "training_clear", "inspections_fair", "community_support", "website_easy")
  x <- vapply(as.data.frame(k)[items], function(v) as.numeric(as.character(v)), numeric(240))
  expect_equal(as.data.frame(score)$support, rowMeans(x), tolerance = 1e-12)
  expect_retraces(ask(score, "support by region"))
  expect_error(amend(t, "average the items into a score"), class = "upbeatquill_error_bad_amendment")
})

test_that("treatment, randomisation and control are declared in one sentence", {
  d <- as.list(amend(hive_study(), "the treatment is arm, randomised, control is control"))$design
  expect_equal(d$treatment, "arm"); expect_true(d$randomised); expect_equal(d$control, "control")
  not <- as.list(amend(hive_study(), "the treatment is arm, not randomised"))$design
  expect_false(not$randomised)
})

test_that("what codes mean is said in a sentence", {
  s <- open_study(data.frame(sex = rep(1:2, 20), y = sqrt(1:40)))
  said <- c("sex 1 is male and 2 is female", "in sex, 1 means male and 2 means female", "sex: 1 = male, 2 = female",
            "label 1 as male and 2 as female in sex", "the codes of sex are 1 = male and 2 = female")
  for (w in said) expect_identical(codebook(amend(s, w))$levels[1], "1=male|2=female")
  a <- ask(amend(s, said[1]), "mean y of women")
  expect_equal(value_of(a, "estimate"), mean(sqrt(seq(2, 40, 2))))
  expect_retraces(a)
})

test_that("logarithms to other bases and square roots are derived in words, and retrace", {
  d <- data.frame(g = rep(c("a", "b"), 15), y = c(0, 1:29)^2)
  s <- amend(open_study(local_data(d)), "add root as square root of y")
  s <- amend(s, "add tens as log10 of y")
  own <- as.data.frame(s)
  expect_equal(own$root, sqrt(d$y))
  expect_equal(own$tens, ifelse(d$y > 0, log10(d$y), NA))
  a <- ask(s, "compare root between the groups of g")
  expect_equal(value_of(a, "p_value"), t.test(sqrt(y) ~ g, d)$p.value)
  expect_retraces(a)
})
