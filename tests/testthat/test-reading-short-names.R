# Data whose columns have short names: questions use the words they stand for, and words that look like them mean something else.

births <- function() {
  with_seed(4, {
    n <- 220
    smoke <- rbinom(n, 1, 0.4)
    bwt <- round(rnorm(n, 3100 - 280 * smoke, 500))
    data.frame(low = as.integer(bwt < 2500), age = sample(15:44, n, TRUE), race = sample(1:3, n, TRUE), smoke, ptl = rpois(n, 0.2), bwt)
  })
}

test_that("a comparative is no level of a column, and a quality before a measure names the yes/no column", {
  d <- births()
  s <- open_study(local_data(d))
  own <- t.test(bwt ~ smoke, d)
  for (q in c("Do smokers have babies with lower birth weight?", "Is birth weight lower in smokers", "is bwt lower in mothers who smoke")) {
    a <- ask(s, q)
    expect_identical(method_of(a), "t_welch")
    expect_length(reading(a)$filters, 0)
    expect_equal(value_of(a, "p_value"), own$p.value)
  }
  b <- ask(s, "what share of mothers who smoke have a low birth weight baby")
  expect_equal(value_of(b, "estimate"), mean(d$low[d$smoke == 1]))
  c <- ask(s, "Odds ratio of low birth weight for smokers, adjusted for age")
  fit <- glm(low ~ smoke + age, binomial, d)
  expect_equal(table_of(c, "coefficients")$estimate[2], unname(coef(fit)[2]), tolerance = 1e-6)
  e <- ask(s, "is low more common in smokers")
  expect_identical(unlist(reading(e)[c("outcome", "by")], use.names = FALSE), c("low", "smoke"))
  for (x in list(a, b, c, e)) expect_retraces(x)
})

test_that("a number of things that people have is no age", {
  d <- births()
  s <- open_study(local_data(d))
  expect_equal(filters_of(ask(s, "How many mothers had at least one previous premature labour?")), "ptl >= 1")
  expect_equal(filters_of(ask(s, "how many mothers under 20 smoke")), "age < 20")
})

test_that("means by a column with many numbers are asked back, and not told as two means", {
  a <- ask(open_study(local_data(births())), "mean bwt by age")
  expect_identical(status_of(a), "needs_choice")
  said <- vapply(as.list(a)$reading$alternatives, function(x) x$plain, "")
  expect_identical(said, c("How bwt and age go together.", "The mean of bwt by age."))
})

test_that("everyday nouns find the short names they begin with, and dividing nouns are never passed over", {
  d <- as.data.frame(CO2)
  d$Plant <- as.character(d$Plant)
  s <- open_study(local_data(d))
  a <- ask(s, "Effect of concentration on uptake")
  expect_equal(value_of(a, "estimate"), cor(d$conc, d$uptake))
  expect_identical(unlist(reading(ask(s, "Does chilling reduce CO2 uptake?"))$by), "Treatment")
  m <- morley
  names(m) <- c("Expt", "Run", "Speed")
  v <- open_study(local_data(m))
  b <- ask(v, "variance of speed per experiment")
  expect_equal(table_of(b, "groups")$variance, as.vector(tapply(m$Speed, m$Expt, var)))
  # runs are numbered anew in each experiment: no rows of one unit
  expect_identical(method_of(ask(v, "Does speed differ between experiments?")), "anova_welch")
  d$kind <- d$Type; d$Type <- NULL
  expect_identical(status_of(ask(open_study(local_data(d)), "mean uptake by species and Treatment")), "cannot_answer")
})

test_that("logarithms and roots are taken in any model, of the column that is meant", {
  d <- trees
  s <- open_study(local_data(d))
  a <- ask(s, "log(Volume) on log(Girth) and log(Height)")
  fit <- lm(log(Volume) ~ log(Girth) + log(Height), d)
  expect_equal(table_of(a, "coefficients")$estimate, unname(coef(fit)), tolerance = 1e-9)
  b <- ask(s, "mean of log10(Volume)")
  expect_equal(value_of(b, "estimate"), mean(log10(d$Volume)))
  c <- ask(s, "regress sqrt(Volume) on Girth")
  expect_equal(value_of(c, "estimate"), unname(coef(lm(sqrt(Volume) ~ Girth, d))[2]))
  for (x in list(a, b, c)) expect_retraces(x)
})

test_that("two columns set apart are compared row by row, and the columns between two named ones belong to them", {
  d <- attitude
  s <- open_study(local_data(d))
  own <- t.test(d$complaints, d$raises, paired = TRUE)
  for (q in c("Are the mean scores of complaints and raises different?", "is complaints higher than raises", "paired t test of complaints and raises",
              "is the mean of complaints different from the mean of raises")) {
    a <- ask(s, q)
    expect_identical(method_of(a), "t_paired")
    expect_equal(value_of(a, "p_value"), own$p.value)
  }
  expect_identical(method_of(ask(s, "are complaints and raises related")), "pearson")
  b <- ask(s, "reliability of the items complaints to advance")
  x <- d[2:7]
  expect_equal(value_of(b, "estimate"), 6 / 5 * (1 - sum(diag(var(x))) / sum(var(x))))
})

