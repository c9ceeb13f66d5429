# Rows that are lines of something larger ("orders" of several items, "visits" of several tests): what is asked of the whole is
# read off the whole, not off its lines.

#' The turns about lines, as of `everyday_turns()`
#' @noRd
turns_of_lines <- function() {
  list(turn("\\b(per|each|every|by) ", people_as_key), turn("\\b(value|size|worth|spend|amount)s?\\b", value_of_whole),
       turn("^ *(what |the )?(share|proportion|percent\\w*|fraction|how many)\\b", wholes_with),
       turn("^ *(how many|(the )?number of|what (is|was) the number of|count|[a-z]+s (per|by|(in|for) each))\\b", wholes_counted),
       turn("\\bhow many\\b.*\\b(than|least|once|twice|exactly|only)\\b|^ *(which|what|list|show)\\b.*\\b(than|least|once|twice)\\b", wholes_beyond),
       turn("^ *(how many|which|what) ", rows_of_units))
}

#' "how many members borrowed more than 5 items", "which branch has the most loans per member": units told apart by a key, by their rows
#' @noRd
rows_of_units <- function(out) {
  keys <- keys_of(out$study, single = FALSE)
  rows <- function(word) names_rows(study_vocabulary(out$study), tolower(word)) || length(keys_called(keys_of(out$study, single = TRUE), word)) > 0
  bound <- "(more than|over|at least|fewer than|less than|at most|exactly)"
  form <- sprintf("(?i)^ *(how many) ([\\p{L}_]+) (?:have |has |had )?(?:borrowed|bought|ordered|booked|rented|made|taken|took|visited|attended|submitted|sent|received|placed|had|lent) %s ([0-9]+) (items?|things|[\\p{L}]+s)(?=[?.! ]*$)", bound)  # nolint: line_length_linter.
  hit <- match_groups(out$text, form)
  if (!is.na(hit[1]) && length(keys_called(keys, hit[3])) == 1 && (tolower(hit[6]) %in% c("item", "items", "things") || rows(hit[6])) &&
      !is_numeric_said(out$study, hit[6])) {
    return(reworded(out, sprintf("how many %s have %s %s rows", hit[3], hit[4], hit[5])))
  }
  form <- "(?i)^ *(?:which|what) ([\\p{L}_ ]+?) (?:has|have|had|makes?|made|takes?|took|sees|saw) (?:the )?(most|fewest|least) ([\\p{L}]+) per ([\\p{L}]+)(?=[?.! ]*$)"  # nolint: line_length_linter.
  hit <- match_groups(out$text, form)
  if (is.na(hit[1]) || length(keys_called(keys, hit[5])) != 1 || !rows(hit[4]) || is_numeric_said(out$study, hit[4])) return(out)
  reworded(out, sprintf("average number of %s per %s by %s", hit[4], hit[5], hit[2]),
           sprintf("Each %s counts once with its number of %s; the groups stand in the table with their means.", hit[5], hit[4]))
}

#' Does a word name a column of numbers?
#' @noRd
is_numeric_said <- function(study, word) column_said_by(study, word, numeric_columns(study))

#' The keys of which each has several rows, called so by a noun
#' @noRd
wholes_named <- function(study, noun) {
  several <- keys_called(keys_of(study, single = FALSE), noun)
  names <- function(keys) vapply(keys, `[[`, "", "name")
  # (a key that is single in one table and comes back in another is one of lines)
  if (length(setdiff(names(keys_called(keys_of(study, single = TRUE), noun)), names(several)))) return(list())
  Filter(function(col) !is_key_of_people(col$name), several)
}

#' "per subject", "total cost per patient", of rows that a key called otherwise tells apart: by the name of the key
#' @noRd
people_as_key <- function(out) {
  total <- match_groups(out$text, "(?i)^ *(?:what (?:is|was) )?(?:the )?(?:total|sum of) .+? (per|for each|of each) ([\\p{L}]+)[?.! ]*$")
  # (of a total that is asked for otherwise, the rows of each are found where means of units are)
  each <- if (grepl("(?i)\\b(total|sum)\\b", out$text, perl = TRUE)) NA
    else match_groups(out$text, "(?i)\\b(per|for each|for every|of each|in each|by) (subject|participant|patient|respondent|volunteer|person)\\b(?![_.])")  # nolint: line_length_linter.
  hit <- if (is.na(total[1])) each else total
  if (is.na(hit[1]) || is.na(total[1]) && column_said_by(out$study, hit[3])) return(out)
  key <- units_called(keys_of(out$study, single = FALSE), hit[3])
  if (length(key) != 1 || length(keys_called(key, hit[3]))) return(out)
  # (where each row is one of them, the key that comes back is of something else)
  each_row <- vapply(keys_of(out$study, single = TRUE), function(col) col$table == key[[1]]$table, NA)
  if (any(each_row) && names_rows(study_vocabulary(out$study), hit[3])) return(out)
  lead <- if (is.na(total[1])) hit[2] else "by"
  reworded(out, sub(paste(hit[2], hit[3]), paste(lead, key[[1]]$name), out$text, fixed = TRUE),
           sprintf("The %ss are told apart by %s.", tolower(hit[3]), key[[1]]$name))
}

