# Open answers: the themes that come up and the words that come up most, each with quotes that can be looked up.

text_parts <- function(ctx) {
  name <- outcome_name(ctx)
  texts <- as.character(ctx$frame$data[[name]])
  list(name = name, texts = texts, terms = text_terms(texts, ctx$stop_words))
}

fits_text <- function(shape, score, grouped = 0) {
  open <- shape$outcome_kind == "text" && shape$task %in% c("themes", "frequency", "describe")
  asked <- shape$outcome_kind %in% c("category", "id") && shape$task == "themes"
  if (!(open || asked) || shape$n_outcome < 1 || shape$n_by > grouped) return(NULL)
  new_fit(if (open) score else score - 20, "The column holds open answers, so the words in them are counted.")
}

term_table <- function(p, most = 25) {
  order <- utils::head(order(-p$terms$texts, p$terms$stem, method = "radix"), most)
  w <- p$terms$texts[order]
  data.frame(term = p$terms$shown[order], n = as.numeric(w), percent = 100 * w / length(p$texts), stringsAsFactors = FALSE)
}

#' Quotes of a theme: those that hold most of its words first, short ones before long
#' @noRd
theme_quotes <- function(p, theme, rows, most = 2) {
  hits <- vapply(theme$texts, function(i) sum(theme$terms %in% p$terms$terms[[i]]), 1L)
  best <- theme$texts[order(-hits, nchar(p$texts[theme$texts]), theme$texts)]
  best <- utils::head(best[!duplicated(p$texts[best])], most)
  data.frame(row = as.numeric(rows[best]), quote = substr(p$texts[best], 1, 240), stringsAsFactors = FALSE)
}

#' @noRd
method_text_themes <- function() {
  new_method(
    id = "text_themes", name = "Themes of open answers", tasks = "themes",
    fits = function(shape) fits_text(shape, 80, grouped = 1),
    compute = function(ctx) {
      p <- text_parts(ctx)
      themes <- stat_themes(p$terms)
      if (!length(themes)) stop_data(sprintf("No word of %s comes up in several answers, so there are no themes to tell.",
          quoted(p$name)), todo = "Read the answers, or ask for the commonest words.", class = "no_themes")
      label <- vapply(themes, function(x) paste(utils::head(p$terms$shown[x$terms], 4), collapse = ", "), "")
      table <- data.frame(theme = label, n = as.numeric(vapply(themes, function(x) length(x$texts), 1L)), stringsAsFactors = FALSE)
      table$percent <- 100 * table$n / length(p$texts)
      quotes <- do.call(rbind, Map(function(x, l) cbind(theme = l, theme_quotes(p, x, ctx$frame$rows), stringsAsFactors = FALSE), themes, label))
      covered <- length(unique(unlist(lapply(themes, `[[`, "texts"))))
      divided <- if (length(ctx$reading$by)) themes_by_group(themes, label, as_group(ctx$frame$data[[ctx$reading$by]]))
      result(list(new_number("n", "answers", length(p$texts)), new_number("themes", "themes", length(themes)),
          new_number("covered", "answers that hold a theme", covered)),
             tables = compact(list(new_table("themes", sprintf("Themes of %s", p$name), table),
                 new_table("quotes", "Answers that show them", quotes),
                 if (!is.null(divided)) new_table("themes_by_group", sprintf("Themes by %s", ctx$reading$by), divided))), parts = p, divided = divided, themes = themes, direction = NA_real_)  # nolint: line_length_linter.
    },
    figure = function(ctx, res) if (!is.null(res$divided)) figure_themes_by_group(ctx, res$divided) else
      figure_terms(ctx, res$tables[[1]]$data$theme, res$tables[[1]]$data$n, sprintf("Themes of %s", say_column(outcome_column(ctx)))),
    sentences = function(ctx, res) {
      t <- res$tables[[1]]$data; n <- res$number
      list(headline = sprintf("The answers to %s turn most on: %s.", say_column(outcome_column(ctx)),
          some_of(sprintf("%s (%s)", t$theme, say_percent(t$percent / 100, 0)), 4)),
           details = c(sprintf("%s of %s answers hold at least one of the %s themes; an answer may hold several.",
               say_number(n$covered), say_number(n$n), say_number(n$themes)),
                       say_divided_themes(ctx, res), "Themes are words that come in the same answers; read the quotes before you name them.", say_rows(ctx)),  # nolint: line_length_linter.
           write_up = sprintf("Open answers (n = %s) were grouped by words that occur together; themes: %s.%s",
               say_number(n$n), some_of(sprintf("%s (%s)", t$theme, say_percent(t$percent / 100, 0)), 8), write_rows(ctx)))
    },
    script = function(ctx, res) c(script_text_counts(ctx),
      sprintf("themes <- list(%s)", paste(vapply(res$themes, function(x) as_r_strings(res$parts$terms$stem[x$terms]), ""), collapse = ",\n  ")),
      "# the words of each theme are those the engine found; how many answers hold them is counted again",
      "holds <- lapply(themes, function(s) which(vapply(stems, function(w) any(w %in% s), NA)))",
      "tables$themes <- data.frame(n = lengths(holds), percent = 100 * lengths(holds) / length(texts))",
      sprintf("tables$quotes <- data.frame(row = %s)  # rows of the file that are quoted", as_r_number(res$tables[[2]]$data$row)),
      if (!is.null(res$divided)) c(sprintf("g <- droplevels(factor(%s)); size <- as.vector(table(g))", script_column(ctx$reading$by)),
        "in_group <- vapply(holds, function(i) as.vector(table(g[i])), numeric(nlevels(g)))",
        "tables$themes_by_group <- data.frame(n = as.vector(in_group), answers = rep(size, length(themes)), percent = 100 * as.vector(in_group) / rep(size, length(themes)))"),  # nolint: line_length_linter.
      "numbers <- list(n = length(texts), themes = length(themes), covered = length(unique(unlist(holds))))"),
    references = "Jaccard, P. (1912). The distribution of the flora in the alpine zone. New Phytologist, 11, 37-50.",
    next_steps = function(ctx, res) sprintf("Which words come up most in %s?", outcome_name(ctx)))
}

