# Trees: plain rules that divide the rows by what goes with the outcome.

#' @noRd
method_regression_tree <- function() {
  new_method(
    id = "regression_tree", name = "Regression tree", tasks = c("predict", "drivers"),
    fits = function(shape) fits_tree(shape, c("number", "count", "ordered"),
      "The question asks for kinds of rows, so the rows are divided by plain rules, each kept only if it also holds on rows held back."),
    compute = function(ctx) compute_tree(ctx, FALSE), checks = tree_checks, figure = figure_tree, sentences = say_tree,
    script = script_tree, references = tree_references(), families = "decision_tree", next_steps = next_tree)
}

#' @noRd
method_classification_tree <- function() {
  new_method(
    id = "classification_tree", name = "Classification tree", tasks = c("predict", "drivers"),
    fits = function(shape) fits_tree(shape, c("category", "yes_no"),
      paste0("The question asks for kinds of rows and the outcome is a level, so the rows are divided by plain rules, each kept only if it ",
          "also holds on rows held back.")),
    compute = function(ctx) compute_tree(ctx, TRUE), checks = tree_checks, figure = figure_tree, sentences = say_tree,
    script = script_tree, references = tree_references(), families = "decision_tree", next_steps = next_tree)
}

tree_references <- function() c(
  "Breiman, L., Friedman, J. H., Olshen, R. A., & Stone, C. J. (1984). Classification and Regression Trees. Wadsworth.",
  "Fisher, W. D. (1958). On grouping for maximum homogeneity. Journal of the American Statistical Association, 53, 789-798.")

fits_tree <- function(shape, kinds, why) {
  asked <- shape$method_asked %in% c("regression_tree", "classification_tree", "decision_tree") || isTRUE(shape$rules)
  ok <- isTRUE(asked) && shape$n_outcome == 1 && shape$predictors + shape$n_by >= 1 && shape$outcome_kind %in% kinds
  if (ok) new_fit(95, why)
}

next_tree <- function(ctx, res) c(if (isTRUE(res$number$leaves == 1) && length(res$columns) > 4) smaller_tree(ctx, res),
                                  sprintf("Which columns are related to %s?", outcome_name(ctx)), sprintf("Describe %s", outcome_name(ctx)))

#' The same of the three columns that go with the outcome most, each by itself
#' @noRd
smaller_tree <- function(ctx, res) {
  y <- ctx$frame$data[[outcome_name(ctx)]]; kind <- outcome_column(ctx)$kind
  # (a column of many levels gives a tree more ways to follow chance)
  plain <- names(res$columns)[vapply(res$columns, function(v) !is.factor(v) || nlevels(v) <= 4, NA)]
  if (length(plain) < 3) return(NULL)
  strength <- vapply(plain, function(n) associate(y, kind, ctx$frame$data[[n]], ctx$columns[[n]]$kind)$strength %||% 0, 1)
  few <- names(strength)[order(-strength)][1:3]
  sprintf("Decision tree for %s from %s", outcome_name(ctx), some_of(few, 3))
}

compute_tree <- function(ctx, classes) {
  columns <- model_columns(ctx)
  columns <- lapply(columns, function(v) if (is.factor(v)) droplevels(v) else as.double(v))
  wide <- names(columns)[vapply(columns, function(v) is.factor(v) && nlevels(v) > 50, NA)]
  if (length(wide)) stop_data(sprintf("%s has more than 50 levels, too many to be divided by a rule.", quoted(wide[1])),
                              todo = "Leave it out of the question.", class = "unfit_data")
  y <- if (classes) droplevels(as_group(ctx$frame$data[[outcome_name(ctx)]])) else outcome_values(ctx)
  if (classes && nlevels(y) > 12) stop_data(sprintf("%s has %d levels, too many for a classification tree.", quoted(outcome_name(ctx)),
    nlevels(y)), class = "unfit_data")
  fit <- stat_tree(columns, y, ctx$seed)
  leaves <- leaf_table(ctx, fit, y)
  path <- fit$path[c("leaves", "error", "error_se")]
  importance <- tree_importance(fit)
  importance <- importance[order(-importance$share, seq_len(nrow(importance))), ]
  numbers <- c(list(new_number("leaves", "kinds of rows", fit$path$leaves[fit$chosen]), new_number("n", "rows used", fit$n),
                    new_number("folds", "folds of the cross-validation", fit$folds)),
               if (classes) class_numbers(fit, y) else regression_numbers(fit, y))
  result(numbers, list(leaves$table, new_table("importance", "Share of the explained spread by column", importance),
                       new_table("pruning", "Error on rows held back, relative to no tree", path)),
         fit = fit, rules = leaves$rules, classes = classes, columns = columns, factors = vapply(columns, is.factor, NA), y = y, levels = fit$levels,
         pair = list(), direction = NA_real_)
}

