# Whole readings of everyday questions, on made-up data of four fields.

test_that("calls: units, shares, hours, percentiles, words of the same family", {
  expect_read_as(open_study(call_data()), c(
    "How long do customers wait on average?" = "describe wait_sec [mean]",
    "what fraction of callers waited over two minutes?" = "frequency wait_sec event wait_sec is above 120",
    "mean handle time of calls waiting between 1 and 3 minutes" = "describe handle_min [mean] where wait_sec is from 60 to 180",
    "calls waiting more than 5 minutes" = "look_up  where wait_sec is above 300",
    "resolution rate by agent" = "frequency resolved by agent event resolved is Y",
    "top 2 agents by resolution rate" = "rank resolved by agent [percent] event resolved is Y",
    "how often is a call unresolved on the night shift?" = "frequency resolved event resolved is N where team is night shift",
    "busiest hour of the day" = "trend  [count] every hour",
    "90th percentile of waiting time by team" = "describe wait_sec by team [p90]",
    "who has the best csat?" = "rank csat by agent [mean]",
    "does csat depend on wait and handle time?" = "predict csat from wait_sec+handle_min",
    "Do new customers give lower csat?" = "compare csat by new_customer",
    "number of calls by topic and team" = "frequency topic+team"))
})

test_that("orders: totals of what adds up, different values, seasons, one side against the rest", {
  expect_read_as(open_study(order_data()), c(
    "revenue per month" = "trend revenue [sum] every month",
    "number of customers per country" = "frequency customer by country [distinct]",
    "how many different customers do we have?" = "frequency customer [distinct]",
    "orders with more than 10% discount" = "look_up  where discount is above 0.1",
    "orders without a discount" = "look_up  where discount is 0",
    "did revenue go up?" = "trend revenue",
    "growth in revenue from 2023 to 2024" = "trend revenue [sum] every year where order_date is from 2023-01-01 to 2024-12-31",
    "median revenue of returned versus kept orders" = "describe revenue by returned [median]",
    "is express shipping faster?" = "compare delivery_days by shipping",
    "is the median revenue higher for express?" = "compare revenue by shipping [median]",
    "return rate by country" = "frequency returned by country event returned is Yes",
    "revenue in spring versus autumn" = "compare revenue by season where season is spring or autumn"))
})

test_that("a trial: changes between columns, wide data, events, any but none", {
  expect_read_as(open_study(pressure_data()), c(
    "how many patients dropped out of each arm?" = "frequency dropout+arm",
    "do men drop out more often than women?" = "compare dropout by sex",
    "change in sbp from baseline to week 12 by arm" = "describe sbp_change by arm",
    "compare sbp at baseline, week 4 and week 12 by arm" = "compare sbp_baseline+sbp_week4+sbp_week12 by arm",
    "did blood pressure fall?" = "change sbp_baseline+sbp_week4+sbp_week12",
    "time to relapse by arm" = "survival time_to_relapse_days+relapsed by arm event relapsed is yes",
    "median time to relapse" = "survival time_to_relapse_days+relapsed [median] event relapsed is yes",
    "mean time to relapse by arm" = "describe time_to_relapse_days by arm [mean]",
    "proportion of patients with any adverse event" = "frequency adverse_event event adverse_event is mild, moderate or severe",
    "share with any adverse event by arm" = "frequency adverse_event by arm [percent] event adverse_event is mild, moderate or severe",
    "were there more adverse events in the high dose arm?" = "compare adverse_event by arm",
    "week 12 sbp adjusted for baseline by arm" = "predict sbp_week12 from arm",
    "exclude Graz and repeat: bmi by arm" = "describe bmi by arm where centre is not Graz"))
})

test_that("members: losses between two columns, shares among, verbs of dates", {
  expect_read_as(open_study(gym_data()), c(
    "did people with a personal trainer lose more weight?" = "compare weight_loss by personal_trainer",
    "average weight loss" = "describe weight_loss [mean]",
    "weight loss by plan" = "describe weight_loss by plan",
    "weight before and after" = "change weight_start_kg+weight_end_kg",
    "share of current smokers among men" = "frequency smoker event smoker is current where sex is male",
    "members who joined after June 2024" = "look_up  where joined is after 2024-06-30",
    "how often do members visit?" = "describe visits_per_month",
    "cancellation rate by plan" = "frequency cancelled by plan event cancelled is yes",
    "what's the typical visit frequency of members under 30" = "describe visits_per_month where age is below 30"))
})

test_that("every reading that leaves something open says how it was settled", {
  s <- open_study(call_data())
  expect_match(paste(reading(ask(s, "what fraction of callers waited over two minutes?"))$assumed, collapse = " "), "Took 2 minutes as 120 s")
  expect_match(paste(reading(ask(s, "who has the best csat?"))$assumed, collapse = " "), "Took \"who\" to ask about agent")
  o <- open_study(order_data())
  expect_match(paste(reading(ask(o, "revenue per month"))$assumed, collapse = " "), "total, since revenue adds up")
  expect_match(paste(reading(ask(o, "mean discount per month"))$plain, collapse = " "), "Mean of discount")
  expect_match(paste(reading(ask(o, "discount per month"))$assumed, collapse = " "), "summarised by its mean")
  expect_match(paste(reading(ask(o, "orders with more than 10% discount"))$assumed, collapse = " "), "10 % as 0.1")
})

