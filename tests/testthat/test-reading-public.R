# Questions as people put them to well-known data of the recommended packages: what each is read as, and numbers by base R.

quine_data <- function() { q <- MASS::quine
  data.frame(pupil_id = seq_len(nrow(q)), sex = ifelse(q$Sex == "F", "Female", "Male"), form = as.character(q$Age),
             learner = ifelse(q$Lrn == "SL", "slow", "average"), days_absent = q$Days) }
lung_data <- function() { l <- survival::lung
  data.frame(patient = seq_len(nrow(l)), survival_days = l$time, died = ifelse(l$status == 2, "yes", "no"), age_years = l$age,
             sex = ifelse(l$sex == 1, "male", "female"), ecog_score = l$ph.ecog, karnofsky_physician = l$ph.karno, karnofsky_patient = l$pat.karno,
             meal_calories = l$meal.cal, weight_loss_lb = l$wt.loss) }
anorexia_data <- function() { a <- MASS::anorexia
  data.frame(girl_id = sprintf("G%02d", seq_len(nrow(a))), therapy = c(CBT = "cognitive", Cont = "control", FT = "family")[as.character(a$Treat)],
             weight_before_lb = a$Prewt, weight_after_lb = a$Postwt) }
span_data <- function() { v <- MASS::survey
  data.frame(student = seq_len(nrow(v)), sex = as.character(v$Sex), writing_hand_span_cm = v$Wr.Hnd, other_hand_span_cm = v$NW.Hnd,
             pulse_bpm = v$Pulse, exercise = c(Freq = "frequent", None = "none", Some = "some")[as.character(v$Exer)], height_cm = v$Height,
             age = v$Age) }
insurance_data <- function() { i <- MASS::Insurance
  data.frame(district = as.character(i$District), engine_size = as.character(i$Group), age_band = as.character(i$Age), policy_holders = i$Holders,
             claims = i$Claims) }
uptake_data <- function() { u <- datasets::CO2
  data.frame(plant = as.character(u$Plant), origin = as.character(u$Type), treatment = as.character(u$Treatment), co2_conc_ml_l = u$conc,
             uptake = u$uptake) }
car_data <- function() { k <- MASS::Cars93
  data.frame(model = as.character(k$Model), maker = as.character(k$Manufacturer), type = as.character(k$Type), price_k_usd = k$Price,
             mpg_city = k$MPG.city, mpg_highway = k$MPG.highway, airbags = as.character(k$AirBags), horsepower = k$Horsepower,
             weight_lb = k$Weight, origin = as.character(k$Origin)) }
epilepsy_data <- function() { e <- MASS::epil
  data.frame(patient = e$subject, period = e$period, treatment = as.character(e$trt), seizures = e$y, age = e$age) }
oats_data <- function() { o <- nlme::Oats
  data.frame(block = as.character(o$Block), variety = as.character(o$Variety), nitrogen_cwt = o$nitro, yield = o$yield) }
state_data <- function() { d <- data.frame(state = rownames(datasets::state.x77), region = as.character(datasets::state.region), datasets::state.x77,
                                           check.names = FALSE)
  stats::setNames(d[c(1:7)], c("state", "region", "population_k", "income_usd", "illiteracy_pct", "life_expectancy", "murder_per_100k")) }
savings_data <- function() { l <- datasets::LifeCycleSavings
  data.frame(country = rownames(l), savings_ratio = l$sr, pop_under_15_pct = l$pop15, pop_over_75_pct = l$pop75, income_growth_pct = l$ddpi) }

