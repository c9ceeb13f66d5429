# What an analyst asks of a figure: its kind, colours, panels, order, marks, scales and words.

#' The names of all that can be asked of a figure
#' @noRd
look_fields <- function() c("kind", "title", "subtitle", "x_label", "y_label", "colour", "panel", "order", "line_at", "mean_line", "mark", "log",
  "limits", "legend", "grey", "bins", "palette", "size", "turn", "points", "text_size", "smooth", "names")

figure_kinds <- function() c("histogram", "density", "box", "violin", "scatter", "bar", "line", "qq", "pie", "dot", "mosaic", "heatmap")

#' Wishes about the figure, taken out of a question
#'
#' @section Shape: list(text = the rest of the question, look = named list, only what is asked for).
#' @noRd
take_look <- function(text, vocabulary) {
  out <- list(text = text, look = list())
  # one quick look for the words by which a wish is told; most questions hold none
  wish <- paste0("\\bbins?\\b|\\bbars\\b|title|entitled|headed|call it|axis|label|\\blog|limit|zero|gr[ae]y|black and white|\\bline|legend|colou?r|shade|panel|multiples|",  # nolint: line_length_linter.
                 "(figure|plot|chart|graph) (for|per)|order|sort|arrang|first|mark|highlight|pick out|point out|set ",
                     "off|\\b(add|show|draw|with) (the|a) (overall )?(mean|median)|", shape_words())
  if (!grepl(wish, text, ignore.case = TRUE, perl = TRUE)) return(out)
  steps <- c(look_words, look_scales, look_lines, look_legend, look_shape_steps(), look_columns, look_order, look_mark)
  for (step in steps) out <- step(out, vocabulary)
  if (length(out$look)) out$text <- stringi::stri_trim_both(stringi::stri_replace_all_regex(out$text,
    "\\s+|(?<=^)\\s*(and|with|,)\\s+|\\s+(and|with|,)\\s*$", " "))
  out
}

#' Take the first match of a pattern out of the text
#' @section Shape: NULL, or list(text, parts = the groups of the pattern).
#' @noRd
cut_out <- function(text, pattern) {
  found <- match_groups(text, paste0("(?i)", pattern))
  if (is.na(found[1])) return(NULL)
  list(text = stringi::stri_replace_first_fixed(text, found[1], " "), parts = ifelse(is.na(found[-1]), "", found[-1]))
}

look_words <- function(out, vocabulary) {
  # "title: Days off by clinic", as a wish of its own
  bare <- match_groups(out$text, "(?i)^ *(?:and |then |now |please )*(?:set |change |make |use )?(?:the )?(title|subtitle|call it)(?: it| to| of)?[:=]? +([^\"'\u201c\u2018].{1,150}?)[.! ]*$")  # nolint: line_length_linter.
  if (!is.na(bare[1])) {
    out$text <- ""
    out$look[[if (tolower(bare[2]) == "subtitle") "subtitle" else "title"]] <- bare[3]
    return(out)
  }
  quoted_text <- "[\"'\u201c\u2018]([^\"\u201d]+?)[\"'\u201d\u2019]"
  lead <- "(?:,? ?(?:and |with |give it |set |change |make |use )?(?:the |a )?)"
  for (f in list(c("title", "(?:title(?: it| to| of)?|titled|call it|entitled|headed)"), c("subtitle", "subtitle(?: to| of)?"),
                 c("x_label", "(?:label (?:the )?x(?:[- ]axis)?|x[- ](?:axis )?label|x[- ]axis)(?: as| to| of| is)?"),
                 c("y_label", "(?:label (?:the )?y(?:[- ]axis)?|y[- ](?:axis )?label|y[- ]axis)(?: as| to| of| is)?"))) {
    hit <- cut_out(out$text, paste0(lead, f[2], ":? ?", quoted_text))
    if (!is.null(hit)) { out$text <- hit$text; out$look[[f[1]]] <- substr(hit$parts[1], 1, 200) }
  }
  out
}

