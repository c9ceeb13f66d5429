# Ratings of one scale, those who are satisfied, who lives longest, who holds what; numbers by base R.

library_rows <- function() with_seed(82, {
  n <- 180
  answer <- function() sample(c("very poor", "poor", "fair", "good", "very good"), n, TRUE, c(0.1, 0.15, 0.2, 0.3, 0.25))
  data.frame(id = 1000 + seq_len(n), date = as.character(as.Date("2025-01-10") + sample(0:200, n, TRUE)),
             town = sample(c("Ald", "Bry", "Cor"), n, TRUE), q1 = answer(), q2 = answer(), q3 = answer(), q4 = answer(),
             library_card = sample(c("yes", "no"), n, TRUE), visits = rpois(n, 4), stringsAsFactors = FALSE)
})

test_that("an aspect without a name is an item of the scale, and q4 is a column before it is a quarter", {
  rows <- library_rows(); s <- open_study(rows)
  for (q in c("which aspect is rated worst?", "which aspect gets the lowest rating?")) expect_equal(reading(ask(s, q))$outcome, paste0("q", 1:4), info = q)
  expect_equal(method_of(ask(s, "average rating of each aspect")), "descriptives")
  a <- ask(s, "what share of people rate q4 good or very good")
  expect_length(filters_of(a), 0)
  expect_equal(value_of(a, "estimate"), mean(rows$q4 %in% c("good", "very good")), tolerance = 1e-12)
  # in data without such a column it is a quarter
  expect_match(filters_of(ask(open_study(rows[setdiff(names(rows), "q4")]), "average visits in q2 2025"))[1], "2025-04-01")
})

test_that("satisfied and dissatisfied are the two sides of the middle", {
  rows <- library_rows(); s <- open_study(rows)
  a <- ask(s, "what share is satisfied with q2")
  expect_equal(value_of(a, "estimate"), mean(rows$q2 %in% c("good", "very good")), tolerance = 1e-12)
  b <- ask(s, "how many people are unhappy with q3")
  expect_equal(value_of(b, "n"), sum(rows$q3 %in% c("very poor", "poor")))
  expect_match(paste(as.list(b)$reading$assumed, collapse = " "), "very poor")
})

test_that("card holders are those of whom the column says yes", {
  rows <- library_rows(); s <- open_study(rows)
  a <- ask(s, "median visits of card holders in Bry")
  expect_equal(value_of(a, "estimate"), median(rows$visits[rows$library_card == "yes" & rows$town == "Bry"]))
  b <- ask(s, "do card holders have more visits?")
  expect_equal(value_of(b, "p_value"), t.test(visits ~ library_card, rows)$p.value, tolerance = 1e-10)
})

poison_rows <- function() with_seed(83, {
  out <- expand.grid(antidote = c("A", "B", "C", "D"), poison = c("I", "II", "III"), rep = 1:5, stringsAsFactors = FALSE)
  out$survival_hours <- round(rexp(nrow(out), 1 / 4) + match(out$antidote, LETTERS), 2)
  out[c("antidote", "poison", "survival_hours")]
})

test_that("times of which none is censored are a measure, and a level is set against each other one", {
  rows <- poison_rows(); s <- open_study(rows)
  a <- ask(s, "which antidote keeps animals alive longest?")
  means <- tapply(rows$survival_hours, rows$antidote, mean)
  expect_equal(as.character(table_of(a, "ranking")$antidote[1]), names(which.max(means)))
  b <- ask(s, "which antidotes differ from A?")
  expect_equal(method_of(b), "dunnett")
  d <- ask(s, "are the variances equal across poisons?")
  centred <- abs(rows$survival_hours - ave(rows$survival_hours, rows$poison, FUN = median))
  expect_equal(value_of(d, "p_value"), oneway.test(centred ~ rows$poison, var.equal = TRUE)$p.value, tolerance = 1e-10)
})

cohort_rows <- function() with_seed(84, {
  n <- 150
  out <- data.frame(site = sample(1:6, n, TRUE), time_days = round(rexp(n, 1 / 300)) + 1, outcome = sample(c("died", "alive"), n, TRUE, c(0.7, 0.3)),
                    age = round(rnorm(n, 63, 9)), sex = sample(c("male", "female"), n, TRUE), weight_loss_lb = rpois(n, 10), patient_score = rpois(n, 80))
  out
})

