# Counts out of totals ("deaths out of exposed"), each row a group: a logistic regression that weighs rows by their totals.

#' @noRd
method_grouped_logistic <- function() new_grouped_logistic("grouped_logistic", "Logistic regression of counts out of totals", 97, FALSE,
  "Each row counts how many of a total had the event, so the odds are modelled and rows weigh by their totals.", "grouped_logistic_scaled")

#' The same with errors that allow for more spread than chance gives
#' @noRd
method_grouped_logistic_scaled <- function() new_grouped_logistic("grouped_logistic_scaled",
  "Logistic regression of counts out of totals, errors scaled by the dispersion", 60, TRUE,
  "Each row counts how many of a total had the event; the errors allow for rows that differ more than chance.", "grouped_logistic")

new_grouped_logistic <- function(id, name, score, scaled, why, second) {
  new_method(
    id = id, name = name, tasks = "predict",
    fits = function(shape) if (isTRUE(shape$trials) && shape$task == "predict" && shape$n_outcome == 1 &&
      shape$predictors + shape$n_by >= 1) new_fit(score, why),
    compute = function(ctx) compute_grouped_logistic(ctx, scaled),
    checks = function(ctx, res) compact(list(check_independent_rows(ctx$unit_values, ctx$unit_name),
      if (!is.na(res$fit$pearson) && !scaled) check_dispersion(res$fit$pearson, "binomial"),
      check_collinear(res$x, res$fit$kept, res$term))),
    second = second, figure = function(ctx, res) figure_chance(ctx, res) %||% figure_ratios(ctx, res), sentences = say_grouped_logistic,
    script = function(ctx, res) script_grouped_logistic(ctx, res, scaled),
    references = c("McCullagh, P., & Nelder, J. A. (1989). Generalized Linear Models (2nd ed.). Chapman & Hall.",
                   "Finney, D. J. (1971). Probit analysis (3rd ed.). Cambridge University Press."),
    next_steps = function(ctx, res) sprintf("%s per %s by %s", outcome_name(ctx), ctx$reading$extra$trials, names(res$columns)[1]))
}

#' Counts and what they are out of, or one message on what does not hold
#' @noRd
counts_and_totals <- function(ctx) {
  name <- outcome_name(ctx); total <- ctx$reading$extra$trials
  y <- as_plain_number(ctx$frame$data[[name]]); m <- as_plain_number(ctx$frame$data[[total]])
  wrong <- y < 0 | y != round(y) | m != round(m) | y > m | m <= 0
  if (any(wrong)) stop_data(sprintf("%s cannot count how many of %s: in %s it is not a whole number from 0 to %s above 0.", quoted(name),
                                    quoted(total), count_of(sum(wrong), "row"), total), class = "unfit_data",
                            todo = sprintf("Name the column that holds the totals, or leave those rows out (such as row %s).", which(wrong)[1]))
  list(y = y, trials = m)
}

