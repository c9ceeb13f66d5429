# How people speak of ratings and of what lasts: the aspect rated worst, who is satisfied with it, who keeps alive longest.

#' The turns about ratings and lifetimes, as of `everyday_turns()`
#' @noRd
turns_of_ratings <- function() {
  list(turn("^ *(which|what|average|mean|median|rank|compare)\\b", aspects_as_items), turn("satisfied|happy|pleased|content", satisfied_side),
    turn("^ *how likely\\b", likely_to),
       turn("\\balive\\b|\\bd(ie|ies|ied)\\b|\\bliv(e|es|ed)\\b", living_longer), turn("well .*\\b(tell|separate|distinguish|discriminat)",
         telling_apart),
       turn("differ from|different from|compared? (to|with)", level_against_others), turn("\\bholders?\\b|\\bowners?\\b", holders_of),
       turn("\\benrol|recruit|contribut|register|treat|admit|saw|see", units_taken_in), turn("comparable|similar|alike|balanced|equal",
         groups_at_start),
       turn("\\b(than|versus|vs|and|or|with|against|to) no\\b", level_of_none), turn("\\bcombinations?\\b", combination_of_all),
       turn("[A-Z] ?& ?[A-Z]", initials_joined), turn("\\b(unknown|unrecorded|unreported)\\b", unknown_values), turn("\\((above|below|under|over|at least|less than|more than) ", explained_in_brackets),  # nolint: line_length_linter.
       turn("\\bnet[- ]promoter|\\be?-?nps\\b", net_promoter_score), turn("promoter|detractor", recommenders_apart),
           turn("[0-9]s? (or|and|to) [0-9]+s? (on|for|in) |[0-9]-[0-9]+ (on|for|in) ", scores_on), turn("\\bmore than (they|he|she|it) \\p{L}+",
           one_beyond_other),
       turn("\\boutside\\b", outside_of), turn(".\\b(who|whom|where|how|when)\\b", as_they_were_asked))
}

#' "which aspect gets the lowest rating", "average rating of each aspect", of items of one scale without a name of their own: the items
#' @noRd
aspects_as_items <- function(out) {
  scale <- Filter(function(set) length(set$columns) >= 3, study_sets(out$study, "items"))
  if (length(scale) != 1) return(out)
  noun <- "(?:aspects?|items?|questions?|statements?|features?|ratings?|topics?|things|dimensions?|points)"
  told <- sprintf("Took the items of the scale: %s.", some_of(scale[[1]]$columns, 8))
  known <- stems_of(stringi::stri_extract_first_regex(out$text, quick_form(sprintf("(?i)%s", noun))))[[1]]
  if (length(known) && any(known %in% study_vocabulary(out$study)$terms$stem)) return(out)
  averaged <- sprintf("(?i)^ *(?:what (?:is|are) )?(?:the )?(average|mean|median) (?:rating |score |answer )?(?:of|for|per|by|in) (?:each|every|all|the|all of the)(?: of the)?(?: [0-9]+)? %s[?.! ]*$", noun)  # nolint: line_length_linter.
  hit <- match_groups(out$text, averaged)
  if (!is.na(hit[1])) return(reworded(out, sprintf("%s of each item", hit[2]), told))
  ranked <- sprintf("(?i)^ *(?:which|what)(?: one)?(?: of the)? (?:[0-9a-z]+ )?%s (?:is|are|was|were|gets?|got|has|have|had|receives?|received|scores?|scored|do (?:people|they|respondents))\\b.*?\\b(worst|lowest|poorest|least|best|highest|most)\\b(?! .*\\b(?:relat|correlat|associat|predict|drive|explain)).*$", noun)  # nolint: line_length_linter.
  hit <- match_groups(out$text, ranked)
  if (is.na(hit[1]) || grepl("\\b(by|per|among|for|in|with|where|when)\\b", out$text, ignore.case = TRUE)) return(out)
  if (grepl("\\b(average|mean)\\b", out$text, ignore.case = TRUE)) return(reworded(out, "average of each item", told))
  reworded(out, sprintf("which item is rated %s", tolower(hit[2])), told)
}

