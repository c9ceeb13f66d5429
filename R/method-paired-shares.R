# A yes/no asked twice or more of the same units, and a two-by-two table in strata.

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
    checks = function(ctx, res) list(),
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
      result(test_numbers(out, "Q", "", ctx$conf_level), tables = list(occasion_shares(s, ctx$conf_level)), events = s, direction = NA_real_)
    },
    sentences = function(ctx, res) {
      n <- res$number; s <- res$events; share <- colMeans(s$values)
      test <- sprintf("Q(%s) = %s, %s", say_df(n$df), say_number(n$statistic, 2), say_p(n$p_value))
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
      "numbers <- list(statistic = test$statistic[[1]], df = test$parameter[[1]], p_value = test$p.value, conf_level = conf_level, n = n)"),
    references = "Cochran, W. G. (1950). The comparison of percentages in matched samples. Biometrika, 37, 256-266.",
    next_steps = function(ctx, res) "What is in this data?")
}

#' @noRd
method_cochran_mantel_haenszel <- function() {
  new_method(
    id = "cochran_mantel_haenszel", name = "Cochran-Mantel-Haenszel test", tasks = c("relate", "compare", "predict"),
    fits = function(shape) {
      if (length(shape$adjust) != 1 || length(shape$pair_kinds) != 2 || !isTRUE(shape$two_by_two) ||
          !identical(shape$adjust_levels, TRUE)) return(NULL)
      # a measured covariate is held constant by a model: strata of each of its values would waste rows
      if (isTRUE(shape$adjust_numeric) && !isTRUE(shape$stratified) && !identical(shape$method_asked, "cochran_mantel_haenszel")) return(NULL)
      if (!all(shape$pair_kinds %in% c("category", "yes_no")) && !identical(shape$method_asked, "cochran_mantel_haenszel")) return(NULL)
      new_fit(if (isTRUE(shape$stratified)) 96 else if (shape$task == "predict") 60 else 91,
          "Two two-valued columns are related within the levels of a third.")
    },
    compute = compute_mantel_haenszel,
    checks = function(ctx, res) list(check_independent_rows(ctx$unit_values, ctx$unit_name),
        check_same_odds(res$number$breslow_day_p, res$number$strata)),
    sentences = say_mantel_haenszel, script = script_mantel_haenszel,
    references = c(paste0("Mantel, N., & Haenszel, W. (1959). Statistical aspects of the analysis of data",
        " from retrospective studies of disease. Journal of the National Cancer Institute, 22, 719-748."),
                   paste0("Robins, J., Breslow, N., & Greenland, S. (1986). Estimators of the",
                       " Mantel-Haenszel variance consistent in both sparse data and large-strata",
                       " limiting models. Biometrics, 42, 311-323.")),
    next_steps = function(ctx, res) sprintf("Is %s related to %s?", res$names[1], res$names[2]))
}

compute_mantel_haenszel <- function(ctx) {
  t <- table_columns(ctx)
  strata <- as_group(ctx$frame$data[[ctx$reading$adjust_for[1]]])
  event <- as_group(ctx$frame$data[[t$names[1]]]); group <- as_group(ctx$frame$data[[t$names[2]]])
  counts <- array(0, c(2, 2, nlevels(strata)))
  for (k in seq_len(nlevels(strata))) counts[, , k] <- table(group, event)[,
      2:1] * 0 + table(group[as.integer(strata) == k], event[as.integer(strata) == k])[, 2:1]
  out <- stat_mantel_haenszel(counts, ctx$conf_level)
  label <- sprintf("common odds ratio of %s = %s, %s against %s", t$names[1], levels(event)[2], levels(group)[1], levels(group)[2])
  per <- lapply(seq_len(nlevels(strata)), function(k) stat_two_by_two(counts[, , k], ctx$conf_level))
  table <- data.frame(stratum = levels(strata), n = apply(counts, 3, sum), odds_ratio = vapply(per, `[[`, 1, "odds_ratio"), stringsAsFactors = FALSE)
  result(c(test_numbers(out, "chi-square", "", ctx$conf_level),
           list(new_number("estimate", label, out$odds_ratio), new_number("ci_low", "lower limit", out$odds_ratio_low),
               new_number("ci_high", "upper limit", out$odds_ratio_high)),
           effect_numbers(out, list(odds_ratio = label)),
           list(new_number("breslow_day", "Breslow-Day chi-square (Tarone)", out$breslow_day),
               new_number("breslow_day_df", "its degrees of freedom", out$breslow_day_df),
                new_number("breslow_day_p", "its p", out$breslow_day_p), new_number("strata", "strata used", out$strata))),
         tables = list(crosstab_table(t$names, t$counts), new_table("strata",
             sprintf("Odds ratio within each %s", ctx$reading$adjust_for[1]), table)),
         names = t$names, counts = t$counts, levels = list(event = levels(event), group = levels(group)), direction = sign(log(out$odds_ratio)))
}

