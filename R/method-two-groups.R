# Shared by the methods that compare two independent groups.

two_groups <- function(ctx) {
  s <- split_groups(ctx)
  if (length(s$levels) != 2) {
    stop_data(sprintf("This method compares exactly two groups; %s has %s.", quoted(ctx$reading$by[1]),
                      count_of(length(s$levels), "group")), class = "group_count")
  }
  s
}

#' Fit of a two-group method: numeric outcome, two groups
#' @noRd
fits_two_groups <- function(shape, score, why, kinds = c("number", "count")) {
  ok <- shape$task %in% c("compare", "relate", "figure", "advise") && shape$n_outcome == 1 && shape$n_by == 1 &&
    identical(shape$groups, 2L) && is.null(shape$null_value) &&
    !length(shape$adjust) && !isTRUE(shape$paired) && shape$outcome_kind %in% c("number", "count", "ordered")
  if (!ok) return(NULL)
  new_fit(if (shape$outcome_kind %in% kinds) score else score - 60, why)
}

two_group_checks <- function(ctx, res, pools = FALSE) {
  list(check_independent_rows(ctx$unit_values, ctx$unit_name), check_mean_normal(res$values, res$levels),
       check_equal_spread(res$values, res$levels, pools),
       check_far_values(res$values, res$levels))
}

two_group_figure <- function(ctx, res) figure_groups(ctx, outcome_name(ctx), ctx$reading$by[1])

#' Script lines that set up x and y, the outcome of the two groups
#' @noRd
script_two_groups <- function(ctx) {
  c(sprintf("outcome <- %s", script_value(outcome_name(ctx))),
    sprintf("group <- droplevels(factor(%s))", script_column(ctx$reading$by[1])),
    "x <- outcome[group == levels(group)[1]]", "y <- outcome[group == levels(group)[2]]", "tables <- list()")
}

script_alternative <- function(ctx) as_r_string(c(two_sided = "two.sided", greater = "greater",
                                                  less = "less")[[ctx$alternative]])

#' Script lines for the standardised difference and its interval by the noncentral t distribution
#' @noRd
script_standardised <- function(ctx) {
  c("# standardised difference, interval by inverting the noncentral t distribution",
    "df_pooled <- length(x) + length(y) - 2",
    "sd_pooled <- sqrt(((length(x) - 1) * var(x) + (length(y) - 1) * var(y)) / df_pooled)",
    "d <- (mean(x) - mean(y)) / sd_pooled", "scale <- sqrt(1 / length(x) + 1 / length(y))", "t_pooled <- d / scale",
    "half <- qnorm(1 - (1 - conf_level) / 2) * sqrt(1 + t_pooled^2 / (2 * df_pooled))",
    paste0("limit <- function(p) uniroot(function(ncp) suppressWarnings(pt(t_pooled, df_pooled, ncp)) - p, t_pooled + ",
           "c(-2, 2) * half + c(-2, 2), tol = 1e-12, extendInt = \"downX\")$root"),
    paste0("limits <- if (abs(t_pooled) + half > 35) t_pooled + c(-half, half) else c(limit(1 - (1 - conf_level) / ",
           "2), limit((1 - conf_level) / 2))"),
    "small_sample <- exp(lgamma(df_pooled / 2) - lgamma((df_pooled - 1) / 2) - log(df_pooled / 2) / 2)",
    "numbers <- c(numbers, list(cohens_d = d, cohens_d_low = limits[1] * scale, cohens_d_high = limits[2] * scale,",
    paste0("  hedges_g = small_sample * d, hedges_g_low = small_sample * limits[1] * scale, hedges_g_high = ",
           "small_sample * limits[2] * scale))"),
    "if (sd(y) > 0) {  # Glass's delta, in standard deviations of the second group",
    "  delta <- (mean(x) - mean(y)) / sd(y); wide <- sqrt(1 / length(y) + var(x) / var(y) / length(x)); t_glass <- delta / wide; df_glass <- length(y) - 1",  # nolint: line_length_linter.
    "  half <- qnorm(1 - (1 - conf_level) / 2) * sqrt(1 + t_glass^2 / (2 * df_glass))",
    paste0("  limit <- function(p) uniroot(function(ncp) suppressWarnings(pt(t_glass, df_glass, ncp)) - p, t_glass + c(-2, 2) * half + ",
           "c(-2, 2), tol = 1e-12, extendInt = \"downX\")$root"),
    paste0("  limits <- if (abs(t_glass) + half > 35) t_glass + c(-half, half) else c(limit(1 - (1 - conf_level) / 2), limit((1 - ",
           "conf_level) / 2))"),
    "  numbers <- c(numbers, list(glass_delta = delta, glass_delta_low = limits[1] * wide, glass_delta_high = limits[2] * wide))", "}",
    if (isTRUE(ctx$reading$extra$relative)) script_ratio_of_means())
}

