# Read it, ask back, or say that it cannot be answered.

new_verdict <- function(status, reading, headline = NULL, near = character()) {
  list(status = status, reading = reading, headline = headline, near = near)
}

#' Words for people of one sex, as a pattern
#' @noRd
words_of_sex <- "^(men|women|man|woman|males?|females?|boys?|girls?)$"

#' Words that look like columns or values and match none
#' @noRd
unknown_words <- function(state) {
  at <- which(state$type == "unknown" & !state$used)
  # a first measurement that the data does not know of
  if (!length(state$vocabulary$sets) && !length(occasion_columns(state)) && !asks_for_baseline(state) && !asks_against_usual(state) &&
      is.null(single_method(state))) {
    at <- sort(union(at, which(state$type == "filler" & !state$used & vapply(state$items, function(i) identical(i$norm, "baseline"), NA))))
  }
  # "non-voters", of whom nothing in the data tells
  norms <- norms_of(state)
  # (and "combined and non-combined classes", where nothing says which are; "voters and non-voters" are told by their words)
  denied <- function(k) state$type[k] == "entity" && sum(norms == norms[k]) == 1 || state$type[k] %in% c("filler", "unknown")
  at <- sort(union(at, Filter(function(k) item_norm(state, k - 1) == "non" && !state$used[k] && denied(k), seq_len(state$n))))
  # "are men older", of a column sex whose codes say nothing of men, or of data that does not know who is one
  if (!of_one_sex(state$vocabulary)) at <- sort(union(at,
      which(state$type == "entity" & !state$used & grepl(words_of_sex, norms))))
  # "what share of the employed drive": a verb of people, who are not driven by anything
  if (says(state, "^ *(what|which) (share|proportion|percentage|percent|fraction)\\b.*\\bdrives?[?.! ]*$")) at <- union(at,
    which(norms == "drive" & state$type != "column"))
  # "how many members never borrowed anything": nothing of the reading says never
  denies <- any(vapply(state$filters, function(f) f$op %in% c("!=", "not_in", "is_missing") || identical(as.character(unlist(f$value)), "0") ||
    isTRUE(f$value == state$vocabulary$columns$first_level[match(f$column, state$vocabulary$columns$name)]), NA)) ||
    any(vapply(state$groups, function(g) isTRUE(g$negated), NA))
  # (of units with several rows "not in this row" is not "never")
  columns <- state$vocabulary$columns
  denies <- denies && !any(columns$kind %in% c("id", "category") & !columns$unique & columns$distinct >= 8 & columns$distinct * 2 <= columns$rows)
  if (!denies && !says(state, "\\b(never|nothing|nobody) (above|below|over|under|more|less|exceed)")) at <- union(at, which(norms == "never" & !state$used))  # nolint: line_length_linter.
  # "how many dropped out by week 12", where no column says who did
  at <- union(at, Filter(function(k) norms[k] %in% c("dropped", "drop", "dropping") && item_norm(state, k + 1) == "out" &&
    state$type[k] != "column", seq_len(state$n)))
  # "on n p k": letters that stand for nothing here
  letter <- grepl("^[b-hj-z]$", norms) & state$type %in% c("unknown", "filler", "stop", "lexicon") & !state$used
  at <- union(at, which(letter & (c(FALSE, letter[-length(letter)]) | c(letter[-1], FALSE))))
  # ("shorter commutes": of a measure that is named the adjective only compares)
  sizes <- state$vocabulary$lexicon$adjectives$word
  at <- at[!(norms[at] %in% sizes & vapply(at, function(k) !is.na(item_column(state, k + 1, c("number", "count"))), NA))]
  # ("pool the studies: the largest weight", "... for a new study")
  if (says(state, "\\b(pool|pooled|pooling|meta-?analysis)\\b")) at <- at[!norms[at] %in% c("weight", "weights", "new", "next", "future", "further")]
  # the words of the request itself
  if (asks_for_baseline(state)) at <- at[!grepl("^(characteristics?|demographics?|(un)?balanced|comparable|comparability|balance|table|baseline|participants?)$", vapply(state$items[at], `[[`, "", "norm"))]  # nolint: line_length_linter.
  # "which nutrient is most strongly related to calories": the noun of what is asked for
  asked <- says(state, "^ *(which|what) \\w+ (is|are|was|were) (the )?(most|best|least|more) (strongly |closely |clearly )?(related|associated|correlated|linked)")  # nolint: line_length_linter.
  if (asked) at <- setdiff(at, 2L)
  at <- at[!vapply(at, function(k) is_modifier(state, k) || names_things(state, k) || within_own_words(state, k), NA)]
  # "average deal size", of a column that counts deals: how large one is it does not say
  counted <- function(k) k > 1 && identical(kind_at(state, item_column(state, k - 1)), "count") && !grepl("s$", item_norm(state, k - 1)) &&
    grepl("s([_. ]|$)", tolower(column_of(state, item_column(state, k - 1))))
  at <- union(at, Filter(counted, which(norms %in% c("size", "sizes", "value", "values", "worth") & state$type %in% c("filler", "unknown",
      "lexicon") & !state$used)))
  # "internet access", of a column of yes and no: the noun says no more than its name
  at <- at[!vapply(at, function(k) norms[k] %in% c("access", "ownership", "possession", "availability", "connection", "coverage", "usage") &&
    k > 1 && identical(kind_at(state, item_column(state, k - 1)), "yes_no"), NA)]
  # "in both years", "in every month": that each of them holds is no condition on single rows
  whole <- Filter(function(k) item_norm(state, k - 1) %in% c("in", "during") && sub("s$", "", item_norm(state, k + 1)) %in% c("year", "month", "week",
    "quarter", "season") && says(state, "^ *(how many|which|what share|list|show)\\b"), which(norms %in% c("both", "every")))
  at <- union(at, whole)
  # "how many employees slept less": of what, nothing of the reading says
  if (says(state, "^ *(how many|what share|what proportion|what percentage|number of)\\b") && !length(c(state$filters, state$groups)) && !any(state$type %in% c("number", "column", "value"))) {  # nolint: line_length_linter.
    less <- which(norms %in% c("less", "more", "fewer", "higher", "lower", "better", "worse") & !state$used)
    at <- union(at, vapply(less, function(k) if (k > 1 && norms[k - 1] %in% state$vocabulary$lexicon$measured_as) k - 1L else k, 1L))
  }
  # "how many flights left early": nothing of the reading says which
  bare <- says(state, "^ *how many\\b") && !length(c(state$filters, state$groups)) && state$n > 2 && !any(state$type[-(1:2)] %in% c("column",
    "value", "number"))
  if (bare) at <- union(at, which(seq_len(state$n) > 2 & state$type == "filler" & !state$used & !norms %in% words_of_all_rows()))
  # "do guests who book early cancel more": when that is, nothing of the reading says
  if (says(state, "\\bwho( \\w+)? (early|late|often|rarely|seldom|regularly)\\b")) {
    at <- union(at, Filter(function(k) "who" %in% c(item_norm(state, k - 1), item_norm(state, k - 2)),
                           which(norms %in% c("early", "late", "often", "rarely", "seldom", "regularly") & state$type == "filler" & !state$used)))
  }
  # "how many customers never ordered": nor is who has none at all
  if (!denies && says(state, "^ *(how many|which|what share|what proportion|what percentage|number of|list|show)\\b")) {
    at <- union(at, which(norms == "never" & state$type %in% c("lexicon", "stop", "filler", "unknown") & !state$used))
  }
  # "how many patients missed visit 4": who has no such row is in none of the rows
  union(at, which(norms %in% c("missed", "skipped") & state$type %in% c("unknown", "filler") & !state$used))
}

