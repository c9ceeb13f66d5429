#' @noRd
method_linear_regression <- function() {
  new_method(
    id = "linear_regression", name = "Least-squares regression", tasks = c("predict", "relate", "compare"),
    fits = fits_linear, compute = compute_linear,
    checks = function(ctx, res) if (isTRUE(res$fit$exact)) checks_of_exact(ctx, res) else compact(list(
                                             check_independent_rows(ctx$unit_values, ctx$unit_name), check_fit_linear(res),
                                             check_residual_spread(res$x[, res$fit$kept,
                                                 drop = FALSE], res$fit$residuals),
      check_residual_normal(res$fit$residuals), check_influence_fit(res$fit),
      check_collinear(res$x, res$fit$kept, res$term), check_near_outcome(res$columns, res$fit$fitted + res$fit$residuals),
      check_residual_order(res$fit$residuals, ctx$order_values), check_sample_size(res$fit))),
    second = "linear_regression_hc3",
    figure = figure_linear,
    sentences = say_linear, script = script_linear,
    references = "Golub, G. H., & Van Loan, C. F. (2013). Matrix Computations (4th ed.), ch. 5. Johns Hopkins University Press.",
    next_steps = function(ctx, res) c(sprintf("Residual plots of %s on %s", outcome_name(ctx), some_of(utils::head(names(res$columns), 4), 4)),
                                      sprintf("Describe %s", outcome_name(ctx)),
                                      sprintf("What is the correlation between %s and %s?", outcome_name(ctx),
                                              res$predictors[1])))
}

#' Where nothing is left of the spread, the assumptions about it are no matter
#' @noRd
checks_of_exact <- function(ctx, res) compact(list(check_independent_rows(ctx$unit_values, ctx$unit_name), check_exact_fit(),
  check_near_outcome(res$columns, outcome_values(ctx)), check_sample_size(res$fit)))

#' One measured predictor: the points and the line; an interaction with groups: a line for each; else observed against fitted
#' @noRd
figure_linear <- function(ctx, res) {
  single <- length(res$predictors) == 1 && !is.factor(ctx$frame$data[[res$predictors]])
  if (single) return(figure_scatter(ctx, res$predictors, outcome_name(ctx)))
  figure_slopes(ctx, res) %||% figure_cells(ctx, res) %||% figure_fitted(ctx, res$fit$fitted, outcome_name(ctx),
                                             sprintf("%s: observed against fitted", capital(say_column(outcome_column(ctx)))))
}

fits_linear <- function(shape) {
  model <- shape$task %in% c("predict", "relate", "compare") && shape$n_outcome == 1 &&
    (length(shape$predictor_kinds) + shape$n_by) >= 1 && shape$outcome_kind %in% c("number", "count", "ordered")
  if (!model || (shape$task != "predict" && !length(shape$adjust))) return(NULL)
  # a straight line takes no account of what counts are made over
  if (isTRUE(shape$offset)) return(NULL)
  new_fit(if (shape$outcome_kind %in% c("number", "count")) 85 else 50,
      "The outcome is a number, so a straight-line model by least squares is fitted.")
}

#' @noRd
method_linear_regression_hc3 <- function() {
  new_method(
    id = "linear_regression_hc3", name = "Least squares with robust (HC3) standard errors", tasks = "predict",
    # a second opinion only: never ahead of the classical errors
    fits = function(shape) if (!is.null(fits_linear(shape))) new_fit(1, "Robust errors were asked for."),
    compute = function(ctx) compute_linear(ctx, robust = TRUE),
    # (a spread that changes along the fit is what these errors are for)
    checks = function(ctx, res) Filter(function(check) check$id != "residual_spread", method_linear_regression()$checks(ctx, res)),
    second = "linear_regression", figure = figure_linear, sentences = say_linear, script = script_linear,
    references = paste0("MacKinnon, J. G., & White, H. (1985). Some heteroskedasticity-consistent covariance matrix ",
                        "estimators with improved finite sample properties. Journal of Econometrics, 29, 305-325."))
}

#' Predictors in the order named, covariates after them
#' @noRd
model_columns <- function(ctx) {
  names <- unique(c(ctx$reading$predictors, ctx$reading$by, ctx$reading$adjust_for))
  lapply(stats::setNames(names, names), function(name) {
    v <- ctx$frame$data[[name]]
    if (is.character(v)) v <- as_group(v)
    if (inherits(v, c("Date", "POSIXct"))) v <- as.double(v)
    if (is.factor(v) && ctx$columns[[name]]$kind == "ordered" &&
        !anyNA(suppressWarnings(as.numeric(levels(v))))) return(in_deviations(ctx, level_numbers(v)))
    if (is.factor(v)) droplevels(v) else in_deviations(ctx, v)
  })
}