#' How many answers of each group hold each theme
#' @noRd
themes_by_group <- function(themes, label, group) {
  size <- as.numeric(table(group))
  do.call(rbind, Map(function(x, l) {
    n <- as.numeric(table(group[x$texts]))
    data.frame(theme = l, group = levels(group), n = n, answers = size, percent = 100 * n / size, stringsAsFactors = FALSE)
  }, themes, label)) |> (\(t) { rownames(t) <- NULL; t })()
}

#' The share of each group's answers that hold a theme
#' @noRd
figure_themes_by_group <- function(ctx, divided) {
  by <- ctx$columns[[ctx$reading$by]]
  title <- sprintf("Themes of %s by %s", say_column(outcome_column(ctx)), say_column(by))
  w <- stat_wilson(divided$n, divided$answers, ctx$conf_level)
  d <- data.frame(group = factor(divided$theme, rev(unique(divided$theme))), level = factor(divided$group, unique(divided$group)),
                  value = divided$percent / 100, low = w$low, high = w$high)
  new_figure("terms", title, "dot", subtitle = sprintf("Share of each group's answers that hold a theme, with %s Wilson intervals.", say_level(ctx$conf_level)),  # nolint: line_length_linter.
    alt = sprintf("%s: for each theme a dot with its interval for each group.", title),
    draw = function() draw_interval_dots(d, "Share of answers", legend = capital(column_title(by)), shares = TRUE, wrap = 40),
    script = c(sprintf("plot_data <- cbind(theme = rep(%s, each = nlevels(g)), group = levels(g), tables$themes_by_group)", as_r_strings(unique(divided$theme))),  # nolint: line_length_linter.
               sprintf("plot <- ggplot(plot_data, aes(percent, theme, colour = group)) + geom_point() + labs(title = %s) + theme_minimal()", as_r_string(title))))  # nolint: line_length_linter.
}

#' The themes in which the groups lie farthest apart
#' @noRd
say_divided_themes <- function(ctx, res) {
  t <- res$divided
  if (is.null(t)) return(NULL)
  gap <- tapply(t$percent, factor(t$theme, unique(t$theme)), function(v) max(v) - min(v))
  top <- names(sort(-gap))[seq_len(min(2, length(gap)))]
  said <- vapply(top, function(l) { own <- t[t$theme == l, ]
    sprintf("%s: %s", l, some_of(sprintf("%s %s", own$group, say_percent(own$percent / 100, 0)), 6)) }, "")
  c(sprintf("By %s the themes lie farthest apart in %s.", say_column(ctx$columns[[ctx$reading$by]]), paste(said, collapse = "; ")),
    "Shares of groups are counted, not tested.")
}