test_that("the best predictors are what goes with a measure, and the others all other columns", {
  d <- stackloss
  s <- open_study(local_data(d))
  expect_identical(method_of(ask(s, "what are the best predictors of stack.loss")), "association_ranking")
  a <- ask(s, "multicollinearity of the predictors of stack.loss")
  r <- solve(cor(d[1:3]))
  expect_equal(table_of(a, "collinearity")$gvif, unname(diag(r)))
  # rows without any name of their own can be told apart by their numbers
  b <- ask(s, "influential observations in the model of stack.loss on Air.Flow, Water.Temp and Acid.Conc.")
  expect_equal(value_of(b, "estimate"), max(cooks.distance(lm(stack.loss ~ ., d))))
})

test_that("a word for two columns means the one that another word tells, and the most ADJECTIVE one is ranked", {
  d <- with_seed(2, data.frame(car = sprintf("car %02d", 1:40), mpg_city = sample(12:40, 40, TRUE), weight = sample(1500:3000, 40)))
  d$mpg_highway <- d$mpg_city + sample(2:9, 40, TRUE)
  s <- open_study(local_data(d))
  a <- ask(s, "most fuel efficient car on the highway")
  expect_identical(unlist(reading(a)$outcome), "mpg_highway")
  expect_identical(method_of(a), "rank_table")
  expect_identical(status_of(ask(s, "which car has the best mileage")), "needs_choice")
})

test_that("the end of a few numbered places is told, and is no ranking of something else", {
  d <- with_seed(8, data.frame(shelf = sample(1:3, 60, TRUE), grade = sample(1:3, 60, TRUE), fibre = round(rexp(60, 0.3), 1)))
  s <- open_study(local_data(d))
  expect_equal(value_of(ask(s, "average fibre on the top shelf"), "estimate"), mean(d$fibre[d$shelf == 3]))
  expect_equal(value_of(ask(s, "average fibre on the bottom shelf"), "estimate"), mean(d$fibre[d$shelf == 1]))
  # (the top grade may be the first)
  expect_identical(status_of(ask(s, "average fibre of the top grade")), "needs_choice")
})

test_that("what acts on survival has to be there, and who survives longer is compared", {
  d <- with_seed(3, data.frame(time = rexp(120, 0.01), status = rbinom(120, 1, 0.8), trt = sample(1:2, 120, TRUE), sex = sample(1:2, 120, TRUE)))
  s <- open_study(local_data(d))
  a <- ask(s, "Is the performance score related to survival?")
  expect_identical(status_of(a), "cannot_answer")
  expect_match(as.list(a)$sentences$headline, "performance score", fixed = TRUE)
  b <- ask(s, "does treatment 2 make patients survive longer")
  expect_identical(method_of(b), "log_rank")
  c <- ask(s, "do women survive longer than men?")
  expect_match(as.list(c)$sentences$headline, "holds the codes 1 and 2", fixed = TRUE)
  e <- ask(amend(s, "sex 1 is male and 2 is female"), "do women survive longer than men?")
  expect_identical(unlist(reading(e)$by), "sex")
  expect_retraces(e)
})

test_that("counts of events divide as totals, and what happened to units is asked per what", {
  d <- with_seed(6, expand.grid(agegp = c("25-34", "35-44", "45-54"), site = c("A", "B"), rep = 1:8))
  d$rep <- NULL
  d$ncases <- with_seed(7, rbinom(nrow(d), 20, 0.2))
  d$n <- 20
  s <- open_study(local_data(d))
  a <- ask(s, "What share of cases per age group?")
  expect_identical(method_of(a), "share_of_total")
  sums <- tapply(d$ncases, d$agegp, sum)
  expect_equal(sort(table_of(a, "shares")$percent), sort(as.vector(100 * sums / sum(sums))))
  names(d)[3] <- "Deaths"
  v <- open_study(local_data(d))
  b <- ask(v, "proportion of snails dead by site")
  expect_identical(status_of(b), "needs_choice")
  c <- ask(v, "Deaths per n by site")
  expect_equal(table_of(c, "rates")$rate, as.vector(tapply(d$Deaths, d$site, sum) / tapply(d$n, d$site, sum)))
  expect_retraces(c)
})

test_that("weights before and after that are written as one word are a measure taken twice", {
  d <- with_seed(5, data.frame(Treat = sample(c("a", "b", "c"), 60, TRUE), Prewt = round(rnorm(60, 82, 5), 1)))
  d$Postwt <- round(d$Prewt + rnorm(60, 2, 4), 1)
  s <- open_study(local_data(d))
  own <- t.test(d$Postwt, d$Prewt, paired = TRUE)
  for (q in c("Did weight change from before to after treatment?", "did weight change significantly")) {
    a <- ask(s, q)
    expect_identical(method_of(a), "t_paired")
    expect_equal(value_of(a, "p_value"), own$p.value)
  }
  expect_equal(value_of(ask(s, "mean weight after treatment"), "estimate"), mean(d$Postwt))
})

test_that("cases and controls are the two sides of a column that says who is a case", {
  d <- infert[c("education", "age", "parity", "case")]
  s <- open_study(local_data(d))
  a <- ask(s, "average age of cases and controls")
  expect_equal(sort(table_of(a, "groups")$mean), sort(as.vector(tapply(d$age, d$case, mean))))
  # means that look the same in the usual places are told apart
  expect_match(as.list(a)$sentences$headline, "31.530", fixed = TRUE)
  expect_equal(filters_of(ask(s, "average age of controls")), "case == 0")
})
