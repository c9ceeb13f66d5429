# How people speak of a survey: what they think, use, find and leave unanswered.

#' The turns about surveys, as of `everyday_turns()`
#' @noRd
turns_of_surveys <- function() {
  list(turn("think|believe|feel|find|say|agree", think_so), turn("\\busers?\\b|\\buse\\b|\\bboth\\b|\\bneither\\b|(ist|er|or)s\\b", users_of), turn("no answer|not answer|n['\u2019]t answer", no_answer),  # nolint: line_length_linter.
       turn("(items|questions|statements) .*(scale|same|together)", one_scale),
         turn("(used|chosen|picked|named|selected|mentioned|liked) (the )?(most|least)|most (common|popular|used|frequent)", most_chosen))
}

#' Columns of answers from disagreeing to agreeing
#' @noRd
agreement_columns <- function(study) Filter(function(col) col$kind == "ordered" && any(grepl("agree", tolower(col$levels))), all_columns(study))

#' "how many people think fares are fair": those who agree
#' @noRd
think_so <- function(out) {
  items <- agreement_columns(out$study)
  if (!length(items)) return(out)
  phrases <- named_phrases(out$study, items)
  # "do people who use the train agree more that fares are fair": their answers are compared
  compares <- "(?i)^ *(?:do|are|did|does) (.+?) (?:(more|less)(?: often| likely| strongly)?(?: to)? )(?:agree|disagree|think|believe|feel|find)(?:s|ing)? (?:that |with )?(?:the |their )?(.+?)(?: than (.+?))?[?.! ]*$"  # nolint: line_length_linter.
  often <- "(?i)^ *(?:do|are|did|does) (.+?) (?:agree|think|believe|feel|find) (?:(more|less)(?: often)? )?(?:that |with )?(?:the |their )?(.+?) (?:more|less)(?: often)?(?: than (.+?))?[?.! ]*$"  # nolint: line_length_linter.
  for (form in c(compares, often)) {
    hit <- match_groups(out$text, form)
    if (is.na(hit[1])) next
    item <- column_in_text(items, hit[4], phrases)
    who <- people_with(out$study, hit[2])
    if (!is.null(item) && !is.null(who)) return(reworded(out, sprintf("does %s differ by %s", item$name, who$name)))
  }
  agreed <- match_groups(out$text, "(?i)^ *(?:do|did) (?:most |many )?(?:people|they|respondents|customers|users|participants|employees|staff|members|students|patients) agree (?:that |with )?(?:the |their )?(.+?)[?.! ]*$")  # nolint: line_length_linter.
  if (!is.na(agreed[1])) {
    state <- parse_question(agreed[2], study_vocabulary(out$study))
    named <- unique(vapply(find_mentions(state), function(m) column_of(state, m$column), ""))
    item <- intersect(named, vapply(items, `[[`, "", "name"))
    levels <- if (length(item) == 1) find_column(out$study, item)$levels
    side <- levels[grepl("agree", tolower(levels)) & !grepl("disagree|neither|nor", tolower(levels))]
    if (length(side)) return(reworded(out, sprintf("what share of rows have %s = %s", item, paste(side, collapse = " or ")), sprintf("Took it as agreeing with %s.", item)))  # nolint: line_length_linter.
  }
  counts <- "(?i)^ *((?:how many|what (?:share|proportion|percentage|percent|fraction) of|(?:share|proportion|percentage|percent|fraction)(?: of)?|number of) (?:.*? )?)(?:who )?((?:think|believe|feel|find|say|thinks|believes|feels|finds)(?: that)?) (.+)$"  # nolint: line_length_linter.
  hit <- match_groups(out$text, counts)
  # ("who disagree with feel safe": the verb is a part of the item's name)
  if (is.na(hit[1]) || grepl("agree", hit[2], ignore.case = TRUE)) return(out)
  item <- column_in_text(items, hit[4], phrases)
  told <- function(name) sprintf("Took it as agreeing with %s.", name)
  if (!is.null(item) && startsWith(tolower(hit[4]), tolower(item$said))) return(reworded(out, sprintf("%sagree that %s", hit[2], hit[4]), told(item$name)))  # nolint: line_length_linter.
  # ("who feel safe", of "I feel safe at stations")
  state <- parse_question(paste(sub(" that$", "", hit[3]), hit[4]), study_vocabulary(out$study))
  own <- Filter(function(m) column_of(state, m$column) %in% vapply(items, `[[`, "", "name"), find_mentions(state))
  if (length(own) != 1 || own[[1]]$at > 3) return(out)
  said <- sub(sprintf("(?i)^%s ?", as_literal(hit[3])), "", own[[1]]$text, perl = TRUE)
  rest <- sub(sprintf("(?i)^(?:the )?%s", as_literal(said)), "", hit[4], perl = TRUE)
  name <- column_of(state, own[[1]]$column)
  reworded(out, sprintf("%sagree with %s%s", sub("(?i)^(share|proportion|percentage|percent|fraction) $", "\\1 of rows that ", hit[2], perl = TRUE), name, rest), told(name))  # nolint: line_length_linter.
}