regression_numbers <- function(fit, y) {
  rss <- sum(fit$tree$impurity[unique(fit$ends)])
  held <- (y - fit$held[, 1])^2
  list(new_number("r_squared", "R squared on the rows the tree was grown on", 1 - rss / fit$tree$impurity[1]),
       new_number("cv_r_squared", "R squared on rows held back", 1 - sum(held) / fit$tree$impurity[1]),
       new_number("rmse", "root mean squared error on rows held back", sqrt(mean(held))))
}

class_numbers <- function(fit, y) {
  code <- as.integer(y)
  list(new_number("accuracy", "share put into the right level, rows held back", mean(max.col(fit$held, "first") == code)),
       new_number("accuracy_grown", "share put into the right level, rows the tree was grown on", mean(max.col(fit$tree$means[fit$ends, ,
         drop = FALSE], "first") == code)),
       new_number("majority", sprintf("share of the commonest level (%s)", fit$levels[which.max(tabulate(code))]),
         max(tabulate(code)) / length(code)))
}

#' Leaves with their rules, the highest first
#' @noRd
leaf_table <- function(ctx, fit, y) {
  leaves <- tree_leaves(fit)
  node <- vapply(leaves, `[[`, 1L, "node")
  rules <- vapply(leaves, function(l) say_rule(ctx, fit, l$conditions), "")
  data <- data.frame(rule = rules, n = fit$tree$rows[node], stringsAsFactors = FALSE)
  if (is.null(fit$levels)) {
    data$mean <- fit$tree$means[node, 1]
    data$sd <- sqrt(fit$tree$impurity[node] / pmax(1, data$n - 1))
    title <- sprintf("Kinds of rows by %s", outcome_name(ctx))
    key <- data$mean
  } else {
    means <- fit$tree$means[node, , drop = FALSE]
    two <- length(fit$levels) == 2
    event <- if (two) event_position(ctx, fit$levels) else NA
    data$level <- if (two) fit$levels[event] else fit$levels[max.col(means, "first")]
    data$share <- if (two) means[, event] else means[cbind(seq_along(node), max.col(means, "first"))]
    title <- sprintf("Kinds of rows by %s", outcome_name(ctx))
    key <- data$share
  }
  order <- order(-key, node)
  list(table = new_table("rules", title, data[order, , drop = FALSE] |> `rownames<-`(NULL)), rules = rules[order], node = node[order])
}

#' The level spoken of: the one that the question names, else the last
#' @noRd
event_position <- function(ctx, levels) match(ctx$reading$extra$level_of_event %||% levels[length(levels)], levels, nomatch = length(levels))

say_rule <- function(ctx, fit, conditions) {
  if (!length(conditions)) return("all rows")
  paste(vapply(names(conditions), function(name) say_condition(ctx$columns[[name]], conditions[[name]], levels(fit$columns[[name]])), ""),
    collapse = " and ")
}

say_condition <- function(col, c, levels) {
  label <- say_column(col)
  if (!is.null(c$codes)) {
    # the shorter of the two lists says the same
    rest <- setdiff(seq_along(levels), c$codes)
    return(if (length(rest) < length(c$codes) && length(c$codes) > 3) sprintf("%s other than %s", label, either(levels[rest]))
           else sprintf("%s %s", label, either(levels[c$codes])))
  }
  value <- function(v) if (col$kind %in% c("date", "datetime")) as.character(as.Date(v, origin = "1970-01-01"))
    else with_unit(format(signif(v, 6), big.mark = if (abs(v) >= 10000) "," else ""), col$unit)
  if (is.finite(c$low) && is.finite(c$high)) sprintf("%s from %s to under %s", label, value(c$low), value(c$high))
  else if (is.finite(c$low)) sprintf("%s at least %s", label, value(c$low)) else sprintf("%s under %s", label, value(c$high))
}