#' Is the data of women only or of men only, as its own names say? Then such a word stands for the rows
#' @noRd
of_one_sex <- function(vocabulary) {
  columns <- vocabulary$columns
  if (any(names_a_sex(columns$name))) return(FALSE)
  own <- tolower(c(columns$name, columns$label, columns$table))
  any(grepl("wom[ae]n|female|girl|matern|mother|pregnan|gestation|parity|menopaus|prostat|(^|[^a-z])(m[ae]n|males?|boys?)([^a-z]|$)", own))
}

#' Words that say of rows no more than that they are there
#' @noRd
words_of_all_rows <- function() {
  c("took", "take", "taken", "part", "participated", "participate", "included", "include", "recorded", "observed", "exist", "exists",
    "got", "get", "see", "contain", "contains", "hold", "holds", "overall", "study", "survey", "table", "sheet", "file", "data",
    "dataset", "present", "available", "answered", "responded", "replied", "interviewed", "surveyed", "collected", "sampled", "measured",
    "made", "done", "entries", "total", "altogether", "different", "unique", "distinct", "listed", "counted", "reported", "given",
    "rows", "records", "cases", "observations", "sample", "together", "exactly", "roughly", "approximately", "about", "there", "here",
    "now", "know", "tell", "please", "show", "give", "entire", "whole", "complete", "lines", "trial", "experiment", "analysis",
    "analysed", "analyzed", "group", "groups", "category", "categories", "class", "kind", "type")
}

#' "rear wheel drive", of a level Rear of a column DriveTrain: a word between the two tells nothing more
#' @noRd
within_own_words <- function(state, k) {
  # "consult length" of a column in minutes
  if (k > 1 && grepl("^(lengths?|durations?)$", item_norm(state, k)) && state$type[k - 1] == "column" &&
      grepl("(^|[_. ])(sec|seconds?|s|min|mins|minutes?|h|hrs?|hours?|days?|weeks?|months?|years?)$",
            tolower(column_of(state, state$items[[k - 1]]$cols$column[1])))) return(TRUE)
  # "walking distance" of a column in metres
  if (k > 1 && grepl("^distances?$", item_norm(state, k)) && state$type[k - 1] == "column" &&
      grepl("(^|[_. ])(m|metres?|meters?|km|mi|miles?|ft|feet|yd|yards?)$", tolower(column_of(state, state$items[[k - 1]]$cols$column[1])))) return(TRUE)  # nolint: line_length_linter.
  # "calories consumed" of a column meal_calories
  if (state$items[[k]]$norm %in% state$vocabulary$lexicon$measured_as && !is.na(item_column(state, k - 1, c("number", "count")))) return(TRUE)
  # "which maker offers the most models": a verb between who is asked about and the superlative
  if (k > 2 && k < state$n && grepl("s$", state$items[[k]]$norm) && state$type[k - 1] == "column" && item_norm(state, k - 2) %in% c("which",
      "what") &&
      grepl("^(the )?(most|fewest|least|highest|lowest|largest|smallest|best|worst)$|^the$", item_norm(state, k + 1))) return(TRUE)
  # "card holders", of a column labelled "Holds a card"
  doer <- sub("(er|or)s?$", "", state$items[[k]]$norm)
  beside <- if (k > 1 && state$type[k - 1] == "column") state$items[[k - 1]]$cols$column[1]
  if (!is.null(beside) && doer != state$items[[k]]$norm && nchar(doer) >= 3 &&
      stem_words(doer) %in% state$vocabulary$terms$stem[state$vocabulary$terms$column == beside]) return(TRUE)
  # "irrigation treatments" of a column of levels, "salary costs" of one of money
  if (k > 1 && state$type[k - 1] == "column" && (grepl("^treatments?$", item_norm(state, k)) &&
      is_level_kind(kind_at(state, state$items[[k - 1]]$cols$column[1])) ||
      grepl("^(costs?|bills?|expenses?)$", item_norm(state, k)) && state$vocabulary$columns$unit[state$items[[k - 1]]$cols$column[1]] %in%
        c("USD", "EUR", "GBP"))) return(TRUE)
  # "hair colour" of a column hair
  if (k > 1 && grepl("^colou?rs?$", item_norm(state, k)) && state$type[k - 1] == "column" &&
      is_level_kind(kind_at(state, state$items[[k - 1]]$cols$column[1]))) return(TRUE)
  k > 1 && k < state$n && state$type[k - 1] == "value" && !is.null(state$items[[k + 1]]$cols) &&
    any(state$items[[k - 1]]$vals$column %in% state$items[[k + 1]]$cols$column)
}

