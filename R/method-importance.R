#' @noRd
method_relative_importance <- function() {
  new_method(
    id = "relative_importance", name = "Shares of R squared, averaged over orders of entry", tasks = c("drivers", "predict"),
    fits = function(shape) {
      ok <- identical(shape$method_asked, "relative_importance") && shape$n_outcome == 1 && shape$predictors + shape$n_by >= 2 &&
        shape$outcome_kind %in% c("number", "count", "ordered")
      if (ok) new_fit(30, "The question asks how much each column contributes, which depends on the order of entry, so all orders count alike.")
    },
    compute = function(ctx) {
      columns <- need_two_levels(model_columns(ctx))
      blocks <- lapply(stats::setNames(nm = names(columns)), function(n) indicator_columns(columns[[n]], n)$x)
      out <- stat_importance(blocks, outcome_values(ctx), ctx$seed)
      t <- data.frame(column = names(out$share), share = unname(out$share), percent = 100 * unname(out$share) / out$r_squared,
        stringsAsFactors = FALSE)
      t <- t[order(-t$share, seq_len(nrow(t))), ]
      result(compact(list(new_number("r_squared", "R squared of all together", out$r_squared), if (!is.na(out$orders)) new_number("orders",
        "orders drawn", out$orders), new_number("n", "rows used", out$n))),
             list(new_table("importance", "Share of R squared", `rownames<-`(t, NULL))), columns = columns, factors = vapply(columns, is.factor,
               NA), pair = list(), place = match(t$column, names(columns)), direction = NA_real_)
    },
    checks = function(ctx, res) list(check_independent_rows(ctx$unit_values, ctx$unit_name), check_rows_per_column(res$number$n,
      length(res$columns))),
    figure = function(ctx, res) {
      t <- res$tables[[1]]$data
      d <- data.frame(column = factor(t$column, rev(t$column)), share = t$share)
      title <- sprintf("Share of the spread of %s by column", say_column(outcome_column(ctx)))
      new_figure("importance", title, "bar", subtitle = sprintf("Together %s of the spread.", say_percent(res$number$r_squared, 0)),
        alt = sprintf("%s: a bar for each column.", title),
        draw = function() ggplot2::ggplot(d, ggplot2::aes(x = .data$share, y = .data$column)) + ggplot2::geom_col(fill = quill_colours(1),
          width = 0.66) +
          ggplot2::geom_text(ggplot2::aes(label = say_percent(.data$share, 1)), hjust = -0.12, size = 3.5, colour = quill_ink()) +
            ggplot2::scale_x_continuous(labels = function(v) paste(round(100 * v), "%"), expand = ggplot2::expansion(mult = c(0, 0.14))) +
          ggplot2::scale_y_discrete(labels = function(x) wrap_level(gsub("_", " ", x), 28)) + ggplot2::labs(x = "Share of the spread", y = NULL),
        script = c(sprintf("plot_data <- data.frame(column = %s, tables$importance)", as_r_strings(t$column)),
          sprintf("plot <- ggplot(plot_data, aes(share, reorder(column, share))) + geom_col() + labs(title = %s, y = NULL) + theme_minimal()",
            as_r_string(title))))
    },
    sentences = function(ctx, res) {
      t <- res$tables[[1]]$data; y <- say_column(outcome_column(ctx))
      item <- sprintf("%s %s", vapply(ctx$columns[t$column], say_column, ""), vapply(t$share, say_percent, "", digits = 1))
      list(headline = sprintf("Of the spread of %s the columns explain %s together: %s.", y, say_percent(res$number$r_squared, 0), some_of(item, 5)),
           details = c(paste0("Each share is what a column adds to R squared, averaged over all orders in which the columns could enter; ",
               "columns that go together share what they have in common."),
                       "A share says how much goes along with a column, not what changing it would do.", say_rows(ctx)),
           write_up = sprintf("R squared (%s, n = %s) was divided over the predictors by averaging over orders of entry%s: %s.%s",
             say_unit(res$number$r_squared), say_number(res$number$n),
                              if (is.null(res$number$orders)) "" else sprintf(" (%s drawn)", say_number(res$number$orders)), paste(item,
                                collapse = "; "), write_rows(ctx)))
    },
    script = function(ctx, res) {
      m <- script_model_columns(ctx, res)
      k <- length(res$columns)
      c(sprintf("y <- %s", script_value(outcome_name(ctx))), m$set, sprintf("k <- %d; blocks <- list(%s); n <- length(y)", k,
        paste(sprintf("model.matrix(~ x%d)[, -1, drop = FALSE]", seq_len(k)), collapse = ", ")),
        paste0("r2 <- function(s) if (!length(s)) 0 else { f <- lm.fit(cbind(1, do.call(cbind, blocks[s])), y); 1 - sum(f$residuals^2) / ",
            "sum((y - mean(y))^2) }"),
        if (k <= 12) c(paste0("codes <- seq_len(2^k) - 1; inside <- sapply(seq_len(k), function(j) bitwAnd(codes, 2^(j - 1)) > 0); value <- ",
            "apply(inside, 1, function(s) r2(which(s))); size <- rowSums(inside)"),
          paste0("share <- sapply(seq_len(k), function(j) { w <- which(!inside[, j]); s <- size[w]; sum(factorial(s) * factorial(k - s - 1) / ",
              "factorial(k) * (value[w + 2^(j - 1)] - value[w])) })"))
        else c(sprintf(paste0("RNGkind(\"L'Ecuyer-CMRG\", \"Inversion\", \"Rejection\"); set.seed(%s); orders <- lapply(1:500, function(i) ",
            "sample.int(k)); orders <- c(orders, lapply(orders, rev)); total <- numeric(k)"), format(ctx$seed, scientific = FALSE)),
          paste0("for (o in orders) total[o] <- total[o] + diff(c(0, sapply(seq_along(o), function(i) r2(o[seq_len(i)])))); share <- total / ",
              "length(orders)")),
        sprintf(paste0("place <- c(%s); all <- r2(seq_len(k)); tables <- list(importance = data.frame(share = share, percent = 100 * share / ",
            "all)[place, ])"), paste(res$place, collapse = ", ")),
        sprintf("numbers <- list(r_squared = all, %sn = n)", if (k > 12) "orders = 1000, " else ""))
    },
    references = "Kruskal, W. (1987). Relative importance by averaging over orderings. The American Statistician, 41, 6-10.",
    next_steps = function(ctx, res) sprintf("Which columns are related to %s?", outcome_name(ctx)))
}