#' "a, b or c"
#' @noRd
either <- function(x) if (length(x) < 2) x else if (length(x) > 8) sprintf("%s or %d more", paste(x[1:7], collapse = ", "), length(x) - 7L) else
  sprintf("%s or %s", paste(x[-length(x)], collapse = ", "), x[length(x)])

tree_checks <- function(ctx, res) {
  gap <- if (res$classes) res$number$accuracy - res$number$majority else res$number$cv_r_squared
  smallest <- min(res$tables[[1]]$data$n)
  list(check_independent_rows(ctx$unit_values, ctx$unit_name),
       new_check("held_back", if (gap > 0.02) "ok" else "caution", "Cross-validation", list(new_number("gain",
         "gain over no tree on rows held back", gap)),
                 list(gain = gap, classes = res$classes)),
       new_check("leaf_size", if (smallest >= 10) "ok" else "caution", "Rows in the smallest kind", list(new_number("smallest",
         "rows in the smallest kind", smallest)),
                 list(smallest = smallest)))
}

say_tree <- function(ctx, res) {
  n <- res$number; y <- say_column(outcome_column(ctx)); unit <- outcome_column(ctx)$unit
  t <- res$tables[[1]]$data
  item <- if (res$classes) sprintf("%s (%s rows, %s %s)", t$rule, say_number(t$n), say_percent(t$share, 0), t$level)
    else sprintf("%s (%s rows, mean %s)", t$rule, say_number(t$n), with_unit(say_number(t$mean), unit))
  held <- if (res$classes) sprintf("On rows held back it puts %s into the right level; always saying the commonest level would be right for %s.",
                                   say_percent(n$accuracy, 0), say_percent(n$majority, 0))
    else sprintf("On rows held back it explains %s of the spread (%s on the rows it was grown on).", say_percent(max(0, n$cv_r_squared), 0),
      say_percent(n$r_squared, 0))
  asked <- some_of(vapply(ctx$columns[names(res$columns)], say_column, ""), 8)
  if (n$leaves == 1) return(list(
    headline = sprintf(paste("No set of plain rules from %s holds up for %s: on rows held back no tree predicts it better than none by more than",
                             "one standard error."), asked, y),
    details = c(if (length(res$columns) > 4) "With many columns, or columns of many levels, single clear relations can be lost here; a tree of fewer columns may hold.",  # nolint: line_length_linter.
                sprintf("A tree was grown on %s rows and pruned by %s-fold cross-validation (rule of one standard error); nothing was left.",
      say_number(n$n), say_number(n$folds)), say_rows(ctx)),
    write_up = sprintf("A %s tree of %s on %s, pruned by %s-fold cross-validation with the rule of one standard error, kept no split (n = %s).%s",
                       if (res$classes) "classification" else "regression", y, asked, say_number(n$folds), say_number(n$n), write_rows(ctx))))
  last <- nrow(t)
  list(headline = sprintf("%s is highest for %s and lowest for %s.", if (res$classes) sprintf("The share of %s", t$level[1]) else capital(y),
    item[1], item[last]) |>
         class_headline(res, item),
       details = c(sprintf("All kinds of rows: %s.", paste(item, collapse = "; ")), held,
                   "The rules describe these rows; they do not say that changing a column would change the outcome.", say_rows(ctx)),
       write_up = sprintf(paste0("A %s tree (least %s rows a leaf, pruned by %s-fold cross-validation with the rule of one standard error; n = ",
           "%s) gave %s leaves: %s. %s%s"),
                          if (res$classes) "classification" else "regression", say_number(tree_limits(n$n)$least_rows), say_number(n$folds),
                            say_number(n$n),
                          say_number(n$leaves), paste(item, collapse = "; "), held, write_rows(ctx)))
}

#' With more than two levels, each kind has a commonest level of its own
#' @noRd
class_headline <- function(text, res, item) {
  if (!res$classes || length(res$levels) == 2) return(text)
  sprintf("The rows fall into %s kinds: %s.", say_number(length(item)), some_of(item, 4))
}