test_that("a share that differs is that of the level or the condition named, whatever else could be measured", {
  d <- quine_data(); s <- open_study(d)
  expect_read_as(s, c(
    "does the share of slow learners differ between the forms" = "compare learner by form event learner is slow",
    "does the proportion of girls differ between forms" = "compare sex by form event sex is Female",
    "does the proportion of pupils absent more than 20 days differ by sex" = "compare days_absent by sex event days_absent is above 20",
    "mean absence excluding slow learners and boys" = "describe days_absent [mean] where learner is not slow & sex is not Male"))
  a <- ask(s, "does the proportion of girls differ between forms")
  expect_equal(value_of(a, "p_value"), suppressWarnings(chisq.test(d$sex, d$form, correct = FALSE))$p.value, tolerance = 1e-10)
  shares <- tapply(d$sex == "Female", d$form, mean)
  expect_match(paste(unlist(as.list(a)$sentences), collapse = " "), sprintf("%.1f %% in F0", 100 * shares[["F0"]]), fixed = TRUE)
  b <- ask(s, "does the proportion of pupils absent more than 20 days differ by sex")
  expect_equal(method_of(b), "share_by_group")
  expect_equal(value_of(b, "p_value"), chisq.test(d$days_absent > 20, d$sex, correct = FALSE)$p.value, tolerance = 1e-10)
  expect_equal(table_of(b, "shares")$share, as.vector(tapply(d$days_absent > 20, d$sex, mean)))
  expect_retraces(b)
})

test_that("whether a relation or a difference is the same for all is asked of the interaction", {
  d <- quine_data(); s <- open_study(d)
  fit <- lm(days_absent ~ learner * sex, d)
  for (q in c("is the relationship between learner type and absence different for boys and girls?",
              "is the difference in absence between slow and average learners the same for boys and girls",
              "does the effect of learner on absence differ by sex?")) {
    a <- ask(s, q)
    expect_equal(value_of(a, "estimate"), unname(coef(fit)[4]), tolerance = 1e-8, info = q)
  }
  v <- span_data(); b <- ask(open_study(v), "is the correlation between height and writing hand span stronger in men than in women?")
  expect_equal(method_of(b), "correlation_by_group")
  o <- oats_data(); c <- ask(open_study(o), "does the effect of nitrogen differ between varieties")
  expect_equal(value_of(c, "p_value"), anova(lm(yield ~ nitrogen_cwt + variety, o), lm(yield ~ nitrogen_cwt * variety, o))[2, "Pr(>F)"],
               tolerance = 1e-8)
})

test_that("columns are told apart by the parts of their names that are said", {
  expect_read_as(open_study(lung_data()), c(
    "Do physicians and patients agree on the Karnofsky score?" = "agreement karnofsky_physician+karnofsky_patient",
    "correlation between the two karnofsky scores" = "relate karnofsky_physician from karnofsky_patient",
    "does the Karnofsky score given by physicians differ from the one given by patients?" = "change karnofsky_physician+karnofsky_patient",
    "average calories consumed at meals by ecog score" = "describe meal_calories by ecog_score [mean]"))
  expect_read_as(open_study(span_data()),
                 c("is the writing hand span larger than the other hand span?" = "change writing_hand_span_cm+other_hand_span_cm",
                   "does exercise frequency go down with age" = "compare age by exercise"))
  expect_read_as(open_study(uptake_data()), c("Does chilling reduce CO2 uptake?" = "compare uptake by treatment",
                                              "does uptake level off at high concentrations?" = "predict uptake from co2_conc_ml_l"))
  s <- open_study(savings_data())
  expect_read_as(s, c(
    "regress savings ratio on the two population variables and income growth" =
      "predict savings_ratio from pop_under_15_pct+pop_over_75_pct+income_growth_pct",
    "mean savings ratio of countries with more than 40 percent under 15" = "describe savings_ratio [mean] where pop_under_15_pct is above 40"))
})

test_that("what the data does not hold is not taken for its only measure", {
  d <- data.frame(g = rep(c("a", "b"), 20), x = with_seed(3, rnorm(40)))
  for (q in c("does happiness differ by g", "does teacher experience differ by g")) {
    a <- ask(open_study(d), q)
    expect_equal(status_of(a), "cannot_answer", info = q)
  }
  expect_equal(status_of(ask(open_study(d), "does it differ by g")), "answered")
  s <- open_study(state_data())
  expect_equal(status_of(ask(s, "population density by region")), "cannot_answer")
})