#' Values in standard deviations from their mean, where standardised coefficients are asked for
#' @noRd
in_deviations <- function(ctx, v) {
  if (!isTRUE(ctx$reading$extra$standardised)) return(v)
  spread <- stats::sd(v)
  if (isTRUE(spread > 0)) (v - mean(v)) / spread else v
}

need_two_levels <- function(columns) {
  same <- names(columns)[vapply(columns, function(v) is.numeric(v) && length(v) > 1 && all(v == v[1]), NA)]
  if (length(same)) stop_data(sprintf("%s is %s in all rows used, so it can explain nothing.", quoted(same[1]), say_number(columns[[same[1]]][1])),
                              class = "one_group")
  short <- names(columns)[vapply(columns, function(v) is.factor(v) && nlevels(v) < 2, NA)]
  if (length(short)) stop_data(sprintf("%s has only one level in these rows, so it can explain nothing.",
                                       quoted(short[1])), class = "one_group")
  columns
}

#' The first two predictors, when the question asks for their interaction
#' @noRd
interaction_pair <- function(ctx, columns) {
  if (isTRUE(ctx$reading$extra$interaction) && length(columns) >= 2) list(names(columns)[1:2]) else list()
}

compute_linear <- function(ctx, robust = FALSE) {
  columns <- need_two_levels(model_columns(ctx))
  pair <- interaction_pair(ctx, columns)
  m <- stat_model_matrix(columns, pair)
  y <- in_deviations(ctx, outcome_values(ctx))
  need_spread(stat_group_moments(y)[, "m2"])
  out <- fit_without_rounding(m$x, y)
  out$covariance <- if (robust) stat_hc3(m$x, out) else out$sigma^2 * out$unscaled
  se <- replace(out$se, out$kept, sqrt(diag(out$covariance)))
  table <- coefficient_table(m$term, out$coefficients, se, out$df, ctx$conf_level)
  focal <- focal_rows(ctx, m$source)
  if (length(out$aliased)) need_own_part(m, out$kept, focal)
  predictors <- unique(c(ctx$reading$predictors, ctx$reading$by))
  numbers <- c(focal_numbers(out, table, focal, m$term, ctx$conf_level, robust),
               list(new_number("r_squared", "R squared", out$r_squared)),
               if (!robust && !isTRUE(out$exact)) limit_numbers("r_squared", "R squared",
                 stat_share_limits(out$statistic, out$df1, out$df2, ctx$conf_level)),
               list(new_number("adj_r_squared", "adjusted R squared", out$adj_r_squared),
    new_number("sigma", "residual standard deviation", out$sigma),
    new_number("f_statistic", "F of the whole model", out$statistic), new_number("f_df1", "df (model)", out$df1),
    new_number("f_df2", "df (residual)", out$df2),
    new_number("f_p_value", "p of the whole model", out$p_value), new_number("aic", "AIC", out$aic),
    new_number("bic", "BIC", out$bic), new_number("log_likelihood", "log likelihood", out$log_likelihood),
    new_number("n", "rows used", out$n)))
  at <- stated_values(ctx, columns, pair, m)
  slopes <- if (length(pair) && !robust) simple_slopes(out, m, columns, pair[[1]], ctx$conf_level)
  if (!is.null(at)) numbers <- with_prediction(numbers, predict_at(out, at, ctx$conf_level), paste("expected", outcome_name(ctx)), at)
  several <- if (!is.null(at)) expected_at_several(ctx, m, at, function(a) predict_at(out, a, ctx$conf_level), robust)
  result(numbers, tables = compact(list(new_table("coefficients", sprintf("Coefficients for %s", outcome_name(ctx)), table), several$table,
           if (!is.null(slopes)) new_table("simple_slopes", sprintf("Effect of %s at levels of %s", pair[[1]][1], pair[[1]][2]), slopes$table))),
         slopes = slopes, fit = out, at = at, several = several, x = m$x, term = m$term, source = m$source, focal = focal, predictors = predictors,
         factors = vapply(columns, is.factor, NA), columns = columns, pair = pair, aliased = m$term[out$aliased],
         robust = robust)
}

#' The columns asked about must add something to those held constant: where these determine them, no effect is left to tell
#' @param m The design, @param kept the columns that were not aliased, @param focal those asked about.
#' @noRd
need_own_part <- function(m, kept, focal) {
  others <- setdiff(seq_len(ncol(m$x)), focal)
  if (!length(focal) || length(others) < 2) return(invisible())
  without <- length(stat_least_squares(m$x[, others, drop = FALSE], as.double(seq_len(nrow(m$x))))$kept)
  if (length(kept) > without) return(invisible())
  asked <- unique(m$source[focal]); held <- setdiff(unique(m$source[others]), "(intercept)")
  # one column alone may do it
  rank <- function(columns) length(stat_least_squares(m$x[, columns, drop = FALSE], as.double(seq_len(nrow(m$x))))$kept)
  alone <- Filter(function(h) { own <- c(1, which(m$source == h)); rank(c(own, focal)) == rank(own) }, held)
  if (length(alone)) held <- alone[1]
  stop_data(sprintf("%s is determined by %s in these rows, so with that held constant it does not vary and has no effect to tell.", quoted(asked[1]),
                    some_of(quoted(held), 3)),
            todo = sprintf("Where %s names groups of rows, ask for a mixed model with a random intercept for it.", quoted(last_of(held))),
                class = "collinear")
}