#' "the heaviest baby", of data whose rows may well be babies: the rows, unless they are counted or divide
#' @noRd
names_things <- function(state, k) {
  item <- state$items[[k]]
  if (state$type[k] != "unknown" || !item$stem %in% state$vocabulary$lexicon$things) return(FALSE)
  if (grepl("^[A-Z]", item$text) && k > 1) return(FALSE)
  lead <- paste(item_norm(state, k - 2), item_norm(state, k - 1))
  # "how many earthquakes were above magnitude 5.5": those that meet a condition are rows
  conditioned <- grepl("(how many|number of)( the)?$", trimws(lead)) && length(state$filters) > 0
  if (!conditioned && grepl("(how many|number of|how often|per|by|each|every|any|no|without|than|versus|vs)( the)?$", trimws(lead))) return(FALSE)
  # something of the data itself has to be asked about
  any(state$type %in% c("column", "value", "adjective")) || length(state$filters) > 0 || asks_for_map(state) || any(vapply(state$items,
      function(i) !is.null(i$adj), NA))
}

#' An unknown word right before a column that is named in full only describes it ("tumour thickness")
#' @noRd
is_modifier <- function(state, k) {
  nxt <- k + 1
  if (nxt > state$n || item_norm(state, k - 1) == "non") return(FALSE)
  # a name ("Germany") or what is to be counted ("how many families booked") does not only describe the next word
  if (k > 1 && grepl("^[A-Z][a-z]", state$items[[k]]$text) || item_norm(state, k - 1) %in% c("how many", "many")) return(FALSE)
  if (state$type[nxt] == "entity" || item_norm(state, k) %in% c("final", "initial", "latest", "earliest", "baseline", "starting",
    "ending")) return(FALSE)
  column <- item_column(state, nxt)
  if (is.na(column)) return(FALSE)
  if (state$items[[nxt]]$cols$score[1] < 0.7) return(FALSE)
  # "conversion rate" is no rating
  if (grepl("^rates?$", item_norm(state, nxt)) && !grepl("rate([^a-z]|s|$)", tolower(column_of(state, column)))) return(FALSE)
  # "teenage mothers" beside mother_age: it narrows the rows
  if (grepl("[^s]s$", state$items[[nxt]]$norm) && !grepl("s([_. ]|$)", tolower(column_of(state, column)))) return(FALSE)
  # before a column of categories it would be a value that does not exist ("the barley feed")
  !is_level_kind(kind_at(state, column))
}

#' "load factor by aircraft", "on-time performance by month": nouns of a measure at the head, of a reading that measures nothing
#' @noRd
unread_measure <- function(state, reading) {
  # "are urgent tickets resolved faster", where nothing says how fast
  faster <- which(vapply(seq_len(state$n), function(k) state$type[k] %in% c("filler", "unknown") && !state$used[k] && grepl("(er|est)$",
      item_norm(state,
    k)) && item_norm(state, k) %in% state$vocabulary$lexicon$adjectives$word, NA))
  if (length(faster) && !length(state$filters) && reading$task == "frequency") return(faster)
  columns <- state$vocabulary$columns
  measured <- c(reading$outcome, reading$predictors, reading$adjust_for)
  measured <- measured[columns$kind[match(measured, columns$name)] %in% c("number", "count", "ordered", "yes_no")]
  if (!reading$task %in% c("frequency", "trend", "figure") || length(measured) || length(reading$extra$event) ||
      length(reading$extra$missing)) return(integer())
  noun <- vapply(seq_len(state$n), function(k) (state$type[k] == "filler" || item_norm(state, k) %in% c("flow", "flows")) && !state$used[k] &&
      state$items[[k]]$norm %in%
    state$vocabulary$lexicon$measures, NA)
  ends <- c("", "by", "per", "in", "for", "across", "over", "of", "between", "among", "at", "on")
  head <- which(noun)[vapply(which(noun), function(k) item_norm(state, k + 1) %in% ends && !item_norm(state, k - 1) %in% c("over", "of", "in"), NA)]
  if (!length(head)) return(integer())
  first <- head[1]
  while (first > 1 && state$type[first - 1] %in% c("filler", "unknown") && !state$used[first - 1]) first <- first - 1
  first:head[1]
}

#' "schools as random effect", of data in which nothing is called so
#' @noRd
unread_cluster <- function(state) {
  after <- Filter(function(k) grepl("^as (a )?random", item_norm(state, k)), seq_len(state$n))
  Filter(function(k) k >= 1 && state$type[k] %in% c("entity", "filler", "unknown") && !state$used[k], after - 1L)
}

#' "adjusted for baseline", of data in which nothing is called so: what is held constant must be there
#' @noRd
unread_adjustment <- function(state, mentions) {
  if (!is.null(season_allowed_for(state)) || any(vapply(mentions, function(m) m$marker == "adjust", NA))) return(integer())
  at <- which(vapply(state$items, function(i) has_lex(i, "scope", "adjust") && grepl(" for$|^net of$", i$norm), NA))
  # "once the young population is taken into account"
  late <- lexicon_at(state, "scope", "adjust_after")
  if (!length(at) && length(late)) at <- utils::tail(which(vapply(state$items, has_lex, NA, "scope", "adjust") & seq_len(state$n) < late[1]), 1)
  if (!length(at)) return(integer())
  after <- utils::head(setdiff(seq_len(state$n)[seq_len(state$n) > at[1]], which(state$type == "stop")), 1)
  if (length(after) && (state$type[after] %in% c("filler", "unknown", "entity") || state$type[after] == "column" && !state$used[after])) after
  else integer()
}