say_mantel_haenszel <- function(ctx, res) {
  n <- res$number
  a <- say_column(ctx$columns[[res$names[1]]]); b <- say_column(ctx$columns[[res$names[2]]])
  within <- say_column(ctx$columns[[ctx$reading$adjust_for[1]]])
  interval <- say_interval(n$ci_low, n$ci_high, ctx$conf_level, function(v) say_number(v, 2))
  test <- sprintf("chi-square(1) = %s, %s", say_number(n$statistic, 2), say_p(n$p_value))
  text <- sprintf("Within levels of %s, %s and %s are %s: common odds ratio %s (%s), %s.", within, a, b,
                  if (isTRUE(n$p_value < 1 - ctx$conf_level)) "associated" else "not clearly associated", say_number(n$estimate,
                      2), interval, say_p(n$p_value))
  list(headline = text, details = c(sprintf("The odds of %s = %s, %s against %s, combined over %s strata.", a,
      res$levels$event[2], res$levels$group[1], res$levels$group[2],
                                            say_number(n$strata)), say_rows(ctx)),
       write_up = sprintf("%s and %s were related within %s with the Cochran-Mantel-Haenszel test: %s, common odds ratio %s, %s (N = %s).%s",
           capital(a), b, within, test,
                          say_number(n$estimate, 2), interval, say_number(n$n), write_rows(ctx)))
}

script_mantel_haenszel <- function(ctx, res) {
  c(script_table(ctx, res), sprintf("stratum <- droplevels(factor(%s))", script_column(ctx$reading$adjust_for[1])),
    paste0("counts3 <- table(b, a, stratum)[, 2:1, ]; per <- apply(counts3, 3, function(t) { if (any(t ==",
        " 0)) t <- t + 0.5; t[1, 1] * t[2, 2] / (t[1, 2] * t[2, 1]) })"),
    "tables$strata <- data.frame(n = as.vector(apply(counts3, 3, sum)), odds_ratio = as.vector(per))",
    "counts3 <- counts3[, , apply(counts3, 3, sum) > 1, drop = FALSE]",
    "test <- mantelhaen.test(counts3, correct = FALSE, conf.level = conf_level); or <- unname(test$estimate); limits <- test$conf.int",
    "full <- counts3[, , apply(counts3, 3, function(t) all(rowSums(t) > 0, colSums(t) > 0)), drop = FALSE]",
    "# Breslow-Day with Tarone's correction: counts expected under the common odds ratio",
    paste0("e <- apply(full, 3, function(t) { r <- sum(t[1, ]); k <- sum(t[, 1]); n <- sum(t); if (abs(or -",
        " 1) < 1e-12) return(r * k / n); u <- n - r - k + or * (r + k)"),
    "  (u - sqrt(u^2 - 4 * or * (or - 1) * r * k)) / (2 * (or - 1)) })",
    "obs <- full[1, 1, ]; r <- apply(full, 3, function(t) sum(t[1, ])); k <- apply(full, 3, function(t) sum(t[, 1])); n <- apply(full, 3, sum)",
    paste0("v <- 1 / (1 / e + 1 / (r - e) + 1 / (k - e) + 1 / (n - r - k + e)); bd <- sum((obs - e)^2 / v)",
        " - sum(obs - e)^2 / sum(v); bd_df <- length(obs) - 1"),
    paste0("numbers <- list(statistic = test$statistic[[1]], df = 1, p_value = test$p.value, conf_level =",
        " conf_level, n = sum(counts3), estimate = or, ci_low = limits[1], ci_high = limits[2],"),
    paste0("  odds_ratio = or, odds_ratio_low = limits[1], odds_ratio_high = limits[2], breslow_day = bd,",
        " breslow_day_df = bd_df, breslow_day_p = pchisq(bd, bd_df, lower.tail = FALSE),"),
    "  strata = dim(counts3)[3])")
}