#' What the question states of the predictors ("for a strength before of 12 in the north")
#'
#' What it leaves open is held where the rows are: numbers at their mean, columns of groups at the mix of their levels. Both are said.
#' @param m The design: list(x, source) as of [stat_model_matrix()].
#' @section Shape: list(values (named list: a number, or a level), open (names of those left open), row (the design row, without its
#'   intercept)); NULL where nothing is stated or the effects depend on each other.
#' @noRd
stated_values <- function(ctx, columns, pair, m) {
  at <- as.list(ctx$reading$extra$at); levels <- ctx$reading$extra$at_levels
  at <- c(at, as.list(levels))[intersect(names(columns), c(names(at), names(levels)))]
  if (!length(at) || length(pair)) return(NULL)
  row <- colMeans(m$x)
  for (name in names(at)) {
    own <- which(m$source == name); v <- columns[[name]]
    if (is.factor(v)) {
      if (!at[[name]] %in% levels(v)) return(NULL)
      row[own] <- as.numeric(levels(v)[-1] == at[[name]])
    } else row[own] <- as.numeric(at[[name]])
  }
  open <- setdiff(names(columns), names(at))
  mixed <- open[vapply(columns[open], is.factor, NA)]
  values <- c(at, lapply(columns[setdiff(open, mixed)], function(v) mean(as.double(v))), stats::setNames(as.list(rep(NA, length(mixed))), mixed))
  list(values = values[names(columns)], open = open, row = unname(row[-1]))
}

#' Expected value at stated values, with the interval of the mean and that of a single new row
#' @noRd
predict_at <- function(fit, at, conf_level) {
  x <- c(1, at$row)
  if (length(fit$aliased)) stop_data("The predictors repeat each other, so nothing can be predicted from them.", class = "collinear")
  value <- sum(x * fit$coefficients)
  se <- sqrt(drop(x %*% fit$covariance %*% x))
  t <- stats::qt(1 - (1 - conf_level) / 2, fit$df)
  list(value = value, se = se, ci_low = value - t * se, ci_high = value + t * se,
      low = value - t * sqrt(se^2 + fit$sigma^2), high = value + t * sqrt(se^2 + fit$sigma^2))
}

#' The expected value becomes the estimate; the slope stays beside it
#' @param p What is expected: list(value, se, ci_low, ci_high), and low and high for a single new row.
#' @param what In words.
#' @noRd
with_prediction <- function(numbers, p, what, at) {
  ids <- vapply(numbers, `[[`, "", "id")
  slope <- if ("estimate" %in% ids) numbers[[match("estimate", ids)]]$value
  where <- paste(sprintf("%s = %s", names(at$values), vapply(at$values,
    function(v) if (is.na(v)) "as in the rows" else if (is.numeric(v)) format_plain(v)
    else v, "")), collapse = ", ")
  c(list(new_number("estimate", sprintf("%s at %s", what, where), p$value), new_number("se", "standard error", p$se),
         new_number("ci_low", "lower limit", p$ci_low), new_number("ci_high", "upper limit", p$ci_high)),
    if (!is.null(p$low)) list(new_number("prediction_low", "prediction interval, lower limit", p$low),
                              new_number("prediction_high", "prediction interval, upper limit", p$high)),
    if (!is.null(slope)) list(new_number("slope", sprintf("coefficient of %s", names(at$values)[1]), slope)),
    numbers[!ids %in% c("estimate", "se", "ci_low", "ci_high")])
}

coefficient_table <- function(term, estimate, se, df, conf_level) {
  t <- estimate / se
  half <- stats::qt(1 - (1 - conf_level) / 2, df) * se
  data.frame(term = term, estimate = estimate, se = se, statistic = t,
             p_value = 2 * stats::pt(abs(t), df, lower.tail = FALSE), ci_low = estimate - half, ci_high = estimate +
             half, stringsAsFactors = FALSE)
}

#' Rows of the coefficient table that belong to the column asked about, when there is one
#' @noRd
focal_rows <- function(ctx, source) {
  # an interaction that was asked for is what the answer is about
  product <- if (isTRUE(ctx$reading$extra$interaction)) grep(" x ", source, fixed = TRUE)
  if (length(product)) return(product)
  asked <- unique(c(ctx$reading$predictors, ctx$reading$by))
  # (beside what is held constant the columns asked about have their own share)
  if (length(asked) == 1 || isTRUE(ctx$reading$extra$joint) || length(ctx$reading$adjust_for)) which(source %in% asked) else integer()
}

