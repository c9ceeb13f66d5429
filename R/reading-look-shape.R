# What is asked of a figure beside its words and scales: colours by name, size, which way it lies, points, size of its text, a line through
# the points, names at the points.

#' Words by which such a wish may be told, for a quick look
#' @noRd
shape_words <- function() {
  paste0("wider|taller|narrower|bigger|larger|smaller|\\b(inch|inches|cm|centimet\\w+)\\b|horizontal|vertical|sideways|flip|swap the|on its side|",
         "\\b(points|dots)\\b|\\bfont|smooth|trend ?line|best[- ]fit|fit(ted)? line|regression line|straight line|line of|", paste(colour_words(),
             collapse = "|"))
}

look_shape_steps <- function() list(look_text_size, look_size, look_turned, look_points, look_smooth, look_names, look_palette)

figure_said <- function(text) {
  grepl("\\b(figure|plot|chart|graph|picture|draw|bars?|boxe?s?|violins?|histogram|scatter|curve|map|points|dots)\\b", text, ignore.case = TRUE,
        perl = TRUE)
}

#' Does a wish stand in a question about a figure, or by itself as a follow-up?
#' @noRd
about_figure <- function(before, rest) figure_said(before) || only_wishes(rest)

look_text_size <- function(out, vocabulary) {
  hit <- cut_out(out$text, "(?:,? ?(?:and |with |in |use |using |make (?:the )?)*)\\b(bigger|larger|smaller) (?:text|font|letters|lettering|labels|type)\\b|\\b(?:make )?(?:the )?(?:text|font|letters|lettering|labels) (bigger|larger|smaller)\\b|(?:,? ?(?:and |with |in |use |set )*)(?:the |a )?\\bfont(?: size)?(?: to| of| at)? ([0-9]{1,2})(?: ?pt| ?points?)?\\b")  # nolint: line_length_linter.
  if (is.null(hit) || !about_figure(out$text, hit$text)) return(out)
  said <- tolower(paste0(hit$parts[1], hit$parts[2]))
  size <- if (nzchar(hit$parts[3])) as.numeric(hit$parts[3]) else if (said == "smaller") 9 else 15
  if (size < 5 || size > 40) return(out)
  out$text <- hit$text; out$look$text_size <- size
  out
}

look_size <- function(out, vocabulary) {
  hit <- cut_out(out$text, "(?:,? ?(?:and |with |at |in |make it |draw it |save it |size |of )*)\\b([0-9]+(?:\\.[0-9]+)?) ?(?:by|x|\u00d7) ?([0-9]+(?:\\.[0-9]+)?) ?(inch(?:es)?|cm|centimet(?:er|re)s?)\\b(?: (?:wide|in size))?")  # nolint: line_length_linter.
  if (!is.null(hit)) {
    sides <- as.numeric(hit$parts[1:2]) / if (startsWith(tolower(hit$parts[3]), "c")) 2.54 else 1
    if (all(sides >= 1 & sides <= 50)) { out$text <- hit$text; out$look$size <- sides }
    return(out)
  }
  hit <- cut_out(out$text, paste0("(?:,? ?(?:and |but |please |now )*)(?:make|draw) (?:it|this|the (?:figure|plot|chart|graph|picture)) (?:much |a bit |a little |somewhat )?(wider|taller|narrower|shorter|bigger|larger|smaller)\\b|",  # nolint: line_length_linter.
                                  "^(?:and |but |now |please )*(?:much |a bit |a little )?(wider|taller|narrower|bigger|larger|smaller)(?: please)?[.! ]*$"))  # nolint: line_length_linter.
  if (is.null(hit)) return(out)
  own <- list(wider = c(11, 5), narrower = c(5.5, 5), taller = c(8, 7.5), shorter = c(8, 3.6), bigger = c(11, 7), larger = c(11, 7),
      smaller = c(5.5, 3.8))
  out$text <- hit$text; out$look$size <- own[[tolower(hit$parts[nzchar(hit$parts)][1])]]
  out
}

look_turned <- function(out, vocabulary) {
  hit <- cut_out(out$text, paste0("(?:,? ?(?:and |with |as |make (?:it|them|the bars|the boxes) |draw (?:it|them) )*)\\b(?:(horizontal(?:ly)?)(?: bars| boxes)?|(vertical(?:ly)?)(?: bars| boxes)?|(?:(?:flip|swap|exchange|turn) (?:the )?(?:x and y )?ax[ei]s|",  # nolint: line_length_linter.
                                  "(?:the )?axes (?:flipped|swapped)|sideways|(?:turn(?:ed)? )?(?:it )?on its side))\\b"))
  if (is.null(hit) || !about_figure(out$text, hit$text)) return(out)
  out$text <- hit$text
  out$look$turn <- if (nzchar(hit$parts[1])) "sideways" else if (nzchar(hit$parts[2])) "upright" else "other"
  out
}