#' @noRd
method_text_terms <- function() {
  new_method(
    id = "text_terms", name = "Words of open answers", tasks = "themes",
    fits = function(shape) fits_text(shape, if (isTRUE(shape$words_asked)) 90 else 60),
    compute = function(ctx) {
      p <- text_parts(ctx)
      if (!length(p$terms$stem)) stop_data(sprintf("%s holds no words to count.", quoted(p$name)), class = "no_themes")
      result(list(new_number("n", "answers", length(p$texts)), new_number("terms", "different words", length(p$terms$stem))),
             tables = list(new_table("themes", sprintf("Words of %s, counted once an answer", p$name),
                 term_table(p))), parts = p, direction = NA_real_)
    },
    figure = function(ctx, res) figure_terms(ctx, utils::head(res$tables[[1]]$data$term, 15),
        utils::head(res$tables[[1]]$data$n, 15), sprintf("Commonest words of %s", say_column(outcome_column(ctx)))),
    sentences = function(ctx, res) {
      t <- res$tables[[1]]$data; n <- res$number
      list(headline = sprintf("The commonest words in %s: %s.", say_column(outcome_column(ctx)),
          some_of(sprintf("%s (%s)", t$term, say_number(t$n)), 6)),
           details = c(sprintf("Each word is counted once an answer; %s answers, %s different words.", say_number(n$n),
               say_number(n$terms)), say_rows(ctx)),
           write_up = sprintf("The commonest words in %s answers were %s.%s", say_number(n$n),
               some_of(sprintf("%s (%s)", t$term, say_percent(t$percent / 100, 0)), 10), write_rows(ctx)))
    },
    script = function(ctx, res) c(script_text_counts(ctx), sprintf("terms <- %s",
        as_r_strings(res$parts$terms$stem[match(res$tables[[1]]$data$term, res$parts$terms$shown)])),
      "times <- vapply(terms, function(t) sum(vapply(stems, function(w) t %in% w, NA)), 1)",
      "tables$themes <- data.frame(n = times, percent = 100 * times / length(texts))",
      "numbers <- list(n = length(texts), terms = length(unique(unlist(stems))))"),
    references = character(), next_steps = function(ctx, res) sprintf("What are the themes of %s?", outcome_name(ctx)))
}

#' Stems of every text; stemming and word breaks are those of the packages that know them
#' @noRd
script_text_counts <- function(ctx) {
  c(sprintf("texts <- as.character(%s); tables <- list()", script_column(outcome_name(ctx))),
    sprintf("stop_words <- %s", as_r_strings(ctx$stop_words)),
    "words <- stringi::stri_extract_all_words(tolower(gsub(\"\\u2019\", \"'\", texts)))",
    "words <- lapply(words, function(w) { w <- sub(\"'s$|'$\", \"\", w); w[!is.na(w) & nchar(w) > 2 & !w %in% stop_words & grepl(\"[a-z]\", w)] })",
    "stems <- lapply(words, function(w) unique(SnowballC::wordStem(w, \"english\")))")
}

figure_terms <- function(ctx, terms, n, title) {
  d <- data.frame(term = factor(terms, rev(terms)), n = n)
  new_figure("themes", title, "bar", subtitle = "Number of answers that hold each.", alt = sprintf("%s: a bar for each, longest first.", title),
    draw = function() ggplot2::ggplot(d, ggplot2::aes(x = .data$n, y = .data$term)) + ggplot2::geom_col(fill = quill_colours(1), width = 0.7) +
      ggplot2::geom_text(ggplot2::aes(label = .data$n), hjust = -0.3, size = 3.6,
          colour = quill_ink()) + ggplot2::scale_x_continuous(expand = ggplot2::expansion(c(0, 0.1))) +
      ggplot2::scale_y_discrete(labels = function(x) wrap_level(x, 34)) + ggplot2::labs(x = "Answers", y = NULL),
    script = c(sprintf("plot_data <- data.frame(term = %s, n = utils::head(tables$themes$n, %d))", as_r_strings(as.character(terms)), length(terms)),
               sprintf("plot <- ggplot(plot_data, aes(n, reorder(term, n))) + geom_col() + labs(title = %s) + theme_minimal()", as_r_string(title))))
}
