#' @noRd
method_weighted_regression <- function() {
  new_method(
    id = "weighted_regression", weights = TRUE, name = "Weighted regression, design-based errors", tasks = c("predict", "relate", "compare"),
    fits = function(shape) {
      linear <- fits_linear(shape)
      two <- shape$task == "predict" && shape$n_outcome == 1 && shape$predictors + shape$n_by >= 1 &&
        (shape$outcome_kind == "yes_no" || isTRUE(shape$two_valued))
      if (isTRUE(shape$weighted) && is.null(shape$method_asked) && (two || (!is.null(linear) && shape$outcome_kind %in% c("number", "count"))))
        new_fit(96, "Weights are declared, so the coefficients and their errors respect them.")
    },
    compute = compute_weighted_model, checks = sampling_checks,
    second = c("linear_regression", "logistic_regression"),
    figure = function(ctx, res) if (res$logistic) figure_ratios(ctx, res)
      else figure_fitted(ctx, res$fitted, outcome_name(ctx), sprintf("%s: observed against fitted", capital(say_column(outcome_column(ctx))))),
    sentences = function(ctx, res) say_named_model(ctx, res, sprintf("A weighted %s regression", if (res$logistic) "logistic" else "least-squares"),
                                                   c(if (res$logistic) sprintf("Odds are those of %s.", res$event), say_sampling(ctx, res))),
    script = script_weighted_model,
    references = c(sampling_references(), paste0("Binder, D. A. (1983). On the variances of asymptotically normal estimators from complex surveys. ",
                                                 "International Statistical Review, 51, 279-292.")),
    next_steps = function(ctx, res) sprintf("Describe %s", outcome_name(ctx)))
}

compute_weighted_model <- function(ctx) {
  s <- sampling_of(ctx)
  logistic <- !ctx$columns[[outcome_name(ctx)]]$kind %in% c("number", "count") || length(unique(ctx$frame$data[[outcome_name(ctx)]])) == 2
  o <- if (logistic) model_outcome(ctx, "binomial") else list(y = outcome_values(ctx))
  columns <- need_two_levels(model_columns(ctx))
  pair <- interaction_pair(ctx, columns)
  m <- stat_model_matrix(columns, pair)
  need_spread(stat_group_moments(o$y)[, "m2"])
  fit <- stat_weighted_model(m$x, o$y, s$w, if (logistic) "binomial" else "gaussian", s$cluster, s$strata, s$absent)
  coefficient_result(ctx, m, fit$coefficients, fit$se, fit$df,
                     c(list(if (!logistic) new_number("r_squared", "R squared, weighted", fit$r_squared), new_number("n", "rows used", fit$n)),
                       sampling_numbers(s, fit)),
                     ratio = if (logistic) "odds_ratio", joint = function(rows) joint_wald(fit$coefficients, fit$covariance, rows, fit$df),
                     fitted = fit$fitted, logistic = logistic, event = o$event, columns = columns,
                     factors = vapply(columns, is.factor, NA), pair = pair)
}

script_weighted_model <- function(ctx, res) {
  m <- script_model_columns(ctx, res)
  c(script_model_outcome(ctx, if (res$logistic) res$event), m$set, script_sampling(ctx), "v <- w / mean(w)",
    if (res$logistic) sprintf("fit <- glm(y ~ %s, family = quasibinomial, weights = v, control = glm.control(epsilon = 1e-14, maxit = 100))",
        m$formula)
    else sprintf("fit <- lm(y ~ %s, weights = v)", m$formula),
    sprintf("x <- model.matrix(fit); mu <- unname(fitted(fit)); spread <- %s", if (res$logistic) "v * mu * (1 - mu)" else "v"),
    "bread <- solve(crossprod(x, spread * x)); e <- total_covariance(x * (v * (y - mu)))",
    "b <- unname(coef(fit)); se <- unname(sqrt(diag(bread %*% e$v %*% bread))); df <- e$df - (ncol(x) - 1)",
    script_coefficients(res, TRUE, "bread %*% e$v %*% bread"),
    sprintf("numbers <- c(numbers, list(%sn = length(y), %s))", if (res$logistic) "" else "r_squared = summary(fit)$r.squared, ",
            sampling_script_numbers(ctx)))
}
