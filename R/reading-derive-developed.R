# How something developed, whose it was and by what it is measured, said by verbs: "how did consumption of A and B develop", "did the
# treated reduce their intake after May", "seasonality of sales", "household size", "use more".

#' The turns, as of `everyday_turns()`
#' @noRd
turns_of_developed <- function() {
  list(turn("^ *how (did|has|have|do|does) .*\\b(develop|evolve|progress|move|change)", developed),
       turn("^ *(did|have|has) .*\\b(after|since|following|from)\\b", lessened_after), turn("seasonalit", seasonality_of),
       turn("\\b(household|family|class|group|party|team|crew|flat|home) size\\b", size_of_group),
       turn("\\b(use|uses|used|consume|consumes|consumed|spend|spends|spent|earn|earns|earned|produce|produces|produced)\\b", measure_of_verb),
       turn("\\b(differences?|net|margin)\\b", difference_of_sides), turn("\\b(gained|improved|progressed|improve|gain)\\b", gained_most_in),
       turn("\\beffect size\\b|\\b(help|work|benefit)s?\\b", effect_of_named_level), turn("^ *(how many|what share|share)\\b.*\\b(longer|shorter|more|less|fewer|better|worse|higher|lower|faster|slower)\\b", did_more_under))  # nolint: line_length_linter.
}

#' "how did consumption of flat and time-of-use households develop": the measure over time, for each of those groups
#' @noRd
developed <- function(out) {
  form <- "(?i)^ *how (?:did|has|have|do|does) (?:the )?(.+?) (?:of|for|in|among) (?:the )?(.+?)(?: group| groups)? (?:developed|develop|evolved|evolve|progressed|progress|moved|move|changed over time|change over time)(?: over time)?(?: since then)?[?.! ]*$"  # nolint: line_length_linter.
  hit <- match_groups(out$text, form)
  if (is.na(hit[1])) return(out)
  found <- numeric_in_text(out$study, hit[2])
  state <- parse_question(hit[3], study_vocabulary(out$study))
  if (is.null(found) || length(state$groups) != 1 || !names_several(state$groups[[1]]) || any(state$type == "unknown")) return(out)
  reworded(out, sprintf("%s over time by %s for %s", found$name, column_of(state, state$groups[[1]]$column),
                        some_of(state$groups[[1]]$levels, 20)))
}

#' "did the time-of-use households reduce their consumption after January 2024": did it fall, among these rows?
#' @noRd
lessened_after <- function(out) {
  falls <- "reduce|reduced|cut|lower|lowered|decrease|decreased"; rises <- "increase|increased|raise|raised|expand|expanded"
  form <- sprintf("(?i)^ *(?:did|have|has) (?:the )?(.+?) (%s|%s|change|changed|improve|improved) (?:their|its|his|her) ([\\p{L}_ ]+?) ((?:after|since|following|from) .+?)[?.! ]*$",  # nolint: line_length_linter.
                  falls, rises)
  hit <- match_groups(out$text, form)
  if (is.na(hit[1])) return(out)
  found <- numeric_in_text(out$study, hit[4])
  who <- one_level_in(out$study, hit[2])
  if (is.null(found) || is.null(who)) return(out)
  verb <- if (grepl(sprintf("^(%s)$", falls), hit[3], ignore.case = TRUE)) "fall" else if (grepl(sprintf("^(%s)$", rises), hit[3],
      ignore.case = TRUE)) "rise" else "change"
  reworded(out, sprintf("did %s %s %s where %s is %s", found$name, verb, hit[5], who$column, who$level))
}

#' "seasonality of consumption", "is there seasonality in sales"
#' @noRd
seasonality_of <- function(out) {
  if (!length(date_columns(out$study))) return(out)
  text <- sub("(?i)^ *(?:is there|do we see|are there)(?: any| a)? (?:clear )?seasonality (?:of|in|for) (?:the )?(.+?)[?.! ]*$", "is \\1 seasonal?", out$text, perl = TRUE)  # nolint: line_length_linter.
  text <- sub("(?i)\\bseasonality (?:of|in|for) (?:the )?", "seasonal pattern of ", text, perl = TRUE)
  reworded(out, sub("(?i)\\bthe ([\\p{L}_]+?)(?:'s)? seasonality\\b", "seasonal pattern of \\1", text, perl = TRUE))
}

