# What may not matter: the order of the rows, the order of the columns, the unit of the outcome, further columns nobody asks about.

trial_questions <- c("does honey yield differ between syrup and control?", "does honey yield differ by arm?", "median honey yield by region",
  "correlation of honey yield and strength before", "Spearman correlation of honey yield and mites before", "is swarmed related to arm?",
  "Mann-Whitney test of honey yield for syrup against control", "Kruskal-Wallis test of honey yield by region",
      "does mites change from before to after?",
  "honey yield by arm adjusting for strength before", "what predicts honey yield: strength before, queen age and arm",
  "logistic regression of survived winter on strength before and arm", "Kendall correlation of honey yield and queen age months",
  "survival: days to swarm with swarmed by arm", "two-way anova of honey yield on arm and region", "Brown-Forsythe test of honey yield by arm",
  "share survived winter by arm", "total honey yield by apiary", "participant flow by arm", "quartiles of honey yield",
      "Fisher exact test of swarmed and arm",
  "partial correlation of honey yield and strength before given mites before", "cross-table of region and arm")

numbers_told <- function(a) {
  n <- numbers(a)
  stats::setNames(n$value, paste(n$id, ifelse(is.na(n$of), "", n$of)))
}

numbers_now <- function(study, question) {
  a <- ask(study, question)
  expect_equal(status_of(a), "answered", info = question)
  numbers_told(a)
}

# The answers of the data as it is, asked for once.
plain_answers <- local({
  kept <- NULL
  function() {
    if (is.null(kept)) { s <- open_study(as.data.frame(hive_study())); kept <<- sapply(trial_questions, function(q) ask(s, q), simplify = FALSE) }
    kept
  }
})

test_that("shuffled rows and columns give the same numbers", {
  d <- as.data.frame(hive_study())
  turned <- with_seed(5, d[sample(nrow(d)), sample(names(d))])
  t <- open_study(turned)
  for (q in trial_questions) {
    one <- numbers_told(plain_answers()[[q]]); two <- numbers_now(t, q)
    expect_setequal(names(one), names(two))
    expect_equal(two[names(one)], one, tolerance = 1e-8, info = q)
  }
})

test_that("a constant added to the outcome moves means and leaves tests, a factor scales the estimate", {
  d <- as.data.frame(hive_study())
  moved <- d; moved$honey_yield_kg <- moved$honey_yield_kg + 1e6
  scaled <- d; scaled$honey_yield_kg <- scaled$honey_yield_kg * 1000
  moved <- open_study(moved); scaled <- open_study(scaled)
  for (q in c("does honey yield differ between syrup and control?", "does honey yield differ by arm?",
      "honey yield by arm adjusting for strength before",
              "correlation of honey yield and strength before", "Kruskal-Wallis test of honey yield by region")) {
    base <- numbers_told(plain_answers()[[q]]); up <- numbers_now(moved, q); big <- numbers_now(scaled, q)
    for (id in intersect(c("statistic ", "p_value "), names(base))) {
      expect_equal(up[[id]], base[[id]], tolerance = 1e-6, info = paste(q, id))
      expect_equal(big[[id]], base[[id]], tolerance = 1e-8, info = paste(q, id))
    }
  }
  q <- "does honey yield differ between syrup and control?"
  expect_equal(numbers_now(scaled, q)[["estimate "]], 1000 * numbers_told(plain_answers()[[q]])[["estimate "]], tolerance = 1e-9)
})

test_that("columns that nobody asks about change no number and no reading", {
  d <- as.data.frame(hive_study())
  more <- cbind(d, with_seed(6, data.frame(hive_colour = sample(c("white", "green"), nrow(d), TRUE), lid_mm = round(rnorm(nrow(d), 20, 2)),
                                           `if` = sample(c("a", "b"), nrow(d), TRUE), `test` = runif(nrow(d)), check.names = FALSE)))
  t <- open_study(more)
  for (q in trial_questions[1:12]) {
    a <- ask(t, q)
    expect_equal(numbers_told(a), numbers_told(plain_answers()[[q]]), tolerance = 1e-12, info = q)
    expect_equal(reading(a)$plain, reading(plain_answers()[[q]])$plain, info = q)
  }
})
