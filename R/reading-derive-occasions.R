# One measure on several named occasions ("maths" of maths_autumn and maths_summer): questions that name the measure once
# and the occasions apart from it, that set two changes against each other, or count who went up or down.

#' The question with occasions written as the columns that they mean
#' @section Shape: list(study, text, told), as of `derive_for_question()`.
#' @noRd
occasions_of_sets <- function(out) {
  sets <- Filter(function(set) length(set$columns) >= 2, study_sets(out$study, "repeated_measures"))
  if (!length(sets)) return(out)
  before <- out$text
  out <- fell_in_each(two_changes(out, sets), sets)
  if (identical(out$text, before)) out <- who_changed(out, sets)
  if (identical(out$text, before)) out$text <- occasions_as_columns(out$study, out$text, sets)
  out
}

#' The sets whose whole name a text says
#' @noRd
sets_said <- function(text, sets) {
  stems <- stem_words(stringi::stri_extract_all_words(tolower(text))[[1]])
  Filter(function(set) length(telling_stems(set$name)) > 0 && all(telling_stems(set$name) %in% stems), sets)
}

#' A pattern for the words of a set's name, as a question writes them
#' @noRd
set_words <- function(set) {
  words <- strsplit(name_words(set$name), " ")[[1]]
  paste(vapply(words[nzchar(words)], function(w) stringi::stri_replace_all_regex(w, "([.^$*+?()\\[\\]{}|\\\\])", "\\\\$1"), ""), collapse = "[_. ]+")
}

#' "from autumn to summer", "in summer than in autumn": the occasions of the one measure that is named
#' @noRd
occasions_as_columns <- function(study, text, sets) {
  said <- sets_said(text, sets)
  if (length(said) != 1) return(text)
  set <- said[[1]]
  times <- tolower(set$times)
  # (before and after, numbered occasions and weeks are read where they stand)
  plain <- grepl("^[a-z]{3,}$", times) & !times %in% c("before", "after", "pre", "post", "baseline", "final", "first", "last")
  if (!all(plain) || any(times %in% vapply(all_columns(study), function(col) tolower(col$name), ""))) return(text)
  held <- unlist(lapply(all_columns(study), function(col) tolower(col$levels)))
  if (any(times %in% held)) return(text)
  name <- set_words(set)
  for (i in which(vapply(times, function(t) grepl(paste0("\\b", t, "\\b"), text, ignore.case = TRUE), NA))) {
    beside <- sprintf("(?i)\\b(?:%1$s[_. ]+(?:in |in the |of )?(?:the )?%2$s|(?:the )?%2$s[_. ]+%1$s)\\b", name, times[i])
    apart <- sprintf("(?i)(?<![_.\\p{L}])(?:in |at |during )?(?:the )?%s(?![_.\\p{L}])", times[i])
    text <- if (grepl(beside, text, perl = TRUE)) gsub(beside, set$columns[i], text, perl = TRUE) else sub(apart, set$columns[i], text, perl = TRUE)
  }
  # (a comparison "between" something names groups)
  ends <- paste(set$columns, collapse = "|")
  if (!says_change(text)) text <- sub(sprintf("(?i)\\bbetween (?=(%s) (and|to) (%s)\\b)", ends, ends), "in ", text, perl = TRUE)
  text
}

#' "did reading improve more than maths": the changes of two measures, set against each other
#' @noRd
two_changes <- function(out, sets) {
  pairs <- Filter(function(set) length(set$columns) == 2, sets)
  said <- sets_said(out$text, pairs)
  if (length(said) != 2) return(out)
  verb <- "(improve[ds]?|chang(?:e[ds]?|ing)|r[io]se[sn]?|f[ae]ll(?:s|en)?|drop(?:s|ped)?|decline[ds]?|increase[ds]?|decrease[ds]?|grow(?:s|n)?|grew|progress(?:ed|es)?|go(?:es|ne)? (?:up|down)|went (?:up|down))"  # nolint: line_length_linter.
  words <- vapply(said, set_words, "")
  either <- sprintf("(?:the )?(%s)", paste(words, collapse = "|"))
  filler <- "(?: (?:scores?|marks?|results?|values?|levels?|ratings?))?"
  forms <- c(sprintf("(?i)^ *(?:did|do|does|has|have) %1$s%3$s %2$s (?:any )?(?:more|less|faster|slower|further) than %1$s%3$s[?.! ]*$", either,
      verb, filler),
    sprintf("(?i)^ *(?:is|was|were|are) the (improvement|change|gain|rise|increase|drop|decrease|loss) in %1$s%2$s (?:larger|greater|bigger|smaller|more|less|different) (?:than|from) (?:that |the \\w+ )?(?:in |of )?%1$s%2$s[?.! ]*$",  # nolint: line_length_linter.
            either, filler))
  if (!any(vapply(forms, grepl, NA, x = out$text, perl = TRUE))) return(out)
  place <- vapply(words, function(w) regexpr(paste0("(?i)\\b", w), out$text, perl = TRUE)[1], 1L)
  said <- said[order(place)]
  names <- vapply(said, function(set) paste0(set$name, "_change"), "")
  for (i in 1:2) out <- with_derived(out, names[i], "difference", rev(said[[i]]$columns))
  if (!all(vapply(names, has_column, NA, study = out$study))) return(out)
  out$text <- sprintf("paired t test of %s against %s", names[1], names[2])
  out
}

