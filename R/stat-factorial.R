# Analysis of variance with several crossed factors.

#' Columns of each term of crossed factors, with contrasts that sum to zero
#' @section Shape: list(sets (which factors are in each term), columns (a matrix for each term)).
#' @noRd
crossed_blocks <- function(factors) {
  k <- length(factors)
  sets <- unlist(lapply(seq_len(k), function(size) utils::combn(k, size, simplify = FALSE)), recursive = FALSE)
  product <- function(a, b) a[, rep(seq_len(ncol(a)), ncol(b)), drop = FALSE] * b[, rep(seq_len(ncol(b)), each = ncol(a)), drop = FALSE]
  columns <- lapply(sets, function(s) Reduce(product, lapply(factors[s], function(f) stats::contr.sum(nlevels(f))[as.integer(f), , drop = FALSE])))
  list(sets = sets, columns = columns)
}

#' Type II or III sums of squares of crossed factors
#'
#' Type II: the sum of squares of a term is what it takes away from the residual sum of squares of all terms that do not contain it. Type III:
#' what it takes away from that of all other terms, with contrasts that sum to zero.
#' @param y Doubles. @param factors Named list of factors. @param type 2 or 3.
#' @section Shape: data frame: term, df, sum_sq, mean_sq, statistic, p_value, partial_eta_squared, residuals in the
#'   last row.
#' @section Source: Yates, F. (1934). JASA 29, 51-66; Langsrud, O. (2003). Statistics and Computing 13, 163-167.
#' @noRd
stat_anova_factorial <- function(y, factors, type = 2L) {
  crossed <- crossed_blocks(factors)
  sets <- crossed$sets; blocks <- crossed$columns
  fit <- function(which) {
    out <- stat_least_squares(cbind(1, do.call(cbind, blocks[which])), y)
    c(rss = out$rss, rank = length(out$kept))
  }
  full <- fit(seq_along(sets))
  df <- length(y) - full[["rank"]]
  if (full[["rss"]] <= 0) stop_data("Nothing is left over for error.", class = "outcome_constant")
  contains <- function(a, b) all(b %in% a)
  rows <- lapply(seq_along(sets), function(i) {
    others <- if (type == 3L) setdiff(seq_along(sets), i) else which(!vapply(sets, contains, NA, b = sets[[i]]))
    without <- if (length(others)) fit(others) else c(rss = sum((y - mean(y))^2), rank = 1)
    with <- fit(c(others, i))
    d <- with[["rank"]] - without[["rank"]]
    ss <- without[["rss"]] - with[["rss"]]
    f <- (ss / d) / (full[["rss"]] / df)
    data.frame(term = paste(names(factors)[sets[[i]]], collapse = " x "), df = d, sum_sq = ss, mean_sq = ss / d,
               statistic = f,
               p_value = stats::pf(f, d, df, lower.tail = FALSE), partial_eta_squared = ss / (ss + full[["rss"]]),
               stringsAsFactors = FALSE)
  })
  rows[[length(rows) + 1L]] <- data.frame(term = "residuals", df = df, sum_sq = full[["rss"]],
                                          mean_sq = full[["rss"]] / df, statistic = NA_real_, p_value = NA_real_,
                                          partial_eta_squared = NA_real_, stringsAsFactors = FALSE)
  do.call(rbind, rows)
}

#' Marginal means of crossed factors: cell means averaged with equal weight over the other factors
#'
#' @section Shape: data frame: term, level, mean, se (one spread for all cells), ci_low, ci_high; NULL when a cell is empty.
#' @section Source: Searle, S. R., Speed, F. M. and Milliken, G. A. (1980). The American Statistician 34, 216-221.
#' @noRd
stat_marginal_means <- function(y, factors, conf_level = 0.95) {
  sizes <- vapply(factors, nlevels, 1L)
  code <- Reduce(function(a, k) a + (as.integer(factors[[k]]) - 1L) * prod(sizes[seq_len(k - 1)]), seq_along(factors), accumulate = FALSE, 1L)
  m <- stat_group_moments(y, as.integer(code), as.integer(prod(sizes)))
  df <- length(y) - nrow(m)
  if (any(m[, "n"] < 1) || df < 1) return(NULL)
  spread <- sum(m[, "m2"]) / df
  means <- array(m[, "mean"], sizes); parts <- array(1 / m[, "n"], sizes)
  half <- stats::qt(1 - (1 - conf_level) / 2, df)
  rows <- lapply(seq_along(factors), function(k) {
    mean <- apply(means, k, mean)
    se <- sqrt(spread * apply(parts, k, sum)) / (prod(sizes) / sizes[k])
    data.frame(term = names(factors)[k], level = levels(factors[[k]]), mean = as.vector(mean), se = as.vector(se),
      ci_low = as.vector(mean - half * se),
               ci_high = as.vector(mean + half * se), stringsAsFactors = FALSE)
  })
  do.call(rbind, rows)
}

#' Wald tests of crossed factors with errors that hold where the spread differs between the cells
#'
#' @param y Doubles. @param factors Named list of factors; every cell holds two rows or more.
#' @section Shape: data frame term, df, statistic (F), p_value, in the order of the terms (the highest interaction last); attribute df (residual).
#' @section Source: MacKinnon, J. G. and White, H. (1985). Journal of Econometrics 29, 305-325 (HC3); terms as of type III, contrasts that
#'   sum to zero.
#' @noRd
stat_factorial_robust <- function(y, factors) {
  blocks <- crossed_blocks(factors)
  x <- cbind(1, do.call(cbind, blocks$columns))
  fit <- stat_least_squares(x, y)
  if (length(fit$aliased)) stop_data("Some combinations of levels hold no rows, so their effects cannot be told apart.", class = "too_few_rows")
  # a cell of one row fits itself and leaves no spread to tell its error by
  if (any(fit$leverage > 1 - 1e-9)) stop_data("Some combinations of levels hold a single row.", class = "too_few_rows")
  v <- stat_hc3(x, fit); b <- fit$coefficients; df <- length(y) - ncol(x)
  source <- c(0, rep(seq_along(blocks$columns), vapply(blocks$columns, ncol, 1L)))
  out <- do.call(rbind, lapply(seq_along(blocks$columns), function(i) {
    at <- which(source == i)
    f <- drop(b[at] %*% solve(v[at, at, drop = FALSE], b[at])) / length(at)
    data.frame(term = paste(names(factors)[blocks$sets[[i]]], collapse = " x "), df = length(at), statistic = f,
               p_value = stats::pf(f, length(at), df, lower.tail = FALSE), stringsAsFactors = FALSE)
  }))
  attr(out, "df") <- df
  out
}