#' "what share is dissatisfied with the opening hours", of answers poor to good: those on that side of the middle
#' @noRd
satisfied_side <- function(out) {
  form <- "(?i)\\b(?:(?:is|are|were|was|feels?|felt) )?(?:(very|quite|fairly|rather) )?(dis|un)?(satisfied|happy|pleased|content) with (?:the |their )?(.+)$"  # nolint: line_length_linter.
  hit <- match_groups(out$text, form)
  if (is.na(hit[1]) || !is.na(hit[2]) || !(asks_for_share(out$text) || grepl("\\bhow many\\b|\\bnumber of\\b", out$text,
    ignore.case = TRUE))) return(out)
  scales <- Filter(function(col) col$kind == "ordered" && length(col$levels) >= 3 && !any(grepl("satisf|happy|agree", tolower(col$levels))),
                   all_columns(out$study))
  item <- column_in_text(scales, hit[5], named_phrases(out$study, scales))
  if (is.null(item) || !startsWith(tolower(hit[5]), tolower(item$said))) return(out)
  k <- length(item$col$levels)
  side <- if (is.na(hit[3])) seq_len(k) > (k + 1) / 2 else seq_len(k) < (k + 1) / 2
  own <- item$col$levels[side]
  said <- sub("with .*$", "", hit[1])
  plain <- sprintf("rate %s %s%s", item$name, paste(own, collapse = " or "), substring(hit[5], nchar(item$said) + 1))
  text <- sub(hit[1], plain, out$text, fixed = TRUE)
  text <- sub("(?i)\\b(share|proportion|percentage|percent|fraction) (?=rate )", "\\1 of people ", text, perl = TRUE)
  text <- sub("(?i)\\bhow many (?=rate )", "how many people ", text, perl = TRUE)
  reworded(out, text, sprintf("Took %s to mean the answers on that side of the middle: %s.",
    quoted(trimws(sub("(?i)^(is|are|were|was|feels?|felt) ", "", said,
    perl = TRUE))), some_of(quoted(own), 4)))
}

#' "who dies sooner", "how long do women stay alive", "keeps animals alive longest", where times to it are measured
#' @noRd
living_longer <- function(out) {
  vocabulary <- study_vocabulary(out$study)
  time <- survival_time(vocabulary$columns)
  kept <- "(?i)\\b(?:keeps?|kept|stay|stays|stayed|remain|remains|remained) (?:(?:the |their |its )?(?:animals|patients|people|rats|mice|plants|insects|subjects|them) )?alive\\b( (?:the )?(?:longer|longest))?"  # nolint: line_length_linter.
  if (!is.null(time)) {
    text <- gsub("(?i)\\bd(?:ie|ies|ied) (?:sooner|earlier|faster|younger)\\b", "survive shorter", out$text, perl = TRUE)
    text <- gsub("(?i)\\bd(?:ie|ies|ied) later\\b", "survive longer", text, perl = TRUE)
    return(reworded(out, gsub(kept, "survive\\1", text, perl = TRUE)))
  }
  # times of which none is censored are a plain measure
  own <- Filter(function(col) is_numeric_kind(col$kind) && any(grepl("^(surviv|lifetim|lifespan|longev)", name_stems(col$name))),
    all_columns(out$study))
  if (length(own) != 1) return(out)
  lives <- "(?i)\\b(?:lives?|lived|survives?|survived)( (?:the )?(?:longer|longest))\\b"
  told <- sprintf("Took being alive to mean %s.", own[[1]]$name)
  longest <- sprintf("(?:%s|%s)", kept, lives)
  hit <- match_groups(out$text, longest)
  how <- tolower(trimws(stats::na.omit(hit[2:3])))
  if (is.na(hit[1]) || !length(how)) return(out)
  plain <- if (grepl("longest", how)) sprintf("has the highest mean %s", own[[1]]$name) else sprintf("have higher %s", own[[1]]$name)
  reworded(out, sub(hit[1], plain, out$text, fixed = TRUE), told)
}

#' "how well does calcium tell samples with crystals from those without": a curve of sensitivity and specificity
#' @noRd
telling_apart <- function(out) {
  form <- "(?i)^ *how well (?:does|do|can|could|did) (.+?) (?:tell|separate|distinguish|discriminate)s? (?:between )?(?:apart )?(.+?)[?.! ]*$"
  hit <- match_groups(out$text, form)
  if (is.na(hit[1])) return(out)
  two <- Filter(function(col) length(col$levels) == 2, all_columns(out$study))
  event <- column_in_text(two, hit[3], named_phrases(out$study, two))
  if (is.null(event)) {
    state <- parse_question(hit[3], study_vocabulary(out$study))
    named <- unique(vapply(state$groups, function(g) column_of(state, g$column), ""))
    named <- intersect(named, vapply(two, `[[`, "", "name"))
    if (length(named) != 1) return(out)
    event <- list(name = named)
  }
  reworded(out, sprintf("roc curve of %s for %s", hit[2], event$name))
}

