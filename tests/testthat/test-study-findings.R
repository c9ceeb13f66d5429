messages_of <- function(study) vapply(as.list(study)$findings, `[[`, "", "message")

test_that("repeats, odd values, spellings, codes and constants are found and nothing is changed", {
  d <- data.frame(town = rep(c("North", "north ", "South", "South"), 10), y = c(1000, (1:39) / 10), fixed = 1, m = c(rep(NA, 15), 1:25))
  d <- rbind(d, d[5, ])
  said <- messages_of(open_study(d))
  expect_true(any(grepl("same as an earlier row", said)))
  expect_true(any(grepl("town", said) & grepl("spelling", said)))
  expect_true(any(grepl("^y: 1 value lies far", said)))
  expect_true(any(grepl("fixed: the same value", said)))
  expect_true(any(grepl("^m: 39 % of the values are missing", said)))
  expect_equal(nrow(as.data.frame(open_study(d))), 41)
})

test_that("clean data has nothing to say", {
  d <- data.frame(g = rep(c("a", "b"), 10), y = with_seed(71, rnorm(20)))
  expect_length(messages_of(open_study(d)), 0)
})

finding_on <- function(study, pattern) {
  f <- as.list(study)$findings
  f[vapply(f, function(x) grepl(pattern, x$message), NA)]
}

test_that("codes far outside the values are proposed, never applied, and an answer says so", {
  d <- data.frame(g = rep(c("a", "b"), 10), age = c(999, 999, with_seed(1, sample(20:60, 18, TRUE))))
  s <- open_study(d)
  f <- finding_on(s, "looks like a code for missing")[[1]]
  expect_equal(f$severity, "act")
  expect_equal(f$count, 2)
  expect_equal(max(as.data.frame(s)$age), 999)
  expect_match(paste(unlist(as.list(ask(s, "mean age by g"))$cautions), collapse = " "), "999")
  mended <- amend(s, f$amendment)
  expect_equal(sum(is.na(as.data.frame(mended)$age)), 2)
  expect_length(finding_on(mended, "looks like a code"), 0)
})

test_that("every amendment that a finding offers can be carried out", {
  d <- data.frame(id = c(1:19, 19), town = c(rep(c("North", "South"), 9), "Nroth", "north"), age = c(400, 21:39), fixed = 3,
                  a = c(1:10, 3:12) + 0.5, b = c(20:11, 1:10) + 0.25, when = c("03/04/2024", "01/02/2024", rep(c("05/06/2024", "02/02/2024"), 9)))
  d$total <- d$a + d$b
  d$again <- d$a
  s <- open_study(d)
  offered <- Filter(Negate(is.null), lapply(as.list(s)$findings, `[[`, "amendment"))
  expect_gt(length(offered), 5)
  for (text in offered) expect_s3_class(amend(s, text), "upbeatquill_study")
  said <- messages_of(s)
  for (pattern in c("^id: nearly a key", "Nroth", "age: 1 value is impossible", "total: the sum of a \\+ b", "again: the same as a",
    "when: day and month")) {
    expect_true(any(grepl(pattern, said)), info = pattern)
  }
})

test_that("gaps that come together or gather in a group are told", {
  n <- 200
  d <- with_seed(8, data.frame(g = rep(c("x", "y"), each = n / 2), u = rnorm(n), v = rnorm(n)))
  d$u[c(1:40)] <- NA
  d$v[c(1:40)] <- NA
  s <- open_study(d)
  expect_length(finding_on(s, "missing together in 40 rows"), 1)
  expect_match(finding_on(s, "missing in 40 % of the rows where g is \"x\"")[[1]]$message, "0 % at the least")
})

test_that("rounded, nearly constant, straight-lined and group-wise odd values are told", {
  d <- with_seed(4, data.frame(rounded = c(sample(seq(0, 200, 10), 80, TRUE), sample(0:200, 20, TRUE)), g = rep(c("p", "q"), 50)))
  d$flat <- c(rep("no", 99), "yes")
  d$y <- with_seed(5, ifelse(d$g == "p", rnorm(100, 10), rnorm(100, 40)))
  d$y[1] <- 38
  expect_length(finding_on(open_study(d), "end in 0 or 5"), 1)
  expect_length(finding_on(open_study(d), "^flat: nearly constant"), 1)
  expect_length(finding_on(open_study(d), "^y: 1 value lies far from the others where g is \"p\""), 1)
  items <- with_seed(2, as.data.frame(matrix(sample(1:5, 300, TRUE), 50, dimnames = list(NULL, paste0("q", 1:6)))))
  items[7, ] <- 3
  expect_equal(unlist(finding_on(open_study(items), "same answer to all 6 items")[[1]]$rows), 7)
})

test_that("keys that find no partner, and keys that would multiply rows", {
  a <- data.frame(site_id = sprintf("s%02d", 1:12), soil = rep(c("clay", "sand"), 6))
  b <- data.frame(site_id = sprintf("s%02d", c(1:12, 1:12, 99)), y = 1:25 / 3)
  s <- open_study(list(sites = a, visits = b))
  expect_length(finding_on(s, "1 row of visits finds no row in sites"), 1)
  expect_equal(as.list(s)$joins[[1]][c("rows", "matched", "unmatched", "multiplied")], list(rows = 25L, matched = 24L, unmatched = 1L,
    multiplied = 0L))
  expect_match(paste(unlist(reading(ask(s, "mean y by soil"))$assumed), collapse = " "), "25 rows before, 24 matched, 1 unmatched")
  two <- open_study(list(visits = b, calls = data.frame(site_id = sprintf("s%02d", rep(1:12, 2)), minutes = 1:24 / 7)))
  expect_length(finding_on(two, "repeats in both"), 1)
  expect_equal(status_of(ask(two, "correlation between y and minutes")), "cannot_answer")
})

