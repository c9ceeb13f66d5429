# Logistic and Poisson regression.

#' @noRd
method_logistic_regression <- function() {
  new_method(
    id = "logistic_regression", name = "Logistic regression", tasks = "predict",
    fits = function(shape) fits_generalised(shape, "yes_no", "The outcome has two values, so its odds are modelled."),
    compute = function(ctx) compute_generalised(ctx, "binomial"), checks = generalised_checks, second = "penalised_logistic",
    figure = function(ctx, res) figure_pair_shares(ctx, res) %||% figure_chance(ctx, res) %||% figure_ratios(ctx, res), sentences = say_generalised,
        script = script_generalised,
    references = c("McCullagh, P., & Nelder, J. A. (1989). Generalized Linear Models (2nd ed.). Chapman & Hall.",
                   paste0("Hanley, J. A., & McNeil, B. J. (1982). The meaning and use of the area under a receiver ",
                          "operating characteristic curve. Radiology, 143, 29-36.")),
    next_steps = next_generalised)
}

#' @noRd
method_poisson_regression <- function() {
  new_method(
    id = "poisson_regression", name = "Poisson regression", tasks = "predict",
    fits = function(shape) if (identical(shape$method_asked, "poisson_regression") || isTRUE(shape$offset)) fits_generalised(shape, "count",
        "The outcome is a count, so the log of its mean is modelled."),
    second = "negative_binomial_regression",
    compute = function(ctx) compute_generalised(ctx, "poisson"), checks = generalised_checks,
    figure = function(ctx, res) figure_chance(ctx, res) %||% figure_ratios(ctx, res), sentences = say_generalised, script = script_generalised,
    references = "McCullagh, P., & Nelder, J. A. (1989). Generalized Linear Models (2nd ed.). Chapman & Hall.",
    next_steps = next_generalised)
}

fits_generalised <- function(shape, kind, why) {
  model <- shape$task %in% c("predict", "relate", "compare") && shape$n_outcome == 1 &&
    (length(shape$predictor_kinds) + shape$n_by + length(shape$adjust)) >= 1
  asked <- shape$task == "predict" || length(shape$adjust) > 0
  two_valued <- kind == "yes_no" && isTRUE(shape$two_valued)
  if (!model || !asked || !(shape$outcome_kind == kind || two_valued)) return(NULL)
  new_fit(88, why)
}

next_generalised <- function(ctx, res) c(if (length(res$fit$runaway) && res$family == "binomial")
    sprintf("Penalised logistic regression of %s on %s", outcome_name(ctx), some_of(utils::head(names(res$columns), 4), 4)),
  if (res$family == "binomial") sprintf("ROC curve for %s from %s", outcome_name(ctx),
  some_of(utils::head(names(res$columns), 4), 4)), sprintf("How many rows are there for each %s?", outcome_name(ctx)),
                                         sprintf("Is %s related to %s?", outcome_name(ctx), res$predictors[1]))

#' Outcome of the model as 0/1 (the last level is the event, or the one the question names) or as counts
#' @noRd
model_outcome <- function(ctx, family) {
  y <- ctx$frame$data[[outcome_name(ctx)]]
  if (family == "poisson") {
    v <- as_plain_number(y)
    if (any(v < 0 | v != round(v))) stop_data("A Poisson model needs counts: whole numbers from zero up.",
                                              class = "unfit_data")
    return(list(y = v, event = NULL))
  }
  g <- as_group(y)
  if (nlevels(g) != 2) stop_data(sprintf("A logistic model needs an outcome with two values; %s has %s in these rows.",
                                         quoted(outcome_name(ctx)), count_of(nlevels(g), "value")),
                                         class = "group_count")
  event <- ctx$reading$extra$level_of_event
  event <- if (!is.null(event) && event %in% levels(g)) event else level_as_named(outcome_name(ctx), levels(g)) %||% levels(g)[2]
  list(y = as.numeric(g == event), event = event)
}