figure_tree <- function(ctx, res) {
  if (res$number$leaves == 1) return(NULL)
  t <- res$tables[[1]]$data
  label <- factor(sprintf("%s (n = %s)", t$rule, say_number(t$n)), rev(sprintf("%s (n = %s)", t$rule, say_number(t$n))))
  y <- capital(say_column(outcome_column(ctx)))
  title <- sprintf("%s by kind of row", y)
  wrap <- function(x) vapply(x, function(v) paste(strwrap(v, 46), collapse = "\n"), "")
  if (res$classes) {
    d <- data.frame(label = label, share = t$share, level = t$level)
    return(new_figure("rules", title, "dot", subtitle = "Share of the level named in each kind of row that the tree keeps apart.",
      alt = sprintf("%s: one dot a kind of row.", title),
      draw = function() ggplot2::ggplot(d, ggplot2::aes(x = .data$share, y = .data$label)) +
        ggplot2::geom_segment(ggplot2::aes(x = 0, xend = .data$share, yend = .data$label), colour = quill_soft(), linewidth = 0.6) +
        ggplot2::geom_point(colour = quill_colours(1), size = 3.6) +
        ggplot2::geom_text(ggplot2::aes(label = sprintf("%s %s", say_percent(.data$share, 0), .data$level)), vjust = -1.1, size = 3.4,
          colour = quill_ink()) +
        ggplot2::scale_x_continuous(limits = c(0, 1.02), labels = function(x) paste(100 * x, "%")) + ggplot2::scale_y_discrete(labels = wrap) +
        ggplot2::labs(x = "Share of rows", y = NULL),
      script = c("plot_data <- tables$rules", sprintf("plot_data$rule <- %s", as_r_strings(t$rule)),
                 sprintf(paste0("plot <- ggplot(plot_data, aes(share, reorder(rule, share))) + geom_point(size = 3) + labs(title = %s, y = ",
                     "NULL) + theme_minimal()"), as_r_string(title)))))
  }
  node <- res$fit$ends
  order <- leaf_table(ctx, res$fit, res$y)$node
  d <- data.frame(label = label[match(node, order)], value = res$y)
  m <- data.frame(label = label, mean = t$mean)
  new_figure("rules", title, "box", subtitle = "Boxes: quartiles of each kind of row that the tree keeps apart; diamonds: means.",
    alt = sprintf("%s: one box a kind of row.", title),
    draw = function() ggplot2::ggplot(d, ggplot2::aes(x = .data$value, y = .data$label)) +
      ggplot2::geom_boxplot(fill = quill_colours(1), alpha = 0.25, colour = quill_ink(), outlier.size = 0.9, width = 0.55) +
      ggplot2::geom_point(data = m, ggplot2::aes(x = .data$mean), shape = 18, size = 4, colour = quill_colours(2)[2]) +
      ggplot2::scale_y_discrete(labels = wrap) + ggplot2::labs(x = axis_label(outcome_column(ctx)), y = NULL),
    script = c(sprintf("plot_data <- data.frame(value = y, kind = factor(ends, leaf_order, %s))", as_r_strings(t$rule)),
               sprintf("plot <- ggplot(plot_data, aes(value, kind)) + geom_boxplot() + labs(title = %s, y = NULL) + theme_minimal()",
                 as_r_string(title))))
}