compute_grouped_logistic <- function(ctx, scaled) {
  columns <- need_two_levels(model_columns(ctx))
  pair <- interaction_pair(ctx, columns)
  m <- stat_model_matrix(columns, pair)
  o <- counts_and_totals(ctx)
  fit <- stat_grouped_logistic(m$x, o$y, o$trials)
  if (fit$separated) stop_data("The event is told apart perfectly by a predictor, so its odds ratio runs off.", class = "separation")
  if (scaled && fit$df < 1) stop_data("There are no rows beyond the coefficients, so the spread between rows is not known.", class = "too_few_rows")
  phi <- if (scaled) fit$pearson else 1
  fit$se <- fit$se * sqrt(phi); fit$unscaled <- fit$unscaled * phi
  table <- ratio_table(m$term, fit$coefficients, fit$se, ctx$conf_level, df = if (scaled) fit$df else Inf)
  focal <- focal_rows(ctx, m$source)
  if (length(fit$aliased)) need_own_part(m, fit$kept, focal)
  numbers <- c(generalised_focal(table, focal, "odds_ratio", ctx$conf_level), if (length(focal) > 1) grouped_joint(m$x, o, fit, focal, scaled),
    grouped_fit_numbers(fit, o, scaled))
  at <- if (!length(fit$aliased)) stated_values(ctx, columns, pair, m)
  if (!is.null(at)) numbers <- with_expected(compact(numbers), fit, at, "binomial", ctx)
  half <- if (length(columns) == 1 && ncol(m$x) == 2 && !is.factor(columns[[1]])) stat_half_at(fit$coefficients, fit$unscaled, ctx$conf_level)
  if (isTRUE(ctx$reading$extra$half_at)) numbers <- half_first(numbers, half, names(columns))
  else if (!is.null(half)) numbers <- c(numbers, list(new_number("half_at", sprintf("%s at which one half is expected", names(columns)),
      half[["at"]]),
    new_number("half_low", "lower limit", half[["low"]]), new_number("half_high", "upper limit", half[["high"]])))
  result(compact(numbers), list(new_table("coefficients", sprintf("Coefficients for %s out of %s", outcome_name(ctx), ctx$reading$extra$trials),
      table)),
         fit = fit, x = m$x, y = o$y, trials = o$trials, term = m$term, source = m$source, focal = focal, columns = columns, pair = pair, at = at,
         half = half, half_asked = isTRUE(ctx$reading$extra$half_at), factors = vapply(columns, is.factor, NA), ratio = "odds_ratio",
             family = "binomial",
         event = "counted", offset = 0, profiled = FALSE, aliased = m$term[fit$aliased], predictors = unique(c(ctx$reading$predictors,
             ctx$reading$by)),
         direction = if (length(focal) == 1) sign(fit$coefficients[focal]) else NA_real_)
}

#' Test of the columns asked about together: by the fall of the deviance, against the dispersion where errors are scaled
#' @noRd
grouped_joint <- function(x, o, fit, focal, scaled) {
  less <- stat_grouped_logistic(x[, -focal, drop = FALSE], o$y, o$trials)
  df <- length(fit$kept) - length(less$kept); fall <- max(0, less$deviance - fit$deviance)
  if (!scaled) return(likelihood_ratio_numbers(fall, df))
  f <- fall / df / fit$pearson
  list(new_number("statistic", "F of the fall in deviance", f), new_number("df1", "degrees of freedom", df), new_number("df2", "of the rows", fit$df),
       new_number("p_value", "p", stats::pf(f, df, fit$df, lower.tail = FALSE)))
}

grouped_fit_numbers <- function(fit, o, scaled) {
  chi <- fit$null_deviance - fit$deviance; df <- length(fit$kept) - 1
  c(list(new_number("n", "rows used", fit$n), new_number("trials", "total counted over", sum(o$trials)), new_number("events", "total counted",
      sum(o$y)),
         new_number("deviance", "deviance", fit$deviance), new_number("null_deviance", "deviance without predictors", fit$null_deviance),
         new_number("residual_df", "rows less coefficients", fit$df), new_number("dispersion", "Pearson chi-square over its degrees of freedom",
             fit$pearson)),
    if (!scaled) list(new_number("log_likelihood", "log likelihood", fit$log_likelihood), new_number("aic", "AIC", fit$aic),
      new_number("bic", "BIC", fit$bic), new_number("model_chi_square", "likelihood-ratio chi-square of the whole model", chi),
      new_number("model_df", "its degrees of freedom", df),
      new_number("model_p_value", "p of the whole model", stats::pchisq(chi, df, lower.tail = FALSE))))
}

#' The value at which one half is expected as the answer itself
#' @noRd
half_first <- function(numbers, half, name) {
  if (is.null(half)) stop_data("Where one half is expected can be told of a single measured predictor only.", class = "unfit_data")
  ids <- vapply(numbers, `[[`, "", "id")
  slope <- numbers[[match("estimate", ids)]]
  c(list(new_number("estimate", sprintf("%s at which one half is expected", name), half[["at"]]), new_number("ci_low", "lower limit", half[["low"]]),
         new_number("ci_high", "upper limit", half[["high"]]), new_number("slope", slope$label, slope$value)),
    numbers[!ids %in% c("estimate", "se", "ci_low", "ci_high")])
}

