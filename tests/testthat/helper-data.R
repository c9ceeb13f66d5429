# Shared fixtures: the demo files, small studies, comparisons.

demo_file <- function(name = "hive_trial.csv") system.file("extdata", name, package = "upbeatquill", mustWork = TRUE)
demo_study <- function(...) open_study(vapply(c(...), demo_file, ""))
hive_study <- function() demo_study("hive_trial.csv")

# A CSV file that goes away with the test.
local_csv <- function(text, name = "data.csv", env = parent.frame()) {
  folder <- withr::local_tempdir(.local_envir = env)
  file <- file.path(folder, name)
  writeBin(charToRaw(enc2utf8(paste0(paste(text, collapse = "\n"), "\n"))), file)
  file
}

local_data <- function(data, name = "data.csv", env = parent.frame()) {
  folder <- withr::local_tempdir(.local_envir = env)
  file <- file.path(folder, name)
  utils::write.csv(data, file, row.names = FALSE, na = "")
  file
}

# Names ending in _of read one piece of an answer.
value_of <- function(a, id) {
  n <- numbers(a)
  n$value[match(id, n$id)]
}
table_of <- function(a, id) {
  for (t in as.list(a)$tables) if (t$id == id) {
    rows <- lapply(t$rows, function(r) lapply(r, function(v) if (is.null(v)) NA else v))
    out <- as.data.frame(do.call(rbind, lapply(rows, unlist)), stringsAsFactors = FALSE)
    names(out) <- unlist(t$columns)
    return(utils::type.convert(out, as.is = TRUE))
  }
  NULL
}
method_of <- function(a) as.list(a)$method$id
status_of <- function(a) as.list(a)$status
filters_of <- function(a) vapply(reading(a)$filters, function(f) paste(f$column, f$op, paste(unlist(f$value), collapse = "|")), "")

# What the first look at a study says, in one line.
said_of <- function(study) paste(format(look(study, width = 500, colour = FALSE)), collapse = "\n")

# The internals that the core tests call.
internal <- function(name) get(name, envir = asNamespace("upbeatquill"))

with_seed <- function(seed, code) withr::with_seed(seed, code, .rng_kind = "Mersenne-Twister", .rng_normal_kind = "Inversion",
                                                   .rng_sample_kind = "Rejection")

# One R beside the tests, started once, runs the scripts, each in an environment of its own: starting an R for each of some hundred
# scripts would take minutes. That every method's script runs in an R of its own is tested with retrace() itself (test-method-.R).
script_runner <- local({
  session <- NULL
  function() {
    if (is.null(session) || !session$is_alive()) {
      options <- callr::r_session_options(env = c(callr::rcmd_safe_env(), UPBEATQUILL_FIGURE = "no"), user_profile = "project")
      session <<- callr::r_session$new(options)
    }
    session
  }
})

run_script <- function(lines, folder) {
  script_runner()$run(function(lines, folder) {
    setwd(folder)
    con <- textConnection("said", "w", local = TRUE)
    sink(con)
    on.exit({ sink(); close(con) })
    failed <- tryCatch({ eval(parse(text = lines, keep.source = FALSE), new.env(parent = globalenv())); NULL }, error = conditionMessage)
    list(said = textConnectionValue(con), error = failed)
  }, list(lines, folder))
}

expect_retraces <- function(a, tolerance = 1e-8, fresh = FALSE, lines = script(a)) {
  if (fresh) trace <- as.list(retrace(a, tolerance))
  else {
    folder <- withr::local_tempdir()
    internal("save_frames")(a, folder)
    ran <- run_script(lines, folder)
    values <- internal("parse_values")
    trace <- internal("compare_values")(values(sub("^#:\t", "", lines[startsWith(lines, "#:\t")])), values(ran$said), tolerance)
    trace$error <- ran$error
  }
  expect_null(trace$error)
  expect_true(trace$ok, info = paste(utils::capture.output(print(trace$differences)), collapse = "\n"))
  expect_gt(trace$total, 0)
  expect_equal(nrow(trace$not_compared), 0L, info = paste(trace$not_compared$id, collapse = ", "))
}