focal_numbers <- function(out, table, focal, term, conf_level, robust) {
  if (length(focal) == 1) {
    row <- table[focal, ]
    return(list(new_number("estimate", sprintf("coefficient of %s", row$term), row$estimate),
                new_number("se", "standard error", row$se), new_number("statistic", "t", row$statistic),
                new_number("df", "degrees of freedom", out$df),
                new_number("p_value", "p", row$p_value), new_number("ci_low", "lower limit", row$ci_low),
                new_number("ci_high", "upper limit", row$ci_high),
                new_number("conf_level", "confidence level", conf_level),
                new_number("r_squared_added", "R squared added by it", added_share(out, focal))))
  }
  if (length(focal) > 1) {
    keep <- intersect(out$kept, focal)
    at <- match(keep, out$kept)
    b <- out$coefficients[keep]
    f <- if (isTRUE(out$exact)) Inf else drop(b %*% solve(out$covariance[at, at, drop = FALSE], b)) / length(keep)
    return(list(new_number("statistic", "F", f), new_number("df1", "degrees of freedom", length(keep)),
                new_number("df2", "residual degrees of freedom", out$df),
                new_number("p_value", "p", stats::pf(f, length(keep), out$df, lower.tail = FALSE)),
                new_number("r_squared_added", "R squared added by them", added_share(out, focal)),
                new_number("conf_level", "confidence level", conf_level)))
  }
  slopes <- which(out$kept != 1)
  b <- out$coefficients[out$kept[slopes]]
  # with the classical covariance this is the F of the whole model
  f <- if (length(slopes) && !isTRUE(out$exact))
    drop(b %*% solve(out$covariance[slopes, slopes, drop = FALSE], b)) / length(slopes) else out$statistic
  list(new_number("statistic", "F", if (robust) f else out$statistic), new_number("df1", "degrees of freedom", out$df1),
       new_number("df2", "residual degrees of freedom", out$df2),
       new_number("p_value", "p", if (robust) stats::pf(f, out$df1, out$df2, lower.tail = FALSE) else out$p_value),
       new_number("conf_level", "confidence level", conf_level))
}

#' R squared that some coefficients add to that of all others
#' @noRd
added_share <- function(fit, rows) {
  keep <- intersect(fit$kept, rows)
  if (!length(keep)) return(0)
  at <- match(keep, fit$kept); b <- fit$coefficients[keep]
  drop(b %*% solve(fit$unscaled[at, at, drop = FALSE], b)) / fit$tss
}

check_fit_linear <- function(res) {
  numeric <- which(!res$factors)
  if (length(res$columns) == 1 && length(numeric) == 1) return(check_linear(res$columns[[1]], res$fit$fitted +
      res$fit$residuals))
  check <- check_linear(res$fit$fitted, res$fit$fitted + res$fit$residuals)
  check
}

#' Rows for each coefficient
#' @noRd
check_sample_size <- function(fit) {
  ratio <- fit$n / length(fit$kept)
  new_check("sample_per_coefficient", if (ratio >= 10) "ok" else "caution", "Rows per coefficient",
            list(new_number("rows_per_coefficient", "rows per coefficient", ratio)), list(ratio = ratio))
}

