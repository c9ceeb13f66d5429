# Study results pooled, with a forest figure.

pooling_method <- function(id, name, score, why, main) {
  new_method(
    id = id, name = name, tasks = "pool",
    fits = function(shape) if (shape$task == "pool" && (shape$n_outcome == 2 || isTRUE(shape$studies))) new_fit(score, why),
    compute = function(ctx) compute_pooling(ctx, main),
    checks = function(ctx, res) compact(list(check_study_count(res$pool$k), if (main == "random") check_pooled_width(res$pool$random, res$pool$fixed),
        check_heterogeneity(res$pool$i_squared, res$pool$q_p), check_funnel(res$pool$egger, res$pool$k))),
    second = setdiff(c("pooled_random", "pooled_fixed"), id), figure = function(ctx, res) figure_forest(ctx,
        res), sentences = say_pooling, script = script_pooling,
    references = c("DerSimonian, R., & Laird, N. (1986). Meta-analysis in clinical trials. Controlled Clinical Trials, 7, 177-188.",
                   paste0("Hartung, J., & Knapp, G. (2001). A refined method for the meta-analysis of",
                       " controlled clinical trials with binary outcome. Statistics in Medicine, 20,",
                       " 3875-3889."),
                   paste0("Higgins, J. P. T., Thompson, S. G., Deeks, J. J., & Altman, D. G. (2003).",
                       " Measuring inconsistency in meta-analyses. BMJ, 327, 557-560.")),
    next_steps = function(ctx,
        res) c(if (id == "pooled_random") "Use a fixed effect model" else "Use a random effects model", "What is in this data?"))
}

#' @noRd
method_pooled_random <- function() pooling_method("pooled_random", "Random-effects pooling (REML, Hartung-Knapp)", 80,
    "Results of several studies are combined; the studies are taken to differ, so effects are random.", "random")

#' @noRd
method_pooled_fixed <- function() pooling_method("pooled_fixed", "Fixed-effect pooling", 60, "You asked for one common effect.", "fixed")

compute_pooling <- function(ctx, main) {
  r <- ctx$reading
  effects <- study_effects(ctx)
  y <- effects$effect; se <- effects$se
  pool <- stat_pool(y, se, ctx$conf_level, pool_estimator(ctx))
  line <- pool[[main]]
  z <- stats::qnorm(1 - (1 - ctx$conf_level) / 2)
  study <- ctx$row_labels(ctx$frame$rows)
  study <- if (length(study)) study[[1]] else sprintf("row %d", ctx$frame$rows)
  table <- data.frame(study = study, estimate = y, se = se, ci_low = y - z * se, ci_high = y + z * se,
      weight_fixed = 100 * pool$weights_fixed, weight_random = 100 * pool$weights_random, stringsAsFactors = FALSE)
  out <- if (is.null(pool$leave_one_out)) NULL else cbind(left_out = study, pool$leave_one_out, stringsAsFactors = FALSE)
  result(compact(list(new_number("statistic", if (is.null(line$df)) "z" else "t", line$statistic),
      if (!is.null(line$df)) new_number("df", "degrees of freedom", line$df), new_number("p_value", "p", line$p_value),
              new_number("estimate", sprintf("pooled %s", effects$label), line$estimate), new_number("se",
                  "standard error", line$se), new_number("ci_low", "lower limit", line$ci_low),
              new_number("ci_high", "upper limit", line$ci_high), new_number("conf_level", "confidence level",
                  ctx$conf_level), new_number("n", "studies", pool$k), new_number("i_squared", "I squared", pool$i_squared),
              new_number("tau_squared", sprintf("variance between studies (%s)", if (pool_estimator(ctx) == "dl") "DerSimonian-Laird" else "REML"),
                  pool$tau_squared), new_number("tau_squared_dl", "variance between studies (DerSimonian-Laird)", pool$tau_squared_dl),
                      new_number("q", "Q", pool$q),
              new_number("q_df", "its degrees of freedom", pool$q_df), new_number("q_p", "its p",
                  pool$q_p), new_number("prediction_low", "prediction interval, lower limit", pool$prediction_low),
              new_number("prediction_high", "prediction interval, upper limit",
                  pool$prediction_high), new_number("egger_intercept", "Egger intercept", pool$egger$intercept),
              new_number("egger_p", "its p", pool$egger$p_value)) |> c(back_numbers(effects, line))),
         tables = compact(list(new_table("studies", "Studies", table),
             if (!is.null(out)) new_table("leave_one_out", "Random-effects result without each study",
             out))), pool = pool, main = main, study = study, y = y, se = se, effects = effects)
}

