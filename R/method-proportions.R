# Proportions compared: two groups, several groups, a trend over ordered groups, one share against a value.

#' The two columns of a comparison of shares: a two-valued outcome and what divides the rows
#'
#' @section Shape: list(names = c(event column, group column), event (level), counts (2 x groups: event first), levels, x, n).
#' @noRd
share_columns <- function(ctx) {
  t <- table_columns(ctx)
  two <- which(dim(t$counts) == 2)
  if (!length(two)) stop_data("Shares are compared for an outcome of two levels; none of these columns has two.", class = "unfit_data")
  # the outcome is the column asked about, where it has two levels
  at <- two[1]
  counts <- if (at == 1) t$counts else t(t$counts)
  names <- if (at == 1) t$names else rev(t$names)
  counts <- counts[2:1, , drop = FALSE]
  list(names = names, event = rownames(counts)[1], levels = colnames(counts), x = unname(counts[1, ]), n = unname(colSums(counts)), counts = counts)
}

fits_shares <- function(shape, score, why, groups) {
  if (!shape$task %in% c("relate", "compare", "advise") || length(shape$pair_kinds) != 2 || !all(shape$pair_groups) || length(shape$adjust) ||
      !is.null(shape$null_value) || is.null(shape$table_dim)) return(NULL)
  if (!any(shape$table_dim == 2) || !(max(shape$table_dim) %in% groups)) return(NULL)
  new_fit(score, why)
}

shares_table <- function(s, conf_level) {
  w <- stat_wilson(s$x, s$n, conf_level)
  data <- data.frame(s$levels, s$n, s$x, 100 * s$x / s$n, 100 * w$low, 100 * w$high, stringsAsFactors = FALSE)
  names(data) <- c(if (s$names[2] %in% c("n", "count", "percent", "ci_low", "ci_high")) paste(s$names[2],
      "(column)") else s$names[2], "n", "count", "percent", "ci_low", "ci_high")
  new_table("counts", sprintf("Share of %s = %s by %s", s$names[1], s$event, s$names[2]), data)
}

script_shares <- function(s) {
  c(sprintf("event <- %s == %s", gsub("%", "%%", script_text(s$names[1]), fixed = TRUE), as_r_string(s$event)),
    sprintf("group <- droplevels(factor(%s))", script_column(s$names[2])),
    "x <- as.vector(tapply(event, group, sum)); n <- as.vector(table(group)); share <- x / n; tables <- list()",
    "wilson <- t(mapply(function(x, n) suppressWarnings(prop.test(x, n, conf.level = conf_level, correct = FALSE)$conf.int), x, n))",
    "tables$counts <- data.frame(n = n, count = x, percent = 100 * share, ci_low = 100 * wilson[, 1], ci_high = 100 * wilson[, 2])")
}

script_text <- function(name) sprintf("as.character(%s)", script_column(name))

#' Newcombe's interval of two shares, from their Wilson intervals
#' @noRd
script_newcombe <- function() {
  c("newcombe <- function(i, j) { d <- share[i] - share[j]",
    "  c(d - sqrt((share[i] - wilson[i, 1])^2 + (wilson[j, 2] - share[j])^2), d + sqrt((wilson[i, 2] - share[i])^2 + (share[j] - wilson[j, 1])^2)) }")
}

share_words <- function(ctx, s) sprintf("the share of %s = %s", say_column(ctx$columns[[s$names[1]]]), s$event)

