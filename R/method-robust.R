# Regressions named by the analyst: robust, weighted, negative binomial.

fits_named_model <- function(shape, id, kinds) {
  ok <- identical(shape$method_asked, id) && shape$task %in% c("predict", "relate",
      "compare") && shape$n_outcome == 1 && (shape$predictors + shape$n_by) >= 1 && shape$outcome_kind %in% kinds
  if (ok) new_fit(40, "You asked for it.")
}

#' Numbers and coefficient table of a model with one row a term
#'
#' The answer is about the one coefficient that the question is about, or else about all coefficients asked about at once.
#' @param df Degrees of freedom of the coefficients, one for all or one each; NULL for z.
#' @param joint Function of rows of the table: the test of those coefficients together, as of [joint_wald()]; NULL where the
#'   method has none, and the answer is about the first coefficient.
#' @noRd
coefficient_result <- function(ctx, m, b, se, df, extra, ratio = NULL, profiled = NULL, joint = NULL, ...) {
  stat <- b / se
  quantile <- if (is.null(df)) stats::qnorm(1 - (1 - ctx$conf_level) / 2) else stats::qt(1 - (1 - ctx$conf_level) / 2, df)
  p <- if (is.null(df)) 2 * stats::pnorm(-abs(stat)) else 2 * stats::pt(-abs(stat), df)
  table <- data.frame(term = m$term, estimate = b, se = se, statistic = stat, p_value = p, ci_low = b - quantile * se,
      ci_high = b + quantile * se, stringsAsFactors = FALSE)
  if (!is.null(ratio)) { table[[ratio]] <- exp(b); table[[paste0(ratio, "_low")]] <- exp(table$ci_low)
  table[[paste0(ratio, "_high")]] <- exp(table$ci_high) }
  if (!is.null(profiled)) table <- cbind(table, profiled)
  focal <- focal_rows(ctx, m$source)
  together <- if (!is.null(joint) && length(focal) != 1 && length(m$term) > 2) asked_rows(ctx, m$source, focal)
  if (!is.null(together)) main <- c(joint(together), list(new_number("conf_level", "confidence level", ctx$conf_level)))
  else {
    if (length(focal) != 1) focal <- 2L
    main <- one_coefficient(table[focal, ], if (length(df) > 1) df[focal] else df, ratio, ctx$conf_level)
  }
  if (length(df) > 1) table$df <- df
  result(compact(c(main, extra)), tables = list(new_table("coefficients", sprintf("Coefficients for %s", outcome_name(ctx)), table)),
         row = if (is.null(together)) table[focal, ], together = together, term = m$term, x = m$x, ratio = ratio,
         profiled = !is.null(profiled), focal = if (is.null(together)) focal else integer(), ...)
}

one_coefficient <- function(row, df, ratio, conf_level) {
  compact(c(list(new_number("statistic", if (is.null(df)) "z" else "t", row$statistic),
                 if (!is.null(df)) new_number("df", "degrees of freedom", df), new_number("p_value", "p", row$p_value),
                 new_number("estimate", sprintf("coefficient of %s", row$term), row$estimate), new_number("se", "standard error", row$se),
                 new_number("ci_low", "lower limit", row$ci_low), new_number("ci_high", "upper limit", row$ci_high),
                 new_number("conf_level", "confidence level", conf_level)),
            if (!is.null(ratio)) lapply(c("", "_low", "_high"), function(s) new_number(paste0(ratio, s), gsub("_", " ", paste0(ratio, s)),
                                                                                      row[[paste0(ratio, s)]]))))
}

#' Rows of the coefficients that the question is about; all but the intercept where it names none of them
#' @noRd
asked_rows <- function(ctx, source, focal) {
  if (length(focal) > 1) return(focal)
  asked <- which(source %in% unique(c(ctx$reading$predictors, ctx$reading$by)))
  if (length(asked)) asked else seq_along(source)[-1]
}