test_that("survival in plain words is the time to death with its censoring, not those who are alive", {
  skip_if_not_installed("survival")
  rows <- cohort_rows(); s <- open_study(rows)
  died <- survival::Surv(rows$time_days, rows$outcome == "died")
  a <- ask(s, "do women survive longer than men?")
  expect_equal(value_of(a, "p_value"), survival::survdiff(died ~ rows$sex)$pvalue, tolerance = 1e-8)
  for (q in c("median survival time for men and women", "how long do women live compared with men")) {
    expect_equal(reading(ask(s, q))$by, "sex", info = q)
    expect_false(any(grepl("outcome", filters_of(ask(s, q)))), info = q)
  }
  b <- ask(s, "how long do patients survive?")
  expect_equal(method_of(b), "kaplan_meier")
  expect_length(reading(b)$by, 0)
  d <- ask(s, "do patients who lost more weight die sooner?")
  fit <- survival::coxph(died ~ weight_loss_lb, rows)
  expect_equal(value_of(d, "p_value"), summary(fit)$coefficients[1, 5], tolerance = 1e-5)
  # those who survived are still a condition
  expect_equal(value_of(ask(s, "average age of survivors"), "estimate"), mean(rows$age[rows$outcome == "alive"]), tolerance = 1e-12)
})

test_that("the site that enrolled most is the one with most rows", {
  rows <- cohort_rows(); s <- open_study(rows)
  a <- ask(s, "which site enrolled the most patients?")
  expect_equal(reading(a)$outcome, "site")
  expect_equal(max(table_of(a, "counts")$n), max(table(rows$site)))
})

test_that("how well a measure tells two groups apart is a curve, and outside of a level are all others", {
  rows <- with_seed(85, data.frame(sample = 1:90, crystals = sample(c("present", "absent"), 90, TRUE), calcium = rexp(90), origin = sample(c("USA", "non-USA"),
    90, TRUE)))
  s <- open_study(rows)
  a <- ask(s, "how well does calcium tell samples with crystals from those without?")
  expect_equal(method_of(a), "logistic_regression")
  w <- wilcox.test(calcium ~ crystals, rows, exact = FALSE)$statistic / prod(table(rows$crystals))
  expect_match(format_answer(a), "area under the curve")
  expect_match(format_answer(a), sub("^0", "", sprintf("%.2f", max(w, 1 - w))), fixed = TRUE)
  b <- ask(s, "average calcium of samples from outside the USA")
  expect_equal(value_of(b, "estimate"), mean(rows$calcium[rows$origin == "non-USA"]), tolerance = 1e-12)
})

test_that("groups are compared at their start on the first of two measurements", {
  rows <- with_seed(86, data.frame(person = 1:60, therapy = sample(c("talk", "pill", "none"), 60, TRUE), weight_before = rnorm(60, 80, 5),
    weight_after = rnorm(60, 78, 5)))
  a <- ask(open_study(rows), "were the groups comparable before the therapy?")
  expect_equal(value_of(a, "p_value"), oneway.test(weight_before ~ therapy, rows)$p.value, tolerance = 1e-10)
  b <- ask(open_study(rows), "is the gain in the talk group greater than in the pill group?")
  expect_equal(reading(b)$outcome, "weight_gain")
})

test_that("several scores in the plural are described side by side, of those who are meant", {
  rows <- with_seed(87, { b <- rnorm(120, 65, 10); data.frame(gender = sample(c("female", "male"), 120, TRUE), lunch = sample(c("standard", "reduced"), 120,
    TRUE), math_score = round(b + rnorm(120, 0, 5)), reading_score = round(b + rnorm(120, 2, 5)), writing_score = round(b + rnorm(120, 1, 5))) })
  s <- open_study(rows)
  measured <- c("math_score", "reading_score", "writing_score")
  for (q in c("average scores by gender", "average of the three scores by lunch", "average scores of girls")) expect_equal(reading(ask(s, q))$outcome, measured,
    info = q)
  expect_equal(filters_of(ask(s, "average scores of girls")), "gender == female")
  expect_equal(reading(ask(s, "average reading score"))$outcome, "reading_score")
  expect_equal(value_of(ask(s, "how many students failed maths (below 50)"), "n"), sum(rows$math_score < 50))
})

