#' @noRd
method_ordinal_regression <- function() {
  new_method(
    id = "ordinal_regression", name = "Proportional odds regression", tasks = "predict",
    fits = function(shape) {
      ok <- shape$task %in% c("predict", "relate",
          "compare") && shape$n_outcome == 1 && (length(shape$predictor_kinds) + shape$n_by + length(shape$adjust)) >= 1 &&
        (shape$task == "predict" || length(shape$adjust)) && (shape$outcome_kind == "ordered" ||
            (identical(shape$method_asked, "ordinal_regression") && shape$outcome_kind %in% c("count", "number", "category")))
      if (ok) new_fit(if (shape$outcome_kind == "ordered") 87 else 40,
          "The outcome is an ordered answer, so the odds of a higher answer are modelled.")
    },
    compute = compute_ordinal,
    checks = function(ctx, res) list(check_independent_rows(ctx$unit_values, ctx$unit_name),
        check_parallel(res$y, res$x, res$fit$coefficients, res$term), check_events_per_term(min(length(res$y) - tabulate(res$y)), length(res$term))),
    second = "linear_regression",
    figure = function(ctx, res) draw_ratios(ctx, res$odds, "odds_ratio", "Odds ratio",
        sprintf("Odds of a higher answer to %s",
        say_column(outcome_column(ctx))), sprintf("tables$coefficients[seq_len(%d), ]", length(res$term)), res$term),
    sentences = say_ordinal, script = script_ordinal,
    references = "McCullagh, P. (1980). Regression models for ordinal data. Journal of the Royal Statistical Society B, 42, 109-142.",
    next_steps = function(ctx, res) c(sprintf("What percentage gave each %s?", outcome_name(ctx)),
        sprintf("Does %s differ by %s?", outcome_name(ctx), names(res$columns)[1])))
}

compute_ordinal <- function(ctx) {
  g <- as_group(ctx$frame$data[[outcome_name(ctx)]])
  if (nlevels(g) > 30) stop_data(sprintf("%s takes %d values, too many for an ordinal model.",
      quoted(outcome_name(ctx)), nlevels(g)), class = "unfit_data")
  columns <- need_two_levels(model_columns(ctx))
  m <- stat_model_matrix(columns)
  x <- m$x[, -1, drop = FALSE]; term <- m$term[-1]
  y <- as.integer(g)
  fit <- stat_ordinal(y, x)
  z <- stats::qnorm(1 - (1 - ctx$conf_level) / 2)
  row <- function(term, b, se) data.frame(term = term, estimate = b, se = se, statistic = b / se,
      p_value = 2 * stats::pnorm(-abs(b / se)), ci_low = b - z * se, ci_high = b + z * se,
                                          odds_ratio = exp(b), odds_ratio_low = exp(b - z * se), odds_ratio_high = exp(b +
                                              z * se), stringsAsFactors = FALSE)
  odds <- row(term, fit$coefficients, fit$se)
  profiled <- length(y) * ncol(x)^2 <= 20000
  if (profiled) odds <- cbind(odds, ratio_limits_table(stat_ordinal_limits(y, x, fit, ctx$conf_level)))
  steps <- row(sprintf("%s | %s", levels(g)[-nlevels(g)], levels(g)[-1]), fit$thresholds, fit$threshold_se)
  steps[c("odds_ratio", "odds_ratio_low", "odds_ratio_high", if (profiled) c("profile_low", "profile_high"))] <- NA_real_
  focal <- which(m$source[-1] == names(columns)[1])
  one <- length(unique(c(ctx$reading$predictors, ctx$reading$by))) == 1 && length(focal) == 1
  main <- if (one) list(new_number("statistic", "z", odds$statistic[focal]),
      new_number("p_value", "p", odds$p_value[focal]), new_number("estimate", sprintf("log odds ratio of %s", term[focal]), odds$estimate[focal]),
                        new_number("se", "standard error", odds$se[focal]), new_number("ci_low", "lower limit",
                            odds$ci_low[focal]), new_number("ci_high", "upper limit", odds$ci_high[focal]),
                        new_number("odds_ratio", "odds ratio", odds$odds_ratio[focal]), new_number("odds_ratio_low",
                            "lower limit", odds$odds_ratio_low[focal]),
                        new_number("odds_ratio_high", "upper limit", odds$odds_ratio_high[focal]))
    else list(new_number("statistic", "likelihood ratio chi-square", fit$statistic),
        new_number("df", "degrees of freedom", fit$df), new_number("p_value", "p", fit$p_value))
  result(c(main, list(new_number("likelihood_ratio", "likelihood ratio chi-square of the model", fit$statistic),
      new_number("model_df", "its degrees of freedom", fit$df), new_number("model_p", "its p", fit$p_value),
                      new_number("log_likelihood", "log likelihood", fit$log_likelihood), new_number("deviance",
                          "deviance", fit$deviance), new_number("aic", "AIC", fit$aic), new_number("bic", "BIC", fit$bic),
                      new_number("pseudo_r_squared", "McFadden pseudo R squared",
                          1 - fit$log_likelihood / fit$null_log_likelihood), new_number("conf_level", "confidence level", ctx$conf_level),
                      new_number("n", "rows used", fit$n))),
         tables = list(new_table("coefficients", sprintf("Odds of a higher %s, and the thresholds", outcome_name(ctx)),
             rbind(odds, steps))), fit = fit, term = term, columns = columns,
         odds = odds, y = y, x = x, levels = levels(g), one = one, focal = focal, profiled = profiled,
         factors = vapply(columns, is.factor, NA), pair = list())
}

