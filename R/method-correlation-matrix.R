# Correlations of several columns, and of one column with all others.

#' @noRd
method_correlation_matrix <- function() {
  new_method(
    id = "correlation_matrix", name = "Correlations of several columns", tasks = "relate",
    fits = function(shape) {
      ok <- shape$task %in% c("relate", "figure", "advise") && length(shape$pair_kinds) >= 3 && !length(shape$adjust) &&
        all(shape$pair_kinds %in% c("number", "count", "ordered"))
      if (ok) new_fit(88, "More than two measured columns are related, pair by pair; p values are adjusted by Holm.")
    },
    compute = function(ctx) {
      names <- unique(c(ctx$reading$outcome, ctx$reading$by, ctx$reading$predictors))
      table <- correlation_pairs(ctx, names, utils::combn(length(names), 2))
      result(list(new_number("n", "rows", ctx$frame$used), new_number("tests", "pairs tested", nrow(table))),
             tables = list(new_table("correlations", "Correlations, strongest first", table)), names = names,
             correlations = table, direction = NA_real_)
    },
    checks = function(ctx, res) list(check_rows_of_pairs(ctx, res), check_independent_rows(ctx$unit_values, ctx$unit_name)),
    figure = function(ctx, res) figure_correlations(ctx, res$names, res$correlations),
    sentences = say_correlations, script = script_correlation_matrix,
    references = c(paste0("Spearman, C. (1904). The proof and measurement of association between two things. American ",
                          "Journal of Psychology, 15, 72-101."),
                   paste0("Holm, S. (1979). A simple sequentially rejective multiple test procedure. Scandinavian ",
                          "Journal of Statistics, 6, 65-70.")),
    next_steps = function(ctx, res) sprintf("What is the correlation between %s and %s?", res$correlations$a[1],
                                            res$correlations$b[1]))
}

#' Would each pair over the rows that both columns have tell another story than the rows complete on all of them?
#'
#' Caution where a correlation moves by more than 0.1 or, clear either way, changes its sign.
#' @noRd
check_rows_of_pairs <- function(ctx, res) {
  if (isTRUE(ctx$reading$extra$each_pair) || ctx$frame$left_out_missing == 0) return(NULL)
  wider <- ctx
  wider$frame <- ctx$frame_without(res$names)
  other <- correlation_pairs(wider, res$names, utils::combn(length(res$names), 2))
  of_pair <- function(t) paste(t$a, t$b, sep = "\r")
  other <- other[match(of_pair(res$correlations), of_pair(other)), ]
  change <- other$estimate - res$correlations$estimate
  worst <- which.max(abs(change))
  if (!length(worst)) return(NULL)
  clear <- function(t) t$p_adjusted < 1 - ctx$conf_level
  turned <- any(sign(other$estimate) != sign(res$correlations$estimate) & clear(other) & clear(res$correlations), na.rm = TRUE)
  new_check("rows_of_pairs", if (turned || abs(change[worst]) > 0.1) "caution" else "ok", "Each pair over the rows that both columns have",
            list(list(id = "largest_change", label = "largest change of a correlation", value = change[worst],
                      of = paste(other$a[worst], "and", other$b[worst]))),
            list(a = other$a[worst], b = other$b[worst], here = res$correlations$estimate[worst], there = other$estimate[worst], n = other$n[worst]))
}