test_that("a change is that of what was measured twice, wherever a question names it", {
  d <- anorexia_data(); s <- open_study(d)
  expect_read_as(s, c(
    "How much weight did the girls gain on average in each therapy?" = "describe weight_gain by therapy [mean]",
    "Which therapy led to the largest weight gain?" = "rank weight_gain by therapy [mean]",
    "Is family therapy better than control for weight gain?" = "compare weight_gain by therapy where therapy is family or control",
    "did patients in the control group lose weight?" = "change weight_before_lb+weight_after_lb where therapy is control",
    "was there a weight gain?" = "change weight_before_lb+weight_after_lb",
    "does weight gain depend on weight before?" = "relate weight_gain from weight_before_lb",
    "did the family girls gain more weight than the control girls?" = "compare weight_gain by therapy where therapy is family or control"))
  gain <- d$weight_after_lb - d$weight_before_lb
  expect_equal(value_of(ask(s, "How many girls lost weight?"), "n"), sum(gain < 0))
  expect_equal(value_of(ask(s, "What proportion gained more than 5 lb?"), "estimate"), mean(gain > 5))
  expect_equal(value_of(ask(s, "What was the biggest weight loss?"), "estimate"), max(-gain), tolerance = 1e-10)
  a <- ask(s, "does the proportion of girls who gained weight differ by therapy?")
  expect_equal(value_of(a, "statistic"), unname(chisq.test(gain > 0, d$therapy)$statistic), tolerance = 1e-10)
  expect_match(as.list(ask(s, "Which therapy led to the largest weight gain?"))$sentences$headline, "lb", fixed = TRUE)
  expect_retraces(a)
})

test_that("what is held constant is never passed over", {
  d <- anorexia_data(); s <- open_study(d)
  a <- ask(s, "compare weight after between family and control, adjusting for weight before")
  fit <- lm(weight_after_lb ~ therapy + weight_before_lb, d[d$therapy != "cognitive", ])
  expect_equal(abs(value_of(a, "estimate")), abs(unname(coef(fit)[2])), tolerance = 1e-8)
  l <- lung_data(); b <- ask(open_study(l), "adjusted for ecog score, does sex matter for survival?")
  expect_match(as.list(b)$sentences$headline, "sex", fixed = TRUE)
  expect_match(as.list(b)$sentences$headline, "with ecog_score held constant", fixed = TRUE)
  t <- with_seed(4, data.frame(patient = 1:80, arm = rep(c("placebo", "high dose"), 40), site = rep(1:4, 20), sbp = rnorm(80, 140, 9)))
  expect_equal(reading(ask(open_study(t), "sbp of high dose vs placebo, adjusting for site"))$adjust_for, "site")
})

test_that("rates, totals and parts of totals", {
  d <- insurance_data(); s <- open_study(d)
  expect_equal(value_of(ask(s, "What is the overall claim rate per policy holder?"), "estimate"), sum(d$claims) / sum(d$policy_holders),
               tolerance = 1e-12)
  big <- d[d$engine_size == ">2l", ]
  expect_equal(value_of(ask(s, "claims per policy holder for engines over 2 litres"), "estimate"), sum(big$claims) / sum(big$policy_holders),
               tolerance = 1e-12)
  for (q in c("what share of all claims comes from district 1?", "share of claims by district")) expect_equal(method_of(ask(s, q)),
                                                                                                             "share_of_total", info = q)
  expect_equal(status_of(ask(s, "plot claim rate by age band")), "needs_choice")
  e <- epilepsy_data()
  a <- ask(open_study(e), "which patient had the most seizures")
  expect_equal(value_of(a, "estimate"), max(tapply(e$seizures, e$patient, sum)))
  expect_equal(value_of(ask(open_study(e), "share of patient periods without any seizure"), "estimate"), mean(e$seizures == 0))
})

test_that("cars: nationalities, verbs between, prices in thousands, several stated values, what is left out", {
  d <- car_data(); s <- open_study(d)
  expect_read_as(s, c("average price of American cars" = "describe price_k_usd [mean] where origin is USA",
                      "which maker offers the most models" = "rank  by maker [count]",
                      "does highway mileage exceed city mileage?" = "change mpg_highway+mpg_city",
                      "mean price by origin excluding sporty cars and vans" =
                        "describe price_k_usd by origin [mean] where type is not Sporty or Van"))
  a <- ask(s, "expected price of a car with 200 horsepower and 3000 lb")
  expect_equal(value_of(a, "estimate"), unname(predict(lm(price_k_usd ~ horsepower + weight_lb, d), data.frame(horsepower = 200,
    weight_lb = 3000))), tolerance = 1e-8)
  b <- ask(s, "cheapest car with both airbags")
  expect_equal(status_of(b), "needs_choice")
  expect_equal(value_of(ask(b, "1"), "estimate"), min(d$price_k_usd[d$airbags == "Driver & Passenger"]))
  expect_match(as.list(ask(s, "most expensive car"))$sentences$headline, "61.9 thousand USD", fixed = TRUE)
})