say_ordinal <- function(ctx, res) {
  n <- res$number; t <- res$odds
  y <- say_column(outcome_column(ctx))
  ratio <- say_ratio(t, "odds_ratio", ctx$conf_level)
  item <- sprintf("%s %s (%s), %s", t$term, ratio$value, ratio$interval, vapply(t$p_value, say_p, ""))
  clear <- which(t$p_value < 1 - ctx$conf_level)
  headline <- if (length(clear)) sprintf("The odds of a higher answer to %s go with %s: odds ratio of %s.", y,
      some_of(t$term[clear], 4), some_of(item[clear], 3))
    else if (nrow(t) <= 2) sprintf("The odds of a higher answer to %s do not clearly go with %s: odds ratio of %s.", y, some_of(t$term, 2),
        some_of(item, 2))
    else sprintf("No predictor clearly goes with higher answers to %s: likelihood ratio chi-square(%s) = %s, %s.", y,
        say_df(n$model_df), say_number(n$likelihood_ratio, 2), say_p(n$model_p))
  list(headline = headline,
       details = c(sprintf("An odds ratio above 1 means higher answers; the levels run from %s to %s.", res$levels[1], last_of(res$levels)),
                   sprintf("Whole model: chi-square(%s) = %s, %s.", say_df(n$model_df),
                       say_number(n$likelihood_ratio, 2), say_p(n$model_p)), say_profile(ctx, res), say_rows(ctx)),
       write_up = sprintf(paste0("In a proportional odds regression of %s (n = %s), odds ratios of a higher",
           " answer were: %s; likelihood ratio chi-square(%s) = %s, %s.%s"), y, say_number(n$n), some_of(item, 8),
                          say_df(n$model_df), say_number(n$likelihood_ratio, 2), say_p(n$model_p), write_rows(ctx)))
}