look_scales <- function(out, vocabulary) {
  hit <- cut_out(out$text,
    paste0("(?:,? ?(?:and |with |on |use |using )?(?:a |the )?)\\b(?:log(?:arithmic)?(?: scale)? ?(?:on|for|of)? ?(?:the )?(x|y)(?:[- ",
        "]axis)?|log(?:arithmic)? scale|(x|y)[- ]axis (?:on|in) (?:a )?log(?: scale)?|log(?:arithmic)? (x|y)[- ]axis)\\b"))
  if (!is.null(hit)) { out$text <- hit$text; axis <- hit$parts[nzchar(hit$parts)]; out$look$log <- if (length(axis)) tolower(axis[1]) else "y" }
  hit <- cut_out(out$text,
    paste0("(?:,? ?(?:and |with |set |let )?(?:the )?)\\b(x|y)?(?:[- ]axis)? ?(?:limits?|runs?|going|scale) (?:from |of |between )?(-?[0-9.]+) ",
        "(?:to|and) (-?[0-9.]+)|\\b(x|y)[- ]axis from (-?[0-9.]+) to (-?[0-9.]+)"))
  if (!is.null(hit)) {
    p <- hit$parts
    low <- suppressWarnings(as.numeric(paste0(p[2], p[5]))); high <- suppressWarnings(as.numeric(paste0(p[3], p[6])))
    if (is.finite(low) && is.finite(high) && low < high) { out$text <- hit$text; axis <- tolower(paste0(p[1],
      p[4])); out$look$limits <- list(axis = if (nzchar(axis)) axis else "y", range = c(low, high)) }
  }
  hit <- cut_out(out$text, "(?:,? ?(?:and |with )?)\\b(?:start(?:ing)?|begin(?:ning)?) (?:the )?(?:(x|y)[- ]axis )?(?:at|from) (?:zero|0)\\b")
  if (!is.null(hit)) { out$text <- hit$text; out$look$limits <- list(axis = if (nzchar(hit$parts[1])) tolower(hit$parts[1]) else "y", range = c(0,
    NA)) }
  hit <- cut_out(out$text, "(?:,? ?(?:and |in )?)\\b(?:black and white|gr[ae]y ?scale|shades of gr[ae]y|gr[ae]y tones)\\b|(?:,? ?\\bin gr[ae]y)(?= *(?:$|[?.!,]))")  # nolint: line_length_linter.
  if (!is.null(hit)) { out$text <- hit$text; out$look$grey <- TRUE }
  hit <- cut_out(out$text, "(?:,? ?(?:and |with |using |in )+)([0-9]{1,3}) (?:bins?|bars|classes|intervals)\\b")
  if (!is.null(hit)) { out$text <- hit$text; out$look$bins <- as.integer(hit$parts[1]) }
  out
}

look_lines <- function(out, vocabulary) {
  hit <- cut_out(out$text,
    "(?:,? ?(?:and |with |add |draw |put )*)\\ba (?:reference |horizontal |vertical |dashed |target |threshold )*line at (-?[0-9]+(?:\\.[0-9]+)?)")
  if (!is.null(hit)) { out$text <- hit$text; out$look$line_at <- as.numeric(hit$parts[1]) }
  hit <- cut_out(out$text,
    paste0("(?:,? ?(?:and |with )?)\\b(?:mark|add|show|draw|with) (?:the |a )(?:overall )?(mean|median)(?: line)?(?= *$|,|\\.| and | with ",
        ")|\\b(?:add|with) a line (?:at|for) the (mean|median)"))
  if (!is.null(hit)) { out$text <- hit$text; out$look$mean_line <- tolower(hit$parts[nzchar(hit$parts)][1]) }
  out
}

