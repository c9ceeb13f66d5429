# Regressions named by the analyst: robust, weighted, negative binomial.

fits_named_model <- function(shape, id, kinds) {
  ok <- identical(shape$method_asked, id) && shape$task %in% c("predict", "relate",
      "compare") && shape$n_outcome == 1 && (shape$predictors + shape$n_by) >= 1 && shape$outcome_kind %in% kinds
  if (ok) new_fit(40, "You asked for it.")
}

#' Numbers and coefficient table of a model with one row a term
#' @noRd
coefficient_result <- function(ctx, m, b, se, df, extra, ratio = NULL, ...) {
  stat <- b / se
  quantile <- if (is.null(df)) stats::qnorm(1 - (1 - ctx$conf_level) / 2) else stats::qt(1 - (1 - ctx$conf_level) / 2, df)
  p <- if (is.null(df)) 2 * stats::pnorm(-abs(stat)) else 2 * stats::pt(-abs(stat), df)
  table <- data.frame(term = m$term, estimate = b, se = se, statistic = stat, p_value = p, ci_low = b - quantile * se,
      ci_high = b + quantile * se, stringsAsFactors = FALSE)
  if (!is.null(ratio)) { table[[ratio]] <- exp(b); table[[paste0(ratio, "_low")]] <- exp(table$ci_low)
  table[[paste0(ratio, "_high")]] <- exp(table$ci_high) }
  focal <- focal_rows(ctx, m$source)
  at <- if (length(focal) == 1) focal else 2L
  row <- table[at, ]
  # each coefficient may have degrees of freedom of its own
  if (length(df) > 1) { table$df <- df; df <- df[at] }
  main <- list(new_number("statistic", if (is.null(df)) "z" else "t", row$statistic),
      if (!is.null(df)) new_number("df", "degrees of freedom", df), new_number("p_value", "p", row$p_value),
               new_number("estimate", sprintf("coefficient of %s", row$term), row$estimate), new_number("se",
                   "standard error", row$se), new_number("ci_low", "lower limit", row$ci_low),
               new_number("ci_high", "upper limit", row$ci_high), new_number("conf_level", "confidence level", ctx$conf_level))
  ratios <- if (!is.null(ratio)) lapply(c("", "_low", "_high"),
      function(s) new_number(paste0(ratio, s), gsub("_", " ", paste0(ratio, s)), row[[paste0(ratio, s)]]))
  result(compact(c(main, ratios, extra)), tables = list(new_table("coefficients",
      sprintf("Coefficients for %s", outcome_name(ctx)), table)), row = row, term = m$term, x = m$x, ratio = ratio, ...)
}

#' Predictors of a named model with everything its script needs
#' @noRd
named_model <- function(ctx) {
  columns <- need_two_levels(model_columns(ctx))
  pair <- interaction_pair(ctx, columns)
  m <- stat_model_matrix(columns, pair)
  c(m, list(columns = columns, pair = pair, factors = vapply(columns, is.factor, NA), y = outcome_values(ctx)))
}

#' Lines that turn b, se and df into the coefficient table and the main numbers
#' @noRd
script_coefficients <- function(res, df) {
  c(sprintf("stat <- b / se; %s",
      if (df) "q <- qt(1 - (1 - conf_level) / 2, df); p <- 2 * pt(-abs(stat), df)"
       else "q <- qnorm(1 - (1 - conf_level) / 2); p <- 2 * pnorm(-abs(stat))"),
    "tables <- list(coefficients = data.frame(estimate = b, se = se, statistic = stat, p_value = p, ci_low = b - q * se, ci_high = b + q * se))",
    if (!is.null(res$ratio)) sprintf(paste0("tables$coefficients[c(\"%s\", \"%s_low\", \"%s_high\")] <-",
        " exp(tables$coefficients[c(\"estimate\", \"ci_low\", \"ci_high\")])"), res$ratio, res$ratio, res$ratio),
    sprintf("o <- tables$coefficients[%d, ]; numbers <- c(as.list(o), list(conf_level = conf_level%s))",
        match(res$row$term, res$term), if (df) sprintf(", df = rep_len(df, length(b))[%d]", match(res$row$term, res$term)) else ""))
}

say_named_model <- function(ctx, res, what, extra) {
  n <- res$number; unit <- if (is.null(res$ratio)) outcome_column(ctx)$unit
  y <- say_column(outcome_column(ctx))
  clear <- isTRUE(n$p_value < 1 - ctx$conf_level)
  size <- if (is.null(res$ratio)) sprintf("%s (%s)", with_unit(say_number(n$estimate), unit), say_interval(n$ci_low, n$ci_high, ctx$conf_level))
    else { r <- say_ratio(n, res$ratio, ctx$conf_level)
      sprintf("%s %s (%s)", gsub("_", " ", res$ratio), r$value, r$interval) }
  t <- res$tables[[1]]$data[-1, ]
  list(headline = sprintf("%s %s with %s: %s, %s.", capital(y),
      if (clear) (if (n$estimate > 0) "rises" else "falls") else "does not clearly change", res$row$term, size, say_p(n$p_value)),
       details = c(extra, say_rows(ctx)),
       write_up = sprintf("%s of %s (n = %s): %s.%s", what, y, say_number(n$n),
           paste(sprintf("%s: b = %s, %s, %s", t$term, say_number(t$estimate),
           mapply(function(l, h) say_interval(l, h, ctx$conf_level), t$ci_low, t$ci_high),
                          vapply(t$p_value, say_p, "")), collapse = "; "), write_rows(ctx)))
}

