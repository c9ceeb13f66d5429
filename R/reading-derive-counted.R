# Rows that each stand for several of something counted ("count" beside species and reef): questions of how many of them there are.

#' The turns about such counts, as of `everyday_turns()`
#' @noRd
turns_of_counted <- function() {
  list(turn("how many|number of|most|fewest|least|total|more|fewer|per |share|proportion|percent|fraction", counted_things))
}

#' The one column that says how many of something each row stands for, where the rows are told apart by other columns
#' @section Shape: a column, or NULL.
#' @noRd
counted_column <- function(study) {
  columns <- Filter(function(col) col$kind == "count" &&
      grepl("^(count|counts|abundance|individuals|number_of_individuals|catch|n_counted|number_counted|num_individuals)$",
                                                               tolower(col$name)), all_columns(study))
  if (length(columns) == 1) columns[[1]]
}

#' What lives and is counted
#' @noRd
living_things <- function() {
  "(?:fish|fishes|birds|animals|individuals|insects|bees|beetles|butterflies|moths|spiders|plants|trees|seedlings|flowers|larvae|eggs|nests|frogs|newts|bats|mammals|snails|worms|crabs|shells|organisms|specimens)"  # nolint: line_length_linter.
}

#' "how many cod were counted in spring", "which transect has the most fish": the total of the column that counts them
#' @noRd
counted_things <- function(out) {
  col <- counted_column(out$study)
  if (is.null(col)) return(out)
  vocabulary <- study_vocabulary(out$study)
  told <- sprintf("Each row stands for %s of them; they are added up.", col$name)
  # ("how many cod were counted": what is counted is a level or a living thing)
  seen <- match_groups(out$text, "(?i)^ *how many (.+?) (?:(?:were|was|are|did we|did they|have been|had been) )?(?:counted|caught|seen|observed|recorded|found|trapped|sighted|sampled|landed|count|catch|see|find|record)\\b(.*)$")  # nolint: line_length_linter.
  if (!is.na(seen[1])) {
    level <- !is.null(level_in_text(out$study, seen[2])) || !is.null(level_in_text(out$study, sub("s$", "", seen[2])))
    living <- grepl(sprintf("(?i)^(?:the )?%s$", living_things()), seen[2], perl = TRUE)
    if (living) return(reworded(out, sprintf("sum of %s%s", col$name, seen[3]), told))
    if (level) return(reworded(out, sprintf("sum of %s for %s%s", col$name, seen[2], seen[3]), told))
  }
  common <- match_groups(out$text, "(?i)^ *(?:which|what) ([\\p{L}_]+) (?:is|are|was|were) (?:the )?(most|least) (?:common|abundant|frequent|numerous|often (?:seen|caught|counted|recorded))(.*?)[?.! ]*$")  # nolint: line_length_linter.
  if (!is.na(common[1])) return(reworded(out, sprintf("which %s has the %s sum of %s%s", common[2], if (tolower(common[3]) == "most") "highest" else "lowest", col$name, common[4]), told))  # nolint: line_length_linter.
  thing <- living_things()
  if (!grepl(sprintf("(?i)\\b%s\\b", thing), out$text, perl = TRUE)) return(out)
  said <- stringi::stri_extract_first_regex(out$text, sprintf("(?i)\\b%s\\b", thing))
  if (tolower(said) %in% c(tolower(vocabulary$values$level), vocabulary$phrases$phrase)) return(out)
  # ("what share of the fish are cod": of all that was counted)
  share <- match_groups(out$text, sprintf("(?i)^ *(?:what |the )?(?:share|proportion|percentage|percent|fraction) of (?:the |all )?%s (?:(?:that|which) )?(?:are|is|were|was) (.+?)( (?:in|on|at|during) .+?)?[?.! ]*$", thing))  # nolint: line_length_linter.
  found <- if (!is.na(share[1])) level_in_text(out$study, share[2], first = TRUE)
  rest <- if (!is.null(found)) trimws(sub(found$said, "", share[2], fixed = TRUE)) else ""
  if (nzchar(rest)) return(reworded(out, sprintf("share of rows with %s = %s %s weighted by %s", found$column, found$level, rest, col$name), told))
  if (!is.null(found)) return(reworded(out, sprintf("what share of %s comes from %s%s", col$name, found$level,
      if (is.na(share[3])) "" else share[3]), told))
  forms <- list(list(sprintf("(?i)^ *(?:how many|(?:the )?(?:total )?number of|total) (?:the )?%s\\b(?: (?:are|were|was|is) there)?(?: in total| altogether| overall)?", thing), sprintf("sum of %s", col$name)),  # nolint: line_length_linter.
    list(sprintf("(?i)\\b(?:the )?most %s\\b", thing), sprintf("the highest sum of %s", col$name)),
    list(sprintf("(?i)\\b(?:the )?(?:fewest|least) %s\\b", thing), sprintf("the lowest sum of %s", col$name)),
    list(sprintf("(?i)^ *(?:are|were|is|was) there (more|fewer) %s (?:in|on|at|under|with|during)\\b", thing), sprintf("is %s higher in", col$name)),
    list(sprintf("(?i)\\bper %s\\b", sub("s\\)$", ")", gsub("s\\|", "s?|", thing))), sprintf("per %s", col$name)))
  for (form in forms) if (grepl(form[[1]], out$text, perl = TRUE)) return(reworded(out, sub(form[[1]], form[[2]], out$text, perl = TRUE), told))
  out
}
