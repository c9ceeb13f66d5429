# A random forest: how well the columns predict, rows out of the bag.

#' @noRd
method_random_forest <- function() {
  new_method(
    id = "random_forest", name = "Random forest", tasks = c("predict", "drivers"),
    fits = function(shape) {
      ok <- identical(shape$method_asked, "random_forest") && shape$n_outcome == 1 && shape$predictors + shape$n_by >= 1 &&
        shape$outcome_kind %in% c("number", "count", "ordered", "category", "yes_no")
      if (ok) new_fit(20, "You asked for a random forest, which predicts without assuming the form of the relation.")
    },
    compute = compute_forest, checks = function(ctx, res) list(check_independent_rows(ctx$unit_values, ctx$unit_name),
      new_check("held_back", if (res$gain > 0.02) "ok" else "caution", "Rows out of the bag", list(new_number("gain", "gain over no model",
        res$gain)), list(gain = res$gain))),
    figure = figure_importance, sentences = say_forest, script = script_forest,
    references = c("Breiman, L. (2001). Random forests. Machine Learning, 45, 5-32.",
                   paste0("Wright, M. N., & Ziegler, A. (2017). ranger: A fast implementation of random forests for high dimensional data in ",
                       "C++ and R. Journal of Statistical Software, 77(1), 1-17.")),
    next_steps = next_tree)
}

compute_forest <- function(ctx) {
  if (!requireNamespace("ranger", quietly = TRUE)) stop_data("A random forest needs the package ranger, which is not installed.",
    todo = "Install it (r-cran-ranger on Debian) or ask for a tree.", class = "no_method")
  columns <- lapply(model_columns(ctx), function(v) if (is.factor(v)) droplevels(v) else as.double(v))
  classes <- ctx$columns[[outcome_name(ctx)]]$kind %in% c("category", "yes_no")
  y <- if (classes) droplevels(as_group(ctx$frame$data[[outcome_name(ctx)]])) else outcome_values(ctx)
  if (length(y) < 20) stop_data("A random forest needs at least 20 rows.", class = "too_few_rows")
  if (length(unique(y)) < 2) stop_data("The outcome does not vary in these rows.", class = "outcome_constant")
  x <- as.data.frame(stats::setNames(columns, sprintf("x%d", seq_along(columns))))
  trees <- 500L
  fit <- ranger::ranger(x = x, y = y, num.trees = trees, importance = "permutation", seed = ctx$seed, num.threads = thread_count(),
                        respect.unordered.factors = "order", oob.error = TRUE)
  importance <- data.frame(column = names(columns), importance = unname(fit$variable.importance), stringsAsFactors = FALSE)
  importance <- importance[order(-importance$importance, seq_len(nrow(importance))), ]
  seen <- !is.na(fit$predictions)
  if (classes) {
    majority <- max(table(y)) / length(y)
    accuracy <- mean(as.character(fit$predictions[seen]) == as.character(y[seen]))
    fits <- list(new_number("accuracy", "share put into the right level, rows out of the bag", accuracy), new_number("majority",
      "share of the commonest level", majority))
    gain <- accuracy - majority
  } else {
    error <- mean((fit$predictions[seen] - y[seen])^2)
    gain <- 1 - error / mean((y - mean(y))^2)
    fits <- list(new_number("r_squared", "R squared on rows out of the bag", gain), new_number("rmse",
      "root mean squared error on rows out of the bag", sqrt(error)))
  }
  result(c(fits, list(new_number("trees", "trees", trees), new_number("n", "rows used", length(y)))),
         list(new_table("importance", "Loss of accuracy when a column is shuffled", `rownames<-`(importance, NULL))),
         columns = columns, factors = vapply(columns, is.factor, NA), pair = list(), classes = classes, gain = gain,
           order = match(importance$column, names(columns)))
}

