# Everyday questions about models, put as the model they ask for ("how much does Y rise per X", "does A add to B in explaining Y",
# "average marginal effect of X on Y"). Each wish gives list(text, extra) as those of R/reading-models.R, or NULL.

#' The wishes of this file, each with words without which it cannot stand
#' @noRd
everyday_model_wishes <- function() {
  list(wish("improve|help|better|\\badd|contribute|worth|beyond|above|on top|in addition|once we know", wish_gain), wish("expla|account|predict",
      wish_explained),
       wish("\\b(per|each|every|for a|for one|with one|with a)\\b", wish_per_unit),
       wish("predict|expla|goe?s? with|related|linked|tied|matter|more to do", wish_better_predictor),
       wish("predict|expla|foresee|model|regression|validated|sample|held", wish_predictability), wish("marginal|partial|risk|chance|probabilit",
           wish_marginal_effect),
       wish("slopes?\\b", wish_slopes_by_group), wish("\\b(with|as|where|when)\\b", wish_moves_with),
       wish("^[^0-9]*(odds|chances?|probability|likelihood|risk) of", wish_plain_odds), wish("chance|probabilit|likelihood|risk|odds",
           wish_chance_after), wish("\\b(matter|count|help|work)s? (more|less|better|worse)\\b|important", wish_matters_more), wish("effects?\\b",
           wish_level_effect), wish("spline", wish_spline_size), wish("\\bsmooth", wish_smooth),
       wish("cut|threshold|classified", wish_cut_off))
}

#' The one column that a text names from its first word to its last
#' @section Shape: Row of the vocabulary's columns, or NULL.
#' @noRd
column_said <- function(vocabulary, said) {
  bare <- trimws(gsub("^(the|a|an|my|our|their|its|each|every) +|[?.! ]+$", "", trimws(tolower(said))))
  at <- vocabulary$phrases$column[vocabulary$phrases$phrase == joined_stems(bare)]
  if (!length(at)) at <- which(tolower(vocabulary$columns$name) == bare)
  if (!length(at) && grepl("^(winter )?survival( rates?)?$", bare)) {
    at <- which(vocabulary$columns$kind == "yes_no" & grepl("surviv", vocabulary$columns$name, ignore.case = TRUE))
  }
  # by a part of its name or a word of its meaning
  if (!length(at) && nzchar(bare) && stringi::stri_count_words(bare) <= 5) {
    at <- columns_mentioned(bare, vocabulary)
  }
  if (length(unique(at)) == 1) vocabulary$columns[at[1], ]
}

#' The columns that a text mentions, as places in the vocabulary
#' @noRd
columns_mentioned <- function(text, vocabulary) vapply(find_mentions(parse_question(text, vocabulary)), `[[`, 1L, "column")

model_text <- function(outcome, predictors, lead = "model") sprintf("%s of %s on %s", lead, trimws(outcome), trimws(predictors))

#' "does A improve the model of Y on B", "does A explain Y beyond B", "is A worth adding to the model of Y on B"
#' @noRd
wish_gain <- function(text, vocabulary) {
  lead <- "(?i)^ *(?:do|does|did|would|is|are) (?:(?:adding|including|also adding) )?(?:the )?(.+?) "
  model <- "(?:the |a |my |our |this )?(?:fit of (?:the )?)?(?:model|regression|prediction|explanation|fit)s? (?:of|for) (?:the )?"
  hit <- first_match(text, paste0(lead,
      "(?:(?:improve|help|better|add (?:anything |something |much )?to|contribute to)|worth (?:adding|including) (?:to|in)) ",
                                  model, "(.+?) (?:on|from|by|with) (?:the )?(.+?)[?. ]*$"))
  if (!is.null(hit)) return(joint_model(hit[3], hit[2], hit[4]))
  hit <- first_match(text, paste0(lead, "(?:explain|predict)s? (?:any (?:more|further) (?:of )?)?(?:the )?(?:variation (?:in|of) )?(.+?) ",
                                  "(?:beyond|over and above|above and beyond|on top of|in addition to|once we know) (?:what )?(?:the )?(.+?)(?: (?:does|do|explains?))?[?. ]*$"))  # nolint: line_length_linter.
  if (!is.null(hit)) joint_model(hit[3], hit[2], hit[4])
}

