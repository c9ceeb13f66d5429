# Counts that are a part of other counts, as rates and percentages.

moulding_rows <- function() with_seed(2611, {
  n <- 180
  out <- data.frame(batch = sprintf("B%04d", seq_len(n)),
                    date = as.Date("2025-02-03") + sort(rep(0:59, 3)), shift = rep(c("early", "late", "night"), 60),
                    mould_temp_c = round(rnorm(n, 62, 3), 1), parts_made = round(rnorm(n, 1200, 90)),
                    resin = sample(c("virgin", "recycled"), n, TRUE, c(0.7, 0.3)))
  out$parts_scrapped <- rpois(n, out$parts_made * exp(-4 + 0.06 * (out$mould_temp_c - 62) + 0.35 * (out$resin == "recycled")))
  out
})

test_that("a rate of a part is per its whole, as totals over totals, and says so", {
  rows <- moulding_rows()
  s <- open_study(rows)
  a <- ask(s, "what is the overall scrap rate?")
  expect_equal(value_of(a, "estimate"), 100 * sum(rows$parts_scrapped) / sum(rows$parts_made), tolerance = 1e-12)
  expect_match(reading(a)$assumed, "parts_scrapped per parts_made", all = FALSE)
  a <- ask(s, "which shift has the highest scrap rate?")
  own <- tapply(rows$parts_scrapped, rows$shift, sum) / tapply(rows$parts_made, rows$shift, sum)
  expect_equal(table_of(a, "rates")$rate, as.vector(100 * own), tolerance = 1e-12)
  a <- ask(s, "does the scrap rate depend on mould temperature?")
  fit <- stats::glm(parts_scrapped ~ mould_temp_c + offset(log(parts_made)), stats::poisson, rows)
  expect_equal(value_of(a, "estimate"), stats::coef(fit)[[2]], tolerance = 1e-7)
  expect_retraces(a)
})

test_that("two counts that could be the whole, or one that is exceeded, leave the question open", {
  rows <- moulding_rows()
  rows$parts_planned <- rows$parts_made + 50
  expect_equal(status_of(ask(open_study(rows), "scrap rate by shift")), "needs_choice")
  rows$parts_planned <- NULL
  rows$parts_made[3] <- 1
  expect_equal(status_of(ask(open_study(rows), "scrap rate by shift")), "needs_choice")
})

test_that("a percentage of a count is a bound on its share of the whole", {
  rows <- moulding_rows()
  s <- open_study(rows)
  share <- rows$parts_scrapped / rows$parts_made
  a <- ask(s, "which batches had more than 3% scrapped?")
  expect_equal(value_of(a, "n"), sum(share > 0.03))
  a <- ask(s, "share of batches with at least 2.5 % scrap by resin")
  own <- tapply(share >= 0.025, rows$resin, mean)
  t <- table_of(a, "shares")
  expect_equal(stats::setNames(t$share, t$group)[names(own)], c(own), tolerance = 1e-12, ignore_attr = TRUE)
  expect_retraces(a)
})

test_that("a rate of periods is a total over a total in each, drawn in the order of time", {
  rows <- moulding_rows()
  s <- open_study(rows)
  a <- ask(s, "weekly scrap rate")
  week <- format(rows$date - (as.integer(format(rows$date, "%u")) - 1))
  own <- tapply(rows$parts_scrapped, week, sum) / tapply(rows$parts_made, week, sum)
  t <- table_of(a, "rates")
  expect_equal(t$group, names(own))
  expect_equal(t$rate, as.vector(100 * own), tolerance = 1e-12)
  drawn <- ggplot2::ggplot_build(figure(a))
  expect_equal(as.character(drawn$plot$data$period), names(own))
  expect_retraces(a)
  b <- ask(s, "parts scrapped per parts made by month")
  month <- format(rows$date, "%Y-%m")
  expect_equal(table_of(b, "rates")$rate, as.vector(tapply(rows$parts_scrapped, month, sum) / tapply(rows$parts_made, month, sum)), tolerance = 1e-12)
})

test_that("units of another table with at least one of something, and with none, are counted by unit", {
  patients <- with_seed(101, data.frame(patient_id = sprintf("P%02d", 1:40), arm = sample(c("new", "old"), 40, TRUE)))
  visits <- with_seed(102, data.frame(patient_id = rep(patients$patient_id, each = 4), visit = rep(0:3, 40), pain = rpois(160, 5),
    adverse_event = sample(c("no", "yes"), 160, TRUE, c(0.8, 0.2))))
  s <- open_study(c(local_data(patients, "patients.csv"), local_data(visits, "visits.csv")))
  ever <- tapply(visits$adverse_event == "yes", visits$patient_id, any)[patients$patient_id]
  a <- table_of(ask(s, "share of patients with at least one adverse event by arm"), "shares")
  expect_equal(sort(a$share), sort(as.vector(tapply(ever, patients$arm, mean))), tolerance = 1e-12)
  expect_equal(value_of(ask(s, "how many patients had at least one adverse event"), "n"), sum(ever))
  b <- ask(s, "which patients never had an adverse event")
  expect_equal(status_of(b), "answered")
  expect_equal(value_of(b, "n"), sum(!ever))
  d <- ask(s, "how many visits does a patient have on average?")
  expect_equal(value_of(d, "estimate"), 4)
  expect_equal(status_of(ask(s, "how many patients missed visit 3")), "cannot_answer")
})

test_that("a bound on a rate is one on each row, and a rate of rows can be related", {
  d <- with_seed(131, data.frame(batch = sprintf("B%03d", 1:80), line = sample(c("L1", "L2"), 80, TRUE), units_made = round(rnorm(80, 400, 30)),
                                 humidity_pct = round(runif(80, 30, 60))))
  d$units_scrapped <- with_seed(132, rbinom(80, d$units_made, 0.03))
  s <- open_study(d)
  rate <- d$units_scrapped / d$units_made
  many <- ask(s, "how many batches have a scrap rate above 4%")
  expect_equal(value_of(many, "estimate"), sum(rate > 0.04))
  expect_equal(as.list(ask(s, "batches with a scrap rate above 4%"))$rows$after_filters, sum(rate > 0.04))
  r <- ask(s, "correlation of humidity with scrap rate")
  expect_equal(value_of(r, "estimate"), cor(d$humidity_pct, rate))
  expect_retraces(r)
  overall <- ask(s, "is the scrap rate under 3 percent overall")
  expect_equal(value_of(overall, "estimate"), 100 * sum(d$units_scrapped) / sum(d$units_made))
  expect_match(paste(as.list(overall)$reading$assumed, collapse = " "), "held against 3 %", fixed = TRUE)
})

test_that("units in which something happened at least once are counted by the unit, by group too", {
  rows <- data.frame(athlete = rep(sprintf("P%02d", 1:12), each = 5), squad = rep(c("A", "B", "C"), each = 20), week = rep(1:5, 12),
                     injured = as.integer(1:60 %% 11 == 0))
  s <- open_study(local_data(rows))
  hurt <- tapply(rows$injured, rows$athlete, max) == 1
  squad <- rep(c("A", "B", "C"), each = 4)
  a <- ask(s, "how many athletes got injured at least once")
  expect_equal(a$sentences$headline, sprintf("%d athletes meet the conditions (%.1f %% of 12).", sum(hurt), 100 * mean(hurt)))
  by <- table_of(ask(s, "share of athletes injured at least once by squad"), "shares")
  expect_equal(by$share[match(c("A", "B", "C"), by$group)], as.vector(tapply(hurt, squad, mean)), tolerance = 1e-9)
})