#' @noRd
method_proportions_two <- function() {
  new_method(
    id = "proportions_two", name = "Comparison of two proportions", tasks = c("relate", "compare"),
    fits = function(shape) fits_shares(shape, 48, "Two shares are compared, as you asked.", 2L),
    compute = function(ctx) {
      s <- share_columns(ctx)
      out <- stat_proportions_two(s$x, s$n, ctx$conf_level, ctx$alternative)
      label <- sprintf("difference of the shares of %s = %s, %s minus %s", s$names[1], s$event, s$levels[1], s$levels[2])
      result(c(test_numbers(out, "z", label, ctx$conf_level), list(new_number("chi_square", "chi-square (z squared)", out$statistic^2)),
               effect_numbers(out$effects, list(risk_difference = label, risk_ratio = "ratio of the shares", odds_ratio = "odds ratio")),
               list(new_number("number_needed", "number needed for one more event", 1 / abs(out$estimate)))),
             tables = list(shares_table(s, ctx$conf_level)), shares = s, names = s$names, counts = s$counts)
    },
    checks = function(ctx, res) list(check_independent_rows(ctx$unit_values, ctx$unit_name),
                                     check_expected_counts(outer(rowSums(res$counts), colSums(res$counts)) / sum(res$counts))),
    second = c("fisher_exact", "chi_square_independence"),
    figure = function(ctx, res) figure_shares(ctx, res$names[1], res$names[2], res$counts[2:1, , drop = FALSE]),
    sentences = say_proportions_two, script = script_proportions_two,
    references = paste0("Newcombe, R. G. (1998). Interval estimation for the difference between independent",
        " proportions. Statistics in Medicine, 17, 873-890."),
    next_steps = function(ctx, res) c("Use Fisher's exact test", sprintf("Cross-tabulate %s by %s", res$names[1], res$names[2])))
}

say_proportions_two <- function(ctx, res) {
  n <- res$number; s <- res$shares
  share <- say_percent(s$x / s$n)
  sides <- say_sides(ctx, s$levels)
  interval <- say_interval(n$ci_low, n$ci_high, ctx$conf_level, say_points)
  clear <- isTRUE(n$p_value < 1 - ctx$conf_level)
  headline <- sprintf("%s is %s in %s and %s in %s: %s %s (%s), %s.", capital(share_words(ctx, s)), share[1], sides[1], share[2], sides[2],
                      if (clear) "a difference of" else "no clear difference,", say_points(n$estimate), interval, say_p(n$p_value))
  if (identical(ctx$reading$extra$effect, "number_needed")) headline <- paste(say_number_needed(n, s, ctx), headline)
  list(headline = headline,
       details = c(sprintf("One more event for every %s rows; ratio of the shares %s, odds ratio %s.",
           say_number(n$number_needed), say_number(n$risk_ratio, 2),
                           say_number(n$odds_ratio, 2)), say_rows(ctx)),
       write_up = sprintf("%s was %s (%s of %s) in %s and %s (%s of %s) in %s, a difference of %s, %s, z = %s, %s.%s",
           capital(share_words(ctx, s)), share[1],
                          say_number(s$x[1]), say_number(s$n[1]), sides[1], share[2], say_number(s$x[2]), say_number(s$n[2]), sides[2],
                          say_points(n$estimate), interval, say_number(n$statistic, 2), say_p(n$p_value), write_rows(ctx)))
}

script_proportions_two <- function(ctx, res) {
  c(script_shares(res$shares), script_newcombe(),
    sprintf("test <- suppressWarnings(prop.test(x, n, correct = FALSE, alternative = %s, conf.level = conf_level))", script_alternative(ctx)),
    "d <- share[1] - share[2]; z <- sign(d) * sqrt(test$statistic[[1]]); limits <- newcombe(1, 2); q <- qnorm(1 - (1 - conf_level) / 2)",
    "cells <- cbind(x, n - x); if (any(cells == 0)) cells <- cells + 0.5; total <- rowSums(cells)",
    "rr <- (cells[1, 1] / total[1]) / (cells[2, 1] / total[2]); rr_se <- sqrt(1 / cells[1, 1] - 1 / total[1] + 1 / cells[2, 1] - 1 / total[2])",
    "or <- cells[1, 1] * cells[2, 2] / (cells[1, 2] * cells[2, 1]); or_se <- sqrt(sum(1 / cells))",
    paste0("numbers <- list(statistic = z, p_value = test$p.value, estimate = d, ci_low = limits[1],",
        " ci_high = limits[2], conf_level = conf_level, n = sum(n),"),
    "  chi_square = test$statistic[[1]], risk_difference = d, risk_difference_low = limits[1], risk_difference_high = limits[2],",
    "  risk_ratio = rr, risk_ratio_low = rr * exp(-q * rr_se), risk_ratio_high = rr * exp(q * rr_se),",
    "  odds_ratio = or, odds_ratio_low = or * exp(-q * or_se), odds_ratio_high = or * exp(q * or_se), number_needed = 1 / abs(d))")
}