look_legend <- function(out, vocabulary) {
  hit <- cut_out(out$text,
    paste0("(?:,? ?(?:and |with |put |move |place )*)(?:the )?\\blegend (?:at |to |on |in )?(?:the )?(top|bottom|left|right)\\b|(?:,? ?(?:and ",
        "|with )?)\\b(no|without(?: a| the)?|hide the|remove the|drop the) legend\\b"))
  if (!is.null(hit)) { out$text <- hit$text; out$look$legend <- if (nzchar(hit$parts[1])) tolower(hit$parts[1]) else "none" }
  out
}

#' "coloured by region", "one panel for each arm": the column is the one whose name follows
#' @noRd
look_columns <- function(out, vocabulary) {
  # "small multiples of weight over time by hive", "weight over time for each hive in separate panels": the same in the other order
  turned <- match_groups(out$text,
      "(?i)^(.*?)\\b(?:small multiples|separate panels) of (.+?) (?:by|for each|for every|per) (?:the )?([\\p{L}_0-9.]+)([?.! ]*)$")
  if (is.na(turned[1])) turned <- match_groups(out$text,
      "(?i)^()(.+?),? (?:by|for each|for every|per) (?:the )?([\\p{L}_0-9.]+),? (?:in|as) (?:separate panels|small multiples|panels)([?.! ]*)$")
  if (!is.na(turned[1])) out$text <- sprintf("%s%s, one panel for each %s", turned[2], turned[3], turned[4])
  for (f in list(c("colour",
    paste0("(?:,? ?(?:and |with (?:the )?points |with )?)\\b(?:colou?r(?:ed|ing|s)?(?: it| them| the (?:points|bars|lines))?|shaded?) ",
        "(?:by|according to) (?:the )?")),
                 c("panel", paste0("(?:,? ?(?:and |with |in |as )?)\\b(?:panels?|panelled|small multiples|(?:a |one )?(?:separate |own ",
                     ")?panels?)(?: by| for each| for every| per| for) (?:the )?|\\b(?:a|one) (?:figure|plot|chart|graph|panel) (?:for each|for ",
                     "every|per) (?:the )?")))) {
    at <- stringi::stri_locate_first_regex(out$text, f[2], case_insensitive = TRUE)[1, ]
    if (is.na(at[1])) next
    rest <- stringi::stri_sub(out$text, at[2] + 1)
    phrase <- named_column(rest, vocabulary)
    if (is.null(phrase)) next
    out$look[[f[1]]] <- phrase$name
    out$text <- paste0(stringi::stri_sub(out$text, 1, at[1] - 1), " ", phrase$rest)
  }
  out
}

#' The column whose name begins a text, the longest first, and what follows it
#' @noRd
named_column <- function(text, vocabulary) {
  words <- strsplit(stringi::stri_trim_both(text), "\\s+")[[1]]
  for (size in rev(seq_len(min(5, length(words))))) {
    phrase <- gsub("[.,;?!]+$", "", paste(words[seq_len(size)], collapse = " "))
    state <- parse_question(phrase, vocabulary)
    mentions <- find_mentions(state)
    whole <- length(mentions) == 1 && all(state$used | state$type %in% c("column", "stop", "adjective"))
    if (whole) return(list(name = column_of(state, mentions[[1]]$column), rest = paste(words[-seq_len(size)], collapse = " ")))
  }
  # what everyday speech calls a row ("hive" of hive_id) names the key of rows that come several times
  own <- if (length(words)) key_of_rows(vocabulary, words[1]) %||% column_said(vocabulary, gsub("[.,;?!]+$", "", words[1]))
  if (!is.null(own)) list(name = own$name, rest = paste(words[-1], collapse = " "))
}

#' The key whose name has a word, where rows of one key come several times
#' @noRd
key_of_rows <- function(vocabulary, word) {
  columns <- vocabulary$columns
  stem <- stems_of(tolower(gsub("[.,;?!]+$", "", word)))[[1]]
  own <- which(columns$kind == "id" & !columns$unique & vapply(columns$name, function(n) all(stem %in% name_stems(n)), NA))
  if (length(stem) == 1 && length(own) == 1) columns[own, ]
}