say_forest <- function(ctx, res) {
  n <- res$number; y <- say_column(outcome_column(ctx)); t <- res$tables[[1]]$data
  best <- vapply(ctx$columns[utils::head(t$column[t$importance > 0], 3)], say_column, "")
  result <- if (res$classes) sprintf("puts %s of the rows into the right level (the commonest level alone: %s)", say_percent(n$accuracy, 0),
    say_percent(n$majority, 0))
    else sprintf("explains %s of the spread (typical error %s)", say_percent(max(0, n$r_squared), 0), with_unit(say_number(n$rmse),
      outcome_column(ctx)$unit))
  list(headline = if (res$gain > 0.02) sprintf("A random forest predicts %s on rows it has not seen: it %s; most through %s.", y, result,
    some_of(best, 3))
         else sprintf("A random forest predicts %s no better than no model on rows it has not seen: it %s.", y, result),
       details = c("Importance is the loss of accuracy when a column is shuffled; columns that go together share it.",
                   "A forest shows how well these columns predict, not what would happen if one were changed.", say_rows(ctx)),
       write_up = sprintf("A random forest (%s trees, seed %s; n = %s) of %s on %s %s on rows out of the bag.%s", say_number(n$trees),
         format(ctx$seed, scientific = FALSE),
                          say_number(n$n), y, some_of(vapply(ctx$columns[names(res$columns)], say_column, ""), 8), result, write_rows(ctx)))
}

figure_importance <- function(ctx, res) {
  t <- utils::head(res$tables[[1]]$data, 20)
  d <- data.frame(column = factor(t$column, rev(t$column)), importance = t$importance)
  title <- sprintf("Importance of each column for %s", say_column(outcome_column(ctx)))
  new_figure("importance", title, "dot", subtitle = "Loss of accuracy when the column is shuffled; at or below zero it adds nothing.",
    alt = sprintf("%s: one dot a column.", title),
    draw = function() ggplot2::ggplot(d, ggplot2::aes(x = .data$importance, y = .data$column)) + ggplot2::geom_vline(xintercept = 0,
      colour = quill_soft(), linetype = "22") +
      ggplot2::geom_segment(ggplot2::aes(x = 0, xend = .data$importance, yend = .data$column), colour = quill_soft()) +
      ggplot2::geom_point(colour = quill_colours(1), size = 3.4) + ggplot2::scale_y_discrete(labels = function(x) wrap_level(gsub("_", " ", x), 28)) +
      ggplot2::labs(x = "Loss of accuracy when shuffled", y = NULL),
    script = c(sprintf("plot_data <- data.frame(column = %s, importance = tables$importance$importance)", as_r_strings(res$tables[[1]]$data$column)),
               sprintf(paste0("plot <- ggplot(plot_data, aes(importance, reorder(column, importance))) + geom_point(size = 3) + labs(title = ",
                   "%s, y = NULL) + theme_minimal()"), as_r_string(title))))
}

script_forest <- function(ctx, res) {
  m <- script_model_columns(ctx, res)
  inner <- sprintf("x%d", seq_along(res$columns))
  c(if (res$classes) sprintf("y <- droplevels(factor(%s))", script_column(outcome_name(ctx))) else sprintf("y <- %s",
    script_value(outcome_name(ctx))), m$set,
    sprintf(paste0("fit <- ranger::ranger(x = data.frame(%s), y = y, num.trees = 500, importance = \"permutation\", seed = %s, ",
        "respect.unordered.factors = \"order\")"),
            paste(inner, "=", inner, collapse = ", "), format(ctx$seed, scientific = FALSE)),
    "seen <- !is.na(fit$predictions); n <- length(y)",
    sprintf("tables <- list(importance = data.frame(importance = unname(fit$variable.importance)[%s]))", paste0("c(", paste(res$order,
      collapse = ", "), ")")),
    if (res$classes) paste0("numbers <- list(accuracy = mean(as.character(fit$predictions[seen]) == as.character(y[seen])), majority = ",
        "max(table(y)) / n, trees = 500, n = n)")
    else c("error <- mean((fit$predictions[seen] - y[seen])^2)",
      "numbers <- list(r_squared = 1 - error / mean((y - mean(y))^2), rmse = sqrt(error), trees = 500, n = n)"))
}
