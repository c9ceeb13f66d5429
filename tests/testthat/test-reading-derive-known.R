# What is known of rows, ends of dates, keys by the noun of the file, what is held the same.

bird_rows <- function(n = 200) with_seed(72, {
  out <- data.frame(ring = sprintf("R%04d", sample(120, n, TRUE)), date = as.character(as.Date("2023-04-01") + sample(0:400, n, TRUE)),
                    site = sample(c("Reedbed", "Copse"), n, TRUE), sex = sample(c("F", "M", "U"), n, TRUE), parasites = rpois(n, 0.8),
                    weight_g = round(rnorm(n, 11, 1), 1), fat = rpois(n, 2) + 1)
  out$fat[c(4, 9, 30)] <- NA
  out
})

test_that("known sex leaves out those of whom it is unknown", {
  rows <- bird_rows(); s <- open_study(local_data(rows, "birds.csv"))
  expect_equal(value_of(ask(s, "average weight of birds with known sex"), "estimate"), mean(rows$weight_g[rows$sex != "U"]), tolerance = 1e-12)
  expect_equal(value_of(ask(s, "prevalence of parasites"), "estimate"), mean(rows$parasites > 0), tolerance = 1e-12)
  expect_equal(nrow(table_of(ask(s, "which birds have no fat?"), "rows")), 3)
})

test_that("birds of a file of birds are told apart by their ring", {
  rows <- bird_rows(); s <- open_study(local_data(rows, "birds.csv"))
  expect_equal(as.data.frame(s)$ring, rows$ring)
  a <- table_of(ask(s, "how many different birds at each site?"), "groups")
  expect_equal(a$distinct, as.numeric(tapply(rows$ring, rows$site, function(v) length(unique(v)))))
  expect_equal(value_of(ask(s, "how many birds were caught more than once?"), "estimate"), sum(table(rows$ring) > 1))
})

test_that("the first and the last date are told, in all and by group", {
  rows <- bird_rows(); s <- open_study(local_data(rows, "birds.csv"))
  day <- as.Date(rows$date)
  for (question in c("first and last date", "what period does the data cover?", "date range")) {
    a <- ask(s, question)
    expect_equal(method_of(a), "date_range")
    expect_equal(value_of(a, "estimate"), as.numeric(diff(range(day))))
    expect_match(as.list(a)$sentences$headline, format(min(day)), fixed = TRUE)
  }
  b <- ask(s, "earliest and latest date by site")
  own <- table_of(b, "dates")
  expect_equal(own$days, as.numeric(tapply(day, rows$site, function(d) diff(range(d)))))
  expect_equal(own$first, as.character(format(as.Date(tapply(day, rows$site, min), origin = "1970-01-01"))))
  expect_retraces(b)
})

test_that("texts that somebody left are counted", {
  rows <- data.frame(id = 1:60, clinic = rep(c("A", "B", "C"), 20), score = rep(1:5, 12),
                     comment = rep(c("Waited far too long for this", "Friendly staff and clean rooms", NA, "Nobody answered the phone here"), 15))
  s <- open_study(local_data(rows))
  expect_equal(value_of(ask(s, "how many left a comment?"), "n"), sum(!is.na(rows$comment)))
  own <- table_of(ask(s, "how many people left a comment by clinic"), "counts")
  expect_equal(own$n, as.numeric(table(rows$clinic[!is.na(rows$comment)])))
})

test_that("what was made in a year is older before it, and what is the same is held constant", {
  rows <- with_seed(73, data.frame(address = sprintf("H%03d", 1:150), year_built = sample(1890:2020, 150, TRUE), garden = sample(c("Yes", "No"), 150, TRUE),
    floor_area_m2 = round(rnorm(150, 90, 20)), days_on_market = rpois(150, 40), type = sample(c("flat", "house", "villa"), 150, TRUE),
    listed = as.character(as.Date("2023-01-01") + sample(0:600, 150, TRUE))))
  rows$sale_price <- with_seed(74, round(1e5 + 2000 * rows$floor_area_m2 + 9000 * (rows$garden == "Yes") + rnorm(150, 0, 2e4)))
  s <- open_study(local_data(rows))
  a <- table_of(ask(s, "sale price of homes built before 1950 versus after"), "groups")
  expect_equal(sort(a$mean), sort(as.numeric(tapply(rows$sale_price, rows$year_built < 1950, mean))), tolerance = 1e-12)
  b <- ask(s, "effect of garden on sale price at the same floor area")
  terms <- table_of(b, "coefficients")
  expect_equal(abs(terms$estimate[grep("garden", terms$term)]), abs(unname(coef(lm(sale_price ~ garden + floor_area_m2, rows))["gardenYes"])), tolerance = 1e-8)
  d <- ask(s, "which type sells fastest?")
  expect_equal(reading(d)$outcome, "days_on_market")
  expect_equal(table_of(d, "ranking")$mean, min(tapply(rows$days_on_market, rows$type, mean)), tolerance = 1e-12)
  e <- ask(s, "sale price per square metre by type")
  own <- table_of(e, "rates")
  expect_equal(own$rate, as.numeric(tapply(rows$sale_price, rows$type, sum) / tapply(rows$floor_area_m2, rows$type, sum)), tolerance = 1e-12)
})

