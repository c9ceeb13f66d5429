# A survey with a codebook, as libraries run them, and trials, orders and staff in made-up data.

library_survey <- function(n = 400) with_seed(12, {
  d <- data.frame(resp_id = 1:n, lib_branch = sample(1:4, n, TRUE), agegrp = sample(c(1:5, -9), n, TRUE, c(.15, .25, .25, .2, .13, .02)),
    sex = sample(c(1, 2, 9), n, TRUE, c(.45, .53, .02)), visits_m = sample(c(0:12, -99), n, TRUE), q1 = sample(c(1:5, -99), n, TRUE),
    q2 = sample(c(1:5, -99), n, TRUE), q3 = sample(c(1:5, -99), n, TRUE), overall = sample(c(0:10, -99), n, TRUE),
    card = sample(0:1, n, TRUE, c(.3, .7)), wave = sample(c("2023-05-01", "2023-11-01", "2024-05-01"), n, TRUE),
    remarks = sample(c("Please open on Sundays", "More children's books", "Too noisy in the reading room", "Friendly staff"), n, TRUE))
  scale <- "1=Very dissatisfied; 2=Dissatisfied; 3=Neither; 4=Satisfied; 5=Very satisfied"
  book <- data.frame(column = names(d),
    label = c("Respondent number", "Library branch", "Age group", "Gender", "Library visits per month", "Satisfaction with opening hours",
              "Satisfaction with the book selection", "Satisfaction with the reading room", "Overall satisfaction (0 to 10)",
              "Holds a library card", "Survey wave", "Open comments"),
    values = c("", "1=Central; 2=Harbour; 3=Hillside; 4=Mobile library", "1=16-24; 2=25-39; 3=40-54; 4=55-69; 5=70+", "1=Male; 2=Female", "",
               scale, scale, scale, "", "0=No; 1=Yes", "", ""),
    missing = c("", "", "-9", "9", "-99", "-99", "-99", "-99", "-99", "", "", ""))
  list(data = d, book = book, branches = data.frame(branch = 1:4, staff = c(24, 11, 9, 3), opening_hours_week = c(60, 44, 40, 20),
                                                    refurbished = c("yes", "no", "yes", "no")))
})
survey_study <- function(joined = FALSE) {
  folder <- withr::local_tempdir(.local_envir = parent.frame())
  p <- library_survey()
  paths <- file.path(folder, c("library.csv", "library_codebook.csv", "branches.csv"))
  utils::write.csv(p$data, paths[1], row.names = FALSE); utils::write.csv(p$book, paths[2], row.names = FALSE)
  utils::write.csv(p$branches, paths[3], row.names = FALSE)
  list(study = open_study(paths[seq_len(2 + joined)]), data = p$data)
}

test_that("feelings, bands of ages and words of labels are read for the columns they mean", {
  p <- survey_study(); s <- p$study
  expect_read_as(s, c(
    "How satisfied are people overall?" = "describe overall [mean]",
    "are women more satisfied with the opening hours than men?" = "compare q1 by sex",
    "percentage very satisfied with the book selection" = "frequency q2 [percent] event q2 is Very satisfied",
    "visits per month of people aged 70+" = "describe visits_m where agegrp is 70+",
    "men under 25: mean overall satisfaction" = "describe overall [mean] where agegrp is 16-24 & sex is Male",
    "which branch do 16-24 year olds rate best overall" = "rank overall by lib_branch [mean] where agegrp is 16-24",
    "correlation between satisfaction with opening hours and satisfaction with book selection" = "relate q1 from q2",
    "did overall satisfaction change between May 2023 and May 2024?" = "compare overall by two_months",
    "what do people complain about?" = "themes remarks"))
  kept <- function(x) x[x != -99]
  expect_equal(value_of(ask(s, "percentage very satisfied with the book selection"), "estimate"), mean(kept(p$data$q2) == 5))
  expect_equal(value_of(ask(s, "How satisfied are people overall?"), "estimate"), mean(kept(p$data$overall)), tolerance = 1e-12)
  expect_equal(nrow(table_of(ask(s, "share of card holders by age group"), "crosstab")), 10)
})