# Made-up data of other fields than the demo's, for questions in the words of those fields.
call_data <- function(n = 160) with_seed(31, {
  agent <- sample(c("Asha", "Ben", "Carla", "Dov"), n, TRUE)
  data.frame(call_id = sprintf("C%03d", seq_len(n)), agent = agent, team = ifelse(agent %in% c("Asha", "Ben"), "day shift", "night shift"),
             started_at = format(as.POSIXct("2025-01-06 08:00", tz = "UTC") + sort(sample(0:(60 * 86400), n)), "%Y-%m-%d %H:%M"),
             topic = sample(c("billing", "delivery", "returns"), n, TRUE), wait_sec = round(rexp(n, 1 / 95)),
                 handle_min = round(rgamma(n, 3, 0.45), 1),
             resolved = sample(c("Y", "N"), n, TRUE, c(0.7, 0.3)), csat = sample(1:5, n, TRUE), new_customer = sample(0:1, n, TRUE))
})
order_data <- function(n = 150) with_seed(32, data.frame(
  order_id = paste0("ORD-", 5000 + seq_len(n)), order_date = format(as.Date("2023-07-01") + sample(0:540, n, TRUE)),
  customer = sample(paste("Cust", LETTERS[1:9]), n, TRUE), country = sample(c("Germany", "France", "Spain"), n, TRUE),
  shipping = sample(c("standard", "express"), n, TRUE), discount = sample(c(0, 0.05, 0.1, 0.2), n, TRUE), delivery_days = rpois(n, 5) + 1,
  revenue = round(rexp(n, 1 / 140), 2), returned = sample(c("Yes", "No"), n, TRUE, c(0.15, 0.85))))
pressure_data <- function(n = 120) with_seed(33, {
  arm <- rep(c("placebo", "low dose", "high dose"), length.out = n); sbp <- round(rnorm(n, 148, 14))
  time <- pmin(round(rexp(n, 1 / 220)), 365)
  data.frame(pid = sprintf("P%03d", seq_len(n)), arm = arm, centre = sample(c("Leeds", "Cork", "Graz"), n, TRUE), sex = sample(c("M", "F"), n, TRUE),
             bmi = round(rnorm(n, 27, 4), 1), sbp_baseline = sbp, sbp_week4 = sbp - 4 + round(rnorm(n, 0, 6)),
             sbp_week12 = round(sbp - c(placebo = 3, `low dose` = 8, `high dose` = 14)[arm] + rnorm(n, 0, 8)),
             adverse_event = sample(c("none", "mild", "moderate", "severe"), n, TRUE, c(0.6, 0.25, 0.1, 0.05)),
             dropout = sample(c("yes", "no"), n, TRUE, c(0.2, 0.8)), time_to_relapse_days = time, relapsed = ifelse(time < 365, "yes", "no"))
})
gym_data <- function(n = 100) with_seed(34, {
  trainer <- sample(c("yes", "no"), n, TRUE); start <- round(rnorm(n, 82, 14), 1)
  data.frame(member = 1000 + seq_len(n), joined = format(as.Date("2023-02-01") + sample(0:600, n, TRUE), "%d/%m/%Y"),
      sex = sample(c("female", "male"), n, TRUE),
             age = sample(18:70, n, TRUE), plan = sample(c("basic", "plus", "premium"), n, TRUE), visits_per_month = rpois(n, 7),
             smoker = sample(c("never", "former", "current"), n, TRUE), personal_trainer = trainer, weight_start_kg = start,
             weight_end_kg = round(start - rnorm(n, 2 + 2 * (trainer == "yes"), 3), 1), cancelled = sample(c("yes", "no"), n, TRUE, c(0.3, 0.7)))
})