#' How the variance between studies is estimated, and the interval with it
#' @noRd
pool_estimator <- function(ctx) if (isTRUE(ctx$reading$extra$moments)) "dl" else "reml"

#' Effect and standard error of each study: as given, or computed from counts, means or correlations
#' @section Shape: list(effect, se, label, back = function to the everyday scale or NULL, id of the number on that scale).
#' @noRd
study_effects <- function(ctx) {
  v <- lapply(ctx$reading$outcome, function(name) as_plain_number(ctx$frame$data[[name]]))
  s <- ctx$reading$extra$studies
  if (is.null(s)) return(list(effect = v[[1]], se = v[[2]], label = ctx$reading$outcome[1]))
  out <- switch(s$kind, counts = effects_of_counts(v[[1]], v[[2]], v[[3]], v[[4]], s$measure), means = effects_of_means(v[[1]], v[[2]], v[[3]],
    v[[4]], v[[5]], v[[6]], s$measure == "standardised_difference"),
                correlations = effects_of_correlations(v[[1]], v[[2]]))
  label <- switch(s$measure, odds_ratio = "log odds ratio", risk_ratio = "log risk ratio", risk_difference = "risk difference",
    mean_difference = "difference of means",
    standardised_difference = "standardised difference (g)", correlation = "correlation (Fisher's z)")
  back <- switch(s$measure, odds_ratio = , risk_ratio = exp, correlation = tanh, NULL)
  c(out, list(label = label, back = back, id = switch(s$measure, correlation = "r", s$measure)))
}

#' The pooled result on the everyday scale
#' @noRd
back_numbers <- function(effects, line) {
  if (is.null(effects$back)) return(list())
  label <- gsub("_", " ", if (effects$id == "r") "correlation" else effects$id)
  list(new_number(effects$id, paste("pooled", label), effects$back(line$estimate)), new_number(paste0(effects$id, "_low"), "lower limit",
    effects$back(line$ci_low)),
       new_number(paste0(effects$id, "_high"), "upper limit", effects$back(line$ci_high)))
}

pooled_name <- function(ctx, res) if (is.null(ctx$reading$extra$studies)) say_column(ctx$columns[[ctx$reading$outcome[1]]]) else res$effects$label

#' The name of the pooled effect on the scale on which a sentence tells it ("odds ratio" of a log odds ratio)
#' @noRd
pooled_said_as <- function(ctx, res) {
  if (is.null(res$effects$back)) pooled_name(ctx, res) else effect_words(res$effects$id)
}

#' The id of an effect in words
#' @noRd
effect_words <- function(id) if (id == "r") "correlation" else gsub("_", " ", id)

pooled_unit <- function(ctx) if (is.null(ctx$reading$extra$studies)) ctx$columns[[ctx$reading$outcome[1]]]$unit

#' Lines that set y and se
#' @noRd
script_effects <- function(ctx) {
  r <- ctx$reading; s <- r$extra$studies
  v <- vapply(r$outcome, script_value, "", USE.NAMES = FALSE)
  if (is.null(s)) return(sprintf("y <- %s; se <- %s", v[1], v[2]))
  switch(s$kind,
    counts = if (s$measure == "risk_difference") c(
      sprintf("a <- %s; b <- %s - a; c1 <- %s; d <- %s - c1; half <- 0.5 * ((a == 0 | b == 0) & (c1 == 0 | d == 0))", v[1], v[2], v[3], v[4]),
      "variance <- function(x, y) (x + half) * (y + half) / (x + y + 2 * half)^3",
      "y <- a / (a + b) - c1 / (c1 + d); se <- sqrt(variance(a, b) + variance(c1, d))")
      else c(sprintf(paste0("a <- %s; b <- %s - a; c1 <- %s; d <- %s - c1; empty <- a == 0 | b == 0 | c1 == 0 | d == 0; a <- a + empty / 2; ",
        "b <- b + empty / 2; c1 <- c1 + empty / 2; d <- d + empty / 2"), v[1], v[2], v[3], v[4]),
               if (s$measure == "odds_ratio") "y <- log(a * d / (b * c1)); se <- sqrt(1 / a + 1 / b + 1 / c1 + 1 / d)" else paste0("y <- log((a / (a + b)) / (c1 / (c1 + ",  # nolint: line_length_linter.
                   "d))); se <- sqrt(1 / a - 1 / (a + b) + 1 / c1 - 1 / (c1 + d))")),
    means = c(sprintf("m1 <- %s; s1 <- %s; n1 <- %s; m2 <- %s; s2 <- %s; n2 <- %s", v[1], v[2], v[3], v[4], v[5], v[6]),
              if (s$measure == "mean_difference") "y <- m1 - m2; se <- sqrt(s1^2 / n1 + s2^2 / n2)"
              else paste0("df <- n1 + n2 - 2; y <- (m1 - m2) / sqrt(((n1 - 1) * s1^2 + (n2 - 1) * s2^2) / df) * exp(lgamma(df / 2) - ",
                  "lgamma((df - 1) / 2) - log(df / 2) / 2); se <- sqrt((n1 + n2) / (n1 * n2) + y^2 / (2 * (n1 + n2)))")),
    correlations = sprintf("y <- atanh(%s); se <- 1 / sqrt(%s - 3)", v[1], v[2]))
}