test_that("items of one scale are found by a word of their labels, and a level of theirs is no condition", {
  s <- survey_study()$study
  expect_equal(unlist(reading(ask(s, "are the three satisfaction items reliable as a scale?"))$outcome), c("q1", "q2", "q3"))
  expect_equal(method_of(ask(s, "how were the satisfaction items answered")), "item_answers")
  a <- ask(s, "top box share (very satisfied) for each item")
  expect_length(reading(a)$filters, 0)
  expect_equal(reading(ask(s, "which test to compare satisfaction with the reading room between men and women?"))$task, "advise")
  b <- ask(s, "compare overall satisfaction of the Central and Mobile branches at the 99 % level")
  expect_equal(value_of(b, "conf_level"), 0.99)
  expect_equal(filters_of(b), "lib_branch in Central|Mobile library")
  expect_equal(value_of(ask(s, "how many people did not answer the question on the reading room"), "missing_cells"),
               sum(survey_study()$data$q3 == -99))
})

test_that("two months set against each other are compared and retraced", {
  p <- survey_study()
  a <- ask(p$study, "did overall satisfaction change between May 2023 and May 2024?")
  d <- p$data[p$data$overall != -99 & p$data$wave != "2023-11-01", ]
  expect_equal(value_of(a, "p_value"), t.test(overall ~ wave, d)$p.value, tolerance = 1e-10)
  expect_retraces(a)
})

test_that("a table is joined by a key whose last word names it", {
  p <- survey_study(joined = TRUE); s <- p$study
  a <- ask(s, "does overall satisfaction differ between refurbished and other branches?")
  expect_equal(c(unlist(reading(a)$outcome), unlist(reading(a)$by)), c("overall", "refurbished"))
  d <- p$data[p$data$overall != -99, ]
  expect_equal(value_of(a, "p_value"), t.test(overall ~ I(lib_branch %in% c(1, 3)), d)$p.value, tolerance = 1e-10)
  expect_read_as(s, c("average overall satisfaction against opening hours per week" = "relate overall from opening_hours_week [mean]"))
})

staff_data <- function(n = 180) with_seed(5, data.frame(staff_no = sprintf("S%03d", 1:n), team = sample(c("Design", "Sales", "Support"), n, TRUE),
  joined = as.Date("2018-01-01") + sample(0:2200, n, TRUE), engagement_2023 = sample(1:5, n, TRUE), engagement_2024 = sample(1:5, n, TRUE),
  overtime_h = round(rexp(n, .2), 1), sick_days = rpois(n, 4), manager = sample(c("yes", "no"), n, TRUE, c(.2, .8)),
  salary_eur = round(rlnorm(n, 10.7, .3))))

test_that("staff: years in the names of columns, sides of a yes/no column, units before 'of', parts of totals", {
  d <- staff_data(); s <- open_study(d)
  expect_read_as(s, c(
    "Has engagement improved since 2023?" = "change engagement_2023+engagement_2024",
    "what share of support staff scored engagement 4 or 5 in 2024" =
      "frequency engagement_2024 event engagement_2024 is 4 or 5 where team is Support",
    "median salary of managers and non-managers" = "describe salary_eur by manager [median]",
    "salary by team, excluding managers" = "describe salary_eur by team where manager is no",
    "average sick days for those with more than 10 hours of overtime" = "describe sick_days [mean] where overtime_h is above 10",
    "what fraction of sick days falls on Support?" = "describe sick_days by team"))
  expect_equal(value_of(ask(s, "Has engagement improved since 2023?"), "p_value"), t.test(d$engagement_2023, d$engagement_2024,
    paired = TRUE)$p.value, tolerance = 1e-10)
  expect_match(as.list(ask(s, "who took the most sick days"))$sentences$headline, "sick days", fixed = TRUE)
})