#' Wald test of several coefficients together
#'
#' @param df Degrees of freedom of the denominator.
#' @section Shape: list of numbers statistic (F), df1, df2, p_value.
#' @noRd
joint_wald <- function(b, covariance, rows, df) {
  f <- drop(b[rows] %*% solve(covariance[rows, rows, drop = FALSE], b[rows])) / length(rows)
  joint_numbers(list(statistic = f, df1 = length(rows), df2 = df, p_value = stats::pf(f, length(rows), df, lower.tail = FALSE)))
}

joint_numbers <- function(test) {
  list(new_number("statistic", "F", test$statistic), new_number("df1", "degrees of freedom", test$df1),
       new_number("df2", "degrees of freedom of the denominator", test$df2), new_number("p_value", "p", test$p_value))
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
script_coefficients <- function(res, df, covariance = NULL, df2 = "df") {
  c(sprintf("stat <- b / se; %s",
      if (df) "q <- qt(1 - (1 - conf_level) / 2, df); p <- 2 * pt(-abs(stat), df)"
       else "q <- qnorm(1 - (1 - conf_level) / 2); p <- 2 * pnorm(-abs(stat))"),
    "tables <- list(coefficients = data.frame(estimate = b, se = se, statistic = stat, p_value = p, ci_low = b - q * se, ci_high = b + q * se))",
    if (!is.null(res$ratio)) sprintf(paste0("tables$coefficients[c(\"%s\", \"%s_low\", \"%s_high\")] <-",
        " exp(tables$coefficients[c(\"estimate\", \"ci_low\", \"ci_high\")])"), res$ratio, res$ratio, res$ratio),
    if (is.null(res$together)) sprintf("o <- tables$coefficients[%d, ]; numbers <- c(as.list(o), list(conf_level = conf_level%s))",
        match(res$row$term, res$term), if (df) sprintf(", df = rep_len(df, length(b))[%d]", match(res$row$term, res$term)) else "")
    else c("# the coefficients asked about, together",
           sprintf("k <- c(%s); %s", paste(res$together, collapse = ", "),
                   if (is.null(covariance)) "numbers <- list(conf_level = conf_level)"
                   else sprintf("V <- unname(as.matrix(%s))[k, k]; f <- drop(b[k] %%*%% solve(V, b[k])) / length(k); df2 <- %s", covariance, df2)),
           if (!is.null(covariance)) paste0("numbers <- list(statistic = f, df1 = length(k), df2 = df2, p_value = pf(f, length(k), df2, ",
                                            "lower.tail = FALSE), conf_level = conf_level)")))
}

#' @param extra Further sentences: texts. @param closing What the write-up adds before the rows left out.
#' @noRd
say_named_model <- function(ctx, res, what, extra, closing = "") {
  n <- res$number
  y <- say_column(outcome_column(ctx))
  clear <- isTRUE(n$p_value < 1 - ctx$conf_level)
  items <- say_coefficients(ctx, res)
  if (is.null(res$together)) headline <- sprintf("%s %s with %s.", capital(y),
      if (clear) (if (n$estimate > 0) "rises" else "falls") else "does not clearly change", say_one_coefficient(ctx, res))
  else {
    about <- say_asked_columns(ctx, res)
    headline <- sprintf("%s %s %s%s: %s.", capital(some_of(about$asked, 5)), joint_verb(clear, length(about$asked)), y, about$held, say_joint(n))
  }
  list(headline = headline,
       details = c(if (!is.null(res$together)) utils::head(items, 8), extra, say_rows(ctx)),
       write_up = sprintf("%s of %s (n = %s): %s.%s%s", what, y, say_number(n$n), paste(items, collapse = "; "),
                          if (is.null(res$together)) "" else sprintf(" Together: %s.", say_joint(n)),
                          paste0(closing, write_rows(ctx))))
}

#' The columns that a joint test is about, and those held constant
#' @noRd
say_asked_columns <- function(ctx, res) {
  asked <- intersect(unique(c(ctx$reading$predictors, ctx$reading$by)), names(res$columns))
  if (isTRUE(ctx$reading$extra$interaction) || !length(asked)) return(list(asked = res$term[res$together], held = ""))
  list(asked = vapply(ctx$columns[asked], say_column, "", USE.NAMES = FALSE), held = say_held(ctx, setdiff(names(res$columns), asked)))
}

say_held <- function(ctx, columns) {
  if (!length(columns)) return("")
  sprintf(", with %s held constant", some_of(vapply(ctx$columns[columns], say_column, ""), 5))
}

say_joint <- function(n) {
  if (is.null(n$df1)) return(sprintf("chi-square(%s) = %s, %s", say_df(n$df), say_number(n$statistic, 2), say_p(n$p_value)))
  sprintf("F(%s, %s) = %s, %s", say_df(n$df1), say_df(n$df2), say_number(n$statistic, 2), say_p(n$p_value))
}

say_one_coefficient <- function(ctx, res) {
  n <- res$number
  size <- if (is.null(res$ratio)) sprintf("%s (%s)", with_unit(say_number(n$estimate), outcome_column(ctx)$unit),
                                          say_interval(n$ci_low, n$ci_high, ctx$conf_level))
    else { r <- say_ratio(n, res$ratio, ctx$conf_level)
      sprintf("%s %s (%s)", gsub("_", " ", res$ratio), r$value, r$interval) }
  sprintf("%s: %s, %s", res$row$term, size, say_p(n$p_value))
}

#' Every coefficient but the intercept in a clause: its ratio where the model has one, else the coefficient itself
#' @noRd
say_coefficients <- function(ctx, res) {
  t <- asked_coefficients(res)
  # what repeats other columns has none
  t <- t[!is.na(t$estimate), ]
  if (is.null(res$ratio)) {
    value <- sprintf("b = %s", say_number(t$estimate))
    interval <- mapply(function(l, h) say_interval(l, h, ctx$conf_level), t$ci_low, t$ci_high)
  } else {
    r <- say_ratio(t, res$ratio, ctx$conf_level)
    value <- sprintf("%s %s", gsub("_", " ", res$ratio), r$value); interval <- r$interval
  }
  said <- sprintf("%s: %s, %s, %s", t$term, value, interval, vapply(t$p_value, say_p, ""))
  ifelse(is.infinite(t$estimate), sprintf("%s: no finite estimate (it runs off to %s)", t$term, ifelse(t$estimate > 0, "infinity", "zero")), said)
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
                         joint = function(rows) joint_wald(fit$coefficients, fit$covariance, rows, fit$df),
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
        "b <- unname(coef(fit)); se <- unname(s$coefficients[, 2]); n <- length(y); df <- n - length(b)",
        script_coefficients(res, TRUE, "s$stddev^2 * s$cov.unscaled"),
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
                         joint = function(rows) joint_wald(fit$coefficients, fit$unscaled * fit$sigma^2, rows, fit$df),
                         fit = fit, columns = m$columns, factors = m$factors, pair = m$pair)
    },
    checks = function(ctx, res) list(check_independent_rows(ctx$unit_values,
        ctx$unit_name)), second = "linear_regression",
    figure = function(ctx, res) if (length(res$fit$fitted) == length(ctx$frame$rows)) figure_fitted(ctx, res$fit$fitted, outcome_name(ctx),
      sprintf("%s: observed against fitted", capital(say_column(outcome_column(ctx))))),
    sentences = function(ctx, res) say_named_model(ctx, res, "Weighted least squares", sprintf("Rows are weighted by %s.", ctx$weight_name)),
    script = function(ctx, res) {
      m <- script_model_columns(ctx, res)
      c(sprintf("y <- %s; w <- %s; w[is.na(w) | w <= 0] <- NA", script_value(outcome_name(ctx)),
          script_value(ctx$weight_name)), m$set, sprintf("fit <- lm(y ~ %s, weights = w); s <- summary(fit)", m$formula),
        "b <- unname(coef(fit)); se <- unname(s$coefficients[, 2]); df <- fit$df.residual", script_coefficients(res,
            TRUE, "vcov(fit)"), "numbers <- c(numbers, list(r_squared = s$r.squared, sigma = s$sigma, n = df + length(b)))")
    },
    references = "Draper, N. R., & Smith, H. (1998). Applied Regression Analysis (3rd ed.), ch. 9. Wiley.", next_steps = function(ctx,
        res) sprintf("Describe %s", outcome_name(ctx)))
}