#' Pairs of columns with r (Pearson; Spearman where one is an ordered answer), strongest first
#'
#' Each pair takes the rows in which both have a value; where the frame is complete on all columns, these are all its rows.
#' @noRd
correlation_pairs <- function(ctx, names, pair) {
  values <- lapply(names, function(name) as_plain_number(ctx$frame$data[[name]]))
  ordered <- vapply(names, function(name) ctx$columns[[name]]$kind == "ordered", NA)
  by_rank <- ordered[pair[1, ]] | ordered[pair[2, ]]
  found <- vector("list", ncol(pair))
  if (any(!by_rank)) found[!by_rank] <- stat_pearson_pairs(values, pair[, !by_rank, drop = FALSE], ctx$conf_level)
  rows <- lapply(seq_len(ncol(pair)), function(i) {
    a <- pair[1, i]; b <- pair[2, i]
    ranks <- by_rank[i]
    both <- !is.na(values[[a]]) & !is.na(values[[b]])
    out <- found[[i]]
    if (ranks) out <- tryCatch(stat_spearman(values[[a]][both], values[[b]][both], ctx$conf_level), upbeatquill_error_data = function(e) NULL)
    if (is.null(out)) out <- list(estimate = NA_real_, ci_low = NA_real_, ci_high = NA_real_, n = sum(both),
                                  p_value = NA_real_)
    data.frame(a = names[a], b = names[b], estimate = out$estimate, ci_low = out$ci_low, ci_high = out$ci_high,
               n = out$n,
               p_value = out$p_value, method = if (ranks) "spearman" else "pearson", stringsAsFactors = FALSE)
  })
  table <- do.call(rbind, rows)
  table$p_adjusted <- stats::p.adjust(table$p_value, "holm")
  table <- table[order(-abs(table$estimate)), c("a", "b", "estimate", "ci_low", "ci_high", "n", "p_value", "p_adjusted",
                                                "method")]
  rownames(table) <- NULL
  table
}

say_correlations <- function(ctx, res) {
  t <- res$correlations
  clear <- t[which(t$p_adjusted < 1 - ctx$conf_level), ]
  text <- function(d) sprintf("%s and %s (%s)", d$a, d$b, say_unit(d$estimate))
  headline <- if (nrow(clear)) sprintf("%d of %d pairs %s clearly related, all pairs allowed for; the strongest: %s.",
                                       nrow(clear), nrow(t), plural(nrow(clear), "is", "are"), some_of(text(utils::head(clear, 3)), 3))
    else sprintf("None of %d pairs is clearly related, all pairs allowed for; the strongest: %s.", nrow(t),
                 text(t[1, ]))
  each <- if (isTRUE(ctx$reading$extra$each_pair)) sprintf("Each pair rests on the rows that have both values (%s).",
    if (min(t$n) < max(t$n)) sprintf("%s to %s of them", say_number(min(t$n)), say_number(max(t$n))) else say_number(max(t$n)))
  list(headline = headline, details = c("p values are adjusted by Holm for all pairs shown.", each %||% say_rows(ctx)),
       write_up = paste0(headline, if (is.null(each)) write_rows(ctx) else paste0(" ", each)))
}

script_correlation_matrix <- function(ctx, res) {
  t <- res$correlations
  c(sprintf("values <- list(%s)", paste(sprintf("%s = %s", as_r_string(res$names), vapply(res$names, script_value, "")),
                                        collapse = ",\n  ")),
    sprintf("a <- %s; b <- %s; by_rank <- %s == \"spearman\"", as_r_strings(t$a), as_r_strings(t$b),
            as_r_strings(t$method)),
    "tests <- lapply(seq_along(a), function(i) {",
    "  x <- values[[a[i]]]; y <- values[[b[i]]]; both <- !is.na(x) & !is.na(y); x <- x[both]; y <- y[both]; n <- length(x)",
    "  if (by_rank[i]) { x <- rank(x); y <- rank(y) }",
    "  test <- cor.test(x, y, conf.level = conf_level); r <- test$estimate[[1]]; limits <- c(NA, NA)",
    paste0("  if (n > 3) limits <- tanh(atanh(r) + c(-1, 1) * qnorm(1 - (1 - conf_level) / 2) * sqrt((if (by_rank[i]) ",
           "1 + r^2 / 2 else 1) / (n - 3)))"),
    "  data.frame(estimate = r, ci_low = limits[1], ci_high = limits[2], n = n, p_value = test$p.value)", "})",
    paste0("tables <- list(correlations = do.call(rbind, tests)); tables$correlations$p_adjusted <- ",
           "p.adjust(tables$correlations$p_value, \"holm\")"),
    "numbers <- list(n = nrow(rows), tests = length(a))")
}