#' @noRd
method_proportions_many <- function() {
  new_method(
    id = "proportions_many", name = "Comparison of several proportions", tasks = c("relate", "compare"),
    fits = function(shape) fits_shares(shape, 47, "The shares of several groups are compared, as you asked.", 2:60),
    compute = function(ctx) {
      s <- share_columns(ctx)
      out <- stat_proportions_many(s$x, s$n, ctx$conf_level)
      pairs <- data.frame(level_a = s$levels[out$pairs$a], level_b = s$levels[out$pairs$b], out$pairs[-(1:2)], stringsAsFactors = FALSE)
      result(c(test_numbers(out, "chi-square", "", ctx$conf_level),
          list(new_number("estimate", "largest difference of shares", max(s$x / s$n) - min(s$x / s$n)))),
             tables = list(shares_table(s, ctx$conf_level), new_table("pairs", "Pairs of groups (Newcombe intervals, Holm)", pairs)),
             shares = s, names = s$names, counts = s$counts, direction = NA_real_)
    },
    checks = function(ctx, res) list(check_independent_rows(ctx$unit_values, ctx$unit_name),
                                     check_expected_counts(outer(rowSums(res$counts), colSums(res$counts)) / sum(res$counts))),
    second = "fisher_exact",
    figure = function(ctx, res) figure_shares(ctx, res$names[1], res$names[2], res$counts[2:1, , drop = FALSE]),
    sentences = function(ctx, res) {
      n <- res$number; s <- res$shares; share <- s$x / s$n
      high <- which.max(share); low <- which.min(share)
      test <- sprintf("chi-square(%s) = %s, %s", say_df(n$df), say_number(n$statistic, 2), say_p(n$p_value))
      text <- sprintf("%s %s over the groups: from %s (%s) to %s (%s), %s.", capital(share_words(ctx, s)),
                      if (isTRUE(n$p_value < 1 - ctx$conf_level)) "differs" else "does not clearly differ", say_percent(share[low]), s$levels[low],
                      say_percent(share[high]), s$levels[high], say_p(n$p_value))
      list(headline = text, details = c(sprintf("Test of equal shares: %s.", test), say_rows(ctx)),
           write_up = sprintf("%s was compared between %s groups: %s (N = %s).%s", capital(share_words(ctx, s)),
               length(share), test, say_number(n$n), write_rows(ctx)))
    },
    script = function(ctx, res) c(script_shares(res$shares), script_newcombe(),
      "test <- suppressWarnings(prop.test(x, n, correct = FALSE)); pair <- combn(length(x), 2)",
      paste0("one <- function(i) if (sum(x[pair[, i]]) %in% c(0, sum(n[pair[, i]]))) c(0, NA, NA, NA) else",
          " c(share[pair[1, i]] - share[pair[2, i]], newcombe(pair[1, i], pair[2, i]),"),
      "  suppressWarnings(prop.test(x[pair[, i]], n[pair[, i]], correct = FALSE)$p.value))",
      "tests <- t(vapply(seq_len(ncol(pair)), one, numeric(4)))",
      paste0("tables$pairs <- data.frame(estimate = tests[, 1], ci_low = tests[, 2], ci_high = tests[, 3],",
          " p_value = tests[, 4], p_adjusted = p.adjust(tests[, 4], \"holm\"))"),
      "pooled <- sum(x) / sum(n); statistic <- sum((x - n * pooled)^2 / (n * pooled * (1 - pooled))); df <- length(x) - 1",
      paste0("numbers <- list(statistic = statistic, df = df, p_value = pchisq(statistic, df, lower.tail =",
          " FALSE), conf_level = conf_level, n = sum(n), estimate = max(share) - min(share))")),
    references = "Fleiss, J. L., Levin, B., & Paik, M. C. (2003). Statistical Methods for Rates and Proportions (3rd ed.). Wiley.",
    next_steps = function(ctx, res) sprintf("Cross-tabulate %s by %s", res$names[1], res$names[2]))
}

