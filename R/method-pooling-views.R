# What is asked of pooled studies beside the pooled result: groups of studies, a column the effect may depend on, small studies, single studies.

view_study_groups <- function(ctx, res) {
  by <- ctx$reading$extra$study_column
  group <- as_group(ctx$frame$data[[by]])
  if (nlevels(group) < 2) stop_data(sprintf("All studies have the same %s, so there are no groups to compare.", quoted(by)), class = "one_group")
  out <- stat_pool_groups(res$y, res$se, as.integer(group), ctx$conf_level, pool_estimator(ctx))
  t <- cbind(stats::setNames(data.frame(levels(group), stringsAsFactors = FALSE), by), out$table)
  own <- pooled_scale(res)
  clear <- out$p_value < 1 - ctx$conf_level
  list(numbers = list(new_number("statistic", "chi-square between the groups", out$statistic), new_number("df", "degrees of freedom", out$df),
                      new_number("p_value", "p", out$p_value)),
       tables = list(new_table("subgroups", sprintf("Pooled %s by %s", pooled_name(ctx, res), by), t)),
       headline = sprintf("The pooled %s %s between the groups of %s: chi-square(%s) = %s, %s.", pooled_said_as(ctx, res),
                          if (clear) "differs" else "does not clearly differ", say_column(ctx$columns[[by]]), say_number(out$df),
                          say_number(out$statistic, 2), say_p(out$p_value)),
       details = c(sprintf("Pooled: %s.", some_of(sprintf("%s in %s (%s; %s)", own(t$estimate), t[[by]], mapply(function(a, b) sprintf("%s to %s", own(a),  # nolint: line_length_linter.
         own(b)), t$ci_low, t$ci_high), count_of(t$k, "study", "studies")), 8)),
         if (any(t$k < 3)) "Some groups hold fewer than three studies, so what they say is uncertain."))
}

#' The pooled effect of each group of studies
#' @noRd
figure_study_groups <- function(ctx, res) {
  by <- ctx$reading$extra$study_column
  group <- as_group(ctx$frame$data[[by]])
  t <- stat_pool_groups(res$y, res$se, as.integer(group), ctx$conf_level, pool_estimator(ctx))$table
  title <- sprintf("Pooled %s by %s", pooled_name(ctx, res), say_column(ctx$columns[[by]]))
  said <- sprintf("%s (%s)", levels(group), vapply(t$k, count_of, "", "study", "studies"))
  d <- data.frame(group = factor(said, rev(said)), value = t$estimate, low = t$ci_low, high = t$ci_high)
  figure_interval_dots("forest", title, sprintf("The pooled result of each group of studies with its %s interval.", say_level(ctx$conf_level)), d,
                       pooled_axis(ctx, res), "plot_data <- cbind(group = levels(g), tables$subgroups)", "estimate, group")
}

#' An effect on the scale that people read it on
#' @noRd
pooled_scale <- function(res) function(v) if (is.null(res$effects$back)) say_number(v) else say_number(res$effects$back(v), 2)

script_view_study_groups <- function(ctx, res) c(
  sprintf("g <- droplevels(factor(%s))", script_column(ctx$reading$extra$study_column)),
  "of <- function(level) { i <- which(g == level); if (length(i) == 1) return(data.frame(k = 1, estimate = y[i], se = se[i], ci_low = y[i] - z * se[i], ci_high = y[i] + z * se[i], tau_squared = 0, plain = se[i]))",  # nolint: line_length_linter.
  sprintf("  o <- random(y[i], v[i]); q1 <- %s", if (pool_estimator(ctx) == "dl") "z" else "qt(1 - (1 - conf_level) / 2, length(i) - 1)"),
  "  data.frame(k = length(i), estimate = o[2], se = o[3], ci_low = o[2] - q1 * o[3], ci_high = o[2] + q1 * o[3], tau_squared = o[1], plain = o[4]) }",  # nolint: line_length_linter.
  "parts <- do.call(rbind, lapply(levels(g), of)); wg <- 1 / parts$plain^2; qb <- sum(wg * (parts$estimate - weighted.mean(parts$estimate, wg))^2)",
  "tables$subgroups <- parts[setdiff(names(parts), \"plain\")]",
  "view <- list(statistic = qb, df = nlevels(g) - 1, p_value = pchisq(qb, nlevels(g) - 1, lower.tail = FALSE))")