say_pooling <- function(ctx, res) {
  n <- res$number; unit <- pooled_unit(ctx)
  effect <- pooled_name(ctx, res)
  interval <- say_interval(n$ci_low, n$ci_high, ctx$conf_level)
  text <- sprintf("Over %s studies the pooled %s is %s (%s), %s.", say_number(n$n), effect,
      with_unit(say_number(n$estimate), unit), interval, say_p(n$p_value))
  spread <- sprintf("Heterogeneity: I squared %s, tau squared %s, Q(%s) = %s, %s.", say_percent(n$i_squared, 0),
      say_number(n$tau_squared), say_df(n$q_df), say_number(n$q, 2), say_p(n$q_p))
  # ratios and correlations are pooled on another scale and told on their own
  own <- function(v) if (is.null(res$effects$back)) say_number(v) else say_number(res$effects$back(v), 2)
  range <- if (is.finite(n$prediction_low %||% NA)) sprintf("A new study like these would be expected between %s and %s.",
      own(n$prediction_low), if (is.null(res$effects$back)) with_unit(own(n$prediction_high), unit) else own(n$prediction_high))
  out <- res$pool$leave_one_out
  sway <- if (!is.null(out)) sprintf("Leaving one study out at a time, the result runs from %s to %s.",
      own(min(out$estimate)), own(max(out$estimate)))
  id <- res$effects$id
  if (!is.null(id)) text <- sprintf("Over %s studies the pooled %s is %s (%s), %s.", say_number(n$n), effect_words(id),
    if (is.null(res$effects$back)) say_number(n$estimate) else say_number(n[[id]], 2),
    if (is.null(res$effects$back)) interval else say_interval(n[[paste0(id, "_low")]], n[[paste0(id, "_high")]], ctx$conf_level,
      function(v) say_number(v, 2)), say_p(n$p_value))
  list(headline = text, details = c(spread, range, sway, say_rows(ctx)),
       write_up = sprintf("The effects of %s studies were pooled (%s): %s, %s, %s; I2 = %s, tau2 = %s.%s",
           say_number(n$n), if (res$main != "random") "fixed effect" else if (pool_estimator(ctx) == "dl") "random effects, DerSimonian-Laird" else
             "random effects, REML, Hartung-Knapp", say_number(n$estimate),
                          interval, say_p(n$p_value), say_percent(n$i_squared, 0), say_number(n$tau_squared), write_rows(ctx)))
}

