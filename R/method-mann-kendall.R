#' @noRd
method_mann_kendall <- function() {
  new_method(
    id = "mann_kendall", name = "Mann-Kendall test of a trend", tasks = "trend",
    fits = function(shape) if (!is.null(method_linear_trend()$fits(shape))) new_fit(40, "You asked for a test of the trend by ranks."),
    compute = compute_mann_kendall,
    checks = function(ctx, res) c(list(check_rank_inflation(res$number$inflation)), check_known_units(ctx)), second = "linear_trend",
    figure = function(ctx, res) figure_trend(ctx, res), sentences = say_mann_kendall, script = script_mann_kendall,
    references = c("Mann, H. B. (1945). Nonparametric tests against trend. Econometrica, 13, 245-259.",
                   paste0("Sen, P. K. (1968). Estimates of the regression coefficient based on Kendall's tau. Journal of the American Statistical ",
                          "Association, 63, 1379-1389."),
                   paste0("Hamed, K. H., & Rao, A. R. (1998). A modified Mann-Kendall trend test for autocorrelated data. Journal of Hydrology, ",
                          "204, 182-196.")),
    next_steps = function(ctx, res) sprintf("Mean %s by month", outcome_name(ctx)))
}

compute_mann_kendall <- function(ctx) {
  t <- time_values(ctx)
  dated <- inherits(t, "Date")
  order <- order(t)
  t <- t[order]; y <- outcome_values(ctx)[order]
  out <- stat_mann_kendall(as.numeric(t), y, ctx$conf_level)
  per <- if (dated) "day" else ctx$reading$time$column
  sloped <- is.finite(out$estimate)
  keep <- setdiff(names(out), if (!sloped) c("estimate", "ci_low", "ci_high"))
  result(c(test_numbers(out[keep], "z", sprintf("median slope of %s for one %s (Theil and Sen)", outcome_name(ctx), per), ctx$conf_level),
           list(new_number("tau", "Kendall's tau with time", out$tau),
                new_number("inflation", "variance enlarged for autocorrelation, times", out$inflation))),
         when = as.numeric(t), y = y, at = t, dated = dated, direction = sign(out$tau),
         slope = out$slope, intercept = stats::median(y - out$slope * as.numeric(t)))
}

check_rank_inflation <- function(inflation) {
  new_check("rank_inflation", if (inflation < 1.5) "ok" else "caution", "Autocorrelation of the ranks (Hamed and Rao)",
            list(list(id = "inflation", label = "variance enlarged, times", value = inflation, of = NULL)), list(inflation = inflation))
}

say_mann_kendall <- function(ctx, res) {
  n <- res$number
  y <- say_column(outcome_column(ctx))
  test <- sprintf("tau = %s, z = %s, %s", say_unit(n$tau), say_number(n$statistic, 2), say_p(n$p_value))
  clear <- isTRUE(n$p_value < 1 - ctx$conf_level)
  way <- if (!clear) "shows no clear trend" else if (n$tau > 0) "tends to rise" else "tends to fall"
  amount <- if (!is.null(n$estimate) && is.finite(n$ci_low)) {
    change <- say_change(ctx, utils::modifyList(res, list(number = list(se = (n$ci_high - n$ci_low) / 4))))
    sprintf(" by %s (%s)", change$amount, change$interval)
  } else ""
  list(headline = sprintf("%s %s over time%s: %s.", capital(y), way, if (clear) amount else "", test),
       details = c(if (!clear && nzchar(amount)) sprintf("The median slope is%s.", sub("^ by", "", amount)),
                   if (n$inflation > 1) sprintf("The variance of the test is enlarged %s times for values that follow each other.",
                     say_number(n$inflation, 2)), say_rows(ctx)),
       write_up = sprintf("A monotone trend of %s was tested with the Mann-Kendall test, its variance corrected for autocorrelation: %s (n = %s)%s.%s", y,  # nolint: line_length_linter.
                          test, say_number(n$n), if (nzchar(amount)) sprintf("; Theil-Sen slope%s", sub("^ by", "", amount)) else "", write_rows(ctx)))  # nolint: line_length_linter.
}

script_mann_kendall <- function(ctx, res) {
  time <- if (res$dated) sprintf("as.numeric(as.Date(%s, tz = \"UTC\"))", script_column(ctx$reading$time$column)) else
    sprintf("as.numeric(%s)", script_column(ctx$reading$time$column))
  sloped <- !is.null(res$number$estimate)
  c("tables <- list()",
    sprintf("t <- %s; place <- order(t); t <- t[place]; y <- (%s)[place]; n <- length(y)", time, script_value(outcome_name(ctx))),
    if (sloped) c("rise <- outer(y, y, \"-\"); run <- outer(t, t, \"-\"); use <- lower.tri(run) & run != 0",
                  "slopes <- sort(rise[use] / run[use]); slope <- median(slopes)")
    else "slope <- coef(lm(y ~ t))[[2]]",
    "tau <- cor(t, y, method = \"kendall\")",
    "tx <- table(t); ty <- table(y); pairs <- n * (n - 1) / 2; f1 <- function(v) sum(v * (v - 1)); f2 <- function(v) sum(v * (v - 1) * (v - 2)); f5 <- function(v) sum(v * (v - 1) * (2 * v + 5))",  # nolint: line_length_linter.
    "tx <- as.numeric(tx); ty <- as.numeric(ty); s <- tau * sqrt((pairs - f1(tx) / 2) * (pairs - f1(ty) / 2))",
    "v <- (n * (n - 1) * (2 * n + 5) - f5(tx) - f5(ty)) / 18 + f1(tx) * f1(ty) / (2 * n * (n - 1)) + f2(tx) * f2(ty) / (9 * n * (n - 1) * (n - 2))",
    "# neighbours in time that are alike enlarge the variance: autocorrelations of the ranks, up to the first that is not clear",
    "inflation <- 1",
    "if (n >= 10) { r <- rank(y - slope * t); lags <- min(n - 3, max(10, floor(10 * log10(n))))",
    "  rho <- acf(r, lag.max = lags, plot = FALSE)$acf[-1]; clear <- abs(rho) > qnorm(0.975) / sqrt(n)",
    "  upto <- if (all(clear)) lags else which(!clear)[1] - 1; k <- seq_len(upto)",
    "  inflation <- max(1, 1 + 2 / (n * (n - 1) * (n - 2)) * sum((n - k) * (n - k - 1) * (n - k - 2) * rho[k])) }",
    "spread <- sqrt(v * inflation); z <- (s - sign(round(s))) / spread",
    sprintf("numbers <- list(statistic = z, p_value = 2 * pnorm(-abs(z)), %sconf_level = conf_level, n = n, tau = tau, inflation = inflation)",
            if (sloped) "estimate = slope, " else ""),
    if (sloped && is.finite(res$number$ci_low)) c("half <- qnorm(1 - (1 - conf_level) / 2) * spread; m <- length(slopes)",
      "limits <- approx(seq_len(m), slopes, c((m - half) / 2, (m + half) / 2 + 1))$y; numbers$ci_low <- limits[1]; numbers$ci_high <- limits[2]"))
}