say_grouped_logistic <- function(ctx, res) {
  n <- res$number; items <- say_coefficients(ctx, res)
  what <- sprintf("%s out of %s", say_column(outcome_column(ctx)), say_column(ctx$columns[[ctx$reading$extra$trials]]))
  y <- sprintf("the odds of %s", what)
  effect <- say_grouped_effect(ctx, res, y)
  half <- if (!is.null(res$half)) sprintf("One half is expected at %s of %s%s.", say_number(res$half[["at"]]),
      say_column(ctx$columns[[names(res$columns)]]),
    if (is.na(res$half[["low"]])) " (no finite limits: the slope is not clear)" else
      sprintf(" (%s)", say_interval(res$half[["low"]], res$half[["high"]], ctx$conf_level)))
  headline <- if (res$half_asked) half else if (!is.null(res$at)) sprintf("At %s, %s of %s are expected (%s).%s", say_stated(ctx, res$at),
    say_percent(n$estimate), what, say_interval(n$ci_low, n$ci_high, ctx$conf_level, say_percent), say_beyond(res)) else effect
  list(headline = headline,
       details = c(if (!identical(headline, effect)) effect, if (!res$half_asked) half, utils::head(items, 8),
                   sprintf("Counted: %s of %s in %s.", say_number(n$events), say_number(n$trials), count_of(n$n, "row")), say_rows(ctx)),
       write_up = sprintf("A logistic regression of %s (%s of %s in %s rows) gave %s; residual deviance %s on %s df, dispersion %s.%s%s", what,
                          say_number(n$events), say_number(n$trials), say_number(n$n), paste(items, collapse = "; "), say_number(n$deviance, 2),
                          say_number(n$residual_df), say_number(n$dispersion), if (is.null(half)) "" else paste0(" ", half), write_rows(ctx)))
}

say_grouped_effect <- function(ctx, res, y) {
  n <- res$number; names <- vapply(ctx$columns[names(res$columns)], say_column, "")
  if (length(res$focal) == 1) {
    row <- res$tables[[1]]$data[res$focal, ]
    held <- if (length(res$columns) > 1) ", with the others held constant" else ""
    return(say_moved(y, row, held, isTRUE(row$p_value < 1 - ctx$conf_level), say_ratio_tested(row, "odds_ratio", ctx$conf_level)))
  }
  test <- if (!is.null(n$df1)) sprintf("F(%s, %s) = %s, %s", say_df(n$df1), say_df(n$df2), say_number(n$statistic, 2), say_p(n$p_value))
    else if (!is.null(n$statistic)) sprintf("chi-square(%s) = %s, %s", say_df(n$df), say_number(n$statistic, 2), say_p(n$p_value))
    else if (!is.null(n$model_chi_square)) sprintf("chi-square(%s) = %s, %s", say_df(n$model_df), say_number(n$model_chi_square, 2),
        say_p(n$model_p_value))
  p <- n$p_value %||% n$model_p_value
  if (length(res$pair) && length(res$focal) > 1) return(say_interaction(ctx, res, y, "", isTRUE(p < 1 - ctx$conf_level), test))
  about <- if (length(res$focal)) vapply(ctx$columns[res$predictors], say_column, "") else names
  if (is.null(test)) return(sprintf("%s against %s: %s.", capital(y), some_of(names, 5), some_of(say_coefficients(ctx, res), 5)))
  sprintf("%s %s %s: %s.", capital(some_of(about, 5)), joint_verb(isTRUE(p < 1 - ctx$conf_level), length(about)), y, test)
}