#' Likelihood-ratio test of several coefficients of a negative binomial model
#' @noRd
nb_joint <- function(x, y, rows, fit, offset = 0) {
  likelihood_ratio_numbers(2 * (fit$log_likelihood - nb_profile(x[, -rows, drop = FALSE], y, offset)$log_likelihood), length(rows))
}

script_negative_binomial_joint <- function() {
  c("fewer <- y ~ 0 + x[, -k, drop = FALSE]; fewer_theta <- solve_theta(fewer); part <- refine(fit_at(fewer_theta, fewer), fewer_theta)",
    paste0("lr <- 2 * (ll - sum(dnbinom(y, size = fewer_theta, mu = part$mu, log = TRUE))); numbers <- c(numbers, list(statistic = lr, ",
           "df = length(k), p_value = pchisq(lr, length(k), lower.tail = FALSE)))"))
}

#' Script lines for the profile limits of a negative binomial model
#' @noRd
script_negative_binomial_profile <- function() {
  c("# limits at which the deviance has risen by the chi-square quantile, theta at its best beside every value",
    "best_without <- function(j, v) {",
    paste0("  at <- function(t) glm.fit(x[, -j, drop = FALSE], y, offset = off + x[, j] * v, family = MASS::negative.binomial(t), ",
           "control = list(epsilon = 1e-14, maxit = 100))$fitted.values"),
    "  slope <- function(l) score_at(exp(l), at(exp(l)))",
    "  t <- exp(uniroot(slope, c(-6, 10), tol = 1e-13, maxiter = 300)$root); sum(dnbinom(y, size = t, mu = at(t), log = TRUE)) }",
    "limit <- function(j, side) { above <- function(v) 2 * (ll - best_without(j, v)) - qchisq(conf_level, 1)",
    script_profile_walk("b[j]", "se[j]"),
    "tables$coefficients$profile_low <- profile(-1); tables$coefficients$profile_high <- profile(1)")
}