#' "smooth curve of Y over X", "fit a smooth line of Y against X": a spline
#' @noRd
wish_smooth <- function(text, vocabulary) {
  hit <- match_groups(text, "(?i)^ *(?:fit |show |draw |plot |give |add )?(?:me )?(?:a |the )?smooth(?:ed)? (?:curve|line|fit|relation|relationship|function) (?:of|for) (?:the )?(.+?) (?:over|against|on|by|versus|vs|with|across) (?:the )?(.+?)[?. ]*$")  # nolint: line_length_linter.
  if (is.na(hit[1])) return(NULL)
  y <- column_said(vocabulary, hit[2]); x <- column_said(vocabulary, hit[3])
  numeric <- c("number", "count")
  if (is.null(y) || is.null(x) || !y$kind %in% numeric || !x$kind %in% numeric) return(NULL)
  list(text = model_text(y$name, x$name, "spline"), extra = list())
}

#' "how much of the variance in Y does X explain", "what share of the variation in Y is explained by X and Z"
#' @noRd
wish_explained <- function(text, vocabulary) {
  lead <- paste0("(?i)^ *(?:how much|what (?:share|proportion|percentage|percent|part|fraction)) of (?:the )?(?:total )?",
                 "(?:variance|variation|variability|spread|differences?) (?:in|of) (?:the )?(.+?) ")
  hit <- first_match(text, paste0(lead, "(?:is|are|can be|was) (?:explained|accounted for|predicted) by (?:the )?(.+?)[?. ]*$"))
  if (is.null(hit)) hit <- first_match(text, paste0(lead,
      "(?:do|does|can|did) (?:the )?(.+?) (?:together )?(?:explain|account for|predict)(?: together| jointly)?[?. ]*$"))
  if (is.null(hit)) return(NULL)
  y <- column_said(vocabulary, hit[2])
  measured <- !is.null(y) && y$kind %in% c("number", "count", "ordered")
  list(text = model_text(hit[2], hit[3]), extra = if (measured) list(view = "explained") else list())
}

#' "how much does Y rise per unit of X", "change in Y for each further year of X"
#' @noRd
wish_per_unit <- function(text, vocabulary) {
  move <- "(?:increase|rise|go up|grow|climb|change|vary|fall|drop|decrease|go down|decline|shrink|differ|gain|lose)"
  each <- paste0("(?:per|for each|for every|with each|with every|by each|for a|for one|with one|with a)(?: (?:extra|additional|further|more|one|single|1))*",  # nolint: line_length_linter.
                 "(?: (?:unit|point|step|increase|rise|\\p{L}+))?(?: (?:increase|rise|change|more))?(?: (?:of|in))?(?: the)?")
  # "how much does interest fall per 10 points of score": steps of that size
  steps <- first_match(text, sprintf("(?i)^ *(?:by )?how (?:much|many [\\p{L}]+) (?:do|does|did|will|would|can) (?:the )?(.+?) %s(?: on average)? (?:per|for each|for every|with each|with every|by each) ([0-9]+(?:[.][0-9]+)?) (?:(?:extra|additional|more|further) )?(?:(?:points?|units?|[\\p{L}]+) (?:of|in) )?(?:the )?(.+?)[?. ]*$", move))  # nolint: line_length_linter.
  if (!is.null(steps)) {
    y <- column_said(vocabulary, steps[2]); x <- column_said(vocabulary, steps[4])
    if (!is.null(y) && !is.null(x) && all(c(x$kind, y$kind) %in% c("number", "count", "ordered"))) {
      return(list(text = sprintf("model of %s on %s in steps of %s", y$name, x$name, steps[3]), extra = list()))
    }
  }
  forms <- c(sprintf("(?i)^ *(?:by )?how (?:much|many [\\p{L}]+) (?:do|does|did|will|would|can) (?:the )?(.+?) %s(?: on average)? (%s) (.+?)[?. ]*$", move, each),  # nolint: line_length_linter.
             sprintf("(?i)^ *(?:what is |give |show )?(?:the )?(?:average |mean )?(?:change|rise|increase|fall|decrease|drop|difference) (?:in|of) (?:the )?(.+?) (%s) (.+?)[?. ]*$",  # nolint: line_length_linter.
                     each))
  for (form in forms) {
    hit <- first_match(text, form)
    if (is.null(hit)) next
    y <- column_said(vocabulary, hit[2]); x <- column_said(vocabulary, hit[4])
    # (the lead may have taken a word of the name, as in "per strength before")
    if (is.null(x)) for (word in utils::tail(strsplit(hit[3], " ")[[1]], 2)) {
      own <- column_said(vocabulary, paste(word, hit[4]))
      if (!is.null(own)) x <- own
    }
    if (is.null(y) || is.null(x) || !all(c(x$kind, y$kind) %in% c("number", "count", "ordered", "yes_no")) || x$kind == "yes_no" ||
        x$name == y$name) next
    return(list(text = model_text(y$name, x$name), extra = list()))
  }
}

