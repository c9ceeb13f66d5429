feeling_data <- function(n = 150) with_seed(71, {
  scale <- c("Strongly disagree", "Disagree", "Neither agree nor disagree", "Agree", "Strongly agree")
  data.frame(department = sample(c("Finance", "IT", "HR"), n, TRUE), gender = sample(c("woman", "man"), n, TRUE),
             fair_pay = sample(scale, n, TRUE), workload_ok = sample(scale, n, TRUE),
             attitude = sample(c("Very negative", "Negative", "Neutral", "Positive", "Very positive"), n, TRUE),
             global_change = sample(c("much worse", "worse", "no change", "better", "much better"), n, TRUE))
})

test_that("happy and unhappy with what an item asks are its higher and lower answers", {
  s <- open_study(feeling_data())
  table <- c("which department is happiest with pay" = "rank fair_pay by department [mean]",
             "which department is most unhappy with pay?" = "rank fair_pay by department [mean]",
             "are women happier with their workload than men" = "compare workload_ok by gender")
  expect_read_as(s, table)
  low <- ask(s, "which department is most unhappy with pay?")
  expect_equal(as.list(low)$reading$top$order, "lowest")
  expect_match(paste(as.list(low)$reading$assumed, collapse = " "), "lower answers to fair_pay", fixed = TRUE)
})

test_that("a level of a rating compares where it is said as a comparison", {
  s <- open_study(feeling_data())
  a <- ask(s, "is global change better for women than men")
  expect_equal(method_of(a), "mann_whitney")
  expect_equal(unlist(as.list(a)$reading$by), "gender")
  b <- ask(s, "are women more positive than men")
  expect_equal(unlist(as.list(b)$reading$outcome), "attitude")
  # a column is never compared with itself
  expect_equal(status_of(ask(s, "was global change rated better")), "needs_choice")
})
