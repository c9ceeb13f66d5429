#' @noRd
method_spearman <- function() {
  new_method(
    id = "spearman", name = "Spearman rank correlation", tasks = "relate", families = "rank_test",
    fits = function(shape) {
      ordered <- any(shape$pair_kinds == "ordered")
      fits_pair(shape, if (ordered) 95 else 60, c("number", "count", "ordered"),
                if (ordered) "One column is an ordered answer, so ranks are correlated." else "You asked for a rank correlation.")
    },
    compute = function(ctx) {
      p <- pair_values(ctx)
      out <- stat_spearman(p$x, p$y, ctx$conf_level, ctx$alternative)
      result(c(test_numbers(out, "t", "Spearman correlation rho", ctx$conf_level),
               list(new_number("rho", "rho", out$estimate)), own_limits("rho", "rho", out)), tables = list(correlation_table(p$names, out)),
             names = p$names, x = p$x, y = p$y, exact = out$exact)
    },
    checks = function(ctx, res) list(check_independent_rows(ctx$unit_values, ctx$unit_name),
                                     check_influence_pair(stat_midranks(res$x)$rank, stat_midranks(res$y)$rank,
                                                          res$number$estimate)),
    second = c("pearson", "kendall"),
    figure = function(ctx, res) figure_scatter(ctx, res$names[1], res$names[2]),
    sentences = say_spearman, script = script_spearman,
    references = c(paste0("Spearman, C. (1904). The proof and measurement of association between two things. American ",
                          "Journal of Psychology, 15, 72-101."),
                   paste0("Bonett, D. G., & Wright, T. A. (2000). Sample size requirements for estimating Pearson, ",
                          "Kendall and Spearman correlations. Psychometrika, 65, 23-28.")),
    next_steps = function(ctx, res) c("Use Pearson instead", sprintf("Show the distribution of %s", res$names[1])))
}

say_spearman <- function(ctx, res) {
  n <- res$number
  a <- say_column(ctx$columns[[res$names[1]]]); b <- say_column(ctx$columns[[res$names[2]]])
  interval <- say_interval(n$ci_low, n$ci_high, ctx$conf_level, say_unit)
  clear <- isTRUE(n$p_value < 1 - ctx$conf_level)
  headline <- if (clear) sprintf("Where %s ranks higher, %s tends to rank %s: rho = %s (%s), %s.", a, b,
                                 if (n$estimate > 0) "higher" else "lower", say_unit(n$estimate), interval,
                                 say_p(n$p_value))
    else sprintf("No clear monotone relation between %s and %s: rho = %s (%s), %s.", a, b, say_unit(n$estimate),
                 interval, say_p(n$p_value))
  details <- c(sprintf("The size is %s.", say_size(n$estimate, "r")),
               if (res$exact) "The p value is exact, by all orders of the ranks." else paste0("The p value comes from the t ",
                                                                                              "approximation on midranks."), say_rows(ctx))
  write_up <- sprintf("%s and %s were %s, Spearman's rho(%s) = %s, %s, %s.%s", capital(a), b,
                      if (clear) "correlated" else "not clearly correlated", say_number(n$df), say_unit(n$estimate),
                      interval, say_p(n$p_value), write_rows(ctx))
  list(headline = headline, details = details, write_up = write_up)
}

script_spearman <- function(ctx, res) {
  p <- if (res$exact) c(paste0("orders <- function(a, b) if (length(a) == 1) a * b else unlist(lapply(seq_along(b), ",
                               "function(j) a[1] * b[j] + orders(a[-1], b[-j])))"),
    paste0("products <- orders(rx, ry); observed <- sum(rx * ry); middle <- sum(rx) * sum(ry) / n; slack <- 1e-9 * ",
           "max(1, abs(observed))"),
    switch(ctx$alternative, two_sided = "p <- mean(abs(products - middle) >= abs(observed - middle) - slack)",
           greater = "p <- mean(products >= observed - slack)", less = "p <- mean(products <= observed + slack)"))
    else "p <- test$p.value"
  c(script_pair(res), "n <- length(x); rx <- rank(x); ry <- rank(y)",
    sprintf("test <- cor.test(rx, ry, alternative = %s)", script_alternative(ctx)), p, "rho <- test$estimate[[1]]",
    paste0("numbers <- list(statistic = test$statistic, df = test$parameter, p_value = p, estimate = rho, conf_level ",
           "= conf_level, n = n, rho = rho)"),
    script_fisher_z(ctx, "rho", "sqrt((1 + rho^2 / 2) / (n - 3))", "n > 3"),
    script_own_limits("rho"), script_correlations())
}