#' "is the performance score related to survival", where nothing is called so: what is said to act on it has no part in the reading
#' @noRd
unread_cause <- function(state, reading) {
  if (reading$task != "survival" || length(c(reading$by, reading$predictors, reading$adjust_for))) return(integer())
  verbs <- "^((is|are|was|were) )?(strongly |clearly |significantly )?(related|associated|linked|correlated|connected|affects?|influences?|predicts?|matters?|prolongs?|improves?|shortens?|reduces?|determines?)( (to|with|for))?$"  # nolint: line_length_linter.
  norms <- norms_of(state)
  verb <- which(grepl(verbs, norms))
  if (!length(verb) || !grepl("^(is|are|was|were|do|does|did)$", norms[1])) return(integer())
  own <- setdiff(seq_len(verb[1] - 1), 1L)
  own <- own[!state$type[own] %in% c("stop", "column", "value") & !state$used[own]]
  # ("is survival related to ...": the event itself)
  own[!vapply(own, function(k) has_lex(state$items[[k]], "task", "survival"), NA)]
}

#' "variance of speed per experiment", "compare flow by species and sex": groups that are asked for by a noun that nothing in the data is called
#' @noRd
unread_groups <- function(state, reading) {
  if (!reading$task %in% c("describe", "compare", "rank", "frequency", "distribution", "figure")) return(integer())
  divides <- function(k) item_norm(state, k - 1 - (item_norm(state, k - 1) %in% c("the", "each", "every")))
  joined <- function(k) {
    other <- if (item_norm(state, k - 1) == "and") k - 2 else if (item_norm(state, k + 1) == "and") k + 2
    length(other) == 1 && other >= 1 && other <= state$n && state$type[other] == "column" && (divides(k) == "by" || divides(other) == "by")
  }
  # ("before the meal", of a column that says which meal it was: no group is before another)
  apart <- Filter(function(k) state$type[k] == "column" && kind_at(state, item_column(state, k)) %in% c("category", "text") &&
    grepl("^(before|after|prior to)( the)?$", trimws(paste(if (k > 2 && item_norm(state, k - 1) == "the") item_norm(state, k - 2), item_norm(state,
        k - 1)))) &&
    column_of(state, item_column(state, k)) %in% reading$by, seq_len(state$n))
  if (length(apart)) return(apart)
  at <- which(state$type %in% c("filler", "entity") & !state$used & nchar(norms_of(state)) >= 4)
  Filter(function(k) {
    item <- state$items[[k]]
    if (length(item$lex) || length(item$adj)) return(FALSE)
    if (state$type[k] == "entity") return(joined(k))
    # ("class size", of data with a column class: how many are in it is another thing)
    if (item$norm %in% c("size", "sizes") && k > 1 && state$type[k - 1] == "column") {
      return(kind_at(state, item_column(state, k - 1)) %in% c("id", "category", "text") && !says(state, "\\b(effect|sample|group|cell) sizes?\\b"))
    }
    own <- divides(k) %in% c("per", "by") && !length(reading$by) && !isTRUE(reading$extra[["rate"]]) && item_norm(state, k + 1) == ""
    own && item$norm %in% c("experiment", "batch", "block", "plot", "replicate", "session", "trial", "sample", "class", "lot", "arm", "condition")
  }, at)
}

#' "mean change in hb", where hb was measured once
#' @noRd
asks_single_change <- function(state, reading) {
  if (gain_of_measure(state, reading)) return(TRUE)
  said <- "\\b(change|improvement|increase|decrease|reduction|gain|decline|growth)s? (in|of)\\b"
  reading$task == "describe" && !isTRUE(reading$extra$rate) && length(reading$outcome) == 1 && length(reading$extra$missing) == 0 && says(state,
      said) &&
    says(state, "\\b(mean|average|median|typical|total|sd|standard deviation)\\b") &&
    !grepl("chang|diff|gain|improv|increase|decrease|reduc|delta|loss|growth|rise|decline", tolower(reading$outcome))
}

#' "does weight gain depend on diet", where weight is measured and no gain is held: the noun is not passed over
#' @noRd
gain_of_measure <- function(state, reading) {
  if (!reading$task %in% c("describe", "compare", "relate", "predict", "rank", "distribution", "drivers") ||
      length(reading$outcome) != 1) return(FALSE)
  nouns <- "^(gains?|change|changes|growth|increment|increase|improvement|decline|reduction)$"
  if (grepl("gain|chang|grow|increas|improv|decline|reduc|delta|diff", tolower(reading$outcome))) return(FALSE)
  # "which hive gained the most weight"
  if (reading$task %in% c("rank", "compare", "describe") && says(state,
    "\\b(gained|lost|grew|put on|gaining|losing|growing|gains|loses|grows) (the )?(most|least|more|less|fastest|slowest)\\b")) return(TRUE)
  # "which agent has the highest mean improvement in satisfaction"
  if (reading$task == "rank" && says(state,
    "\\b(highest|lowest|biggest|largest|smallest|most|least) (mean )?(improvement|gain|increase|decrease|reduction|decline|change)s? (in|of)\\b")) return(TRUE)  # nolint: line_length_linter.
  # ("did weight change", "does pay increase with age" are verbs; "does temperature drive weight change" is not)
  related <- says(state, paste0("\\b(affects?|drives?|predicts?|influences?|relat\\w+|associat\\w+|correlat\\w+|explains?|depends?|goes? with|linked|",  # nolint: line_length_linter.
    "differs?|vary|varies|matters?)\\b"))
  measured <- if (related) c(reading$outcome, reading$predictors) else reading$outcome
  # (where nothing else is said of it, a noun behind "do errors" is the verb itself)
  verb <- "^ *(did|do|does|will|can|has|have)\\b|\\b(did|do|does|will|can|has|have|to|not)\\b[^?]*\\b%s\\b *(over|with|by|between|from|in|after|since|as|when|during|on|for|[?.!]|$)"  # nolint: line_length_linter.
  own <- vapply(seq_len(state$n), function(k) grepl(nouns, item_norm(state, k)) && !state$used[k] && k > 1 && state$type[k - 1] == "column" &&
    column_of(state, state$items[[k - 1]]$cols$column[1]) %in% measured && (related || !says(state, sprintf(verb, item_norm(state, k)))), NA)
  any(own)
}