#' "which antidotes differ from A": every level against that one, in the one column that measures something
#' @noRd
level_against_others <- function(out) {
  form <- "(?i)^ *which (?:of the )?([\\p{L}_ ]+?) (?:is|are|differ|differs|was|were|gave|have|has)\\b ?(?:significantly )?(?:different )?(?:from|compared (?:to|with)) (?:the )?([\\p{L}\\p{N}_]+)(?: in (?:their |the )?(.+?))?[?.! ]*$"  # nolint: line_length_linter.
  hit <- match_groups(out$text, form)
  if (is.na(hit[1])) return(out)
  groups <- Filter(function(col) is_level_kind(col$kind) && length(col$levels) >= 3, all_columns(out$study))
  group <- column_in_text(groups, hit[2], named_phrases(out$study, groups))
  if (is.null(group)) return(out)
  level <- group$col$levels[tolower(group$col$levels) == tolower(hit[3])]
  measured <- Filter(function(col) !(col$role %||% "") %in% c("weight", "latitude", "longitude", "year"), numeric_columns(out$study))
  what <- if (!is.na(hit[4])) hit[4] else if (length(measured) == 1) measured[[1]]$name
  if (length(level) != 1 || is.null(what)) return(out)
  reworded(out, sprintf("compare %s of each %s with %s", what, group$name, level),
           if (is.na(hit[4])) sprintf("Took %s, the only column that measures something.", what))
}

#' "card holders", of a yes/no column that says who holds a card: those of whom it says yes
#' @noRd
holders_of <- function(out) {
  form <- "(?i)\\b(of|among|for|in|by|do|are|did|were|do the) (?:the )?((?:[\\p{L}_]+[ -])?[\\p{L}_]+)[ -](?:holders|owners)\\b"
  hit <- match_groups(out$text, form)
  if (is.na(hit[1]) || grepl("\\bnon[- ]", hit[1]) || asks_for_share(out$text)) return(out)
  said <- hit[3]
  state <- parse_question(said, study_vocabulary(out$study))
  flags <- Filter(function(k) !is.na(item_column(state, k, "yes_no")), seq_len(state$n))
  if (!length(flags)) return(out)
  # "the library card holders": the words of the name only
  said <- paste(vapply(state$items[min(flags):state$n], `[[`, "", "text"), collapse = " ")
  flag <- find_column(out$study, column_of(state, item_column(state, flags[1], "yes_no")))
  who <- if (length(flag$levels) == 2) list(name = flag$name, yes = flag$levels[2])
  if (is.null(who) || grepl("\\bthan\\b", out$text, ignore.case = TRUE)) return(out)
  whole <- substring(hit[1], regexpr(said, hit[1], fixed = TRUE))
  # "do card holders visit more": both sides are compared
  compares <- grepl("^ *(do|are|did|were)\\b", out$text, ignore.case = TRUE)
  plain <- if (compares) sprintf("rows with %s", who$name) else sprintf("rows with %s = %s", who$name, who$yes)
  reworded(out, sub(whole, plain, out$text, fixed = TRUE), sprintf("Took %s to mean that %s is %s.", quoted(whole), who$name, quoted(who$yes)))
}

#' "which institution enrolled the most patients": the one with most rows
#' @noRd
units_taken_in <- function(out) {
  form <- "(?i)^ *(?:which|what) ([\\p{L}_ ]+?) (?:has |have )?(?:enrolled|enrols?|recruited|recruits?|contributed|contributes?|registered|registers?|treated|treats?|admitted|admits?|saw|sees?) (?:the )?(most|fewest) (.+?)[?.! ]*$"  # nolint: line_length_linter.
  hit <- match_groups(out$text, form)
  if (is.na(hit[1])) return(out)
  group <- column_in_text(all_columns(out$study), hit[2], named_phrases(out$study))
  counted <- parse_question(hit[4], study_vocabulary(out$study))
  if (is.null(group) || !all(counted$type %in% c("entity", "stop", "filler"))) return(out)
  reworded(out, sprintf("count the rows by %s", group$name), sprintf("Each row is one of the %s.", tolower(hit[4])))
}