#' @noRd
method_association_ranking <- function() {
  new_method(
    id = "association_ranking", name = "Columns ranked by their association with one column",
    tasks = c("relate", "drivers"),
    fits = function(shape) if (shape$task %in% c("drivers", "relate") && shape$n_outcome == 1 &&
                               length(shape$predictor_kinds) >= 2 && isTRUE(shape$ranking)) {
      new_fit(95, paste(paste0("Each column is related to the outcome by itself and ranked; p values are adjusted for ",
                               "the false discovery rate."),
                        "Nothing is selected stepwise."))
    },
    compute = compute_ranking, figure = function(ctx, res) figure_ranking(ctx, res$ranking),
    checks = function(ctx, res) list(check_independent_rows(ctx$unit_values, ctx$unit_name)),
    sentences = say_association_ranking, script = script_ranking,
    references = c(paste0("Benjamini, Y., & Hochberg, Y. (1995). Controlling the false discovery rate. Journal of the ",
                          "Royal Statistical Society B, 57, 289-300.")),
    next_steps = function(ctx, res) c(sprintf("How does %s depend on %s?", outcome_name(ctx),
                                              some_of(utils::head(res$ranking$column, 3), 3)),
                                      sprintf("Is %s related to %s?", outcome_name(ctx), res$ranking$column[1])))
}

#' Association of one column with the outcome, each on its own complete rows
#'
#' Strength is the share of the outcome's spread (or of its ranks) that goes with the column: r squared, or eta squared.
#' @noRd
associate <- function(y, y_kind, x, x_kind) {
  ok <- !is.na(y) & !is.na(x)
  numeric_kind <- function(kind) kind %in% c("number", "count", "ordered")
  if (sum(ok) < 4) return(NULL)
  y <- y[ok]; x <- x[ok]
  out <- tryCatch(
    if (numeric_kind(y_kind) && numeric_kind(x_kind)) associate_numbers(as_plain_number(x), as_plain_number(y),
        y_kind == "ordered" || x_kind == "ordered")
    else if (numeric_kind(y_kind)) associate_groups(as_plain_number(y), as_group(x))
    else if (numeric_kind(x_kind)) associate_groups(as_plain_number(x), as_group(y))
    else associate_tables(as_group(x), as_group(y)), upbeatquill_error_data = function(e) NULL)
  if (is.null(out)) return(NULL)
  c(out, list(n = sum(ok)))
}

associate_numbers <- function(x, y, ranks) {
  out <- if (ranks) stat_spearman(x, y) else stat_pearson(x, y)
  list(measure = if (ranks) "rho" else "r", estimate = out$estimate, strength = out$estimate^2, p_value = out$p_value)
}

associate_groups <- function(y, g) {
  if (nlevels(g) < 2) return(NULL)
  out <- stat_anova_one_way(stat_group_moments(y, as.integer(g), nlevels(g)))
  list(measure = "eta", estimate = sqrt(out$eta_squared), strength = out$eta_squared, p_value = out$p_value)
}

associate_tables <- function(a, b) {
  out <- stat_chi_square(stat_cross_counts(a, b, nlevels(a), nlevels(b)))
  list(measure = "V", estimate = out$cramers_v, strength = out$cramers_v^2, p_value = out$p_value)
}

compute_ranking <- function(ctx) {
  y <- outcome_name(ctx)
  all <- ctx$frame_without(c(y, ctx$reading$predictors))
  rows <- lapply(ctx$reading$predictors, function(name) {
    found <- associate(all$data[[y]], ctx$columns[[y]]$kind, all$data[[name]], ctx$columns[[name]]$kind)
    if (!is.null(found)) data.frame(column = name, measure = found$measure, estimate = found$estimate,
                                    strength = found$strength, n = found$n, p_value = found$p_value,
                                    stringsAsFactors = FALSE)
  })
  table <- do.call(rbind, rows)
  if (is.null(table)) stop_data("No column can be related to the outcome in these rows.", class = "unfit_data")
  table$p_adjusted <- stats::p.adjust(table$p_value, "BH")
  table <- table[order(-table$strength, table$column, method = "radix"), ]
  rownames(table) <- NULL
  result(list(new_number("n", "rows", all$after_filters), new_number("tests", "columns tested", nrow(table))),
         tables = list(new_table("ranking", sprintf("Columns by their association with %s", y), table)),
         ranking = table, direction = NA_real_)
}

