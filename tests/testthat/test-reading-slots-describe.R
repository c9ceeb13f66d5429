# What is counted: rows, units, answers, levels of a scale, shares of a named level.

test_that("a unit with several rows counts once", {
  s <- open_study(stress_data())
  a <- ask(s, "how many subjects are there?")
  expect_equal(value_of(a, "estimate"), 30)
  expect_match(paste(reading(a)$assumed, collapse = " "), "Each different value of Subject counts once")
  d <- stress_data()
  b <- table_of(ask(s, "how many subjects in each group?"), "groups")
  expect_equal(b$distinct, as.vector(tapply(d$Subject, d$Group, function(v) length(unique(v)))))
  # rows are still counted where rows are asked for
  expect_equal(value_of(ask(s, "how many rows are there?"), "n"), 120)
})

test_that("changes over occasions are compared within units", {
  s <- open_study(stress_data())
  a <- ask(s, "does stress change over sessions?")
  expect_equal(method_of(a), "anova_repeated")
  expect_equal(reading(a)$unit, "Subject")
  b <- ask(s, "is the change in stress different between the groups?")
  expect_equal(method_of(b), "anova_mixed")
  expect_equal(unlist(reading(b)$by), c("Session", "Group"))
  expect_retraces(b)
})

test_that("several answers in a cell are counted each by itself", {
  d <- city_data(); s <- open_study(d)
  a <- ask(s, "transport used")
  expect_equal(method_of(a), "answer_counts")
  t <- table_of(a, "counts")
  expect_equal(t$n[t$transport_used == "bus"], sum(grepl("bus", d$transport_used)))
  expect_equal(value_of(a, "answers"), sum(lengths(strsplit(d$transport_used, ";"))))
  expect_retraces(a)
  b <- ask(s, "transport used by district")
  u <- table_of(b, "counts")
  north <- d$district == "North"
  expect_equal(u$percent[u$district == "North" & u$transport_used == "bike"], 100 * mean(grepl("bike", d$transport_used[north])))
  expect_retraces(b)
})

test_that("one answer of several can be asked for, and divides like any yes/no column", {
  d <- city_data(); s <- open_study(d)
  a <- ask(s, "how many use the bus?")
  expect_equal(table_of(a, "counts")$n[table_of(a, "counts")$transport_used_bus == "yes"], sum(grepl("bus", d$transport_used)))
  b <- ask(s, "does satisfaction differ between those with and without the bus?")
  expect_true(status_of(b) %in% c("answered", "needs_choice"))
  c <- ask(s, "share using a bike by district")
  expect_equal(unlist(reading(c)$outcome), "transport_used_bike")
  expect_retraces(c)
})

test_that("agreeing and disagreeing are sides of a scale, and told", {
  d <- city_data(); s <- open_study(d)
  a <- ask(s, "share agreeing that they feel safe by district")
  expect_equal(value_of(a, "estimate"), mean(d$feel_safe %in% c("Agree", "Strongly agree")))
  expect_match(paste(reading(a)$assumed, collapse = " "), "Agree.*Strongly agree")
  b <- ask(s, "percentage who disagree that parks are good")
  expect_equal(value_of(b, "estimate"), mean(d$parks_good %in% c("Disagree", "Strongly disagree")))
  # agreement of raters is something else
  expect_equal(reading(ask(s, "reliability of the three statements"))$task, "agreement")
})

test_that("a share of a named level is taken within each group", {
  d <- city_data(); s <- open_study(d)
  for (q in c("failure rate by district", "share with passed fail by district", "percentage failed by district")) {
    a <- ask(s, q)
    expect_equal(value_of(a, "estimate"), mean(d$passed == "fail"), info = q)
    t <- table_of(a, "shares")
    expect_equal(t$share, as.vector(tapply(d$passed == "fail", d$district, mean)), info = q)
  }
  b <- ask(s, "percentage passed by district and housing")
  expect_equal(value_of(b, "estimate"), mean(d$passed == "pass"))
  expect_retraces(b)
})

test_that("people are named by what they do, whole levels by all their words, a number of things by its column", {
  d <- city_data(); s <- open_study(d)
  expect_equal(unlist(reading(ask(s, "do voters have higher incomes?"))$by), "voted")
  expect_setequal(unlist(reading(ask(s, "do renters feel less safe than owners?"))$filters[[1]]$value), c("rent", "own"))
  expect_equal(filters_of(ask(s, "satisfaction of people with children")), "children > 0")
  expect_equal(unlist(reading(ask(s, "satisfaction by number of children"))$by), "children")
  m <- open_study(stress_data())
  a <- ask(m, "share with good or very good mood by group")
  expect_equal(value_of(a, "estimate"), mean(stress_data()$Mood %in% c("good", "very good")))
})

test_that("an empty text is missing, quoted or not", {
  file <- local_csv(c("id,city", "1,\"\"", "2,Leeds", "3,", "4,Cork"))
  s <- open_study(file)
  expect_equal(sum(is.na(as.data.frame(s)$city)), 2)
  f <- open_study(data.frame(city = c("", "Leeds", NA, "Cork"), x = 1:4))
  expect_equal(sum(is.na(as.data.frame(f)$city)), 2)
  expect_retraces(ask(f, "count the rows by city"))
})

