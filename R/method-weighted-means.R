#' @noRd
method_weighted_means <- function() {
  new_method(
    id = "weighted_means", weights = TRUE, name = "Weighted means of groups, design-based", tasks = c("describe", "compare", "relate"),
    fits = function(shape) {
      ok <- isTRUE(shape$weighted) && is.null(shape$method_asked) && shape$task %in% c("describe", "compare") && shape$n_outcome == 1 &&
        shape$n_by >= 1 && !isTRUE(shape$paired) && is.null(shape$null_value) && !length(shape$adjust) &&
        shape$outcome_kind %in% c("number", "count", "ordered") && shape$statistic %in% c("mean", "weighted_mean") &&
        (shape$task == "describe" || shape$n_by == 1)
      if (ok) new_fit(97, "Weights are declared, so the means and their errors respect them.")
    },
    compute = compute_weighted_means, checks = sampling_checks,
    second = c("t_welch", "anova_welch"), figure = figure_weighted_means, sentences = say_weighted_means, script = script_weighted_means,
    references = c(sampling_references(), paste0("Korn, E. L., & Graubard, B. I. (1990). Simultaneous testing of regression coefficients with ",
                                                 "complex survey data. The American Statistician, 44, 270-276.")),
    next_steps = function(ctx, res) c(sprintf("Distribution of %s", outcome_name(ctx)), sprintf("Count the rows by %s", ctx$reading$by[1])))
}

compute_weighted_means <- function(ctx) {
  s <- sampling_of(ctx); g <- group_of(ctx); y <- outcome_values(ctx); k <- nlevels(g)
  out <- stat_weighted_groups(y, as.integer(g), s$w, k, s$cluster, s$strata, s$absent)
  half <- stats::qt(1 - (1 - ctx$conf_level) / 2, out$df) * out$se
  table <- data.frame(group = levels(g), n = tabulate(g, k), sum_weights = out$weight, mean = out$mean, sd = out$sd, se = out$se,
                      ci_low = out$mean - half, ci_high = out$mean + half, stringsAsFactors = FALSE)
  names(table)[1] <- paste(ctx$reading$by, collapse = " & ")
  tested <- ctx$reading$task == "compare" && k >= 2
  numbers <- if (tested) weighted_test_numbers(ctx, out, levels(g)) else list(new_number("n", "rows used", out$n))
  result(c(numbers, sampling_numbers(s, out)),
         list(new_table("groups", sprintf("%s by %s, weighted by %s", outcome_name(ctx), paste(ctx$reading$by, collapse = " and "), ctx$weight_name),
                        table)),
         levels = levels(g), means = out$mean, tested = tested, sampled = out, direction = if (tested &&
             k == 2) sign(diff(rev(out$mean))) else NA_real_)
}

#' Two groups: the difference; more: the Wald test that all are equal
#' @noRd
weighted_test_numbers <- function(ctx, out, levels) {
  if (length(levels) > 2) return(test_numbers(c(stat_wald_equal(out$mean, out$covariance, out$df), n = out$n), "F", "", ctx$conf_level))
  se <- sqrt(sum(out$covariance * c(1, -1, -1, 1)))
  need_spread(se)
  t <- t_result(out$mean[1] - out$mean[2], se, out$df, out$n, ctx$conf_level, ctx$alternative)
  pooled <- sqrt(sum(out$weight * out$sd^2) / sum(out$weight))
  c(test_numbers(t, "t", sprintf("difference in weighted means, %s minus %s", levels[1], levels[2]), ctx$conf_level),
    list(new_number("cohens_d", "difference in weighted standard deviations within groups", t$estimate / pooled)))
}

say_weighted_means <- function(ctx, res) {
  y <- say_column(outcome_column(ctx)); unit <- outcome_column(ctx)$unit
  t <- res$tables[[1]]$data
  how <- list(measure = "weighted mean", values = res$means)
  each <- sprintf("%s: weighted M = %s, %s, n = %s", res$levels, say_alike(t$mean), mapply(function(l, h) say_interval(l, h, ctx$conf_level),
      t$ci_low,
                                                                                   t$ci_high), say_number(t$n))
  test <- if (!res$tested) "" else if (length(res$levels) == 2) sprintf("; t(%s) = %s, %s", say_df(res$number$df),
      say_number(res$number$statistic, 2),
                                                                        say_p(res$number$p_value))
    else sprintf("; F(%s, %s) = %s, %s", say_df(res$number$df1), say_df(res$number$df2), say_number(res$number$statistic, 2),
        say_p(res$number$p_value))
  how$write_up <- sprintf("%s by %s, weighted (%s): %s%s.%s", capital(y), say_column(ctx$columns[[ctx$reading$by[1]]]), ctx$weight_name,
                          some_of(each, 8), test, write_rows(ctx))
  how$details <- say_sampling(ctx, res)
  if (res$tested && length(res$levels) == 2) return(say_two_groups(ctx, res, how))
  order <- if (all(vapply(ctx$columns[ctx$reading$by], function(col) col$kind == "ordered", NA))) seq_len(nrow(t)) else order(-t$mean)
  item <- sprintf("%s: %s", res$levels[order], with_unit(say_alike(t$mean[order]), unit))
  text <- if (res$tested) say_several_groups(ctx, res, how) else sprintf("The weighted mean of %s by %s: %s.", y,
    some_of(vapply(ctx$columns[ctx$reading$by], say_column, ""), 3), some_of(item, 6))
  list(headline = text, details = c(how$details, say_rows(ctx)), write_up = how$write_up)
}