#' @noRd
method_trend_proportions <- function() {
  new_method(
    id = "trend_proportions", name = "Cochran-Armitage test of a trend in proportions", tasks = c("relate", "compare", "trend"),
    fits = function(shape) {
      ordered <- any(shape$pair_kinds == "ordered") || any(shape$pair_kinds %in% c("number", "count"))
      fit <- fits_shares(shape, 46 + 50 * (isTRUE(shape$trend_words) && any(shape$pair_kinds == "ordered") &&
          any(shape$pair_kinds == "yes_no")), "The share of a two-valued outcome is followed over ordered groups.", 3:30)
      # asked for by name, a measured column gives its values as scores
      named <- identical(shape$method_asked, "trend_proportions")
      if (named && is.null(fit) && length(shape$pair_kinds) == 2 && any(shape$pair_kinds == "yes_no") && ordered && !length(shape$adjust)) {
        fit <- new_fit(46, "You asked for the trend of a share over the values of a column.")
      }
      if (ordered || named) fit
    },
    compute = function(ctx) {
      s <- share_columns(ctx)
      scores <- suppressWarnings(as.numeric(s$levels))
      if (anyNA(scores)) scores <- seq_along(s$levels)
      out <- stat_trend_proportions(s$x, s$n, scores, ctx$conf_level)
      result(test_numbers(c(out, list(estimate = out$slope)), "chi-square for trend", "change of the share for one step", ctx$conf_level),
             tables = list(shares_table(s, ctx$conf_level)), shares = s, scores = scores, names = s$names, counts = s$counts)
    },
    checks = function(ctx, res) list(check_independent_rows(ctx$unit_values, ctx$unit_name)),
    second = "chi_square_independence",
    figure = function(ctx, res) figure_shares(ctx, res$names[1], res$names[2], res$counts[2:1, , drop = FALSE]),
    sentences = function(ctx, res) {
      n <- res$number; s <- res$shares
      test <- sprintf("chi-square(1) = %s, %s", say_number(n$statistic, 2), say_p(n$p_value))
      way <- if (!isTRUE(n$p_value < 1 - ctx$conf_level)) "shows no clear trend" else if (n$estimate > 0) "rises" else "falls"
      list(headline = sprintf("%s %s over %s: by %s for each step (%s), %s.", capital(share_words(ctx, s)), way,
                              say_column(ctx$columns[[s$names[2]]]), say_points(n$estimate),
                              say_interval(n$ci_low, n$ci_high, ctx$conf_level, say_points), say_p(n$p_value)),
           details = c(sprintf("The groups are placed at %s.", some_of(say_number(res$scores), 8)), say_rows(ctx)),
           write_up = sprintf("The trend of %s over %s was tested with the Cochran-Armitage test: %s (N = %s).%s", share_words(ctx, s),
                              say_column(ctx$columns[[s$names[2]]]), test, say_number(n$n), write_rows(ctx)))
    },
    script = function(ctx, res) c(script_shares(res$shares), sprintf("scores <- %s", as_r_number(res$scores)),
      "test <- suppressWarnings(prop.trend.test(x, n, scores)); slope <- coef(lm(share ~ scores, weights = n))[[2]]",
      "away <- scores - weighted.mean(scores, n); line <- sum(x) / sum(n) + slope * away; se <- sqrt(sum((x * (1 - line)^2 + (n - x) * line^2) * away^2) * sum(n) / (sum(n) - 2)) / sum(n * away^2); half <- qnorm(1 - (1 - conf_level) / 2) * se",  # nolint: line_length_linter.
      paste0("numbers <- list(statistic = test$statistic[[1]], df = test$parameter[[1]], p_value =",
          " test$p.value, conf_level = conf_level, n = sum(n), estimate = slope, se = se, ci_low = slope - half, ci_high = slope + half)")),
    references = c("Cochran, W. G. (1954). Some methods for strengthening the common chi-square tests. Biometrics, 10, 417-451.",
                   "Armitage, P. (1955). Tests for linear trends in proportions and frequencies. Biometrics, 11, 375-386."),
    next_steps = function(ctx, res) sprintf("Cross-tabulate %s by %s", res$names[1], res$names[2]))
}