#' "were the groups comparable before the therapy", of a measure before and after: the first of the two by the groups
#' @noRd
groups_at_start <- function(out) {
  form <- "(?i)^ *(?:were|are|was|is) (?:the |all )?(?:groups|arms|treatments|therapies|treatment groups) (?:comparable|similar|alike|balanced|equal|the same) (?:before|at (?:the )?(?:start|baseline|beginning|outset))\\b[^?]*[?.! ]*$"  # nolint: line_length_linter.
  if (!grepl(form, out$text, perl = TRUE)) return(out)
  sets <- sets_over_time(out$study, 2)
  pairs <- Filter(function(set) length(set$columns) == 2, sets)
  groups <- Filter(function(col) is_level_kind(col$kind) && length(col$levels) %in% 2:8, all_columns(out$study))
  # (several measures were taken at the start)
  if (length(sets) > 1 && length(groups) == 1) return(reworded(out, sprintf("baseline table by %s", groups[[1]]$name)))
  if (length(pairs) != 1 || length(groups) != 1) return(out)
  reworded(out, sprintf("does %s differ by %s", pairs[[1]]$columns[1], groups[[1]]$name),
           sprintf("Compared on %s, the first of the two measurements.", pairs[[1]]$columns[1]))
}

#' "cars from outside the USA", where USA is a level: all others
#' @noRd
outside_of <- function(out) {
  hit <- match_groups(out$text, "(?i)\\b(?:from )?outside(?: of)? (?:the )?([\\p{L}\\p{N}_. -]+?)(?=[?.!,]|$| (?:get|have|has|are|is|do|does|by|on|and|with|than|differ|more|less|cost|earn)\\b)")  # nolint: line_length_linter.
  if (is.na(hit[1])) return(out)
  levels <- unlist(lapply(Filter(function(col) col$kind %in% c("category", "yes_no"), all_columns(out$study)),
    function(col) stats::setNames(col$levels,
    rep(col$name, length(col$levels)))))
  own <- levels[tolower(levels) == tolower(trimws(hit[2]))]
  if (length(own) != 1) return(out)
  compares <- grepl("^ *(do|does|are|is|did|were|was)\\b.*\\b(more|less|better|worse|[a-z]+er)\\b", out$text, ignore.case = TRUE) &&
    !grepl("\\bthan\\b", out$text, ignore.case = TRUE)
  others <- setdiff(find_column(out$study, names(own))$levels, own)
  if (compares && length(others) == 1) return(reworded(out, sub(hit[1], sprintf("with %s = %s", names(own), others), out$text, fixed = TRUE)))
  reworded(out, sub(hit[1], sprintf("where %s is not %s", names(own), own), out$text, fixed = TRUE))
}

#' "by who they came with", of a column "Who did you come with?": the name of what it asks
#' @noRd
as_they_were_asked <- function(out) {
  past <- c(came = "come", went = "go", spent = "spend", bought = "buy", got = "get", took = "take", heard = "hear", thought = "think", felt = "feel",
            ate = "eat", drove = "drive", slept = "sleep", chose = "choose", found = "find", saw = "see", made = "make", paid = "pay")
  words_of <- function(text) tolower(stringi::stri_extract_all_regex(text, "[\\p{L}]+")[[1]])
  root <- function(words) stem_words(ifelse(words %in% names(past), past[words], words))
  said <- words_of(out$text)
  for (col in all_columns(out$study)) for (asked in c(col$name, col$label %||% "")) {
    words <- words_of(sub("\\(.*$", "", asked))
    if (!words[1] %in% c("who", "whom", "where", "how", "when")) next
    telling <- root(setdiff(words[-1], english$stop))
    starts <- setdiff(which(said == words[1]), 1L)
    if (!length(telling) || !length(starts)) next
    names <- spoken_names(asked)
    if (!length(names)) next
    for (at in starts) {
      reach <- at:min(length(said), at + 7)
      last <- match(TRUE, vapply(reach, function(k) all(telling %in% root(said[at:k])), NA))
      if (is.na(last)) next
      # a small word that ends the question belongs to it ("with")
      end <- reach[last]
      if (end < length(said) && said[end + 1] %in% c("with", "from", "to", "for") && said[end + 1] == last_of(words)) end <- end + 1
      whole <- stringi::stri_extract_first_regex(out$text, quick_form(sprintf("(?i)\\b%s\\b", paste(said[at:end], collapse = "[^\\\\p{L}]+"))))
      if (is.na(whole)) next
      return(reworded(out, sub(whole, names[1], out$text, fixed = TRUE), sprintf("Took %s to mean the column %s.", quoted(whole), quoted(col$name))))
    }
  }
  out
}