test_that("sprays and sleepers: which is best, rows named in small letters, amounts of a unit", {
  sprays <- open_study(data.frame(plot = 1:72, spray = as.character(datasets::InsectSprays$spray), insects = datasets::InsectSprays$count))
  best <- ask(sprays, "Which spray works best?")
  expect_match(as.list(best)$sentences$headline, "lowest", fixed = TRUE)
  expect_true("Took more insects to be worse." %in% unlist(as.list(best)$reading$assumed))
  expect_read_as(sprays, c("is the count for spray B bigger than for the rest?" = "compare insects by spray [count]"))
  d <- ask(sprays, "Dunnett test against spray C")
  expect_match(as.list(d)$sentences$headline, "Against C", fixed = TRUE)
  z <- data.frame(animal = c("Cow", "Giraffe", "Cheetah", "Little brown bat", "Rabbit", "Goat", "Human", "Tiger", "Horse", "Pig", "Cat", "Mole"),
                  order = rep(c("Grazers", "Primates"), 6), awake_h = c(20, 22.1, 11.9, 4.1, 15.6, 18.7, 16, 8.2, 21.1, 14.9, 11.5, 15.6))
  s <- open_study(z)
  expect_read_as(s, c("awake hours of the cow" = "look_up awake_h where animal is Cow",
                      "how many hours are primates awake" = "describe awake_h where order is Primates"))
})

test_that("doses at their ends, without a dose, blocks named, and opposite sides of a bound", {
  o <- oats_data(); s <- open_study(o)
  expect_read_as(s, c("yield without nitrogen" = "describe yield where nitrogen_cwt is 0",
                      "mean yield at the highest nitrogen level by variety" = "describe yield by variety [mean] where nitrogen_cwt is 0.6",
                      "does nitrogen increase yield?" = "relate yield from nitrogen_cwt"))
  a <- ask(s, "friedman test of yield by nitrogen with block as blocks")
  m <- with(o, tapply(yield, list(block, nitrogen_cwt), mean))
  expect_equal(value_of(a, "statistic"), unname(friedman.test(m)$statistic), tolerance = 1e-10)
  q <- data.frame(event = seq_len(nrow(datasets::quakes)), depth_km = datasets::quakes$depth, magnitude = datasets::quakes$mag)
  k <- open_study(q)
  b <- ask(k, "do deep quakes (over 300 km) have lower magnitudes than shallow ones?")
  expect_equal(value_of(b, "p_value"), t.test(magnitude ~ depth_km > 300, q)$p.value, tolerance = 1e-10)
  expect_equal(value_of(ask(k, "how many earthquakes were above magnitude 5.5"), "n"), sum(q$magnitude > 5.5))
})

test_that("a hazard or an odds ratio is told per step of the size named", {
  l <- lung_data(); s <- open_study(l)
  a <- ask(s, "hazard ratio per 10 points of karnofsky_physician")
  fit <- survival::coxph(survival::Surv(survival_days, died == "yes") ~ I(karnofsky_physician / 10), l)
  expect_equal(value_of(a, "hazard_ratio"), exp(unname(coef(fit))), tolerance = 1e-6)
  expect_retraces(a)
  expect_equal(method_of(ask(s, "log-rank test for ecog score")), "log_rank")
  expect_equal(method_of(ask(s, "what share of patients was alive after 6 months")), "kaplan_meier")
})

