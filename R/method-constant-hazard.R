# Rates of an event per unit of time at risk, explained by several columns: a model with a hazard that stays the same.

#' @noRd
method_constant_hazard <- function() {
  new_method(
    id = "constant_hazard", name = "Regression of the event rate (constant hazard)", tasks = "survival",
    fits = function(shape) if (shape$predictors + shape$n_by > 0) fits_survival(shape, 35,
      "You asked for a model in which the hazard stays the same over time.", FALSE),
    compute = compute_constant_hazard,
    checks = function(ctx, res) c(survival_checks(ctx, res$parts), list(check_events_per_term(sum(res$parts$event), length(res$term)))),
    second = "cox_regression",
    figure = function(ctx, res) draw_ratios(ctx, res$tables[[1]]$data, "hazard_ratio", "Hazard ratio",
      sprintf("Hazard ratios for %s", plain_filter(ctx$reading$extra$event)), "tables$coefficients", res$term),
    sentences = say_constant_hazard, script = script_constant_hazard,
    references = paste0("Holford, T. R. (1980). The analysis of rates and of survivorship using log-linear models. Biometrics, 36, 299-305."),
    next_steps = function(ctx, res) sprintf("Kaplan-Meier curves of %s", ctx$reading$outcome[1]))
}

compute_constant_hazard <- function(ctx) {
  s <- survival_parts(ctx)
  # (a time of zero was at risk for no time)
  at_risk <- s$time > 0
  if (any(s$event & !at_risk)) stop_data("An event at time zero leaves no time at risk.", class = "unfit_data")
  columns <- need_two_levels(model_columns(ctx))
  m <- stat_model_matrix(columns)
  event <- as.double(s$event)[at_risk]; offset <- log(s$time[at_risk])
  if (!any(event > 0)) stop_data("No event occurs in these rows.", class = "no_events")
  fit <- stat_generalised(m$x[at_risk, , drop = FALSE], event, "poisson", offset = offset)
  if (length(fit$aliased)) stop_data("The predictors repeat each other, so their effects cannot be told apart.", class = "collinear")
  null <- stat_generalised(m$x[at_risk, 1, drop = FALSE], event, "poisson", offset = offset)
  b <- fit$coefficients[-1]; term <- m$term[-1]
  table <- ratio_table(term, b, fit$se[-1], ctx$conf_level, "hazard_ratio")
  ratio <- 2 * (fit$log_likelihood - null$log_likelihood); df <- length(b)
  focal <- which(m$source[-1] == names(columns)[1])
  one <- length(unique(c(ctx$reading$predictors, ctx$reading$by))) == 1 && length(focal) == 1
  main <- if (one) hazard_numbers(table[focal, ], term[focal]) else list(new_number("statistic", "likelihood ratio chi-square", ratio),
    new_number("df", "degrees of freedom", df), new_number("p_value", "p", stats::pchisq(ratio, df, lower.tail = FALSE)))
  result(c(main, list(new_number("likelihood_ratio", "likelihood ratio chi-square of the model", ratio),
                      new_number("model_df", "its degrees of freedom", df),
                      new_number("model_p", "its p", stats::pchisq(ratio, df, lower.tail = FALSE)),
                      new_number("rate", "events for each unit of time, all rows together", sum(event) / sum(s$time)),
                      new_number("conf_level", "confidence level", ctx$conf_level), new_number("n", "rows used", length(s$time)),
                      new_number("events", "events", sum(s$event)))),
         tables = list(new_table("coefficients", "Hazard ratios", table)), parts = s, columns = columns, term = term, one = one,
         focal = if (one) focal, direction = if (one) sign(b[focal]) else NA_real_)
}

say_constant_hazard <- function(ctx, res) {
  n <- res$number; t <- res$tables[[1]]$data
  ratio <- say_ratio(t, "hazard_ratio", ctx$conf_level)
  item <- sprintf("%s %s (%s), %s", t$term, ratio$value, ratio$interval, vapply(t$p_value, say_p, ""))
  clear <- t$p_value < 1 - ctx$conf_level
  headline <- if (any(clear)) sprintf("The rate of the event goes with %s: hazard ratio of %s.", some_of(t$term[clear], 5), some_of(item[clear], 3))
    else sprintf("The rate of the event does not clearly go with %s: hazard ratio of %s.", some_of(t$term, 5), some_of(item, 3))
  unit <- if (nzchar(res$parts$unit %||% "")) res$parts$unit else "unit of time"
  list(headline = headline,
       details = c(sprintf("%s events in all the time at risk: %s for each %s.", say_number(n$events), say_number(n$rate), sub("s$", "", unit)),
                   "The model takes the hazard to stay the same over time; Cox regression leaves it free.", say_rows(ctx)),
       write_up = sprintf("In a regression of the event rate with a constant hazard (%s events in %s rows), hazard ratios were: %s.%s",
                          say_number(n$events), say_number(n$n), some_of(item, 8), write_rows(ctx)))
}

script_constant_hazard <- function(ctx, res) {
  lines <- script_cox(ctx, c(res, list(number = list(n = Inf))))
  start <- grep("^fit <- coxph", lines)
  c(lines[seq_len(start - 1)], "open <- time > 0; here <- cbind(x, event = as.numeric(event), time = time)[open, , drop = FALSE]",
    "fit <- glm(event ~ . - time + offset(log(time)), poisson, here, control = glm.control(epsilon = 1e-14, maxit = 100))",
    "fit <- update(fit, start = coef(fit))  # errors at the final means, not one step before",
    "s <- summary(fit)$coefficients[-1, , drop = FALSE]; b <- unname(s[, 1]); se <- unname(s[, 2]); z <- qnorm(1 - (1 - conf_level) / 2)",
    "p <- 2 * pnorm(-abs(b / se)); null <- glm(event ~ 1 + offset(log(time)), poisson, here, control = glm.control(epsilon = 1e-14))",
    "lr <- null$deviance - fit$deviance; lr_p <- pchisq(lr, length(b), lower.tail = FALSE)",
    "tables$coefficients <- data.frame(estimate = b, se = se, statistic = b / se, p_value = p, ci_low = b - z * se, ci_high = b + z * se,",
    "  hazard_ratio = exp(b), hazard_ratio_low = exp(b - z * se), hazard_ratio_high = exp(b + z * se))",
    if (res$one) sprintf(paste0("k <- %d; numbers <- list(statistic = (b / se)[k], p_value = p[k], estimate = b[k], se = se[k], ci_low = b[k] - z * ",
      "se[k], ci_high = b[k] + z * se[k], hazard_ratio = exp(b[k]), hazard_ratio_low = exp(b[k] - z * se[k]), hazard_ratio_high = exp(b[k] + z * se[k]))"),  # nolint: line_length_linter.
      res$focal) else "numbers <- list(statistic = lr, df = length(b), p_value = lr_p)",
    paste0("numbers <- c(numbers, list(likelihood_ratio = lr, model_df = length(b), model_p = lr_p, rate = sum(event) / sum(time), conf_level = ",
           "conf_level, n = length(time), events = sum(event)))"))
}