#' "does survival fall with more mites": what happens is the outcome, also where the other column is the measured one
#' @noRd
wish_moves_with <- function(text, vocabulary) {
  hit <- first_match(text, paste0("(?i)^ *(?:do|does|did|is|are) (?:the )?(?:chances?|odds|probability|rate|share|likelihood)?(?: of)? ?(?:the )?(.+?) (?:fall|rise|increase|decrease|drop|go up|go down|grow|decline|lower|higher)",  # nolint: line_length_linter.
                                  "(?:ing|s)?(?: steadily| clearly| significantly)? (?:with|as|where|when) (?:the )?(?:more |higher |greater |increasing |growing |rising |larger |the number of )?(.+?)",  # nolint: line_length_linter.
                                  "(?: (?:increases?|rises?|grows?|goes up|is higher|are higher))?[?. ]*$"))
  if (is.null(hit)) return(NULL)
  y <- column_said(vocabulary, hit[2]); x <- column_said(vocabulary, hit[3])
  if (is.null(y) || is.null(x) || y$kind != "yes_no" || !x$kind %in% c("number", "count")) return(NULL)
  list(text = model_text(y$name, x$name, "logistic regression"), extra = list())
}

#' "odds of passing for girls": the share of those who did, which also tells the odds
#' @noRd
wish_plain_odds <- function(text, vocabulary) {
  hit <- first_match(text, "(?i)^ *(?:what (?:is|are|was|were) |give |show )?(?:the )?(odds|chances?|probability|likelihood|risk) of (?:an? |the )?([\\p{L}_-]+)( (?:for|among|in|of|when|where|if) .+?)?[?.! ]*$")  # nolint: line_length_linter.
  if (is.null(hit) || grepl("\\b(versus|vs|than|compared|against|ratio|per|each|every|adjust\\w*|controlling|with [0-9])\\b", hit[4],
      ignore.case = TRUE)) return(NULL)
  event <- event_said(vocabulary, hit[3])
  odds <- tolower(hit[2]) == "odds"
  if (is.null(event) || !odds && is.null(event$extra$level_of_event)) return(NULL)
  level <- event$extra$level_of_event %||% vocabulary$columns$last_level[match(event$column, vocabulary$columns$name)]
  list(text = sprintf("share of rows with %s = %s%s", event$column, level, if (is.na(hit[4])) "" else hit[4]),
      extra = if (odds) list(odds = TRUE) else list())
}

