test_that("the event is taken from the words, else from a column that sounds like one, and said", {
  r <- reading(ask(hive_study(), "How long until the hives swarm?"))
  expect_equal(unlist(r$outcome), c("days_to_swarm", "swarmed"))
  expect_match(paste(unlist(r$assumed), collapse = " "), "The event is swarmed is yes")
  d <- data.frame(weeks = c(5, 8, 12, 3, 9, 14, 7, 11, 6, 10), status = c("relapsed", "well", "relapsed", "died", "well", "relapsed", "well",
    "relapsed", "died", "well"),
                  arm = rep(c("new", "old"), 5), age = 41:50)
  s <- open_study(d)
  a <- ask(s, "Kaplan-Meier curves by arm, the event is relapsed")
  expect_equal(unlist(reading(a)$by), "arm")
  expect_equal(value_of(a, "events"), 4)
  b <- ask(s, "Cox regression of weeks on age, event is died")
  expect_equal(method_of(b), "cox_regression")
  expect_equal(value_of(b, "events"), 2)
  expect_equal(unlist(reading(b)$predictors), "age")
})

test_that("everyday words reach the newer tasks", {
  asked <- list(c("share of hives that swarmed by region", "crosstab"), c("test whether half of the hives swarmed", "binomial_exact"),
    c("which hives have more than 40 mites after?", "row_listing"),
                c("count swarmed hives by arm", "crosstab"), c("is honey yield more variable in the syrup arm than in control?", "brown_forsythe"),
                c("are syrup and control equivalent in honey yield within 3 kg?", "equivalence_t"),
                  c("is honey yield in syrup as good as in control within 2 kg", "noninferiority_t"),
                c("does honey yield depend on strength before, clustered by keeper?", "mixed_linear"), c("trimmed mean of honey yield",
                  "descriptives"))
  for (q in asked) expect_equal(method_of(ask(hive_study(), q[1])), q[2], info = q[1])
  expect_equal(value_of(ask(hive_study(), "trimmed mean of honey yield"), "estimate"), mean(read.csv(demo_file())$honey_yield_kg, trim = 0.2,
    na.rm = TRUE))
})

test_that("how many days until something are times to an event, not days to be counted", {
  d <- as.data.frame(hive_study()); north <- d[d$region == "north", ]
  own <- survival::survfit(survival::Surv(days_to_swarm, as.character(swarmed) %in% c("yes", "TRUE")) ~ 1, north)
  a <- ask(hive_study(), "how many days until swarming in the north?")
  expect_equal(method_of(a), "kaplan_meier")
  expect_equal(value_of(a, "estimate"), unname(summary(own)$table["median"]))
})

test_that("of two events the words tell which, and each goes with its own time", {
  rows <- with_seed(17, data.frame(chemo = sample(0:1, 150, TRUE), age = round(rnorm(150, 55, 9)), rtime = ceiling(rexp(150, 1 / 900)), recur = sample(0:1, 150, TRUE),
                                   death = sample(0:1, 150, TRUE)))
  rows$dtime <- rows$rtime + ceiling(rexp(150, 1 / 300))
  s <- open_study(rows)
  pair <- function(q) unlist(reading(ask(s, q))$outcome)
  for (q in c("does chemotherapy prolong survival?", "hazard ratio of chemo for death adjusting for age", "cox regression of dtime on age",
              "survival by chemo")) expect_equal(pair(q), c("dtime", "death"), info = q)
  for (q in c("cox regression of rtime on age", "time to recurrence by chemo")) expect_equal(pair(q), c("rtime", "recur"), info = q)
  a <- ask(s, "does chemotherapy prolong survival?")
  expect_equal(value_of(a, "statistic"), survival::survdiff(survival::Surv(dtime, death) ~ chemo, rows)$chisq, tolerance = 1e-9)
  expect_retraces(a)
})
