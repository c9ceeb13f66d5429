# Totals and medians under weights, and weighted means of several columns.

#' @noRd
method_weighted_summary <- function() {
  new_method(
    id = "weighted_summary", weights = TRUE, name = "Weighted summary, design-based", tasks = "describe",
    fits = function(shape) {
      ok <- isTRUE(shape$weighted) && is.null(shape$method_asked) && shape$task == "describe" && shape$n_outcome >= 1 &&
        shape$outcome_kind %in% c("number", "count", "ordered") && shape$statistic %in% c("sum", "median", "weighted_mean") &&
        (shape$n_outcome > 1 || shape$statistic != "weighted_mean" || shape$sampled)
      if (ok) new_fit(96, "Weights are declared or asked for, so the summary and its errors respect them.")
    },
    compute = compute_weighted_summary, checks = sampling_checks, sentences = say_weighted_summary, script = script_weighted_summary,
    figure = function(ctx, res) if (nrow(res$tables[[1]]$data) > 1 && length(ctx$reading$outcome) == 1) figure_weighted_summary(ctx, res),
    references = c(sampling_references(), paste0("Woodruff, R. S. (1952). Confidence intervals for medians and other position measures. ",
                                                 "Journal of the American Statistical Association, 47, 635-646.")),
    next_steps = function(ctx, res) sprintf("Distribution of %s", outcome_name(ctx)))
}

weighted_statistic <- function(ctx) c(sum = "total", median = "median", weighted_mean = "mean")[[ctx$reading$statistic]]

#' One row for each outcome and group
#' @noRd
compute_weighted_summary <- function(ctx) {
  shown <- weighted_statistic(ctx)
  parts <- lapply(ctx$reading$outcome, function(y) weighted_rows(on_own_rows(ctx, y), y, shown))
  table <- do.call(rbind, lapply(parts, `[[`, "table"))
  first <- parts[[1]]$s
  label <- paste("weighted", shown)
  many <- length(ctx$reading$outcome) > 1
  of <- if (!length(ctx$reading$by)) table$column else if (many) paste(table$column, table$group, sep = ", ") else table$group
  numbers <- if (nrow(table) == 1) list(new_number("estimate", label, table[[shown]]), new_number("se", "standard error", table$se),
      new_number("ci_low", "lower limit", table$ci_low), new_number("ci_high", "upper limit", table$ci_high))
    else lapply(seq_len(min(nrow(table), 60)), function(i) new_number(paste0(shown, "_", i), label, table[[shown]][i], of = of[i]))
  numbers <- c(numbers, list(new_number("conf_level", "confidence level", ctx$conf_level),
                             if (many) new_number("n", "rows", ctx$frame$after_filters) else new_number("n", "values", sum(table$n))),
               sampling_numbers(first, parts[[1]]$out))
  if (!many) table$column <- NULL
  if (!length(ctx$reading$by)) table$group <- NULL
  names(table)[names(table) == "group"] <- paste(ctx$reading$by, collapse = " & ")
  result(numbers, list(new_table("groups", sprintf("%s, weighted by %s", capital(some_of(ctx$reading$outcome, 3)), ctx$weight_name), table)),
         shown = shown, groups = of)
}

weighted_rows <- function(ctx, y, shown) {
  ctx$weight_values <- ctx$frame$data[[ctx$weight_name]]
  s <- sampling_of(ctx)
  value <- as_plain_number(ctx$frame$data[[y]])
  g <- if (length(ctx$reading$by)) group_of(ctx) else factor(rep("all", length(value)))
  t <- stat_weighted_summary(value, as.integer(g), s$w, shown, ctx$conf_level, s$cluster, s$strata, s$absent)
  list(s = s, out = t, table = data.frame(column = y, group = levels(g), n = tabulate(g, nlevels(g)), sum_weights = t$weight, mean = t$mean,
       median = t$median, total = t$total, se = t$se, ci_low = t$ci_low, ci_high = t$ci_high, stringsAsFactors = FALSE))
}

say_weighted_summary <- function(ctx, res) {
  t <- res$tables[[1]]$data; col <- outcome_column(ctx)
  one <- length(ctx$reading$outcome) == 1
  unit <- if (one) col$unit
  what <- sprintf("The weighted %s", res$shown)
  interval <- mapply(function(l, h) if (is.finite(l) && is.finite(h)) sprintf(" (%s)", say_interval(l, h, ctx$conf_level)) else "",
                     t$ci_low, t$ci_high)
  value <- if (one) say_alike(t[[res$shown]]) else say_number(t[[res$shown]])
  headline <- if (nrow(t) == 1) sprintf("%s of %s is %s%s, from %s.", what, say_column(col), with_unit(value, unit), interval, count_of(t$n, "value"))
    else sprintf("%s of %s: %s.", what, if (one) sprintf("%s by %s", say_column(col), some_of(ctx$reading$by, 3)) else "each column",
                 some_of(sprintf("%s %s", res$groups, with_unit(value, unit)), 8))
  total <- if (res$shown == "total") sprintf(paste0("The total stands for %s rows (the sum of the weights): it is the population's total only if ",
    "each weight says how many a row stands for."), say_number(sum(t$sum_weights)))
  write_up <- sprintf("%s, weighted by %s: %s.%s", capital(sub("^The ", "", what)), ctx$weight_name,
                      some_of(sprintf("%s %s%s, n = %s", res$groups, value, interval, say_number(t$n)), 12), write_rows(ctx))
  list(headline = headline, details = c(total, say_sampling(ctx, res), say_rows(ctx)), write_up = write_up)
}