#' "chance of a no show after 30 days of waiting", "how does the probability of attending change with waiting"
#' @noRd
wish_chance_after <- function(text, vocabulary) {
  what <- "(?:chances?|probabilit(?:y|ies)|likelihood|risk|odds)"
  moves <- first_match(text, sprintf(paste0("(?i)^ *(?:how|by how much) (?:do|does|did|will|would) (?:the )?%s of (?:an? |the )?(.+?) (?:change|vary|differ|rise|fall|increase|decrease|grow|drop)s? ",  # nolint: line_length_linter.
                                            "(?:with|as|for|per|by)(?: (?:each|every))?(?: (?:extra|additional|further|more))?(?: (?:day|week|month|year|hour|minute|unit|point)s?(?: of| in)?)? ?(?:the )?(.+?)[?. ]*$"), what))  # nolint: line_length_linter.
  if (!is.null(moves)) {
    x <- column_said(vocabulary, moves[3])
    event <- event_said(vocabulary, moves[2])
    if (is.null(x) || is.null(event) || !x$kind %in% c("number", "count")) return(NULL)
    return(list(text = model_text(event$column, x$name, "logistic regression"), extra = c(list(view = "marginal_effect"), event$extra)))
  }
  # "odds ratio of attending per 7 days of waiting"
  ratio <- first_match(text, "(?i)^ *(?:what is |give |show )?(?:the )?odds ratios? (?:of|for) (?:the |an? )?(.+?) (?:per|for each|for every) ([0-9]+(?:[.][0-9]+)?) (?:(?:more|extra|additional|further) )?(?:[\\p{L}]+ (?:of|in) )?(?:the )?(.+?)[?. ]*$")  # nolint: line_length_linter.
  if (!is.null(ratio)) {
    x <- column_said(vocabulary, ratio[4]); event <- event_said(vocabulary, ratio[2])
    if (!is.null(x) && !is.null(event) && x$kind %in% c("number", "count") && as.numeric(ratio[3]) != 1) {
      return(list(text = sprintf("logistic regression of %s on %s in steps of %s", event$column, x$name, ratio[3]), extra = event$extra))
    }
  }
  after <- first_match(text, sprintf("(?i)^ *(?:what is |what's |give )?(?:the )?(?:predicted |expected |estimated )?%s of (?:an? |the )?(.+?) (?:after|with|at|given|following) (?:a |an )?([0-9]+(?:[.][0-9]+)?) (?:[\\p{L}]+ )?(?:of |in )?(?:the )?(.+?)[?. ]*$", what))  # nolint: line_length_linter.
  # ("of converting for a mobile visitor with 8 pages" says more than a column)
  if (is.null(after) || grepl("\\b(?:for|among|in|on) ", after[2], perl = TRUE)) return(NULL)
  x <- column_said(vocabulary, after[4])
  event <- event_said(vocabulary, after[2])
  if (is.null(x) || is.null(event) || !x$kind %in% c("number", "count")) return(NULL)
  list(text = sprintf("chance of %s with %s %s", event$column, x$name, after[3]), extra = event$extra)
}

#' "does homework matter more for pupils on free meals", which does not say for what
#' @noRd
wish_matters_more <- function(text, vocabulary) {
  hit <- first_match(text, paste0("(?i)^ *(?:do|does|did|is|are) (?:the )?(.+?) (?:(?:matter|count|help|work)s? (?:more|less|better|worse)|(?:more|less) important) ",  # nolint: line_length_linter.
                                  "(?:for|in|among|with) (?:the )?(.+?)(?: than .+)?[?.! ]*$"))
  who <- if (!is.null(hit)) people_side(vocabulary, hit[3])
  cause <- if (!is.null(who)) column_said(vocabulary, hit[2])$name %||% people_side(vocabulary, hit[2])$column
  if (is.null(cause) || cause == who$column) return(NULL)
  list(text = sprintf("does the effect of %s depend on %s", cause, who$column), extra = list())
}

#' A column of two values, or one of its levels, as what happens
#' @section Shape: list(column, extra = list(level_of_event) where a level is said), or NULL.
#' @noRd
event_said <- function(vocabulary, said) {
  columns <- vocabulary$columns
  bare <- joined_stems(tolower(trimws(said)))
  level <- vocabulary$values[vocabulary$values$phrase == bare, , drop = FALSE]
  level <- level[columns$distinct[level$column] == 2, , drop = FALSE]
  if (length(unique(level$column)) == 1) return(list(column = columns$name[level$column[1]], extra = list(level_of_event = level$level[1])))
  col <- column_said(vocabulary, said)
  if (is.null(col) || col$distinct != 2 || col$kind == "id") return(NULL)
  # ("attending" of a column attended whose level is called the same)
  own <- vocabulary$values[vocabulary$values$column == match(col$name, columns$name), , drop = FALSE]
  same <- own$level[vapply(own$phrase, function(p) p %in% c(bare, joined_stems(tolower(col$name))), NA)]
  list(column = col$name, extra = if (length(unique(same)) == 1) list(level_of_event = same[1]) else list())
}

