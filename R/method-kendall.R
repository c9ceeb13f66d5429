#' @noRd
method_kendall <- function() {
  new_method(
    id = "kendall", name = "Kendall rank correlation (tau-b)", tasks = "relate",
    fits = function(shape) fits_pair(shape, 55, c("number", "count", "ordered"), "You asked for Kendall's tau."),
    compute = function(ctx) {
      p <- pair_values(ctx)
      out <- stat_kendall(p$x, p$y, ctx$conf_level, ctx$alternative)
      result(c(test_numbers(out, "z", "Kendall's tau-b", ctx$conf_level),
               list(new_number("tau", "tau-b", out$estimate)), own_limits("tau", "tau-b", out)),
             tables = list(correlation_table(p$names, out)), names = p$names, x = p$x, y = p$y, exact = out$exact)
    },
    checks = function(ctx, res) list(check_independent_rows(ctx$unit_values, ctx$unit_name)),
    second = c("spearman", "pearson"), figure = function(ctx, res) figure_scatter(ctx, res$names[1], res$names[2]),
    sentences = function(ctx, res) say_rank_correlation(ctx, res, "tau", "Kendall's tau-b"),
    script = script_kendall,
    references = "Kendall, M. G. (1945). The treatment of ties in ranking problems. Biometrika, 33, 239-251.",
    next_steps = function(ctx, res) "Use Spearman instead")
}

say_rank_correlation <- function(ctx, res, symbol, name) {
  n <- res$number
  a <- say_column(ctx$columns[[res$names[1]]]); b <- say_column(ctx$columns[[res$names[2]]])
  interval <- say_interval(n$ci_low, n$ci_high, ctx$conf_level, say_unit)
  clear <- isTRUE(n$p_value < 1 - ctx$conf_level)
  headline <- if (clear) sprintf("Where %s ranks higher, %s tends to rank %s: %s = %s (%s), %s.", a, b,
                                 if (n$estimate > 0) "higher" else "lower", symbol, say_unit(n$estimate), interval,
                                 say_p(n$p_value))
    else sprintf("No clear monotone relation between %s and %s: %s = %s (%s), %s.", a, b, symbol, say_unit(n$estimate),
                 interval,
                 say_p(n$p_value))
  list(headline = headline, details = say_rows(ctx),
       write_up = sprintf("%s and %s were %s, %s = %s, %s, %s (n = %s).%s", capital(a), b,
                          if (clear) "correlated" else "not clearly correlated", name, say_unit(n$estimate), interval,
                          say_p(n$p_value), say_number(n$n), write_rows(ctx)))
}

script_kendall <- function(ctx, res) {
  c(script_pair(res), "n <- length(x); tau <- cor(x, y, method = \"kendall\")",
    "tx <- table(x); tx <- as.numeric(tx[tx > 1]); ty <- table(y); ty <- as.numeric(ty[ty > 1]); pairs <- n * (n - 1) / 2",
    "s <- tau * sqrt((pairs - sum(tx * (tx - 1) / 2)) * (pairs - sum(ty * (ty - 1) / 2)))",
    "v <- (n * (n - 1) * (2 * n + 5) - sum(tx * (tx - 1) * (2 * tx + 5)) - sum(ty * (ty - 1) * (2 * ty + 5))) / 18 +",
    paste0("  sum(tx * (tx - 1)) * sum(ty * (ty - 1)) / (2 * n * (n - 1)) + sum(tx * (tx - 1) * (tx - 2)) * sum(ty * ",
           "(ty - 1) * (ty - 2)) / (9 * n * (n - 1) * (n - 2))"),
    "z <- s / sqrt(v)",
    if (res$exact) sprintf("p <- cor.test(x, y, method = \"kendall\", exact = TRUE, alternative = %s)$p.value",
                           script_alternative(ctx))
    else switch(ctx$alternative, two_sided = "p <- 2 * pnorm(-abs(z))", greater = "p <- pnorm(z, lower.tail = FALSE)",
                less = "p <- pnorm(z)"),
    "numbers <- list(statistic = z, p_value = p, estimate = tau, conf_level = conf_level, n = n, tau = tau)",
    script_fisher_z(ctx, "tau", "sqrt(0.437 / (n - 4))", "n > 4"),
    script_own_limits("tau"), script_correlations())
}
