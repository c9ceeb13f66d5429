support <- with_seed(77, {
  d <- data.frame(ticket = 10000 + 1:240, agent = sprintf("AG%02d", sample(14, 240, TRUE)), team = sample(c("Alpha", "Bravo", "Charlie"), 240, TRUE),
                  opened = sprintf("2025-%02d-%02d", sample(4, 240, TRUE), sample(28, 240, TRUE)), channel = sample(c("phone", "chat", "email"),
                      240, TRUE),
                  wait_minutes = round(rexp(240, 1 / 6), 1), handle_minutes = round(rlnorm(240, 2.1, 0.4), 1), resolved = sample(c("yes", "no"),
                      240, TRUE))
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
  for (q in c("which channel has the most dissatisfied customers (satisfaction 1 or 2)?",
      "which channel has the most tickets with satisfaction 1 or 2")) {
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
  parts <- list("average wait in the first week of february" = month == 2 & day <= 7,
      "average wait in the last week of february 2025" = month == 2 & day >= 22,
                "average wait in the last 10 days of march" = month == 3 & day >= 22, "first half of march: average wait" = month == 3 & day <= 15,
                "average wait from 1 March to 15 March" = month == 3 & day <= 15)
  for (q in names(parts)) expect_equal(value_of(ask(s, q), "estimate"), mean(support$wait_minutes[parts[[q]]]), info = q)
})

test_that("both sides of a yes are counted, parts of a total told, chances expected at stated values, rows set beside each other by month", {
  s <- open_study(support)
  expect_equal(sort(table_of(ask(s, "what is the ratio of resolved to unresolved tickets?"), "counts")$n), sort(as.vector(table(support$resolved))))
  total <- tapply(support$wait_minutes, support$team, sum)
  expect_match(ask(s, "what is the total wait time per team as a percentage")$sentences$headline, sprintf("%.1f %%", 100 * max(total) / sum(total)),
      fixed = TRUE)
  a <- ask(s, "how likely is a ticket to be resolved if wait is 5 minutes and channel is phone")
  fit <- glm(resolved == "yes" ~ wait_minutes + channel, binomial, support)
  expect_equal(value_of(a, "estimate"), predict(fit, data.frame(wait_minutes = 5, channel = "phone"), type = "response")[[1]], tolerance = 1e-7)
  expect_retraces(a)
  b <- ask(s, "percentage change in tickets from january to april")
  expect_equal(method_of(b), "time_table")
  expect_equal(value_of(b, "n"), 240)
})

test_that("average numbers of rows are means of counts, over all periods and all levels", {
  d <- with_seed(17, data.frame(ticket = 1:120 + 9000, agent = sample(sprintf("AG%02d", 1:9), 120, TRUE),
      opened = as.Date("2025-01-01") + sort(sample(0:70, 120, TRUE))))
  s <- open_study(d)
  span <- as.numeric(diff(range(d$opened))) + 1
  for (q in c("average tickets per day", "on average, how many tickets come in each day?")) {
    a <- ask(s, q)
    expect_equal(value_of(a, "estimate"), 120 / span, tolerance = 1e-12, info = q)
    expect_equal(value_of(a, "empty_periods"), span - length(unique(d$opened)), info = q)
  }
  expect_retraces(a)
  b <- ask(s, "average number of tickets per agent")
  expect_equal(value_of(b, "estimate"), 120 / length(unique(d$agent)), tolerance = 1e-12)
  expect_retraces(b)
  g <- ask(s, "growth in number of tickets per month")
  expect_equal(reading(g)$time$every, "month")
  expect_equal(sum(table_of(g, "time")$n), 120)
})

test_that("levels that are numbers are read beside their column's name, and a unit of two columns by what else is said", {
  d <- with_seed(18, data.frame(model = sprintf("M%02d", 1:60), cylinders = sample(c("4", "6", "8", "rotary"), 60, TRUE, c(0.4, 0.3, 0.2, 0.1)),
                                city_mpg = round(rnorm(60, 22, 4), 1), highway_mpg = round(rnorm(60, 29, 4), 1)))
  s <- open_study(d)
  for (q in c("average city mpg of 4-cylinder cars vs 6-cylinder cars", "compare city mpg between 4 and 6 cylinders")) {
    a <- ask(s, q)
    own <- stats::t.test(city_mpg ~ cylinders, d[d$cylinders %in% c("4", "6"), ])
    expect_equal(abs(value_of(a, "statistic")), abs(own$statistic[[1]]), tolerance = 1e-8, info = q)
  }
  expect_equal(value_of(ask(s, "how many 4 cylinder cars are there"), "n"), sum(d$cylinders == "4"))
  expect_equal(filters_of(ask(s, "which cars do more than 30 mpg on the highway")), "highway_mpg > 30")
})

test_that("most of a kind is counted, and rows at zero are found by the verb", {
  d <- with_seed(19, data.frame(ticket = 1:150 + 9000, team = sample(c("A", "B", "C"), 150, TRUE, c(0.5, 0.3, 0.2)),
      resolved = sample(c("yes", "no"), 150, TRUE),
                                tier = sample(c("basic", "premium"), 150, TRUE, c(0.7, 0.3)), days_absent = rpois(150, 1.5)))
  s <- open_study(d)
  a <- ask(s, "which team has the most premium customers")
  expect_equal(value_of(a, "estimate"), max(tapply(d$tier == "premium", d$team, sum)))
  b <- ask(s, "which team has the highest number of resolved tickets")
  expect_equal(value_of(b, "estimate"), max(tapply(d$resolved == "yes", d$team, sum)))
  expect_equal(value_of(ask(s, "did any customer miss no days at all?"), "n"), sum(d$days_absent == 0))
})

test_that("rows beyond a quantile are counted in groups, and their share of a total is told", {
  s <- hive_study(); d <- as.data.frame(s); y <- d$honey_yield_kg
  cut <- quantile(y, 0.9, na.rm = TRUE, names = FALSE)
  a <- ask(s, "top 10% of hives by honey yield by arm")
  t <- table_of(a, "counts")
  expect_equal(t$n[match(c("control", "syrup"), t$arm)], c(sum(y >= cut & d$arm == "control", na.rm = TRUE), sum(y >= cut & d$arm == "syrup", na.rm = TRUE)))
  b <- ask(s, "what share of honey comes from the top 10% of hives?")
  shares <- table_of(b, "shares")
  own <- 100 * sum(y[y >= cut], na.rm = TRUE) / sum(y, na.rm = TRUE)
  expect_equal(shares$percent[shares$group == "top 10 %"], own, tolerance = 1e-10)
  expect_retraces(b)
  # a quantile of rows says nothing of units that come back
  d$beekeeper <- rep(sprintf("K%02d", 1:20), 9)
  c <- ask(open_study(d[c("beekeeper", "honey_yield_kg", "arm")]), "what share of honey comes from the top 10% of beekeepers?")
  expect_false(any(grepl("top_10", unlist(as.list(c)$reading[c("by", "outcome")]))))
})