#' The yes/no column of "train users" or "people who use the train"
#' @section Shape: list(name, yes, no), or NULL.
#' @noRd
people_with <- function(study, words) {
  flags <- Filter(function(col) col$kind == "yes_no" && length(col$levels) == 2, all_columns(study))
  bare <- gsub("(?i)\\b(?:people|those|who|that|use|uses|used|using|users?|the|a|an|go|goes|by|travel|with|have|has)\\b", " ", words, perl = TRUE)
  bare <- trimws(gsub(" +", " ", bare))
  if (!nzchar(bare)) return(NULL)
  found <- column_in_text(flags, bare, kin_phrases(study, bare))
  if (!is.null(found) && tolower(found$said) == tolower(bare)) list(name = found$name, yes = found$col$levels[2], no = found$col$levels[1])
}

#' "bus users", "use both bus and train", "use neither car nor train": the answers yes and no to their columns
#' @noRd
users_of <- function(out) {
  pair <- match_groups(out$text, "(?i)\\b(?:who |that )?(?:use|uses|used|have|has|own|owns|do|take|takes) (both|neither) (?:a |the )?([\\p{L}_]+) (?:and|nor) (?:a |the )?([\\p{L}_]+)\\b")  # nolint: line_length_linter.
  if (!is.na(pair[1])) {
    sides <- lapply(pair[3:4], people_with, study = out$study)
    if (!any(vapply(sides, is.null, NA)) && sides[[1]]$name != sides[[2]]$name) {
      level <- if (tolower(pair[2]) == "both") "yes" else "no"
      plain <- sprintf("with %s = %s and %s = %s", sides[[1]]$name, sides[[1]][[level]], sides[[2]]$name, sides[[2]][[level]])
      text <- sub(pair[1], plain, out$text, fixed = TRUE)
      return(reworded(out, sub("(?i)^ *how many(?: people)? with ", "how many rows with ", text, perl = TRUE)))
    }
  }
  hit <- match_groups(out$text, "(?i)\\b(of|among|for|in|by) (?:the )?(?:([\\p{L}_]+) users|(\\p{L}{3,}(?:ists|ers|ors)))\\b")
  # (of a share it is told elsewhere whose it is)
  if (is.na(hit[3])) hit[3] <- if (asks_for_share(out$text) || grepl("\\bnon[- ]?|\\bnot\\b", out$text, ignore.case = TRUE)) NA else hit[4]
  who <- if (!is.na(hit[1]) && !is.na(hit[3])) people_with(out$study, hit[3])
  if (is.null(who)) return(out)
  # "odds ratio of relapse for smokers": a ratio has two sides
  if (grepl("\\b(?:odds|risk|hazard|rate) ratio|\\brelative risk|\\brisk difference", out$text, ignore.case = TRUE, perl = TRUE)) {
    return(reworded(out, sub(hit[1], paste("by", who$name), out$text, fixed = TRUE), sprintf("Compared by %s.", who$name)))
  }
  reworded(out, sub(hit[1], sprintf("%s rows with %s = %s", hit[2], who$name, who$yes), out$text, fixed = TRUE))
}

#' "how many gave no answer on fares": the answer is missing
#' @noRd
no_answer <- function(out) {
  form <- "(?i)^ *(how many|which|what share of|what percentage of)(?: (?:people|respondents|of them|participants))? (?:gave|have|had|left|did|do)(?: not|n['\u2019]t)? (?:no )?answer(?:ed|s)?(?: (?:on|to|about|for|the|question|item))* (?:the )?(.+?)[?.! ]*$"  # nolint: line_length_linter.
  hit <- match_groups(out$text, form)
  found <- if (!is.na(hit[1])) column_in_text(all_columns(out$study), hit[3], named_phrases(out$study)) %||%
    labelled(out$study, c("number", "count", "ordered", "category", "yes_no", "text", "date"), hit[3])
  if (is.null(found)) return(out)
  name <- paste0(found$name, "_missing")
  share <- grepl("^what", hit[2], ignore.case = TRUE)
  with_derived(out, name, "missing", found$name, if (share) sprintf("share of rows with %s = yes", name) else sprintf("%s rows with %s = yes", hit[2], name))  # nolint: line_length_linter.
}

#' "are the four items one scale": how reliable they are together
#' @noRd
one_scale <- function(out) {
  form <- "(?i)^ *(?:are|do|is|does) (?:the |all |these )?(?:[0-9]+ |two |three |four |five |six |seven |eight |nine |ten )?(?:items|questions|statements) (?:form |make up |build |be )?(?:(?:one|a|a single|a good) (?:reliable )?scale|(?:measure|measuring) (?:one|the same)(?: thing)?|hang(?:ing)? together|belong(?:ing)? together|go together)[?.! ]*$"  # nolint: line_length_linter.
  if (grepl(form, out$text, perl = TRUE)) reworded(out, "reliability of all items") else out
}

#' "which channel is used most", of a question with several answers: how often each was given
#' @noRd
most_chosen <- function(out) {
  form <- "(?i)^ *(?:which|what) ([\\p{L}_ ]+?) (?:is|are|was|were) (?:the )?(?:(?:used|chosen|picked|named|selected|mentioned|liked) (?:the )?(?:most|least)(?: often)?|most (?:common|popular|used|frequent|commonly used|often used))[?.! ]*$"  # nolint: line_length_linter.
  hit <- match_groups(out$text, form)
  if (is.na(hit[1])) return(out)
  several <- Filter(function(col) identical(col$role, "multi_answer"), all_columns(out$study))
  state <- parse_question(hit[2], study_vocabulary(out$study))
  named <- unique(vapply(find_mentions(state), function(m) column_of(state, m$column), ""))
  own <- intersect(named, vapply(several, `[[`, "", "name"))
  if (length(own) == 1) reworded(out, sprintf("most common %s", own)) else out
}
