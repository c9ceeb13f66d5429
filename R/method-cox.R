# A regression of the hazard of an event: Cox's model, with strata and with clusters where they are asked for.

#' @noRd
method_cox_regression <- function() {
  new_method(
    id = "cox_regression", name = "Cox regression", tasks = "survival",
    fits = function(shape) if (shape$predictors + shape$n_by > 0 && !isTRUE(shape$clustered)) fits_survival(shape,
        if (shape$predictors > 0) 90 else 60, "The hazard of an event is explained by several columns, with censored rows.", FALSE),
    compute = compute_cox,
    checks = function(ctx, res) c(survival_checks(ctx, res$parts), cox_checks(res)),
    second = "constant_hazard", figure = figure_cox, sentences = say_cox, script = script_cox,
    references = c("Cox, D. R. (1972). Regression models and life-tables. Journal of the Royal Statistical Society B, 34, 187-220.",
                   paste0("Efron, B. (1977). The efficiency of Cox's likelihood function for censored data.",
                       " Journal of the American Statistical Association, 72, 557-565.")),
    next_steps = function(ctx, res) c(if (anyDuplicated(ctx$unit_values)) sprintf("Cox regression of %s on %s clustered by %s",
        ctx$reading$outcome[1],
      paste(names(res$columns), collapse = " and "), ctx$unit_name), sprintf("Kaplan-Meier curves of %s", ctx$reading$outcome[1])))
}

#' @noRd
method_clustered_hazards <- function() {
  new_method(
    id = "clustered_hazards", name = "Cox regression with cluster-robust standard errors", tasks = "survival",
    fits = function(shape) if (shape$predictors + shape$n_by > 0 && isTRUE(shape$clustered)) fits_survival(shape, 91,
      "The hazard of an event is explained by several columns, and rows of the same cluster may be alike.", FALSE),
    compute = compute_cox,
    checks = function(ctx, res) c(list(check_cluster_count(res$number$clusters), check_event_count(sum(res$parts$event), length(res$parts$event))),
                                  cox_checks(res)),
    figure = figure_cox, sentences = say_cox, script = script_cox,
    references = c("Cox, D. R. (1972). Regression models and life-tables. Journal of the Royal Statistical Society B, 34, 187-220.",
                   paste0("Lin, D. Y., & Wei, L. J. (1989). The robust inference for the Cox proportional hazards model. Journal of the American ",
                          "Statistical Association, 84, 1074-1078.")),
    next_steps = function(ctx, res) sprintf("Kaplan-Meier curves of %s", ctx$reading$outcome[1]))
}

cox_checks <- function(res) list(check_proportional_hazards(res$fit, res$term), check_events_per_term(res$fit$events, length(res$term)))

figure_cox <- function(ctx, res) draw_ratios(ctx, res$tables[[1]]$data, "hazard_ratio", "Hazard ratio",
  sprintf("Hazard ratios for %s", plain_filter(ctx$reading$extra$event)), "tables$coefficients", res$term)

compute_cox <- function(ctx) {
  s <- survival_parts(ctx)
  columns <- need_two_levels(model_columns(ctx))
  m <- stat_model_matrix(columns)
  x <- m$x[, -1, drop = FALSE]; term <- m$term[-1]
  cluster <- if (!is.null(ctx$reading$extra$cluster)) as.integer(as_group(ctx$frame$data[[ctx$reading$extra$cluster]]))
  fit <- stat_cox(s$time, s$event, x, s$stratum, cluster)
  table <- ratio_table(term, fit$coefficients, fit$se, ctx$conf_level, "hazard_ratio")
  focal <- which(m$source[-1] == names(columns)[1])
  one <- length(unique(c(ctx$reading$predictors, ctx$reading$by))) == 1 && length(focal) == 1
  of_model <- if (is.null(cluster)) c("likelihood_ratio", "likelihood ratio chi-square") else c("wald", "Wald chi-square, errors by cluster,")
  main <- if (one) hazard_numbers(table[focal, ], term[focal])
    else list(new_number("statistic", of_model[2], fit$statistic),
        new_number("df", "degrees of freedom", fit$df), new_number("p_value", "p", fit$p_value))
  result(c(main, list(new_number(of_model[1], paste(of_model[2], "of the model"), fit$statistic),
      new_number("model_df", "its degrees of freedom", fit$df),
                      new_number("model_p", "its p", fit$p_value)), cluster_numbers(fit), list(new_number("concordance", "concordance",
                          fit$concordance), new_number("log_likelihood", "log partial likelihood", fit$log_likelihood),
                      new_number("conf_level", "confidence level", ctx$conf_level), new_number("n", "rows used",
                          fit$n), new_number("events", "events", fit$events))),
         tables = list(new_table("coefficients", "Hazard ratios",
             table)), fit = fit, term = term, columns = columns, parts = s, one = one, focal = focal,
         asked = m$source[-1] %in% c(ctx$reading$predictors, ctx$reading$by), direction = NA_real_)
}