#' The level that is called like its column ("Left" of left): what the column says to have happened
#' @noRd
level_as_named <- function(name, levels) {
  own <- levels[tolower(levels) == tolower(gsub("[_.]", " ", name))]
  if (length(own) == 1) own
}

compute_generalised <- function(ctx, family) {
  columns <- need_two_levels(model_columns(ctx))
  pair <- interaction_pair(ctx, columns)
  m <- stat_model_matrix(columns, pair)
  o <- model_outcome(ctx, family)
  offset <- log_exposure(ctx)
  out <- unbounded_fit(stat_generalised(m$x, o$y, family, offset = offset))
  z <- stats::qnorm(1 - (1 - ctx$conf_level) / 2)
  statistic <- out$coefficients / out$se
  table <- data.frame(term = m$term, estimate = out$coefficients, se = out$se, statistic = statistic,
                      p_value = 2 * stats::pnorm(abs(statistic), lower.tail = FALSE),
                      ci_low = out$coefficients - z * out$se, ci_high = out$coefficients + z * out$se,
                      stringsAsFactors = FALSE)
  ratio <- if (family == "binomial") "odds_ratio" else "rate_ratio"
  profiled <- profile_columns(m$x, o$y, family, out, ctx$conf_level, offset)
  table[[ratio]] <- exp(table$estimate)
  table[[paste0(ratio, "_low")]] <- exp(table$ci_low)
  table[[paste0(ratio, "_high")]] <- exp(table$ci_high)
  if (!is.null(profiled)) table <- cbind(table, profiled)
  risks <- if (family == "binomial") standardised_table(ctx, columns, pair, out, o$event)
  focal <- focal_rows(ctx, m$source)
  if (length(out$aliased)) need_own_part(m, out$kept, focal)
  joint <- focal_test(m$x, o$y, family, out, focal, offset)
  numbers <- c(generalised_focal(table, focal, ratio, ctx$conf_level), joint,
               list(new_number("n", "rows used", out$n), if (family == "binomial") new_number("events",
                   sprintf("rows with %s", o$event), sum(o$y)),
    new_number("log_likelihood", "log likelihood", out$log_likelihood),
    new_number("deviance", "deviance", out$deviance), new_number("null_deviance", "deviance without predictors",
        out$null_deviance),
    new_number("aic", "AIC", out$aic), new_number("bic", "BIC", out$bic),
    new_number("pseudo_r_squared", "McFadden's pseudo R squared", out$pseudo_r_squared),
    new_number("model_chi_square", "likelihood-ratio chi-square of the whole model", out$null_deviance - out$deviance),
    new_number("model_df", "its degrees of freedom", length(out$kept) - 1),
    new_number("model_p_value", "p of the whole model", stats::pchisq(out$null_deviance - out$deviance,
        length(out$kept) - 1, lower.tail = FALSE))))
  if (family == "binomial") {
    a <- stat_auc(out$fitted, o$y, ctx$conf_level)
    numbers <- c(numbers, list(new_number("auc", "area under the ROC curve", a$auc),
                               new_number("auc_low", "lower limit", a$auc_low),
                               new_number("auc_high", "upper limit", a$auc_high),
                               new_number("accuracy", "rows classed right at one half",
                                          mean((out$fitted > 0.5) == (o$y == 1)))))
  } else numbers <- c(numbers, list(new_number("dispersion", "Pearson chi-square over its degrees of freedom",
                                               out$pearson)))
  if (!is.null(risks) && nrow(risks$data) == 2) numbers <- c(numbers, list(
    new_number("risk_difference", sprintf("standardised difference in the chance of %s, %s less %s", o$event, risks$data$level[2],
        risks$data$level[1]),
               risks$data$difference[2]), new_number("risk_difference_low", "lower limit", risks$data$difference_low[2]),
    new_number("risk_difference_high", "upper limit", risks$data$difference_high[2])))
  at <- if (!length(out$aliased) && !out$separated && is.null(ctx$reading$extra$offset)) stated_values(ctx, columns, pair, m)
  if (!is.null(at)) numbers <- with_expected(compact(numbers), out, at, family, ctx)
  several <- if (!is.null(at)) expected_at_several(ctx, m, at, function(a) expected_mean(out, a, family, ctx$conf_level))
  result(compact(numbers), tables = compact(list(new_table("coefficients",
                                                   sprintf("Coefficients for %s (Wald intervals)",
                                                           if (family == "binomial") sprintf("%s = %s",
                                                               outcome_name(ctx), o$event) else outcome_name(ctx)),
                                                               table), risks, several$table)),
         at = at, several = several, risks = risks$data, profiled = !is.null(profiled), offset = offset, fit = out, x = m$x, term = m$term,
             source = m$source,
             focal = focal, family = family,
             event = o$event, y = o$y,
         predictors = unique(c(ctx$reading$predictors, ctx$reading$by)), columns = columns,
         factors = vapply(columns, is.factor, NA), pair = pair, aliased = m$term[out$aliased], ratio = ratio)
}