script_pooling <- function(ctx, res) {
  r <- ctx$reading
  c(script_effects(ctx), "v <- se^2; w <- 1 / v; k <- length(y); z <- qnorm(1 - (1 - conf_level) / 2)",
    "fixed <- lm(y ~ 1, weights = w); m <- coef(fixed)[[1]]; q <- sum(w * (y - m)^2); dl <- max(0, (q - (k - 1)) / (sum(w) - sum(w^2) / sum(w)))",
    "# variance between studies by REML: the root of the derivative of the restricted likelihood",
    paste0("reml <- function(y, v) { s <- function(t) { w <- 1 / (v + t); m <- weighted.mean(y, w); -sum(w)",
        " / 2 + sum(w^2) / sum(w) / 2 + sum(w^2 * (y - m)^2) / 2 }"),
    paste0("  if (s(0) <= 0) return(0); h <- max(var(y), 1e-8); while (s(h) > 0) h <- 4 * h; t <-",
        " uniroot(s, c(0, h), tol = 1e-15 * max(1, h), maxiter = 1000)$root"),
    "  for (i in 1:4) { e <- 1e-5 * max(t, 1e-3); new <- t - s(t) * 2 * e / (s(t + e) - s(t - e)); if (is.finite(new) && new > 0) t <- new }; t }",
    if (pool_estimator(ctx) == "dl") c(
      "# here by moments, with the normal interval",
      "reml <- function(y, v) { w <- 1 / v; q <- sum(w * (y - weighted.mean(y, w))^2); max(0, (q - (length(y) - 1)) / (sum(w) - sum(w^2) / sum(w))) }",  # nolint: line_length_linter.
      "random <- function(y, v) { t2 <- reml(y, v); w <- 1 / (v + t2); e <- sqrt(1 / sum(w)); c(t2, weighted.mean(y, w), e, e) }")
    else paste0("random <- function(y, v) { t2 <- reml(y, v); w <- 1 / (v + t2); fit <- lm(y ~ 1, weights = w);",
        " s <- summary(fit)$coefficients; c(t2, s[1, 1], s[1, 2], sqrt(1 / sum(w))) }  # weighted least",
        " squares gives the Hartung-Knapp error"),
    sprintf("r <- random(y, v); tau2 <- r[1]; tq <- %s; wr <- 1 / (v + tau2)", if (pool_estimator(ctx) == "dl") "z" else
      "qt(1 - (1 - conf_level) / 2, k - 1)"),
    paste0("tables <- list(studies = data.frame(estimate = y, se = se, ci_low = y - z * se, ci_high = y + z",
        " * se, weight_fixed = 100 * w / sum(w), weight_random = 100 * wr / sum(wr)))"),
    if (!is.null(res$pool$leave_one_out)) c(paste0("one <- t(vapply(seq_len(k), function(i) random(y[-i],",
        " v[-i])[2:3], numeric(2))); tk <- ", if (pool_estimator(ctx) == "dl") "z" else "qt(1 - (1 - conf_level) / 2, k - 2)"),
      "tables$leave_one_out <- data.frame(estimate = one[, 1], ci_low = one[, 1] - tk * one[, 2], ci_high = one[, 1] + tk * one[, 2])"),
    if (res$main == "random" && pool_estimator(ctx) == "dl") paste0("numbers <- list(statistic = r[2] / r[3], p_value = 2 * pnorm(-abs(r[2] / r[3])), ",  # nolint: line_length_linter.
      "estimate = r[2], se = r[3], ci_low = r[2] - z * r[3], ci_high = r[2] + z * r[3])")
    else if (res$main == "random") paste0("numbers <- list(statistic = r[2] / r[3], df = k - 1, p_value = 2 *",
        " pt(-abs(r[2] / r[3]), k - 1), estimate = r[2], se = r[3], ci_low = r[2] - tq * r[3], ci_high =",
        " r[2] + tq * r[3])")
    else paste0("fse <- sqrt(1 / sum(w)); numbers <- list(statistic = m / fse, p_value = 2 * pnorm(-abs(m /",
        " fse)), estimate = m, se = fse, ci_low = m - z * fse, ci_high = m + z * fse)"),
    paste0("tp <- qt(1 - (1 - conf_level) / 2, max(1, k - 2)); spread <- sqrt(tau2 + r[4]^2); egger <- if",
        " (k > 2) summary(lm(I(y / se) ~ I(1 / se)))$coefficients else matrix(NA, 2, 4)"),
    paste0("numbers <- c(numbers, list(conf_level = conf_level, n = k, i_squared = max(0, (q - (k - 1)) /",
        " q), tau_squared = tau2, tau_squared_dl = dl, q = q, q_df = k - 1, q_p = pchisq(q, k - 1,",
        " lower.tail = FALSE),"),
    paste0("  prediction_low = if (k > 2) r[2] - tp * spread else NA, prediction_high = if (k > 2) r[2] +",
        " tp * spread else NA, egger_intercept = egger[1, 1], egger_p = egger[1, 4]))"),
    if (!is.null(res$effects$back)) sprintf(paste0("numbers[c(\"%s\", \"%s_low\", \"%s_high\")] <- lapply(numbers[c(\"estimate\", \"ci_low\", ",
        "\"ci_high\")], %s)"), res$effects$id, res$effects$id, res$effects$id, if (res$effects$id == "r") "tanh" else "exp"))
}

#' What the axis of pooled effects is called
#' @noRd
pooled_axis <- function(ctx, res) {
  if (is.null(ctx$reading$extra$studies)) axis_label(ctx$columns[[ctx$reading$outcome[1]]]) else capital(res$effects$label)
}