#' "how likely are first-time visitors to recommend us", of a scale of likelihood: its mean for them
#' @noRd
likely_to <- function(out) {
  hit <- match_groups(out$text, "(?i)^ *how likely (?:are|is|were|was) (?:the |our |a |an )?(.+?) to (.+?)[?.! ]*$")
  if (is.na(hit[1])) return(out)
  people <- grepl(sprintf("^(?:all )?%s$", people_words()), hit[2], ignore.case = TRUE, perl = TRUE) && is.null(part_level(hit[2], out$study))
  everyone <- people || !names_something(out$study, hit[2])
  # "how likely is a hive to swarm with a queen over 24 months": a share, where the data says who did
  two <- Filter(function(col) col$kind == "yes_no" && length(col$levels) == 2, all_columns(out$study))
  event <- column_in_text(two, hit[3], kin_phrases(out$study, hit[3]))
  if (!is.null(event) && startsWith(tolower(hit[3]), tolower(event$said))) {
    rest <- substring(hit[3], nchar(event$said) + 1)
    # (what is left of the column's own name, as "the winter" of survived_winter, is no condition)
    repeat {
      word <- match_groups(rest, "^ +(?:the +|their +|its +)?([\\p{L}_]+)")
      if (is.na(word[1]) || !stem_words(tolower(word[2])) %in% name_stems(event$name)) break
      rest <- substring(rest, nchar(word[1]) + 1)
    }
    rest <- sub("(?i)^ +(?:with|having) (?:an? |the )?", " where ", rest, perl = TRUE)
    whose <- if (everyone) "" else sprintf(" among %s", hit[2])
    return(reworded(out, sprintf("share of rows with %s = %s%s%s", event$name, last_of(event$col$levels), whose, rest)))
  }
  scales <- Filter(function(col) col$kind %in% c("number", "count", "ordered"), all_columns(out$study))
  found <- column_in_text(scales, hit[3], named_phrases(out$study, scales))
  if (is.null(found) || !startsWith(tolower(hit[3]), tolower(found$said))) return(out)
  # "how likely are women to recommend us compared with men"
  other <- match_groups(hit[3], "(?i),? (?:compared (?:with|to)|versus|vs\\.?|relative to|than|against) (?:the )?(.+)$")
  if (!everyone && !is.na(other[1])) return(reworded(out, sprintf("compare %s between %s and %s", found$name, hit[2], other[2])))
  reworded(out, sprintf("average %s%s", found$said, if (everyone) "" else paste(" of", hit[2])))
}

#' "NPK better than no fertiliser", of a column with the level "none": that level
#' @noRd
level_of_none <- function(out) {
  hit <- match_groups(out$text, "(?i)\\b(than|versus|vs\\.?|and|or|with|against|to) no ([\\p{L}_]+)\\b")
  if (is.na(hit[1])) return(out)
  none <- function(col) col$levels[grepl("^(none|no|nothing|untreated)$", tolower(col$levels))]
  own <- Filter(function(col) col$kind %in% c("category", "ordered") && length(col$levels) >= 2 && length(none(col)) == 1 &&
    stem_words(tolower(hit[3])) %in% name_stems(col$name), all_columns(out$study))
  if (length(own) != 1) return(out)
  level <- none(own[[1]])
  reworded(out, sub(hit[1], paste(hit[2], level), out$text, fixed = TRUE), sprintf("Took %s to mean that %s is %s.", quoted(paste("no", hit[3])),
    own[[1]]$name,
    quoted(level)))
}

#' "which treatment combination gives the tallest plants", of rows in two groupings: the combinations of both
#' @noRd
combination_of_all <- function(out) {
  form <- "(?i)^ *(which|what) (?:[\\p{L}]+ )?combination(s?) (?!of\\b)(.+)$"
  hit <- match_groups(out$text, form)
  groups <- Filter(function(col) col$kind %in% c("category", "ordered") && length(col$levels) %in% 2:12, all_columns(out$study))
  if (is.na(hit[1]) || length(groups) != 2) return(out)
  names <- vapply(groups, `[[`, "", "name")
  reworded(out, sprintf("%s combination of %s and %s %s", hit[2], names[1], names[2], hit[4]), sprintf("Took the combinations of %s and %s.",
    names[1], names[2]))
}