look_order <- function(out, vocabulary) {
  hit <- cut_out(out$text,
    paste0("(?:,? ?(?:and |with )?)\\b(?:order|sort|arrange)(?:ed)?(?: it| them| the (?:groups|bars|boxes|levels|panels))? by (?:their |the ",
        ")?(mean|median|size|count|number of rows|value|height|name)s?\\b"))
  if (!is.null(hit)) { out$text <- hit$text; out$look$order <- sub("size|number of rows", "count", sub("value|height", "mean", tolower(hit$parts[1]))) }  # nolint: line_length_linter.
  # "bar chart of mean yield by site, ordered by yield": by what is drawn
  drawn <- grepl("\\b(plot|chart|graph|bars?|boxe?s?|figure)\\b", out$text, ignore.case = TRUE)
  at <- if (drawn && is.null(out$look$order)) stringi::stri_locate_first_regex(out$text,
    "(?:,? ?(?:and |with )?)\\b(?:order|sort|arrange)(?:ed)? by (?:their |the )?", case_insensitive = TRUE)[1, ]
  if (length(at) && !is.na(at[1])) {
    named <- named_column(stringi::stri_sub(out$text, at[2] + 1), vocabulary)
    if (!is.null(named) && vocabulary$columns$kind[match(named$name, vocabulary$columns$name)] %in% c("number", "count")) {
      out$look$order <- "mean"
      out$text <- paste(stringi::stri_sub(out$text, 1, at[1] - 1), named$rest)
    }
  }
  hit <- cut_out(out$text, "(?:,? ?(?:and |with )?)(?:the )?\\b(?:largest|highest|biggest) first\\b")
  if (!is.null(hit) && is.null(out$look$order) && grepl("\\b(figure|plot|chart|graph|draw|bars?|boxe?s?|histogram)\\b", out$text,
    ignore.case = TRUE, perl = TRUE)) { out$text <- hit$text; out$look$order <- "mean" }
  out
}

#' "mark the hives that swarmed": a condition whose rows are set off by colour
#' @noRd
look_mark <- function(out, vocabulary) {
  at <- stringi::stri_locate_first_regex(out$text, "(?:,? ?(?:and |with )?)\\b(?:mark|highlight|point out|pick out|set off) (?:the |those |all )?",
    case_insensitive = TRUE)[1, ]
  if (is.na(at[1])) return(out)
  rest <- stringi::stri_sub(out$text, at[2] + 1)
  # "mark the hives that swarmed in the scatter plot of ...": what follows is the figure
  asked <- match_groups(rest, "(?i)^(.+?) (?:in|on) (?:a |an |the )?((?:[a-z-]+ )?(?:plot|scatter|chart|figure|graph|histogram|box ?plot|map)\\b.*)$")  # nolint: line_length_linter.
  figure <- if (is.na(asked[1])) "" else asked[3]
  if (nzchar(figure)) rest <- asked[2]
  state <- parse_question(paste("rows", if (grepl("\\b(with|where|that|who|which|in|from|over|above|below|under)\\b", rest)) "" else "with", rest),
    vocabulary)
  filters <- c(state$filters, lapply(state$groups, function(g) group_filter(state, g)))
  if (!length(filters)) {
    own <- which(state$type == "column" & !state$used)
    yes <- own[vapply(own, function(k) !is.na(item_column(state, k, "yes_no")), NA)]
    if (length(yes)) { c <- item_column(state, yes[1], "yes_no"); filters <- list(new_filter(column_of(state, c), "==",
      state$vocabulary$columns$last_level[c])) }
  }
  if (!length(filters)) return(out)
  out$look$mark <- filters
  out$text <- paste(stringi::stri_sub(out$text, 1, at[1] - 1), figure)
  out
}

#' Columns that a look needs beside those of the reading
#' @noRd
look_columns_used <- function(look) unique(c(look$colour, look$panel, look$names, vapply(look$mark, `[[`, "", "column")))