#' "hive H01", of keys in which there is none
#' @noRd
lost_key_verdict <- function(state) {
  lost <- state$flags$lost_key
  some <- utils::head(state$vocabulary$ids[[lost$column]], 3)
  new_verdict("cannot_answer", new_reading("describe"), near = lost$column,
              headline = sprintf("%s holds no %s. It holds %s and so on.", capital(quoted(lost$column)), quoted(lost$code), paste(quoted(some),
                  collapse = ", ")))
}

#' "first and last weight of each hive": values of single days, of which no method here takes the first or the last
#' @noRd
asks_end_values <- function(state, reading) {
  has_dates(state) && reading$task %in% c("describe", "rank", "compare", "relate", "distribution") && length(reading$outcome) == 1 &&
    any(vapply(seq_len(state$n), function(k) k > 1 && state$type[k] == "column" && !state$used[k - 1] &&
      column_of(state, state$items[[k]]$cols$column[1]) == reading$outcome && grepl("^(first|last|initial|final|latest|earliest|starting|ending)$",
        item_norm(state, k - 1)), NA)) && !grepl("first|last|initial|final|start|end", tolower(reading$outcome))
}

end_values_verdict <- function(state, reading) {
  new_verdict("cannot_answer", reading, near = reading$outcome[1], headline = sprintf(paste("First and last values of %s are not picked out by a",
    "question. Name the days, such as \"%s on 15 April\", or ask for its course over time."), quoted(reading$outcome[1]), reading$outcome[1]))
}

#' "how many hives improved", where nothing says in what: a verb of change that no column and no condition has taken
#' @section Shape: the verb as written, or NULL.
#' @noRd
change_of_nothing <- function(state, reading) {
  measured <- reading$task != "rank" && length(reading$outcome)
  if (!reading$task %in% c("frequency", "rank", "trend", "describe") || length(reading$filters) || measured) return(NULL)
  verbs <- sprintf("(%s)", paste(unlist(change_verbs()[c("up", "down", "better", "worse")]), collapse = "|"))
  share <- "share|proportion|percentage|percent|fraction"
  asked <- sprintf("(?i)^ *(?:how many|what (?:%1$s)|(?:the )?(?:%1$s|number) of)\\b.*\\b%2$s *(?:(?:by|in each|for each) .*)?[?.! ]*$", share, verbs)
  verb <- match_groups(state$text, asked)[2]
  linked <- vapply(state$items, function(i) i$type %in% c("column", "value") && grepl(sprintf("^%s$", verbs), i$norm), NA)
  if (!is.na(verb) && !any(linked)) verb
}

who_changed_verdict <- function(state, reading, verb) {
  sets <- Filter(function(set) length(set$columns) == 2, state$vocabulary$sets)
  example <- if (length(sets)) sprintf(", such as \"how many %s in %s\"", verb, gsub("_", " ", sets[[1]]$name))
    else ". A change needs two columns, or two occasions, that can be set against each other"
  new_verdict("needs_choice", reading, near = unlist(lapply(sets, `[[`, "columns")), headline = sprintf(
    "It is not clear in what the change is meant. Name the measure%s.", example))
}

no_change_verdict <- function(state, reading) {
  name <- reading$outcome[1]
  new_verdict("cannot_answer", reading, near = name, headline = sprintf(paste("A change of %s needs a second measurement of it, and no column",
    "is known to be one. Derive it first, such as \"add gain as after minus before\" with the names of the two columns."), quoted(name)))
}

nearest_columns <- function(state, words, most = 3) {
  names <- state$vocabulary$columns$name
  if (!length(words)) return(utils::head(names, most))
  distance <- apply(as.matrix(stringdist::stringdistmatrix(tolower(words), tolower(names), method = "jw", p = 0.1)), 2,
                    min)
  names[order(distance, seq_along(names))][seq_len(min(most, length(names)))]
}

#' @noRd
absent_verdict <- function(state, reading, at) {
  words <- vapply(split(at, cumsum(c(TRUE, diff(at) != 1))), function(k) paste(vapply(state$items[k], `[[`, "", "text"), collapse = " "), "")
  # a column that is named once more than the reading has a place for
  if (all(tolower(words) %in% tolower(state$vocabulary$columns$name))) {
    return(new_verdict("cannot_answer", reading, near = unname(words), headline = sprintf(
      "It is not clear what %s stands for where it is named again. Ask with each column named once, or in two questions.",
          some_of(quoted(unique(words)), 3))))
  }
  near <- nearest_columns(state, words)
  if (identical(tolower(unname(words)), "never")) return(new_verdict("cannot_answer", reading, near = near, headline = paste(
    "What never happened to a unit is in none of its rows, and no condition on single rows finds it.",
    "Count the units for which it did happen, and all units.")))
  coded <- sex_in_codes(state, words)
  if (!is.null(coded)) return(new_verdict("cannot_answer", reading, near = coded$name, headline = coded$said))
  new_verdict("cannot_answer", reading, near = near,
          headline = sprintf("Nothing in this data is called %s. The nearest columns are %s.",
                             some_of(quoted(unique(words)), 3, and = "or"), some_of(quoted(near), 3)))
}

