# A bent relation of two numbers: powers of the predictor by least squares.

#' @noRd
method_polynomial_regression <- function() {
  new_method(
    id = "polynomial_regression", name = "Polynomial regression", tasks = c("predict", "relate"),
    fits = function(shape) {
      if (!shape$task %in% c("predict", "relate") || shape$n_outcome != 1 || shape$predictors != 1 || shape$n_by > 0 ||
          !shape$outcome_kind %in% c("number", "count", "ordered") || !all(shape$predictor_kinds %in% c("number", "count", "ordered"))) return(NULL)
      new_fit(20, "You asked for a curve: powers of the predictor are fitted by least squares.")
    },
    compute = compute_polynomial,
    checks = function(ctx, res) if (isTRUE(res$fit$exact)) checks_of_exact(ctx, res) else list(check_independent_rows(ctx$unit_values, ctx$unit_name),
        check_residual_spread(res$x, res$fit$residuals), check_residual_normal(res$fit$residuals),
                                     check_influence_fit(res$fit), check_sample_size(res$fit)),
    second = "linear_regression", figure = function(ctx, res) figure_curve(ctx, res), sentences = say_polynomial,
    script = function(ctx, res) c(sprintf("y <- %s; x <- %s", script_value(outcome_name(ctx)), script_value(ctx$reading$predictors)),
      sprintf("fit <- lm(y ~ poly(x, %d, raw = TRUE)); line <- lm(y ~ x)", res$degree),
      "# an orthogonal basis loses no digits; the model is the same",
      sprintf("safe <- lm(y ~ poly(x, %d)); tables <- list(); n <- length(y); df <- safe$df.residual", res$degree),
      script_without_rounding(res$fit), script_without_rounding(res$fit, "safe"), script_without_rounding(res$line, "line"),
      script_bend(res$line, "safe"),
      "b <- unname(coef(fit)); se <- unname(s$coefficients[, 2]); half <- qt(1 - (1 - conf_level) / 2, df) * se",
      paste0("tables$coefficients <- data.frame(estimate = b, se = se, statistic = b / se, p_value = 2 *",
          " pt(-abs(b / se), df), ci_low = b - half, ci_high = b + half)"),
      "f <- summary(safe)$fstatistic",
      paste0("numbers <- list(statistic = f[[1]], df1 = f[[2]], df2 = f[[3]], p_value = pf(f[[1]], f[[2]],",
          " f[[3]], lower.tail = FALSE), conf_level = conf_level, r_squared = summary(safe)$r.squared,"),
      paste0("  adj_r_squared = summary(safe)$adj.r.squared, sigma = summary(safe)$sigma, bend_f =",
          " bend$F[2], bend_p = bend$`Pr(>F)`[2], r_squared_line = summary(line)$r.squared,"),
      "  aic = AIC(safe), bic = BIC(safe), n = n)", if (!is.null(res$turn)) "numbers$turning_point <- -b[2] / (2 * b[3])"),
    references = "Draper, N. R., & Smith, H. (1998). Applied Regression Analysis (3rd ed.), ch. 12. Wiley.",
    next_steps = function(ctx, res) sprintf("Predict %s from %s", outcome_name(ctx), ctx$reading$predictors))
}

compute_polynomial <- function(ctx) {
  x <- as_plain_number(ctx$frame$data[[ctx$reading$predictors]])
  y <- outcome_values(ctx)
  degree <- as.integer(ctx$reading$extra$degree %||% 2L)
  if (degree < 2 || degree > 10) stop_data("A polynomial here has a degree from 2 to 10.", class = "bad_degree")
  if (length(unique(x)) <= degree) stop_data(sprintf("A curve of degree %d needs more than %d different values of %s.",
      degree, degree, quoted(ctx$reading$predictors)), class = "too_few_rows")
  need_spread(stat_group_moments(y)[, "m2"])
  powers <- cbind(1, outer(x, seq_len(degree), "^"))
  out <- fit_without_rounding(powers, y)
  line <- fit_without_rounding(cbind(1, x), y)
  if (length(out$aliased)) stop_data("The powers cannot be told apart in these rows.", class = "collinear")
  term <- c("(intercept)", ctx$reading$predictors, sprintf("%s^%d", ctx$reading$predictors, seq_len(degree)[-1]))
  table <- coefficient_table(term, out$coefficients, out$se, out$df, ctx$conf_level)
  bend <- bend_beyond(line, out)
  turn <- if (degree == 2) -out$coefficients[2] / (2 * out$coefficients[3])
  result(compact(list(new_number("statistic", "F", out$statistic), new_number("df1", "df (curve)", out$df1),
      new_number("df2", "df (residual)", out$df2), new_number("p_value", "p", out$p_value),
              new_number("conf_level", "confidence level", ctx$conf_level), new_number("r_squared", "R squared",
                  out$r_squared), new_number("adj_r_squared", "adjusted R squared", out$adj_r_squared),
              new_number("sigma", "residual standard deviation", out$sigma), new_number("bend_f", "F of the bend beyond a straight line", bend),
              new_number("bend_p", "p of the bend", stats::pf(bend, degree - 1, out$df,
                  lower.tail = FALSE)), new_number("r_squared_line", "R squared of the straight line", line$r_squared),
              new_number("aic", "AIC", out$aic), new_number("bic", "BIC", out$bic), new_number("n", "rows used",
                  out$n), if (!is.null(turn)) new_number("turning_point", "turning point", turn))),
         tables = list(new_table("coefficients", sprintf("Coefficients for %s", outcome_name(ctx)),
             table)), fit = out, line = line, x = powers, degree = degree, turn = turn, predictor = x, direction = NA_real_)
}

