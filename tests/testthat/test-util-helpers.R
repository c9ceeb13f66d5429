# Small helpers that everything rests on.

test_that("a quicker pattern matches what the plain one matches", {
  texts <- c("Compare the age-bands of \u00c9lan and \u00fcber 65s", "mean honey_yield by REGION", "[x] caf\u00e9 12 kg", "")
  forms <- c("(?i)\\b([\\p{L}_]+(?: [\\p{L}_]+)?)[- ](?:bands?|bins?)\\b", "(?i)\\b(?:the )?(\\p{L}{2,}?)[- ]?(?:of|by) (.+)$",
             "(?i)(?<![\\p{L}0-9_.])([0-9]+) ([\\p{L}]{1,12})\\b", "(?i)\\[x\\] ([^\\p{N}]+)", "[\\p{L}]+")
  plain <- function(text, form) {
    found <- stringi::stri_match_first_regex(text, form)[1, ]
    if (is.na(found[1])) NA_character_ else found
  }
  for (form in forms) for (text in texts) {
    expect_identical(plain(text, internal("quick_form")(form)), plain(text, form), info = paste(form, text))
    expect_identical(internal("match_groups")(text, form), plain(text, form), info = paste(form, text))
  }
})