test_that("initials, sides of the compass and what is unknown stand for levels and missing values", {
  rows <- with_seed(88, data.frame(employee = 1:150, department = sample(c("Sales", "Research & Development", "Finance"), 150, TRUE), region = sample(c("northeast",
    "northwest", "southeast"), 150, TRUE), sex = sample(c("F", "M", NA), 150, TRUE), smoker = sample(c("yes", "no"), 150, TRUE), tenure = rpois(150, 30),
    monthly_pay = round(rnorm(150, 3000, 400)), left = sample(c("yes", "no"), 150, TRUE), age = round(rnorm(150, 40, 9))))
  s <- open_study(rows)
  expect_equal(value_of(ask(s, "how many employees are in R&D"), "n"), sum(rows$department == "Research & Development"))
  expect_equal(status_of(ask(s, "how many employees are in X&Y")), "cannot_answer")
  expect_equal(value_of(ask(s, "average tenure in the north"), "estimate"), mean(rows$tenure[rows$region != "southeast"]), tolerance = 1e-12)
  expect_match(format_answer(ask(s, "how many employees have unknown sex")), as.character(sum(is.na(rows$sex))))
  a <- ask(s, "correlation between age and tenure for non smokers only")
  expect_equal(value_of(a, "estimate"), cor(rows$age[rows$smoker == "no"], rows$tenure[rows$smoker == "no"]), tolerance = 1e-12)
  # a month behind a number or behind "per" is a unit, not the pay of a month
  expect_equal(filters_of(ask(s, "employees with tenure over 30 months")), "tenure > 30")
  b <- ask(s, "odds of leaving per extra month of tenure")
  expect_equal(reading(b)$predictors, "tenure")
  d <- ask(ask(s, "how many smokers are there"), "what share of them left")
  expect_equal(value_of(d, "estimate"), mean(rows$left[rows$smoker == "yes"] == "yes"), tolerance = 1e-12)
})

box <- with_seed(91, {
  n <- 200
  d <- data.frame(customer = paste0("K", 1000 + 1:n), plan = sample(c("basic", "plus", "family"), n, TRUE), nps = sample(0:10, n, TRUE),
                  boxes_received = rpois(n, 4), skipped_boxes = rpois(n, 2), support_tickets = rpois(n, 0.6), signup_date = as.Date("2024-02-01") + sample(0:480, n, TRUE))
  d$churned <- ifelse(runif(n) < plogis(-1 + 0.5 * d$support_tickets), "Yes", "No")
  d
})
boxes <- open_study(box)

test_that("the net promoter score is promoters less detractors, the average of the answers a mean", {
  own <- tapply(100 * (box$nps >= 9) - 100 * (box$nps <= 6), box$plan, mean)
  a <- ask(boxes, "net promoter score by plan")
  t <- table_of(a, "groups")
  expect_equal(t$mean[match(names(own), t$plan)], as.vector(own))
  expect_retraces(a)
  expect_equal(table_of(ask(boxes, "average nps by plan"), "groups")$mean[1], mean(box$nps[box$plan == "basic"]))
  expect_equal(value_of(ask(boxes, "share of detractors"), "estimate"), mean(box$nps <= 6))
})

test_that("one column beyond another, row by row", {
  more <- sum(box$skipped_boxes > box$boxes_received)
  for (q in c("customers who skipped more than they received", "how many customers skipped more than they received?")) {
    expect_equal(value_of(ask(boxes, q), "n"), more, info = q)
  }
})

test_that("kept is no support, periods end with the data, two predictors of a yes and no", {
  a <- ask(boxes, "compare nps between churned and kept customers")
  expect_false("support_tickets" %in% unlist(reading(a)$by))
  last <- max(box$signup_date)
  b <- ask(boxes, "how many customers signed up in the last 3 months of data?")
  expect_equal(value_of(b, "estimate"), sum(box$signup_date > seq(last, by = "-3 months", length.out = 2)[2]))
  c <- ask(boxes, "does nps predict churn better than support tickets?")
  expect_equal(unlist(reading(c)$outcome), "churned")
  expect_setequal(unlist(reading(c)$predictors), c("nps", "support_tickets"))
})