visit_data <- function(k = 60) with_seed(6, { base <- rnorm(k, 150, 12)
  do.call(rbind, lapply(0:3, function(v) data.frame(subject = sprintf("T%02d", 1:k), arm = rep(c("placebo", "low dose", "high dose"), 20),
    visit = v, sbp_mmhg = round(base - v * rep(c(0, 2, 4), 20) + rnorm(k, 0, 6)),
    adverse_event = sample(c("none", "headache", "nausea"), k, TRUE, c(.7, .2, .1))))) })

test_that("visits: two of them set against each other, levels written out before their synonyms, any event", {
  d <- visit_data(); s <- open_study(d)
  a <- ask(s, "change in blood pressure from visit 0 to visit 3 by arm")
  expect_equal(c(method_of(a), filters_of(a)), c("anova_mixed", "visit in 0|3"))
  b <- ask(s, "only placebo: is sbp at visit 3 different from visit 0?")
  own <- d[d$arm == "placebo", ]
  expect_equal(value_of(b, "p_value"), t.test(own$sbp_mmhg[own$visit == 3], own$sbp_mmhg[own$visit == 0], paired = TRUE)$p.value,
               tolerance = 1e-8)
  c <- ask(s, "risk of any adverse event: high dose compared with placebo")
  two <- d[d$arm != "low dose", ]
  expect_equal(value_of(c, "p_value"), chisq.test(two$adverse_event != "none", two$arm, correct = FALSE)$p.value, tolerance = 1e-10)
  expect_equal(method_of(ask(s, "is there an arm by visit interaction")), "anova_mixed")
})

shop_data <- function(n = 300) with_seed(10, data.frame(order_id = 1:n, customer = sample(sprintf("C%02d", 1:60), n, TRUE),
  channel = sample(c("web", "shop", "phone"), n, TRUE, c(.6, .3, .1)), country = sample(c("UK", "Germany", "France"), n, TRUE),
  order_date = as.Date("2024-01-01") + sample(0:364, n, TRUE), items = rpois(n, 2) + 1, value_gbp = round(rlnorm(n, 3.5, .6), 2),
  discount_pct = sample(c(0, 5, 10, 20), n, TRUE), returned = sample(c("yes", "no"), n, TRUE, c(.15, .85)), rating = sample(c(1:5, NA), n, TRUE)))

test_that("orders: customers by their orders, money in pounds, ratings not given, rates against a value", {
  d <- shop_data(); s <- open_study(d)
  often <- table(d$customer)
  a <- ask(s, "how many customers ordered more than 5 times?")
  expect_equal(value_of(a, "estimate"), sum(often > 5))
  expect_retraces(a)
  expect_equal(value_of(ask(s, "repeat customers: how many?"), "estimate"), sum(often > 1))
  expect_equal(value_of(ask(s, "how many orders have no rating"), "n"), sum(is.na(d$rating)))
  expect_equal(filters_of(ask(s, "orders over 60 pounds")), "value_gbp > 60")
  b <- ask(s, "is the return rate in France higher than 10 %?")
  own <- d[d$country == "France", ]
  expect_equal(value_of(b, "p_value"), binom.test(sum(own$returned == "yes"), nrow(own), 0.1)$p.value, tolerance = 1e-8)
  c <- ask(s, "average number of items for orders with a 20% discount vs none")
  expect_equal(abs(value_of(c, "estimate")), abs(mean(d$items[d$discount_pct == 20]) - mean(d$items[d$discount_pct == 0])), tolerance = 1e-10)
  e <- ask(s, "compare web and shop on value, items and rating")
  expect_equal(method_of(e), "group_summary")
  expect_equal(method_of(ask(s, "how strongly does discount drive value")), "pearson")
})