#' What one unit of a key is called: "order" of OrderNo, "customer" of customer_id
#' @noRd
unit_word <- function(name) {
  words <- strsplit(tolower(name_words(name)), " ")[[1]]
  own <- setdiff(words, c(key_words(), "no", "nr", "num"))
  paste(if (length(own)) own else words, collapse = "_")
}

#' "average order value by country", "basket size": the total of what the lines of each order hold
#' @noRd
value_of_whole <- function(out) {
  form <- "(?i)\\b((?:average|mean|median|typical|usual) )?(?:the )?([\\p{L}]+) (value|size|worth|spend|amount)s?\\b"
  hit <- match_groups(out$text, form)
  if (is.na(hit[1])) return(out)
  noun <- if (grepl("^(basket|transaction|ticket|cart)$", hit[3], ignore.case = TRUE)) "order" else hit[3]
  key <- wholes_named(out$study, noun)
  if (length(key) != 1) return(out)
  measure <- measure_of_lines(out$study, key[[1]]$table, if (tolower(hit[4]) == "size") "quantity" else "money")
  if (is.null(measure)) return(out)
  plain <- sprintf("%s%s per %s", or_if_na(hit[2], "average "), measure, unit_word(key[[1]]$name))
  reworded(out, sub(hit[1], plain, out$text, fixed = TRUE),
           sprintf("Took %s to be the total of %s.", quoted(paste(hit[3], hit[4])), measure))
}

#' The one column of a table of lines that holds money that adds up, or pieces
#' @noRd
measure_of_lines <- function(study, table, what) {
  pieces <- function(name) grepl("(^|[^a-z])(quantity|qty|units|pieces|items)([^a-z]|$)", tolower(name))
  own <- Filter(function(col) col$table == table && is.null(col$role) && !isTRUE(col$share) && !adds_up_not(col$name), numeric_columns(study))
  own <- if (what == "quantity") Filter(function(col) pieces(col$name), own) else Filter(function(col) (adds_up(col$name) || is_money(col$unit)) &&
    !pieces(col$name) && !grepl("(^|[^a-z])(discount|fee|tax|shipping|cost)([^a-z]|$)", tolower(col$name)), own)
  if (length(own) == 1) own[[1]]$name
}

#' "what percentage of orders contain a chair", "what share of orders were returned": those with such a line among theirs
#' @noRd
wholes_with <- function(out) {
  form <- "(?i)^ *((?:what |the )?(?:share|proportion|percentage|percent|fraction) of|how many)(?: the| all| our)? ([\\p{L}_]+) (?:that |which )?(?:(contain(?:s|ed)?|includ(?:e|es|ed)|have|had|with) (?:an? |any |at least one |some |the )?|(were|was|are|is|got|have been|had been) )(.+?)[?.! ]*$"  # nolint: line_length_linter.
  hit <- match_groups(out$text, form)
  if (is.na(hit[1])) return(out)
  key <- wholes_named(out$study, hit[3])
  if (length(key) != 1 || grepl("(?i)^(ever|never|not|more|less|at least|over|under|above|below)\\b|[0-9]", hit[6], perl = TRUE)) return(out)
  lead <- paste(hit[2], hit[3], "ever had")
  if (!is.na(hit[4])) {
    rest <- stringi::stri_extract_first_regex(hit[6], "(?i) (?:by|in|for|per|from|during|on) .+$")
    what <- if (is.na(rest)) hit[6] else substr(hit[6], 1, nchar(hit[6]) - nchar(rest))
    found <- whole_level(out$study, what)
    if (is.null(found) || !identical(find_column(out$study, found$column)$table, key[[1]]$table)) return(out)
    made <- level_column(out, found)
    if (is.null(made)) return(out)
    made$out$text <- paste0(lead, " ", made$name, or_if_na(rest, ""))
    return(ever_in_lines(made$out, out))
  }
  yes_no <- Filter(function(col) col$table == key[[1]]$table, yes_no_columns(out$study))
  event <- column_in_text(yes_no, hit[6], kin_phrases(out$study, hit[6]))
  if (is.null(event) || !startsWith(tolower(hit[6]), tolower(event$said))) return(out)
  asked <- out
  asked$text <- paste(lead, hit[6])
  ever_in_lines(asked, out)
}

#' The question about what some line of each whole holds, or as it was where it is not read so
#' @noRd
ever_in_lines <- function(asked, out) {
  done <- units_that_never(asked)
  if (is.null(done$per_unit)) out else done
}

