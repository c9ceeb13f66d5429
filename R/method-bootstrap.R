#' @noRd
method_bootstrap <- function() {
  new_method(
    id = "bootstrap", name = "Bootstrap interval (bias-corrected and accelerated)", tasks = c("describe", "compare", "relate"),
    fits = fits_bootstrap, compute = compute_bootstrap,
    checks = function(ctx, res) list(check_independent_rows(ctx$unit_values, ctx$unit_name), check_far_values(res$values, res$labels)),
    second = c("t_welch", "mann_whitney", "pearson"), figure = figure_bootstrap, sentences = say_bootstrap, script = script_bootstrap,
    references = c("Efron, B. (1987). Better bootstrap confidence intervals. Journal of the American Statistical Association, 82, 171-185.",
                   "Davison, A. C., & Hinkley, D. V. (1997). Bootstrap Methods and their Application. Cambridge University Press."),
    next_steps = function(ctx, res) sprintf("Show the distribution of %s", outcome_name(ctx)))
}

fits_bootstrap <- function(shape) {
  if (!identical(shape$method_asked, "bootstrap") || length(shape$adjust)) return(NULL)
  numeric <- function(kinds) length(kinds) > 0 && all(kinds %in% c("number", "count", "ordered"))
  one <- shape$n_outcome == 1 && shape$n_by == 0 && !length(shape$predictor_kinds) && numeric(shape$outcome_kind)
  two <- shape$n_outcome == 1 && shape$n_by == 1 && identical(shape$groups, 2L) && numeric(shape$outcome_kind)
  pair <- shape$task == "relate" && length(shape$pair_kinds) == 2 && numeric(shape$pair_kinds)
  if (one || two || pair) new_fit(20, "You asked for a bootstrap, which draws rows with replacement and assumes no distribution.")
}

compute_bootstrap <- function(ctx) {
  r <- ctx$reading
  pair <- r$task == "relate" && length(unique(c(r$outcome, r$by, r$predictors))) == 2 && !length(r$by)
  statistic <- if (pair) "correlation" else intersect(c(r$statistic, unlist(r$extra$statistics)), names(resampled_statistics()))[1] |>
    or_if_na("mean")
  if (pair) { p <- pair_values(ctx); samples <- list(p$x); beside <- p$y; labels <- p$names[1] }
  else if (length(r$by)) { s <- two_groups(ctx); samples <- s$values; beside <- NULL; labels <- s$levels }
  else { samples <- list(outcome_values(ctx)); beside <- NULL; labels <- outcome_name(ctx) }
  out <- stat_bootstrap(samples, statistic, beside, ctx$conf_level, seed = ctx$seed)
  what <- resampled_statistics()[[statistic]]$label
  label <- if (length(samples) == 2) sprintf("difference in %ss, %s minus %s", what, labels[1], labels[2]) else what
  result(c(test_numbers(out, "", label, ctx$conf_level), list(new_number("bias", "bias of the replicates", out$bias),
                                                               new_number("resamples", "samples drawn", out$resamples))),
         tables = if (length(r$by)) list(groups_table(ctx)) else list(), statistic = statistic, what = what, labels = labels, values = samples,
         names = if (pair) p$names, replicates = out$replicates)
}

say_bootstrap <- function(ctx, res) {
  n <- res$number
  fmt <- if (res$statistic == "correlation") say_unit else say_number
  value <- function(v) if (res$statistic == "correlation") say_unit(v) else with_unit(say_number(v), outcome_column(ctx)$unit)
  interval <- say_interval(n$ci_low, n$ci_high, ctx$conf_level, fmt)
  about <- if (res$statistic == "correlation") sprintf("%s and %s", say_column(ctx$columns[[res$names[1]]]), say_column(ctx$columns[[res$names[2]]]))
    else say_column(outcome_column(ctx))
  headline <- if (length(res$values) == 2) sprintf("The %s of %s %s between %s and %s: difference %s (%s).", res$what, about,
      if (n$ci_low > 0 || n$ci_high < 0) "differs" else "does not clearly differ", res$labels[1], res$labels[2], value(n$estimate), interval)
    else sprintf("%s of %s: %s (%s).", capital(res$what), about, value(n$estimate), interval)
  list(headline = headline,
       details = c(sprintf("From %s samples drawn with replacement (seed %s): standard error %s, bias %s.", say_number(n$resamples),
                           format(ctx$seed, scientific = FALSE), fmt(n$se), fmt(n$bias)), say_rows(ctx)),
       write_up = sprintf("A bias-corrected and accelerated bootstrap (%s samples) gave a %s of %s for %s, %s.%s", say_number(n$resamples),
                          if (length(res$values) == 2) sprintf("difference in %ss", res$what) else res$what, value(n$estimate), about, interval,
                            write_rows(ctx)))
}

