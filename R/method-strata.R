# Two columns of levels related within the levels of a third.

#' @noRd
method_cochran_mantel_haenszel <- function() {
  new_method(
    id = "cochran_mantel_haenszel", name = "Cochran-Mantel-Haenszel test", tasks = c("relate", "compare", "predict"),
    fits = function(shape) {
      if (length(shape$adjust) != 1 || length(shape$pair_kinds) != 2 || !identical(shape$adjust_levels, TRUE)) return(NULL)
      # (larger tables are tested so where they are said to stand in strata; else a model tells more)
      named <- isTRUE(shape$stratified) || identical(shape$method_asked, "cochran_mantel_haenszel")
      if (!isTRUE(shape$two_by_two) && !(named && all(shape$pair_groups) && all(shape$table_dim %in% 2:12))) return(NULL)
      # a measured covariate is held constant by a model: strata of each of its values would waste rows
      if (isTRUE(shape$adjust_numeric) && !isTRUE(shape$stratified) && !identical(shape$method_asked, "cochran_mantel_haenszel")) return(NULL)
      if (!all(shape$pair_kinds %in% c("category", "yes_no")) && !identical(shape$method_asked, "cochran_mantel_haenszel")) return(NULL)
      new_fit(if (isTRUE(shape$stratified)) 96 else if (shape$task == "predict") 60 else 91,
          sprintf("Two %s are related within the levels of a third.", if (isTRUE(shape$two_by_two)) "two-valued columns" else "columns of levels"))
    },
    compute = compute_mantel_haenszel,
    checks = function(ctx, res) list(check_independent_rows(ctx$unit_values, ctx$unit_name),
        check_same_odds(res$number$breslow_day_p, res$number$strata)) |> compact(),
    second = c("logistic_regression", "multinomial_regression"), figure = function(ctx, res) figure_strata(ctx, res),
    sentences = say_mantel_haenszel, script = script_mantel_haenszel,
    references = c(paste0("Mantel, N., & Haenszel, W. (1959). Statistical aspects of the analysis of data",
        " from retrospective studies of disease. Journal of the National Cancer Institute, 22, 719-748."),
                   paste0("Robins, J., Breslow, N., & Greenland, S. (1986). Estimators of the",
                       " Mantel-Haenszel variance consistent in both sparse data and large-strata",
                       " limiting models. Biometrics, 42, 311-323.")),
    next_steps = function(ctx, res) sprintf("Is %s related to %s?", res$names[1], res$names[2]))
}

#' Counts of two columns within each stratum: rows of the second column, columns of the first
#' @noRd
stratified_counts <- function(ctx, t) {
  strata <- as_group(ctx$frame$data[[ctx$reading$adjust_for[1]]])
  # (as doubles: products of counts leave the range of integers)
  counts <- table(as_group(ctx$frame$data[[t$names[2]]]), as_group(ctx$frame$data[[t$names[1]]]), strata)
  array(as.double(counts), c(rev(dim(t$counts)), nlevels(strata)),
        c(rev(dimnames(t$counts)), list(levels(strata))))
}

#' Tables larger than two by two: no common odds ratio, but one test of any association
#' @noRd
compute_strata_general <- function(ctx, t) {
  counts <- stratified_counts(ctx, t)
  out <- stat_mantel_haenszel_general(counts)
  v <- vapply(seq_len(dim(counts)[3]), function(h) tryCatch(stat_chi_square(drop_empty(matrix(counts[, , h], dim(counts)[1])))$cramers_v,
                                                            upbeatquill_error_data = function(e) NA_real_), 1)
  table <- data.frame(stratum = dimnames(counts)[[3]], n = apply(counts, 3, sum), cramers_v = v, stringsAsFactors = FALSE)
  result(c(test_numbers(out, "generalised chi-square", "", ctx$conf_level), list(new_number("strata", "strata used", out$strata))),
         tables = list(crosstab_table(t$names, t$counts), new_table("strata", sprintf("Association within each %s", ctx$reading$adjust_for[1]), table)),  # nolint: line_length_linter.
         names = t$names, counts = t$counts, stratified = counts, general = TRUE, direction = NA_real_)
}

compute_mantel_haenszel <- function(ctx) {
  t <- table_columns(ctx)
  if (!identical(unname(dim(t$counts)), c(2L, 2L))) return(compute_strata_general(ctx, t))
  stratified <- stratified_counts(ctx, t)
  # (the event, the last level of the first column, comes first there)
  counts <- unname(stratified[, 2:1, , drop = FALSE])
  event <- dimnames(stratified)[[2]]; group <- dimnames(stratified)[[1]]
  out <- stat_mantel_haenszel(counts, ctx$conf_level)
  label <- sprintf("common odds ratio of %s = %s, %s against %s", t$names[1], event[2], group[1], group[2])
  per <- lapply(seq_len(dim(counts)[3]), function(k) stat_two_by_two(counts[, , k], ctx$conf_level))
  table <- data.frame(stratum = dimnames(stratified)[[3]], n = apply(counts, 3, sum),
                      odds_ratio = vapply(per, `[[`, 1, "odds_ratio"), stringsAsFactors = FALSE)
  result(c(test_numbers(out, "chi-square", "", ctx$conf_level),
           list(new_number("estimate", label, out$odds_ratio), new_number("ci_low", "lower limit", out$odds_ratio_low),
               new_number("ci_high", "upper limit", out$odds_ratio_high)),
           effect_numbers(out, list(odds_ratio = label)),
           list(new_number("breslow_day", "Breslow-Day chi-square (Tarone)", out$breslow_day),
               new_number("breslow_day_df", "its degrees of freedom", out$breslow_day_df),
                new_number("breslow_day_p", "its p", out$breslow_day_p), new_number("strata", "strata used", out$strata))),
         tables = list(crosstab_table(t$names, t$counts), new_table("strata",
             sprintf("Odds ratio within each %s", ctx$reading$adjust_for[1]), table)),
         names = t$names, counts = t$counts, stratified = stratified, levels = list(event = event, group = group), direction = -sign(log(out$odds_ratio)))  # nolint: line_length_linter.
}

