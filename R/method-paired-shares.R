# A yes/no asked twice or more of the same units.

#' Units by occasions of a two-valued outcome, as 0 and 1
#' @section Shape: list(values (matrix), levels (occasions), event (level counted)).
#' @noRd
paired_events <- function(ctx) {
  r <- ctx$reading
  if (length(r$outcome) > 1 && !length(r$by)) {
    columns <- lapply(r$outcome, function(name) as_group(ctx$frame$data[[name]]))
    levels <- unique(unlist(lapply(columns, levels)))
    if (length(levels) != 2) stop_data("The columns do not share two levels, so changes between them cannot be counted.", class = "unfit_data")
    values <- vapply(columns, function(v) as.numeric(as.character(v) == last_of(levels)), numeric(length(columns[[1]])))
    return(list(values = values, occasions = r$outcome, event = last_of(levels), wide = TRUE))
  }
  s <- unit_conditions(ctx)
  event <- last_of(outcome_column(ctx)$levels)
  list(values = matrix(as.numeric(s$values == max(s$values)), nrow(s$values)), occasions = s$levels, event = event, wide = FALSE)
}

script_events <- function(ctx, s) {
  if (!s$wide) return(c(script_conditions(ctx), "cells <- (cells == max(cells)) * 1"))
  c(sprintf("cells <- cbind(%s)", paste(sprintf("as.numeric(%s == %s)", vapply(s$occasions, script_text, ""),
      as_r_string(s$event)), collapse = ", ")),
    "tables <- list()")
}

fits_events <- function(shape, score, why, occasions) {
  ok <- isTRUE(shape$paired) && shape$task %in% c("compare", "change") && isTRUE(shape$between == 0) && isTRUE(shape$conditions %in% occasions) &&
    shape$outcome_kind %in% c("yes_no", "category")
  if (ok) new_fit(score, why)
}

occasion_shares <- function(s, conf_level) {
  n <- nrow(s$values); x <- colSums(s$values)
  w <- stat_wilson(x, n, conf_level)
  new_table("counts", sprintf("Share of %s on each occasion", s$event),
            data.frame(occasion = s$occasions, n = n, count = x, percent = 100 * x / n, ci_low = 100 * w$low,
                ci_high = 100 * w$high, stringsAsFactors = FALSE))
}

#' The share on each occasion with its interval
#' @noRd
figure_occasion_shares <- function(ctx, s) {
  n <- nrow(s$values); w <- stat_wilson(colSums(s$values), n, ctx$conf_level)
  said <- vapply(s$occasions, function(o) if (o %in% names(ctx$columns)) say_column(ctx$columns[[o]]) else o, "")
  d <- data.frame(group = factor(said, rev(unique(said))), value = colMeans(s$values), low = w$low, high = w$high)
  figure_interval_dots("shares", sprintf("Share of %s on each occasion", quoted(s$event)),
                       sprintf("The same %s, with %s Wilson intervals.", count_of(n, "unit"), say_level(ctx$conf_level)), d,
                       sprintf("Share of %s", quoted(s$event)), c(
                         "plot_data <- data.frame(occasion = factor(seq_len(ncol(cells))), share = x / n, ci_low = wilson[, 1], ci_high = wilson[, 2])"),  # nolint: line_length_linter.
                       "share, occasion", shares = TRUE, of = "occasion")
}

#' Do enough units change between the occasions for the chi-square distribution to hold?
#'
#' Two occasions have an exact p value below 25 changed units; with more occasions 24 measurements of changing units serve.
#' @section Source: Tate, M. W. and Brown, S. M. (1970). Psychometrika 35, 269-283.
#' @noRd
check_changed_units <- function(changed, occasions = 2L) {
  enough <- if (occasions > 2) changed * occasions >= 24 && changed >= 4 else changed >= 10
  new_check("changed_units", if (enough) "ok" else "caution", "Units that change",
            list(list(id = "changed", label = "units that change", value = changed, of = NULL)), list(changed = changed))
}

script_occasion_shares <- function() {
  c("n <- nrow(cells); x <- colSums(cells)",
    "wilson <- t(vapply(x, function(x) suppressWarnings(prop.test(x, n, conf.level = conf_level, correct = FALSE)$conf.int), numeric(2)))",
    "tables$counts <- data.frame(n = n, count = x, percent = 100 * x / n, ci_low = 100 * wilson[, 1], ci_high = 100 * wilson[, 2])")
}

