#' @noRd
method_mann_whitney <- function() {
  new_method(
    id = "mann_whitney", name = "Mann-Whitney test", tasks = "compare", families = "rank_test",
    fits = function(shape) {
      ordered <- identical(shape$outcome_kind, "ordered")
      fits_two_groups(shape, if (ordered || shape$statistic == "median") 95 else 50,
                      if (ordered) paste0("The outcome is an ordered answer and two separate groups are compared, so ",
                                          "ranks are used first.")
        else "You asked for a rank test.", kinds = c("number", "count", "ordered"))
    },
    compute = compute_mann_whitney,
    checks = function(ctx, res) list(check_independent_rows(ctx$unit_values, ctx$unit_name),
                                     check_same_shape(res$values, res$levels)),
    second = c("t_welch", "permutation_means"),
    figure = two_group_figure,
    sentences = say_mann_whitney,
    script = function(ctx, res) c(script_two_groups(ctx), script_mann_whitney(ctx, res), script_groups(ctx)),
    references = c(paste0("Mann, H. B., & Whitney, D. R. (1947). On a test of whether one of two random variables is ",
                          "stochastically larger than the other. Annals of Mathematical Statistics, 18, 50-60."),
                   paste0("Newcombe, R. G. (2006). Confidence intervals for an effect size measure based on the Mann-Whitney statistic. ",
                          "Statistics in Medicine, 25, 559-573."),
                   paste0("Hodges, J. L., & Lehmann, E. L. (1963). Estimates of location based on rank tests. Annals ",
                          "of Mathematical Statistics, 34, 598-611.")),
    next_steps = next_two_groups)
}

compute_mann_whitney <- function(ctx) {
  s <- two_groups(ctx)
  out <- stat_mann_whitney(s$values[[1]], s$values[[2]], ctx$conf_level, ctx$alternative)
  shift <- sprintf("Hodges-Lehmann shift, %s minus %s", s$levels[1], s$levels[2])
  numbers <- c(test_numbers(out, "U of the first group", shift, ctx$conf_level),
               list(new_number("hodges_lehmann", shift, out$estimate),
                    new_number("hodges_lehmann_low", "lower limit", out$ci_low),
                    new_number("hodges_lehmann_high", "upper limit", out$ci_high),
                    new_number("rank_biserial", "rank-biserial correlation", out$rank_biserial)),
               limit_numbers("rank_biserial", "rank-biserial correlation", stat_rank_biserial_limits(s$values[[1]], s$values[[2]], ctx$conf_level)),
               list(new_number("z", "z", out$z)))
  result(numbers, tables = list(groups_table(ctx)), levels = s$levels, values = s$values, exact = out$exact,
         medians = vapply(s$values, function(v) stat_group_quantiles(v, probs = 0.5)[1], 1),
         superiority = out$superiority, ns = lengths(s$values))
}

say_mann_whitney <- function(ctx, res) {
  n <- res$number
  y <- say_column(outcome_column(ctx))
  unit <- outcome_column(ctx)$unit
  sides <- say_sides(ctx, res$levels)
  first <- if (res$superiority >= 0.5) 1 else 2
  share <- max(res$superiority, 1 - res$superiority)
  medians <- with_unit(say_alike(res$medians), unit)
  headline <- if (isTRUE(n$p_value < 1 - ctx$conf_level)) {
    sprintf(paste0("%s tends to be higher in %s than in %s: a random row of %s is higher in %s of pairs (ties counted ",
                   "half), %s."), capital(y), sides[first], sides[3 - first],
            sides[first], say_percent(share, 0), say_p(n$p_value))
  } else {
    sprintf("No clear difference in %s between %s and %s by their ranks: medians %s and %s, %s.", y, sides[1],
            sides[2], medians[1], medians[2], say_p(n$p_value))
  }
  details <- c(sprintf("The shift between the groups is %s (%s, Hodges-Lehmann); rank-biserial correlation %s%s.",
                       with_unit(say_number(n$estimate), unit),
                       say_interval(n$ci_low, n$ci_high, ctx$conf_level), say_unit(n$rank_biserial),
                       say_effect_limits(n, "rank_biserial", ctx$conf_level)),
               if (res$exact) "The p value is exact, ties included." else paste0("The p value comes from the normal ",
                                                                                 "approximation with tie and continuity ",
                                                                                 "correction."), say_rows(ctx))
  write_up <- sprintf(paste0("%s was compared between %s (Mdn = %s, n = %s) and %s (Mdn = %s, n = %s) with the ",
                             "Mann-Whitney test: U = %s, %s, Hodges-Lehmann shift %s, %s; rank-biserial r = %s%s.%s"),
    capital(y), sides[1], medians[1], say_number(res$ns[1]), sides[2], medians[2], say_number(res$ns[2]),
    say_number(n$statistic), say_p(n$p_value), say_number(n$estimate),
    say_interval(n$ci_low, n$ci_high, ctx$conf_level), say_unit(n$rank_biserial),
    say_effect_limits(n, "rank_biserial", ctx$conf_level), write_rows(ctx))
  list(headline = headline, details = details, write_up = write_up)
}