#' A look given by argument, checked
#' @section Errors: `upbeatquill_error_bad_argument`, `upbeatquill_error_column_unknown`.
#' @noRd
check_look <- function(look, study) {
  look <- look[!vapply(look, is.null, NA)]
  bad <- function(...) stop_input(..., class = "bad_argument")
  if (!is.null(look$kind) && !isTRUE(look$kind %in% figure_kinds())) bad(sprintf("%s is no kind of figure.", quoted(as.character(look$kind)[1])),
    todo = sprintf("Use one of %s.", paste(figure_kinds(), collapse = ", ")))
  for (f in intersect(names(look), c("title", "subtitle", "x_label", "y_label"))) if (!is.character(look[[f]]) || length(look[[f]]) != 1 ||
    is.na(look[[f]])) bad(sprintf("`%s` is one text.", f))
  for (f in intersect(names(look), c("colour", "panel", "names"))) find_column(study, look[[f]])
  if (!is.null(look$bins) && !(is.numeric(look$bins) && length(look$bins) == 1 && isTRUE(look$bins >= 1 && look$bins <= 500))) bad(
    "`bins` is one number from 1 to 500.")
  if (!is.null(look$order) && !isTRUE(look$order %in% c("mean", "median", "count",
    "name"))) bad("`order` is \"mean\", \"median\", \"count\" or \"name\".")
  if (!is.null(look$log) && !isTRUE(look$log %in% c("x", "y", "xy"))) bad("`log` is \"x\", \"y\" or \"xy\".")
  if (!is.null(look$legend) && !isTRUE(look$legend %in% c("top", "bottom", "left", "right",
    "none"))) bad("`legend` is \"top\", \"bottom\", \"left\", \"right\" or \"none\".")
  if (!is.null(look$line_at) && !(is.numeric(look$line_at) && length(look$line_at) == 1)) bad("`line_at` is one number.")
  check_shape(look, bad)
  if (is.numeric(look$limits)) look$limits <- list(axis = "y", range = look$limits)
  if (!is.null(look$limits) && (length(look$limits$range) != 2 ||
    isTRUE(look$limits$range[1] >= look$limits$range[2]))) bad("`limits` are two rising numbers.")
  if (!is.null(look$mark) && is.null(look$mark[[1]]$column)) look$mark <- check_conditions(study, look$mark, NULL)
  look
}

#' @param bad Function that stops with a message.
#' @noRd
check_shape <- function(look, bad) {
  must_be <- function(field, choices) if (!is.null(look[[field]]) && !isTRUE(look[[field]] %in% choices)) bad(sprintf("`%s` is %s.", field,
    some_of(vapply(choices, function(v) if (is.character(v)) quoted(v) else as.character(v), ""), 5, and = "or")))
  must_be("turn", c("sideways", "upright", "other")); must_be("smooth", c("line", "curve")); must_be("points", c(TRUE, FALSE))
  if (!is.null(look$palette) && !(is.character(look$palette) && length(look$palette) && !anyNA(look$palette) &&
    all(look$palette %in% grDevices::colours() | grepl("^#[0-9A-Fa-f]{6}$",
        look$palette)))) bad("`palette` holds names of colours, or codes such as \"#1B4F72\".")
  if (!is.null(look$size) && !(is.numeric(look$size) && length(look$size) == 2 && !anyNA(look$size) && all(look$size >= 1 & look$size <= 50))) bad(
    "`size` is width and height in inches, 1 to 50 each.")
  if (!is.null(look$text_size) && !(is.numeric(look$text_size) && length(look$text_size) == 1 && isTRUE(look$text_size >= 5 &&
      look$text_size <= 40))) bad(
    "`text_size` is one number of points, 5 to 40.")
}

#' What a kind of figure is called
#' @noRd
kind_word <- function(kind) c(box = "box plot", bar = "bar chart", line = "line chart", scatter = "scatter plot", density = "density plot",
  violin = "violin plot", qq = "quantile plot", dot = "dot plot",
                              pie = "pie chart", mosaic = "mosaic plot", heatmap = "heat map", histogram = "histogram")[[kind]]