say_linear <- function(ctx, res) {
  n <- res$number
  col <- outcome_column(ctx)
  y <- say_column(col)
  held <- if (length(ctx$reading$adjust_for)) sprintf(", with %s held constant",
                                                      some_of(vapply(ctx$columns[ctx$reading$adjust_for], say_column,
                                                          ""), 5)) else ""
  clear <- isTRUE(n$p_value < 1 - ctx$conf_level)
  headline <- if (length(res$pair) && length(res$focal)) say_interaction(ctx, res, y, held, clear, linear_interaction_test(ctx, res))
    else if (!is.null(res$several)) say_expected_several(ctx, res, y)
    else if (!is.null(res$at)) say_expected(ctx, res, y) else if (length(res$focal) == 1) say_one_slope(ctx, res, y, held, clear)
    else if (length(res$focal) > 1 && length(res$predictors) > 1) say_added(ctx, res, y, clear)
    else if (length(res$focal) > 1) sprintf("%s %s with %s%s: F(%s, %s) = %s, %s.", capital(y),
                                            if (clear) "goes" else "does not clearly go",
                                            say_column(ctx$columns[[res$predictors]]), held, say_number(n$df1),
                                            say_number(n$df2), say_number(n$statistic, 2), say_p(n$p_value))
    else sprintf("%s together explain %s of the spread of %s: R squared = %s, F(%s, %s) = %s, %s.",
                 capital(some_of(vapply(ctx$columns[res$predictors], say_column, ""), 5)), say_percent(n$r_squared, 0),
                 y, say_unit(n$r_squared), say_number(n$df1), say_number(n$df2), say_number(n$statistic, 2),
                 say_p(n$p_value))
  t <- res$tables[[1]]$data
  clear_terms <- t$term[-1][which(t$p_value[-1] < 1 - ctx$conf_level)]
  details <- c(if (isTRUE(res$fit$exact)) says_exact(),
               if (isTRUE(ctx$reading$extra$joint) && length(res$focal) == 1) sprintf("That adds %s of the spread to what %s explains.",
                 say_percent(n$r_squared_added), some_of(vapply(ctx$columns[ctx$reading$adjust_for], say_column, ""), 5)),
               if (!is.null(ctx$reading$extra$at) && is.null(res$at)) "No single value is predicted, since the effects depend on each other.",
               say_slopes(ctx, res),
      if (isTRUE(ctx$reading$extra$standardised) && length(res$focal) != 1) sprintf("Standardised: %s.", write_coefficients(t[-1, ], ctx$conf_level)),
      if (length(res$focal) != 1) if (length(clear_terms)) sprintf("Coefficients clearly away from zero: %s.",
      some_of(clear_terms, 8)) else "No coefficient is clearly away from zero.",
               if (length(res$aliased)) sprintf("No coefficient for %s: it is a combination of the others.",
                                                some_of(res$aliased, 5)),
               sprintf("The model explains %s of the spread (%sadjusted %s); the residual standard deviation is %s.",
                       say_percent(n$r_squared, 0), if (is.null(n$r_squared_low)) "" else sprintf("%s CI %s to %s; ", say_level(ctx$conf_level),
                         say_percent(n$r_squared_low, 0), say_percent(n$r_squared_high, 0)), say_percent(n$adj_r_squared, 0),
                       with_unit(say_number(n$sigma), col$unit)), say_rows(ctx))
  write_up <- sprintf("A least-squares regression of %s on %s gave R2 = %s, F(%s, %s) = %s, %s (n = %s). %s.%s", y,
                      some_of(vapply(ctx$columns[names(res$columns)], say_column, ""), 8), say_unit(n$r_squared),
                      say_number(n$f_df1), say_number(n$f_df2),
                      say_number(n$f_statistic, 2), say_p(n$f_p_value), say_number(n$n),
                      write_coefficients(t[-1, ], ctx$conf_level), write_rows(ctx))
  list(headline = headline, details = details, write_up = write_up)
}

#' What several columns add together to those that are held constant
#' @noRd
say_added <- function(ctx, res, y, clear) {
  n <- res$number
  base <- some_of(vapply(ctx$columns[ctx$reading$adjust_for], say_column, ""), 5)
  sprintf("%s together %s to what %s of %s: %s of the spread, F(%s, %s) = %s, %s.",
          capital(some_of(vapply(ctx$columns[res$predictors], say_column, ""), 5)), if (clear) "add" else "do not clearly add",
          if (nzchar(base)) sprintf("%s explain%s", base, if (length(ctx$reading$adjust_for) == 1) "s" else "") else "the mean tells", y,
          say_percent(n$r_squared_added), say_number(n$df1), say_number(n$df2), say_number(n$statistic, 2), say_p(n$p_value))
}

#' The expected value at the stated ones; a word of warning beyond the values seen
#' @noRd
say_expected <- function(ctx, res, y) {
  n <- res$number; unit <- outcome_column(ctx)$unit
  sprintf("At %s, %s is expected at %s (%s); a single new row between %s and %s.%s", say_stated(ctx, res$at), y,
          with_unit(say_number(n$estimate), unit), say_interval(n$ci_low, n$ci_high, ctx$conf_level), say_number(n$prediction_low),
          with_unit(say_number(n$prediction_high), unit), say_beyond(res))
}

#' The values a prediction is for, those that were left open as they are on average
#' @noRd
say_stated <- function(ctx, at) {
  item <- function(name) {
    v <- at$values[[name]]; called <- say_column(ctx$columns[[name]])
    if (is.na(v)) return(sprintf("%s mixed as in the rows", called))
    if (name %in% at$open) return(sprintf("%s %s (its mean)", called, say_number(v)))
    sprintf("%s %s", called, if (is.numeric(v)) format_plain(v) else v)
  }
  some_of(vapply(names(at$values), item, ""), 5)
}

say_beyond <- function(res) {
  numeric <- names(res$at$values)[vapply(res$at$values, is.numeric, NA)]
  beyond <- numeric[vapply(numeric, function(k) res$at$values[[k]] < min(res$columns[[k]]) || res$at$values[[k]] > max(res$columns[[k]]), NA)]
  if (length(beyond)) sprintf(" That lies beyond the values of %s in the data.", some_of(beyond)) else ""
}