test_that("slopes that change, curves of discrimination, everything at once, shares of those that meet a condition", {
  w <- MASS::whiteside
  d <- data.frame(insulation = as.character(w$Insul), outside_temp_c = w$Temp, gas_1000ft3 = w$Gas); s <- open_study(d)
  fit <- lm(gas_1000ft3 ~ outside_temp_c * insulation, d)
  expect_equal(value_of(ask(s, "does the slope of gas on temperature change after insulation?"), "estimate"), unname(coef(fit)[4]), tolerance = 1e-8)
  expect_equal(reading(ask(s, "regress gas on temperature separately before and after insulation"))$task, "predict")
  expect_read_as(s, c("gas consumption before vs after insulating" = "compare gas_1000ft3 by insulation"))
  u <- boot::urine
  d <- data.frame(sample_no = seq_len(nrow(u)), crystals = ifelse(u$r == 1, "yes", "no"), ph = u$ph, osmolarity = u$osmo, urea = u$urea,
                  calcium = u$calc); s <- open_study(d)
  expect_read_as(s, c("roc curve of calcium for crystals" = "predict crystals from calcium",
                      "are urea and osmolarity collinear?" = "relate urea from osmolarity"))
  a <- ask(s, "proportion with crystals among samples with calcium over 5")
  expect_equal(value_of(a, "estimate"), mean(u$r[which(u$calc > 5)]))
  b <- ask(s, "compare all measurements between samples with and without crystals")
  expect_equal(unlist(reading(b)$outcome), c("ph", "osmolarity", "urea", "calcium"))
})

test_that("raters by number, units that had both, studies that differ, ratios told on their own scale", {
  d <- with_seed(21, { k <- 40; p <- sample(c("benign", "atypical", "malignant"), k, TRUE)
    data.frame(slide = 1:k, pathologist_1 = p, pathologist_2 = ifelse(runif(k) < .7, p, "benign"), pathologist_3 = ifelse(runif(k) < .6, p,
      "atypical"), scale_a_g = round(rnorm(k, 50, 8), 1), scale_b_g = round(rnorm(k, 50, 8), 1)) })
  s <- open_study(d)
  expect_read_as(s, c("agreement between the three pathologists" = "agreement pathologist_1+pathologist_2+pathologist_3",
                      "kappa for pathologists 1 and 3" = "agreement pathologist_1+pathologist_3",
                      "how often did pathologist 1 say malignant" = "frequency pathologist_1 event pathologist_1 is malignant",
                      "is scale b biased relative to scale a" = "agreement scale_b_g+scale_a_g"))
  expect_equal(method_of(ask(s, "is scale b biased relative to scale a")), "limits_of_agreement")
  sl <- datasets::sleep
  s <- open_study(data.frame(patient = as.character(sl$ID), drug = as.character(sl$group), extra_sleep_h = sl$extra))
  a <- ask(s, "compare the two drugs, each patient had both")
  expect_equal(value_of(a, "p_value"), t.test(sl$extra[sl$group == 1], sl$extra[sl$group == 2], paired = TRUE)$p.value, tolerance = 1e-10)
  expect_equal(method_of(ask(s, "equivalence of the drugs within 0.5 hours")), "equivalence_t")
  m <- data.frame(trial = paste("Trial", 1:9), n_drug = c(50, 60, 45, 80, 120, 30, 64, 90, 55), events_drug = c(8, 10, 5, 14, 20, 3, 9, 13, 8),
                  n_control = c(52, 58, 44, 82, 118, 31, 60, 92, 54), events_control = c(12, 15, 9, 20, 33, 7, 14, 22, 10))
  b <- ask(open_study(m), "is there heterogeneity between the trials?")
  expect_equal(reading(b)$task, "pool")
  low <- exp(value_of(b, "prediction_low"))
  expect_match(paste(unlist(as.list(b)$sentences), collapse = " "), sprintf("between %.2f and", low), fixed = TRUE)
})

test_that("agreement with near misses is told beside chance with the same weights", {
  l <- lung_data()
  a <- ask(open_study(l), "agreement between karnofsky_physician and karnofsky_patient")
  expect_equal(method_of(a), "weighted_kappa")
  n <- vapply(c("kappa", "credited_agreement", "expected_agreement"), function(id) value_of(a, id), 1)
  expect_equal(n[["kappa"]], (n[["credited_agreement"]] - n[["expected_agreement"]]) / (1 - n[["expected_agreement"]]), tolerance = 1e-10)
  expect_equal(value_of(a, "agreement"), mean(l$karnofsky_physician == l$karnofsky_patient, na.rm = TRUE))
  expect_retraces(a)
})