#' "which of A and B predicts Y better", "does A predict Y better than B"
#' @noRd
wish_better_predictor <- function(text, vocabulary) {
  ties <- "(?:predicts?|explains?|goes with|go with|is more (?:strongly |closely )?(?:related|linked|tied) to|matters? (?:more )?for|has more to do with)"  # nolint: line_length_linter.
  hit <- first_match(text, sprintf("(?i)^ *(?:which (?:one )?of|which,|is it|what,) (?:the )?(.+?),? (?:and|or) (?:the )?(.+?),? %s (?:the )?(.+?)(?: (?:better|best|more|most))?[?. ]*$", ties))  # nolint: line_length_linter.
  if (!is.null(hit)) parts <- hit[c(4, 2, 3)]
  else {
    hit <- first_match(text, "(?i)^ *(?:do|does|did) (?:the )?(.+?) (?:predict|explain) (?:the )?(.+?) (?:better|more|more accurately|more closely) than (?:the )?(.+?)(?: do| does)?[?. ]*$")  # nolint: line_length_linter.
    if (is.null(hit)) hit <- first_match(text, "(?i)^ *(?:is|are) (?:the )?(.+?) (?:a )?(?:better|stronger|more important) predictors? (?:of|for) (?:the )?(.+?) than (?:the )?(.+?)(?: is| are)?[?. ]*$")  # nolint: line_length_linter.
    if (is.null(hit)) return(NULL)
    parts <- hit[c(3, 2, 4)]
  }
  said <- lapply(parts, function(p) column_said(vocabulary, p))
  # (a list of three and more, "A, B and C")
  if (is.null(said[[1]]) || is.null(said[[3]]) || is.null(said[[2]]) && !grepl(",", parts[2], fixed = TRUE)) return(NULL)
  if (said[[1]]$kind %in% c("number", "count", "ordered")) return(list(text = model_text(parts[1], paste(parts[2], "and", parts[3])),
                                                                         extra = list(importance = TRUE)))
  compared <- c(vapply(strsplit(parts[2], " *, *| and ")[[1]], function(p) column_said(vocabulary, p)$name %||% NA_character_, ""), said[[3]]$name)
  if (anyNA(compared)) return(NULL)
  list(text = sprintf("which columns are related to %s most", said[[1]]$name), extra = list(only_columns = unname(compared)))
}

#' "how well can Y be predicted (from A and B)", "cross-validated accuracy of predicting Y", "is Y predictable"
#' @noRd
wish_predictability <- function(text, vocabulary) {
  from <- "(?: (?:from|by|with|using|out of|on) (?:the )?(.+?))?[?. ]*$"
  forms <- c(paste0("(?i)^ *(?:how (?:well|accurately|precisely|reliably|closely) )?(?:can|could) (?:we |i |you |one )?(?:the )?(?:predict )?(?:the )?(.+?)(?: be (?:predicted|explained|foreseen))", from),  # nolint: line_length_linter.
             paste0("(?i)^ *how (?:well|accurately|precisely|reliably) (?:can|could) (?:we|i|you|one) predict (?:the )?(.+?)", from),
             paste0("(?i)^ *how (?:accurate|good|reliable|precise) (?:is|are|would be) (?:a |the )?(?:models?|predictions?|regressions?) (?:of|for) (?:the )?(.+?)", from),  # nolint: line_length_linter.
             paste0("(?i)^ *(?:how|is|are) (?:the )?(?:well )?predictable (?:is|are)? ?(?:the )?(.+?)", from),
             paste0("(?i)^ *(?:what is |show |give )?(?:the )?(?:cross[- ]?validated|out[- ]of[- ]sample|held[- ]out) (?:prediction )?(?:accuracy|performance|errors?|r2|r[- ]squared?|rmse) ",  # nolint: line_length_linter.
                    "(?:of|for|in|when) (?:a |the )?(?:model (?:of|for) |predicting |prediction of )?(?:the )?(.+?)", from))
  for (form in forms) {
    hit <- first_match(text, form)
    if (is.null(hit) || is.null(column_said(vocabulary, hit[2]))) next
    return(list(text = if (is.na(hit[3])) sprintf("which model predicts %s best", hit[2]) else sprintf("cross-validate a model of %s on %s", hit[2],
        hit[3]),
                extra = list()))
  }
}