#' Script lines for the difference as a percentage of the second mean
#' @noRd
script_ratio_of_means <- function() {
  c("# ratio of the means, its interval by the delta method on the logarithm",
    "se_log <- sqrt(var(x) / length(x) / mean(x)^2 + var(y) / length(y) / mean(y)^2)",
    "half <- qt(1 - (1 - conf_level) / 2, test$parameter) * se_log",
    "if (mean(x) > 0 && mean(y) > 0) numbers <- c(numbers, list(percent_difference = 100 * (mean(x) / mean(y) - 1),",
    "  percent_low = 100 * (mean(x) / mean(y) * exp(-half) - 1), percent_high = 100 * (mean(x) / mean(y) * exp(half) - 1)))")
}

#' The difference as a percentage of the second mean, where it is asked for and both means are above zero
#'
#' @section Source: ratio of two means, delta method on the logarithm with the degrees of freedom of the test (Friedrich, Adhikari & Beyene,
#'   2008, BMC Medical Research Methodology 8:32).
#' @noRd
relative_numbers <- function(ctx, m, df) {
  a <- m$a[[1, "mean"]]; b <- m$b[[1, "mean"]]
  if (!isTRUE(ctx$reading$extra$relative) || !(a > 0 && b > 0)) return(NULL)
  se <- function(x) sd_from_moments(x)^2 / x[[1, "n"]] / x[[1, "mean"]]^2
  half <- stats::qt(1 - (1 - ctx$conf_level) / 2, df) * sqrt(se(m$a) + se(m$b))
  list(new_number("percent_difference", "difference in percent of the second mean", 100 * (a / b - 1)),
       new_number("percent_low", "lower limit, percent", 100 * (a / b * exp(-half) - 1)),
       new_number("percent_high", "upper limit, percent", 100 * (a / b * exp(half) - 1)))
}

difference_labels <- function() {
  list(cohens_d = "Cohen's d", hedges_g = "Hedges' g (small-sample corrected)",
       glass_delta = "Glass's delta (sd of the second group)")
}

#' Moments of the two groups in one pass over the rows
#' @noRd
two_group_moments <- function(ctx) {
  g <- group_of(ctx)
  if (nlevels(g) != 2) two_groups(ctx)
  m <- stat_group_moments(outcome_values(ctx), as.integer(g), 2L)
  list(a = m[1, , drop = FALSE], b = m[2, , drop = FALSE])
}

#' Result of a t procedure on two groups
#' @noRd
t_two_groups <- function(ctx, run, statistic_label = "t") {
  s <- two_groups(ctx)
  m <- two_group_moments(ctx)
  out <- run(m$a, m$b)
  effect <- stat_standardised_difference(m$a, m$b, ctx$conf_level)
  result(c(test_numbers(out, statistic_label, sprintf("difference in means, %s minus %s", s$levels[1], s$levels[2]),
                        ctx$conf_level), effect_numbers(effect, difference_labels()), relative_numbers(ctx, m, out$df)),
         tables = list(groups_table(ctx)), levels = s$levels, values = s$values,
         means = c(m$a[[1, "mean"]], m$b[[1, "mean"]]),
         sds = c(sd_from_moments(m$a), sd_from_moments(m$b)), ns = c(m$a[[1, "n"]], m$b[[1, "n"]]))
}

say_t_two_groups <- function(ctx, res, name) {
  n <- res$number
  unit <- outcome_column(ctx)$unit
  sides <- say_sides(ctx, res$levels)
  mean_sd <- sprintf("M = %s, SD = %s, n = %s", say_alike(res$means), say_number(res$sds), say_number(res$ns))
  write_up <- sprintf(paste0("%s was compared between %s (%s) and %s (%s) with %s: t(%s) = %s, %s, mean difference ",
                             "%s, %s; Hedges' g = %s, %s.%s"), capital(say_column(outcome_column(ctx))),
    sides[1], mean_sd[1], sides[2], mean_sd[2], name, say_df(n$df), say_number(n$statistic, 2),
    say_p(n$p_value), with_unit(say_number(n$estimate), unit),
    say_interval(n$ci_low, n$ci_high, ctx$conf_level), say_number(n$hedges_g, 2),
    say_interval(n$hedges_g_low, n$hedges_g_high, ctx$conf_level, function(v) say_number(v, 2)), write_rows(ctx))
  details <- sprintf("The standardised difference, %s minus %s, is g = %s (%s): %s.", sides[1], sides[2],
                     say_number(n$hedges_g, 2),
                     say_interval(n$hedges_g_low, n$hedges_g_high, ctx$conf_level, function(v) say_number(v, 2)),
                     say_size(n$hedges_g, "d"))
  if (!is.null(n$percent_difference)) details <- c(sprintf("In percent of the mean in %s, %s is %s %% %s (%s).", sides[2], sides[1],
    formatC(abs(n$percent_difference), format = "f", digits = 1), if (n$percent_difference < 0) "lower" else "higher",
    say_interval(n$percent_low, n$percent_high, ctx$conf_level, function(v) paste(formatC(v, format = "f", digits = 1), "%"))), details)
  say_two_groups(ctx, res, list(measure = "mean", values = res$means, details = details, write_up = write_up))
}

next_two_groups <- function(ctx, res) {
  y <- outcome_name(ctx); by <- ctx$reading$by[1]
  c(sprintf("Use a rank test"), sprintf("Show the distribution of %s", y), sprintf("Describe %s by %s", y, by))
}