# One line for a reading: task, outcome, by, statistic, filters. For tables of questions and what they are read as.
read_as <- function(study, question) {
  r <- internal("read_question")(study, question)$reading
  paste0(r$task, " ", paste(r$outcome, collapse = "+"), if (length(r$by)) paste0(" by ", paste(r$by, collapse = "+")),
         if (length(r$predictors)) paste0(" from ", paste(r$predictors, collapse = "+")), if (!is.null(r$statistic)) paste0(" [", r$statistic, "]"),
         if (!is.null(r$time$every)) paste0(" every ", r$time$every),
         if (length(r$extra$event)) paste0(" event ", internal("plain_filter")(r$extra$event)),
         if (length(r$filters)) paste0(" where ", paste(vapply(r$filters, internal("plain_filter"), ""), collapse = " & ")))
}
expect_read_as <- function(study, table) for (q in names(table)) testthat::expect_equal(read_as(study, q), table[[q]], info = q)
stress_data <- function() with_seed(35, {
  n <- 120; group <- rep(sample(c("meditation", "reading"), 30, TRUE), each = 4); session <- rep(1:4, 30)
  data.frame(Subject = rep(sprintf("S%02d", 1:30), each = 4), Session = session, Group = group,
             Stress = round(60 - 3 * session * (group == "meditation") + rep(rnorm(30, 0, 8), each = 4) + rnorm(n, 0, 5)),
             Mood = sample(c("very low", "low", "neutral", "good", "very good"), n, TRUE), Age = rep(sample(19:64, 30, TRUE), each = 4))
})
city_data <- function(n = 200) with_seed(36, {
  agree <- c("Strongly disagree", "Disagree", "Neither", "Agree", "Strongly agree")
  data.frame(id = seq_len(n), district = sample(c("North", "South", "East"), n, TRUE), housing = sample(c("own", "rent", "other"), n, TRUE),
             trust_police = sample(agree, n, TRUE), feel_safe = sample(agree, n, TRUE), parks_good = sample(agree, n, TRUE),
             transport_used = sample(c("bus", "bus; bike", "car", "car; bus", "bike", "walk; bike"), n, TRUE),
                 household_income = round(rlnorm(n, 10.3, 0.5), -2),
             children = rpois(n, 1.1), voted = sample(c("yes", "no"), n, TRUE), satisfaction = sample(0:10, n, TRUE),
             passed = sample(c("pass", "fail"), n, TRUE, c(0.8, 0.2)))
})
school_data <- function(n = 150) with_seed(37, {
  autumn <- round(rnorm(n, 58, 14)); tutoring <- sample(c("none", "group", "one-to-one"), n, TRUE)
  data.frame(student_no = 20230001 + seq_len(n), school = sample(c("Oakfield", "Rivermead"), n, TRUE), year_group = sample(7:11, n, TRUE),
             free_meals = sample(c("Y", "N"), n, TRUE), attendance_pct = round(100 * rbeta(n, 18, 2), 1), maths_autumn = autumn,
             maths_summer = autumn + 2 + round(rnorm(n, 0, 6)), reading_score = round(rnorm(n, 100, 15)), tutoring = tutoring,
                 exclusions = rpois(n, 0.3),
             parent_evening = sample(c("attended", "did not attend"), n, TRUE), fee_gbp = round(rlnorm(n, 3, 0.4), 2))
})