#' "average marginal effect of X on Y adjusting for Z", "adjusted risk difference of Y between A and B, adjusting for Z"
#' @noRd
wish_marginal_effect <- function(text, vocabulary) {
  hit <- first_match(text, paste0("(?i)^ *", ask_lead(),
      "(?:average |mean )?(?:marginal|partial) effects? of (?:the )?(.+?) (?:on|for|in) (?:the )?(.+?)",
                                  "(,? (?:adjust\\w*|controlling|allowing|holding|given|with) .+?)?[?. ]*$"))
  if (!is.null(hit)) {
    y <- column_said(vocabulary, hit[3])
    if (is.null(y)) return(NULL)
    return(list(text = sprintf("%s of %s on %s%s", if (y$kind == "yes_no") "logistic regression" else "model", y$name, hit[2],
                               if (is.na(hit[4])) "" else hit[4]), extra = if (y$kind == "yes_no") list(view = "marginal_effect") else list()))
  }
  form <- "(?i)\\b(?:adjusted |standardi[sz]ed |marginal )?(?:risk difference|absolute risk reduction|difference in (?:risks?|chances?|probabilit\\w+))s?(?: (?:of|in|for))?"  # nolint: line_length_linter.
  adjusts <- "(?i)\\b(?:adjust\\w*|controll\\w*|allowing|accounting|correct\\w*) for\\b"
  if (!grepl(form, text, perl = TRUE) || !grepl(adjusts, text, perl = TRUE)) return(NULL)
  list(text = sub(form, "difference in", text, perl = TRUE), extra = list(view = "marginal_effect"))
}

#' "simple slopes of X by G on Y", "slope of Y on X in each G": what X goes along with at each level of G
#' @noRd
wish_slopes_by_group <- function(text, vocabulary) {
  lead <- paste0("(?i)^ *", ask_lead())
  each <- "(?:by|at|within|across|for|in|per|among)(?: (?:each|every|all|the))*(?: (?:levels?|values?|groups?) of)?(?: the)?"
  hit <- first_match(text, paste0(lead, "(?:simple |conditional |separate )slopes? (?:of|for) (?:the )?(.+?) ", each,
      " (.+?) (?:on|for|in(?: predicting)?|predicting) (?:the )?(.+?)[?. ]*$"))
  # "simple slopes of X on Y by Z": slopes of this name are those of what explains
  turned <- if (is.null(hit)) first_match(text, paste0(lead, "(?:simple|conditional) slopes? (?:of|for) (?:the )?(.+?) on (?:the )?(.+?) ", each,
                                                       " (.+?)[?. ]*$"))
  if (!is.null(hit)) parts <- hit[c(4, 2, 3)]
  else if (!is.null(turned)) parts <- turned[c(3, 2, 4)]
  else {
    hit <- first_match(text, paste0(lead,
        "(?:simple |conditional |separate |regression )?slopes? (?:of|for) (?:the )?(.+?) (?:on|against|over|with) (?:the )?(.+?) ",
                                    "(?:by|within|in|for|per)(?: (?:each|every))+ (.+?)[?. ]*$"))
    if (is.null(hit)) return(NULL)
    parts <- hit[2:4]
  }
  said <- lapply(parts, function(p) column_said(vocabulary, p))
  if (any(vapply(said, is.null, NA))) return(NULL)
  name <- vapply(said, `[[`, "", "name")
  list(text = sprintf("interaction of %s and %s on %s", name[2], name[3], name[1]), extra = list())
}

#' "does the effect of syrup (on Y) depend on X": the level stands for its column, and where no Y is said it is asked about
#' @noRd
wish_level_effect <- function(text, vocabulary) {
  hit <- first_match(text, paste0("(?i)^ *(?:do|does|did|is|are|was) (?:the )?effects? of (?:the )?(.+?)(?: on (?:the )?(.+?))? ",
                                  "(?:depends? on|differs? (?:by|between|across|with)|var(?:y|ies) (?:by|with|across)|changes? with|moderated by) (?:the )?(.+?)[?. ]*$"))  # nolint: line_length_linter.
  if (is.null(hit)) hit <- first_match(text, paste0("(?i)^ *(?:do|does|did|is|are|was) (?:the )?(.+?)(?:'s)? effects? on (?:the )?(.+?) ",
    "(?:depends? on|differs? (?:by|between|across|with)|var(?:y|ies) (?:by|with|across)|changes? with|moderated by) (?:the )?(.+?)[?. ]*$"))
  if (is.null(hit)) return(NULL)
  x <- column_said(vocabulary, hit[2])
  if (is.null(x)) {
    # (a level of one column only)
    own <- columns_of_level(vocabulary, hit[2])
    if (length(unique(own)) != 1) return(NULL)
    x <- vocabulary$columns[own[1], ]
  }
  by <- column_said(vocabulary, hit[4])
  if (is.null(by)) return(NULL)
  if (is.na(hit[3])) return(list(text = sprintf("in a regression model, does the effect of %s depend on %s", x$name, by$name), extra = list()))
  list(text = sprintf("does the effect of %s on %s depend on %s", x$name, hit[3], by$name), extra = list())
}