test_that("keys of like names are found", {
  s <- open_study(list(trial = data.frame(hive = sprintf("H%02d", c(1:12, 1:12)), y = 1:24 / 7), hives = data.frame(hive_id = sprintf("H%02d",
    1:12), kind = rep(c("old", "new"), 6))))
  expect_equal(as.list(s)$joins[[1]][c("key", "one_key")], list(key = "hive", one_key = "hive_id"))
  expect_equal(status_of(ask(s, "mean y by kind")), "answered")
})

test_that("whether a key or a row comes twice is answered first", {
  d <- claim_data()
  s <- open_study(d)
  expect_match(as.list(ask(s, "any duplicates in claim number?"))$sentences$headline, "Every value of claim_no occurs once")
  expect_match(as.list(ask(s, "any duplicate rows?"))$sentences$headline, "No row repeats")
  d$claim_no[c(5, 11)] <- d$claim_no[9]
  a <- ask(open_study(d), "does any claim_no occur more than once?")
  expect_equal(value_of(a, "repeated_values"), 3)
  expect_match(as.list(a)$sentences$headline, "1 value of claim_no occurs more than once, in 3 rows")
  expect_retraces(a)
})

test_that("numbers below a limit of detection leave a column a number, are told, and can be given a number", {
  rows <- with_seed(99, data.frame(site = sample(c("field", "wood"), 80, TRUE), lead = c(rep("<5", 6), as.character(round(rlnorm(74, 3, 0.5), 1)))))
  rows <- rows[with_seed(100, sample(80)), ]; rownames(rows) <- NULL
  s <- open_study(local_data(rows))
  b <- codebook(s)
  expect_equal(b$kind[b$column == "lead"], "number")
  expect_match(b$reason[b$column == "lead"], "6 values beyond a limit (<5)", fixed = TRUE)
  measured <- suppressWarnings(as.numeric(rows$lead))
  expect_equal(value_of(ask(s, "average lead"), "estimate"), mean(measured, na.rm = TRUE), tolerance = 1e-12)
  told <- Filter(function(f) grepl("beyond a limit", f$message), as.list(s)$findings)
  expect_length(told, 1)
  expect_equal(told[[1]]$count, 6L)
  halved <- amend(s, told[[1]]$amendment)
  a <- ask(halved, "average lead")
  expect_equal(value_of(a, "estimate"), mean(ifelse(rows$lead == "<5", 2.5, measured)), tolerance = 1e-12)
  expect_retraces(a)
  # words are still no limit
  d <- open_study(data.frame(x = c("high", as.character(1:40))))
  expect_false(any(grepl("limit", messages_of(d))))
})

test_that("growth may be below zero, a share may not", {
  told <- function(d) vapply(as.list(open_study(local_data(d)))$findings, `[[`, "", "message")
  d <- data.frame(year = 1981:2010, v = c(-1.5, seq(1, 99, length.out = 29)))
  expect_match(told(stats::setNames(d, c("year", "share (%)"))), "impossible for a percentage", all = FALSE)
  expect_false(any(grepl("impossible", told(stats::setNames(d, c("year", "growth (%)"))))))
})

test_that("a table on its side is told once", {
  s <- open_study(local_csv(c("measure,P1,P2,P3,P4", "age,34,45,23,55", "sex,f,m,m,f", "weight,70,80,90,65")))
  told <- vapply(as.list(s)$findings, `[[`, "", "message")
  expect_match(told, "lie on its side", all = FALSE)
  expect_false(any(grepl("most values are numbers", told)))
  s <- open_study(local_csv(c("town,region,kind", "Ulm,South,a", "Kiel,North,b", "Bonn,West,c")))
  expect_false(any(grepl("side", vapply(as.list(s)$findings, `[[`, "", "message"))))
})

test_that("letters read in the wrong encoding are told, with what mends them", {
  d <- data.frame(name = rep(c("Jos\u00c3\u00a9", "M\u00fcller", "Z\u00c3\u00bcrich \u00e2\u20ac\u201c West"), 10), x = 1:30)
  s <- open_study(local_data(d))
  found <- Find(function(f) grepl("wrong encoding", f$message), as.list(s)$findings)
  expect_match(found$message, "2 texts hold letters .* \"Jos\u00c3\u00a9\" is probably \"Jos\u00e9\"")
  expect_setequal(levels(as.data.frame(amend(s, found$amendment))$name), c("Jos\u00e9", d$name[2:3]))
  plain <- open_study(local_data(data.frame(name = rep(c("\u00c2me", "\u00c9t\u00e9", "na\u00efve"), 10), x = 1:30)))
  expect_false(any(grepl("wrong encoding", vapply(as.list(plain)$findings, `[[`, "", "message"))))
})
