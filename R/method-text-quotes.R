# Open answers that mention something: how many there are, and what they say.

#' @noRd
method_text_quotes <- function() {
  new_method(
    id = "text_quotes", name = "Open answers that mention something", tasks = "themes",
    fits = function(shape) if (shape$task == "themes" && isTRUE(shape$about) && identical(shape$outcome_kind, "text")) new_fit(95,
      "The question asks for the answers that mention something."),
    compute = compute_text_quotes, sentences = say_text_quotes, script = script_text_quotes,
    figure = function(ctx, res) if (nrow(res$counts) > 1) figure_terms(ctx, res$counts$label, res$counts$count,
                                                                      sprintf("Answers that mention %s", ctx$reading$extra$about)),
    references = paste0("Wilson, E. B. (1927). Probable inference, the law of succession, and statistical inference. ",
                        "Journal of the American Statistical Association, 22, 209-212."),
    next_steps = function(ctx, res) sprintf("What are the themes of %s?", outcome_name(ctx)))
}

#' The answers of each open column that hold all the words asked about (their stems)
#' @section Shape: list(texts, rows, group, holds), one of each open column.
#' @noRd
texts_that_hold <- function(ctx) {
  sought <- about_stems(ctx)
  lapply(stats::setNames(nm = ctx$reading$outcome), function(name) {
    frame <- ctx$frame_without(ctx$reading$outcome)
    texts <- as.character(frame$data[[name]])
    here <- !is.na(texts) & nzchar(trimws(texts))
    terms <- text_terms(texts[here], setdiff(ctx$stop_words, tolower(unlist(strsplit(ctx$reading$extra$about, "[^[:alnum:]']+")))))
    codes <- match(sought, terms$stem)
    holds <- if (anyNA(codes)) rep(FALSE, sum(here)) else vapply(terms$terms, function(t) all(codes %in% t), NA)
    list(texts = texts[here], rows = frame$rows[here], group = if (length(ctx$reading$by)) as_group(frame$data[[ctx$reading$by]][here]), holds = holds)  # nolint: line_length_linter.
  })
}

about_stems <- function(ctx) {
  words <- tolower(unlist(stringi::stri_extract_all_words(ctx$reading$extra$about)))
  unique(SnowballC::wordStem(words[nchar(words) > 2], "english"))
}

compute_text_quotes <- function(ctx) {
  if (!length(about_stems(ctx))) stop_data("Name what the answers should mention.", class = "unfit_data")
  found <- texts_that_hold(ctx)
  counts <- do.call(rbind, lapply(names(found), function(name) mention_counts(found[[name]], name, ctx$conf_level)))
  all <- sum(vapply(found, function(f) length(f$texts), 1L)); hits <- sum(vapply(found, function(f) sum(f$holds), 1L))
  w <- stat_wilson(hits, all, ctx$conf_level)
  quotes <- do.call(rbind, lapply(names(found), function(name) { f <- found[[name]]; at <- utils::head(which(f$holds), 25)
    if (length(at)) data.frame(column = name, row = as.numeric(f$rows[at]), quote = substr(f$texts[at], 1, 240), stringsAsFactors = FALSE) }))
  result(list(new_number("estimate", sprintf("share of the answers that mention %s", ctx$reading$extra$about), hits / all),
              new_number("ci_low", "lower limit", w$low), new_number("ci_high", "upper limit", w$high),
              new_number("conf_level", "confidence level", ctx$conf_level), new_number("count", "answers that mention it", hits),
              new_number("n", "answers", all)),
         tables = compact(list(new_table("counts", "Answers that mention it", counts[setdiff(names(counts), "label")]),
                               if (!is.null(quotes)) new_table("quotes", "What they say", quotes))), counts = counts, direction = NA_real_)
}