#' "a natural spline with 4 knots", "with 5 degrees of freedom"
#'
#' Knots count with the two at the ends of the values, as for restricted cubic splines: k of them give k - 1 degrees of freedom.
#' @noRd
wish_spline_size <- function(text, vocabulary) {
  if (!grepl("spline", text, ignore.case = TRUE)) return(NULL)
  form <- "(?i),? *(?:with|using|having|of|and|on)? \\(?([3-9]|three|four|five|six|seven|eight|nine)[- ](knots?|df|degrees of freedom)\\)?"
  hit <- first_match(text, form)
  if (is.null(hit)) return(NULL)
  df <- word_number(hit[2]) - if (startsWith(tolower(hit[3]), "knot")) 1 else 0
  list(text = sub(hit[1], "", text, fixed = TRUE), extra = list(spline_df = as.integer(df)))
}

#' The column of two values of which a text names one ("survivors")
#' @noRd
column_of_level_said <- function(vocabulary, said) {
  at <- unique(columns_of_level(vocabulary, said))
  if (!length(at)) {
    state <- parse_question(said, vocabulary)
    at <- unique(vapply(state$groups, `[[`, 1L, "column"))
    if (!length(at)) at <- match(vapply(state$filters, `[[`, "", "column"), vocabulary$columns$name)
  }
  at <- at[vocabulary$columns$distinct[at] == 2]
  if (length(at) == 1) vocabulary$columns$name[at]
}

#' "best cut-off of X for Y", "how many rows would be misclassified predicting Y from X"
#' @noRd
wish_cut_off <- function(text, vocabulary) {
  hit <- first_match(text, paste0("(?i)^ *", ask_lead(),
      "(?:optimal |optimum |best |ideal )(?:cut[- ]?offs?|cut(?:ting)?[- ]?points?|thresholds?|cut)(?: (?:values?|scores?))? ",
                                  "(?:of|for|in|on) (?:the )?(.+?) (?:for|to predict|to tell|in predicting|predicting|to detect|to classify|to identify) (?:the )?(.+?)[?. ]*$"))  # nolint: line_length_linter.
  # "which cut-off of mites best separates survivors", "what threshold of X tells Y apart"
  if (is.null(hit)) hit <- first_match(text, paste0("(?i)^ *(?:which|what)(?: is the)? (?:best )?(?:cut[- ]?offs?|cut(?:ting)?[- ]?points?|thresholds?|values?) (?:of|for|in|on) (?:the )?",  # nolint: line_length_linter.
    "(.+?) (?:best |most clearly |most )?(?:separates?|tells? apart|distinguish(?:es)?|discriminates?|divides?|predicts?)(?: between| best)? (?:the )?(.+?)(?: best| apart| from (?:the )?(?:rest|others|non[- ]?\\w+|those .+))?[?. ]*$"))  # nolint: line_length_linter.
  if (!is.null(hit)) {
    y <- column_said(vocabulary, hit[3])$name %||% column_of_level_said(vocabulary, hit[3]) %||% hit[3]
    return(list(text = model_text(y, hit[2], "logistic regression"), extra = list(view = "discrimination", cut_asked = TRUE)))
  }
  hit <- first_match(text, paste0("(?i)^ *(?:how many|what (?:share|percentage|proportion) of) (?:the )?\\w+ (?:would be|are|were|get|is) (?:mis|wrongly |correctly |rightly )?classified",  # nolint: line_length_linter.
                                  "(?: (?:when|if|by|in))? (?:predicting|a model (?:of|for)|the model (?:of|for)) (?:the )?(.+?) (?:from|on|by|with) (?:the )?(.+?)[?. ]*$"))  # nolint: line_length_linter.
  if (!is.null(hit)) list(text = model_text(hit[2], hit[3], "logistic regression"), extra = list(view = "discrimination"))
}
