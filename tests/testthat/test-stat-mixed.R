test_that("the random-intercept model agrees with nlme::lme, and its degrees of freedom with published ones", {
  skip_if_not_installed("nlme")
  d <- as.data.frame(nlme::Orthodont)
  d$Subject <- factor(as.character(d$Subject))
  x <- model.matrix(~ age * Sex, d)
  mine <- internal("stat_mixed_intercept")(d$distance, x, as.integer(d$Subject))
  ref <- nlme::lme(distance ~ age * Sex, random = ~ 1 | Subject, data = d)
  expect_equal(mine$coefficients, unname(nlme::fixef(ref)), tolerance = 1e-8)
  expect_equal(mine$se, unname(sqrt(diag(vcov(ref)))), tolerance = 1e-6)
  expect_equal(c(mine$sigma2, mine$tau2), c(ref$sigma^2, as.numeric(nlme::VarCorr(ref)[1, 1])), tolerance = 1e-6)
  expect_equal(mine$log_likelihood, as.numeric(logLik(ref)), tolerance = 1e-9)
  # balanced data: slopes have n - subjects - 2 degrees of freedom exactly
  expect_equal(mine$df[c(2, 4)], c(79, 79), tolerance = 1e-8)
  expect_equal(mine$ranef[match("M01", levels(d$Subject))], nlme::ranef(ref)["M01", 1], tolerance = 1e-5)
})

test_that("unbalanced groups agree with lme too, and no variance between groups is least squares", {
  skip_if_not_installed("nlme")
  d <- with_seed(4, data.frame(g = factor(sample(1:12, 90, TRUE)), x = rnorm(90)))
  d$y <- 1 + 0.5 * d$x + with_seed(5, rnorm(12))[d$g] + with_seed(6, rnorm(90))
  mine <- internal("stat_mixed_intercept")(d$y, cbind(1, d$x), as.integer(d$g))
  ref <- nlme::lme(y ~ x, random = ~ 1 | g, data = d)
  expect_equal(mine$coefficients, unname(nlme::fixef(ref)), tolerance = 1e-6)
  flat <- internal("stat_mixed_intercept")(rep(c(-1, 1, 0.5, -0.5), 5) + (1:20) / 50, cbind(1, rep(1:4, 5)), rep(1:5, each = 4))
  expect_equal(flat$tau2 > 0, internal("mixed_profile")(internal("mixed_sums")(rep(c(-1, 1, 0.5, -0.5), 5) + (1:20) / 50, cbind(1, rep(1:4, 5)),
    rep(1:5, each = 4)), 0)$derivative > 0)
  expect_error(internal("stat_mixed_intercept")(1:5, cbind(1, 5:1), 1:5), class = "upbeatquill_error_too_few_rows")
})

test_that("maximum likelihood agrees with lme's, by a question too", {
  skip_if_not_installed("nlme")
  d <- as.data.frame(nlme::Orthodont)
  d <- data.frame(distance = d$distance, age = d$age, sex = as.character(d$Sex), subject = as.character(d$Subject))
  ref <- nlme::lme(distance ~ age + sex, random = ~ 1 | subject, data = d, method = "ML")
  mine <- internal("stat_mixed_intercept")(d$distance, model.matrix(~ age + sex, d), as.integer(factor(d$subject)), restricted = FALSE)
  expect_equal(mine$coefficients, unname(nlme::fixef(ref)), tolerance = 1e-8)
  expect_equal(c(mine$sigma2, mine$tau2), c(ref$sigma^2, as.numeric(nlme::VarCorr(ref)[1, 1])), tolerance = 1e-5)
  expect_equal(mine$log_likelihood, as.numeric(logLik(ref)), tolerance = 1e-9)
  s <- open_study(d)
  a <- ask(s, "mixed model of distance on age adjusting for sex with a random intercept for subject by maximum likelihood")
  expect_equal(value_of(a, "log_likelihood"), as.numeric(logLik(ref)), tolerance = 1e-8)
  expect_match(as.list(a)$sentences$write_up, "maximum likelihood")
  expect_retraces(a)
  usual <- ask(s, "mixed model of distance on age adjusting for sex with a random intercept for subject")
  expect_match(as.list(usual)$sentences$write_up, "REML")
})

test_that("levels are tested together: a balanced design gives the F and the degrees of freedom of repeated measures", {
  d <- with_seed(9, data.frame(person = rep(sprintf("P%02d", 1:14), each = 3), drink = rep(c("tea", "coffee", "water"), 14)))
  d$score <- with_seed(10, rep(rnorm(14, 50, 5), each = 3)) + 2 * (d$drink == "tea") + with_seed(11, rnorm(42, 0, 2))
  a <- ask(open_study(d), "mixed model of score on drink with a random intercept for each person")
  table <- summary(aov(score ~ drink + Error(person), d))[["Error: Within"]][[1]]
  expect_equal(value_of(a, "statistic"), table["drink", "F value"], tolerance = 1e-8)
  expect_equal(c(value_of(a, "df1"), value_of(a, "df2")), c(2, 26), tolerance = 1e-6)
  expect_equal(value_of(a, "p_value"), table["drink", "Pr(>F)"], tolerance = 1e-6)
  expect_match(as.list(a)$sentences$headline, "drink goes with score")
  expect_retraces(a)
})

test_that("the column of groups is the one that the words name, also where its name is an everyday word for a row", {
  d <- with_seed(12, data.frame(score = rnorm(60), dose = rep(1:3, 20), age = sample(20:60, 60, TRUE), subject = rep(sprintf("S%02d", 1:12), 5),
                                farm_name = sample(c("x", "y", "z"), 60, TRUE)))
  s <- open_study(d)
  cluster <- function(q) ask(s, q)$reading$extra$cluster
  expect_equal(cluster("mixed model of score on dose and age with a random intercept for subject"), "subject")
  expect_equal(cluster("mixed model of score on age, random intercepts for subjects"), "subject")
  expect_equal(cluster("regression of score on age with standard errors clustered by subject"), "subject")
  expect_equal(cluster("multilevel model of score on dose and age nested in farms"), "farm_name")
})