#' "household size", beside a column persons: how many there are in it
#' @noRd
size_of_group <- function(out) {
  hit <- match_groups(out$text, "(?i)\\b(?:household|family|class|group|party|team|crew|flat|home) size\\b")
  if (is.na(hit[1])) return(out)
  if (any(vapply(all_columns(out$study), function(col) "size" %in% name_stems(col$name), NA))) return(out)
  counts <- "^(n_?)?(persons?|people|members?|occupants?|residents?|household_members|pupils|students|heads)(_in_.*)?$"
  both <- Filter(function(col) is_numeric_kind(col$kind) && grepl("^(n_?)?(adults?|children|kids)$", tolower(col$name)), all_columns(out$study))
  own <- Filter(function(col) is_numeric_kind(col$kind) && grepl(counts, tolower(col$name)), all_columns(out$study))
  # ("party size", of adults and children)
  if (!length(own) && length(both) == 2) {
    name <- gsub(" ", "_", tolower(hit[1]))
    return(with_derived(out, name, "sum", vapply(both, `[[`, "", "name"), sub(hit[1], name, out$text, fixed = TRUE)))
  }
  if (length(own) != 1) return(out)
  reworded(out, sub(hit[1], own[[1]]$name, out$text, fixed = TRUE), sprintf("Took %s to mean the column %s.", quoted(hit[1]), own[[1]]$name))
}

#' "which household uses most", "do homes with heat pumps use more": what is used, spent, earned or made is measured by one column
#' @noRd
measure_of_verb <- function(out) {
  nouns <- list(c("us(?:e|es|ed)|consum(?:e|es|ed)", "consumption", "usage"), c("spen(?:d|ds|t)", "spending", "expenditure"),
                c("earn(?:s|ed)?", "earnings", "income", "salary", "pay"), c("produc(?:e|es|ed)", "production", "output", "yield"))
  for (one in nouns) {
    # (what stands behind "more" is what there is more of: "use more water")
    end <- "(?=[?.! ]*$| (?:per|in|on|at|during|by|for|when|after|before|each|every)\\b| than (?!(?:about |around |roughly )?[^\\p{L} ]))"
    form <- sprintf("(?i)\\b(?:%s) (?:the )?(more|less|most|least)%s", one[1], end)
    if (!grepl(form, out$text, perl = TRUE)) next
    before <- sub(form, "", out$text, perl = TRUE)
    found <- compact(lapply(one[-1], function(noun) numeric_in_text(out$study, noun)))
    if (!length(found)) next
    name <- found[[1]]$name
    # (the question names something else that is measured)
    said <- match_groups(before, "(?i)\\bper ([\\p{L}_]+)")[1]
    other <- numeric_in_text(out$study, if (is.na(said)) before else sub(said, "", before, fixed = TRUE))
    if (!is.null(other) && other$name != name) return(out)
    word <- tolower(match_groups(out$text, form)[2])
    put <- c(more = "have a higher %s", less = "have a lower %s", most = "has the highest %s", least = "has the lowest %s")[[word]]
    return(reworded(out, sub(form, sprintf(put, name), out$text, perl = TRUE), sprintf("Took what is used, spent, earned or made to be %s.", name)))
  }
  out
}

#' "goal difference", "net goals", beside home_goals and away_goals: the one less the other
#' @noRd
difference_of_sides <- function(out) {
  hit <- match_groups(out$text, "(?i)\\b(?:net ([\\p{L}]+)|([\\p{L}]+?)s? (?:difference|margin)s?)\\b(?! (?:between|in|of|from)\\b)")
  if (is.na(hit[1])) return(out)
  noun <- stem_words(tolower(or_if_na(hit[2], hit[3])))
  sides <- list(c("home", "away"), c("for", "against"), c("scored", "conceded"), c("in", "out"), c("received", "given"), c("won", "lost"))
  numeric <- numeric_columns(out$study)
  for (pair in sides) {
    own <- lapply(pair, function(side) Filter(function(col) setequal(name_stems(col$name), c(noun, stem_words(side))), numeric))
    if (!all(lengths(own) == 1)) next
    name <- paste0(tolower(or_if_na(hit[2], hit[3])), "_difference")
    return(with_derived(out, name, "difference", c(own[[1]][[1]]$name, own[[2]][[1]]$name), sub(hit[1], name, out$text, fixed = TRUE)))
  }
  out
}

#' "which class gained most in maths", "did maths and reading improve equally": their gains, ranked or beside each other
#' @noRd
gained_most_in <- function(out) {
  if (!is.null(long_layout(out$study))) return(out)
  most <- match_groups(out$text, "(?i)^ *(which|what) ([\\p{L}_ ]+?) (?:has |have )?(?:gained|improved|progressed) (?:the )?(most|least) in (?:the |their )?([\\p{L}_ ]+?)[?.! ]*$")  # nolint: line_length_linter.
  if (!is.na(most[1])) return(reworded(out, sprintf("%s %s has the %s mean gain in %s", most[2], most[3], if (tolower(most[4]) == "most") "highest" else "lowest", most[5])))  # nolint: line_length_linter.
  both <- match_groups(out$text, "(?i)^ *(?:did|do|have|has) (?:the )?([\\p{L}_]+) and (?:the )?([\\p{L}_]+) (?:improve|improved|gain|gained|change|changed|develop|developed) (?:equally|the same|alike|to the same (?:extent|degree)|by the same amount|equally (?:much|well))[?.! ]*$")  # nolint: line_length_linter.
  if (is.na(both[1])) return(out)
  reworded(out, sprintf("is the gain in %s different from the gain in %s", both[2], both[3]))
}