#' A fit whose coefficients without a finite estimate say so, instead of where the steps happened to end
#' @section Source: Albert, A. and Anderson, J. A. (1984). On the existence of maximum likelihood estimates in logistic regression models.
#'   Biometrika 71, 1-10.
#' @noRd
unbounded_fit <- function(fit) {
  run <- fit$runaway
  fit$coefficients[run] <- sign(fit$coefficients[run]) * Inf
  fit$se[run] <- NA
  fit
}

#' Likelihood-ratio test of the one column asked about, where it has several coefficients, or one without a finite estimate
#'
#' @section Source: McCullagh, P. and Nelder, J. A. (1989). Generalized Linear Models (2nd ed.), 4.4.
#' @noRd
focal_test <- function(x, y, family, fit, focal, offset) {
  if (length(focal) < 2 && !any(focal %in% fit$runaway)) return(NULL)
  reduced <- stat_generalised(x[, -focal, drop = FALSE], y, family, offset = offset)
  likelihood_ratio_numbers(reduced$deviance - fit$deviance, length(intersect(fit$kept, focal)))
}

#' @param fall How much the deviance falls.
#' @noRd
likelihood_ratio_numbers <- function(fall, df) {
  chi <- max(0, fall)
  list(new_number("statistic", "likelihood-ratio chi-square", chi), new_number("df", "degrees of freedom", df),
       new_number("p_value", "p", stats::pchisq(chi, df, lower.tail = FALSE)))
}

#' The chance (or count) expected at stated values becomes the estimate, with its interval from the scale of the model
#' @noRd
with_expected <- function(numbers, fit, at, family, ctx) {
  with_prediction(numbers, expected_mean(fit, at, family, ctx$conf_level), if (family == "binomial") "chance" else "expected count", at)
}

say_chance <- function(ctx, res, y) {
  n <- res$number
  shown <- if (res$family == "binomial") say_percent else say_number
  what <- if (res$family == "binomial") sprintf("the chance of %s = %s", say_column(outcome_column(ctx)), res$event) else y
  sprintf("At %s, %s is expected at %s (%s).%s", say_stated(ctx, res$at), what, shown(n$estimate),
          say_interval(n$ci_low, n$ci_high, ctx$conf_level, shown), say_beyond(res))
}

#' Profile-likelihood limits of the ratios, where the model is small enough for them to come at once
#' @noRd
profile_columns <- function(x, y, family, fit, conf_level, offset) {
  if (length(fit$aliased) || fit$separated || nrow(x) * ncol(x)^2 > 60000) return(NULL)
  ratio_limits_table(stat_profile_limits(x, y, family, fit, seq_len(ncol(x)), conf_level, offset))
}

#' Limits of coefficients on the log scale as columns of ratios
#' @noRd
ratio_limits_table <- function(limits) data.frame(profile_low = exp(limits[, 1]), profile_high = exp(limits[, 2]))