#' "number of orders per month", "how many orders from the UK": each of them once, however many lines it has
#' @noRd
wholes_counted <- function(out) {
  form <- "(?i)^ *((?:what (?:is|was) )?(?:the )?(?:how many|number of|count of)) (?!(?:different|distinct|unique)\\b)([\\p{L}_]+)\\b"
  # ("patients per ward", of patients who come back)
  bare <- "(?i)^ *([\\p{L}]+s) (?=(?:per|by|in each|for each) [\\p{L}_ ]+[?.! ]*$)"
  if (grepl(bare, out$text, perl = TRUE)) {
    noun <- match_groups(out$text, bare)[2]
    of_key <- length(wholes_named(out$study, noun)) == 1
    if (of_key || tolower(noun) %in% plural_people()) return(wholes_counted(reworded(out, paste("number of", trimws(out$text)))))
  }
  hit <- match_groups(out$text, form)
  if (is.na(hit[1]) || grepl("(?i)\\b(different|distinct|unique|more than|at least|fewer than|less than|at most|never|ever|average|mean|median|once|twice|than|better|worse|higher|lower|improv\\w*|worsen\\w*|declin\\w*|gained|lost|left|blank|missing)\\b", out$text, perl = TRUE)) return(out)  # nolint: line_length_linter.
  key <- wholes_named(out$study, hit[3])
  people <- tolower(hit[3]) %in% plural_people()
  if (!length(key) && people && is.null(long_layout(out$study)) && !length(keys_of(out$study, single = TRUE))) {
    key <- units_called(keys_of(out$study, single = FALSE), hit[3])
  }
  # (per one of another key it is a mean of counts)
  per <- match_groups(out$text, "(?i)\\bper ([\\p{L}_]+)")[2]
  other <- if (!is.na(per)) keys_called(keys_of(out$study, single = FALSE), per)
  if (length(key) != 1 || length(other) || !grepl("[^s]s$", hit[3])) return(out)
  # (a key that is itself called by the noun is named as the question names it)
  said <- if (people && !identical(key_stems(key[[1]]$name), stem_words(tolower(hit[3])))) key[[1]]$name else hit[3]
  text <- sub(hit[1], paste("how many different", said), out$text, fixed = TRUE)
  # (one time of any is enough)
  text <- sub("(?i) (?:in|on|at) any (?:one |single )?(?:year|month|week|day|visit|session|season|time|occasion)(?= *[?.!]*$)", "", text, perl = TRUE)
  reworded(out, sub("(?i) (?:per|in each|for each) (?=[\\p{L}_ ]+[?.! ]*$)", " by ", text, perl = TRUE),
           if (people) sprintf("The %s are told apart by %s.", tolower(hit[3]), key[[1]]$name))
}

#' "how many customers ordered more than twice", "customers with at least 3 orders": units by the number of their wholes
#' @noRd
wholes_beyond <- function(out) {
  bound <- "(more than|at least|fewer than|less than|at most|exactly|only)"
  lead <- "(?i)^ *(how many|(?:what )?(?:share|proportion|percentage|percent) of|which|what|list|show)(?: me)?(?: the)? ([\\p{L}_]+) (?:who |that |which )?(?:have |has |had )?"  # nolint: line_length_linter.
  said <- match_groups(out$text, sprintf("%s(?:placed |made |with |given |sent |had )?%s ([0-9]+|%s) (?:different |separate )?([\\p{L}_]+)(.*?)[?.! ]*$", lead, bound, counting_words()))  # nolint: line_length_linter.
  times <- match_groups(out$text, sprintf("%s([\\p{L}_]+) (?:(?:%s )?(once|twice)|%s ([0-9]+|%s) times)(.*?)[?.! ]*$", lead, bound, bound, counting_words()))  # nolint: line_length_linter.
  if (!is.na(times[1])) {
    n <- if (!is.na(times[6])) c(once = 1, twice = 2)[[tolower(times[6])]] else word_number(times[8])
    parts <- list(lead = times[2], unit = times[3], op = or_if_na(times[5], or_if_na(times[7], "exactly")), n = n, whole = times[4], rest = times[9])
  } else if (!is.na(said[1])) {
    parts <- list(lead = said[2], unit = said[3], op = said[4], n = word_number(said[5]), whole = said[6], rest = said[7])
  } else return(out)
  unit <- keys_called(keys_of(out$study, single = FALSE), parts$unit)
  beside <- function(col) col$table == unit[[1]]$table && col$name != unit[[1]]$name
  whole <- if (length(unit) == 1) Filter(beside, wholes_named(out$study, parts$whole))
  if (length(whole) != 1) return(out)
  name <- paste0(unit_word(whole[[1]]$name), "s_per_", unit_word(unit[[1]]$name))
  text <- sprintf("%s %s %s %s%s", rows_asked(parts$lead), name, plain_bound(parts$op), format_plain(parts$n), or_if_na(parts$rest, ""))
  done <- derived_in(out, unit[[1]]$table, name, "rows_each", unit[[1]]$name, text)
  if (!has_column(done$study, name)) return(out)
  done$per_unit <- list(unit = unit[[1]]$name, table = unit[[1]]$table, outcome = name, rows = FALSE, distinct = whole[[1]]$name, condition = TRUE)
  done
}