#' "women", of a column sex that holds 1 and 2: what the codes mean has to be said first
#' @section Shape: list(name, said), or NULL.
#' @noRd
sex_in_codes <- function(state, words) {
  columns <- state$vocabulary$columns
  own <- which(names_a_sex(columns$name) & grepl("^-?[0-9.]+$", columns$first_level) &
    columns$distinct == 2)
  if (!all(grepl(words_of_sex, tolower(words))) || length(own) != 1) return(NULL)
  codes <- unlist(columns[own, c("first_level", "last_level")])
  list(name = columns$name[own], said = sprintf(
    "%s holds the codes %s and %s, and nothing in this data says which of them are %s. Say it first, such as \"%s %s is male and %s is female\".",
    quoted(columns$name[own]), codes[1], codes[2], some_of(tolower(words), 2, and = "or"), columns$name[own], codes[1], codes[2]))
}

#' One reading for each level that a condition may be on
#' @noRd
level_verdict <- function(state, reading) {
  name <- reading$extra$level_open
  at <- match(name, state$vocabulary$columns$name)
  levels <- unique(state$vocabulary$values$level[state$vocabulary$values$column == at])
  choices <- lapply(utils::head(levels, 4), function(level) {
    r <- reading
    r$by <- setdiff(r$by, name); r["statistic"] <- list(NULL)
    r$assumed <- setdiff(r$assumed, "Groups are ranked by their mean.")
    r$filters <- c(r$filters, list(new_filter(name, "==", level)))
    finish_reading(r)
  })
  choice_verdict(state, reading, choices, sprintf("It is not clear which level of %s is meant. Choose one of the readings below, by number or in your own words.",  # nolint: line_length_linter.
                                                  quoted(name)))
}

#' The columns one mention could mean, when they are about equally likely
#' @noRd
ambiguous_mention <- function(mentions) {
  for (m in mentions) {
    close <- close_columns(m)
    if (length(close) > 1) return(list(mention = m, columns = close))
  }
  NULL
}

#' The columns that a mention fits about as well as the best of them
#' @noRd
close_columns <- function(m) {
  if (is.null(m$cols) || nrow(m$cols) < 2 || m$score >= 0.97) return(m$column)
  m$cols$column[m$cols$score >= m$score - 0.04]
}

choice_verdict <- function(state, reading, alternatives, headline, settled = FALSE) {
  alternatives <- utils::head(alternatives, 4)
  # where the columns of an open word are all taken and one reading is left there is nothing to choose
  if (settled && length(alternatives) == 1 && !length(alternatives[[1]]$extra$missing)) {
    only <- alternatives[[1]]
    only$confidence <- 0.7
    return(new_verdict("answered", finish_reading(only)))
  }
  for (i in seq_along(alternatives)) alternatives[[i]]$extra$choose <- as.character(i)
  reading$alternatives <- alternatives
  reading$confidence <- 0.4
  new_verdict("needs_choice", reading, headline)
}

#' One reading for each column that could fill an empty slot
#' @noRd
slot_choices <- function(state, reading, slot) {
  columns <- state$vocabulary$columns
  fixed <- vapply(Filter(function(f) f$op == "==", reading$filters), `[[`, "", "column")
  taken <- c(reading$outcome, reading$by, reading$predictors, reading$adjust_for, fixed)
  fits <- switch(slot,
    outcome = switch(reading$task,
      themes = columns$kind == "text",
      frequency = columns$kind %in% c("category", "yes_no", "ordered"),
      columns$kind %in% c("number", "count", "ordered") & !columns$role %in% c("weight", "latitude", "longitude") |
        reading$task %in% c("compare", "predict") & columns$kind == "yes_no" & names_an_event(columns$name)),
    event_column = columns$kind %in% c("yes_no", "category"),
    by = columns$kind %in% c("category", "yes_no", "ordered"), subject = columns$kind %in% c("id", "category") & !columns$unique,
    second = , predictors = columns$kind %in% c("number", "count", "ordered", "category", "yes_no") &
    !columns$role %in% c("weight", "latitude", "longitude"),
    time = columns$kind %in% c("date", "datetime"),
    weight = columns$kind %in% c("number", "count") & !columns$role %in% c("latitude", "longitude", "year"))
  # shares are compared of what is so or not
  if (slot == "outcome" && isTRUE(reading$method_asked %in% c("proportions_two", "proportions_many", "proportion_one"))) {
    fits <- columns$kind == "yes_no" | columns$kind == "category" & columns$distinct == 2
  }
  names <- setdiff(columns$name[fits], c(taken, if (slot == "outcome") block_names(columns)))
  # of several measures those come first that were taken last, an age or a size at the start stands behind
  if (slot == "outcome" && length(names) > 1) names <- names[order(!names_an_event(names), !happens_later(state, names),
      grepl("(^|[_. ])(age|bmi|height|id)([_. ]|$)",
      tolower(names)), names %in% state$vocabulary$long$time)]
  lapply(utils::head(names, 4), function(name) {
    r <- reading
    r$extra$missing <- setdiff(r$extra$missing, slot)
    if (slot == "weight") return(finish_reading(weigh_rows(r, name)))
    if (slot == "subject") { r$by <- c(name, r$by); return(finish_reading(r)) }
    field <- switch(slot, outcome = , event_column = "outcome", by = "by", second = , predictors = "predictors", time = "time")
    if (field == "time") r$time <- list(column = name) else r[[field]] <- name
    finish_reading(r)
  })
}

#' Does a name say that something happened or not ("converted", "died", "passed")?
#' @noRd
names_an_event <- function(name) {
  grepl("(^|[_. ])(converted|clicked|bought|purchased|died|dead|death|survived|success|passed|failed|won|cured|relapsed|recovered|churned|cancelled|canceled|returned|defaulted|responded|responder|response|renewed|attended|event|outcome)([_. ]|$)",  # nolint: line_length_linter.
        tolower(name))
}