#' "how many pupils went down in maths", "what share improved in reading": those whose change is below or above nothing
#' @noRd
who_changed <- function(out, sets) {
  if (!grepl("\\b(how many|how often|number|share|proportion|percentage|percent|fraction|who|which|list|show)\\b", out$text,
      ignore.case = TRUE)) return(out)
  said <- sets_said(out$text, Filter(function(set) length(set$columns) == 2, sets))
  if (length(said) != 1) return(out)
  set <- said[[1]]
  up <- "went up|gone up|go up|goes up|rose|increased|improved|got better|gained|progressed|did better"
  down <- "went down|gone down|go down|goes down|fell|dropped|declined|decreased|got worse|worsened|deteriorated|lost ground|did worse"
  verb <- sprintf("(?:have |has |had )?(%s|%s)", up, down)
  measure <- sprintf("(?:the |their )?%s(?: (?:scores?|marks?|results?|values?|levels?|ratings?))?", set_words(set))
  forms <- c(sprintf("(?i)\\b%s (?:in|on) %s\\b", verb, measure), sprintf("(?i)\\b(?:whose|with|where) %s %s\\b", measure, verb),
             sprintf("(?i)\\b%s %s\\b", verb, measure))
  for (form in forms) {
    hit <- stringi::stri_match_first_regex(out$text, form)[1, ]
    if (is.na(hit[1]) || grepl(sprintf("\\Q%s\\E (more|less|by [0-9]|than|from|between|at least|most|least)\\b", hit[1]), out$text,
        ignore.case = TRUE,
                               perl = TRUE)) next
    name <- paste0(set$name, "_change")
    rises <- grepl(sprintf("^(%s)$", up), hit[2], ignore.case = TRUE)
    out <- with_derived(out, name, "difference", rev(set$columns))
    if (!has_column(out$study, name)) return(out)
    bound <- sprintf("with %s %s 0", name, if (rises) "above" else "below")
    out$text <- sub(hit[1], bound, out$text, fixed = TRUE)
    out$told <- c(out$told, sprintf("Took %s to mean that %s is %s %s.", quoted(hit[1]), set$columns[2], if (rises) "above" else "below",
        set$columns[1]))
    return(out)
  }
  out
}

#' "did mites go down in every arm": the mean change in each of the groups
#' @noRd
fell_in_each <- function(out, sets) {
  verb <- "(?:go(?:ne|es)? (?:up|down)|fall(?:en|s)?|drop(?:ped|s)?|ris(?:e|en|es)|improved?|increased?|decreased?|declined?|changed?)"
  form <- sprintf("(?i)^ *(?:did|has|have|do|does) (?:the )?(.+?) %s (?:in|for|within) (?:every|each|all|all the|both) (.+?)[?.! ]*$", verb)
  hit <- stringi::stri_match_first_regex(out$text, form)[1, ]
  if (is.na(hit[1])) return(out)
  said <- sets_said(hit[2], Filter(function(set) length(set$columns) == 2, sets))
  if (length(said) != 1 || is.null(column_of_words(all_columns(out$study), strsplit(sub("s$", "", hit[3]), " ")[[1]]))) return(out)
  name <- paste0(said[[1]]$name, "_change")
  out$told <- c(out$told, "The mean change stands for each group; its interval shows which way it went.")
  with_derived(out, name, "difference", rev(said[[1]]$columns), sprintf("mean of %s by %s", name, hit[3]))
}