test_that("a column that is named and not used is told", {
  verdict <- internal("read_question")(hive_study(), "mean honey yield by arm")
  expect_no_match(paste(verdict$reading$assumed, collapse = " "), "no part")
  state <- internal("parse_question")("honey yield by arm", internal("build_vocabulary")(hive_study()))
  mentions <- internal("find_mentions")(state)
  bare <- internal("new_reading")("describe", outcome = "honey_yield_kg")
  expect_equal(internal("unplaced_mentions")(state, mentions, bare), "arm")
})

test_that("answers to such questions retrace", {
  s <- open_study(call_data())
  for (q in c("top 2 agents by resolution rate", "90th percentile of waiting time by team", "busiest hour of the day",
      "resolution rate by agent")) expect_retraces(ask(s, q))
  o <- open_study(order_data())
  for (q in c("number of customers per country", "how many different customers do we have?", "revenue in spring versus autumn", "revenue per month",
              "is the median revenue higher for express?")) expect_retraces(ask(o, q))
  p <- open_study(pressure_data())
  for (q in c("compare sbp at baseline, week 4 and week 12 by arm", "share with any adverse event by arm", "dose response of week 12 sbp across arms",
              "number needed to treat for relapse, high dose vs placebo")) expect_retraces(ask(p, q))
})

test_that("a school: columns come before levels of the same stem, names before their words", {
  expect_read_as(open_study(school_data()), c(
    "average attendance by school" = "describe attendance_pct by school [mean]",
    "do pupils on free meals attend less?" = "compare attendance_pct by free_meals",
    "reading score of pupils whose parents attended" = "describe reading_score where parent_evening is attended",
    "attendance by year group and free meals" = "describe attendance_pct by year_group+free_meals",
    "which year group has the best reading?" = "rank reading_score by year_group [mean]",
    "did maths scores improve from autumn to summer?" = "change maths_autumn+maths_summer",
    "progress in maths by tutoring" = "describe maths_progress by tutoring",
    "percentage of pupils with any exclusions" = "frequency exclusions event exclusions is above 0",
    "pupils with attendance below 90%" = "look_up  where attendance_pct is below 90",
    "fee over \u00a340" = "look_up  where fee_gbp is above 40"))
  expect_equal(status_of(ask(open_study(school_data()), "is tutoring effective?")), "needs_choice")
})

test_that("words of time before and after numbers and superlatives are no levels", {
  d <- with_seed(92, data.frame(date = as.Date("2023-01-01") + 0:99, electricity = rnorm(100, 30, 4), outside_temp = rnorm(100, 10, 5),
                                tariff = rep(c("day", "night"), 50)))
  s <- open_study(d)
  expect_length(reading(ask(s, "hottest day"))$filters, 0)
  expect_length(reading(ask(s, "7 day rolling average of electricity"))$filters, 0)
  expect_equal(filters_of(ask(s, "mean electricity on the night tariff")), "tariff == night")
})

test_that("field plots: a word of a column's own name is no synonym of another, units of two parts, days without a year", {
  d <- with_seed(93, data.frame(plot = 1:48, block = rep(c("B1", "B2"), each = 24), variety = rep(c("Aurora", "Bell", "Cresta"), 16),
                                nitrogen_kg_ha = rep(c(0, 40, 80, 120), 12), yield_t_ha = round(rnorm(48, 6, 0.6), 2),
                                    protein_pct = round(rnorm(48, 11), 1),
                                disease_score = sample(0:9, 48, TRUE), harvest = as.character(as.Date("2024-08-01") + sample(0:20, 48, TRUE))))
  s <- open_study(d)
  expect_read_as(s, c("yield by variety" = "describe yield_t_ha by variety", "protein vs yield" = "relate protein_pct from yield_t_ha",
                      "average disease score at 120 kg nitrogen" = "describe disease_score [mean] where nitrogen_kg_ha is 120",
                      "plots harvested after 10 August" = "look_up  where harvest is after 2024-08-10"))
  a <- ask(s, "compare yield at 0 and 120 kg nitrogen")
  expect_equal(value_of(a, "estimate"), with(d, mean(yield_t_ha[nitrogen_kg_ha == 0]) - mean(yield_t_ha[nitrogen_kg_ha == 120])), tolerance = 1e-10)
  expect_match(as.list(a)$sentences$headline, "^Yield is|yield between")
  expect_retraces(a)
})

test_that("an interaction on an outcome takes the outcome from after the words", {
  a <- ask(hive_study(), "interaction of arm and strength before on honey yield")
  expect_equal(c(reading(a)$outcome, reading(a)$predictors), c("honey_yield_kg", "arm", "strength_before"))
  expect_retraces(a)
})