script_ordinal <- function(ctx, res) {
  m <- script_model_columns(ctx, res)
  c(sprintf("y <- droplevels(factor(%s)); k <- nlevels(y); n <- length(y)",
      if (is_level_kind(outcome_column(ctx)$kind)) script_column(outcome_name(ctx)) else script_value(outcome_name(ctx))), m$set,
    sprintf("x <- model.matrix(~ %s)[, -1, drop = FALSE]",
        m$formula), "start <- MASS::polr(y ~ x, Hess = FALSE); theta <- c(start$zeta, start$coefficients); code <- as.integer(y); q <- k - 1",
    "# polr() stops at about four digits; Newton steps on the same likelihood give the rest",
    "parts <- function(theta) {",
    paste0("  eta <- drop(x %*% theta[-seq_len(q)]); z <- c(-Inf, theta[seq_len(q)], Inf); u <- z[code + 1]",
        " - eta; l <- z[code] - eta; p <- plogis(u) - plogis(l)"),
    paste0("  zu <- outer(code, seq_len(q), `==`) * 1; zl <- outer(code - 1, seq_len(q), `==`) * 1; au <-",
        " cbind(zu, -x * (code < k)); al <- cbind(zl, -x * (code > 1))"),
    "  g <- (au * dlogis(u) - al * dlogis(l)) / p; bend <- function(v) ifelse(is.finite(v), dlogis(v) * (1 - 2 * plogis(v)), 0)",
    "  list(ll = sum(log(p)), score = colSums(g), info = crossprod(g) - crossprod(au, au * (bend(u) / p)) + crossprod(al, al * (bend(l) / p)))",
    "}", "for (i in 1:30) { f <- parts(theta); theta <- theta + solve(f$info, f$score) }",
        "f <- parts(theta); se_all <- sqrt(diag(solve(f$info))); ll <- f$ll",
    "stopifnot(isTRUE(all.equal(unname(theta[-seq_len(q)]), unname(start$coefficients), tolerance = 0.01)))",
    paste0("null <- sum(table(y) * log(table(y) / n)); lr <- 2 * (ll - null); b <-",
        " unname(theta[-seq_len(q)]); se <- se_all[-seq_len(q)]; z <- qnorm(1 - (1 - conf_level) / 2)"),
    paste0("row <- function(b, se, odds) data.frame(estimate = b, se = se, statistic = b / se, p_value = 2",
        " * pnorm(-abs(b / se)), ci_low = b - z * se, ci_high = b + z * se,"),
    paste0("  odds_ratio = if (odds) exp(b) else NA_real_, odds_ratio_low = if (odds) exp(b - z * se) else",
        " NA_real_, odds_ratio_high = if (odds) exp(b + z * se) else NA_real_)"),
    paste0("tables <- list(coefficients = rbind(row(b, se, TRUE), row(unname(theta[seq_len(q)]),",
        " se_all[seq_len(q)], FALSE))); lr_p <- pchisq(lr, length(b), lower.tail = FALSE)"),
    if (res$profiled) script_ordinal_profile(),
    if (res$one) sprintf(paste0("o <- tables$coefficients[%d, ]; numbers <- list(statistic = o$statistic,",
        " p_value = o$p_value, estimate = o$estimate, se = o$se, ci_low = o$ci_low, ci_high = o$ci_high,",
        " odds_ratio = o$odds_ratio, odds_ratio_low = o$odds_ratio_low, odds_ratio_high =",
        " o$odds_ratio_high)"), res$focal)
    else "numbers <- list(statistic = lr, df = length(b), p_value = lr_p)",
    paste0("numbers <- c(numbers, list(likelihood_ratio = lr, model_df = length(b), model_p = lr_p,",
        " log_likelihood = ll, deviance = -2 * ll, aic = -2 * ll + 2 * length(theta), bic = -2 * ll +",
        " log(n) * length(theta),"),
    "  pseudo_r_squared = 1 - ll / null, conf_level = conf_level, n = n))")
}

#' Script lines for the profile limits of a proportional odds model
#' @noRd
script_ordinal_profile <- function() {
  c("# limits at which the deviance has risen by the chi-square quantile: Newton steps with one coefficient held",
    "best_with <- function(j, v) { held <- q + j; t <- theta; t[held] <- v; f <- parts(t)",
    "  for (i in 1:60) { step <- solve(f$info[-held, -held, drop = FALSE], f$score[-held]); size <- 1",
    "    repeat { new <- t; new[-held] <- t[-held] + size * step; g <- suppressWarnings(parts(new))",
    "      if (isTRUE(g$ll >= f$ll - 1e-9) || size < 1e-6) break; size <- size / 2 }",
    "    t <- new; f <- g; if (max(abs(step)) < 1e-10) break }",
    "  f$ll }",
    "limit <- function(j, side) { above <- function(v) 2 * (ll - best_with(j, v)) - qchisq(conf_level, 1)",
    script_profile_walk("b[j]", "se[j]"),
    "none <- rep(NA_real_, q); tables$coefficients$profile_low <- c(profile(-1), none); tables$coefficients$profile_high <- c(profile(1), none)")
}
