stay_data <- function() with_seed(61, {
  n <- 130
  start <- as.Date("2024-02-01") + sample(300, n, TRUE)
  d <- data.frame(mrn = sample(sprintf("M%04d", 1:110), n, TRUE), admitted = format(start, "%d/%m/%Y"),
                  discharged = format(start + round(rexp(n, 0.15)), "%d/%m/%Y"), ward = sample(c("Medical", "Surgical", "ICU"), n, TRUE),
                  age_at_admission = round(runif(n, 18, 95)), emergency = sample(c("Emergency", "Elective"), n, TRUE),
                  died_in_hospital = rbinom(n, 1, 0.1), cost_gbp = round(rlnorm(n, 7, 0.4)))
  d
})
stay_of <- function(d) as.numeric(as.Date(d$discharged, "%d/%m/%Y") - as.Date(d$admitted, "%d/%m/%Y"))

test_that("the length of a stay is the time between its dates", {
  d <- stay_data()
  s <- open_study(local_data(d, "admissions.csv"))
  a <- ask(s, "average length of stay by ward")
  t <- table_of(a, "groups")
  expect_equal(t$mean, as.vector(tapply(stay_of(d), d$ward, mean)[t$ward]))
  expect_retraces(a)
  expect_equal(value_of(ask(s, "how long do patients stay in hospital"), "estimate"), mean(stay_of(d)))
  long <- ask(s, "how many patients stayed more than 7 days")
  expect_equal(value_of(long, "estimate"), sum(stay_of(d) > 7))
  rate <- ask(s, "deaths per 1000 bed days")
  expect_equal(value_of(rate, "estimate"), 1000 * sum(d$died_in_hospital) / sum(stay_of(d)))
})

test_that("the longest stays are ranked, and who stays longer is compared", {
  s <- open_study(local_data(stay_data(), "admissions.csv"))
  expect_read_as(s, c(
    "which ward has the longest stays" = "rank length_of_stay by ward [mean]",
    "compare length of stay between medical and surgical" = "compare length_of_stay by ward where ward is Medical or Surgical",
    "are older patients staying longer" = "relate age_at_admission from length_of_stay"))
})

test_that("the place in a name is not what is measured", {
  s <- open_study(local_data(stay_data(), "admissions.csv"))
  expect_read_as(s, c("number of admissions per month" = "trend  [count] every month",
                      "average cost per admission by ward" = "describe cost_gbp by ward [mean]",
                      "average age at admission" = "describe age_at_admission [mean]"))
})

test_that("who is still there lacks the date at the end", {
  d <- stay_data()
  d$discharged[c(3, 9, 40)] <- NA
  s <- open_study(local_data(d, "admissions.csv"))
  expect_equal(value_of(ask(s, "how many admissions are still in hospital"), "estimate"), 3)
  expect_equal(value_of(ask(s, "how many patients are still in hospital"), "estimate"), length(unique(d$mrn[c(3, 9, 40)])))
})

test_that("a level before what the rows are is a condition, though its column has the same name", {
  d <- stay_data()
  s <- open_study(local_data(d, "admissions.csv"))
  expect_equal(value_of(ask(s, "median length of stay for emergency admissions"), "estimate"), median(stay_of(d)[d$emergency == "Emergency"]))
  expect_equal(value_of(ask(s, "how many emergency admissions were there"), "estimate"), sum(d$emergency == "Emergency"))
})

test_that("a column that holds the time itself is left alone", {
  d <- stay_data()
  d$los_days <- stay_of(d) + 1
  s <- open_study(local_data(d, "admissions.csv"))
  expect_equal(value_of(ask(s, "average los"), "estimate"), mean(d$los_days))
})
