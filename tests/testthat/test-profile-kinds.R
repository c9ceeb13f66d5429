kinds_of <- function(...) {
  d <- data.frame(..., check.names = FALSE, stringsAsFactors = FALSE)
  b <- codebook(open_study(d))
  stats::setNames(b$kind, b$column)
}

test_that("each kind is told from its values and name, with a reason", {
  n <- 40
  k <- kinds_of(
    hive_id = sprintf("H%03d", 1:n), height = seq(1.5, 2, length.out = n), children = rep(0:4, 8), smoker = rep(c("yes", "no"), 20),
    treated = rep(0:1, 20), town = rep(c("Aa", "Bb", "Cc", "Dd"), 10), answer = rep(c("never", "sometimes", "often", "always"), 10),
    seen = format(as.Date("2024-01-01") + 1:n), when = paste(format(as.Date("2024-01-01") + 1:n), "12:30:00"),
    note = paste("this is a longer remark number", 1:n, "about bees"), fixed = 7, blank = NA)
  expect_equal(unname(k), c("id", "number", "count", "yes_no", "yes_no", "category", "ordered", "date", "datetime", "text", "constant", "empty"))
  expect_true(all(nzchar(codebook(hive_study())$reason)))
})

test_that("identifiers are never measured: a question about their mean is not answered with a number", {
  d <- data.frame(customer_id = 1001:1060, amount = with_seed(5, rexp(60, 0.01)))
  a <- ask(open_study(d), "What is the mean customer_id?")
  expect_true(is.na(value_of(a, "estimate")) || status_of(a) != "answered")
})

test_that("ordered answers keep their order and bands their numbers", {
  b <- codebook(open_study(data.frame(mood = rep(c("very good", "poor", "good", "fair"), 5), age = rep(c("65+", "18-34", "35-64", "18-34"), 5))))
  expect_equal(b$levels, c("poor|fair|good|very good", "18-34|35-64|65+"))
})

test_that("years are not counts, months in figures not dates", {
  k <- kinds_of(year = rep(2015:2024, 4), month = rep(1:12, length.out = 40))
  expect_equal(unname(k), c("number", "count"))
})

test_that("units are read from names", {
  b <- codebook(open_study(data.frame(weight_kg = c(1.5, 2, 3), `speed (km/h)` = c(10.5, 20, 30), x = 1:3, check.names = FALSE)))
  expect_equal(b$unit, c("kg", "km/h", ""))
})

test_that("a few numbers under the name of a key are groups; counts and occasions stay numbers", {
  n <- 120
  d <- with_seed(6, data.frame(store_no = rep(101:106, 20), children_number = sample(0:4, n, TRUE), visit_no = rep(1:4, 30), region_code = rep(1:5,
      24),
    siblings_no = sample(1:5, n, TRUE), pid = rep(sprintf("P%02d", 1:30), 4), grid = sample(1:30, n, TRUE), session = 5000 + seq_len(n)))
  kinds <- stats::setNames(codebook(open_study(d))$kind, codebook(open_study(d))$column)
  expect_equal(unname(kinds[c("store_no", "region_code")]), c("category", "category"))
  expect_equal(unname(kinds[c("children_number", "siblings_no", "visit_no", "grid")]), rep("count", 4))
  expect_equal(unname(kinds[c("pid", "session")]), c("id", "id"))
})

test_that("of two levels the one that denies the other comes first", {
  d <- data.frame(target = rep(c("met", "not met"), 20), work = rep(c("employed", "unemployed"), 20), side = rep(c("left", "right"), 20))
  expect_equal(codebook(open_study(d))$levels, c("not met|met", "unemployed|employed", "left|right"))
  shares <- table_of(ask(open_study(d), "share of target met by side"), "shares")
  expect_equal(shares$count, c(20, 0))
})