staff_rows <- function(n = 260) with_seed(98, {
  out <- data.frame(emp_id = 7000 + seq_len(n), department = sample(c("Ops", "Sales", "IT"), n, TRUE), grade = sample(paste("Band", 1:6), n, TRUE),
                    gender = sample(c("F", "M"), n, TRUE), start_date = as.character(as.Date("2010-01-01") + sample(0:5000, n, TRUE)),
                    overtime_hours = rpois(n, 5), appraisal = sample(c("Below", "Meets", "Exceeds"), n, TRUE))
  out$left <- ifelse(runif(n) < plogis(-2 + 0.1 * out$overtime_hours), "Left", "Stayed")
  out
})

test_that("a percentage of women who are in Sales is of the women", {
  rows <- staff_rows(); s <- open_study(local_data(rows))
  expect_equal(value_of(ask(s, "what percentage of women are in Sales?"), "estimate"), mean(rows$department[rows$gender == "F"] == "Sales"), tolerance = 1e-12)
  expect_equal(value_of(ask(s, "what percentage of women are in bands 5 and 6?"), "estimate"),
               mean(rows$grade[rows$gender == "F"] %in% c("Band 5", "Band 6")), tolerance = 1e-12)
  # the share of women in Sales is of those in Sales
  expect_equal(value_of(ask(s, "share of women in Sales"), "estimate"), mean(rows$gender[rows$department == "Sales"] == "F"), tolerance = 1e-12)
})

test_that("who started in a year did so within it, and who left is what is predicted", {
  rows <- staff_rows(); s <- open_study(local_data(rows))
  expect_equal(value_of(ask(s, "how many people started in 2015?"), "n"), sum(substr(rows$start_date, 1, 4) == "2015"))
  a <- ask(s, "does overtime predict leaving?")
  own <- glm(left == "Left" ~ overtime_hours, binomial, rows)
  expect_equal(value_of(a, "odds_ratio"), exp(coef(own)[["overtime_hours"]]), tolerance = 1e-6)
  expect_retraces(a)
  b <- ask(s, "are women less likely to exceed in their appraisal?")
  expect_equal(value_of(b, "p_value"), chisq.test(table(rows$appraisal == "Exceeds", rows$gender), correct = FALSE)$p.value, tolerance = 1e-10)
})

test_that("the assignments are all of them, and who dropped most is told by the change", {
  rows <- with_seed(99, { ability <- rnorm(90, 62, 9)
    out <- data.frame(student_no = 20240000 + 1:90)
    for (k in 1:4) out[[paste0("assignment_", k)]] <- round(ability + rnorm(90, 2 * k, 7))
    out$exam <- round(ability + rnorm(90, 0, 9)); out })
  s <- open_study(local_data(rows))
  a <- ask(s, "predict exam mark from the assignments")
  expect_setequal(reading(a)$predictors, paste0("assignment_", 1:4))
  expect_equal(value_of(a, "r_squared"), summary(lm(exam ~ assignment_1 + assignment_2 + assignment_3 + assignment_4, rows))$r.squared, tolerance = 1e-10)
  expect_equal(method_of(ask(s, "are the assignments consistent with each other?")), "cronbach_alpha")
  b <- table_of(ask(s, "which students dropped most between assignment 1 and 4?"), "ranking")
  expect_equal(b$assignment_4_minus_assignment_1[1], min(rows$assignment_4 - rows$assignment_1))
})