#' Lines that set the rank sum statistic u of x beside y, its z and its p value
#' @noRd
script_rank_sum <- function(ctx, exact) {
  c("ranks <- rank(c(x, y))", "m <- length(x); n <- length(y)", "u <- sum(ranks[seq_len(m)]) - m * (m + 1) / 2",
    "ties <- sum(table(ranks)^3 - table(ranks))",
    "spread <- sqrt(m * n / 12 * ((m + n + 1) - ties / ((m + n) * (m + n - 1))))",
    switch(ctx$alternative, two_sided = "correction <- sign(u - m * n / 2) * 0.5", greater = "correction <- 0.5",
           less = "correction <- -0.5"),
    "z <- (u - m * n / 2 - correction) / spread",
    if (exact) script_exact_ranks(ctx) else switch(ctx$alternative, two_sided = "p <- min(1, 2 * pnorm(-abs(z)))",
                                                       greater = "p <- pnorm(z, lower.tail = FALSE)",
                                                       less = "p <- pnorm(z)"))
}

script_mann_whitney <- function(ctx, res) {
  pairs <- prod(as.numeric(res$ns))
  c(script_rank_sum(ctx, res$exact),
    "numbers <- list(statistic = u, p_value = p, conf_level = conf_level, n = m + n, rank_biserial = 2 * u / (m * n) - 1, z = z)",
    script_rank_biserial_limits(),
    if (pairs <= 2.5e7) c(script_shift("x"),
      paste0("numbers <- c(numbers, list(estimate = shift[1], ci_low = shift[2], ci_high = shift[3], hodges_lehmann = ",
             "shift[1], hodges_lehmann_low = shift[2], hodges_lehmann_high = shift[3]))"))
    else "# not compared: the Hodges-Lehmann shift (a table of all pairs would not fit into memory)")
}

#' Lines that set shift: the Hodges-Lehmann shift of `x` beside y, and its limits
#' @param level R code of the level of the limits.
#' @noRd
script_shift <- function(x, level = "conf_level") {
  c("# Hodges-Lehmann shift: the median of all differences, limits from their order statistics",
    sprintf("differences <- sort(as.vector(outer(%s, y, \"-\"))); m <- length(%s); n <- length(y)", x, x),
    sprintf(paste0("k <- max(1, if (max(m, n) <= 49) qwilcox((1 - %1$s) / 2, m, n) else floor(m * n / 2 - qnorm(1 - (1 - %1$s) / 2) * ",
                   "sqrt(m * n * (m + n + 1) / 12)))"), level),
    "shift <- c(median(differences), differences[k], differences[m * n - k + 1])")
}

script_exact_ranks <- function(ctx) {
  c("# exact distribution of the rank sum given the ties: count the ways to reach every sum",
    "doubled <- round(2 * ranks)",
    "few <- min(m, n)", "ways <- matrix(0, few + 1, sum(sort(doubled, decreasing = TRUE)[seq_len(few)]) + 1)",
    "ways[1, 1] <- 1",
    "width <- ncol(ways)",
    paste0("for (r in doubled) for (k in few:1) if (r < width) ways[k + 1, (r + 1):width] <- ways[k + 1, (r + ",
           "1):width] + ways[k, 1:(width - r)]"),
    "prob <- ways[few + 1, ] / sum(ways[few + 1, ])", "sums <- (seq_len(width) - 1) / 2",
    "values <- if (few == m) sums - m * (m + 1) / 2 else m * n - (sums - n * (n + 1) / 2)",
    "upper <- sum(prob[values >= u - 1e-9]); lower <- sum(prob[values <= u + 1e-9])",
    switch(ctx$alternative, two_sided = "p <- min(1, 2 * min(upper, lower))", greater = "p <- min(1, upper)",
           less = "p <- min(1, lower)"))
}