view_study_line <- function(ctx, res) {
  by <- ctx$reading$extra$study_column
  out <- stat_pool_line(res$y, res$se, as_plain_number(ctx$frame$data[[by]]), ctx$conf_level)
  clear <- out$p_value < 1 - ctx$conf_level
  list(numbers = list(new_number("statistic", "t", out$statistic), new_number("df", "degrees of freedom", out$df),
                      new_number("p_value", "p", out$p_value), new_number("estimate", sprintf("change of the effect for each further unit of %s", by),
                                                                       out$slope), new_number("se", "standard error", out$se),
                      new_number("ci_low", "lower limit", out$ci_low), new_number("ci_high", "upper limit", out$ci_high),
                      new_number("intercept", "effect at zero", out$intercept),
                      new_number("tau_squared_left", "variance between studies that the line leaves", out$tau_squared)),
       tables = list(),
       headline = sprintf("The %s %s with %s of the studies: %s for each further %s (%s), t(%s) = %s, %s.", pooled_name(ctx, res),
                          if (clear) "changes" else "does not clearly change", say_column(ctx$columns[[by]]),
                          with_unit(say_number(out$slope), pooled_unit(ctx)), one_unit(ctx$columns[[by]]),
                          say_interval(out$ci_low, out$ci_high, ctx$conf_level), say_number(out$df), say_number(out$statistic, 2), say_p(out$p_value)),  # nolint: line_length_linter.
       details = c(sprintf("Studies are weighted by their errors and by the variance between studies that the line leaves (%s; %s without it).",
                           say_number(out$tau_squared), say_number(res$number$tau_squared)),
                   "A column of the studies says nothing about single persons or units within them.",
                   if (length(res$y) < 10) "With fewer than ten studies such a line is hardly more than a hint."))
}

script_view_study_line <- function(ctx, res) c(
  sprintf("m0 <- %s; x1 <- cbind(1, m0 - mean(m0))", script_value(ctx$reading$extra$study_column)),
  "score <- function(t) { w <- 1 / (v + t); p <- diag(w) - (w * x1) %*% solve(t(x1) %*% (w * x1)) %*% t(w * x1); py <- p %*% y; (-sum(diag(p)) + sum(py^2)) / 2 }",  # nolint: line_length_linter.
  "left <- if (score(0) <= 0) 0 else { h <- max(var(y), 1e-8); while (score(h) > 0) h <- 4 * h; uniroot(score, c(0, h), tol = 1e-15 * max(1, h), maxiter = 1000)$root }",  # nolint: line_length_linter.
  "if (left > 0) for (i in 1:4) { e <- 1e-5 * max(left, 1e-3); new <- left - score(left) * 2 * e / (score(left + e) - score(left - e)); if (is.finite(new) && new > 0) left <- new }",  # nolint: line_length_linter.
  "wl <- lm(y ~ m0, weights = 1 / (v + left)); s <- summary(wl)$coefficients  # weighted least squares gives the Knapp-Hartung error",
  "tl <- qt(1 - (1 - conf_level) / 2, k - 2)",
  paste0("view <- list(statistic = s[2, 3], df = k - 2, p_value = s[2, 4], estimate = s[2, 1], se = s[2, 2], ci_low = s[2, 1] - tl * s[2, 2], ",
         "ci_high = s[2, 1] + tl * s[2, 2], intercept = s[1, 1], tau_squared_left = left)"))

view_small_studies <- function(ctx, res) {
  e <- res$pool$egger
  if (is.na(e$p_value)) stop_data("Fewer than three studies cannot show whether small ones have other effects.", class = "too_few_rows")
  clear <- e$p_value < 1 - ctx$conf_level
  list(numbers = list(new_number("estimate", "Egger intercept", e$intercept), new_number("se", "standard error", e$se),
                      new_number("statistic", "t", e$intercept / e$se), new_number("df", "degrees of freedom", res$pool$k - 2),
                      new_number("p_value", "p", e$p_value)), tables = list(),
       headline = sprintf("%s: Egger's intercept %s, t(%s) = %s, %s.", if (clear) "Small studies show other effects than large ones, as when some were not published" else  # nolint: line_length_linter.
         "Small studies do not clearly show other effects than large ones", say_number(e$intercept, 2), say_number(res$pool$k - 2),
         say_number(e$intercept / e$se, 2), say_p(e$p_value)),
       details = if (res$pool$k < 10) "With fewer than ten studies the test sees little, and the funnel is hardly to be read.")
}

script_view_small_studies <- function(ctx, res)
  "view <- list(estimate = egger[1, 1], se = egger[1, 2], statistic = egger[1, 3], df = k - 2, p_value = egger[1, 4])"

view_single_studies <- function(ctx, res) {
  out <- res$pool$leave_one_out
  if (is.null(out)) stop_data("Leaving a study out needs at least three of them.", class = "too_few_rows")
  own <- pooled_scale(res); all <- res$pool[[res$main]]$estimate
  worst <- which.max(abs(out$estimate - all))
  share <- study_shares(res); heavy <- which.max(share)
  list(numbers = list(new_number("estimate", sprintf("pooled result without %s", res$study[worst]), out$estimate[worst]),
                      new_number("ci_low", "lower limit", out$ci_low[worst]), new_number("ci_high", "upper limit", out$ci_high[worst]),
                      new_number("lowest", "lowest result without one study", min(out$estimate)),
                      new_number("highest", "highest result without one study", max(out$estimate)),
                      new_number("largest_weight", "largest share of the weight", max(share))), tables = list(),
       headline = sprintf("Leaving one study out at a time, the pooled %s runs from %s to %s; without %s it changes most, to %s (%s to %s).",
                          pooled_said_as(ctx, res), own(min(out$estimate)), own(max(out$estimate)), res$study[worst], own(out$estimate[worst]),
                          own(out$ci_low[worst]), own(out$ci_high[worst])),
       details = sprintf("%s has the largest weight (%s of all).", res$study[heavy], say_percent(share[heavy], 1)))
}

