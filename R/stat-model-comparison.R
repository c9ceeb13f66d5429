# Models set against each other on rows held back.

#' Error of several models by cross-validation
#'
#' @param columns Named list of predictors: doubles or factors. @param y Outcome; 0 and 1 for `binary`.
#' @param binary Is the outcome a chance? Errors are then squared errors of the chance (Brier).
#' @section Shape: list(error = named mean squared errors, error_se (of the fold means), held = matrix of predictions, fold, folds, chosen (the
#'   simplest model within one standard error of the best), best, n), models in the order of their simplicity.
#' @section Source: Stone, M. (1974). Journal of the Royal Statistical Society B 36, 111-147; the rule of one standard error: Breiman, L. et al.
#'   (1984), section 3.4.3.
#' @noRd
stat_model_comparison <- function(columns, y, binary, seed = 20240501) {
  n <- length(y)
  if (n < 30) stop_data("Models are compared on rows held back, which takes at least 30 rows.", class = "too_few_rows")
  folds <- 10L
  fold <- recorded_folds(n, folds, seed)
  makers <- candidate_models(columns, binary)
  held <- matrix(NA_real_, n, length(makers), dimnames = list(NULL, names(makers)))
  for (k in seq_len(folds)) {
    train <- which(fold != k)
    for (model in names(makers)) held[-train, model] <- makers[[model]](columns, y, train, setdiff(seq_len(n), train))
  }
  loss <- (y - held)^2
  means <- rowsum(loss, fold) / tabulate(fold, folds)
  error <- colMeans(loss)
  se <- sqrt(colSums(sweep(means, 2, colMeans(means))^2) / (folds - 1) / folds)
  best <- which.min(error)
  list(error = error, error_se = se, held = held, fold = fold, folds = folds, best = unname(best),
       chosen = unname(which(error <= error[best] + se[best])[1]), n = n)
}

#' Ways to predict, the simplest first: function(columns, y, train, test) giving predictions for the rows of test
#' @noRd
candidate_models <- function(columns, binary) {
  straight <- function(columns, train) stat_model_matrix(columns)$x
  linear <- function(matrix_of) function(columns, y, train, test) {
    x <- matrix_of(columns, train)
    if (binary) held_logistic(x, y, train, test) else held_linear(x, y, train, test)
  }
  bent <- any(vapply(columns, function(v) !is.factor(v) && length(unique(v)) >= 8, NA))
  compact(list(mean = function(columns, y, train, test) rep(mean(y[train]), length(test)), linear = linear(straight),
               ridge = if (!binary && length(columns) > 1) held_ridge, curves = if (bent) linear(curved_matrix), tree = held_tree))
}

held_linear <- function(x, y, train, test) {
  fit <- stat_least_squares(x[train, , drop = FALSE], y[train])
  beta <- ifelse(is.na(fit$coefficients), 0, fit$coefficients)
  drop(x[test, , drop = FALSE] %*% beta)
}

held_logistic <- function(x, y, train, test) {
  if (length(unique(y[train])) < 2) return(rep(y[train][1], length(test)))
  # few steps: where the rows of train are told apart perfectly, more would only run the chances further to 0 and 1
  fit <- stat_generalised(x[train, , drop = FALSE], y[train], "binomial", most = 8L)
  beta <- ifelse(is.na(fit$coefficients), 0, fit$coefficients)
  stats::plogis(pmax(pmin(drop(x[test, , drop = FALSE] %*% beta), 30), -30))
}

#' Numeric predictors of eight values and more as natural splines of four degrees of freedom, knots from the rows of train
#' @noRd
curved_matrix <- function(columns, train) {
  parts <- lapply(names(columns), function(name) {
    v <- columns[[name]]
    if (is.factor(v) || length(unique(v[train])) < 8) return(indicator_columns(v, name)$x)
    scaled <- (v - mean(v[train])) / stats::sd(v[train])
    basis <- natural_spline(scaled[train], 4L, scaled)
    sweep(basis, 2, sqrt(colSums(basis^2)), "/")
  })
  cbind(1, do.call(cbind, parts))
}

#' Ridge regression on standardised columns, its penalty by generalised cross-validation within the rows of train
#' @section Source: Golub, G. H., Heath, M. and Wahba, G. (1979). Technometrics 21, 215-223.
#' @noRd
held_ridge <- function(columns, y, train, test) {
  x <- stat_model_matrix(columns)$x[, -1, drop = FALSE]
  middle <- colMeans(x[train, , drop = FALSE])
  size <- sqrt(colMeans(sweep(x[train, , drop = FALSE], 2, middle)^2))
  keep <- size > 0
  z <- sweep(sweep(x[, keep, drop = FALSE], 2, middle[keep]), 2, size[keep], "/")
  n <- length(train)
  s <- svd(z[train, , drop = FALSE])
  uy <- drop(crossprod(s$u, y[train] - mean(y[train])))
  rest <- sum((y[train] - mean(y[train]))^2) - sum(uy^2)
  penalty <- n * 10^seq(-4, 2, length.out = 25)
  gcv <- vapply(penalty, function(l) { shrink <- s$d^2 / (s$d^2 + l)
    n * (rest + sum(((1 - shrink) * uy)^2)) / (n - 1 - sum(shrink))^2 }, 1)
  l <- penalty[which.min(gcv)]
  drop(mean(y[train]) + z[test, , drop = FALSE] %*% (s$v %*% (s$d / (s$d^2 + l) * uy)))
}

#' A tree pruned where a split no longer gains a hundredth of the spread
#' @noRd
held_tree <- function(columns, y, train, test) {
  x <- tree_predictors(columns)
  inside <- list(values = lapply(x$values, `[`, train), levels = x$levels)
  centre <- mean(y[train])
  tree <- grow_tree(inside, cbind(y[train] - centre), tree_limits(length(train)))
  path <- pruning_path(tree)
  closed <- path$closed[, max(which(path$penalty <= 0.01 * tree$impurity[1]))]
  centre + tree$means[kernel_place_rows(tree, closed, lapply(x$values, `[`, test), x$levels), 1]
}
