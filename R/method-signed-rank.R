#' @noRd
method_wilcoxon_signed_rank <- function() {
  new_method(
    id = "wilcoxon_signed_rank", name = "Wilcoxon signed-rank test", tasks = c("compare", "change"),
    families = "rank_test",
    fits = function(shape) {
      ordered <- identical(shape$outcome_kind, "ordered")
      if (!is.null(shape$null_value)) return(fits_value(shape, if (ordered) 94 else 50, c("number", "count", "ordered"),
                                                        "Values are compared with a stated one by signed ranks."))
      fits_conditions(shape, if (ordered) 95 else 50,
                      if (ordered) "The same units give an ordered answer twice, so the ranks of their differences are tested."
        else "You asked for a rank test, and the same units are measured twice.", 2L,
        kinds = c("number", "count", "ordered"))
    },
    compute = function(ctx) if (is.null(ctx$reading$extra$null_value)) compute_signed_rank(ctx) else compute_signed_rank_value(ctx),
    checks = function(ctx, res) list(check_symmetric(res$difference %||% res$cells$difference)),
    second = c("t_paired", "sign_test", "t_one_sample"),
    figure = function(ctx, res) if (is.null(res$cells)) figure_histogram(ctx,
        outcome_name(ctx)) else conditions_figure(ctx, res),
    sentences = function(ctx, res) if (is.null(res$cells)) say_one_sample(ctx, res) else say_signed_rank(ctx, res),
    script = function(ctx, res) if (is.null(res$cells)) script_signed_rank_value(ctx, res) else script_signed_rank(ctx,
        res),
    references = c("Wilcoxon, F. (1945). Individual comparisons by ranking methods. Biometrics Bulletin, 1, 80-83.",
                   paste0("Hodges, J. L., & Lehmann, E. L. (1963). Estimates of location based on rank tests. Annals ",
                          "of Mathematical Statistics, 34, 598-611.")),
    next_steps = function(ctx, res) "Use a paired t test")
}

compute_signed_rank <- function(ctx) {
  s <- paired_values(ctx)
  out <- stat_signed_rank(s$difference, ctx$conf_level, ctx$alternative)
  label <- sprintf("pseudo-median of the differences, %s minus %s", s$levels[1], s$levels[2])
  result(c(test_numbers(out, "sum of the positive ranks", label, ctx$conf_level),
           list(new_number("rank_biserial", "matched-pairs rank-biserial correlation", out$rank_biserial)),
           limit_numbers("rank_biserial", "rank-biserial correlation", stat_matched_biserial_limits(out$rank_biserial, out$n - out$zeros,
               ctx$conf_level)),
           list(new_number("z", "z", out$z),
                new_number("zeros", "differences of zero", out$zeros))),
         tables = list(conditions_table(s, ctx)), cells = s, exact = out$exact,
         medians = apply(s$values, 2, stats::median))
}

say_signed_rank <- function(ctx, res) {
  n <- res$number
  s <- res$cells
  unit <- outcome_column(ctx)$unit
  higher <- if (n$rank_biserial >= 0) 1 else 2
  medians <- with_unit(say_alike(res$medians), unit)
  wide <- length(ctx$reading$outcome) > 1
  side <- condition_words(ctx, s)
  what <- say_column(outcome_column(ctx))
  headline <- if (isTRUE(n$p_value < 1 - ctx$conf_level)) sprintf(paste0("Within the same units, %s tends to be ",
      "higher %s %s: medians %s and %s, %s."),
      if (wide) side[higher] else what, if (wide) "than" else sprintf("under %s than under", side[higher]), side[3 - higher], medians[higher],
          medians[3 - higher], say_p(n$p_value))
    else sprintf(paste0("Within the same units, no clear difference %sbetween %s and %s by their ranks: medians ",
                        "%s and %s, %s."), if (wide) "" else sprintf("in %s ", what), side[1], side[2], medians[1], medians[2], say_p(n$p_value))
  shift <- sprintf("The pseudo-median of the differences is %s (%s); rank-biserial correlation %s%s.",
                   with_unit(say_number(n$estimate), unit),
                   say_interval(n$ci_low %||% NA, n$ci_high %||% NA, ctx$conf_level), say_unit(n$rank_biserial), say_effect_limits(n, "rank_biserial",
                                                                                                                       ctx$conf_level))
  how <- if (res$exact) "The p value is exact, ties included; differences of zero are left out." else
      "The p value comes from the normal approximation with tie and continuity correction."
  list(headline = headline, details = c(shift, how, say_units(s, ctx), say_rows(ctx)),
       write_up = sprintf(paste0("%s was compared within units between %s (Mdn = %s) and %s (Mdn = %s) with the ",
                                 "Wilcoxon signed-rank test: V = %s, %s, rank-biserial r = %s%s (n = %s).%s"),
                          capital(outcome_words(ctx)), s$levels[1], medians[1], s$levels[2], medians[2],
                          say_number(n$statistic), say_p(n$p_value), say_unit(n$rank_biserial),
                          say_effect_limits(n, "rank_biserial", ctx$conf_level), say_number(n$n),
                          write_rows(ctx)))
}