#' "effect size of the program", "does the program help pupils with free meals more": what the column of that level does
#' @noRd
effect_of_named_level <- function(out) {
  size <- match_groups(out$text, "(?i)^ *(?:what (?:is|was) |how (?:big|large) (?:is|was) )?(?:the )?effect size (?:of|for) (?:the |an? )?((?:(?!\\b(?:on|in|for|of)\\b)[\\p{L}_ -])+?)[?.! ]*$")  # nolint: line_length_linter.
  if (!is.na(size[1])) {
    found <- level_said(out$study, size[2])
    return(if (is.null(found)) out else reworded(out, sprintf("effect of %s", found$column)))
  }
  more <- match_groups(out$text, "(?i)^ *(?:do|does|did) (?:the |an? )?([\\p{L}_ -]+?) (?:help|work|work better|benefit)s?(?: for)? (.+?) (?:more|better|less)(?: than .+?)?[?.! ]*$")  # nolint: line_length_linter.
  if (is.na(more[1])) return(out)
  found <- level_said(out$study, more[2])
  columns <- Filter(function(col) is_level_kind(col$kind) || col$kind == "yes_no", all_columns(out$study))
  who <- column_in_text(columns, more[3], named_phrases(out$study, columns))$name %||% level_said(out$study, more[3])$column
  if (is.null(found) || is.null(who) || who == found$column) return(out)
  reworded(out, sprintf("does the effect of %s depend on %s", found$column, who))
}

#' "how many subjects slept longer on B", of subjects measured under each of two levels: those whose value is higher there
#' @noRd
did_more_under <- function(out) {
  form <- "(?i)^ *(how many|(?:what )?share of|what share of) (?:of )?(?:the )?([\\p{L}_]+) (?:had |have |has |were |was |did )?(?:an? )?([\\p{L}_ ]+? )?(longer|shorter|more|less|fewer|better|worse|higher|lower|faster|slower)(?: ([\\p{L}_ ]+?))? (?:on|with|under|in|after|during|at|for) (?:the )?([\\p{L}_0-9 -]+?)(?: than (?:on|with|under|in|at)? ?.+?)?[?.! ]*$"  # nolint: line_length_linter.
  hit <- match_groups(out$text, form)
  if (is.na(hit[1])) return(out)
  unit <- units_called(keys_of(out$study, single = FALSE), hit[3])
  found <- level_said(out$study, hit[7])
  if (length(unit) != 1 || is.null(found)) return(out)
  col <- find_column(out$study, found$column)
  data <- out$study$tables[[unit[[1]]$table]]$data
  # (each of them once under each of the two)
  if (length(col$levels) != 2 || anyDuplicated(paste(data[[unit[[1]]$name]], data[[col$name]], sep = "\r"))) return(out)
  said <- paste(trimws(stats::na.omit(hit[c(4, 6)])), collapse = " ")
  numeric <- numeric_columns(out$study)
  # ("slept" is a form of sleep)
  measure <- column_in_text(numeric, said, kin_phrases(out$study, said)) %||%
    column_in_text(numeric, paste(base_forms(tolower(said)), collapse = " "), named_phrases(out$study))
  if (is.null(measure)) return(out)
  other <- setdiff(col$levels, found$level)
  # (names that hold the level would be taken for it)
  names <- paste0(measure$name, c("_here", "_there"))
  for (i in 1:2) out <- with_derived(out, names[i], "value_at", measure$name, within = unit[[1]]$name, order = col$name, on = c(found$level, other)[i])  # nolint: line_length_linter.
  name <- paste0(measure$name, "_here_less_there")
  low <- grepl("shorter|less|fewer|lower|faster|worse", hit[5], ignore.case = TRUE)
  text <- sprintf("share of rows with %s %s 0 where %s is %s", name, if (low) "below" else "above", col$name, found$level)
  done <- with_derived(out, name, "difference", names, text)
  if (!has_column(done$study, name)) return(out)
  done$told <- c(done$told, sprintf("Each %s is held against itself: %s under %s less that under %s.", unit[[1]]$name, measure$name, found$level, other))  # nolint: line_length_linter.
  done
}