#' Script lines that grow, prune and use a tree on Y and X, with `least` and `deepest` set
#' @noRd
script_tree_functions <- function() {
  c("# the split of a node that lowers the sum of squares most; a later one must be better by more than rounding",
    "gain_of <- function(left, total, nl, nr) rowSums(left^2 / nl + (rep(total, each = nrow(left)) - left)^2 / nr) - sum(total^2) / (nl[1] + nr[1])",
    "pick <- function(gain, ok, best) { at <- NA; for (i in which(ok)) if (gain[i] > best * (1 + 1e-10)) { best <- gain[i]; at <- i }; at }",
    "find_split <- function(rows, root) {",
    "  y <- Y[rows, , drop = FALSE]; total <- colSums(y); n <- length(rows); best <- list(gain = 0)",
    "  for (j in seq_along(X)) {",
    "    x <- X[[j]][rows]; own <- list(gain = 0)",
    "    if (is.factor(x)) {",
    "      code <- as.integer(x); count <- tabulate(code, nlevels(x)); here <- which(count > 0); sums <- rowsum(y, code)",
    "      if (length(here) > 1) for (k in seq_len(if (ncol(Y) == 2) 1 else ncol(Y))) {",
    "        by <- order(sums[, k] / count[here]); nl <- cumsum(count[here][by]); left <- apply(sums[by, , drop = FALSE], 2, cumsum); nr <- n - nl",
    "        gain <- gain_of(left, total, nl, pmax(nr, 1)); at <- pick(gain, nl >= least & nr >= least, own$gain)",
    "        if (!is.na(at)) own <- list(gain = gain[at], column = j, codes = sort(here[by][seq_len(at)]))",
    "      }",
    "    } else {",
    "      by <- order(x); v <- as.numeric(x)[by]; nl <- seq_len(n); nr <- n - nl; left <- apply(y[by, , drop = FALSE], 2, cumsum)",
    "      gain <- gain_of(left, total, nl, pmax(nr, 1)); at <- pick(gain, c(v[-1] > v[-n], FALSE) & nl >= least & nr >= least, 0)",
    paste0("      if (!is.na(at)) { cut <- v[at] + (v[at + 1] - v[at]) / 2; own <- list(gain = gain[at], column = j, cut = if (cut > v[at]) ",
        "cut else v[at + 1]) }"),
    "    }",
    "    if (own$gain > 1e-10 * root && own$gain > best$gain * (1 + 1e-10)) best <- own",
    "  }",
    "  best",
    "}",
    "goes_left <- function(s, rows) { x <- X[[s$column]][rows]; if (is.null(s$cut)) as.integer(x) %in% s$codes else as.numeric(x) < s$cut }",
    "grow <- function(rows, depth = 0, root = NULL) {",
    "  y <- Y[rows, , drop = FALSE]; mean <- colMeans(y); cost <- sum(sweep(y, 2, mean)^2); if (is.null(root)) root <- cost",
    "  node <- list(mean = mean, cost = cost, n = length(rows)); if (depth >= deepest || length(rows) < 2 * least) return(node)",
    "  s <- find_split(rows, root); if (s$gain == 0) return(node)",
    "  side <- goes_left(s, rows); c(node, list(split = s, left = grow(rows[side], depth + 1, root), right = grow(rows[!side], depth + 1, root)))",
    "}",
    "# pruning: the weakest link is the node whose subtree gains least for its leaves",
    "below <- function(t) if (is.null(t$split)) c(t$cost, 1) else below(t$left) + below(t$right)",
    "links <- function(t) if (is.null(t$split)) Inf else { b <- below(t); min((t$cost - b[1]) / (b[2] - 1), links(t$left), links(t$right)) }",
    paste0("cut_back <- function(t, g) { if (is.null(t$split)) return(t); b <- below(t); if ((t$cost - b[1]) / (b[2] - 1) <= g) ",
        "return(t[c(\"mean\", \"cost\", \"n\")])"),
    "  t$left <- cut_back(t$left, g); t$right <- cut_back(t$right, g); t }",
    paste0("pruning <- function(t) { trees <- list(t); penalty <- 0; while (!is.null(t$split)) { g <- max(links(t), 0); t <- cut_back(t, g * ",
        "(1 + 1e-9)); trees <- c(trees, list(t)); penalty <- c(penalty, g) }"),
    "  list(trees = trees, penalty = cummax(penalty)) }",
    "place <- function(t, rows, out) { if (is.null(t$split)) { out[as.character(rows), ] <- rep(t$mean, each = length(rows)); return(out) }",
    paste0("  side <- goes_left(t$split, rows); if (any(side)) out <- place(t$left, rows[side], out); if (any(!side)) out <- place(t$right, ",
        "rows[!side], out); out }"),
    "predict_rows <- function(t, rows) place(t, rows, matrix(0, length(rows), ncol(Y), dimnames = list(rows, NULL)))")
}

