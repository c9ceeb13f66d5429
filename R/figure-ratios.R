# Coefficients of a model on the scale of ratios.

figure_ratios <- function(ctx, res) {
  label <- if (res$ratio == "odds_ratio") "Odds ratio" else "Rate ratio"
  title <- sprintf("%ss for %s", label, if (is.null(res$event)) say_column(outcome_column_of(ctx))
                   else sprintf("%s = %s", say_column(outcome_column_of(ctx)), res$event))
  all <- isTRUE(res$no_intercept)
  draw_ratios(ctx, asked_coefficients(res), res$ratio, label, title, if (all) "tables$coefficients" else "tables$coefficients[-1, ]",
              if (all) res$term else res$term[-1])
}

#' Ratios with their intervals on a log scale, one line a coefficient
#' @param t Data frame with term, the ratio, and its `_low` and `_high`.
#' @param source How the script reaches the same rows.
#' @noRd
draw_ratios <- function(ctx, t, ratio, label, title, source, terms) {
  endless <- t$term[is.infinite(t$estimate)]
  t <- t[is.finite(t$estimate), ]
  if (!nrow(t)) return(NULL)
  d <- data.frame(term = factor(t$term, rev(t$term)), ratio = t[[ratio]], low = t[[paste0(ratio, "_low")]], high = t[[paste0(ratio, "_high")]])
  undrawn <- if (length(endless)) sprintf(" Without a finite estimate: %s.", some_of(gsub(" = ", "\u00a0=\u00a0", endless, fixed = TRUE), 4)) else ""
  new_figure("ratios", title, "dot", subtitle = sprintf("%ss with %s intervals%s; at 1 the column says nothing.%s", label, say_level(ctx$conf_level),
                                                        say_strata_of(ctx), undrawn),
             alt = sprintf("%s: a dot with its interval for each coefficient, on a log scale.", title),
    draw = function() ggplot2::ggplot(d, ggplot2::aes(x = .data$ratio, y = .data$term)) +
      ggplot2::geom_vline(xintercept = 1, colour = quill_soft(), linetype = "22") +
      ggplot2::geom_linerange(ggplot2::aes(xmin = .data$low, xmax = .data$high), colour = quill_colours(1), linewidth = 0.9) +
      ggplot2::geom_point(colour = quill_colours(1), size = 3.2) +
      ggplot2::scale_x_log10(breaks = ratio_breaks, labels = function(x) vapply(x, format, "", digits = 3)) +
      ggplot2::scale_y_discrete(labels = function(x) wrap_level(gsub("_", " ", x), 28)) +
      ggplot2::labs(x = paste(label, "(log scale)"), y = NULL),
    script = c(sprintf("plot_data <- data.frame(term = %s, %s)", as_r_strings(terms), source),
               sprintf(paste0("plot <- ggplot(plot_data, aes(%s, term)) + geom_vline(xintercept = 1) +",
                   " geom_pointrange(aes(xmin = %s_low, xmax = %s_high)) + scale_x_log10() +"), ratio, ratio, ratio),
               sprintf("  labs(title = %s) + theme_minimal()", as_r_string(title))))
}

#' Round ratios for a log axis, on both sides of 1 where the axis runs there
#' @noRd
ratio_breaks <- function(limits) {
  wide <- diff(log10(limits))
  if (!is.finite(wide) || wide < 0.3) return(pretty(limits, 5))
  for (steps in list(c(1, 1.4, 2, 3, 5, 7), c(1, 2, 5), c(1, 3), 1)) {
    breaks <- sort(as.vector(outer(steps, 10^(floor(log10(limits[1])):ceiling(log10(limits[2]))))))
    breaks <- breaks[breaks >= limits[1] & breaks <= limits[2]]
    if (length(breaks) <= 7) return(breaks)
  }
  10^pretty(log10(limits), 6)
}

outcome_column_of <- function(ctx) ctx$columns[[ctx$reading$outcome[1]]]

#' The rows of a coefficient table without its intercept, which comes first where there is one
#' @noRd
asked_coefficients <- function(res) {
  t <- res$tables[[1]]$data
  if (isTRUE(res$no_intercept)) t else t[-1, ]
}