#' A date whose day and month cannot be told apart is never guessed: NULL when the reading touches none
#' @noRd
undecided_verdict <- function(state, reading) {
  columns <- state$vocabulary$columns
  open <- columns$name[columns$role == "undecided_date"]
  used <- c(reading$outcome, reading$by, reading$predictors, reading$time$column, vapply(reading$filters, `[[`, "", "column"))
  named <- unlist(lapply(which(state$type == "column"), function(k) column_of(state, state$items[[k]]$cols$column[1])))
  touched <- intersect(open, c(used, named))
  if ("time" %in% reading$extra$missing && length(open)) touched <- union(touched, open)
  if (!length(touched)) return(NULL)
  new_verdict("needs_choice", reading, sprintf(paste("The dates in %s can be read day first or month first, and nothing in the data decides it.",
                                                     "Say which, with \"%s is day first\" or \"%s is month first\" as an amendment."),
                                               quoted(touched[1]), touched[1], touched[1]))
}

missing_verdict <- function(state, reading) {
  slot <- reading$extra$missing[1]
  if (slot == "event") return(event_verdict(state, reading))
  if (slot == "time_unit") return(time_unit_verdict(state, reading))
  what <- switch(slot, outcome = if (identical(reading$task, "frequency")) "which column is counted" else "which column is measured",
    event_column = "what the share is of", subject = "which column says what was rated", by = "which column makes the groups",
                 second = "the second column", predictors = "which columns to explain it with",
                 time = "which column holds the time", weight = "which column holds the weights")
  alternatives <- if (length(reading$extra$missing) == 1) slot_choices(state, reading,
      slot) else two_slot_choices(state, reading)
  if (!length(alternatives)) {
    return(new_verdict("cannot_answer", reading, near = nearest_columns(state, character()),
                   headline = sprintf("The question leaves open %s, and this data has no column that fits.", what)))
  }
  if (identical(slot, "outcome") && length(reading$extra$missing) == 1 && only_measure(state, alternatives)) {
    only <- alternatives[[1]]
    only$assumed <- c(only$assumed, sprintf("Took %s, the only column that measures something.", only$outcome[1]))
    only <- worst_on_top(state, only, only$outcome, told = TRUE)
    only$confidence <- 0.7
    return(new_verdict("answered", finish_reading(only)))
  }
  # "calls on weekdays versus weekends": how many there were may be meant
  if (identical(reading$extra$missing, "outcome") && reading$task == "compare" && length(reading$by) == 1 && any(entities_at(state))) {
    alternatives <- c(list(rows_counted_by(reading)), alternatives)
  }
  whole <- if (setequal(reading$extra$missing, c("outcome", "by"))) only_comparison(state, reading)
  if (!is.null(whole)) return(new_verdict("answered", whole))
  choice_verdict(state, reading, alternatives,
                 sprintf("The question leaves open %s. Choose one of the readings below, by number or in your own words.", what))
}

#' The number of rows in each of the groups that a reading compares
#' @noRd
rows_counted_by <- function(reading) {
  r <- new_reading("frequency", assumed = reading$assumed)
  r$outcome <- reading$by
  r$filters <- reading$filters
  finish_reading(r)
}

#' Does the data hold one measured column only, and has every other part of the question its place?
#' @noRd
only_measure <- function(state, alternatives) {
  columns <- state$vocabulary$columns
  measured <- columns$name[columns$kind %in% c("number", "count", "ordered") & !columns$role %in% c("weight", "latitude", "longitude", "year")]
  measured <- setdiff(measured, c(block_names(columns), alternatives[[1]]$by, alternatives[[1]]$predictors, vapply(alternatives[[1]]$filters, `[[`, "", "column")))  # nolint: line_length_linter.
  # what happened to the rows, or when, may be meant as well
  open <- any(columns$kind == "yes_no" & !columns$name %in% alternatives[[1]]$by) ||
    any(grepl("(^|[_. ])(week|day|month|year|visit|period|time|session|occasion|trial|round|wave|age)([_. ]|$)", tolower(measured)))
  length(alternatives) == 1 && length(measured) == 1 && !open && identical(alternatives[[1]]$outcome[1], measured)
}

#' Columns whose numbers only tell blocks, plots, raters and the like apart
#' @noRd
block_names <- function(columns) {
  parts <- paste0("(^|[_. ])(block|plot|batch|replicate|rep|group|site|house|room|rater|judge|observer|class|school|clinic|centre|center|cluster|bench|",  # nolint: line_length_linter.
                  "tray|tank|pen|litter|subject|run|sequence|ward|year_?group)([_. ]?(no|nr|id|number))?$")
  columns$name[columns$kind == "count" & columns$distinct <= 12 & columns$coded & grepl(parts, tolower(columns$name))]
}

#' "which groups differ?", of data that holds one measure and one column of groups: those two, which is said
#' @noRd
only_comparison <- function(state, reading) {
  columns <- state$vocabulary$columns
  measured <- setdiff(columns$name[columns$kind %in% c("number", "count", "ordered") & columns$role == ""], block_names(columns))
  groups <- columns$name[columns$kind %in% c("category", "yes_no")]
  # ("do longer essays get higher marks": something else is measured)
  if (says(state, "\\b(higher|lower|better|worse|more|fewer|less) (marks|scores?|grades?|results|points|ratings?)\\b")) return(NULL)
  if (length(measured) != 1 || length(groups) != 1 || !reading$task %in% c("compare", "describe", "rank")) return(NULL)
  reading$outcome <- measured; reading$by <- groups
  reading$extra$missing <- NULL
  reading$assumed <- c(reading$assumed, sprintf("Took %s by %s, the only measure and the only groups.", measured, groups))
  reading$confidence <- 0.7
  finish_reading(reading)
}