#' How many answers of a column mention it, whole or by group
#' @noRd
mention_counts <- function(f, name, conf_level) {
  g <- f$group %||% factor(rep("all answers", length(f$texts)))
  n <- as.numeric(table(g)); count <- as.numeric(tapply(f$holds, g, sum))
  w <- stat_wilson(count, n, conf_level)
  data.frame(column = name, group = levels(g), n = n, count = count, percent = 100 * count / n, ci_low = 100 * w$low, ci_high = 100 * w$high,
             label = if (is.null(f$group)) name else sprintf("%s, %s", name, levels(g)), stringsAsFactors = FALSE)
}

say_text_quotes <- function(ctx, res) {
  n <- res$number; about <- ctx$reading$extra$about
  where <- some_of(vapply(ctx$columns[ctx$reading$outcome], say_column, ""), 4)
  text <- if (!n$count) sprintf("No answer to %s mentions %s.", where, quoted(about))
    else sprintf("%s of %s answers to %s mention %s: %s (%s).", say_number(n$count), say_number(n$n), where, quoted(about), say_percent(n$estimate),
                 say_interval(n$ci_low, n$ci_high, ctx$conf_level, say_percent))
  groups <- if (length(ctx$reading$by) && n$count) sprintf("By %s: %s.", say_column(ctx$columns[[ctx$reading$by]]),
    some_of(sprintf("%s %s", if (length(ctx$reading$outcome) > 1) res$counts$label else res$counts$group, say_percent(res$counts$percent / 100, 0)), 8))  # nolint: line_length_linter.
  list(headline = text, details = c(groups, "An answer counts where it holds the word in any of its forms; other words for the same thing are not found."),  # nolint: line_length_linter.
       write_up = text)
}

script_text_quotes <- function(ctx, res) {
  by <- ctx$reading$by
  c(sprintf("about <- %s; tables <- list()", as_r_strings(about_stems(ctx))),
    "stems_of <- function(texts) lapply(stringi::stri_extract_all_words(tolower(gsub(\"\\u2019\", \"'\", texts))), function(w) SnowballC::wordStem(sub(\"'s$|'$\", \"\", w), \"english\"))",  # nolint: line_length_linter.
    "wilson <- function(x, n) { z <- qnorm(1 - (1 - conf_level) / 2); p <- x / n; mid <- (p + z^2 / (2 * n)) / (1 + z^2 / n); half <- z / (1 + z^2 / n) * sqrt(p * (1 - p) / n + z^2 / (4 * n^2))",  # nolint: line_length_linter.
    "  list(low = ifelse(x == 0, 0, mid - half), high = ifelse(x == n, 1, mid + half)) }",
    "count_in <- function(texts, group) {",
    "  here <- !is.na(texts) & nzchar(trimws(texts)); holds <- vapply(stems_of(texts[here]), function(w) all(about %in% w), NA)",
    "  g <- droplevels(factor(group[here])); n <- as.vector(table(g)); x <- as.vector(tapply(holds, g, sum)); w <- wilson(x, n)",
    "  data.frame(n = n, count = x, percent = 100 * x / n, ci_low = 100 * w$low, ci_high = 100 * w$high) }",
    if (length(by)) "kept <- kept[!is.na(kept[[by <- " |> paste0(as_r_string(by), "]]), , drop = FALSE]"),
    sprintf("group <- %s", if (length(by)) "as.character(kept[[by]])" else "rep(\"all answers\", nrow(kept))"),
    sprintf("tables$counts <- do.call(rbind, lapply(%s, function(name) count_in(as.character(kept[[name]]), group)))", as_r_strings(ctx$reading$outcome)),  # nolint: line_length_linter.
    if (length(res$tables) > 1) sprintf("tables$quotes <- data.frame(row = %s)  # rows of the file that are quoted", as_r_number(res$tables[[2]]$data$row)),  # nolint: line_length_linter.
    "x <- sum(tables$counts$count); n <- sum(tables$counts$n); w <- wilson(x, n)",
    "numbers <- list(estimate = x / n, ci_low = w$low, ci_high = w$high, conf_level = conf_level, count = x, n = n)")
}