figure_weighted_means <- function(ctx, res) {
  t <- res$tables[[1]]$data
  d <- data.frame(group = factor(t[[1]], rev(t[[1]])), value = t$mean, low = t$ci_low, high = t$ci_high)
  title <- sprintf("Weighted mean of %s by %s", say_column(outcome_column(ctx)), some_of(vapply(ctx$columns[ctx$reading$by], say_column, ""), 3))
  figure_interval_dots("groups", title, sprintf("Weighted means with design-based %s intervals.", say_level(ctx$conf_level)), d,
                       axis_label(outcome_column(ctx)), "plot_data <- cbind(tables$groups, group = levels(g))", "mean, group")
}

script_weighted_means <- function(ctx, res) {
  two <- length(res$levels) == 2
  c(sprintf("y <- %s; g <- %s; k <- nlevels(g)", script_value(outcome_name(ctx)), script_group(ctx$reading$by)), script_sampling(ctx),
    "size <- as.vector(tapply(w, g, sum)); m <- vapply(levels(g), function(l) weighted.mean(y[g == l], w[g == l]), 1, USE.NAMES = FALSE)",
    "z <- sapply(seq_len(k), function(i) ifelse(as.integer(g) == i, w * (y - m[i]) / size[i], 0)); e <- total_covariance(z); se <- sqrt(diag(e$v))",
    "half <- qt(1 - (1 - conf_level) / 2, e$df) * se; spread <- sqrt(as.vector(tapply(w * (y - m[as.integer(g)])^2, g, sum)) / size)",
    paste0("tables <- list(groups = data.frame(n = as.vector(table(g)), sum_weights = size, mean = m, sd = spread, se = se, ci_low = ",
        "m - half, ci_high ",
        "= m + half))"),
    if (!res$tested) "numbers <- list(n = length(y))"
    else if (two) c("d <- m[1] - m[2]; se_d <- sqrt(e$v[1, 1] + e$v[2, 2] - 2 * e$v[1, 2]); t <- d / se_d",
      script_one_sided_t(ctx, "t", "e$df", "d", "se_d"),
      "numbers <- c(numbers, list(n = length(y), cohens_d = d / sqrt(sum(size * spread^2) / sum(size))))")
    else c("cm <- cbind(-1, diag(k - 1)); wald <- drop(t(cm %*% m) %*% solve(cm %*% e$v %*% t(cm)) %*% (cm %*% m)); df2 <- e$df - k + 2",
           "f <- wald * df2 / (e$df * (k - 1))",
           paste0("numbers <- list(statistic = f, df1 = k - 1, df2 = df2, p_value = pf(f, k - 1, df2, lower.tail = FALSE), conf_level = conf_level, ",
                  "n = length(y))")),
    sprintf("numbers <- c(numbers, list(%s))", sampling_script_numbers(ctx)))
}

#' Script lines for a t statistic, its p value and interval, in the direction asked for
#' @noRd
script_one_sided_t <- function(ctx, t, df, estimate, se) {
  two <- ctx$alternative == "two_sided"
  p <- switch(ctx$alternative, two_sided = "2 * pt(-abs(%s), %s)", greater = "pt(%s, %s, lower.tail = FALSE)", less = "pt(%s, %s)")
  c(sprintf("half_t <- qt(%s, %s) * %s", if (two) "1 - (1 - conf_level) / 2" else "conf_level", df, se),
    sprintf("numbers <- list(statistic = %s, df = %s, p_value = %s, estimate = %s, se = %s, ci_low = %s, ci_high = %s, conf_level = conf_level)", t,
        df,
            sprintf(p, t, df), estimate, se, if (ctx$alternative == "less") "-Inf" else sprintf("%s - half_t", estimate),
            if (ctx$alternative == "greater") "Inf" else sprintf("%s + half_t", estimate)))
}