script_tree <- function(ctx, res) {
  m <- script_model_columns(ctx, res)
  limits <- tree_limits(res$fit$n)
  outcome <- if (res$classes) c(sprintf("y <- droplevels(factor(%s)); Y <- outer(as.integer(y), seq_len(nlevels(y)), `==`) * 1",
    script_column(outcome_name(ctx))))
    else sprintf("y <- %s; Y <- cbind(y - mean(y))", script_value(outcome_name(ctx)))
  c(outcome, m$set, sprintf("X <- list(%s); n <- length(y)", paste(sprintf("x%d", seq_along(res$columns)), collapse = ", ")),
    sprintf("least <- %s; deepest <- %d", format(limits$least_rows, scientific = FALSE), limits$depth),
    script_tree_functions(),
    "full <- pruning(grow(seq_len(n))); between <- sqrt(full$penalty * c(full$penalty[-1], Inf)); root <- full$trees[[1]]$cost",
    sprintf("RNGkind(\"L'Ecuyer-CMRG\", \"Inversion\", \"Rejection\"); set.seed(%s); fold <- sample(rep_len(1:%d, n))", format(ctx$seed,
      scientific = FALSE), res$fit$folds),
    "held <- array(0, c(n, ncol(Y), length(between)))",
    "for (k in seq_len(max(fold))) { p <- pruning(grow(which(fold != k))); out <- which(fold == k)",
    "  for (j in seq_along(between)) held[out, , j] <- predict_rows(p$trees[[max(which(p$penalty <= between[j] * mean(fold != k)))]], out) }",
    "loss <- vapply(seq_along(between), function(j) rowSums((Y - matrix(held[, , j], n))^2), numeric(n))",
    "error <- colSums(loss) / root; error_se <- sqrt(colSums(sweep(loss, 2, colMeans(loss))^2)) / root; best <- which.min(error)",
    "chosen <- max(which(error <= error[best] + error_se[best])); tree <- full$trees[[chosen]]; guess <- matrix(held[, , chosen], n)",
    paste0("leaves <- function(t) if (is.null(t$split)) list(t) else c(leaves(t$left), leaves(t$right)); ends_of <- leaves(tree); at <- ",
        "t(vapply(ends_of, `[[`, Y[1, ], \"mean\"))"),
    "if (ncol(Y) == 1) at <- t(at); size <- vapply(ends_of, `[[`, 1, \"n\"); cost <- vapply(ends_of, `[[`, 1, \"cost\")",
    paste0("gains <- function(t) if (is.null(t$split)) NULL else rbind(c(t$split$column, t$cost - t$left$cost - t$right$cost), gains(t$left), ",
        "gains(t$right))"),
    "g <- gains(tree); share <- vapply(seq_along(X), function(j) if (is.null(g)) 0 else sum(g[g[, 1] == j, 2]) / sum(g[, 2]), 1)",
    "number_leaves <- function(t, rows, out) { if (is.null(t$split)) { out[rows] <- max(out) + 1; return(out) }",
    "  side <- goes_left(t$split, rows); number_leaves(t$right, rows[!side], number_leaves(t$left, rows[side], out)) }",
    "ends <- number_leaves(tree, seq_len(n), numeric(n))",
    if (res$classes) c(
      if (length(res$levels) == 2) sprintf("event <- %d; by <- at[, event]", event_position(ctx, res$levels)) else "by <- apply(at, 1, max)",
      "leaf_order <- order(-by); rules <- data.frame(n = size, share = by)[leaf_order, ]; code <- as.integer(y)",
      "top <- max.col(at, \"first\")[ends]",
      paste0("numbers <- list(leaves = length(size), n = n, folds = max(fold), accuracy = mean(max.col(guess, \"first\") == code), ",
          "accuracy_grown = mean(top == code), majority = max(table(code)) / n)"))
    else c(paste0("leaf_order <- order(-at[, 1]); rules <- data.frame(n = size, mean = at[, 1] + mean(y), sd = sqrt(cost / pmax(1, size - ",
        "1)))[leaf_order, ]"),
      paste0("numbers <- list(leaves = length(size), n = n, folds = max(fold), r_squared = 1 - sum(cost) / root, cv_r_squared = 1 - sum((Y[, ",
          "1] - guess[, 1])^2) / root, rmse = sqrt(mean((Y[, 1] - guess[, 1])^2)))")),
    "tables <- list(rules = rules, importance = data.frame(share = sort(share, decreasing = TRUE)),",
    "  pruning = data.frame(leaves = vapply(full$trees, function(t) length(leaves(t)), 1), error = error, error_se = error_se))")
}