test_that("a mean asked of answers on a scale is given, with the scores of the levels said", {
  d <- trust_data()
  s <- open_study(d)
  expect_equal(value_of(ask(s, "mean trust in science"), "estimate"), mean(d$trust_science), tolerance = 1e-10)
  expect_equal(value_of(ask(s, "median trust in the media"), "estimate"), median(d$trust_media))
  a <- ask(s, "mean enjoyed")
  expect_equal(value_of(a, "estimate"), mean(as.integer(d$enjoyed)), tolerance = 1e-10)
  expect_match(paste(unlist(reading(a)$assumed), collapse = " "), "scored 1 (Disagree) to 3 (Agree)", fixed = TRUE)
  expect_retraces(a)
})

test_that("conditions joined by but and and are all conditions", {
  d <- trust_data()
  s <- open_study(d)
  expect_equal(value_of(ask(s, "how many people use twitter but not tiktok?"), "n"), sum(d$uses_twitter == "Yes" & d$uses_tiktok == "No"))
  expect_setequal(filters_of(ask(s, "trust in media among non-voters")), "voted != Yes")
  expect_equal(status_of(ask(s, "trust in media among non-members")), "cannot_answer")
  expect_equal(reading(ask(s, "sample size by gender"))$task, "frequency")
})

test_that("whom a share is of stands before the verb", {
  d <- ward_data()
  s <- open_study(d)
  a <- ask(s, "what share of Surgery patients were readmitted?")
  expect_equal(value_of(a, "estimate"), mean(d$readmitted_30d[d$ward == "Surgery"] == "yes"), tolerance = 1e-10)
  b <- ask(s, "mortality by ward")
  expect_equal(sort(table_of(b, "shares")$share %||% numbers(b)$value)[1], min(tapply(d$discharge_to == "died", d$ward, mean)), tolerance = 1e-9)
  expect_equal(status_of(ask(s, "30-day readmission rate by ward")), "answered")
  c <- ask(s, "do diabetics stay longer?")
  expect_equal(value_of(c, "p_value"), t.test(los_days ~ diabetes, d)$p.value, tolerance = 1e-9)
  e <- ask(s, "bmi categories")
  expect_equal(sort(as.integer(unlist(table_of(e, "counts")$n %||% table_of(e, "counts")$count))), sort(as.integer(table(cut(d$bmi, c(-Inf, 18.5,
      25, 30, Inf), right = FALSE)))))
})

test_that("what stands before among is the event, what stands behind it the rows; levels set side by side divide", {
  d <- with_seed(31, data.frame(smoker = sample(c("yes", "no"), 200, TRUE, c(0.4, 0.6)), hypertension = sample(c("yes", "no"), 200, TRUE, c(0.2,
      0.8)),
                                sex = sample(c("Male", "Female"), 200, TRUE), hand = sample(c("Left", "Right"), 200, TRUE, c(0.2, 0.8))))
  s <- open_study(d)
  for (q in c("proportion with hypertension among smokers", "share with hypertension among smokers")) {
    expect_equal(value_of(ask(s, q), "estimate"), mean(d$hypertension[d$smoker == "yes"] == "yes"), tolerance = 1e-12, info = q)
  }
  expect_equal(value_of(ask(s, "proportion with hypertension among non-smokers"), "estimate"), mean(d$hypertension[d$smoker == "no"] == "yes"),
      tolerance = 1e-12)
  a <- ask(s, "proportion of left handers among men and women")
  shares <- table_of(a, "shares")
  expect_equal(shares$share[match(c("Female", "Male"), shares$group)], as.vector(tapply(d$hand == "Left", d$sex, mean)), tolerance = 1e-12)
  expect_equal(value_of(ask(s, "proportion of left handers among men or women"), "estimate"), mean(d$hand == "Left"), tolerance = 1e-12)
})

test_that("a share of nothing that is named is asked about, never the number of all rows", {
  rows <- with_seed(3, data.frame(donor = sprintf("D%03d", 1:90), region = sample(c("North", "South", "West"), 90, TRUE), opted_out = sample(c("Y", "N"), 90, TRUE),
                                  amount = round(rgamma(90, 2), 2)))
  s <- open_study(local_data(rows))
  for (q in c("proportion of donors who increased their giving", "percentage of donors lost per region")) expect_equal(status_of(ask(s, q)), "needs_choice", info = q)
})

test_that("of two bounds on numbers, what stands before 'among' is the share and what stands after it the rows", {
  d <- with_seed(7, data.frame(spend = round(rexp(200, 0.02), 1), visits = rpois(200, 3)))
  s <- open_study(local_data(d))
  first <- mean(d$spend[d$visits > 2] > 60)
  for (question in c("percentage with spend over 60 among those with visits over 2", "share with spend above 60 out of those with visits above 2",
                     "among those with visits over 2, what share has spend over 60?")) {
    expect_equal(value_of(ask(s, question), "estimate"), first, tolerance = 1e-12)
  }
})
