# Regression and classification trees: grown, pruned, and judged on rows held back.

#' A tree pruned by cross-validation
#'
#' @param columns Named list of predictors: doubles, or factors without an order.
#' @param y Outcome: doubles, or a factor.
#' @param seed Seed of the division into folds.
#' @section Shape: list(tree, closed = nodes that are ends although they could be split, ends = node of each row, levels, path = data frame of the
#'   pruning path (leaves, penalty, error, error_se; errors relative to the outcome's own spread, by cross-validation), chosen = row of the path,
#'   held = predictions for rows held back, folds, impurity of the root, means by node).
#' @section Errors: `too_few_rows` under 20 rows; `outcome_constant`.
#' @section Source: Breiman, L., Friedman, J. H., Olshen, R. A. and Stone, C. J. (1984). Classification and Regression Trees, chapters 3, 8 and 11:
#'   weakest-link pruning and the rule of one standard error. A class outcome is scored by its squared error (Gini).
#' @noRd
stat_tree <- function(columns, y, seed = 20240501, limits = tree_limits(length(y))) {
  n <- length(y)
  if (n < 20) stop_data("A tree needs at least 20 rows.", class = "too_few_rows")
  out <- tree_outputs(y)
  x <- tree_predictors(columns)
  full <- grow_tree(x, out$y, limits)
  if (full$impurity[1] <= 1e-12 * max(1, sum(out$y^2))) stop_data("The outcome does not vary in these rows.", class = "outcome_constant")
  path <- pruning_path(full)
  folds <- recorded_folds(n, tree_folds(n), seed)
  between <- sqrt(path$penalty * c(path$penalty[-1], Inf))
  held <- lapply(seq_len(max(folds)), function(k) held_predictions(x, out$y, folds != k, between * mean(folds != k),
    limits))  # fewer rows, smaller sums
  loss <- matrix(0, n, length(between)); guess <- vector("list", length(between))
  for (j in seq_along(between)) {
    predicted <- matrix(0, n, ncol(out$y))
    for (k in seq_along(held)) predicted[folds == k, ] <- held[[k]][[j]]
    guess[[j]] <- predicted
    loss[, j] <- rowSums((out$y - predicted)^2)
  }
  error <- colSums(loss) / full$impurity[1]
  error_se <- sqrt(colSums(sweep(loss, 2, colMeans(loss))^2)) / full$impurity[1]
  best <- which.min(error)
  chosen <- max(which(error <= error[best] + error_se[best]))
  closed <- path$closed[, chosen]
  ends <- kernel_place_rows(full, closed, x$values, x$levels)
  full$means <- sweep(full$means, 2, out$centre, "+")
  list(tree = full, closed = closed, ends = ends, levels = out$levels, chosen = chosen, folds = max(folds), fold = folds,
       path = data.frame(leaves = path$leaves, penalty = path$penalty / full$impurity[1], error = error, error_se = error_se),
       held = sweep(guess[[chosen]], 2, out$centre, "+"), columns = columns, n = n)
}

#' How far a tree is grown: ends of at least 1 % of the rows (and 5), five questions deep
#' @noRd
tree_limits <- function(n) {
  least <- max(5, ceiling(n / 100))
  list(least_rows = least, least_split = 2 * least, depth = 5L)
}

tree_folds <- function(n) if (n <= 20000) 10L else if (n <= 200000) 5L else 2L

#' Folds of nearly equal size, drawn with a recorded seed
#' @noRd
recorded_folds <- function(n, folds, seed) with_recorded_seed(seed, sample(rep_len(seq_len(folds), n)))

tree_outputs <- function(y) {
  if (is.factor(y)) {
    y <- droplevels(y)
    if (nlevels(y) < 2) stop_data("The outcome has one level only in these rows.", class = "outcome_constant")
    return(list(y = outer(as.integer(y), seq_len(nlevels(y)), `==`) * 1, levels = levels(y), centre = rep(0, nlevels(y))))
  }
  centre <- stat_group_moments(y)[[1, "mean"]]
  list(y = cbind(y - centre), levels = NULL, centre = centre)
}

tree_predictors <- function(columns) {
  list(values = unname(lapply(columns, as.double)), levels = vapply(columns, function(v) if (is.factor(v)) nlevels(v) else 0L, 1L, USE.NAMES = FALSE))
}