say_one_slope <- function(ctx, res, y, held, clear) {
  n <- res$number
  unit <- outcome_column(ctx)$unit
  name <- names(res$columns)[1]
  interval <- sprintf("%s, %s", say_interval(n$ci_low, n$ci_high, ctx$conf_level), say_p(n$p_value))
  if (res$factors[[1]]) {
    levels <- levels(res$columns[[1]])
    return(if (clear) sprintf("%s is %s %s in %s than in %s%s (%s).", capital(y),
                              with_unit(say_number(abs(n$estimate)), unit), if (n$estimate > 0) "higher" else "lower",
                              levels[2], levels[1], held, interval)
           else sprintf("No clear difference in %s between %s and %s%s: %s (%s).", y, levels[2], levels[1], held,
                        with_unit(say_number(n$estimate), unit), interval))
  }
  x <- say_column(ctx$columns[[name]])
  # a column in steps of some size ("credit score per 10")
  step <- first_match(x, "^(.+) per ([0-9]+)$")
  if (!is.null(step) && isTRUE(ctx$columns[[name]]$derived)) return(sprintf("For %s more of %s, %s is %s%s on average%s (%s).", step[3], step[2], y,
    with_unit(say_number(abs(n$estimate)), unit), if (n$estimate > 0) " higher" else " lower", held, interval))
  if (clear) sprintf("For each further %s of %s, %s is %s %s on average%s (%s).", one_unit(ctx$columns[[name]]), x, y,
                     with_unit(say_number(abs(n$estimate)), unit), if (n$estimate > 0) "higher" else "lower", held,
                     interval)
  else sprintf("No clear change of %s with %s%s: %s for each further %s (%s).", y, x, held,
               with_unit(say_number(n$estimate), unit), one_unit(ctx$columns[[name]]), interval)
}

write_coefficients <- function(t, conf_level) {
  t <- t[!is.na(t$estimate), ]
  paste(sprintf("%s: b = %s, %s, %s", t$term, say_number(t$estimate),
                mapply(function(l, h) say_interval(l, h, conf_level), t$ci_low, t$ci_high),
                vapply(t$p_value, say_p, "")), collapse = "; ")
}

#' Script lines that set up the predictors x1, x2 ..., and the right-hand side of the formula
#' @noRd
script_model_columns <- function(ctx, res) {
  names <- names(res$columns)
  inner <- sprintf("x%d", seq_along(names))
  set <- vapply(seq_along(names), function(i) {
    value <- if (res$factors[[i]]) sprintf("droplevels(factor(%s))", script_column(names[i]))
      else if (ctx$columns[[names[i]]]$kind == "ordered") script_value(names[i]) else sprintf("as.numeric(%s)",
          script_column(names[i]))
    if (!res$factors[[i]] && isTRUE(ctx$reading$extra$standardised)) value <- sprintf("as.vector(scale(%s))", value)
    sprintf("%s <- %s  # %s", inner[i], value, gsub("[\r\n]", " ", names[i]))
  }, "")
  pair <- if (length(res$pair)) sprintf(" + %s", paste(inner[match(res$pair[[1]], names)], collapse = ":")) else ""
  list(set = set, formula = paste0(paste(inner, collapse = " + "), pair))
}

#' Script line that sets y: the outcome's values, or whether it is the event
#' @noRd
script_model_outcome <- function(ctx, event = NULL) {
  if (is.null(event)) return(c(sprintf("y <- %s", script_value(outcome_name(ctx))),
                               if (isTRUE(ctx$reading$extra$standardised)) "y <- (y - mean(y)) / sd(y)"))
  sprintf("y <- %s", script_is_level(outcome_name(ctx), event))
}

script_linear <- function(ctx, res) {
  m <- script_model_columns(ctx, res)
  c(script_model_outcome(ctx), m$set,
    sprintf("fit <- lm(y ~ %s)", m$formula), script_without_rounding(res$fit), "s <- summary(fit)", "beta <- coef(fit)",
    "est <- s$coefficients[match(names(beta), rownames(s$coefficients)), , drop = FALSE]",
    if (res$robust) script_hc3(), "half <- qt(1 - (1 - conf_level) / 2, fit$df.residual) * est[, 2]", "tables <- list()",
    sprintf(paste0("tables$coefficients <- data.frame(term = %s, estimate = beta, se = est[, 2], statistic = est[, ",
                   "3], p_value = est[, 4], ci_low = beta - half, ci_high = beta + half)"), as_r_strings(res$term)),
    script_focal(res), script_slopes(res), script_expected(res), script_expected_several(res), "n <- length(y); rss <- sum(resid(fit)^2)",
    paste0("numbers <- c(numbers, list(r_squared = s$r.squared, adj_r_squared = s$adj.r.squared, sigma = s$sigma, ",
           "f_statistic = s$fstatistic[1], f_df1 = s$fstatistic[2], f_df2 = s$fstatistic[3],"),
    paste0("  f_p_value = pf(s$fstatistic[1], s$fstatistic[2], s$fstatistic[3], lower.tail = FALSE), aic = AIC(fit), ",
           "bic = BIC(fit), log_likelihood = as.numeric(logLik(fit)), n = n))"),
    if (!res$robust && !isTRUE(res$fit$exact)) script_share_limits("r_squared", "s$fstatistic[[1]]", "unname(s$fstatistic[2:3])"))
}