say_mantel_haenszel <- function(ctx, res) {
  n <- res$number
  a <- say_column(ctx$columns[[res$names[1]]]); b <- say_column(ctx$columns[[res$names[2]]])
  within <- say_column(ctx$columns[[ctx$reading$adjust_for[1]]])
  if (isTRUE(res$general)) return(say_strata_general(ctx, res, a, b, within))
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

say_strata_general <- function(ctx, res, a, b, within) {
  n <- res$number
  related <- if (isTRUE(n$p_value < 1 - ctx$conf_level)) "associated" else "not clearly associated"
  test <- sprintf("chi-square(%s) = %s, %s", say_df(n$df), say_number(n$statistic, 2), say_p(n$p_value))
  list(headline = sprintf("Within levels of %s, %s and %s are %s: %s.", within, a, b, related, test),
       details = c(sprintf("The tables of %s strata are put together; a single odds ratio is told only where both columns have two levels.",
                           say_number(n$strata)), say_rows(ctx)),
       write_up = sprintf("%s and %s were related within %s with the generalised Cochran-Mantel-Haenszel test of general association: %s (N = %s).%s",
                          capital(a), b, within, test, say_number(n$n), write_rows(ctx)))
}

script_strata_general <- function(ctx, res) {
  c(script_table(ctx, res), sprintf("stratum <- droplevels(factor(%s))", script_column(ctx$reading$adjust_for[1])),
    "counts3 <- table(b, a, stratum); n <- as.vector(apply(counts3, 3, sum))",
    paste0("v <- apply(counts3, 3, function(t) { t <- t[rowSums(t) > 0, colSums(t) > 0, drop = FALSE]; if (min(dim(t)) < 2) return(NA); ",
           "sqrt(suppressWarnings(chisq.test(t, correct = FALSE))$statistic[[1]] / sum(t) / (min(dim(t)) - 1)) })"),
    "tables$strata <- data.frame(n = n, cramers_v = as.vector(v))",
    "test <- mantelhaen.test(counts3[, , n > 1, drop = FALSE])",
    paste0("numbers <- list(statistic = test$statistic[[1]], df = test$parameter[[1]], p_value = test$p.value, conf_level = conf_level, ",
           "n = sum(counts3[, , n > 1]), strata = sum(n > 1))"))
}

#' The share of the first column's last level in each group, stratum by stratum
#' @noRd
figure_strata <- function(ctx, res) {
  x <- res$stratified
  event <- dim(x)[2]
  d <- expand.grid(level = dimnames(x)[[1]], group = dimnames(x)[[3]], stringsAsFactors = FALSE)
  total <- as.vector(apply(x, c(1, 3), sum)); hit <- as.vector(x[, event, ])
  d <- d[total > 0, , drop = FALSE]
  w <- stat_wilson(hit[total > 0], total[total > 0], ctx$conf_level)
  d$value <- (hit / total)[total > 0]; d$low <- w$low; d$high <- w$high
  d$level <- factor(d$level, dimnames(x)[[1]]); d$group <- factor(d$group, rev(dimnames(x)[[3]]))
  a <- say_column(ctx$columns[[res$names[1]]]); b <- say_column(ctx$columns[[res$names[2]]])
  within <- say_column(ctx$columns[[ctx$reading$adjust_for[1]]])
  figure_interval_dots("strata", sprintf("%s = %s by %s within %s", capital(a), dimnames(x)[[2]][event], b, within),
                       sprintf("Share of rows with %s Wilson intervals.", say_level(ctx$conf_level)), d, sprintf("Share with %s = %s", a,
                         dimnames(x)[[2]][event]),
                       c("cells <- as.data.frame(table(stratum, b)); cells$value <- as.vector(tapply(a == levels(a)[nlevels(a)], list(stratum, b), mean))",  # nolint: line_length_linter.
                         "w <- Map(function(p, n) if (n > 0) suppressWarnings(prop.test(p * n, n, conf.level = conf_level, correct = FALSE)$conf.int) else c(NA, NA),",  # nolint: line_length_linter.
                         "  cells$value, cells$Freq)",
                         "plot_data <- cbind(cells, ci_low = vapply(w, `[`, 1, 1), ci_high = vapply(w, `[`, 1, 2))"),
                       "value, stratum, colour = b", y = capital(within), legend = capital(b), shares = TRUE)
}

script_mantel_haenszel <- function(ctx, res) {
  if (isTRUE(res$general)) return(script_strata_general(ctx, res))
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