grow_tree <- function(x, y, limits) {
  kernel_grow_tree(x$values, x$levels, y, limits$least_rows, limits$least_split, limits$depth, thread_count())
}

held_predictions <- function(x, y, train, penalties, limits) {
  inside <- list(values = lapply(x$values, `[`, train), levels = x$levels)
  outside <- lapply(x$values, `[`, !train)
  tree <- grow_tree(inside, y[train, , drop = FALSE], limits)
  path <- pruning_path(tree)
  lapply(penalties, function(a) {
    closed <- path$closed[, max(which(path$penalty <= a))]
    tree$means[kernel_place_rows(tree, closed, outside, x$levels), , drop = FALSE]
  })
}

#' The nested subtrees, each without the links that gain least for their leaves
#' @section Shape: list(penalty, leaves, closed = logical matrix, nodes x subtrees).
#' @noRd
pruning_path <- function(tree) {
  nodes <- length(tree$left)
  closed <- rep(FALSE, nodes)
  penalty <- 0; leaves <- NULL; all <- list(closed)
  repeat {
    open <- subtree_costs(tree, closed)
    leaves <- c(leaves, open$leaves[1])
    if (open$leaves[1] == 1) break
    g <- ifelse(open$splits, (tree$impurity - open$cost) / (open$leaves - 1), Inf)
    weakest <- max(min(g), 0)
    closed <- closed | g <= weakest * (1 + 1e-9)
    penalty <- c(penalty, weakest); all <- c(all, list(closed))
  }
  list(penalty = cummax(penalty), leaves = leaves, closed = do.call(cbind, all))
}

#' Cost and number of leaves below each node; children come after their parent
#' @noRd
subtree_costs <- function(tree, closed) {
  nodes <- length(tree$left)
  cost <- tree$impurity; leaves <- rep(1, nodes); splits <- rep(FALSE, nodes)
  reached <- rep(FALSE, nodes); reached[1] <- TRUE
  for (i in seq_len(nodes)) if (reached[i] && tree$left[i] > 0 && !closed[i]) {
    splits[i] <- TRUE
    reached[c(tree$left[i], tree$right[i])] <- TRUE
  }
  for (i in rev(which(splits))) {
    below <- c(tree$left[i], tree$right[i])
    cost[i] <- sum(cost[below]); leaves[i] <- sum(leaves[below])
  }
  list(cost = cost, leaves = leaves, splits = splits)
}

#' Leaves of the pruned tree with the conditions that lead to them
#' @section Shape: list of list(node, conditions = list of list(column, low, high, codes)), in the order of the tree.
#' @noRd
tree_leaves <- function(fit) {
  tree <- fit$tree
  walk <- function(i, path) {
    if (tree$left[i] == 0 || fit$closed[i]) return(list(list(node = i, conditions = path)))
    column <- names(fit$columns)[tree$column[i]]
    c(walk(tree$left[i], narrow(path, column, fit, i, TRUE)), walk(tree$right[i], narrow(path, column, fit, i, FALSE)))
  }
  walk(1L, list())
}

narrow <- function(path, column, fit, i, left) {
  known <- path[[column]] %||% list(low = -Inf, high = Inf, codes = if (is.factor(fit$columns[[column]])) seq_len(nlevels(fit$columns[[column]])))
  if (is.null(known$codes)) {
    if (left) known$high <- min(known$high, fit$tree$cut[i]) else known$low <- max(known$low, fit$tree$cut[i])
  } else known$codes <- if (left) intersect(known$codes, fit$tree$to_left[[i]]) else setdiff(known$codes, fit$tree$to_left[[i]])
  path[[column]] <- known
  path
}

#' Share of the explained sum of squares that splits on each column bring
#' @noRd
tree_importance <- function(fit) {
  open <- subtree_costs(fit$tree, fit$closed)$splits
  gain <- fit$tree$impurity - fit$tree$impurity[pmax(fit$tree$left, 1)] - fit$tree$impurity[pmax(fit$tree$right, 1)]
  sums <- vapply(seq_along(fit$columns), function(c) sum(gain[open & fit$tree$column == c]), 1)
  total <- sum(sums)
  data.frame(column = names(fit$columns), share = if (total > 0) sums / total else sums, stringsAsFactors = FALSE)
}