#' Script lines that put the errors of HC3 in the place of the classical ones
#' @noRd
script_hc3 <- function() {
  c("# errors that hold where the residual spread changes (HC3)",
    "keep <- !is.na(beta); x <- unname(model.matrix(fit))[, keep, drop = FALSE]; u <- solve(crossprod(x))",
    "vc <- u %*% crossprod(x * (resid(fit) / (1 - hatvalues(fit)))) %*% u",
    "est[keep, 2] <- sqrt(diag(vc)); est[, 3] <- est[, 1] / est[, 2]; est[, 4] <- 2 * pt(-abs(est[, 3]), fit$df.residual)")
}

script_expected <- function(res) {
  if (is.null(res$at)) return(NULL)
  by_row <- any(res$factors)
  if (res$robust || by_row) return(c(
    if (!res$robust) "vc <- vcov(fit)",
    sprintf("a <- c(1, %s); value <- sum(a * beta); mean_se <- sqrt(drop(a %%*%% vc %%*%% a))", paste(vapply(res$at$row, as_r_number, ""),
      collapse = ", ")),
    "t <- qt(1 - (1 - conf_level) / 2, fit$df.residual); row_se <- sqrt(mean_se^2 + s$sigma^2)",
    "if (!is.null(numbers$estimate)) numbers$slope <- numbers$estimate",
    paste0("numbers[c(\"estimate\", \"se\", \"ci_low\", \"ci_high\", \"prediction_low\", \"prediction_high\")] <- list(value, mean_se, ",
           "value - t * mean_se, value + t * mean_se, value - t * row_se, value + t * row_se)")))
  frame <- sprintf("data.frame(%s)", paste(sprintf("x%d = %s", seq_along(res$at$row), vapply(res$at$row, as_r_number, "")), collapse = ", "))
  c(sprintf(paste0("mean_at <- predict(fit, %s, interval = \"confidence\", level = conf_level, se.fit =",
      " TRUE); row_at <- predict(fit, %s, interval = \"prediction\", level = conf_level)"), frame, frame),
    "if (!is.null(numbers$estimate)) numbers$slope <- numbers$estimate",
    paste0("numbers <- c(numbers[!names(numbers) %in% c(\"estimate\", \"se\", \"ci_low\", \"ci_high\")],",
        " list(estimate = mean_at$fit[1], se = mean_at$se.fit[[1]], ci_low = mean_at$fit[2], ci_high =",
        " mean_at$fit[3],"),
    "  prediction_low = row_at[2], prediction_high = row_at[3]))")
}

#' The terms asked about as an update() of a formula leaves them out
#' @noRd
script_focal_terms <- function(res) {
  own <- sprintf("x%d", match(if (length(res$pair)) res$pair[[1]] else res$predictors, names(res$columns)))
  paste(own, collapse = if (length(res$pair)) ":" else " - ")
}

script_focal <- function(res) {
  if (res$robust && !length(res$focal)) return(c(
    "b <- beta[keep][-1]; f <- drop(b %*% solve(vc[-1, -1], b)) / length(b); d <- s$fstatistic",
    "numbers <- list(statistic = f, df1 = d[2], df2 = d[3], p_value = pf(f, d[2], d[3], lower.tail = FALSE), conf_level = conf_level)"))
  if (length(res$focal) == 1) return(c(sprintf("row <- tables$coefficients[%d, ]", res$focal),
                                       paste0("numbers <- list(estimate = row$estimate, se = row$se, statistic = ",
                                              "row$statistic, df = fit$df.residual, p_value = row$p_value, ci_low = ",
                                              "row$ci_low, ci_high = row$ci_high, conf_level = conf_level)"),
                                       sprintf("numbers$r_squared_added <- s$r.squared - summary(update(fit, . ~ . - %s))$r.squared",
                                               script_focal_terms(res))))
  if (length(res$focal) > 1) {
    return(c(sprintf("without <- update(fit, . ~ . - %s)", script_focal_terms(res)),
             "partial <- anova(without, fit)",
             if (res$robust) sprintf("k <- match(c(%s), which(keep)); f <- drop(beta[keep][k] %%*%% solve(vc[k, k], beta[keep][k])) / length(k)",
                                     paste(res$focal, collapse = ", ")) else "f <- partial$F[2]",
             paste0("numbers <- list(statistic = f, df1 = partial$Df[2], df2 = partial$Res.Df[2], p_value = pf(f, partial$Df[2], ",
                    "partial$Res.Df[2], lower.tail = FALSE), r_squared_added = s$r.squared - summary(without)$r.squared, conf_level = conf_level)")))
  }
  paste0("numbers <- list(statistic = s$fstatistic[1], df1 = s$fstatistic[2], df2 = s$fstatistic[3], p_value = ",
         "pf(s$fstatistic[1], s$fstatistic[2], s$fstatistic[3], lower.tail = FALSE), conf_level = conf_level)")
}