#' Chances of the event if every row stood at each level of the column asked about, all else as it is
#' @noRd
standardised_table <- function(ctx, columns, pair, fit, event) {
  name <- names(columns)[1]
  if (length(fit$aliased) || fit$separated || !is.factor(columns[[name]]) || nlevels(columns[[name]]) > 8) return(NULL)
  levels <- levels(columns[[name]])
  designs <- lapply(levels, function(l) {
    columns[[name]] <- factor(rep(l, length(columns[[name]])), levels)
    stat_model_matrix(columns, pair)$x
  })
  s <- stat_standardised_risks(designs, fit$coefficients, fit$unscaled, ctx$conf_level)
  new_table("standardised", sprintf("Chance of %s = %s at each level of %s%s", outcome_name(ctx), event, name,
                                    if (length(columns) > 1) ", the other columns as they are" else ""),
            data.frame(level = levels, risk = s$risk, se = s$se, ci_low = s$low, ci_high = s$high, difference = s$difference,
                       difference_low = s$difference_low, difference_high = s$difference_high, stringsAsFactors = FALSE))
}

say_standardised <- function(ctx, res) {
  t <- res$risks
  if (is.null(t)) return(NULL)
  text <- sprintf("In chances%s: %s.", if (length(res$columns) > 1) ", standardised to the rows as they are" else "",
                  some_of(sprintf("%s for %s", say_percent(t$risk), t$level), 6))
  if (nrow(t) != 2) return(text)
  sprintf("%s The difference is %s (%s).", text, say_points(t$difference[2]),
          say_interval(t$difference_low[2], t$difference_high[2], ctx$conf_level, say_points))
}

#' Log of what the counts are made over; 0 where they are made over nothing
#' @noRd
log_exposure <- function(ctx) {
  if (is.null(ctx$reading$extra$offset)) return(0)
  v <- as_plain_number(ctx$frame$data[[ctx$reading$extra$offset]])
  none <- is.na(v) | v <= 0
  if (any(none)) stop_data(sprintf("%s must be above zero in every row to be an exposure, and is not in %s.", quoted(ctx$reading$extra$offset),
                                   count_of(sum(none), "row")),
    todo = sprintf("Ask for the rows with %s above 0.", ctx$reading$extra$offset),
    class = "unfit_data")
  log(v)
}

#' Coefficients on the log scale with Wald tests, limits and their ratios
#' @param ratio What a ratio is called in the table ("odds_ratio"). @param df Degrees of freedom of the errors; Inf for z.
#' @noRd
ratio_table <- function(term, b, se, conf_level, ratio = "odds_ratio", df = Inf) {
  table <- coefficient_table(term, b, se, df, conf_level)
  table[paste0(ratio, c("", "_low", "_high"))] <- lapply(table[c("estimate", "ci_low", "ci_high")], exp)
  table
}

#' The same in a script that has b, se, z and the statistic
#' @noRd
script_odds_table <- function(statistic) {
  sprintf(paste0("tables <- list(coefficients = data.frame(estimate = b, se = se, statistic = %s, p_value = 2 * pnorm(-abs(%s)), ci_low = b - ",
                 "z * se, ci_high = b + z * se, odds_ratio = exp(b), odds_ratio_low = exp(b - z * se), odds_ratio_high = exp(b + z * se)))"),
          statistic, statistic)
}

generalised_focal <- function(table, focal, ratio, conf_level) {
  if (length(focal) != 1) return(list(new_number("conf_level", "confidence level", conf_level)))
  row <- table[focal, ]
  if (is.infinite(row$estimate)) return(list(
    new_number("estimate", sprintf("coefficient of %s (log scale)", row$term), row$estimate),
    new_number("conf_level", "confidence level", conf_level),
    new_number(ratio, sprintf("%s of %s", gsub("_", " ", ratio), row$term), row[[ratio]])))
  list(new_number("estimate", sprintf("coefficient of %s (log scale)", row$term), row$estimate),
       new_number("se", "standard error", row$se), new_number("statistic", "z", row$statistic),
       new_number("p_value", "p", row$p_value),
       new_number("ci_low", "lower limit", row$ci_low), new_number("ci_high", "upper limit", row$ci_high),
       new_number("conf_level", "confidence level", conf_level),
       new_number(ratio, sprintf("%s of %s", gsub("_", " ", ratio), row$term), row[[ratio]]),
       new_number(paste0(ratio, "_low"), "lower limit", row[[paste0(ratio, "_low")]]),
       new_number(paste0(ratio, "_high"), "upper limit", row[[paste0(ratio, "_high")]]))
}

