# The shape of one column against the normal distribution.

fits_shape_test <- function(shape, score) {
  ok <- shape$task %in% c("distribution", "describe", "compare", "advise") && shape$n_outcome == 1 && shape$n_by == 0 && is.null(shape$null_value) &&
    shape$outcome_kind %in% c("number", "count", "ordered")
  if (ok) new_fit(score, "The question asks whether the column could come from a normal distribution.")
}

normality_method <- function(id, name, score, run, script, reference, label, extra = function(out) NULL) {
  new_method(
    id = id, name = name, tasks = c("distribution", "describe"),
    fits = function(shape) fits_shape_test(shape, if (isTRUE(shape$normality)) score + 60 else score),
    compute = function(ctx) {
      x <- outcome_values(ctx)
      out <- run(x)
      m <- stat_group_moments(x)
      result(c(test_numbers(out, label, "", ctx$conf_level), extra(out),
               list(new_number("skewness", "skewness", skewness_from_moments(m)[[1]]),
                   new_number("kurtosis", "excess kurtosis", kurtosis_from_moments(m)[[1]]))),
             tables = list(one_column_table(ctx, x)), values = list(x), label = label, direction = NA_real_)
    },
    checks = function(ctx, res) list(check_independent_rows(ctx$unit_values, ctx$unit_name), check_far_values(res$values, outcome_name(ctx))),
    second = setdiff(c("shapiro_wilk", "anderson_darling", "dagostino"), id),
    figure = function(ctx, res) figure_quantiles(ctx, outcome_name(ctx)), sentences = say_normality,
    script = function(ctx, res) c(sprintf("v <- %s; n <- length(v); tables <- list()", script_value(outcome_name(ctx))),
        script_describe_function(), "tables$describe <- describe(v)",
                                  script, "numbers$skewness <- tables$describe$skewness; numbers$kurtosis <- tables$describe$kurtosis"),
    references = reference,
    next_steps = function(ctx, res) c(sprintf("Show the distribution of %s", outcome_name(ctx)), sprintf("Describe %s", outcome_name(ctx))))
}

say_normality <- function(ctx, res) {
  n <- res$number
  y <- say_column(outcome_column(ctx))
  clear <- isTRUE(n$p_value < 1 - ctx$conf_level)
  test <- sprintf("%s = %s, %s", res$label, say_number(n$statistic, 3), say_p(n$p_value))
  degree <- findInterval(abs(n$skewness), c(0.5, 1)) + 1
  size <- if (is.na(n$skewness)) "" else c("The departure is small in size", "The column is moderately skewed",
    "The column is strongly skewed")[degree]
  list(headline = sprintf("%s %s: %s.", capital(y), if (clear) "is not normally distributed" else "is compatible with a normal distribution", test),
       details = c(sprintf("%s (skewness %s, excess kurtosis %s).", size, say_number(n$skewness, 2), say_number(n$kurtosis, 2)),
                   if (n$n > 300) "With so many rows even a harmless departure is found: judge its size in the figure." else if (n$n < 20)
                     "With so few rows only a gross departure can be found.", say_rows(ctx)),
       write_up = sprintf("The normality of %s was examined (%s, n = %s; skewness %s, excess kurtosis %s).%s", y, test,
           say_number(n$n), say_number(n$skewness, 2),
                          say_number(n$kurtosis, 2), write_rows(ctx)))
}

#' @noRd
method_shapiro_wilk <- function() {
  normality_method("shapiro_wilk", "Shapiro-Wilk test of normality", 30, stat_shapiro_wilk,
    c("test <- shapiro.test(v)", "numbers <- list(statistic = test$statistic[[1]], p_value = test$p.value, conf_level = conf_level, n = n)"),
    c("Shapiro, S. S., & Wilk, M. B. (1965). An analysis of variance test for normality. Biometrika, 52, 591-611.",
        "Royston, P. (1995). Remark AS R94. Applied Statistics, 44, 547-551."), "W")
}

#' @noRd
method_anderson_darling <- function() {
  normality_method("anderson_darling", "Anderson-Darling test of normality", 28, stat_anderson_darling,
    c("z <- sort((v - mean(v)) / sd(v)); i <- seq_len(n)",
      paste0("a <- -n - mean((2 * i - 1) * (pnorm(z, log.p = TRUE) + pnorm(rev(z), lower.tail = FALSE,",
          " log.p = TRUE))); adjusted <- a * (1 + 0.75 / n + 2.25 / n^2)"),
      paste0("p <- if (adjusted < 0.2) 1 - exp(-13.436 + 101.14 * adjusted - 223.73 * adjusted^2) else if",
          " (adjusted < 0.34) 1 - exp(-8.318 + 42.796 * adjusted - 59.938 * adjusted^2) else"),
      paste0("  if (adjusted < 0.6) exp(0.9177 - 4.279 * adjusted - 1.38 * adjusted^2) else if (adjusted <",
          " 10) exp(1.2937 - 5.709 * adjusted + 0.0186 * adjusted^2) else 3.7e-24"),
      "numbers <- list(statistic = a, p_value = p, conf_level = conf_level, n = n, adjusted = adjusted)"),
    paste0("Stephens, M. A. (1986). Tests based on EDF statistics. In R. B. D'Agostino & M. A. Stephens",
        " (Eds.), Goodness-of-Fit Techniques. Dekker."), "A squared",
    function(out) list(new_number("adjusted", "A squared adjusted for the sample size", out$adjusted)))
}

#' @noRd
method_dagostino <- function() {
  normality_method("dagostino", "D'Agostino's test of skewness and kurtosis", 26, stat_dagostino,
    c("d <- v - mean(v); m2 <- mean(d^2); skew <- mean(d^3) / m2^1.5; kurt <- mean(d^4) / m2^2; y <- skew * sqrt((n + 1) * (n + 3) / (6 * (n - 2)))",
      paste0("b2 <- 3 * (n^2 + 27 * n - 70) * (n + 1) * (n + 3) / ((n - 2) * (n + 5) * (n + 7) * (n + 9)); w2 <- sqrt(2 * (b2 - 1)) - 1; s <- ",
          "y / sqrt(2 / (w2 - 1)); z1 <- log(s + sqrt(s^2 + 1)) / sqrt(log(w2) / 2)"),
      "k <- (kurt - 3 * (n - 1) / (n + 1)) / sqrt(24 * n * (n - 2) * (n - 3) / ((n + 1)^2 * (n + 3) * (n + 5)))",
      paste0("root <- 6 * (n^2 - 5 * n + 2) / ((n + 7) * (n + 9)) * sqrt(6 * (n + 3) * (n + 5) / (n * (n - 2) * (n - 3))); a <- 6 + 8 / root * ",
          "(2 / root + sqrt(1 + 4 / root^2))"),
      "q <- (1 - 2 / a) / (1 + k * sqrt(2 / (a - 4))); z2 <- (1 - 2 / (9 * a) - sign(q) * abs(q)^(1 / 3)) / sqrt(2 / (9 * a)); k2 <- z1^2 + z2^2",
      paste0("numbers <- list(statistic = k2, df = 2, p_value = pchisq(k2, 2, lower.tail = FALSE), conf_level = conf_level, n = n, z_skewness ",
          "= z1, z_kurtosis = z2)")),
    paste0("D'Agostino, R. B., Belanger, A., & D'Agostino, R. B. Jr. (1990). A suggestion for using powerful and informative tests of ",
        "normality. The American Statistician, 44, 316-321."), "K squared",
    function(out) list(new_number("z_skewness", "z of the skewness", out$z_skewness), new_number("z_kurtosis", "z of the kurtosis", out$z_kurtosis)))
}
