#' @noRd
method_distinct_values <- function() {
  new_method(
    id = "distinct_values", name = "Number of different values", tasks = c("frequency", "describe"),
    fits = function(shape) if (isTRUE(shape$distinct) && shape$n_outcome == 1) new_fit(99, "The question asks how many different values there are."),
    compute = function(ctx) {
      x <- ctx$frame$data[[outcome_name(ctx)]]
      numbers <- list(new_number("estimate", sprintf("different values of %s", outcome_name(ctx)), length(unique(x))),
          new_number("n", "rows used", length(x)))
      if (!length(ctx$reading$by)) return(result(numbers))
      g <- group_of(ctx)
      each <- vapply(split(as.character(x), g), function(v) length(unique(v)), 1L)
      table <- data.frame(group = levels(g), n = tabulate(g, nlevels(g)), distinct = unname(each), stringsAsFactors = FALSE)
      names(table)[1] <- paste(ctx$reading$by, collapse = " & ")
      result(numbers, list(new_table("groups", sprintf("Different values of %s by %s", outcome_name(ctx),
          paste(ctx$reading$by, collapse = " and ")), table)))
    },
    figure = function(ctx, res) if (length(res$tables)) {
      t <- res$tables[[1]]$data
      figure_distinct(ctx, data.frame(level = factor(t[[1]], rev(t[[1]])), n = t$distinct))
    },
    sentences = function(ctx, res) {
      what <- say_column(outcome_column(ctx))
      text <- sprintf("There are %s different values of %s.", say_number(res$number$estimate), what)
      if (length(res$tables)) {
        t <- res$tables[[1]]$data
        order <- order(-t$distinct)
        text <- sprintf("Different values of %s: %s; %s in all.", what, some_of(sprintf("%s in %s", say_number(t$distinct[order]), t[[1]][order]), 8),
                        say_number(res$number$estimate))
      }
      values <- if (!length(res$tables)) sort_text(unique(as.character(ctx$frame$data[[outcome_name(ctx)]])))
      list(headline = text, details = c(if (length(values)) sprintf("They are %s.", some_of(values, 12)), say_rows(ctx)),
          write_up = paste0(text, write_rows(ctx)))
    },
    script = function(ctx, res) c(sprintf("x <- as.character(%s); tables <- list(); numbers <- list(estimate = length(unique(x)), n = length(x))",
                                          script_column(outcome_name(ctx))),
      if (length(ctx$reading$by)) sprintf(paste0("g <- %s; tables$groups <- data.frame(n = as.vector(table(g)), distinct = as.vector(tapply(x, g, ",
                                                 "function(v) length(unique(v)))))"), script_group(ctx$reading$by))),
    next_steps = function(ctx, res) sprintf("Count the rows by %s", outcome_name(ctx)))
}

figure_distinct <- function(ctx, d) {
  d <- utils::head(d, 40)
  title <- sprintf("Different values of %s by %s", say_column(outcome_column(ctx)), some_of(vapply(ctx$columns[ctx$reading$by], say_column, ""), 3))
  new_figure("counts", title, "bar", alt = sprintf("%s: a bar for each group.", title),
    draw = function() ggplot2::ggplot(d, ggplot2::aes(x = .data$level, y = .data$n)) + ggplot2::geom_col(fill = quill_colours(1), width = 0.66) +
      ggplot2::geom_text(ggplot2::aes(label = .data$n), hjust = -0.3, size = 3.6, colour = quill_ink()) +
      ggplot2::scale_x_discrete(labels = function(x) wrap_level(x, 28)) + ggplot2::coord_flip() + ggplot2::labs(x = NULL, y = "Different values"),
    script = c("plot_data <- cbind(tables$groups, group = levels(g))",
               sprintf("plot <- ggplot(plot_data, aes(group, distinct)) + geom_col() + coord_flip() + labs(title = %s) + theme_minimal()",
                   as_r_string(title))))
}