test_that("series: months of the year, units after per, a trend of what", {
  x <- 1:60
  d <- with_seed(9, data.frame(month = seq(as.Date("2019-01-01"), by = "month", length.out = 60),
    ice_litres = round(500 + 200 * sin(2 * pi * (x - 4) / 12) + rnorm(60, 0, 30)), mean_temp_c = round(10 + 8 * sin(2 * pi * (x - 4) / 12), 1),
    promotion = sample(c("yes", "no"), 60, TRUE)))
  s <- open_study(d)
  a <- ask(s, "which month sells the most ice on average?")
  expect_equal(as.character(table_of(a, "ranking")$month_of_year[1]), month.name[which.max(tapply(d$ice_litres, format(d$month, "%m"), mean))])
  expect_equal(status_of(ask(s, "ice litres per degree")), "needs_choice")
  expect_equal(status_of(ask(s, "is the upward trend significant once the season is taken out?")), "needs_choice")
  expect_read_as(s, c("months with promotion: mean litres" = "describe ice_litres [mean] where promotion is yes"))
})

birth_data <- function() { b <- MASS::birthwt
  data.frame(mother = seq_len(nrow(b)), low_weight = ifelse(b$low == 1, "yes", "no"), age = b$age, mother_weight_lb = b$lwt,
             race = c("white", "black", "other")[b$race], smoker = ifelse(b$smoke == 1, "yes", "no"), birth_weight_g = b$bwt) }

test_that("follow-ups: denied levels, steps back, shares of what was counted, pairs, another factor", {
  d <- birth_data(); s <- open_study(d)
  follow <- function(...) { a <- s; for (q in c(...)) a <- ask(a, q); a }
  expect_equal(filters_of(follow("average birth weight by race", "only smokers", "and non-smokers?")), "smoker == no")
  smokes <- "does smoking affect birth weight?"
  expect_equal(reading(follow(smokes, "adjust for race", "drop that again"))$task, "compare")
  expect_equal(method_of(follow(smokes, "what about age instead of smoking?")), "pearson")
  expect_equal(status_of(follow(smokes, "same for low weight")), "needs_choice")
  expect_equal(unlist(reading(follow(smokes, "split it by race"))$by), c("smoker", "race"))
  expect_equal(reading(follow(smokes, "is this effect large?"))$task, "explain")
  expect_equal(value_of(follow("share of low weight by race", "compare them"), "p_value"),
               chisq.test(d$low_weight, d$race, correct = FALSE)$p.value, tolerance = 1e-10)
  expect_equal(status_of(follow("top 5 heaviest babies", "now the lightest")), "needs_choice")
  expect_equal(method_of(follow("compare birth weight by race", "show me the pairs")), "anova_welch")
  expect_equal(status_of(follow("compare birth weight by race", "combine black and other")), "cannot_answer")
  expect_equal(unlist(reading(follow("average age", "by smoking status and race"))$by), c("smoker", "race"))
  expect_setequal(filters_of(follow(smokes, "over 30")), "age > 30")
  own <- d[d$smoker == "yes", ]
  told <- predict(lm(birth_weight_g ~ age, own), data.frame(age = 30))
  expect_equal(value_of(ask(s, "expected birth weight of a 30 year old smoker"), "estimate"), unname(told), tolerance = 1e-8)
  # after a model of both it is the model that is read
  both <- predict(lm(birth_weight_g ~ age + smoker, d), data.frame(age = 30, smoker = "yes"))
  expect_equal(value_of(follow("predict birth weight from age and smoking", "what would a 30 year old smoker be expected to have?"), "estimate"),
               unname(both), tolerance = 1e-8)
})

