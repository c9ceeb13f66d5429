# Numbers and days as they are said ("two hundred and fifty", "March 1st"), put as the steps that follow read them.

#' "twenty five", "two hundred and fifty": numbers of several words in digits, unless they are a level of the data
#' @noRd
compounds_in_digits <- function(text, study) {
  if (!grepl("(?i)\\b(?:(?:twen|thir|for|fif|six|seven|eigh|nine)ty|hundred|thousand)\\b", text, perl = TRUE)) return(text)
  small <- "one|two|three|four|five|six|seven|eight|nine"
  tens <- sprintf("(?:twenty|thirty|forty|fifty|sixty|seventy|eighty|ninety)(?:[ -](?:%s))?", small)
  below <- sprintf("(?:%s|%s|ten|eleven|twelve|fifteen)", tens, small)
  hundreds <- sprintf("(?:(?:%s|an?) hundred(?: and %s)?)", small, below)
  form <- sprintf("(?i)\\b(?:(?:%s|%s) thousand(?: (?:and )?(?:%s|%s))?|%s|%s(?<=[ -](?:%s)))\\b", below, hundreds, hundreds, below, hundreds, tens, small)  # nolint: line_length_linter.
  levels <- tolower(study_vocabulary(study)$values$level)
  for (said in unique(stringi::stri_extract_all_regex(text, quick_form(form))[[1]])) {
    if (is.na(said) || tolower(said) %in% levels) next
    text <- gsub(said, format(compound_number(said), scientific = FALSE), text, fixed = TRUE)
  }
  text
}

#' The value of a number of several words
#' @noRd
compound_number <- function(said) {
  words <- strsplit(tolower(said), "[ -]+")[[1]]
  total <- 0; part <- 0
  for (word in words[!words %in% "and"]) {
    if (word == "hundred") part <- max(1, part) * 100
    else if (word == "thousand") { total <- total + max(1, part) * 1000; part <- 0 }
    else part <- part + if (word %in% c("a", "an")) 1 else english$numbers[[word]]
  }
  total + part
}

#' "over two minutes", "at least three children": the number of a bound in digits
#' @noRd
bounds_in_digits <- function(text) {
  bound <- "\\b(?:than|over|under|above|below|at least|at most|up to) "
  words <- setdiff(strsplit(counting_words(), "|", fixed = TRUE)[[1]], c("zero", "one", "hundred", "thousand"))
  # ("twenty five" and "two hundred" are one number each)
  form <- sprintf("(?i)%s(%s)\\b(?![ -](?:%s|million)\\b)", bound, paste(words, collapse = "|"), counting_words())
  repeat {
    hit <- match_groups(text, form)
    if (is.na(hit[1])) return(text)
    text <- sub(hit[1], paste0(substr(hit[1], 1, nchar(hit[1]) - nchar(hit[2])), format_plain(word_number(hit[2]))), text, fixed = TRUE)
  }
}

#' "after March 1st", "between May 3 and May 9, 2025": the day before its month
#' @noRd
days_first <- function(text) {
  form <- sprintf("(?i)\\b(after|before|since|until|till|from|on|by|between|and|to|through|week of) (?:the )?((?:%s)[a-z]*)\\.? ([0-9]{1,2})(?:st|nd|rd|th)?(?:,? ((?:19|20)[0-9]{2}))?(?![0-9:.,-]*[0-9])", month_starts())  # nolint: line_length_linter.
  text <- gsub(form, "\\1 \\3 \\2 \\4", text, perl = TRUE)
  text <- gsub("(?i)\\b([0-9]{1,2})(?:st|nd|rd|th) (?:of )?(?=(?:january|february|march|april|may|june|july|august|september|october|november|december)\\b)", "\\1 ", text, perl = TRUE)  # nolint: line_length_linter.
  gsub(" +(?=[?.! ]|$)", "", text, perl = TRUE)
}