#' "R&D", of a level "Research & Development": the level of these initials
#' @noRd
initials_joined <- function(out) {
  hit <- match_groups(out$text, "\\b([A-Z]) ?& ?([A-Z])\\b")
  if (is.na(hit[1])) return(out)
  columns <- Filter(function(col) col$kind %in% c("category", "ordered"), all_columns(out$study))
  levels <- unlist(lapply(columns, `[[`, "levels"))
  if (any(grepl(hit[1], levels, fixed = TRUE))) return(out)
  initials <- vapply(strsplit(gsub("(?i)\\band\\b|[^[:alpha:]]+", " ", levels, perl = TRUE), " +"), function(w) toupper(paste(substr(w[nzchar(w)],
    1, 1),
    collapse = "")), "")
  own <- unique(levels[initials == paste0(hit[2], hit[3])])
  # (letters of their own would be passed over, and the condition with them)
  if (length(own) != 1) return(reworded(out, sub(hit[1], paste0(hit[2], "and", hit[3]), out$text, fixed = TRUE)))
  reworded(out, sub(hit[1], own, out$text, fixed = TRUE), sprintf("Took %s to mean %s.", quoted(hit[1]), quoted(own)))
}

#' "how many penguins have unknown sex": those of whom it is missing
#' @noRd
unknown_values <- function(out) {
  hit <- match_groups(out$text, "(?i)\\b(?:with |have |has |of )?(?:an? )?(?:unknown|unrecorded|unreported) ([\\p{L}_]+(?: [\\p{L}_]+){0,2})")  # nolint: line_length_linter.
  if (is.na(hit[1])) return(out)
  found <- column_in_text(all_columns(out$study), hit[2], named_phrases(out$study))
  if (is.null(found) || !startsWith(tolower(hit[2]), tolower(found$said))) return(out)
  if (any(grepl("^(unknown|unrecorded|unreported)", found$col$levels, ignore.case = TRUE))) return(out)
  hit[1] <- up_to_words(hit[1], hit[2], found$said)
  reworded(out, sub(hit[1], sprintf("have missing %s", found$name), out$text, fixed = TRUE),
           sprintf("Took it to mean that %s is missing.", found$name))
}

#' "failed maths (below 50)": what the brackets say of the measure before them
#' @noRd
explained_in_brackets <- function(out) {
  hit <- match_groups(out$text, "(?i)\\b(?:who |that )?(?:failed|passed|excelled in|did well in|did badly in|struggled in) (?:the |their |in )?([\\p{L}_ ]+?) \\((above|below|under|over|at least|less than|more than) ([0-9.]+)[^)]*\\)")  # nolint: line_length_linter.
  if (is.na(hit[1])) return(out)
  found <- numeric_in_text(out$study, hit[2])
  if (is.null(found)) {
    state <- parse_question(hit[2], study_vocabulary(out$study))
    own <- unique(unlist(lapply(seq_len(state$n), function(k) item_column(state, k, c("number", "count")))))
    own <- own[!is.na(own)]
    if (length(own) != 1) return(out)
    found <- list(name = column_of(state, own))
  }
  reworded(out, sub(hit[1], sprintf("have %s %s %s", found$name, hit[3], hit[4]), out$text, fixed = TRUE))
}

#' The one column of answers from 0 to 10 to a question of recommending
#' @noRd
recommending_column <- function(study) {
  columns <- Filter(function(col) grepl("(^|[_. ])(nps|net_promoter|recommend\\w*|promoter)", tolower(col$name)) && (is_numeric_kind(col$kind) ||
      col$kind == "ordered"), all_columns(study))
  if (length(columns) != 1) return(NULL)
  values <- suppressWarnings(as.numeric(as.character(understood(study, columns[[1]]$name, columns[[1]]$table))))
  if (all(is.na(values)) || min(values, na.rm = TRUE) < 0 || max(values, na.rm = TRUE) > 10 || max(values, na.rm = TRUE) < 7 ||
      any(values != round(values), na.rm = TRUE)) return(NULL)
  columns[[1]]$name
}