#' How many clusters there are, and what they do to the errors; nothing where there are none
#' @noRd
cluster_numbers <- function(fit) {
  if (is.null(fit$clusters)) return(NULL)
  list(new_number("clusters", "clusters", fit$clusters),
       new_number("se_plain", "largest ratio of a robust to a plain standard error", max(fit$se / fit$se_plain)))
}

#' The numbers of a single term, a row of a table of hazard ratios
#' @noRd
hazard_numbers <- function(row, term) list(
  new_number("statistic", "z", row$statistic), new_number("p_value", "p", row$p_value),
  new_number("estimate", sprintf("log hazard ratio of %s", term), row$estimate), new_number("se", "standard error", row$se),
  new_number("ci_low", "lower limit", row$ci_low), new_number("ci_high", "upper limit", row$ci_high),
  new_number("hazard_ratio", "hazard ratio", row$hazard_ratio), new_number("hazard_ratio_low", "lower limit", row$hazard_ratio_low),
  new_number("hazard_ratio_high", "upper limit", row$hazard_ratio_high))

say_cox <- function(ctx, res) {
  n <- res$number; t <- res$tables[[1]]$data
  # what is only held constant is no answer to the question
  asked <- if (length(ctx$reading$adjust_for)) res$asked else rep(TRUE, nrow(t))
  held <- paste0(if (length(ctx$reading$adjust_for)) sprintf(", with %s held constant", some_of(ctx$reading$adjust_for, 4)), say_strata_of(ctx))
  model <- sprintf("%s chi-square(%s) = %s, %s", if (is.null(n$wald)) "likelihood ratio" else "Wald", say_df(n$model_df),
    say_number(n$likelihood_ratio %||% n$wald, 2), say_p(n$model_p))
  t <- t[asked, , drop = FALSE]
  ratio <- say_ratio(t, "hazard_ratio", ctx$conf_level)
  item <- sprintf("%s %s (%s), %s", t$term, ratio$value, ratio$interval, vapply(t$p_value, say_p, ""))
  clear <- t$p_value < 1 - ctx$conf_level
  headline <- if (any(clear)) sprintf("The hazard of the event %s%s: hazard ratio of %s.",
      if (sum(clear) == 1) sprintf("%s with %s", if (t$estimate[clear] > 0) "rises" else "falls", t$term[clear])
                                      else sprintf("goes with %s", some_of(t$term[clear], 5)), held, some_of(item[clear], 3))
    else if (nzchar(held) || nrow(t) <= 2) sprintf("The hazard of the event does not clearly go with %s%s: hazard ratio of %s.", some_of(t$term, 5),
        held,
        some_of(item, 3))
    else sprintf("No predictor clearly goes with the hazard of the event: %s.", model)
  list(headline = headline,
       details = c(sprintf("Whole model: %s; of comparable pairs it puts %s in the right order.", model, say_percent(n$concordance, 0)),
                   if (!is.null(n$clusters)) sprintf("Rows of the same %s belong together (%s of them); allowing for that changes the standard errors by up to a factor of %s.",  # nolint: line_length_linter.
                     say_column(ctx$columns[[ctx$reading$extra$cluster]]), say_number(n$clusters), say_number(n$se_plain, 2)),
                   sprintf("%s events in %s rows.", say_number(n$events), say_number(n$n)), say_rows(ctx)),
       write_up = sprintf("In a Cox regression (Efron ties%s%s; %s events in %s rows), hazard ratios were: %s. Concordance %s.%s",
           say_strata_of(ctx), if (is.null(n$clusters)) "" else sprintf(", standard errors robust to %s clusters of %s", say_number(n$clusters),
             say_column(ctx$columns[[ctx$reading$extra$cluster]])), say_number(n$events), say_number(n$n), some_of(item, 8),
                          say_unit(n$concordance), write_rows(ctx)))
}