#' @noRd
method_mcnemar <- function() {
  new_method(
    id = "mcnemar", name = "McNemar test", tasks = c("compare", "change", "relate"),
    fits = function(shape) {
      if (identical(shape$method_asked, "mcnemar") && shape$task == "relate" && isTRUE(shape$two_by_two)) return(new_fit(45, "You asked for it."))
      fits_events(shape, 93, "The same units answer yes or no twice, so those that changed are compared.", 2L)
    },
    compute = function(ctx) {
      ctx$reading <- pair_as_outcomes(ctx$reading)
      s <- paired_events(ctx)
      counts <- table(factor(s$values[, 1], 1:0), factor(s$values[, 2], 1:0))
      out <- stat_mcnemar(matrix(counts, 2), ctx$conf_level)
      label <- sprintf("share of %s, %s minus %s", s$event, s$occasions[1], s$occasions[2])
      result(c(test_numbers(out, "chi-square", label, ctx$conf_level),
               list(new_number("p_exact", "p, exact", out$p_exact), new_number("p_mid", "p, mid-p", out$p_mid),
                   new_number("p_chi_square", "p, chi-square", out$p_chi_square),
                    new_number("changed", "units that changed", out$changed)),
               effect_numbers(out, list(odds_ratio = "odds ratio of the changed pairs"))),
             tables = list(occasion_shares(s, ctx$conf_level), new_table("crosstab", sprintf("%s by %s", s$occasions[1], s$occasions[2]),
               data.frame(first = c(s$event, s$event, "other", "other"), second = c(s$event, "other", s$event, "other"),
                   n = as.vector(t(counts)), stringsAsFactors = FALSE))),
             events = s, counts = matrix(counts, 2))
    },
    checks = function(ctx, res) list(check_changed_units(res$number$changed)),
    figure = function(ctx, res) figure_occasion_shares(ctx, res$events),
    sentences = function(ctx, res) {
      n <- res$number; s <- res$events
      share <- say_percent(colMeans(s$values))
      clear <- isTRUE(n$p_value < 1 - ctx$conf_level)
      interval <- say_interval(n$ci_low, n$ci_high, ctx$conf_level, say_points)
      text <- sprintf("Within the same units, the share of %s %s from %s (%s) to %s (%s): difference %s (%s), %s.", quoted(s$event),
                      if (clear) "changes" else "does not clearly change", share[1], s$occasions[1], share[2], s$occasions[2],
                          say_points(n$estimate), interval, say_p(n$p_value))
      list(headline = text,
           details = c(sprintf("%s units changed: %s only at %s, %s only at %s. The p value is %s; mid-p %s.",
               say_number(n$changed), say_number(res$counts[1, 2]), s$occasions[1],
                               say_number(res$counts[2,
                                   1]), s$occasions[2], if (n$changed < 25) "exact" else "from chi-square", say_p(n$p_mid)), say_rows(ctx)),
           write_up = sprintf(paste0("The share of %s was %s at %s and %s at %s of the same %s units, a",
               " difference of %s, %s; McNemar's test, %s (chi-square(1) = %s, %s discordant pairs).%s"),
                              s$event, share[1], s$occasions[1], share[2], s$occasions[2], say_number(n$n), say_points(n$estimate),
                                  interval, say_p(n$p_value),
                              say_number(n$statistic, 2), say_number(n$changed), write_rows(ctx)))
    },
    script = function(ctx, res) {
      ctx$reading <- pair_as_outcomes(ctx$reading)
      c(script_events(ctx, res$events), script_occasion_shares(),
        "counts <- table(factor(cells[, 1], 1:0), factor(cells[, 2], 1:0)); b <- counts[1, 2]; c2 <- counts[2, 1]; changed <- b + c2",
        "tables$crosstab <- data.frame(n = as.vector(t(counts)))",
        "test <- mcnemar.test(counts, correct = FALSE); exact <- binom.test(b, changed, conf.level = conf_level)",
        "mid <- if (b == c2) 1 - dbinom(b, changed, 0.5) else exact$p.value - dbinom(min(b, c2), changed, 0.5)",
        "share <- exact$conf.int; p <- c(sum(counts[1, ]), sum(counts[, 1])) / n; d <- p[1] - p[2]",
        "low <- p - wilson[, 1]; high <- wilson[, 2] - p; product <- prod(rowSums(counts), colSums(counts))",
        paste0("agree <- counts[1, 1] * counts[2, 2] - b * c2; phi <- if (product == 0) 0 else (if (agree >",
            " 0) max(agree - n / 2, 0) else agree) / sqrt(product)"),
        "numbers <- list(statistic = test$statistic[[1]], df = 1, p_value = if (changed < 25) exact$p.value else test$p.value, estimate = d,",
        paste0("  ci_low = d - sqrt(low[1]^2 - 2 * phi * low[1] * high[2] + high[2]^2), ci_high = d +",
            " sqrt(high[1]^2 - 2 * phi * high[1] * low[2] + low[2]^2),"),
        "  conf_level = conf_level, n = n, p_exact = exact$p.value, p_mid = mid, p_chi_square = test$p.value, changed = changed,",
        "  odds_ratio = b / c2, odds_ratio_low = share[1] / (1 - share[1]), odds_ratio_high = share[2] / (1 - share[2]))")
    },
    references = c(paste0("McNemar, Q. (1947). Note on the sampling error of the difference between",
        " correlated proportions or percentages. Psychometrika, 12, 153-157."),
                   paste0("Newcombe, R. G. (1998). Improved confidence intervals for the difference between",
                       " binomial proportions based on paired data. Statistics in Medicine, 17,",
                       " 2635-2650.")),
    next_steps = function(ctx, res) "What is in this data?")
}