dairy_data <- function(n = 160) with_seed(33, data.frame(farm = sample(c("Hill", "Vale", "Moor", "Dale"), n, TRUE),
  breed = sample(c("Jersey", "Holstein"), n, TRUE), parity = sample(1:5, n, TRUE), milk_l = round(rnorm(n, 26, 5), 1),
  mastitis = sample(c("yes", "no"), n, TRUE, c(.2, .8)), cow_no = 1000 + seq_len(n), feed_kg = round(rnorm(n, 21, 3), 1)))

test_that("farms: the worst rate, conditions side by side, groups by a share, relations in breeds", {
  d <- dairy_data(); s <- open_study(d)
  rate <- tapply(d$mastitis == "yes", d$farm, mean)
  expect_equal(value_of(ask(s, "which farm has the worst mastitis rate"), "estimate"), max(rate))
  expect_equal(value_of(ask(s, "top 2 farms by share of Jerseys"), "estimate"), max(tapply(d$breed == "Jersey", d$farm, mean)))
  expect_setequal(filters_of(ask(s, "median milk of cows without mastitis on Vale or Dale")), c("mastitis == no", "farm in Vale|Dale"))
  a <- ask(s, "is the milk-feed relation the same in both breeds")
  expect_equal(method_of(a), "correlation_by_group")
  z <- vapply(split(d, d$breed), function(g) atanh(cor(g$milk_l, g$feed_kg)), 1); w <- table(d$breed) - 3
  expect_equal(value_of(a, "statistic"), sum(w * (z - sum(w * z) / sum(w))^2), tolerance = 1e-8)
  expect_read_as(s, c("milk yield of Jerseys versus Holsteins" = "compare milk_l by breed"))
  r <- data.frame(core = rep(1:12, each = 4), area_px = datasets::rock$area, permeability_md = datasets::rock$perm)
  k <- open_study(r)
  expect_equal(value_of(ask(k, "how many cores are there"), "estimate"), 12)
  m <- anova(lm(area_px ~ factor(core), r))[["Mean Sq"]]
  expect_equal(value_of(ask(k, "intraclass correlation of area within cores"), "estimate"), (m[1] - m[2]) / (m[1] + 3 * m[2]), tolerance = 1e-10)
  expect_read_as(k, c("cores with mean permeability above 500" = "describe permeability_md by core [mean]"))
})

test_that("items of one scale are set against each other, a department IT is no pronoun, pay is what is paid", {
  answers <- c("dissatisfied", "neutral", "satisfied")
  rows <- with_seed(515, data.frame(id = 1:150, dept = sample(c("Research", "Sales", "IT"), 150, TRUE), gender = sample(c("female", "male"), 150, TRUE),
                                    tenure_years = round(rexp(150, 1 / 6), 1), salary_keur = round(rlnorm(150, 3.9, 0.3), 1), stress = sample(0:10, 150, TRUE)))
  for (item in c("pay", "team", "workload")) rows[[paste0("sat_", item)]] <- factor(with_seed(nchar(item), sample(answers, 150, TRUE)), answers, ordered = TRUE)
  s <- open_study(rows)
  a <- ask(s, "compare the three satisfaction items")
  expect_equal(method_of(a), "friedman")
  own <- stats::friedman.test(as.matrix(as.data.frame(lapply(rows[c("sat_pay", "sat_team", "sat_workload")], as.integer))))
  expect_equal(value_of(a, "p_value"), own$p.value, tolerance = 1e-9)
  expect_length(filters_of(ask(s, "what is related to stress, and what goes with it")), 0)
  expect_equal(filters_of(ask(s, "average stress in IT")), "dept == IT")
  rows$smoker <- ifelse(rows$stress > 5, "YES", "NO")
  expect_equal(filters_of(ask(open_study(rows), "average stress where smoker is no")), "smoker == NO")
  a <- ask(s, "gender pay gap adjusted for tenure")
  fit <- stats::coef(stats::lm(salary_keur ~ gender + tenure_years, rows))[["gendermale"]]
  expect_equal(abs(value_of(a, "estimate")), abs(fit), tolerance = 1e-8)
  # a comparison with nothing to compare is no mean of all rows
  expect_equal(status_of(ask(s, "are cyclists less stressed?")), "needs_choice")
  b <- ask(ask(s, "anova of stress by department"), "which departments differ?")
  expect_equal(reading(b)$outcome, "stress")
})