#' @noRd
method_robust_linear_regression <- function() {
  new_method(
    id = "robust_linear_regression", name = "Robust regression (Huber M-estimation)", tasks = "predict",
        fits = function(shape) fits_named_model(shape, "robust_linear_regression", c("number", "count", "ordered")),
    compute = function(ctx) {
      m <- named_model(ctx)
      fit <- stat_huber(m$x, m$y)
      coefficient_result(ctx, m, fit$coefficients, fit$se, fit$df,
          list(new_number("sigma", "robust scale of the residuals", fit$scale), new_number("n", "rows used", fit$n),
          new_number("reduced_rows", "rows with reduced weight", sum(fit$weights < 1))),
                         fit = fit, columns = m$columns, factors = m$factors, pair = m$pair)
    },
    checks = function(ctx, res) list(check_independent_rows(ctx$unit_values, ctx$unit_name)), second = "linear_regression",
    figure = function(ctx, res) figure_fitted(ctx, res$fit$fitted, outcome_name(ctx),
        sprintf("%s: observed against fitted", capital(say_column(outcome_column(ctx))))),
    sentences = function(ctx, res) say_named_model(ctx, res, "Robust regression",
        sprintf("%s far from the fit count less.", capital(count_of(res$number$reduced_rows, "row")))),
    script = function(ctx, res) {
      m <- script_model_columns(ctx, res)
      c(sprintf("y <- %s", script_value(outcome_name(ctx))), m$set,
          sprintf("fit <- MASS::rlm(y ~ %s, acc = 1e-14, maxit = 500, test.vec = \"coef\"); s <- summary(fit)", m$formula),
        "b <- unname(coef(fit)); se <- unname(s$coefficients[, 2]); n <- length(y); df <- n - length(b)", script_coefficients(res, TRUE),
        "numbers <- c(numbers, list(sigma = fit$s, n = n, reduced_rows = sum(fit$w < 1)))")
    },
    references = "Huber, P. J. (1981). Robust Statistics. Wiley.", next_steps = function(ctx,
        res) sprintf("Predict %s from %s", outcome_name(ctx), names(res$columns)[1]))
}

#' @noRd
method_weighted_linear_regression <- function() {
  new_method(
    id = "weighted_linear_regression", weights = TRUE, name = "Weighted least squares", tasks = "predict",
    fits = function(shape) if (isTRUE(shape$weighted)) fits_named_model(shape, "weighted_linear_regression", c("number", "count", "ordered")),
    compute = function(ctx) {
      m <- named_model(ctx)
      w <- ctx$weight_values
      ok <- !is.na(w) & w > 0
      m$x <- m$x[ok, , drop = FALSE]; m$y <- m$y[ok]
      fit <- stat_least_squares(m$x, m$y, w[ok])
      coefficient_result(ctx, m, fit$coefficients, fit$se, fit$df,
          list(new_number("r_squared", "R squared", fit$r_squared),
          new_number("sigma", "residual standard deviation at weight 1", fit$sigma), new_number("n", "rows used", fit$n)),
                         fit = fit, columns = m$columns, factors = m$factors, pair = m$pair)
    },
    checks = function(ctx, res) list(check_independent_rows(ctx$unit_values,
        ctx$unit_name)), second = "linear_regression", figure = function(ctx, res) NULL,
    sentences = function(ctx, res) say_named_model(ctx, res, "Weighted least squares", sprintf("Rows are weighted by %s.", ctx$weight_name)),
    script = function(ctx, res) {
      m <- script_model_columns(ctx, res)
      c(sprintf("y <- %s; w <- %s; w[is.na(w) | w <= 0] <- NA", script_value(outcome_name(ctx)),
          script_value(ctx$weight_name)), m$set, sprintf("fit <- lm(y ~ %s, weights = w); s <- summary(fit)", m$formula),
        "b <- unname(coef(fit)); se <- unname(s$coefficients[, 2]); df <- fit$df.residual", script_coefficients(res,
            TRUE), "numbers <- c(numbers, list(r_squared = s$r.squared, sigma = s$sigma, n = df + length(b)))")
    },
    references = "Draper, N. R., & Smith, H. (1998). Applied Regression Analysis (3rd ed.), ch. 9. Wiley.", next_steps = function(ctx,
        res) sprintf("Describe %s", outcome_name(ctx)))
}

