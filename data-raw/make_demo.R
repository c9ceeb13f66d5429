# Writes the demo data of the made-up Fernmoor Hive Network to inst/extdata/. Run from the package root: Rscript data-raw/make_demo.R
# Everything is invented; the seed is fixed, so the files come out the same every time.

set.seed(7301, kind = "Mersenne-Twister", normal.kind = "Inversion", sample.kind = "Rejection")
folder <- file.path("inst", "extdata")
dir.create(folder, showWarnings = FALSE, recursive = TRUE)
put <- function(x, name) utils::write.csv(x, file.path(folder, name), row.names = FALSE, na = "", fileEncoding = "UTF-8")

# ---- apiaries: one row an apiary -------------------------------------------------------------------------------
apiaries <- data.frame(
  apiary = c("Alder Bank", "Birch Hollow", "Cold Spring", "Dunmere", "East Fold", "Fernside", "Gorse Hill", "Heatherlow", "Ivy Gate",
             "Kestrel Edge", "Larch End", "Mill Race"),
  region = rep(c("north", "south", "coast"), c(5, 4, 3)),
  latitude = round(54.2 + runif(12, 0, 0.6), 4), longitude = round(-2.4 + runif(12, 0, 0.9), 4),
  altitude_m = round(c(runif(5, 180, 420), runif(4, 40, 160), runif(3, 5, 60))),
  forage = c("heather", "clover", "heather", "mixed", "heather", "clover", "mixed", "clover", "mixed", "oilseed", "clover", "oilseed"),
  hives = 15L, stringsAsFactors = FALSE)
put(apiaries, "apiaries.csv")

# ---- the feeding trial: 180 hives, three arms within every apiary ----------------------------------------------
n <- 180
apiary <- rep(seq_len(12), each = 15)
arm <- unlist(lapply(1:12, function(i) sample(rep(c("control", "syrup", "pollen patty"), 5))))
keeper <- paste0("K", formatC(apiary * 3 - sample(0:2, n, TRUE), width = 3, flag = "0"))
site <- rnorm(12, 0, 2)[apiary]
queen_age <- sample(c(4L, 12L, 16L, 24L, 28L, 36L), n, TRUE, c(.15, .3, .2, .2, .1, .05))
strength_before <- pmax(3, round(rnorm(n, 10, 2.2) - 0.05 * (queen_age - 12), 1))
mites_before <- rnbinom(n, size = 3, mu = 9)
mites_after <- rnbinom(n, size = 3, mu = pmax(1, 0.75 * mites_before + 3 - 1.0 * (arm == "pollen patty")))
lift <- c(control = 0, syrup = 3.4, `pollen patty` = 1.2)[arm]
strength_after <- pmax(0, round(strength_before + 0.4 * lift - 0.08 * mites_after + rnorm(n, 0, 1.6), 1))
honey <- round(pmax(4, 9 + 1.35 * strength_before + lift + site - 0.012 * apiaries$altitude_m[apiary] + rnorm(n, 0, 4.2)), 1)
alive <- rbinom(n, 1, plogis(0.2 + 0.25 * (strength_after - 9) - 0.09 * (mites_after - 9) + 0.35 * (arm == "syrup")))
swarm <- round(rweibull(n, 1.6, 70 * exp(0.02 * (queen_age < 12) * 10 - 0.05 * (strength_after - 10))))
censor <- sample(c(75L, 90L), n, TRUE, c(.2, .8))
trial <- data.frame(
  hive_id = sprintf("H%03d", seq_len(n)), apiary = apiaries$apiary[apiary], region = apiaries$region[apiary], keeper_id = keeper, arm = arm,
  queen_age_months = queen_age, strength_before = strength_before, strength_after = strength_after, mites_before = mites_before,
  mites_after = mites_after, honey_yield_kg = honey, survived_winter = ifelse(alive == 1, "yes", "no"),
  days_to_swarm = pmin(swarm, censor), swarmed = ifelse(swarm <= censor, "yes", "no"),
  inspected_on = format(as.Date("2024-09-02") + sample(0:20, n, TRUE)), stringsAsFactors = FALSE)
trial$honey_yield_kg[c(17, 64, 133)] <- NA           # never weighed
trial$mites_after[c(29, 88, 145)] <- -99             # sample lost
trial$mites_after[101] <- 64L                        # one badly infested hive
put(trial, "hive_trial.csv")

# ---- survey of the keepers --------------------------------------------------------------------------------------
k <- 240
mood <- rnorm(k)
region <- sample(c("north", "south", "coast"), k, TRUE, c(.4, .35, .25))
years <- rnbinom(k, size = 1.4, mu = 9)
item <- function(shift, load = .6) as.integer(cut(shift + load * mood + .8 * rnorm(k), c(-Inf, -1.4, -.5, .3, 1.2, Inf)))
survey <- data.frame(
  respondent_id = sprintf("R%03d", seq_len(k)), region = region, age_band = sample(c("18-34", "35-49", "50-64", "65+"), k, TRUE, c(.14, .27, .36, .23)),
  years_keeping = years, hives_owned = 1L + rnbinom(k, size = 1.2, mu = 5),
  advice_helpful = item(.35), feed_affordable = item(-.4 + .3 * (region == "south")), training_clear = item(.2), inspections_fair = item(.1),
  community_support = item(.5 + .25 * (region == "coast")), website_easy = item(-.1, .25), stringsAsFactors = FALSE)
