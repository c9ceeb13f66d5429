# Each dose of an experiment against none.

#' The wishes of this file, as of `chance_wishes()`
#' @noRd
trial_wishes <- function() list(wish("\\b(effects?|impact|influence) of\\b.*(,| and )|^ *(how )?(do|does|did) .*( and |,).*\\b(affect|influence|impact|determine|shape)", wish_effects_of_several),  # nolint: line_length_linter.
                               wish("\\b(each|every|all|other)\\b.*\\b(zero|0|control|untreated|none|nothing)\\b", wish_dose_against_none))

#' "compare yield of each nitrogen rate with the zero rate": each dose against the one of nothing, of a numeric column that begins at zero
#' @noRd
wish_dose_against_none <- function(text, vocabulary) {
  hit <- first_match(text, paste0("(?i)^ *(?:compare|contrast|test) (?:the )?(?:(.+?) (?:of|for|at|by|under) )?(?:each|every|all|all the|the other) (?:of the )?(.+?)(?: (?:rates?|doses?|levels?|groups?))?",  # nolint: line_length_linter.
                                  " (?:with|against|to|versus|vs) (?:the )?(?:zero|0|control|untreated|none|nothing)(?: (?:rate|dose|level|group|control|plots?|[\\p{L}]+))?",  # nolint: line_length_linter.
                                  "(?: (?:on|in|for) (?:the )?(.+?))?[?.! ]*$"))
  if (is.null(hit)) return(NULL)
  columns <- vocabulary$columns
  x <- column_said(vocabulary, hit[3])
  if (is.null(x)) x <- column_said(vocabulary, paste(hit[3], "rate"))
  if (is.null(x) || !x$kind %in% c("number", "count") || x$distinct > 12 || !isTRUE(suppressWarnings(as.numeric(x$lowest)) == 0)) return(NULL)
  said <- stats::na.omit(hit[c(2, 4)])[1]
  y <- if (!is.na(said)) column_said(vocabulary, said)
  if (!is.na(said) && is.null(y)) return(NULL)
  list(text = if (is.null(y)) sprintf("dunnett test by %s", x$name) else sprintf("dunnett test of %s by %s", y$name, x$name),
       extra = list(control = "0"), told = sprintf("Each value of %s is set against 0.", x$name))
}

#' "effect of region and queen age on swarming", "how do arm and strength affect yield": several columns that explain one, of which
#' one at least is measured or what they explain is a yes or no, so that groups alone would not do
#' @noRd
wish_effects_of_several <- function(text, vocabulary) {
  if (grepl("(?i)\\b(interact\\w*|depend\\w*|moderat\\w*|main effects?|random|each other)\\b", text, perl = TRUE)) return(NULL)
  tail <- "( (?:in|for|among|amongst|only|with|after|when|where|while|adjusting|adjusted|controlling|holding|given|within|excluding|without) .+?)?"
  hit <- first_match(text, paste0("(?i)^ *(?:(?:what is|what are|what's|show|test|estimate|give|is there an?|are there) )?(?:the |an? )?(?:joint |combined |separate |independent |relative )?",  # nolint: line_length_linter.
                                  "(?:effects?|impact|influence) of (?:the )?(.+?) on (?:the )?(.+?)", tail, "[?.! ]*$"))
  if (is.null(hit)) hit <- first_match(text, paste0("(?i)^ *(?:how )?(?:do|does|did) (?:the |both )?(.+?) (?:affect|influence|impact|determine|shape) (?:the )?(.+?)", tail, "[?.! ]*$"))  # nolint: line_length_linter.
  if (is.null(hit)) return(NULL)
  parts <- strsplit(hit[2], "(?i),? and (?:the )?|, *(?:the )?", perl = TRUE)[[1]]
  # ("strength before and after" is no list of two)
  if (length(parts) < 2) return(NULL)
  x <- lapply(parts, column_said, vocabulary = vocabulary)
  y <- column_said(vocabulary, hit[3])
  if (is.null(y) || any(vapply(x, is.null, NA))) return(NULL)
  names <- vapply(x, `[[`, "", "name"); kinds <- vapply(x, `[[`, "", "kind")
  if (anyDuplicated(c(names, y$name)) || !y$kind %in% c("number", "count", "ordered", "yes_no")) return(NULL)
  if (all(kinds %in% c("category", "yes_no", "ordered")) && y$kind != "yes_no") return(NULL)
  list(text = paste0(model_text(y$name, some_of(names, 12)), if (is.na(hit[4])) "" else hit[4]), extra = list())
}