say_association_ranking <- function(ctx, res) {
  t <- res$ranking
  clear <- t[which(t$p_adjusted < 1 - ctx$conf_level), ]
  item <- function(d) sprintf("%s (%s = %s)", vapply(ctx$columns[d$column], say_column, ""), d$measure, say_unit(d$estimate))
  y <- say_column(outcome_column(ctx))
  told <- ctx$reading$top$n %||% 3L
  headline <- if (nrow(clear)) sprintf(paste0("%s goes most with %s; %d of %d columns %s clearly related, false ",
                                              "discoveries allowed for."), capital(y),
                                              some_of(item(utils::head(clear, told)), told), nrow(clear), nrow(t), plural(nrow(clear), "is", "are"))
    else sprintf("No column is clearly related to %s once %d tests are allowed for; the strongest is %s.", y, nrow(t),
                 item(t[1, ]))
  list(headline = headline,
       details = paste0("Each column was related to the outcome by itself, on its own complete rows: associations, ",
                        "not causes, and not adjusted for one another."),
       write_up = sprintf(paste0("%d columns were related to %s one at a time (p values adjusted by Benjamini and ",
                                 "Hochberg): %s."), nrow(t), y, some_of(item(utils::head(t, 5)), 5)))
}

script_ranking <- function(ctx, res) {
  y <- outcome_name(ctx)
  kept <- function(text) gsub("rows[[", "kept[[", text, fixed = TRUE)
  value <- function(name) {
    numeric <- ctx$columns[[name]]$kind %in% c("number", "count", "ordered")
    kept(if (numeric) script_value(name) else sprintf("factor(%s)", script_column(name)))
  }
  names <- res$ranking$column
  ordered <- vapply(names, function(name) ctx$columns[[name]]$kind == "ordered" || ctx$columns[[y]]$kind == "ordered",
                    NA)
  c(sprintf("outcome <- %s", value(y)), sprintf("others <- list(%s)",
                                                paste(vapply(names, value, ""), collapse = ",\n  ")),
                                                sprintf("by_rank <- c(%s)", paste(ordered, collapse = ", ")),
    script_relate(),
    "tables <- list(ranking = do.call(rbind, Map(function(x, ranks) relate(outcome, x, ranks), others, by_rank)))",
    "tables$ranking$p_adjusted <- p.adjust(tables$ranking$p_value, \"BH\")",
    "numbers <- list(n = nrow(kept), tests = length(others))")
}

#' The script's own measure of association of two columns
#' @noRd
script_relate <- function() {
  c("relate <- function(y, x, ranks) {", "  ok <- !is.na(y) & !is.na(x); y <- y[ok]; x <- x[ok]; n <- sum(ok)",
    "  if (is.numeric(y) && is.numeric(x)) {",
    "    if (ranks) { x <- rank(x); y <- rank(y) }; r <- cor(x, y); p <- cor.test(x, y)$p.value; strength <- r^2",
    "  } else if (is.numeric(y) || is.numeric(x)) {",
    paste0("    if (!is.numeric(y)) { z <- x; x <- y; y <- z }; a <- anova(lm(y ~ droplevels(x))); strength <- a$`Sum ",
           "Sq`[1] / sum(a$`Sum Sq`); r <- sqrt(strength); p <- a$`Pr(>F)`[1]"),
    "  } else {", paste0("    t <- table(droplevels(x), droplevels(y)); test <- suppressWarnings(chisq.test(t, ",
                         "correct = FALSE)); r <- sqrt(test$statistic[[1]] / (n * (min(dim(t)) - 1))); strength <- ",
                         "r^2; p <- test$p.value"),
    "  }", "  data.frame(estimate = r, strength = strength, n = n, p_value = p)", "}")
}