#' "net promoter score by plan", of answers from 0 to 10: the share of 9 and 10 less the share of 0 to 6
#' @section Source: Reichheld, F. F. (2003). The one number you need to grow. Harvard Business Review 81(12), 46-54.
#' @noRd
net_promoter_score <- function(out) {
  form <- "(?i)\\b(?:the )?(?:(?:average|mean|overall|total) )?(?:(?:employee )?net[- ]promoter(?: scores?)?|e?-?nps(?: scores?)?)\\b"
  name <- if (grepl(form, out$text, perl = TRUE)) recommending_column(out$study)
  # (a column called so is named by the bare word)
  named <- !is.null(name) && grepl("(^|[_. ])nps", tolower(name)) && !grepl("promoter|nps scores?", out$text, ignore.case = TRUE)
  if (is.null(name) || named) out else with_derived(out, "net_promoter_score", "net_promoter", name, sub(form, "mean net_promoter_score", out$text,
      perl = TRUE))
}

#' "share of 9s and 10s on recommend", "how many gave a score of 1 to 3 for advice": rows with those answers
#' @noRd
scores_on <- function(out) {
  form <- paste0("(?i)\\b(of|with|who gave|gave|giving|scored|scoring|rated|answered) (?:us |it |an? |all |the )?(?:(?:scores?|ratings?|answers?|values?|marks?|responses?|grades?|points) )?",  # nolint: line_length_linter.
                 "(?:of )?([0-9]+)s?(?: (or|and|to) |(-))([0-9]+)s? (?:on|for|in) (?:the )?((?:[\\p{L}_0-9]+ ?){1,4})")
  hit <- match_groups(out$text, form)
  if (is.na(hit[1])) return(out)
  scales <- Filter(function(col) col$kind %in% c("number", "count", "ordered"), all_columns(out$study))
  found <- column_in_text(scales, hit[7], named_phrases(out$study, scales))
  if (is.null(found) || !startsWith(tolower(hit[7]), tolower(found$said))) return(out)
  span <- hit[4] %in% "to" || !is.na(hit[5])
  values <- if (span) sprintf("between %s and %s", hit[3], hit[6]) else sprintf("= %s or %s", hit[3], hit[6])
  lead <- if (tolower(hit[2]) == "of") "of rows with" else if (grepl("^who", hit[2], ignore.case = TRUE)) "have" else "rows with"
  whole <- up_to_words(hit[1], hit[7], found$said)
  reworded(out, sub(whole, sprintf("%s %s %s", lead, found$name, values), out$text, fixed = TRUE))
}

#' "do promoters spend more than detractors": the answers in their three bands
#' @noRd
recommenders_apart <- function(out) {
  name <- recommending_column(out$study)
  odd <- !is.null(name) && grepl("[^[:alnum:]_. ]", name)
  if (is.null(name) || !odd && !several_recommenders(out$text)) return(out)
  with_derived(out, if (odd) "recommender" else paste0(name, "_group"), "bands", name, cuts = c(7, 9), labels = c("detractor", "passive", "promoter"))
}

#' Does a text set promoters, passives and detractors beside each other?
#' @noRd
several_recommenders <- function(text) {
  sum(vapply(c("promoters?\\b(?! score)", "detractors?\\b", "passives?\\b"), function(word) grepl(paste0("(?i)\\b", word), text, perl = TRUE),
      NA)) > 1
}

#' "customers who skipped more than they received": one column above another, row by row
#' @noRd
one_beyond_other <- function(out) {
  hit <- first_match(out$text, "(?i)(?:\\b(?:who|that|which)|(?<=how many [\\p{L}]{1,20})) (?:have |had )?([\\p{L}]+) (more|less|fewer) (?:[\\p{L}]+ )?than (?:they|he|she|it) (?:have |had )?([\\p{L}]+)")  # nolint: line_length_linter.
  if (is.null(hit)) return(out)
  numeric <- Filter(function(col) is_numeric_kind(col$kind) && is.null(col$role), all_columns(out$study))
  phrases <- kin_phrases(out$study, hit[1])
  a <- column_in_text(numeric, hit[2], phrases); b <- column_in_text(numeric, hit[4], phrases)
  if (is.null(a) || is.null(b) || a$name == b$name) return(out)
  name <- paste(a$name, "minus", b$name, sep = "_")
  with_derived(out, name, "difference", c(a$name, b$name), sub(hit[1], sprintf(" with %s %s 0", name,
      if (tolower(hit[3]) == "more") "above" else "below"),
                                                              out$text, fixed = TRUE))
}