survey$satisfaction <- pmin(10L, pmax(0L, as.integer(round(5.8 + 1.2 * mood + .35 * (survey$feed_affordable - 3) + rnorm(k, 0, 1.1)))))
praise <- c("The advisers answer quickly and know their bees.", "Training evenings are friendly and clear.", "Good to meet other keepers at the apiary days.",
            "The inspector was patient and explained everything.", "Swarm alerts by message are a great help.")
gripe <- c("Feed has become far too expensive this year.", "Syrup prices went up twice since spring.", "The website loses my records.", "I could not log in to the website for weeks.",
           "Nobody answered the phone about mite treatment.", "Mite treatment arrived late again.", "Too few training dates in the evening.", "Inspections come without notice.")
pick <- function(pool, p) ifelse(runif(k) < p, sample(pool, k, TRUE), NA)
survey$liked_most <- ifelse(is.na(pick(praise, .55)), "", sample(praise, k, TRUE)); survey$liked_most[survey$liked_most == ""] <- NA
survey$to_improve <- pick(gripe, .7)
two <- runif(k) < .2 & !is.na(survey$to_improve)
survey$to_improve[two] <- paste(survey$to_improve[two], sample(gripe, sum(two), TRUE))
survey$weight <- round(c(north = .9, south = 1.05, coast = 1.15)[region] * runif(k, .7, 1.4), 3)
for (name in c("advice_helpful", "feed_affordable", "training_clear", "inspections_fair", "community_support", "website_easy", "satisfaction")) {
  survey[[name]][sample(k, sample(4:9, 1))] <- -99L
}
survey$age_band[sample(k, 5)] <- NA
put(survey, "keeper_survey.csv")
agree <- "(1 = strongly disagree to 5 = strongly agree)"
put(data.frame(
  column = names(survey),
  label = c("Number of the respondent", "Region", "Age band", "Years of keeping bees", "Hives owned", paste(c("The advice was helpful", "Feed is affordable", "The training was clear",
    "Inspections are fair", "Keepers support each other", "The website is easy to use"), agree), "Overall satisfaction (0 = not at all to 10 = completely)",
    "What did you like most? (open answer)", "What should improve? (open answer)", "Sampling weight"),
  type = c("id", "nominal", "ordinal", "count", "count", rep("ordinal", 6), "numeric", "text", "text", "weight"),
  levels = c("", "coast|north|south", "18-34|35-49|50-64|65+", "", "", rep("1|2|3|4|5", 6), rep("", 4)),
  missing_codes = c(rep("", 5), rep("-99", 7), rep("", 3)), stringsAsFactors = FALSE), "keeper_survey_codebook.csv")

# ---- daily scale readings, two seasons, 14 hives ------------------------------------------------------------------
days <- c(seq(as.Date("2023-04-15"), as.Date("2023-08-31"), 1), seq(as.Date("2024-04-15"), as.Date("2024-08-31"), 1))
season <- as.integer(format(days, "%j")) - 105
temperature <- round(9 + 9 * sin(pi * season / 150) + as.numeric(arima.sim(list(ar = .7), length(days), sd = 2)), 1)
rain <- round(ifelse(runif(length(days)) < .38, rgamma(length(days), .8, scale = 5), 0), 1)
scale_hives <- sort(sample(trial$hive_id, 14))
weights <- do.call(rbind, lapply(scale_hives, function(h) {
  gain <- ifelse(season < 30, .05, ifelse(season < 75, .42, .08)) + .012 * (temperature - 14) - .02 * pmin(rain, 10) + rnorm(length(days), 0, .16)
  kg <- 24 + rnorm(1, 0, 3) + stats::ave(gain, format(days, "%Y"), FUN = cumsum)
  data.frame(hive_id = h, date = format(days), weight_kg = round(kg, 2), temperature_c = temperature, rain_mm = rain, stringsAsFactors = FALSE)
}))
weights$weight_kg[sample(nrow(weights), 45)] <- NA    # scale without power
put(weights, "hive_weights.csv")

# ---- earlier feeding trials, to pool ------------------------------------------------------------------------------
se <- round(runif(14, .5, 2.4), 2)
put(data.frame(study = paste(c("Ashby", "Brandt", "Carrow", "Dale", "Egger", "Finch", "Grove", "Holm", "Ibsen", "Juno", "Kerr", "Lind", "Moss", "Nye"), c(1998, 2001, 2003, 2006, 2008, 2009, 2011, 2012, 2014, 2015, 2017, 2019, 2021, 2022)),
               country = sample(c("Norland", "Westmark", "Oster"), 14, TRUE), hives = as.integer(round(60 / se^1.5) + 12), effect_kg = round(rnorm(14, 2.6, sqrt(se^2 + .8^2)), 2), se_kg = se), "earlier_trials.csv")