#' @noRd
method_proportion_one <- function() {
  new_method(
    id = "proportion_one", name = "One proportion against a value (score test)", tasks = c("compare", "frequency"),
    fits = function(shape) {
      fit <- method_binomial_exact()$fits(shape)
      if (!is.null(fit)) new_fit(50, "A share is compared with a stated value by the score test, as you asked.")
    },
    compute = function(ctx) {
      b <- compute_binomial(ctx)
      out <- stat_proportion_one(b$number$count, b$number$n, b$number$null_value, ctx$conf_level, ctx$alternative)
      result(c(test_numbers(out, "z", "share", ctx$conf_level), list(new_number("count", "rows that meet the condition", b$number$count),
               new_number("null_value", "share under the null hypothesis", b$number$null_value))),
             event = b$event, counts = b$counts, levels = b$levels, direction = b$direction)
    },
    checks = function(ctx, res) list(check_independent_rows(ctx$unit_values, ctx$unit_name)),
    second = "binomial_exact", figure = function(ctx, res) figure_counts(ctx, outcome_name(ctx), res$counts, res$levels),
    sentences = function(ctx, res) {
      n <- res$number
      interval <- say_interval(n$ci_low, n$ci_high, ctx$conf_level, say_percent)
      text <- sprintf("The share of rows where %s is %s (%s), %s %s: z = %s, %s.", plain_filter(res$event), say_percent(n$estimate), interval,
                      if (isTRUE(n$p_value < 1 - ctx$conf_level)) "different from" else "not clearly different from", say_percent(n$null_value),
                      say_number(n$statistic, 2), say_p(n$p_value))
      list(headline = text, details = say_rows(ctx), write_up = paste0(text, write_rows(ctx)))
    },
    script = function(ctx, res) c("tables <- list(); keep <- rep(TRUE, nrow(rows))",
        script_filter(res$event, ctx$columns[[res$event$column]], "rows"),
      "x <- sum(keep); n <- nrow(rows)", sprintf("null <- %s", as_r_number(ctx$reading$extra$null_value)),
      sprintf("test <- suppressWarnings(prop.test(x, n, null, alternative = %s, correct = FALSE))", script_alternative(ctx)),
      "interval <- suppressWarnings(prop.test(x, n, conf.level = conf_level, correct = FALSE)$conf.int)",
      paste0("numbers <- list(statistic = sign(x / n - null) * sqrt(test$statistic[[1]]), p_value =",
          " test$p.value, estimate = x / n, ci_low = interval[1], ci_high = interval[2],"),
      "  conf_level = conf_level, n = n, count = x, null_value = null)"),
    references = paste0("Wilson, E. B. (1927). Probable inference, the law of succession, and statistical",
        " inference. Journal of the American Statistical Association, 22, 209-212."),
    next_steps = function(ctx, res) sprintf("How many rows are there for each %s?", outcome_name(ctx)))
}

#' The number needed to treat with its interval; none where the difference may be zero
#' @section Source: Altman, D. G. (1998). BMJ 317, 1309-1312.
#' @noRd
say_number_needed <- function(n, s, ctx) {
  fewer <- if (n$estimate < 0) 1 else 2
  finite <- n$ci_low * n$ci_high > 0
  limits <- sort(1 / abs(c(n$ci_low, n$ci_high)))
  # what a treatment brings about is counted for the group named first; what it prevents, for the other
  sprintf("One more row with %s = %s for every %s in %s rather than %s (%s).", say_column(ctx$columns[[s$names[1]]]), s$event,
          say_number(n$number_needed), s$levels[3 - fewer], s$levels[fewer],
          if (finite) say_interval(limits[1], limits[2], ctx$conf_level) else "no interval: the difference may be zero")
}
