# English beyond the lexicon: kin, opposites, everyday words.

test_that("words are found under their dictionary forms", {
  expect_true(all(c("city", "resolve", "stop", "see") %in% unlist(lapply(c("cities", "resolved", "stopped", "seen"), internal("base_forms")))))
  expect_true(all(vapply(c("seen", "gave", "reduced", "bigger", "children"), internal("is_everyday_word"), NA)))
  expect_false(internal("is_everyday_word")("strenght"))
})

test_that("kin are words of the same meaning or family", {
  expect_true("resolve" %in% internal("kin_words")("resolution"))
  expect_true("infant" %in% internal("kin_words")("babies"))
  expect_true("diabetes" %in% internal("kin_words")("diabetics"))
  expect_length(internal("kin_words")("qwertz"), 0)
})

test_that("a denial points to what it denies", {
  expect_true("resolved" %in% internal("denied_words")("unresolved"))
  expect_true("satisfied" %in% internal("denied_words")("dissatisfied"))
  expect_false("der" %in% internal("denied_words")("under"))
})

test_that("an everyday word is no slip of the keyboard", {
  d <- data.frame(wind = c(1:6, 3, 2), birds_counted = c(7, 9, 3, 7, 2, 1, 8, 7), site = rep(c("a", "b"), 4))
  r <- reading(ask(open_study(d), "does wind reduce the number of birds seen?"))
  expect_length(r$filters, 0)
  expect_equal(c(r$outcome, r$predictors), c("birds_counted", "wind"))
})

test_that("synonyms and opposites of levels link to columns that are there, and are told", {
  d <- data.frame(infant_weight = rnorm(20, 3.3), diabetes = rep(c("yes", "no"), 10), insured = rep(c("yes", "yes", "no", "no"), 5))
  s <- open_study(d)
  a <- ask(s, "average weight of babies")
  expect_equal(unlist(reading(a)$outcome), "infant_weight")
  b <- ask(s, "mean infant weight of the uninsured")
  expect_equal(filters_of(b), "insured == no")
  expect_match(paste(reading(b)$assumed, collapse = " "), "uninsured")
  expect_equal(status_of(ask(s, "mean turnover by region")), "cannot_answer")
})

test_that("what is denied by its ending names no column", {
  s <- hive_study()
  expect_no_match(paste(unlist(as.list(ask(s, "percentage of queenless hives by arm"))$reading$outcome), collapse = " "), "queen_age")
})

test_that("two words and one are the same name", {
  s <- open_study(data.frame(dropout = rep(c("yes", "no", "no"), 8), follow_up = rnorm(24), arm = rep(c("a", "b"), 12)))
  expect_equal(unlist(reading(ask(s, "how many dropped out by arm?"))$outcome)[1], "dropout")
  expect_equal(unlist(reading(ask(s, "mean followup by arm"))$outcome), "follow_up")
})

test_that("the kin of many words is that of each, and is kept", {
  kin <- internal("kin_of_each")(c("yields", "honey", "zzqx", "yields"))
  expect_identical(kin[[1]], internal("kin_words")("yields"))
  expect_identical(kin[[1]], kin[[4]])
  expect_true("output" %in% kin[[1]])
  expect_identical(kin[[3]], character())
})