figure_bootstrap <- function(ctx, res) {
  d <- data.frame(value = res$replicates)
  limits <- c(res$number$ci_low, res$number$ci_high)
  title <- sprintf("%s of the samples drawn", capital(if (length(res$values) == 2) sprintf("difference in %ss", res$what) else res$what))
  new_figure("bootstrap", title, "histogram", subtitle = "The solid line marks the estimate, the dashed lines its interval.",
    alt = sprintf("%s: a histogram with the estimate and its interval marked.", title),
    draw = function() ggplot2::ggplot(d, ggplot2::aes(x = .data$value)) + ggplot2::geom_histogram(bins = 60, fill = quill_colours(1), alpha = 0.55) +
      ggplot2::geom_vline(xintercept = res$number$estimate, colour = quill_ink(), linewidth = 0.9) +
      ggplot2::geom_vline(xintercept = limits, colour = quill_ink(), linetype = "22") +
      ggplot2::labs(x = if (res$statistic == "correlation") "Correlation" else axis_label(outcome_column(ctx)), y = "Samples"),
    script = c("plot_data <- data.frame(value = replicates)",
               paste0("plot <- ggplot(plot_data, aes(value)) + geom_histogram(bins = 60) + geom_vline(xintercept = ",
                   "unlist(numbers[c(\"estimate\", \"ci_low\", \"ci_high\")])) + theme_minimal()")))
}

script_bootstrap <- function(ctx, res) {
  s <- resampled_statistics()[[res$statistic]]
  pair <- res$statistic == "correlation"
  data <- if (pair) c(script_pair(res), "samples <- list(x); beside <- y")
    else if (length(res$values) == 2) c(script_two_groups(ctx), "samples <- list(x, y); beside <- NULL")
    else c(sprintf("samples <- list(%s); beside <- NULL; tables <- list()", script_value(outcome_name(ctx))))
  c(data, sprintf("statistic <- function(v, w) %s", s$script), sprintf("resamples <- %d", as.integer(res$number$resamples)),
    "# the generator, its streams (one for every 500 samples) and the order of draws are those of the engine",
    "RNGkind(\"L'Ecuyer-CMRG\")",
    "draw <- function(v, seed) {",
    "  set.seed(seed); stream <- .Random.seed; out <- numeric(resamples); n <- length(v)",
    "  for (start in seq(1, resamples, by = 500)) {", "    assign(\".Random.seed\", stream, envir = globalenv())",
    "    for (r in start:min(resamples, start + 499)) { j <- 1 + floor(runif(n) * n); out[r] <- statistic(v[j], beside[j]) }",
    "    stream <- parallel::nextRNGStream(stream)", "  }", "  out", "}",
    sprintf("values <- lapply(seq_along(samples), function(k) draw(samples[[k]], %s + k - 1)); sign <- c(1, -1)", format(ctx$seed,
      scientific = FALSE)),
    "replicates <- if (length(values) == 2) values[[1]] - values[[2]] else values[[1]]",
    "estimate <- sum(sign[seq_along(samples)] * vapply(samples, statistic, 1, w = beside))",
    paste0("influence <- unlist(lapply(seq_along(samples), function(k) { v <- samples[[k]]; n <- length(v); left <- vapply(seq_len(n), ",
        "function(i) statistic(v[-i], beside[-i]), 1)"),
    "  sign[k] * (n - 1) * (mean(left) - left) / n }))",
    paste0("slack <- 1e-9 * sd(replicates); z0 <- qnorm(mean(replicates < estimate - slack) + mean(abs(replicates - estimate) <= slack) / 2); ",
        "a <- sum(influence^3) / (6 * sum(influence^2)^1.5); if (!is.finite(a)) a <- 0"),
    "z <- z0 + qnorm(c((1 - conf_level) / 2, 1 - (1 - conf_level) / 2)); limits <- quantile(replicates, pnorm(z0 + z / (1 - a * z)), names = FALSE)",
    paste0("numbers <- list(estimate = estimate, se = sd(replicates), ci_low = limits[1], ci_high = limits[2], conf_level = conf_level, ",
        "n = sum(lengths(samples)), ",
           "bias = mean(replicates) - estimate, resamples = resamples)"),
    if (length(res$values) == 2) script_groups(ctx))
}
