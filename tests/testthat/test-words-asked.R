# Columns that a form has called by its questions.

form_rows <- function() with_seed(95, {
  n <- 140
  data.frame(`How old are you?` = sample(c("Under 18", "18-34", "35-54", "55+"), n, TRUE), `Who did you come with?` = sample(c("Alone", "Family", "Friends"),
               n, TRUE), `How did you travel here?` = sample(c("Car", "Bus", "Train"), n, TRUE), `Would you recommend us (0-10)?` = rbinom(n, 10, 0.8),
             `Time spent (minutes)` = round(rgamma(n, 4, 0.05)), `First visit?` = sample(c("Yes", "No"), n, TRUE), check.names = FALSE)
})

test_that("a question has the name of what it asks", {
  spoken <- internal("spoken_names")
  expected <- c("How old are you?" = "age", "How many children do you have?" = "children", "What is your gender?" = "gender",
                "How satisfied are you with the opening hours?" = "satisfaction with opening hours", "Which department do you work in?" = "department",
                "How would you rate the food?" = "food rating", "Do you smoke?" = "smoke", "How did you travel here?" = "travel mode",
                "How far do you live from work?" = "distance live from work", "how_long_have_you_worked_here" = "duration worked here")
  for (q in names(expected)) expect_equal(spoken(q)[1], expected[[q]], info = q)
  # names are no questions
  for (name in c("height", "how_long_days", "Time spent (minutes)", "First visit?", "which", "is_member", "area_of_home")) {
    expect_length(spoken(name), 0)
  }
})

test_that("questions in everyday words find such columns", {
  rows <- form_rows(); s <- open_study(rows)
  of <- function(column, value, by) as.vector(tapply(rows[[value]], rows[[by]], mean))
  a <- table_of(ask(s, "average recommendation score by age group"), "groups")
  expect_equal(sort(a$mean), sort(of(value = "Would you recommend us (0-10)?", by = "How old are you?")), tolerance = 1e-12)
  b <- table_of(ask(s, "average time spent by who they came with"), "groups")
  expect_equal(sort(b$mean), sort(of(value = "Time spent (minutes)", by = "Who did you come with?")), tolerance = 1e-12)
  d <- ask(s, "is travel mode associated with who they came with?")
  expect_equal(value_of(d, "p_value"), chisq.test(table(rows[[3]], rows[[2]]), correct = FALSE)$p.value, tolerance = 1e-10)
  expect_equal(value_of(ask(s, "how many visitors were under 18?"), "n"), sum(rows[[1]] == "Under 18"))
  e <- ask(s, "how likely are visitors to recommend us?")
  expect_equal(value_of(e, "estimate"), mean(rows[[4]]), tolerance = 1e-12)
  # the name stands in quotes in a sentence
  expect_match(as.list(a <- ask(s, "average time spent by age group"))$reading$plain, "\"How old are you?\"", fixed = TRUE)
  expect_retraces(a)
})
