# Two views of a model: the spread that it accounts for, and what a column comes to in chances.

#' The share of the spread that a model explains, with the interval that inverts the noncentral F
#' @section Source: Steiger, J. H. (2004). Psychological Methods 9, 164-182 (predictors taken as fixed).
#' @noRd
view_explained <- function(ctx, res) {
  n <- res$number
  share <- stat_share_limits(n$f_statistic, n$f_df1, n$f_df2, ctx$conf_level, rows = n$n)
  names <- vapply(ctx$columns[names(res$columns)], say_column, "")
  list(numbers = list(new_number("estimate", "R squared", n$r_squared), new_number("ci_low", "lower limit", share[1]),
                      new_number("ci_high", "upper limit", share[2]), new_number("statistic", "F", n$f_statistic),
                      new_number("df1", "degrees of freedom", n$f_df1), new_number("df2", "degrees of freedom of the residuals", n$f_df2),
                      new_number("p_value", "p", n$f_p_value)),
       tables = list(),
       headline = sprintf("%s %s %s of the spread of %s (R squared = %s, %s): F(%s, %s) = %s, %s.", capital(some_of(names, 6)),
                          if (length(names) == 1) "accounts for" else "together account for", say_percent(n$r_squared, 1),
                          say_column(outcome_column(ctx)), say_unit(n$r_squared), say_interval(share[1], share[2], ctx$conf_level, say_unit),
                          say_df(n$f_df1), say_df(n$f_df2), say_number(n$f_statistic, 2), say_p(n$f_p_value)),
       details = sprintf("Adjusted for the number of coefficients, as for new rows, it is %s.", say_percent(n$adj_r_squared, 1)))
}

script_view_explained <- function(ctx, res) c(
  "f <- s$fstatistic[[1]]; df <- unname(s$fstatistic[2:3])", script_noncentral_f(),
  "ncp <- c(limit_f(1 - (1 - conf_level) / 2), limit_f((1 - conf_level) / 2)); share <- ncp / (ncp + n)",
  paste0("view <- list(estimate = s$r.squared, ci_low = share[1], ci_high = share[2], statistic = f, df1 = df[1], df2 = df[2], ",
         "p_value = pf(f, df[1], df[2], lower.tail = FALSE))"))

#' What the column asked about comes to in chances, averaged over the rows as they are
#'
#' A column of levels: the chance if every row stood at a level, less that at the first (marginal standardisation). A measured column:
#' the mean slope of the chance, per unit.
#' @section Source: Lane, P. W. and Nelder, J. A. (1982). Biometrics 38, 613-621; errors by the delta method.
#' @noRd
view_marginal_effect <- function(ctx, res) {
  y <- sprintf("%s = %s", say_column(outcome_column(ctx)), res$event)
  name <- names(res$columns)[1]; x <- say_column(ctx$columns[[name]])
  others <- setdiff(names(res$columns), name)
  held <- if (length(others)) sprintf(", with %s as in the rows", some_of(vapply(ctx$columns[others], say_column, ""), 5)) else ""
  if (length(res$fit$aliased) || isTRUE(res$fit$separated)) stop_data("The model has no finite estimates to turn into chances.", class = "unfit_view")
  if (res$factors[[1]]) return(marginal_levels(ctx, res, y, x, held))
  if (length(res$pair)) stop_data("With an interaction the effect in chances differs along the other column.", class = "unfit_view")
  own <- which(res$source == name)
  e <- mean_slope(res$x, res$fit$coefficients, res$fit$unscaled, own)
  z <- stats::qnorm(1 - (1 - ctx$conf_level) / 2)
  p <- 2 * stats::pnorm(-abs(e$estimate / e$se))
  low <- e$estimate - z * e$se; high <- e$estimate + z * e$se
  clear <- p < 1 - ctx$conf_level
  list(numbers = marginal_numbers("average change in the chance per unit", e$estimate, e$se, low, high, p),
       tables = list(),
       headline = sprintf("%s each further %s of %s the chance of %s %s by %s on average%s (%s), %s.", if (clear) "With" else "No clear change: with",
                          one_unit(ctx$columns[[name]]), x, y, if (e$estimate > 0) "rises" else "falls", say_points(abs(e$estimate)), held,
                          say_interval(low, high, ctx$conf_level, say_points), say_p(p)),
       details = "The change is the mean over all rows of each row's own slope in the chance, since a logistic curve is steeper in its middle.")
}

marginal_numbers <- function(label, estimate, se, low, high, p) {
  list(new_number("estimate", label, estimate), new_number("se", "standard error", se), new_number("ci_low", "lower limit", low),
       new_number("ci_high", "upper limit", high), new_number("statistic", "z", estimate / se), new_number("p_value", "p", p))
}

#' Mean over rows of the slope of the chance in one column, by the delta method
#' @section Shape: list(estimate, se).
#' @noRd
mean_slope <- function(x, beta, covariance, own) {
  mu <- stats::plogis(drop(x %*% beta))
  w <- mu * (1 - mu)
  gradient <- beta[own] * colMeans(x * (w * (1 - 2 * mu)))
  gradient[own] <- gradient[own] + mean(w)
  list(estimate = beta[own] * mean(w), se = sqrt(drop(gradient %*% covariance %*% gradient)))
}

marginal_levels <- function(ctx, res, y, x, held) {
  t <- res$risks
  if (is.null(t)) stop_data(sprintf("%s has too many levels to compare their chances.", quoted(x)), class = "unfit_view")
  z <- stats::qnorm(1 - (1 - ctx$conf_level) / 2)
  se <- (t$difference_high - t$difference_low) / (2 * z)
  last <- nrow(t); d <- t$difference[last]
  p <- 2 * stats::pnorm(-abs(d / se[last]))
  items <- sprintf("%s less %s %s (%s)", t$level[-1], t$level[1], vapply(t$difference[-1], say_points, ""),
                   mapply(say_interval, t$difference_low[-1], t$difference_high[-1], MoreArgs = list(conf_level = ctx$conf_level, fmt = say_points)))
  list(numbers = marginal_numbers(sprintf("difference in the chance of %s, %s less %s", res$event, t$level[last], t$level[1]), d, se[last],
                                t$difference_low[last], t$difference_high[last], p),
       tables = list(),
       headline = sprintf("The chance of %s, standardised to the rows as they are%s: %s. Difference: %s%s.", y, held,
                          some_of(sprintf("%s for %s", vapply(t$risk, say_percent, ""), t$level), 8), some_of(items, 6),
                          if (last == 2) sprintf(", %s", say_p(p)) else ""),
       details = "Each chance is the mean over all rows if every row stood at that level, all else as it is.")
}

script_view_marginal_effect <- function(ctx, res) {
  view <- paste0("view <- list(estimate = effect, se = effect_se, ci_low = effect - z * effect_se, ci_high = effect + z * effect_se, ",
                 "statistic = effect / effect_se, p_value = 2 * pnorm(-abs(effect / effect_se)))")
  if (res$factors[[1]]) return(c("z <- qnorm(1 - (1 - conf_level) / 2); effect <- diff[length(diff)]; effect_se <- dse[length(dse)]", view))
  own <- which(res$source == names(res$columns)[1])
  c(sprintf("mu <- fitted(fit); w <- mu * (1 - mu); b <- coef(fit)[[%d]]; z <- qnorm(1 - (1 - conf_level) / 2)", own),
    sprintf("g <- b * colMeans(X * (w * (1 - 2 * mu))); g[%d] <- g[%d] + mean(w); effect <- b * mean(w)", own, own),
    "effect_se <- sqrt(drop(g %*% vcov(fit) %*% g))", view)
}