figure_weighted_summary <- function(ctx, res) {
  t <- res$tables[[1]]$data
  d <- data.frame(group = factor(res$groups, rev(res$groups)), value = t[[res$shown]], low = t$ci_low, high = t$ci_high)
  title <- sprintf("Weighted %s of %s by %s", res$shown, say_column(outcome_column(ctx)), some_of(ctx$reading$by, 3))
  figure_interval_dots("groups", title, sprintf("Dots with design-based %s intervals.", say_level(ctx$conf_level)), d,
                       axis_label(outcome_column(ctx)), "plot_data <- cbind(tables$groups, group = levels(g))", paste0(res$shown, ", group"))
}

script_weighted_summary <- function(ctx, res) {
  many <- length(ctx$reading$outcome) > 1
  one <- nrow(res$tables[[1]]$data) == 1
  values <- sprintf("list(%s)", paste(vapply(ctx$reading$outcome, script_value, ""), collapse = ", "))
  c(sprintf("outcomes <- %s; g_all <- %s", if (many) gsub("rows[[", "kept[[", values, fixed = TRUE) else values,
            if (length(ctx$reading$by)) script_group(ctx$reading$by, if (many) "kept" else "rows")
            else sprintf("factor(rep(\"all\", nrow(%s)))", if (many) "kept" else "rows")),
    if (many) gsub("rows[[", "kept[[", script_sampling(ctx), fixed = TRUE) else script_sampling(ctx),
    "w_all <- w; strata_all <- strata; cluster_all <- cluster",
    "weighted_quantile <- function(y, w, p) { i <- order(y); i <- i[w[i] > 0]; s <- cumsum(w[i]) / sum(w); k <- which(s >= p - 1e-12)[1]",
    "  if (abs(s[k] - p) < 1e-12 && k < length(i)) (y[i[k]] + y[i[k + 1]]) / 2 else y[i[k]] }",
    "summarise_one <- function(y) {",
    "  ok <- !is.na(y) & !is.na(w_all) & !is.na(g_all); y <- y[ok]; w <<- w_all[ok]; g <<- droplevels(g_all[ok])",
    "  strata <<- strata_all[ok]; cluster <<- cluster_all[ok]; absent <<- absent_of(strata, cluster); k <- nlevels(g); at <- as.integer(g)",
    "  size <- as.vector(tapply(w, g, sum)); m <- as.vector(tapply(w * y, g, sum)) / size",
    "  med <- vapply(levels(g), function(l) weighted_quantile(y[g == l], w[g == l], 0.5), 1, USE.NAMES = FALSE)",
    script_weighted_errors(res$shown),
    "  data.frame(n = as.vector(table(g)), sum_weights = size, mean = m, median = med, total = m * size, se = se, ci_low = low, ci_high = high) }",
    "parts <- lapply(outcomes, summarise_one); tables <- list(groups = do.call(rbind, parts)); t <- tables$groups",
    if (one) sprintf("numbers <- list(estimate = t$%s, se = t$se, ci_low = t$ci_low, ci_high = t$ci_high)", res$shown)
    else sprintf("numbers <- as.list(setNames(head(t$%s, 60), paste0(\"%s_\", seq_len(min(nrow(t), 60)))))", res$shown, res$shown),
    sprintf("numbers <- c(numbers, list(conf_level = conf_level, n = %s))", if (many) "nrow(kept)" else "sum(t$n)"),
    if (many) "invisible(summarise_one(outcomes[[1]]))",
    sprintf("numbers <- c(numbers, list(%s))", sampling_script_numbers(ctx)))
}

#' Script lines: standard errors and limits of weighted means, totals or medians
#' @noRd
script_weighted_errors <- function(shown) {
  z <- switch(shown, mean = "w * (y - m[i]) / size[i]", total = "w * y",
              median = "w * ((y <= med[i]) - sum(w * (at == i) * (y <= med[i])) / size[i]) / size[i]")
  c(sprintf("  e <- total_covariance(sapply(seq_len(k), function(i) ifelse(at == i, %s, 0)))", z),
    "  se <- sqrt(diag(e$v)); t95 <- qt(1 - (1 - conf_level) / 2, e$df)",
    if (shown != "median") sprintf("  est <- %s; low <- est - t95 * se; high <- est + t95 * se", if (shown == "mean") "m" else "m * size")
    else c("  limit <- function(side) vapply(seq_len(k), function(i) { p <- sum(w * (at == i) * (y <= med[i])) / size[i] + side * t95 * se[i]",
           "    if (p <= 0 || p >= 1) NA_real_ else weighted_quantile(y[at == i], w[at == i], p) }, 1)",
           "  low <- limit(-1); high <- limit(1); se <- (high - low) / (2 * t95)"))
}