script_signed_rank <- function(ctx, res) {
  c(script_conditions(ctx), script_signed_rank_core(ctx, res$exact, nrow(res$cells$values), "cells[, 1] - cells[, 2]"))
}

#' Lines that set shift: the pseudo-median of the differences `d`, and its limits
#' @param level R code of the level of the limits.
#' @noRd
script_pseudo_median <- function(d, level = "conf_level") {
  c("# pseudo-median: the median of all averages of two differences",
    sprintf("averages <- outer(%1$s, %1$s, \"+\") / 2; averages <- sort(averages[upper.tri(averages, diag = TRUE)]); n <- length(%1$s)", d),
    sprintf(paste0("k <- if (n <= 50) qsignrank((1 - %1$s) / 2, n) else floor(n * (n + 1) / 4 - qnorm(1 - (1 - %1$s) / 2) * ",
                   "sqrt(n * (n + 1) * (2 * n + 1) / 24))"), level),
    "shift <- c(median(averages), if (n < 2 || k < 1) c(NA, NA) else averages[c(k, length(averages) - k + 1)])")
}

#' Script lines of the signed-rank test of differences given by an expression
#' @noRd
script_signed_rank_core <- function(ctx, exact, n, differences) {
  p <- if (exact) c("# exact distribution given the ties: every sign equally likely",
                    "doubled <- round(2 * ranks); prob <- 1",
                    "for (r in doubled) prob <- (c(prob, rep(0, r)) + c(rep(0, r), prob)) / 2",
                    "sums <- (seq_along(prob) - 1) / 2",
                    "upper <- sum(prob[sums >= v - 1e-9]); lower <- sum(prob[sums <= v + 1e-9])",
                    switch(ctx$alternative, two_sided = "p <- min(1, 2 * min(upper, lower))",
                           greater = "p <- min(1, upper)",
                           less = "p <- min(1, lower)"))
    else switch(ctx$alternative, two_sided = "p <- min(1, 2 * pnorm(-abs(z)))",
                greater = "p <- pnorm(z, lower.tail = FALSE)",
                less = "p <- pnorm(z)")
  c(sprintf("all <- %s; d <- all[all != 0]; m <- length(d)", differences),
    "ranks <- rank(abs(d)); v <- sum(ranks[d > 0]); ties <- sum(table(ranks)^3 - table(ranks))",
    switch(ctx$alternative, two_sided = "correction <- sign(v - m * (m + 1) / 4) * 0.5", greater = "correction <- 0.5",
           less = "correction <- -0.5"),
    "z <- (v - m * (m + 1) / 4 - correction) / sqrt(m * (m + 1) * (2 * m + 1) / 24 - ties / 48)", p,
    paste0("numbers <- list(statistic = v, p_value = p, conf_level = conf_level, n = length(all), rank_biserial = 2 * ",
           "v / (m * (m + 1) / 2) - 1,"),
    "  z = z, zeros = length(all) - m)", script_matched_biserial_limits(),
    if (n <= 2000) c(script_pseudo_median("all"), "numbers <- c(numbers, list(estimate = shift[1], ci_low = shift[2], ci_high = shift[3]))"))
}
