#' @noRd
method_pearson <- function() {
  new_method(
    id = "pearson", name = "Pearson correlation", tasks = "relate",
    fits = function(shape) fits_pair(shape, 90, c("number", "count"),
                                     "Both columns are numbers, so the straight-line (Pearson) correlation is used."),
    compute = compute_pearson,
    checks = function(ctx, res) list(check_independent_rows(ctx$unit_values, ctx$unit_name), check_linear(res$x, res$y),
                                     check_influence_pair(res$x, res$y, res$number$estimate),
                                     check_residual_spread(cbind(1, res$x - mean(res$x)),
                                                           res$y - res$number$intercept - res$number$slope * res$x)),
    second = c("spearman", "kendall", "distance_correlation"),
    figure = function(ctx, res) figure_scatter(ctx, res$names[1], res$names[2]),
    sentences = say_pearson, script = script_pearson,
    references = paste0("Fisher, R. A. (1921). On the 'probable error' of a coefficient of correlation deduced from a ",
                        "small sample. Metron, 1, 3-32."),
    next_steps = function(ctx, res) c("Use Spearman instead", sprintf("Predict %s from %s", res$names[2], res$names[1]),
                                      sprintf("Show the distribution of %s", res$names[1])))
}

#' Two columns whose kinds are among those wanted
#' @noRd
fits_pair <- function(shape, score, kinds, why) {
  ok <- shape$task %in% c("relate", "figure", "advise") && length(shape$pair_kinds) == 2 && !length(shape$adjust) &&
    all(shape$pair_kinds %in% c("number", "count", "ordered"))
  if (!ok) return(NULL)
  new_fit(if (all(shape$pair_kinds %in% kinds)) score else score - 50, why)
}

#' Names and values of the two columns: the one to be explained second, as it is drawn
#' @noRd
pair_values <- function(ctx) {
  names <- unique(c(ctx$reading$outcome, ctx$reading$by, ctx$reading$predictors))[1:2]
  # "does gain depend on the first weight": what depends comes second
  if (isTRUE(ctx$reading$extra$depends)) names <- rev(names)
  list(names = names, x = as_plain_number(ctx$frame$data[[names[1]]]), y = as_plain_number(ctx$frame$data[[names[2]]]))
}

compute_pearson <- function(ctx) {
  p <- pair_values(ctx)
  out <- stat_pearson(p$x, p$y, ctx$conf_level, ctx$alternative)
  result(c(test_numbers(out, "t", "Pearson correlation r", ctx$conf_level),
           list(new_number("r", "r", out$estimate)), own_limits("r", "r", out), list(new_number("r_squared", "share of spread in common, r squared",
                                                       out$estimate^2),
           new_number("slope", sprintf("change in %s for one more %s", p$names[2], p$names[1]), out$slope),
           new_number("intercept", "intercept", out$intercept))),
         tables = list(correlation_table(p$names, out)), names = p$names, x = p$x, y = p$y)
}

correlation_table <- function(names, out) {
  new_table("correlations", "Correlation", data.frame(a = names[1], b = names[2], estimate = out$estimate, n = out$n,
                                                      p_value = out$p_value, p_adjusted = out$p_value))
}

say_pearson <- function(ctx, res) {
  n <- res$number
  a <- say_column(ctx$columns[[res$names[1]]]); b <- say_column(ctx$columns[[res$names[2]]])
  interval <- say_interval(n$ci_low, n$ci_high, ctx$conf_level, say_unit)
  headline <- if (isTRUE(n$p_value < 1 - ctx$conf_level)) sprintf(paste0("Where %s is higher, %s tends to be %s: r = ",
                                                                         "%s (%s), %s."), a, b,
                                                                         if (n$estimate > 0) "higher" else "lower",
                                                                         say_unit(n$estimate), interval,
                                                                         say_p(n$p_value))
    else sprintf("No clear straight-line relation between %s and %s: r = %s (%s), %s.", a, b, say_unit(n$estimate),
                 interval, say_p(n$p_value))
  details <- c(sprintf("The size is %s; %s of the spread is shared.", say_size(n$estimate, "r"),
                       say_percent(n$r_squared, 0)), sprintf("On the least-squares line, %s changes by %s for each further %s of %s.", b,
                       with_unit(say_number(n$slope), ctx$columns[[res$names[2]]]$unit),
                       one_unit(ctx$columns[[res$names[1]]]), a), say_rows(ctx))
  write_up <- sprintf("%s and %s were %s, r(%s) = %s, %s, %s.%s", capital(a), b,
                      if (isTRUE(n$p_value < 1 - ctx$conf_level)) "correlated" else "not clearly correlated",
                      say_number(n$df),
                      say_unit(n$estimate), interval, say_p(n$p_value), write_rows(ctx))
  list(headline = headline, details = details, write_up = write_up)
}

one_unit <- function(col) {
  if (is.null(col$unit)) return("unit")
  if (col$unit == "%") return("percentage point")
  # "for each further month"
  plural <- "^(year|month|week|day|hour|minute|second|night|mile|point|time|degree|litre|liter|standard deviation)s$"
  if (grepl(plural, col$unit)) sub("s$", "", col$unit) else col$unit
}

script_pair <- function(res) c(sprintf("x <- %s", script_value(res$names[1])),
                               sprintf("y <- %s", script_value(res$names[2])), "tables <- list()")

script_pearson <- function(ctx, res) {
  c(script_pair(res), sprintf("test <- cor.test(x, y, conf.level = conf_level, alternative = %s)",
                              script_alternative(ctx)), "line <- coef(lm(y ~ x))",
    "if (1 - abs(test$estimate) < 1e-14) {  # points on a line: what is left of 1 is rounding",
    sprintf("  test$estimate <- sign(test$estimate); test$statistic <- test$estimate * Inf; test$p.value <- %s }",
            switch(ctx$alternative, two_sided = "0", greater = "if (test$estimate > 0) 0 else 1", less = "if (test$estimate < 0) 0 else 1")),
    paste0("numbers <- list(statistic = test$statistic, df = test$parameter, p_value = test$p.value, estimate = ",
           "test$estimate, conf_level = conf_level, n = length(x),"),
    "  r = test$estimate, r_squared = test$estimate^2, slope = line[[2]], intercept = line[[1]])",
    "if (!is.null(test$conf.int)) numbers <- c(numbers, list(ci_low = test$conf.int[1], ci_high = test$conf.int[2]))",
    script_own_limits("r"), script_correlations())
}

script_correlations <- function() paste0("tables$correlations <- data.frame(estimate = as.numeric(numbers$estimate), ",
                                         "n = length(x), p_value = numbers$p_value, p_adjusted = numbers$p_value)")

#' Script lines for the Fisher-z interval of a correlation
#'
#' @param r,se,enough R code: the coefficient's name, its standard error on the z scale, and when there are rows enough.
#' @noRd
script_fisher_z <- function(ctx, r, se, enough) {
  level <- if (ctx$alternative == "two_sided") "1 - (1 - conf_level) / 2" else "conf_level"
  limit <- function(sign) sprintf("tanh(atanh(%s) %s qnorm(%s) * %s)", r, sign, level, se)
  limits <- c(if (ctx$alternative == "less") "-1" else limit("-"), if (ctx$alternative == "greater") "1" else limit("+"))
  sprintf("if (%s) numbers[c(\"ci_low\", \"ci_high\")] <- c(%s)", enough, paste(limits, collapse = ", "))
}