# A trial of donors, measured once before and once after; rehabilitation in rows of weeks; claims with amounts and days.
donor_data <- function(n = 120) with_seed(7, {
  d <- data.frame(donor_id = 1000 + seq_len(n), sex = sample(c("M", "F"), n, TRUE), age = sample(18:70, n, TRUE),
    hb_g_dl = round(rnorm(n, 13.8, 1.3), 1), blood_group = sample(c("O+", "A+", "B+", "O-", "A-"), n, TRUE),
    iron_supplement = sample(c("iron", "placebo"), n, TRUE), deferred = sample(c("yes", "no"), n, TRUE, c(0.3, 0.7)))
  d$hb_after_g_dl <- round(d$hb_g_dl + ifelse(d$iron_supplement == "iron", 0.5, -0.1) + rnorm(n, 0, 0.5), 1)
  d
})
rehab_data <- function(n = 48) with_seed(8, {
  d <- data.frame(pid = rep(sprintf("P%02d", seq_len(n)), each = 4), week = rep(c(0, 4, 8, 12), n),
    programme = rep(sample(c("Group", "Home", "Usual care"), n, TRUE), each = 4))
  d$grip_strength <- round(rep(rnorm(n, 22, 5), each = 4) + d$week * ifelse(d$programme == "Group", 0.6, 0.2) + rnorm(4 * n), 1)
  d$pain_vas <- round(6 - d$week * 0.2 + rnorm(4 * n, 0, 1.5), 1)
  d
})
claim_data <- function(n = 150) with_seed(9, {
  d <- data.frame(claim_no = sprintf("C-%05d", sample(1e4:9e4, n)), policy_type = sample(c("Motor", "Home", "Travel"), n, TRUE),
    days_to_settle = round(rgamma(n, 2, 0.05)), amount_claimed = round(rlnorm(n, 7.5, 1), 2), fraud_flag = sample(c("Fraud", "Genuine"), n, TRUE,
      c(0.1, 0.9)), handler = sample(c("Ana", "Ben", "Chloe"), n, TRUE), weather = sample(c("rain", "sun"), n, TRUE),
    complaint = sample(c("Yes", "No"), n, TRUE, c(0.2, 0.8)))
  d$amount_paid <- round(d$amount_claimed * runif(n, 0.5, 1), 2)
  d
})

# Answers on a scale of seven, networks used, a vote remembered or not; a line's batches; a ward's patients.
trust_data <- function(n = 300) with_seed(12, data.frame(resp = seq_len(n), age_band = sample(c("18-24", "25-49", "50+"), n, TRUE),
  gender = sample(c("Woman", "Man"), n, TRUE), trust_gov = sample(1:7, n, TRUE), trust_media = sample(1:7, n, TRUE),
  trust_science = pmin(7, sample(3:8, n, TRUE)), voted = sample(c("Yes", "No", "Can't remember"), n, TRUE, c(0.6, 0.3, 0.1)),
  uses_twitter = sample(c("Yes", "No"), n, TRUE), uses_facebook = sample(c("Yes", "No"), n, TRUE), uses_tiktok = sample(c("Yes", "No"), n, TRUE),
  enjoyed = factor(sample(c("Disagree", "Neutral", "Agree"), n, TRUE), c("Disagree", "Neutral", "Agree"))))
line_data <- function(n = 60) with_seed(13, data.frame(batch = rep(sprintf("B%03d", seq_len(n)), each = 3),
  machine = rep(sample(c("M1", "M2", "M3"), n, TRUE), each = 3), date = rep(as.Date("2025-03-03") + seq_len(n) - 1, each = 3),
  hardness = round(rnorm(3 * n, 60, 2) + rep(rnorm(n), each = 3), 1), defects = rpois(3 * n, 1.2), units = sample(200:260, 3 * n, TRUE)))
ward_data <- function(n = 140) with_seed(14, data.frame(mrn = 200000 + seq_len(n), ward = sample(c("Cardiology", "Surgery", "Medicine"), n, TRUE),
  age = sample(20:95, n, TRUE), los_days = 1 + rpois(n, 5), readmitted_30d = sample(c("yes", "no"), n, TRUE, c(0.2, 0.8)),
  bmi = round(rnorm(n, 27, 5), 1), diabetes = sample(c("yes", "no"), n, TRUE), discharge_to = sample(c("home", "care home", "died"), n, TRUE,
    c(0.7, 0.2, 0.1))))

# Rentals of bicycles by day and station, loans with and without default, marks of an exam.
bike_data <- function(n = 400) with_seed(15, data.frame(station = sample(c("Park", "Quay", "Campus"), n, TRUE),
  day = as.Date("2025-04-01") + sample(0:59, n, TRUE), rentals = rpois(n, 22), returns = rpois(n, 21), temp_c = round(rnorm(n, 16, 4), 1),
  holiday = sample(c("yes", "no"), n, TRUE, c(0.2, 0.8))))