script_view_single_studies <- function(ctx, res) c(
  sprintf("far <- which.max(abs(one[, 1] - %s)); share <- %s", if (res$main == "random") "r[2]" else "m", script_study_shares(res)),
  paste0("view <- list(estimate = one[far, 1], ci_low = one[far, 1] - tk * one[far, 2], ci_high = one[far, 1] + tk * one[far, 2], lowest = ",
         "min(one[, 1]), highest = max(one[, 1]), largest_weight = max(share))"))

#' The share of each study in the weight of all
#' @noRd
study_shares <- function(res) if (res$main == "random") res$pool$weights_random else res$pool$weights_fixed

script_study_shares <- function(res) if (res$main == "random") "wr / sum(wr)" else "w / sum(w)"

view_study_weights <- function(ctx, res) {
  share <- study_shares(res)
  order <- order(-share)
  first <- order[1]
  list(numbers = list(new_number("estimate", sprintf("share of the weight, %s", res$study[first]), share[first]),
                      new_number("even_share", "share of each study if all weighed alike", 1 / length(share))), tables = list(),
       headline = sprintf("%s has the largest weight: %s of all.", res$study[first], say_percent(share[first], 1)),
       details = if (length(share) > 1) sprintf("It is followed by %s. Were all %d studies to weigh alike, each would have %s.",
         some_of(sprintf("%s (%s)", res$study, say_percent(share, 1))[utils::head(order[-1], 3)], 3),
         length(share), say_percent(1 / length(share), 1)))
}

script_view_study_weights <- function(ctx, res)
  sprintf("share <- %s; view <- list(estimate = max(share), even_share = 1 / length(share))", script_study_shares(res))

#' Where the effect of a further study would lie
#' @section Source: Higgins, J. P. T., Thompson, S. G. and Spiegelhalter, D. J. (2009). JRSS A 172, 137-159.
#' @noRd
view_new_study <- function(ctx, res) {
  n <- res$number; own <- pooled_scale(res)
  if (!is.finite(n$prediction_low %||% NA)) stop_data("Where a new study would lie cannot be told from fewer than three studies.",
                                                      class = "too_few_rows")
  said <- pooled_said_as(ctx, res)
  said <- paste(if (grepl("^[aeiou]", said, ignore.case = TRUE)) "an" else "a", said)
  high <- if (is.null(res$effects$back)) with_unit(own(n$prediction_high), pooled_unit(ctx)) else own(n$prediction_high)
  list(numbers = list(new_number("estimate", "pooled result", n$estimate), new_number("ci_low", "prediction interval, lower limit", n$prediction_low),
                      new_number("ci_high", "prediction interval, upper limit", n$prediction_high)), tables = list(),
       headline = sprintf("A new study like these is expected to find %s between %s and %s (%s prediction interval); the mean of all such studies is put at %s.",  # nolint: line_length_linter.
                          said, own(n$prediction_low), high, say_level(ctx$conf_level), own(n$estimate)),
       details = "The interval takes in how much the studies differ among themselves, so it is wider than that of their mean.")
}

script_view_new_study <- function(ctx, res)
  "view <- list(estimate = numbers$estimate, ci_low = numbers$prediction_low, ci_high = numbers$prediction_high)"

view_heterogeneity <- function(ctx, res) {
  n <- res$number
  list(numbers = list(new_number("estimate", "I squared", n$i_squared), new_number("statistic", "Q", n$q), new_number("df", "degrees of freedom", n$q_df),  # nolint: line_length_linter.
                      new_number("p_value", "p", n$q_p)), tables = list(),
       headline = sprintf("The studies differ %s: I squared %s, Q(%s) = %s, %s; tau %s.", if (n$q_p < 1 - ctx$conf_level) "by more than chance" else
         "no more than chance would make them", say_percent(n$i_squared, 0), say_number(n$q_df), say_number(n$q, 2), say_p(n$q_p),
         with_unit(say_number(sqrt(n$tau_squared)), pooled_unit(ctx))),
       details = if (is.finite(n$prediction_low %||% NA)) sprintf("A new study like these would be expected between %s and %s.",
                                                                pooled_scale(res)(n$prediction_low), pooled_scale(res)(n$prediction_high)))
}

script_view_heterogeneity <- function(ctx, res)
  "view <- list(estimate = numbers$i_squared, statistic = q, df = k - 1, p_value = pchisq(q, k - 1, lower.tail = FALSE))"