two_slot_choices <- function(state, reading) {
  firsts <- slot_choices(state, reading, reading$extra$missing[1])
  unlist(lapply(utils::head(firsts, 2), function(r) utils::head(slot_choices(state, r, reading$extra$missing[2]), 2)),
         recursive = FALSE)
}

ambiguity_verdict <- function(state, mentions, task, found) {
  position <- which(vapply(mentions, function(m) m$at == found$mention$at, NA))
  alternatives <- lapply(found$columns, function(column) {
    changed <- mentions
    changed[[position]]$column <- column
    changed[[position]]$cols <- NULL
    others <- setdiff(seq_along(changed), position)
    if (any(vapply(changed[others], function(m) m$column == column, NA))) return(NULL)
    resolve_others(state, changed, task)
  })
  alternatives <- compact(alternatives)
  names <- column_of(state, found$columns)
  choice_verdict(state, alternatives[[1]], alternatives, say_ambiguous(found$mention$text, names), settled = TRUE)
}

#' What a word that fits several columns leaves open
#' @noRd
say_ambiguous <- function(text, names) sprintf("%s could mean %s. Choose one of the readings below, by number or in your own words.", quoted(text),
                                               some_of(quoted(names), 4, and = "or"))

#' Fill the task with the remaining doubtful mentions at their first columns that are not taken
#' @noRd
resolve_others <- function(state, mentions, task) {
  taken <- integer()
  for (i in order(vapply(mentions, function(m) is.null(m$cols), NA), decreasing = TRUE)) {
    m <- mentions[[i]]
    if (m$column %in% taken && !is.null(m$cols)) mentions[[i]]$column <- c(setdiff(m$cols$column, taken), m$column)[1]
    taken <- c(taken, mentions[[i]]$column)
  }
  finish_reading(fill_task(state, mentions, task))
}

finish_reading <- function(r) {
  r$plain <- plain_reading(r)
  r
}

#' Probability that a reading is right, from the links it rests on
#' @noRd
reading_confidence <- function(state, mentions, scores, task) {
  link <- if (length(mentions)) mean(vapply(mentions, function(m) min(1, m$score), 1)) else 0.9
  rival <- max(0, scores[setdiff(names(scores), task)])
  margin <- scores[[task]] - rival
  confidence <- 0.55 + 0.35 * link +
    0.06 * (margin > 0.3) - 0.06 * length(state$tokens$corrected) - 0.1 * sum(state$type == "unknown")
  round(min(0.98, max(0.05, confidence)), 3)
}

#' A number that could belong to several columns or to none is asked about, never passed over
#' @noRd
loose_number_verdict <- function(state, reading, at) {
  value <- state$items[[at[1]]]$value
  columns <- state$vocabulary$columns
  taken <- c(reading$outcome, reading$by, reading$predictors, vapply(reading$filters, `[[`, "", "column"))
  free <- which(columns$kind %in% c("number", "count") & !columns$name %in% taken)
  # ("under 6 hours" is said of what is counted in a unit of time)
  scaled <- lapply(free, function(column) in_column_unit(state, at[1], column))
  alike <- columns$unit[free] %in% units_like(c(after_number(state, at[1])$unit, item_norm(state, at[1] + 1)))
  if (any(alike)) { free <- free[alike]; scaled <- scaled[alike] }
  # ("over 15000": the bound that was said belongs to every choice)
  op <- c(before_number(state, at[1], c("number", "count"))$op, after_number(state, at[1])$op, "==")[1]
  with <- lapply(utils::head(seq_along(free), 3), function(i) {
    r <- reading
    r$filters <- c(r$filters, list(new_filter(columns$name[free[i]], op, scaled[[i]]$value)))
    r$assumed <- c(r$assumed, scaled[[i]]$said)
    finish_reading(r)
  })
  choice_verdict(state, reading, c(with, list(finish_reading(reading))),
                 sprintf(paste0("It is not clear what the number %s in the question is about. Choose one of the ",
                                "readings below, by number or in your own words."),
                         format_plain(value)))
}

#' Which level is the event is never guessed from a code
#' @noRd
event_verdict <- function(state, reading) {
  choices <- lapply(reading$extra$choices_of_event, function(f) {
    r <- reading
    r$outcome <- c(r$outcome[1], f$column)
    r$by <- setdiff(r$by, f$column); r$predictors <- setdiff(r$predictors, f$column)
    r$extra$event <- f; r$extra$missing <- setdiff(r$extra$missing, "event"); r$extra$choices_of_event <- NULL
    r$assumed <- c(r$assumed, sprintf("The event is %s; all other rows are censored at their time.", plain_filter(f)))
    finish_reading(r)
  })
  if (!length(choices)) return(new_verdict("needs_choice", reading, near = nearest_columns(state, character()),
    headline = "The question leaves open which column says whether the event happened. Name it and its level, such as \"the event is died\"."))
  choice_verdict(state, reading, choices,
    sprintf("The data does not say which code of %s is the event. Choose one of the readings below, by number or in your own words.",
                                                  quoted(choices[[1]]$extra$event$column)))
}

#' A time in years is no number of a column whose unit nothing says: which unit is asked
#' @noRd
time_unit_verdict <- function(state, reading) {
  stated <- reading$extra$time_stated
  choices <- lapply(c("days", "weeks", "months", "years"), function(own) {
    r <- reading
    r$extra$at_time <- in_unit_of_times(stated, own)
    r$extra$counted_in <- own
    r$extra$missing <- setdiff(r$extra$missing, "time_unit"); r$extra$time_stated <- NULL
    r$assumed <- c(r$assumed, sprintf("Took %s as counted in %s.", r$outcome[1], own))
    finish_reading(r)
  })
  choice_verdict(state, reading, choices,
    sprintf("The data does not say in which unit %s counts. Choose one of the readings below, by number or in your own words.",
            quoted(reading$outcome[1])))
}