script_grouped_logistic <- function(ctx, res, scaled) {
  m <- script_model_columns(ctx, res)
  c(sprintf("y <- %s; trials <- %s", script_value(outcome_name(ctx)), script_value(ctx$reading$extra$trials)), m$set,
    sprintf("x <- model.matrix(~ %s); q <- qr(x); keep <- sort(q$pivot[seq_len(q$rank)]); X <- x[, keep, drop = FALSE]", m$formula),
    "tight <- glm.control(epsilon = 1e-14, maxit = 60); fit <- glm(cbind(y, trials - y) ~ 0 + X, family = binomial, control = tight)",
    "fit <- update(fit, start = coef(fit)); null <- glm(cbind(y, trials - y) ~ 1, family = binomial)",
    "rows_left <- fit$df.residual; dispersion <- if (rows_left > 0) sum(resid(fit, \"pearson\")^2) / rows_left else NA",
    sprintf("phi <- %s; v <- summary(fit, dispersion = 1)$cov.scaled * phi", if (scaled) "dispersion" else "1"),
    "b <- se <- rep(NA_real_, ncol(x)); b[keep] <- coef(fit); se[keep] <- sqrt(diag(v)); stat <- b / se",
    sprintf("z <- %s", if (scaled) "qt(1 - (1 - conf_level) / 2, rows_left)" else "qnorm(1 - (1 - conf_level) / 2)"),
    script_odds_table("stat"), if (scaled) "tables$coefficients$p_value <- 2 * pt(-abs(stat), rows_left)",
    "numbers <- list(conf_level = conf_level)",
    if (length(res$focal) == 1) sprintf("numbers <- c(numbers, as.list(tables$coefficients[%d, ]))", res$focal),
    if (length(res$focal) > 1) script_grouped_joint(res, scaled),
    "chi <- null$deviance - fit$deviance; d <- fit$rank - 1",
    paste0("numbers <- c(numbers, list(n = length(y), trials = sum(trials), events = sum(y), deviance = fit$deviance, null_deviance = ",
           "null$deviance, residual_df = rows_left, dispersion = dispersion))"),
    if (!scaled) paste0("numbers <- c(numbers, list(log_likelihood = as.numeric(logLik(fit)), aic = AIC(fit), bic = BIC(fit), model_chi_square = chi, ",  # nolint: line_length_linter.
                        "model_df = d, model_p_value = pchisq(chi, d, lower.tail = FALSE)))"),
    script_expected_grouped(res), script_half_at(res))
}

script_grouped_joint <- function(res, scaled) {
  c(sprintf("less <- glm(cbind(y, trials - y) ~ 0 + x[, setdiff(keep, c(%s)), drop = FALSE], family = binomial, control = tight)",
            paste(res$focal, collapse = ", ")), "k <- fit$rank - less$rank; fall <- less$deviance - fit$deviance",
    if (scaled) "f <- fall / k / dispersion; numbers <- c(numbers, list(statistic = f, df1 = k, df2 = rows_left, p_value = pf(f, k, rows_left, lower.tail = FALSE)))"  # nolint: line_length_linter.
    else "numbers <- c(numbers, list(statistic = fall, df = k, p_value = pchisq(fall, k, lower.tail = FALSE)))")
}

script_expected_grouped <- function(res) {
  if (is.null(res$at)) return(NULL)
  c(sprintf("at <- c(1, %s); eta <- sum(at * coef(fit)); eta_se <- sqrt(drop(at %%*%% v %%*%% at)); normal <- qnorm(1 - (1 - conf_level) / 2)",
            paste(vapply(res$at$row, as_r_number, ""), collapse = ", ")),
    if (length(res$focal) == 1) "numbers$slope <- numbers$estimate",
    "numbers[c(\"estimate\", \"se\", \"ci_low\", \"ci_high\")] <- list(plogis(eta), eta_se * dlogis(eta), plogis(eta - normal * eta_se), plogis(eta + normal * eta_se))")  # nolint: line_length_linter.
}

#' The value at which one half is expected, its limits as the roots of Fieller's quadratic
#' @noRd
script_half_at <- function(res) {
  if (is.null(res$half)) return(NULL)
  c("# where the linear part is zero; limits: where its square is z^2 times its variance",
    "co <- unname(coef(fit)); V <- unname(v); z2 <- qchisq(conf_level, 1)",
    "quadratic <- c(co[1]^2 - z2 * V[1, 1], 2 * (co[1] * co[2] - z2 * V[1, 2]), co[2]^2 - z2 * V[2, 2])",
    "half <- c(-co[1] / co[2], if (quadratic[3] > 0) sort(Re(polyroot(quadratic))) else c(NA, NA))",
    if (res$half_asked) c("numbers$slope <- co[2]; numbers$se <- NULL", "numbers[c(\"estimate\", \"ci_low\", \"ci_high\")] <- as.list(half)")
    else "numbers[c(\"half_at\", \"half_low\", \"half_high\")] <- as.list(half)")
}