test_that("yes and no in several spellings are one column of two levels, which is said and retraced", {
  d <- data.frame(k = 1:40 / 3, member = rep(c("yes", "no", "Yes", "NO", "yes"), 8), smoker = rep(c("Y", "N", "n", "y", "refused"), 8))
  s <- open_study(local_data(d))
  cb <- codebook(s)
  expect_equal(cb$kind[cb$column == "member"], "yes_no")
  expect_true(any(grepl("\"NO\" is read as \"no\"", said_of(s), fixed = TRUE)))
  a <- ask(s, "share of members")
  expect_equal(value_of(a, "estimate"), mean(tolower(d$member) == "yes"))
  expect_retraces(a)
  # (a refusal is neither, and is proposed as missing)
  expect_equal(cb$kind[cb$column == "smoker"], "category")
  b <- amend(s, "treat refused as missing in smoker")
  expect_equal(codebook(b)$kind[3], "yes_no")
  expect_equal(value_of(ask(b, "share of smokers"), "estimate"), 0.5)
})

test_that("ranges of money are in their order", {
  d <- data.frame(v = 1:20, pay = rep(c("$20K-$25K", "$12K-$15K", "$100K-$120K", "$15K-$20K"), 5))
  cb <- codebook(open_study(local_data(d)))
  expect_equal(cb$kind[2], "ordered")
  expect_equal(strsplit(cb$levels[2], "|", fixed = TRUE)[[1]], c("$12K-$15K", "$15K-$20K", "$20K-$25K", "$100K-$120K"))
})

test_that("a scale that steps from row to row is a measure, a running number a key", {
  kind <- function(name) as.list(open_study(stats::setNames(data.frame(1:20, sin(1:20)), c(name, "y"))))$tables[[1]]$columns[[1]]$kind
  expect_equal(unname(vapply(c("x", "week", "dose", "time", "depth_level"), kind, "")), rep("count", 5))
  expect_equal(unname(vapply(c("nr", "X", "i", "record", "patient"), kind, "")), rep("id", 5))
})

test_that("the key of a dozen subjects is a key, and their rows are compared with each other", {
  d <- with_seed(9, expand.grid(subject_id = 1:12, condition = c("quiet", "noise", "music")))
  d$rt <- with_seed(10, round(500 + 40 * sin(d$subject_id) + 15 * (d$condition == "noise") + rnorm(36, 0, 8), 1))
  kind <- function(name) as.list(open_study(stats::setNames(d, c(name, "condition", "rt"))))$tables[[1]]$columns[[1]]$kind
  expect_equal(unname(vapply(c("subject_id", "ID", "subjid", "patientID", "participant_id"), kind, "")), rep("id", 5))
  # regions and stores that come back often are groups
  expect_equal(unname(vapply(c("region_id", "store_id"), kind, "")), rep("category", 2))
  # few rows for each: still a key, which is never added up
  twice <- as.list(open_study(data.frame(store_id = rep(1:10, 2), sales = sqrt(1:20))))$tables[[1]]$columns[[1]]
  expect_equal(twice$kind, "id")
  a <- ask(open_study(local_data(d)), "does rt differ between conditions")
  expect_identical(method_of(a), "anova_repeated")
  fit <- summary(aov(rt ~ condition + Error(factor(subject_id)), d))[[2]][[1]]
  expect_equal(value_of(a, "statistic"), fit$`F value`[1])
  expect_retraces(a)
})

test_that("codes with gaps under a name for things are keys, and are never averaged", {
  d <- data.frame(class = rep(c(180, 280, 1082, 1280, 1580) + rep(100 * (0:5)^2, each = 5), 10), lang = sqrt(1:300))
  s <- open_study(local_data(d))
  expect_equal(codebook(s)$kind[1], "id")
  a <- ask(s, "how many rows per class on average")
  expect_match(as.list(a)$sentences$headline, "On average there are 10.7 rows for each class", fixed = TRUE)
  # who is meant by the second half, nothing in the data says
  expect_identical(status_of(ask(s, "average lang of combined and non-combined classes")), "cannot_answer")
})
