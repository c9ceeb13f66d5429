# A smooth curve of one predictor.

#' @noRd
method_spline_regression <- function() {
  new_method(
    id = "spline_regression", name = "Natural cubic spline regression", tasks = c("predict", "relate"),
    fits = function(shape) if (shape$predictors == 1) fits_named_model(shape, "spline_regression", c("number", "count", "ordered")),
    compute = function(ctx) {
      x <- as_plain_number(ctx$frame$data[[ctx$reading$predictors]]); y <- outcome_values(ctx)
      if (length(unique(x)) < 6) stop_data("A spline needs at least six different values of the predictor.", class = "too_few_rows")
      df <- ctx$reading$extra$spline_df %||% 4L
      if (length(unique(x)) <= df + 1) stop_data(sprintf("A curve of %d degrees of freedom needs more than %d different values of the predictor.", df,
                                                         df + 1L), class = "too_few_rows")
      basis <- function(at) cbind(1, natural_spline(x, df, at))
      fit <- fit_without_rounding(scale_columns(basis(x)), y)
      line <- fit_without_rounding(cbind(1, x), y)
      bend <- bend_beyond(line, fit)
      at <- as.vector(stat_group_quantiles(x, probs = c(0.05, 0.25, 0.5, 0.75, 0.95)))
      size <- sqrt(colSums(basis(x)^2))
      predicted <- drop(sweep(basis(at), 2, size, "/") %*% fit$coefficients)
      result(list(new_number("statistic", "F", fit$statistic), new_number("df1", "df (curve)", fit$df1),
          new_number("df2", "df (residual)", fit$df2), new_number("p_value", "p", fit$p_value), new_number("conf_level",
          "confidence level", ctx$conf_level),
                  new_number("r_squared", "R squared", fit$r_squared), new_number("adj_r_squared", "adjusted R squared",
                      fit$adj_r_squared), new_number("sigma", "residual standard deviation", fit$sigma),
                  new_number("bend_f", "F of the bend beyond a straight line", bend), new_number("bend_p",
                      "p of the bend", stats::pf(bend, line$df - fit$df, fit$df, lower.tail = FALSE)),
                  new_number("r_squared_line", "R squared of the straight line", line$r_squared), new_number("n", "rows used", fit$n)),
             tables = list(new_table("fitted", "Fitted values at the 5th, 25th, 50th, 75th and 95th percentile",
                 data.frame(at = at, fitted = predicted))), df = df, fit = fit, line = line, predictor = x,
             basis = basis, size = size, direction = NA_real_)
    },
    checks = function(ctx, res) if (isTRUE(res$fit$exact)) checks_of_exact(ctx, res) else list(check_independent_rows(ctx$unit_values, ctx$unit_name),
        check_residual_normal(res$fit$residuals), check_sample_size(res$fit)), second = "linear_regression",
    figure = function(ctx, res) figure_spline(ctx, res),
    sentences = function(ctx, res) {
      n <- res$number; y <- say_column(outcome_column(ctx)); x <- say_column(ctx$columns[[ctx$reading$predictors]])
      t <- res$tables[[1]]$data; unit <- outcome_column(ctx)$unit
      bent <- isTRUE(n$bend_p < 1 - ctx$conf_level)
      list(headline = sprintf("A smooth curve of %s explains %s of the spread of %s (a straight line %s): the bend is %s, %s.",
          x, say_percent(n$r_squared, 1), y, say_percent(n$r_squared_line, 1), if (bent) "clear" else "not clear", say_p(n$bend_p)),
           details = c(if (isTRUE(res$fit$exact)) says_exact(),
           sprintf("Fitted: %s.", paste(sprintf("%s at %s", with_unit(say_number(t$fitted), unit),
               say_number(t$at)), collapse = ", ")), say_rows(ctx)),
           write_up = sprintf(paste0("%s was regressed on a natural cubic spline of %s (%s df): R2 = %s,",
               " F(%s, %s) = %s, %s; the bend beyond a straight line, F = %s, %s (n = %s).%s"), capital(y), x, say_number(res$df),
                   say_unit(n$r_squared), say_df(n$df1),
                              say_df(n$df2), say_number(n$statistic, 2), say_p(n$p_value), say_number(n$bend_f,
                                  2), say_p(n$bend_p), say_number(n$n), write_rows(ctx)))
    },
    script = function(ctx, res) c(sprintf("y <- %s; x <- %s; n <- length(y)", script_value(outcome_name(ctx)), script_value(ctx$reading$predictors)),
      paste0(sprintf("knots <- unique(quantile(x, 1:%d / %d)); ", res$df - 1L, res$df), "knots <- knots[knots > min(x) & knots < max(x)]; fit",
          " <- lm(y ~ splines::ns(x, knots = knots, Boundary.knots = range(x))); line <- lm(y ~ x)"),
      script_without_rounding(res$fit), script_without_rounding(res$line, "line"), script_bend(res$line),
      paste0("at <- unname(quantile(x, c(0.05, 0.25, 0.5, 0.75, 0.95))); tables <- list(fitted =",
          " data.frame(at = at, fitted = unname(predict(fit, data.frame(x = at))))); f <- s$fstatistic"),
      paste0("numbers <- list(statistic = f[[1]], df1 = f[[2]], df2 = f[[3]], p_value = pf(f[[1]], f[[2]],",
          " f[[3]], lower.tail = FALSE), conf_level = conf_level, r_squared = s$r.squared, adj_r_squared",
          " = s$adj.r.squared, sigma = s$sigma,"),
      "  bend_f = bend$F[2], bend_p = bend$`Pr(>F)`[2], r_squared_line = summary(line)$r.squared, n = n)"),
    references = paste0("Hastie, T., Tibshirani, R., & Friedman, J. (2009). The Elements of Statistical",
        " Learning (2nd ed.), ch. 5. Springer."), next_steps = function(ctx, res) sprintf("Predict %s from %s", outcome_name(ctx),
            ctx$reading$predictors))
}

scale_columns <- function(x) sweep(x, 2, sqrt(colSums(x^2)), "/")

figure_spline <- function(ctx, res) {
  at <- seq(min(res$predictor), max(res$predictor), length.out = 150)
  grid <- sweep(res$basis(at), 2, res$size, "/")
  fit <- drop(grid %*% res$fit$coefficients)
  half <- stats::qt(1 - (1 - ctx$conf_level) / 2, res$fit$df) * res$fit$sigma * sqrt(pmax(0, rowSums((grid %*% res$fit$unscaled) * grid)))
  xname <- ctx$reading$predictors; yname <- outcome_name(ctx)
  title <- sprintf("%s against %s, with a smooth curve", capital(say_column(ctx$columns[[yname]])), say_column(ctx$columns[[xname]]))
  d <- data.frame(x = res$predictor, y = outcome_values(ctx)); band <- data.frame(x = at, fit = fit, low = fit - half, high = fit + half)
  new_figure("curve", title, "scatter", subtitle = sprintf("Curve: natural cubic spline with its %s band.",
      say_level(ctx$conf_level)), alt = sprintf("%s: points and a smooth line.", title),
    draw = function() draw_curve(d, band, axis_label(ctx$columns[[xname]]), axis_label(ctx$columns[[yname]])),
    script = c("plot_data <- data.frame(x = x, y = y)",
        sprintf(paste0("plot <- ggplot(plot_data, aes(x, y)) + geom_point() + geom_smooth(method = \"lm\",",
            " formula = y ~ splines::ns(x, %d)) + labs(title = %s) + theme_minimal()"), res$df, as_r_string(title))))
}