#' @noRd
method_negative_binomial_regression <- function() {
  new_method(
    id = "negative_binomial_regression", name = "Negative binomial regression", tasks = "predict", fits = function(shape) fits_named_model(shape,
        "negative_binomial_regression", "count"),
    compute = function(ctx) {
      m <- named_model(ctx)
      fit <- stat_negative_binomial(m$x, m$y)
      chi <- 2 * (fit$log_likelihood - fit$null_log_likelihood); df <- ncol(m$x) - 1
      coefficient_result(ctx, m, fit$coefficients, fit$se, NULL,
          list(new_number("theta", "theta (size)", fit$theta),
          new_number("log_likelihood", "log likelihood", fit$log_likelihood), new_number("aic", "AIC", fit$aic),
                         new_number("bic", "BIC", fit$bic), new_number("likelihood_ratio",
                             "likelihood ratio chi-square of the model", chi), new_number("model_df", "its degrees of freedom", df),
                         new_number("model_p", "its p", stats::pchisq(chi, df,
                             lower.tail = FALSE)), new_number("dispersion", "Pearson chi-square over its degrees of freedom",
                                 fit$pearson), new_number("n", "rows used", fit$n)),
                         ratio = "rate_ratio", fit = fit, columns = m$columns, factors = m$factors, pair = m$pair, predictors = names(m$columns))
    },
    checks = function(ctx, res) list(check_independent_rows(ctx$unit_values, ctx$unit_name),
        check_dispersion(res$fit$pearson)), second = "poisson_regression",
    figure = function(ctx, res) draw_ratios(ctx, res$tables[[1]]$data[-1, ], "rate_ratio", "Rate ratio",
        sprintf("Rate ratios for %s", say_column(outcome_column(ctx))), "tables$coefficients[-1, ]", res$term[-1]),
    sentences = function(ctx, res) say_named_model(ctx, res, "Negative binomial regression",
        sprintf("Whole model: chi-square(%s) = %s, %s; theta %s.", say_df(res$number$model_df), say_number(res$number$likelihood_ratio, 2),
                                                                                                    say_p(res$number$model_p),
                                                                                                        say_number(res$number$theta, 2))),
    script = function(ctx, res) {
      m <- script_model_columns(ctx, res)
      c(sprintf("y <- %s; n <- length(y)", script_value(outcome_name(ctx))), m$set,
        "# for a given theta the model is a glm; theta is where its score is zero",
        sprintf(paste0("fit_at <- function(theta, rule) glm(rule, family = MASS::negative.binomial(theta),",
            " control = glm.control(epsilon = 1e-14, maxit = 100)); model <- y ~ %s"), m$formula),
        paste0("score <- function(l, rule) { t <- exp(l); mu <- fitted(fit_at(t, rule)); t * sum(digamma(y",
            " + t) - digamma(t) + log(t) + 1 - log(t + mu) - (y + t) / (mu + t)) }"),
        paste0("solve_theta <- function(rule) exp(uniroot(score, c(-6, 10), rule = rule, tol = 1e-13,",
            " maxiter = 300)$root); theta <- solve_theta(model); fit <- fit_at(theta, model); mu <-",
            " fitted(fit)"),
        "# three steps more on the coefficients: glm() stops when its deviance does",
        paste0("x <- model.matrix(fit); b <- unname(coef(fit)); for (i in 1:3) { eta <- drop(x %*% b); mu",
            " <- exp(eta); w <- mu / (1 + mu / theta); b <- drop(solve(crossprod(x, x * w), crossprod(x,",
            " w * (eta + (y - mu) / mu)))) }; mu <- exp(drop(x %*% b))"),
        paste0("null_theta <- solve_theta(y ~ 1); ll <- sum(dnbinom(y, size = theta, mu = mu, log = TRUE));",
            " null <- sum(dnbinom(y, size = null_theta, mu = mean(y), log = TRUE))"),
        "b <- unname(b); se <- unname(sqrt(diag(solve(crossprod(x, x * (mu / (1 + mu / theta)))))))", script_coefficients(res, FALSE),
        paste0("k <- length(b) + 1; chi <- 2 * (ll - null); numbers <- c(numbers, list(theta = theta,",
            " log_likelihood = ll, aic = -2 * ll + 2 * k, bic = -2 * ll + log(n) * k, likelihood_ratio =",
            " chi, model_df = length(b) - 1,"),
        "  model_p = pchisq(chi, length(b) - 1, lower.tail = FALSE), dispersion = sum((y - mu)^2 / (mu + mu^2 / theta)) / (n - length(b)), n = n))")
    },
    references = paste0("Lawless, J. F. (1987). Negative binomial and mixed Poisson regression. Canadian",
        " Journal of Statistics, 15, 209-225."), next_steps = function(ctx, res) sprintf("Describe %s", outcome_name(ctx)))
}