generalised_checks <- function(ctx, res) {
  compact(list(check_independent_rows(ctx$unit_values, ctx$unit_name),
               if (res$family == "binomial") check_separation(res$fit),
               if (res$family == "poisson") check_dispersion(res$fit$pearson),
               if (res$family == "poisson") check_zeros(res$y, res$fit$fitted),
               if (res$family == "binomial") check_calibrated(res$fit$fitted, res$y),
               check_near_outcome(res$columns, res$y, res$family == "binomial"),
               check_events(res), check_collinear(res$x, res$fit$kept, res$term)))
}

#' "odds ratio 2.74 (95 % CI 2.15 to 3.49), p < .001", of a row of a table of coefficients
#' @noRd
say_ratio_tested <- function(row, ratio, conf_level) {
  r <- say_ratio(row, ratio, conf_level)
  sprintf("%s %s (%s), %s", gsub("_", " ", ratio), r$value, r$interval, say_p(row$p_value))
}

#' "The odds of x rise with dose: ...", "The mean of x falls with ...", "No clear change of ... with ..."
#' @noRd
say_moved <- function(y, row, held, clear, test) {
  verb <- paste0(if (row$estimate > 0) "rise" else "fall", if (startsWith(y, "the mean")) "s")
  sprintf("%s %s%s: %s.", if (clear) sprintf("%s %s with", capital(y), verb) else sprintf("No clear change of %s with", y), row$term, held, test)
}

#' What the columns asked about go along with: their interaction, one ratio, all of them together, or the whole model
#' @noRd
say_generalised_effect <- function(ctx, res, y, held) {
  n <- res$number
  clear <- isTRUE(n$p_value < 1 - ctx$conf_level)
  joint <- if (!is.null(n$df)) sprintf("chi-square(%s) = %s, %s", say_number(n$df), say_number(n$statistic, 2), say_p(n$p_value))
  if (length(res$pair) && length(res$focal) > 1 && !is.null(n$df)) {
    return(say_interaction(ctx, res, y, say_held(ctx, setdiff(names(res$columns), res$predictors)), clear, joint))
  }
  if (length(res$focal) == 1 && is.infinite(res$tables[[1]]$data$estimate[res$focal])) {
    row <- res$tables[[1]]$data[res$focal, ]
    return(sprintf("No finite %s of %s fits these rows (it runs off to %s)%s: likelihood-ratio %s.", gsub("_", " ", res$ratio), row$term,
                   if (row$estimate > 0) "infinity" else "zero", held, joint))
  }
  if (length(res$focal) == 1) {
    row <- res$tables[[1]]$data[res$focal, ]
    clear <- isTRUE(row$p_value < 1 - ctx$conf_level)
    test <- say_ratio_tested(row, res$ratio, ctx$conf_level)
    if (length(res$pair)) return(say_interaction(ctx, res, y, "", clear, test))
    return(say_moved(y, row, held, clear, test))
  }
  if (length(res$focal) > 1 && !is.null(n$df)) {
    return(sprintf("%s %s %s%s: %s.", capital(some_of(vapply(ctx$columns[res$predictors], say_column, ""), 5)),
                   joint_verb(clear, length(res$predictors)), y, say_held(ctx, setdiff(names(res$columns), res$predictors)), joint))
  }
  sprintf("%s %s %s: chi-square(%s) = %s, %s.", capital(some_of(vapply(ctx$columns[names(res$columns)], say_column, ""), 5)),
          joint_verb(isTRUE(n$model_p_value < 1 - ctx$conf_level), length(res$columns)), y, say_number(n$model_df),
          say_number(n$model_chi_square, 2), say_p(n$model_p_value))
}