look_points <- function(out, vocabulary) {
  hit <- cut_out(out$text, "(?:,? ?(?:and |but |please )*)\\b(without|no|hide|remove|drop|leave out|leave off|omit|with|show|add|draw) (?:all |the )?(?:single |raw |individual |data )?(?:points|dots)\\b(?! (?:with|by|in|of|for|from|above|below|per))")  # nolint: line_length_linter.
  if (is.null(hit) || !about_figure(out$text, hit$text) || !figure_said(sub("points|dots", "", out$text)) && !only_wishes(hit$text)) return(out)
  out$text <- hit$text
  out$look$points <- tolower(hit$parts[1]) %in% c("with", "show", "add", "draw")
  out
}

look_smooth <- function(out, vocabulary) {
  hit <- cut_out(out$text, paste0("(?:,? ?(?:and |with |add |show |draw |put )+)(?:an? |the )?(?:(smooth(?:ed)? (?:curve|line)|smoother|smooth|curve through the points)|",  # nolint: line_length_linter.
                                  "((?:linear )?trend ?line|(?:regression|fitted|fit|straight|best[- ]fit(?:ting)?) line|line of best fit))\\b"))
  if (is.null(hit) || !about_figure(out$text, hit$text)) return(out)
  out$text <- hit$text
  out$look$smooth <- if (nzchar(hit$parts[1])) "curve" else "line"
  out
}

#' "label the points with hive_id": the column whose values stand at the points
#' @noRd
look_names <- function(out, vocabulary) {
  at <- stringi::stri_locate_first_regex(out$text, "(?:,? ?(?:and |with |the )*)\\b(?:label(?:led|ed|s)?|name|tag|annotate) (?:the |all |each )?(?:points?|dots?|rows) (?:with|by|as|using) (?:the |their |its )?",  # nolint: line_length_linter.
                                         case_insensitive = TRUE)[1, ]
  if (is.na(at[1])) return(out)
  rest <- stringi::stri_sub(out$text, at[2] + 1)
  # (keys are no measure that a question names, so their names are looked for as they stand)
  key <- match_groups(rest, "^([\\p{L}\\p{N}_.]+)(.*)$")
  own <- match(tolower(key[2]), tolower(vocabulary$columns$name))
  named <- if (!is.na(own)) list(name = vocabulary$columns$name[own], rest = key[3]) else named_column(rest, vocabulary)
  if (is.null(named)) return(out)
  out$look$names <- named$name
  out$text <- paste(stringi::stri_sub(out$text, 1, at[1] - 1), named$rest)
  out
}

colour_words <- function() {
  c("red", "blue", "green", "orange", "purple", "yellow", "black", "pink", "brown", "turquoise", "navy", "gold", "magenta", "cyan", "salmon",
    "maroon", "tomato", "steelblue", "firebrick", "#[0-9a-f]{6}")
}

#' "in blue and orange", "use dark green": colours by name, unless the data has such a value or column
#' @noRd
look_palette <- function(out, vocabulary) {
  one <- sprintf("(?:(?:dark|light|deep|pale) ?)?(?:%s)", paste(colour_words(), collapse = "|"))
  hit <- cut_out(out$text, sprintf("(?:,? ?(?:and |with |in |use |using |make (?:it|them|the (?:bars|boxes|points|lines)) |colou?r(?:ed)? (?:it |them |the (?:bars|boxes|points|lines) )?|draw (?:it|them) )+)(?:the )?(?:colou?rs? )?(%s(?:(?:, and |, | and | or )%s)*)(?: colou?rs?| instead)?(?= *(?:$|[,.?!]| and | with | for ))", one, one))  # nolint: line_length_linter.
  if (is.null(hit) || !about_figure(out$text, hit$text)) return(out)
  said <- tolower(strsplit(hit$parts[1], ", and |, | and | or ")[[1]])
  known <- c(vocabulary$values$phrase, vocabulary$phrases$phrase)
  if (any(joined_stems(said) %in% known)) return(out)
  colours <- gsub(" ", "", sub("^(deep) ?", "dark", sub("^pale ?", "light", said)))
  # R knows a darkred, but no darkbrown: there the plain colour serves
  ok <- colours %in% grDevices::colours() | grepl("^#", colours)
  colours[!ok] <- sub("^(dark|light)", "", colours[!ok])
  if (!all(colours %in% grDevices::colours() | grepl("^#[0-9a-f]{6}$", colours))) return(out)
  out$text <- hit$text; out$look$palette <- colours
  out
}