# ---- an interaction by its simple slopes ---------------------------------------------------------------------------

#' Effect of the first column at levels of the second: each level, or its mean and one standard deviation to either side
#'
#' @section Shape: list(table (at, term, estimate, se, statistic, p_value, ci_low, ci_high), weights = matrix, one row a slope); NULL when a
#'   coefficient is missing.
#' @section Source: Aiken, L. S. and West, S. G. (1991). Multiple Regression: Testing and Interpreting Interactions. Sage.
#' @noRd
simple_slopes <- function(fit, m, columns, pair, conf_level) {
  if (length(fit$aliased)) return(NULL)
  b <- columns[[pair[2]]]
  first <- which(m$source == pair[1]); second <- which(m$source == pair[2])
  settings <- if (is.factor(b)) rbind(0, diag(length(second))) else {
    at <- stat_group_moments(b)
    cbind(at[[1, "mean"]] + c(-1, 0, 1) * sqrt(at[[1, "m2"]] / (at[[1, "n"]] - 1)))
  }
  labels <- if (is.factor(b)) levels(b) else sprintf("%s (%s)", format(signif(settings[, 1], 4), trim = TRUE), c("mean - sd", "mean", "mean + sd"))
  rows <- expand.grid(term = first, setting = seq_len(nrow(settings)))
  weights <- t(vapply(seq_len(nrow(rows)), function(i) {
    w <- numeric(length(m$term)); w[rows$term[i]] <- 1
    products <- match(paste(m$term[rows$term[i]], m$term[second], sep = " x "), m$term)
    w[products] <- settings[rows$setting[i], ]
    w
  }, numeric(length(m$term))))
  estimate <- drop(weights %*% fit$coefficients)
  se <- fit$sigma * sqrt(rowSums((weights %*% fit$unscaled) * weights))
  half <- stats::qt(1 - (1 - conf_level) / 2, fit$df) * se
  list(table = data.frame(at = labels[rows$setting], term = m$term[rows$term], estimate = estimate, se = se, statistic = estimate / se,
                          p_value = 2 * stats::pt(-abs(estimate / se), fit$df), ci_low = estimate - half, ci_high = estimate + half,
                            stringsAsFactors = FALSE), weights = weights)
}

say_interaction <- function(ctx, res, y, held, clear, test) {
  a <- say_column(ctx$columns[[res$pair[[1]][1]]]); b <- say_column(ctx$columns[[res$pair[[1]][2]]])
  sprintf("What %s goes along with in %s %s on %s%s: interaction %s.", a, y, if (clear) "depends" else "does not clearly depend", b, held, test)
}

linear_interaction_test <- function(ctx, res) {
  n <- res$number
  if (length(res$focal) == 1) sprintf("%s, %s, %s", say_number(n$estimate), say_interval(n$ci_low, n$ci_high, ctx$conf_level), say_p(n$p_value))
  else sprintf("F(%s, %s) = %s, %s", say_number(n$df1), say_number(n$df2), say_number(n$statistic, 2), say_p(n$p_value))
}

say_slopes <- function(ctx, res) {
  t <- res$slopes$table
  if (is.null(t)) return(NULL)
  unit <- outcome_column(ctx)$unit
  sprintf("By %s: %s.", say_column(ctx$columns[[res$pair[[1]][2]]]),
          some_of(sprintf("at %s, %s %s (%s, %s)", t$at, t$term, vapply(t$estimate, function(v) with_unit(say_number(v), unit), ""),
                          mapply(function(l, h) say_interval(l, h, ctx$conf_level), t$ci_low, t$ci_high), vapply(t$p_value, say_p, "")), 8))
}

script_slopes <- function(res) {
  if (is.null(res$slopes)) return(NULL)
  w <- res$slopes$weights
  c("# effect of the first column at levels of the second: weighted sums of the coefficients",
    sprintf("w <- matrix(c(%s), %d, byrow = TRUE)", paste(as_r_number(as.vector(t(w))), collapse = ", "), nrow(w)),
    paste0("slope <- drop(w %*% beta); slope_se <- sqrt(rowSums((w %*% vcov(fit)) * w)); slope_half <- qt(1 - (1 - conf_level) / 2, ",
        "fit$df.residual) * slope_se"),
    paste0("tables$simple_slopes <- data.frame(estimate = slope, se = slope_se, statistic = slope / slope_se, p_value = 2 * pt(-abs(slope / ",
        "slope_se), fit$df.residual), ci_low = slope - slope_half, ci_high = slope + slope_half)"))
}
