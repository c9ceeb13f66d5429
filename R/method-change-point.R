# Shifts of the level of a series, for questions of when it changed.

#' @noRd
method_change_points <- function() {
  new_method(
    id = "change_points", name = "Shifts of the level over time", tasks = "trend",
    fits = function(shape) if (identical(shape$method_asked, "change_points") && isTRUE(shape$timed) && shape$n_outcome == 1 &&
      shape$n_by == 0) new_fit(60, "The question asks when the level changed."),
    compute = function(ctx) {
      t <- time_values(ctx)
      order <- order(t)
      t <- t[order]; y <- outcome_values(ctx)[order]
      # rows of the same day are one value
      if (anyDuplicated(t)) { y <- as.vector(tapply(y, match(t, unique(t)), mean)); t <- unique(t) }
      if (length(y) > 5000) stop_data("A search for shifts is kept to 5,000 values in time here.", todo = "Ask for a table by week or month.",
        class = "too_many_rows")
      out <- stat_change_points(y)
      from <- out$edges[-length(out$edges)]; to <- out$edges[-1] - 1L
      table <- data.frame(from = format_time(t[from]), to = format_time(t[to]), n = to - from + 1, mean = out$means, shift = c(NA,
        diff(out$means)), stringsAsFactors = FALSE)
      result(list(new_number("shifts", "shifts found", length(out$starts)), new_number("r_squared", "share of the spread between the stretches",
        1 - out$cost / out$cost_without), new_number("n", "values in time", out$n)),
             list(new_table("stretches", sprintf("Stretches of %s", outcome_name(ctx)), table)), at = t, y = y, out = out, direction = NA_real_)
    },
    checks = function(ctx, res) list(check_level_steps(res$y, res$out)),
    figure = function(ctx, res) {
      e <- res$out$edges; k <- length(res$out$means)
      d <- data.frame(at = res$at, y = res$y); s <- data.frame(from = res$at[e[-(k + 1)]], to = res$at[e[-1] - 1L], mean = res$out$means)
      title <- sprintf("Level of %s over time", say_column(outcome_column(ctx)))
      new_figure("shifts", title, "line", subtitle = "Points are values; lines are the levels between shifts.",
        alt = sprintf("%s: points with a level line for each stretch.", title),
        draw = function() ggplot2::ggplot(d, ggplot2::aes(x = .data$at, y = .data$y)) + ggplot2::geom_point(colour = quill_soft(), size = 1.4,
          alpha = 0.7) +
          ggplot2::geom_segment(data = s, ggplot2::aes(x = .data$from, xend = .data$to, y = .data$mean, yend = .data$mean),
            colour = quill_colours(2)[2], linewidth = 1.3) +
          ggplot2::labs(x = NULL, y = axis_label(outcome_column(ctx))),
        script = c("plot_data <- data.frame(t = t, y = y)",
          sprintf(paste0("plot <- ggplot(plot_data, aes(t, y)) + geom_point(alpha = 0.5) + geom_vline(xintercept = as.numeric(t[starts])) + ",
              "labs(title = %s) + theme_minimal()"), as_r_string(title))))
    },
    sentences = function(ctx, res) {
      t <- res$tables[[1]]$data; y <- say_column(outcome_column(ctx)); unit <- outcome_column(ctx)$unit
      value <- function(v) with_unit(say_number(v), unit)
      shifts <- if (nrow(t) > 1) sprintf("on %s from %s to %s", t$from[-1], vapply(t$mean[-nrow(t)], value, ""), vapply(t$mean[-1], value, ""))
      text <- if (nrow(t) == 1) sprintf("No shift of the level of %s stands out: one level of %s serves for all %s values.", y, value(t$mean),
        say_number(res$number$n))
        else if (nrow(t) > 9) sprintf(paste0("The level of %s shifts %d times, which speaks for a course that goes up and down steadily rather than ",
                                             "for steps; the largest: %s."), y, nrow(t) - 1, some_of(shifts[order(-abs(t$shift[-1]))][1:3], 3))
        else sprintf("The level of %s shifts %s: %s.", y, if (nrow(t) == 2) "once" else count_of(nrow(t) - 1, "time"), some_of(shifts, 8))
      list(headline = text,
        details = c(paste0("Shifts are those whose gain in fit exceeds three times the logarithm of the number of values, in units of the ",
            "spread between neighbours; a slow trend or a season can look like several shifts."), say_rows(ctx)),
           write_up = sprintf("Shifts of the mean of %s were sought by optimal partitioning (penalty 3 log n): %s.%s", y,
             if (nrow(t) == 1) "none was found" else some_of(shifts, 12), write_rows(ctx)))
    },
    script = function(ctx, res) {
      at <- script_column(ctx$reading$time$column)
      c(sprintf(paste0("t <- %s; y <- %s; place <- order(t); t <- t[place]; y <- y[place]; if (anyDuplicated(t)) { y <- as.vector(tapply(y, ",
          "match(t, unique(t)), mean)); t <- unique(t) }; n <- length(y)"),
                if (inherits(res$at, "Date")) sprintf("as.Date(%s, tz = \"UTC\")", at) else at, script_value(outcome_name(ctx))),
        paste0("least <- max(3, ceiling(n / 50)); spread <- mad(diff(y)) / sqrt(2); if (spread <= 0) spread <- sd(diff(y)) / sqrt(2); penalty ",
            "<- 3 * log(n) * spread^2"),
        "cost <- function(a, b) { v <- y[a:b]; sum((v - mean(v))^2) }; best <- c(-penalty, rep(Inf, n)); from_of <- integer(n)",
        paste0("for (b in least:n) { a <- c(1, if (b >= 2 * least) (least + 1):(b - least + 1)); total <- best[a] + vapply(a, cost, 1, b = b) ",
            "+ penalty; k <- which.min(total); best[b + 1] <- total[k]; from_of[b] <- a[k] }"),
        "starts <- integer(); b <- n; while (from_of[b] > 1) { starts <- c(from_of[b], starts); b <- from_of[b] - 1 }",
        "edges <- c(1, starts, n + 1); from <- edges[-length(edges)]; to <- edges[-1] - 1; means <- mapply(function(a, b) mean(y[a:b]), from, to)",
        "tables <- list(stretches = data.frame(n = to - from + 1, mean = means, shift = c(NA, diff(means))))",
        "numbers <- list(shifts = length(starts), r_squared = 1 - sum(mapply(cost, from, to)) / cost(1, n), n = n)")
    },
    references = paste0("Killick, R., Fearnhead, P., & Eckley, I. A. (2012). Optimal detection of changepoints with a linear computational ",
        "cost. Journal of the American Statistical Association, 107, 1590-1598."),
    next_steps = function(ctx, res) c(sprintf("Is there a linear trend in %s?", say_column(outcome_column(ctx))),
                                      sprintf("Mean %s by month", say_column(outcome_column(ctx)))))
}

format_time <- function(t) if (inherits(t, "Date")) format(t) else format_plain(t)
