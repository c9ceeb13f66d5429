# Values held against their limit, measurements in rows by their names, occasions in words.

labs_data <- function() {
  grid <- expand.grid(PARAM = c("ALT", "Creatinine", "Hemoglobin"), VISIT = c("Screening", "Week 4", "Week 12"), SUBJID = sprintf("S%02d", 1:20),
                      stringsAsFactors = FALSE)
  with_seed(7, {
    base <- c(ALT = 26, Creatinine = 78, Hemoglobin = 13.5)[grid$PARAM]
    own <- stats::rnorm(20)[as.integer(factor(grid$SUBJID))]
    data.frame(SUBJID = grid$SUBJID, ARM = ifelse(as.integer(factor(grid$SUBJID)) %% 2 == 0, "Active", "Placebo"), VISIT = grid$VISIT, PARAM = grid$PARAM,
               AVAL = round(base * (1 + 0.1 * own + stats::rnorm(nrow(grid), 0, 0.12)), 1), ULN = c(ALT = 30, Creatinine = 90, Hemoglobin = 15)[grid$PARAM])
  })
}
labs <- labs_data()
alt <- labs[labs$PARAM == "ALT", ]
study <- open_study(local_data(labs, "labs.csv", env = parent.frame()))

test_that("a measurement is named by its name, and its values are those of its rows", {
  a <- ask(study, "mean ALT by arm and visit")
  t <- table_of(a, "groups")
  base <- tapply(alt$AVAL, paste(alt$ARM, alt$VISIT), mean)
  expect_equal(t$mean, as.vector(base[paste(t$ARM, t$VISIT)]))
  expect_true(any(grepl("Took ALT as AVAL", reading(a)$assumed)))
  t <- table_of(ask(study, "haemoglobin by arm"), "groups")
  expect_equal(t$mean, as.vector(tapply(labs$AVAL[labs$PARAM == "Hemoglobin"], labs$ARM[labs$PARAM == "Hemoglobin"], mean)[t$ARM]))
})

test_that("several measurements stand beside each other, and the rows are counted where rows are asked for", {
  t <- table_of(ask(study, "mean ALT and creatinine by arm"), "groups")
  expect_setequal(t$PARAM, c("ALT", "Creatinine"))
  expect_equal(t$mean[t$PARAM == "ALT" & t$ARM == "Active"], mean(alt$AVAL[alt$ARM == "Active"]))
  expect_identical(value_of(ask(study, "how many rows are ALT"), "n"), nrow(alt) + 0)
})

test_that("two measurements are related over the same person at the same visit", {
  a <- ask(study, "correlation between ALT and creatinine")
  other <- labs[labs$PARAM == "Creatinine", ]
  key <- paste(other$SUBJID, other$VISIT)
  expect_equal(value_of(a, "estimate"), stats::cor(alt$AVAL, other$AVAL[match(paste(alt$SUBJID, alt$VISIT), key)]))
  expect_retraces(a)
})

test_that("a value is held against the limit of its own row", {
  above <- alt$AVAL > alt$ULN
  expect_identical(value_of(ask(study, "how many ALT values are above the upper limit of normal"), "n"), sum(above) + 0)
  t <- table_of(ask(study, "share of subjects with ALT above ULN by arm"), "shares")
  expect_equal(t$share, as.vector(tapply(above, alt$ARM, mean)[t$group]))
  expect_identical(value_of(ask(study, "how many ALT values are more than 1.2 times the ULN"), "n"), sum(alt$AVAL / alt$ULN > 1.2) + 0)
})

test_that("occasions in words are in their order, and a change over time is one over them", {
  expect_identical(internal("natural_order")(c("Week 12", "Screening", "Week 4", "Follow-up")), c("Screening", "Week 4", "Week 12", "Follow-up"))
  expect_identical(internal("natural_order")(c("Op 10", "Op 2", "Op 1")), c("Op 1", "Op 2", "Op 10"))
  expect_identical(internal("natural_order")(c("b 2", "a 1", "c")), c("a 1", "b 2", "c"))
  a <- ask(study, "does creatinine change over time")
  expect_identical(method_of(a), "anova_repeated")
  own <- labs[labs$PARAM == "Creatinine", ]
  fit <- summary(stats::aov(AVAL ~ VISIT + Error(factor(SUBJID)), own))[[2]][[1]]
  expect_equal(value_of(a, "statistic"), fit[["F value"]][1])
  expect_identical(method_of(ask(study, "plot ALT over visits by arm")), "anova_mixed")
  expect_identical(unique(table_of(ask(study, "course of ALT by arm"), "groups")$VISIT), c("Screening", "Week 4", "Week 12"))
})

test_that("a table that is no such long one is read as before", {
  plain <- open_study(local_data(data.frame(test = rep(c("A", "B"), 20), score = 1:40, group = rep(c("x", "y"), each = 20)), "plain.csv"))
  expect_identical(unlist(reading(ask(plain, "does score differ by test"))$outcome), "score")
  expect_null(internal("measures_layout")(hive_study()))
})
