# Each dose of an experiment against none.

#' The wishes of this file, as of `chance_wishes()`
#' @noRd
trial_wishes <- function() list(wish("\\b(each|every|all|other)\\b.*\\b(zero|0|control|untreated|none|nothing)\\b", wish_dose_against_none))

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