loan_data <- function(n = 200) with_seed(16, data.frame(loan_ref = paste0("L", 1000 + seq_len(n)), purpose = sample(c("car", "home", "study"), n,
    TRUE),
  amount_gbp = round(rlnorm(n, 9, 0.6)), credit_score = round(rnorm(n, 640, 70)), home_owner = sample(c("own", "rent"), n, TRUE),
  defaulted = sample(c("Yes", "No"), n, TRUE, c(0.25, 0.75)), applied = format(as.Date("2023-01-01") + sample(0:900, n, TRUE))))
exam_data <- function(n = 120) with_seed(17, data.frame(candidate = seq_len(n), school = sample(c("Alder", "Beech", "Cedar"), n, TRUE),
  tuition = sample(c("none", "online", "tutor"), n, TRUE), maths = round(rnorm(n, 58, 14)), science = round(rnorm(n, 57, 13)),
  hours_study = round(rgamma(n, 4, 0.5), 1), grade = sample(LETTERS[1:5], n, TRUE), absences = rpois(n, 6)))

# Catches of trips and tickets of a help desk.
catch_data <- function(n = 150) with_seed(18, {
  d <- data.frame(trip = rep(1:30, each = 5), vessel = rep(sample(c("Maria", "Stella"), 30, TRUE), each = 5),
    gear = rep(sample(c("trawl", "longline"), 30, TRUE), each = 5), species = sample(c("cod", "hake", "monkfish"), n, TRUE),
    length_cm = round(rnorm(n, 55, 12), 1), discarded = sample(c("yes", "no"), n, TRUE, c(0.3, 0.7)))
  d$weight_g <- round(0.01 * d$length_cm^3 * runif(n, 0.9, 1.1))
  d
})
ticket_data <- function(n = 200) with_seed(19, {
  d <- data.frame(ticket_id = seq_len(n), opened = as.POSIXct("2025-03-01 08:00", tz = "UTC") + sort(sample(0:(86400 * 60), n)),
    team = sample(c("Network", "Apps"), n, TRUE), first_reply_h = round(rexp(n, 1 / 5), 1), resolved = sample(c("yes", "no"), n, TRUE, c(0.85, 0.15)),
    csat = sample(c(1:5, NA), n, TRUE))
  d$hours_to_resolve <- ifelse(d$resolved == "yes", round(rexp(n, 1 / 30), 1), NA)
  d
})

# Weeks of stores that come back under their numbers; a physiotherapy trial measured at three times; hours of air quality.
store_data <- function() with_seed(20, {
  d <- data.frame(store_no = rep(101:110, each = 20), week_ending = rep(as.Date("2025-01-05") + 7 * (0:19), 10),
    region = rep(sample(c("East", "West"), 10, TRUE), each = 20), footfall = rpois(200, 900), revenue_eur = round(rnorm(200, 6500, 900)),
    promo = sample(c("yes", "no"), 200, TRUE, c(0.3, 0.7)), refunds_eur = round(rexp(200, 1 / 150)))
  d
})
physio_data <- function(n = 110) with_seed(21, {
  d <- data.frame(ID = sprintf("K%03d", seq_len(n)), group = sample(c("exercise", "manual therapy", "advice"), n, TRUE), age = sample(19:80, n, TRUE),
    odi_baseline = round(rnorm(n, 38, 10)), sessions = rpois(n, 6))
  d$odi_6wk <- d$odi_baseline - round(rnorm(n, 8, 7)); d$odi_6mo <- d$odi_6wk - round(rnorm(n, 3, 6))
  d
})
air_data <- function(n = 300) with_seed(22, data.frame(site = sample(c("Kerbside", "Park"), n, TRUE),
  datetime = as.POSIXct("2025-06-01", tz = "UTC") + 3600 * sample(0:2000, n), no2 = round(rgamma(n, 4, 0.12), 1), pm25 = round(rgamma(n, 3, 0.3), 1),
  wind_ms = round(rgamma(n, 3, 1), 1)))

# The whole text of an answer on one line, and a number as answers write it.
format_answer <- function(a) gsub("\\s+", " ", paste(format(a), collapse = " "))
say_three <- function(x) format(signif(as.numeric(x), 3), trim = TRUE)