#' @noRd
method_negative_binomial_regression <- function() {
  new_method(
    id = "negative_binomial_regression", name = "Negative binomial regression", tasks = "predict",
    fits = function(shape) {
      asked <- fits_named_model(shape, "negative_binomial_regression", "count")
      beside <- identical(shape$method_asked, "poisson_regression") || isTRUE(shape$offset)
      # beside a Poisson model it shows what more spread would change
      if (is.null(asked) && beside && shape$task == "predict" && shape$n_outcome == 1 && shape$outcome_kind == "count")
        new_fit(5, "Counts may spread more than a Poisson model allows.") else asked
    },
    compute = function(ctx) {
      m <- named_model(ctx)
      offset <- log_exposure(ctx)
      fit <- stat_negative_binomial(m$x, m$y, offset)
      chi <- 2 * (fit$log_likelihood - fit$null_log_likelihood); df <- ncol(m$x) - 1
      profiled <- if (nrow(m$x) * ncol(m$x)^2 <= 5000) ratio_limits_table(stat_negative_binomial_limits(m$x, m$y, fit, ctx$conf_level,
                                                                                                             offset))
      coefficient_result(ctx, m, fit$coefficients, fit$se, NULL,
          list(new_number("theta", "theta (size)", fit$theta),
          new_number("log_likelihood", "log likelihood", fit$log_likelihood), new_number("aic", "AIC", fit$aic),
                         new_number("bic", "BIC", fit$bic), new_number("likelihood_ratio",
                             "likelihood ratio chi-square of the model", chi), new_number("model_df", "its degrees of freedom", df),
                         new_number("model_p", "its p", stats::pchisq(chi, df,
                             lower.tail = FALSE)), new_number("dispersion", "Pearson chi-square over its degrees of freedom",
                                 fit$pearson), new_number("n", "rows used", fit$n)),
                         ratio = "rate_ratio", profiled = profiled,
                         joint = function(rows) nb_joint(m$x, m$y, rows, fit, offset), fit = fit,
                          columns = m$columns, factors = m$factors, pair = m$pair, predictors = names(m$columns))
    },
    checks = function(ctx, res) list(check_independent_rows(ctx$unit_values, ctx$unit_name),
        check_dispersion(res$fit$pearson, "negative binomial"), check_zeros(as_plain_number(outcome_values(ctx)), res$fit$fitted, res$fit$theta)),
        second = "poisson_regression",
    figure = function(ctx, res) draw_ratios(ctx, res$tables[[1]]$data[-1, ], "rate_ratio", "Rate ratio",
        sprintf("Rate ratios for %s", say_column(outcome_column(ctx))), "tables$coefficients[-1, ]", res$term[-1]),
    sentences = function(ctx, res) say_named_model(ctx, res, "Negative binomial regression",
        c(sprintf("Whole model: chi-square(%s) = %s, %s; theta %s.", say_df(res$number$model_df), say_number(res$number$likelihood_ratio, 2),
                  say_p(res$number$model_p), say_number(res$number$theta, 2)), say_profile(ctx, res))),
    script = function(ctx, res) {
      m <- script_model_columns(ctx, res)
      c(sprintf("y <- %s; n <- length(y); off <- %s", script_value(outcome_name(ctx)),
                if (is.null(ctx$reading$extra$offset)) "rep(0, n)" else sprintf("log(%s)", script_value(ctx$reading$extra$offset))), m$set,
        "# for a given theta the model is a glm; theta is where its score is zero",
        sprintf(paste0("fit_at <- function(theta, rule) glm(rule, family = MASS::negative.binomial(theta), offset = off,",
            " control = glm.control(epsilon = 1e-14, maxit = 100)); model <- y ~ %s"), m$formula),
        "# more steps on the coefficients: glm() stops when its deviance does",
        "refine <- function(fit, t) { x <- model.matrix(fit); b <- unname(coef(fit))",
        "  for (i in 1:25) { eta <- drop(x %*% b); mu <- exp(eta + off); w <- mu / (1 + mu / t)",
        "    b <- drop(solve(crossprod(x, x * w), crossprod(x, w * (eta + (y - mu) / mu)))) }",
        "  list(x = x, b = b, mu = exp(drop(x %*% b) + off)) }",
        "score_at <- function(t, mu) t * sum(digamma(y + t) - digamma(t) + log(t) + 1 - log(t + mu) - (y + t) / (mu + t))",
        "score <- function(l, rule) score_at(exp(l), refine(fit_at(exp(l), rule), exp(l))$mu)",
        paste0("solve_theta <- function(rule) exp(uniroot(score, c(-6, 10), rule = rule, tol = 1e-13,",
            " maxiter = 300)$root); theta <- solve_theta(model)"),
        "best <- refine(fit_at(theta, model), theta); x <- unname(best$x); b <- best$b; mu <- best$mu",
        paste0("null_theta <- solve_theta(y ~ 1); ll <- sum(dnbinom(y, size = theta, mu = mu, log = TRUE));",
            " null <- sum(dnbinom(y, size = null_theta, mu = refine(fit_at(null_theta, y ~ 1), null_theta)$mu, log = TRUE))"),
        "b <- unname(b); se <- unname(sqrt(diag(solve(crossprod(x, x * (mu / (1 + mu / theta)))))))", script_coefficients(res, FALSE),
        if (!is.null(res$together)) script_negative_binomial_joint(),
        if (res$profiled) script_negative_binomial_profile(),
        paste0("k <- length(b) + 1; chi <- 2 * (ll - null); numbers <- c(numbers, list(theta = theta,",
            " log_likelihood = ll, aic = -2 * ll + 2 * k, bic = -2 * ll + log(n) * k, likelihood_ratio =",
            " chi, model_df = length(b) - 1,"),
        "  model_p = pchisq(chi, length(b) - 1, lower.tail = FALSE), dispersion = sum((y - mu)^2 / (mu + mu^2 / theta)) / (n - length(b)), n = n))")
    },
    references = paste0("Lawless, J. F. (1987). Negative binomial and mixed Poisson regression. Canadian",
        " Journal of Statistics, 15, 209-225."), next_steps = function(ctx, res) sprintf("Describe %s", outcome_name(ctx)))
}