say_generalised <- function(ctx, res) {
  n <- res$number
  items <- say_coefficients(ctx, res)
  y <- if (res$family == "binomial") sprintf("the odds of %s = %s", say_column(outcome_column(ctx)),
                                             res$event) else sprintf("the mean of %s", say_column(outcome_column(ctx)))
  held <- if (length(res$columns) > 1 && length(res$focal) == 1) ", with the others held constant" else ""
  headline <- say_generalised_effect(ctx, res, y, held)
  effect <- headline
  if (!is.null(res$at)) headline <- if (is.null(res$several)) say_chance(ctx, res, y) else say_expected_several(ctx, res, y)
  details <- c(if (!is.null(res$at)) effect, utils::head(items, 8), say_standardised(ctx, res), say_profile(ctx, res),
               if (length(res$fit$runaway) && res$family == "binomial") "The penalised estimate among the second opinions stays finite.",
               if (length(res$aliased)) sprintf("No coefficient for %s: it is a combination of the others.",
                                                some_of(res$aliased, 5)),
               if (res$family == "binomial") sprintf(paste0("The model tells the two apart with an area under the ",
                                                            "curve of %s (%s)."), say_unit(n$auc),
                                                            say_interval(n$auc_low, n$auc_high, ctx$conf_level,
                                                                say_unit)), say_rows(ctx))
  list(headline = headline, details = details,
       write_up = sprintf(paste0("%s regression of %s on %s (n = %s): %s. Likelihood-ratio chi-square(%s) = %s, %s; ",
                                 "McFadden's pseudo R2 = %s.%s"),
                                 if (res$family == "binomial") "Logistic" else "Poisson",
                                 say_column(outcome_column(ctx)),
    some_of(vapply(ctx$columns[names(res$columns)], say_column, ""), 8), say_number(n$n),
    paste(items, collapse = "; "), say_number(n$model_df), say_number(n$model_chi_square, 2),
    say_p(n$model_p_value), say_unit(n$pseudo_r_squared), write_rows(ctx)))
}

#' Where the likelihood is lopsided, its own interval is the better one
#' @noRd
say_profile <- function(ctx, res) {
  if (!res$profiled || length(res$focal) != 1) return(NULL)
  row <- res$tables[[1]]$data[res$focal, ]
  if (anyNA(c(row$profile_low, row$profile_high))) return(NULL)
  sprintf("By the profile of the likelihood the interval of %s is %s.", row$term,
          say_ratio(list(profile = 1, profile_low = row$profile_low, profile_high = row$profile_high), "profile", ctx$conf_level)$interval)
}

#' Script lines of limit(j, side) after those of above(): outwards from a coefficient until the deviance has risen enough; and of
#' profile(side), these limits as ratios
#' @noRd
script_profile_walk <- function(from, se) {
  c(sprintf("  from <- %s; step <- side * qnorm(1 - (1 - conf_level) / 2) * %s", from, se),
    paste0("  for (r in 1:12) { if (above(from + step) >= 0) return(uniroot(above, sort(c(from, from + step)), tol = 1e-12, maxiter = 200)$root); ",
           "step <- step * 1.6 }"),
    "  side * Inf }", "profile <- function(side) exp(sapply(seq_len(ncol(x)), limit, side))")
}