script_cox <- function(ctx, res) {
  clustered <- !is.null(ctx$reading$extra$cluster)
  names <- names(res$columns)
  value <- vapply(names, function(n) {
    v <- res$columns[[n]]
    if (is.factor(v)) sprintf("droplevels(factor(as.character(%s), levels = %s))", script_column(n), as_r_strings(levels(v))) else script_value(n)
  }, "")
  c(script_survival(ctx), sprintf("x <- data.frame(%s)", paste(sprintf("x%d = %s", seq_along(value), value), collapse = ", ")),
    if (clustered) sprintf("g <- droplevels(factor(%s))", script_column(ctx$reading$extra$cluster)),
    paste0("fit <- coxph(Surv(time, event) ~ .", script_strata_of(ctx), ", data = x, ", if (clustered) "cluster = g, ",
           "ties = \"efron\", control = coxph.control(toler.chol = 1e-15, iter.max = 60))"),
    "null <- fit$loglik[1]", script_cox_settled(),
    "b <- unname(coef(fit)); se <- sqrt(diag(vcov(fit)))",
    paste0("z <- qnorm(1 - (1 - conf_level) / 2); p <- 2 * pnorm(-abs(b / se)); lr <- ", if (clustered) "drop(b %*% solve(vcov(fit), b))" else
        "2 * (fit$loglik[2] - null)", "; lr_p <- pchisq(lr, length(b), lower.tail = FALSE)"),
    paste0("tables$coefficients <- data.frame(estimate = b, se = se, statistic = b / se, p_value = p,",
        " ci_low = b - z * se, ci_high = b + z * se, hazard_ratio = exp(b), hazard_ratio_low = exp(b - z",
        " * se),"),
    "  hazard_ratio_high = exp(b + z * se))",
    if (res$one) sprintf(paste0("k <- %d; numbers <- list(statistic = (b / se)[k], p_value = p[k], estimate",
        " = b[k], se = se[k], ci_low = b[k] - z * se[k], ci_high = b[k] + z * se[k], hazard_ratio =",
        " exp(b[k]), hazard_ratio_low = exp(b[k] - z * se[k]), hazard_ratio_high = exp(b[k] + z * se[k]))"), res$focal)
    else "numbers <- list(statistic = lr, df = length(b), p_value = lr_p)",
    paste0("numbers <- c(numbers, list(", if (clustered) "wald" else "likelihood_ratio", " = lr, model_df = length(b), model_p = lr_p, concordance =",
        " fit$concordance[[\"concordance\"]], log_likelihood = fit$loglik[2], conf_level = conf_level, n = fit$n, events = fit$nevent))"),
    if (clustered) "numbers <- c(numbers, list(clusters = nlevels(g), se_plain = max(se / sqrt(diag(fit$naive.var)))))")
}

#' One more of Newton's steps by the score residuals, which settles the last digits of a fit
#' @noRd
script_cox_settled <- function() {
  c("# one step more by the score residuals settles the last digits",
    "step <- (if (is.null(fit$naive.var)) fit$var else fit$naive.var) %*% colSums(as.matrix(residuals(fit, \"score\")))",
    "fit <- update(fit, init = coef(fit) + drop(step), control = coxph.control(iter.max = 0))")
}