#' Two columns related by name become two occasions of one outcome
#' @noRd
pair_as_outcomes <- function(reading) {
  if (length(reading$outcome) == 1 && length(reading$predictors) == 1 && !length(reading$by)) {
    reading$outcome <- c(reading$outcome, reading$predictors)
    reading$predictors <- character()
  }
  reading
}

#' @noRd
method_cochran_q <- function() {
  new_method(
    id = "cochran_q", name = "Cochran's Q test", tasks = c("compare", "change"),
    fits = function(shape) fits_events(shape, 93, "The same units answer yes or no on more than two occasions.",
                                       if (identical(shape$method_asked, "cochran_q")) 2:60 else 3:60),
    compute = function(ctx) {
      s <- paired_events(ctx)
      out <- stat_cochran_q(s$values)
      numbers <- c(test_numbers(out, "Q", "", ctx$conf_level), list(new_number("kendall_w", "Kendall's W", out$statistic / (out$n * out$df))),
                   limit_numbers("kendall_w", "Kendall's W", stat_chi_share_limits(out$statistic, out$df, out$n * out$df, ctx$conf_level)))
      result(numbers, tables = list(occasion_shares(s, ctx$conf_level)), events = s, direction = NA_real_)
    },
    checks = function(ctx, res) list(check_changed_units(sum(apply(res$events$values, 1, function(v) length(unique(v)) > 1)), ncol(res$events$values))),  # nolint: line_length_linter.
    second = "anova_repeated", figure = function(ctx, res) figure_occasion_shares(ctx, res$events),
    sentences = function(ctx, res) {
      n <- res$number; s <- res$events; share <- colMeans(s$values)
      test <- sprintf("Q(%s) = %s, %s, W = %s%s", say_df(n$df), say_number(n$statistic, 2), say_p(n$p_value), say_unit(n$kendall_w),
                      say_effect_limits(n, "kendall_w", ctx$conf_level))
      text <- sprintf("Within the same units, the share of %s %s over %d occasions: from %s (%s) to %s (%s), %s.", quoted(s$event),
                      if (isTRUE(n$p_value < 1 - ctx$conf_level)) "changes" else "does not clearly change", length(share), say_percent(min(share)),
                      s$occasions[which.min(share)], say_percent(max(share)), s$occasions[which.max(share)], say_p(n$p_value))
      list(headline = text, details = c(sprintf("Cochran's test: %s.", test), say_rows(ctx)),
           write_up = sprintf("The share of %s was compared over %d occasions of the same %s units with Cochran's test: %s.%s",
               s$event, length(share), say_number(n$n), test, write_rows(ctx)))
    },
    script = function(ctx, res) c(script_events(ctx, res$events), script_occasion_shares(),
      "k <- ncol(cells); total <- rowSums(cells)",
      "# Friedman's statistic on 0 and 1, with its correction for ties, is Cochran's Q",
      "test <- friedman.test(unname(cells))",
      "numbers <- list(statistic = test$statistic[[1]], df = test$parameter[[1]], p_value = test$p.value, conf_level = conf_level, n = n)",
      "numbers$kendall_w <- test$statistic[[1]] / (n * (k - 1))",
      script_chi_share_limits("kendall_w", "test$statistic[[1]]", "test$parameter[[1]]", "n * (k - 1)")),
    references = "Cochran, W. G. (1950). The comparison of percentages in matched samples. Biometrika, 37, 256-266.",
    next_steps = function(ctx, res) "What is in this data?")
}
