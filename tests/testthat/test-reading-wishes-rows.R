support <- with_seed(77, {
  d <- data.frame(ticket = 10000 + 1:240, agent = sprintf("AG%02d", sample(14, 240, TRUE)), team = sample(c("Alpha", "Bravo", "Charlie"), 240, TRUE),
                  opened = sprintf("2025-%02d-%02d", sample(4, 240, TRUE), sample(28, 240, TRUE)), channel = sample(c("phone", "chat", "email"), 240, TRUE),
                  wait_minutes = round(rexp(240, 1 / 6), 1), handle_minutes = round(rlnorm(240, 2.1, 0.4), 1), resolved = sample(c("yes", "no"), 240, TRUE))
  d$satisfaction <- pmin(5, pmax(1, round(3.6 - 0.05 * d$wait_minutes + rnorm(240, 0, 0.8))))
  d
})

test_that("rows are counted for who handled them, and for conditions of their own", {
  s <- open_study(support)
  a <- ask(s, "how many tickets did each team handle?")
  counts <- table(support$team)
  d <- table_of(a, "counts")
  expect_equal(sort(d$n), sort(as.vector(counts)))
  expect_retraces(a)
  expect_equal(method_of(ask(s, "how many tickets does each agent handle per month?")), "time_table")
  low <- support$satisfaction %in% 1:2
  for (q in c("which channel has the most dissatisfied customers (satisfaction 1 or 2)?", "which channel has the most tickets with satisfaction 1 or 2")) {
    b <- ask(s, q)
    expect_equal(sort(table_of(b, "counts")$n), sort(as.vector(table(support$channel[low]))), info = q)
  }
  shares <- tapply(low, support$channel, mean)
  e <- ask(s, "which channel has the highest share of tickets with satisfaction 1 or 2")
  expect_match(e$sentences$headline, sprintf("%.1f %% in %s", 100 * max(shares), names(which.max(shares))), fixed = TRUE)
})

test_that("a unit that two columns share is that of the column the words name", {
  s <- open_study(support)
  for (q in c("what percentage of tickets waited more than 10 minutes?", "share of tickets with a wait above 10 minutes",
              "what share of tickets waited longer than 10 minutes?")) {
    expect_equal(value_of(ask(s, q), "estimate"), mean(support$wait_minutes > 10), info = q)
  }
  # no word names either column: asked back
  expect_equal(status_of(ask(s, "how many tickets took more than 10 minutes?")), "needs_choice")
  fit <- lm(satisfaction ~ wait_minutes, support)
  for (q in c("what would satisfaction be after a 15 minute wait?", "what would satisfaction be with a wait of 15 minutes?")) {
    expect_equal(value_of(ask(s, q), "estimate"), predict(fit, data.frame(wait_minutes = 15))[[1]], tolerance = 1e-10, info = q)
  }
})

test_that("odds of one side to another start from the side named first; an improvement that is not held is no ranking of means", {
  s <- open_study(support)
  two <- table(support$team, support$resolved)[c("Alpha", "Bravo"), ]
  a <- ask(s, "odds of being resolved for Alpha compared to Bravo")
  expect_equal(value_of(a, "estimate"), two["Alpha", "yes"] * two["Bravo", "no"] / (two["Alpha", "no"] * two["Bravo", "yes"]), tolerance = 1e-10)
  for (q in c("which team has improved most in satisfaction since January?", "which agent improved the most in satisfaction?")) {
    expect_equal(status_of(ask(s, q)), "cannot_answer", info = q)
  }
})

test_that("parts of a month are days of it, also of March and February", {
  s <- open_study(support)
  day <- as.integer(substr(support$opened, 9, 10)); month <- as.integer(substr(support$opened, 6, 7))
  parts <- list("average wait in the first week of february" = month == 2 & day <= 7, "average wait in the last week of february 2025" = month == 2 & day >= 22,
                "average wait in the last 10 days of march" = month == 3 & day >= 22, "first half of march: average wait" = month == 3 & day <= 15,
                "average wait from 1 March to 15 March" = month == 3 & day <= 15)
  for (q in names(parts)) expect_equal(value_of(ask(s, q), "estimate"), mean(support$wait_minutes[parts[[q]]]), info = q)
})

test_that("both sides of a yes are counted, parts of a total told, chances expected at stated values, rows set beside each other by month", {
  s <- open_study(support)
  expect_equal(sort(table_of(ask(s, "what is the ratio of resolved to unresolved tickets?"), "counts")$n), sort(as.vector(table(support$resolved))))
  total <- tapply(support$wait_minutes, support$team, sum)
  expect_match(ask(s, "what is the total wait time per team as a percentage")$sentences$headline, sprintf("%.1f %%", 100 * max(total) / sum(total)), fixed = TRUE)
  a <- ask(s, "how likely is a ticket to be resolved if wait is 5 minutes and channel is phone")
  fit <- glm(resolved == "yes" ~ wait_minutes + channel, binomial, support)
  expect_equal(value_of(a, "estimate"), predict(fit, data.frame(wait_minutes = 5, channel = "phone"), type = "response")[[1]], tolerance = 1e-7)
  expect_retraces(a)
  b <- ask(s, "percentage change in tickets from january to april")
  expect_equal(method_of(b), "time_table")
  expect_equal(value_of(b, "n"), 240)
})