#' Script lines for profile limits and for standardised chances
#' @noRd
script_generalised_extras <- function(ctx, res, m) {
  c(if (res$profiled) c("# limits at which the deviance has risen by the chi-square quantile",
      "off <- if (is.null(fit$offset)) rep(0, length(y)) else fit$offset; start <- summary(fit)$coefficients",
      paste0("limit <- function(j, side) { above <- function(b) glm.fit(x[, -j, drop = FALSE], y, offset = off + x[, j] * b, family = family(fit), ",
             "control = list(epsilon = 1e-14, maxit = 60))$deviance - fit$deviance - qchisq(conf_level, 1)"),
      script_profile_walk("start[j, 1]", "start[j, 2]"),
      "tables$coefficients$profile_low <- profile(-1); tables$coefficients$profile_high <- profile(1)"),
    if (!is.null(res$risks)) c("# chances if every row stood at each level, errors by the delta method",
      sprintf("design_at <- function(l) { x1 <- factor(rep(l, length(y)), levels(x1)); model.matrix(~ %s, environment()) }", m$formula),
      "at <- lapply(levels(x1), design_at); mu <- lapply(at, function(d) plogis(drop(d %*% coef(fit)))); risk <- sapply(mu, mean)",
      "g <- Map(function(d, m) colMeans(d * (m * (1 - m))), at, mu); v <- vcov(fit); z <- qnorm(1 - (1 - conf_level) / 2)",
      paste0("se <- sapply(g, function(d) sqrt(drop(d %*% v %*% d))); dse <- sapply(g, function(d) sqrt(drop((d - g[[1]]) %*% v %*% ",
          "(d - g[[1]])))); ",
          "diff <- risk - risk[1]; diff[1] <- dse[1] <- NA"),
      paste0("tables$standardised <- data.frame(risk = risk, se = se, ci_low = pmax(0, risk - z * se), ci_high = pmin(1, risk + z * se), ",
          "difference = diff, ",
             "difference_low = diff - z * dse, difference_high = diff + z * dse)"),
      if (nrow(res$risks) == 2) paste0("numbers <- c(numbers, list(risk_difference = diff[2], risk_difference_low = diff[2] - z * dse[2], ",
          "risk_difference_high = diff[2] + z * dse[2]))")))
}