say_polynomial <- function(ctx, res) {
  n <- res$number
  y <- say_column(outcome_column(ctx)); x <- say_column(ctx$columns[[ctx$reading$predictors]])
  name <- c("quadratic", "cubic")[res$degree - 1]
  name <- if (is.na(name)) sprintf("curve of degree %d", res$degree) else name
  bent <- isTRUE(n$bend_p < 1 - ctx$conf_level)
  turns <- !is.null(res$turn) && res$turn > min(res$predictor) && res$turn < max(res$predictor)
  list(headline = sprintf("A %s of %s explains %s of the spread of %s (a straight line %s): the bend is %s, %s.", name,
      x, say_percent(n$r_squared, 1), y, say_percent(n$r_squared_line, 1),
                          if (bent) "clear" else "not clear", say_p(n$bend_p)),
       details = c(if (isTRUE(res$fit$exact)) says_exact(), if (turns) sprintf("The curve turns at %s = %s.", x, say_number(n$turning_point)),
           sprintf("The residual standard deviation is %s.", with_unit(say_number(n$sigma), outcome_column(ctx)$unit)),
                   "Beyond the values seen here a polynomial runs off quickly.", say_rows(ctx)),
       write_up = sprintf("%s was regressed on a %s of %s: R2 = %s, F(%s, %s) = %s, %s; the bend beyond a straight line, F = %s, %s (n = %s).%s",
           capital(y), name, x, say_unit(n$r_squared),
                          say_df(n$df1), say_df(n$df2), say_number(n$statistic,
                              2), say_p(n$p_value), say_number(n$bend_f, 2), say_p(n$bend_p), say_number(n$n), write_rows(ctx)))
}

#' Points with a fitted curve and its band
#' @noRd
figure_curve <- function(ctx, res) {
  xname <- ctx$reading$predictors; yname <- outcome_name(ctx)
  title <- sprintf("%s against %s, with a curve of degree %d", capital(say_column(ctx$columns[[yname]])),
      say_column(ctx$columns[[xname]]), res$degree)
  at <- seq(min(res$predictor), max(res$predictor), length.out = 120)
  grid <- cbind(1, outer(at, seq_len(res$degree), "^"))
  fit <- drop(grid %*% res$fit$coefficients)
  half <- stats::qt(1 - (1 - ctx$conf_level) / 2, res$fit$df) * res$fit$sigma * sqrt(pmax(0, rowSums((grid %*% res$fit$unscaled) * grid)))
  d <- data.frame(x = res$predictor, y = outcome_values(ctx)); band <- data.frame(x = at, fit = fit, low = fit - half, high = fit + half)
  new_figure("curve", title, "scatter", subtitle = sprintf("Curve: least squares with its %s band.",
      say_level(ctx$conf_level)), alt = sprintf("%s: points and a bent line.", title),
    draw = function() draw_curve(d, band, axis_label(ctx$columns[[xname]]), axis_label(ctx$columns[[yname]])),
    script = c("plot_data <- data.frame(x = x, y = y)",
               sprintf(paste0("plot <- ggplot(plot_data, aes(x, y)) + geom_point() + geom_smooth(method =",
                   " \"lm\", formula = y ~ poly(x, %d)) + labs(title = %s) + theme_minimal()"), res$degree, as_r_string(title))))
}