# Visitors of a museum: members and others, answers on a scale in words and from 0 to 10, open answers.
visitors <- function() {
  set.seed(31)
  n <- 160
  d <- data.frame(resp = seq_len(n), visit_date = as.Date("2026-01-03") + sample(0:200, n, TRUE), member = sample(c("Member", "Non-member"), n, TRUE),
                  age_band = sample(c("Under 25", "25-44", "45-64", "65+"), n, TRUE), gender = sample(c("Woman", "Man"), n, TRUE),
                  recommend = pmin(10, pmax(0, round(stats::rnorm(n, 8, 2)))), spend_gbp = round(stats::rlnorm(n, 2.6, 0.7), 2),
                  distance_km = round(stats::rlnorm(n, 2, 1), 1), first_visit = sample(c("Y", "N"), n, TRUE))
  words <- c("Very dissatisfied", "Dissatisfied", "Neither", "Satisfied", "Very satisfied")
  d$satisfaction <- c(words, sample(words, n - 5, TRUE))
  d
}

test_that("members are the rows at the level, membership is the column", {
  d <- visitors()
  s <- open_study(local_data(d))
  a <- ask(s, "satisfaction of members under 25")
  expect_equal(value_of(a, "n"), sum(d$member == "Member" & d$age_band == "Under 25"))
  a <- ask(s, "average spend by membership")
  expect_equal(sort(as.numeric(table_of(a, "groups")$mean)), sort(as.vector(tapply(d$spend_gbp, d$member, mean))))
  expect_equal(value_of(ask(s, "how many members are under 25?"), "n"), sum(d$member == "Member" & d$age_band == "Under 25"))
})

test_that("boxes, bands and single answers of scales are shares of rows", {
  d <- visitors()
  s <- open_study(local_data(d))
  a <- ask(s, "top two box satisfaction by gender")
  top <- d$satisfaction %in% c("Satisfied", "Very satisfied")
  expect_equal(value_of(a, "estimate"), mean(top))
  expect_equal(sort(as.numeric(table_of(a, "shares")$share)), sort(as.vector(tapply(top, d$gender, mean))))
  expect_equal(value_of(ask(s, "share of 9s and 10s on recommend"), "estimate"), mean(d$recommend >= 9))
  expect_equal(value_of(ask(s, "how many visitors gave a score of 0 to 6 on recommend"), "n"), sum(d$recommend <= 6))
  a <- ask(s, "do promoters spend more than detractors?")
  own <- stats::t.test(d$spend_gbp[d$recommend <= 6], d$spend_gbp[d$recommend >= 9])
  expect_equal(value_of(a, "p_value"), own$p.value, tolerance = 1e-8)
  expect_retraces(a)
})

test_that("how likely, how far and on which day are measures compared or averaged", {
  d <- visitors()
  s <- open_study(local_data(d))
  a <- ask(s, "how likely are women to recommend us compared with men?")
  expect_equal(value_of(a, "p_value"), stats::t.test(recommend ~ gender, d)$p.value, tolerance = 1e-8)
  expect_equal(value_of(ask(s, "how likely are women to recommend us?"), "estimate"), mean(d$recommend[d$gender == "Woman"]))
  expect_equal(value_of(ask(s, "how far do women travel?"), "estimate"), mean(d$distance_km[d$gender == "Woman"]))
  expect_equal(value_of(ask(s, "average spend on Saturdays"), "estimate"), mean(d$spend_gbp[format(d$visit_date, "%u") == "6"]))
  a <- ask(s, "average distance by age band, median please")
  expect_equal(reading(a)$statistic, "median")
})
