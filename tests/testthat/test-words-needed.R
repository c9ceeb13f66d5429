# The words without which a pattern cannot match: whatever is sifted out must not match.

needed <- function(form) internal("kernel_words_needed")(form)[[1]]

test_that("a sequence needs its longest run, alternatives each their own, and what may be absent nothing", {
  expect_identical(needed("\\bleft\\b.*\\b(blank|empty)\\b"), c("blank", "empty"))
  expect_identical(needed("(month|dai)ly|annual"), c("month", "dai", "annual"))
  expect_identical(needed("\\brates? of\\b"), "rate")
  expect_identical(needed("multi-?collinear"), "collinear")
  expect_identical(needed("(ab|cd)?ef"), "ef")
  expect_identical(needed("(?!foo)ba(?=quux)"), "quux")
  expect_identical(needed("ab{0,3}cd"), "cd")
  expect_identical(needed("[^]a]B\\)c\\.d"), "b)c.d")
})

test_that("what is not understood needs nothing", {
  for (form in c("", "(", "(ab", "ab)c", "[abc", "a\\", "(?<n>x)yy", "\\1abc", "\\Qabc\\E", "abc|[0-9]", "abc|", "(?x)a b c")) {
    expect_identical(needed(form), character())
  }
})

test_that("no cue that stands in a question is sifted out", {
  cues <- vapply(c(internal("all_turns")(), internal("model_wishes")()), `[[`, "", "cue")
  sieve <- internal("sieve_of")(cues)
  # questions of every kind: the texts of these very tests
  files <- list.files(".", "^test-reading-.*[.]R$", full.names = TRUE)
  said <- unlist(lapply(files, function(f) stringi::stri_match_all_regex(readLines(f), "\"([^\"]{15,200})\"")), use.names = FALSE)
  said <- with_seed(5, sample(unique(said[!is.na(said)]), 300))
  said <- c(said, toupper(said[1:50]))
  lost <- vapply(said, function(text) {
    stands <- vapply(cues, grepl, NA, text, ignore.case = TRUE, perl = TRUE)
    sum(stands & !internal("passes_sieve")(sieve, text))
  }, 1)
  expect_identical(sum(lost), 0)
  # and a sieve that lets everything through would be of no use
  expect_lt(mean(vapply(said, function(text) mean(internal("passes_sieve")(sieve, text)), 1)), 0.3)
})