#' Each study with its interval, its weight as the size of its square, and the pooled result beneath
#' @noRd
figure_forest <- function(ctx, res) {
  if (isTRUE(ctx$reading$extra$funnel)) return(figure_funnel(ctx, res))
  t <- res$tables[[1]]$data; line <- res$pool[[res$main]]
  title <- sprintf("%s by study and pooled", capital(pooled_name(ctx, res)))
  d <- data.frame(study = factor(t$study, rev(unique(t$study))), estimate = t$estimate, low = t$ci_low,
      high = t$ci_high, weight = if (res$main == "random") t$weight_random else t$weight_fixed)
  label <- pooled_axis(ctx, res)
  diamond <- data.frame(x = c(line$ci_low, line$estimate, line$ci_high, line$estimate), y = c(0, 0.28, 0, -0.28))
  new_figure("forest", title, "forest",
      subtitle = sprintf("Squares: studies, sized by weight, with %s intervals; diamond: pooled result%s.", say_level(ctx$conf_level),
                                                           if (res$main == "random" &&
        is.finite(res$pool$prediction_low)) "; thin line: where a new study is expected" else ""),
             alt = sprintf("%s: a square with a line for each study and a diamond for the pooled result.", title),
    draw = function() {
      plot <- ggplot2::ggplot(d, ggplot2::aes(x = .data$estimate,
          y = as.integer(.data$study))) + ggplot2::geom_vline(xintercept = 0, colour = quill_soft(), linetype = "22") +
        ggplot2::geom_linerange(ggplot2::aes(xmin = .data$low, xmax = .data$high), colour = quill_colours(1), linewidth = 0.7) +
        ggplot2::geom_point(ggplot2::aes(size = .data$weight), shape = 15,
            colour = quill_colours(1)) + ggplot2::scale_size_area(max_size = 5.5, guide = "none")
      if (res$main == "random" && is.finite(res$pool$prediction_low)) plot <- plot + ggplot2::annotate("segment",
          x = res$pool$prediction_low, xend = res$pool$prediction_high, y = 0, yend = 0, colour = quill_colours(2)[2], linewidth = 0.6)
      plot + ggplot2::geom_polygon(data = diamond, ggplot2::aes(x = .data$x, y = .data$y), fill = quill_colours(2)[2], inherit.aes = FALSE) +
        ggplot2::scale_y_continuous(breaks = 0:nlevels(d$study), labels = c("pooled", levels(d$study)),
            expand = ggplot2::expansion(add = 0.7)) + ggplot2::labs(x = label, y = NULL)
    },
    script = c(sprintf("plot_data <- data.frame(study = %s, tables$studies)", as_r_strings(as.character(t$study))),
               sprintf(paste0("plot <- ggplot(plot_data, aes(estimate, study)) + geom_pointrange(aes(xmin =",
                   " ci_low, xmax = ci_high)) + geom_vline(xintercept = numbers$estimate) + labs(title =",
                   " %s) + theme_minimal()"), as_r_string(title))))
}

#' Each study's effect against its standard error: without small-study effects the points fill the funnel evenly
#' @noRd
figure_funnel <- function(ctx, res) {
  t <- res$tables[[1]]$data; line <- res$pool[[res$main]]
  title <- sprintf("Funnel of %s", pooled_name(ctx, res))
  z <- stats::qnorm(1 - (1 - ctx$conf_level) / 2); top <- max(t$se) * 1.05
  edge <- data.frame(x = c(line$estimate - z * top, line$estimate, line$estimate + z * top), y = c(top, 0, top))
  label <- pooled_axis(ctx, res)
  new_figure("funnel", title, "scatter", subtitle = sprintf("Lines: where %s of the studies would lie if all measured the pooled effect.",
    say_level(ctx$conf_level)),
    alt = sprintf("%s: a point for each study, the larger studies on top.", title),
    draw = function() ggplot2::ggplot(t, ggplot2::aes(x = .data$estimate, y = .data$se)) + ggplot2::geom_path(data = edge,
      ggplot2::aes(x = .data$x, y = .data$y), colour = quill_soft(), linetype = "22") +
      ggplot2::geom_vline(xintercept = line$estimate, colour = quill_colours(2)[2]) + ggplot2::geom_point(size = 3, colour = quill_colours(1)) +
        ggplot2::scale_y_reverse() + ggplot2::labs(x = label, y = "Standard error"),
    script = c("plot_data <- tables$studies",
      sprintf(paste0("plot <- ggplot(plot_data, aes(estimate, se)) + geom_point() + geom_vline(xintercept = numbers$estimate) + ",
          "scale_y_reverse() + labs(title = %s) + theme_minimal()"), as_r_string(title))))
}
