# Matched sets: which of their rows had the event.

#' @noRd
method_conditional_logistic <- function() {
  new_method(
    id = "conditional_logistic", name = "Conditional logistic regression (matched sets)", tasks = "predict",
    fits = function(shape) {
      ok <- shape$task == "predict" && shape$n_outcome == 1 && shape$predictors + shape$n_by >= 1 && isTRUE(shape$matched) &&
        (shape$outcome_kind == "yes_no" || isTRUE(shape$two_valued))
      if (ok) new_fit(97, "The outcome has two values and rows are matched in sets, so rows are compared within their set only.")
    },
    compute = compute_conditional_logistic,
    checks = function(ctx, res) list(check_matched_sets(res$fit$sets, res$sets), check_events_per_term(res$fit$sets, length(res$term))),
    second = "mixed_logistic", figure = function(ctx, res) figure_ratios(ctx, res), sentences = say_conditional_logistic,
    script = script_conditional_logistic,
    references = paste0("Breslow, N. E., & Day, N. E. (1980). Statistical methods in cancer research: Vol. 1. The analysis of case-control ",
                        "studies. International Agency for Research on Cancer."),
    next_steps = function(ctx, res) sprintf("How many rows are there for each %s?", outcome_name(ctx)))
}

compute_conditional_logistic <- function(ctx) {
  columns <- need_two_levels(model_columns(ctx))
  pair <- interaction_pair(ctx, columns)
  m <- stat_model_matrix(columns, pair)
  o <- model_outcome(ctx, "binomial")
  set <- as.integer(as_group(ctx$frame$data[[ctx$reading$extra$cluster]]))
  term <- m$term[-1]; source <- m$source[-1]
  fit <- stat_conditional_logistic(o$y, m$x[, -1, drop = FALSE], set)
  table <- ratio_table(term, fit$coefficients, fit$se, ctx$conf_level)
  focal <- focal_rows(ctx, source)
  together <- if (length(focal) != 1 && length(term) > 1) if (length(focal)) focal else seq_along(term)
  if (length(focal) != 1) focal <- if (is.null(together)) 1L else integer()
  result(c(generalised_focal(table, focal, "odds_ratio", ctx$conf_level),
           if (!is.null(together)) wald_numbers(fit$coefficients, fit$covariance, together),
           list(new_number("log_likelihood", "conditional log likelihood", fit$log_likelihood),
                new_number("model_chi_square", "likelihood-ratio chi-square of the whole model", fit$statistic),
                new_number("model_df", "its degrees of freedom", fit$df), new_number("model_p_value", "p of the whole model", fit$p_value),
                new_number("sets", "sets with rows both with and without the event", fit$sets),
                new_number("events", sprintf("rows with %s in these sets", o$event), fit$events), new_number("n", "rows in these sets", fit$n))),
         list(new_table("coefficients", sprintf("Coefficients for %s = %s within sets (Wald intervals)", outcome_name(ctx), o$event), table)),
         fit = fit, no_intercept = TRUE, term = term, focal = focal, together = together, event = o$event, columns = columns,
             factors = vapply(columns, is.factor, NA),
         pair = pair, ratio = "odds_ratio", row = table[focal, ], sets = length(unique(set)),
             direction = if (length(focal) == 1) sign(fit$coefficients[focal]))
}

say_conditional_logistic <- function(ctx, res) {
  n <- res$number
  y <- sprintf("the odds of %s = %s", say_column(outcome_column(ctx)), res$event); by <- say_column(ctx$columns[[ctx$reading$extra$cluster]])
  item <- say_coefficients(ctx, res)
  about <- if (!is.null(res$together)) say_asked_columns(ctx, res)
  told <- if (is.null(about)) say_own_odds(ctx, res, y)
    else sprintf("%s %s %s%s: %s.", some_of(about$asked, 5), joint_verb(isTRUE(n$p_value < 1 - ctx$conf_level), length(about$asked)), y, about$held,
                 say_joint(n))
  left <- res$sets - n$sets
  list(headline = sprintf("Within sets of the same %s, %s", by, told),
       details = c(if (length(item) > 1) sprintf("All coefficients: %s.", some_of(item, 6)),
                   sprintf("%s of %s, with %s, hold rows both with and without the event.%s", count_of(n$sets, "set"), by, count_of(n$n, "row"),
                           if (left > 0) sprintf(" The other %s tell nothing about what goes with the event.", count_of(left, "set")) else ""),
                   "What the sets are matched on is held constant by comparing within them, and has no coefficient of its own.", say_rows(ctx)),
       write_up = sprintf(paste0("A conditional logistic regression of %s = %s in sets matched by %s (%s informative sets, n = %s; exact ",
                                 "conditional likelihood) gave %s.%s"), say_column(outcome_column(ctx)), res$event, by, say_number(n$sets),
                          say_number(n$n), paste(item, collapse = "; "), write_rows(ctx)))
}

script_conditional_logistic <- function(ctx, res) {
  m <- script_model_columns(ctx, res)
  c("library(survival)", script_model_outcome(ctx, res$event), m$set,
    sprintf("set <- droplevels(factor(%s)); x <- unname(model.matrix(~ %s))[, -1, drop = FALSE]; y <- as.numeric(y)",
            script_column(ctx$reading$extra$cluster), m$formula),
    "told <- ave(y, set) > 0 & ave(y, set) < 1; y <- y[told]; x <- x[told, , drop = FALSE]; set <- droplevels(set[told])",
    "fit <- clogit(y ~ x + strata(set), method = \"exact\", control = coxph.control(eps = 1e-14, toler.chol = 1e-15, iter.max = 60))",
    "b <- unname(coef(fit)); se <- unname(sqrt(diag(vcov(fit)))); z <- qnorm(1 - (1 - conf_level) / 2); s <- b / se; chi <- 2 * diff(fit$loglik)",
    script_odds_table("s"),
    "numbers <- list(conf_level = conf_level)",
    if (length(res$focal) == 1) sprintf("numbers <- c(numbers, as.list(tables$coefficients[%d, ]))", res$focal)
    else c(sprintf("k <- c(%s); v <- vcov(fit)[k, k]; w <- drop(b[k] %%*%% solve(v, b[k]))", paste(res$together, collapse = ", ")),
           "numbers <- c(numbers, list(statistic = w, df = length(k), p_value = pchisq(w, length(k), lower.tail = FALSE)))"),
    paste0("numbers <- c(numbers, list(log_likelihood = fit$loglik[2], model_chi_square = chi, model_df = length(b), model_p_value = pchisq(chi, ",
           "length(b), lower.tail = FALSE), sets = nlevels(set), events = sum(y), n = length(y)))"))
}