script_generalised <- function(ctx, res) {
  binomial <- res$family == "binomial"
  m <- script_model_columns(ctx, res)
  c(script_model_outcome(ctx, if (binomial) res$event), m$set,
    if (!is.null(ctx$reading$extra$offset)) sprintf("exposure <- log(%s)", script_value(ctx$reading$extra$offset)),
    sprintf("x <- model.matrix(~ %s); q <- qr(x); keep <- sort(q$pivot[seq_len(q$rank)])  # a column that repeats others gets no coefficient",
        m$formula),
    sprintf("X <- x[, keep, drop = FALSE]; fit <- glm(y ~ 0 + X%s, family = %s, control = glm.control(epsilon = 1e-14, maxit = 60))",
            if (is.null(ctx$reading$extra$offset)) "" else " + offset(exposure)", res$family),
    "fit <- update(fit, start = coef(fit))  # errors at the final means, not one step before",
    if (isTRUE(res$fit$complete)) c("# every outcome is fitted exactly: the deviance is that of the limit",
      "stopifnot(max(abs(y - fitted(fit))) < 1e-4)",
      paste0("fit$deviance <- 0; fit$fitted.values[] <- y; fit$aic <- 2 * fit$rank",
      if (res$family == "poisson") " - 2 * sum(dpois(y, y, log = TRUE))")),
    if (is.null(ctx$reading$extra$offset)) "null <- glm(y ~ 1, family = family(fit))" else paste0("null <- glm(y ~ 1 + offset(exposure), family = ",
        "family(fit))"),
    paste0("est <- matrix(NA_real_, ncol(x), 4); est[keep, ] <- summary(fit)$coefficients"),
    if (length(res$fit$runaway)) c("# coefficients that have no finite estimate in these rows",
      sprintf("run <- c(%s); stopifnot(est[run, 2] > 50); est[run, 1] <- sign(est[run, 1]) * Inf; est[run, -1] <- NA",
              paste(res$fit$runaway, collapse = ", "))),
    "beta <- est[, 1]; half <- qnorm(1 - (1 - conf_level) / 2) * est[, 2]",
    paste0("tables <- list(coefficients = data.frame(estimate = beta, se = est[, 2], statistic = est[, 3], p_value = ",
           "est[, 4], ci_low = beta - half, ci_high = beta + half))"),
    sprintf(paste0("tables$coefficients[c(\"%s\", \"%s_low\", \"%s_high\")] <- ",
                   "exp(tables$coefficients[c(\"estimate\", \"ci_low\", \"ci_high\")])"), res$ratio, res$ratio,
                   res$ratio),
    "numbers <- list(conf_level = conf_level)",
    if (length(res$focal) == 1) c(sprintf("row <- tables$coefficients[%d, ]", res$focal),
                                  sprintf(paste0("numbers <- c(numbers, as.list(row[c(\"estimate\", \"se\", ",
                                                 "\"statistic\", \"p_value\", \"ci_low\", \"ci_high\", \"%s\", ",
                                                 "\"%s_low\", \"%s_high\")]))"), res$ratio, res$ratio, res$ratio)),
    if (!is.null(res$number$df)) c(sprintf("# the %d coefficients of the column asked about, together", length(res$focal)),
      sprintf("less <- glm(y ~ 0 + x[, setdiff(keep, %s), drop = FALSE]%s, family = family(fit), control = glm.control(epsilon = 1e-14, maxit = 60))",
              paste0("c(", paste(res$focal, collapse = ", "), ")"), if (is.null(ctx$reading$extra$offset)) "" else " + offset(exposure)"),
      "numbers$statistic <- less$deviance - fit$deviance; numbers$df <- fit$rank - less$rank",
      "numbers$p_value <- pchisq(numbers$statistic, numbers$df, lower.tail = FALSE)"),
    "n <- length(y); chi <- null$deviance - fit$deviance; d <- fit$rank - 1",
    paste0("numbers <- c(numbers, list(n = n, log_likelihood = as.numeric(logLik(fit)), deviance = fit$deviance, ",
           "null_deviance = null$deviance, aic = AIC(fit), bic = BIC(fit),"),
    paste0("  pseudo_r_squared = 1 - as.numeric(logLik(fit)) / as.numeric(logLik(null)), model_chi_square = chi, ",
           "model_df = d, model_p_value = pchisq(chi, d, lower.tail = FALSE)))"),
    if (binomial) c(paste0("p <- fitted(fit); n1 <- sum(y); n0 <- n - n1; auc <- (sum(rank(p)[y == 1]) - n1 * (n1 + ",
                           "1) / 2) / (n1 * n0); q1 <- auc / (2 - auc); q2 <- 2 * auc^2 / (1 + auc)"),
      paste0("half <- qnorm(1 - (1 - conf_level) / 2) * sqrt((auc * (1 - auc) + (n1 - 1) * (q1 - auc^2) + (n0 - 1) * ",
             "(q2 - auc^2)) / (n1 * n0))"),
      paste0("numbers <- c(numbers, list(events = n1, auc = auc, auc_low = max(0, auc - half), auc_high = min(1, auc ",
             "+ half), accuracy = mean((p > 0.5) == (y == 1))))"))
    else "numbers$dispersion <- sum(resid(fit, \"pearson\")^2) / fit$df.residual", script_generalised_extras(ctx, res, m),
    if (!is.null(res$at)) c(sprintf("at <- c(1, %s); eta <- sum(at * coef(fit)); eta_se <- sqrt(drop(at %%*%% vcov(fit) %%*%% at))",
      paste(vapply(res$at$row, as_r_number, ""), collapse = ", ")),
      "back <- family(fit)$linkinv; z <- qnorm(1 - (1 - conf_level) / 2)",
      if (length(res$focal) == 1) "numbers$slope <- numbers$estimate",
      "numbers[c(\"estimate\", \"se\", \"ci_low\", \"ci_high\")] <- list(back(eta), eta_se * family(fit)$mu.eta(eta),",
      "  back(eta - z * eta_se), back(eta + z * eta_se))"), script_expected_several(res, res$family))
}
