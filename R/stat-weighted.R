# Estimates that respect sampling weights, clusters and strata, with errors by linearisation.

#' Covariance of weighted totals
#'
#' @param z Matrix, a row for each row of data: its linearised contribution to each estimate.
#' @param cluster,strata Codes, or NULL: every row its own cluster, one stratum.
#' @param absent Strata of the clusters of the sample that have no row in z, one each, or NULL: where the rows are a part of the
#'   sample (a domain), its other clusters count with nothing, since how many fall into the part is chance too.
#' @section Shape: list(covariance (columns of z squared), df = clusters less strata, clusters, strata).
#' @section Lone clusters: a stratum of one cluster is centred at the mean of all clusters.
#' @section Source: Wolter, K. M. (2007). Introduction to Variance Estimation, 2nd ed., ch. 6; with-replacement sampling
#'   of clusters; domains: Cochran, W. G. (1977). Sampling Techniques, 3rd ed., section 2.13.
#' @noRd
stat_total_covariance <- function(z, cluster = NULL, strata = NULL, absent = NULL) {
  n <- nrow(z)
  known <- unique(c(strata, absent))
  absent <- if (is.null(strata)) rep(1L, length(absent)) else match(absent, known)
  strata <- if (is.null(strata)) rep(1L, n) else match(strata, known)
  cluster <- if (is.null(cluster)) seq_len(n) else match(paste(strata, cluster), unique(paste(strata, cluster)))
  total <- rowsum(z, cluster, reorder = FALSE)
  of <- c(strata[match(unique(cluster), cluster)], absent)
  total <- rbind(total, matrix(0, length(absent), ncol(z)))
  size <- tabulate(of)
  centre <- rowsum(total, of, reorder = TRUE)[of, , drop = FALSE] / size[of]
  lone <- size[of] == 1
  if (any(lone)) centre[lone, ] <- rep(colMeans(total), each = sum(lone))
  scale <- ifelse(lone, 1, size[of] / pmax(size[of] - 1, 1))
  df <- length(of) - length(size)
  if (df < 1) stop_data("Errors that respect the design need more clusters than strata.", class = "too_few_groups")
  list(covariance = crossprod((total - centre) * sqrt(scale)), df = df, clusters = length(of), strata = length(size))
}

#' Number of equally weighted rows that would tell as much
#' @section Source: Kish, L. (1965). Survey Sampling, sec. 11.7.
#' @noRd
effective_size <- function(w) sum(w)^2 / sum(w^2)

#' Weighted means of groups
#'
#' @param y Outcome. @param g Group codes 1..k, each with rows. @param w Positive weights. @param cluster,strata As above.
#' @section Shape: list(mean, se, weight (sum), sd, covariance, df, clusters, strata, n), the first four one a group.
#' @noRd
stat_weighted_groups <- function(y, g, w, k = max(g), cluster = NULL, strata = NULL, absent = NULL) {
  weight <- as.vector(rowsum(w, g))
  mean <- as.vector(rowsum(w * y, g)) / weight
  apart <- y - mean[g]
  z <- matrix(0, length(y), k)
  z[cbind(seq_along(y), g)] <- w * apart / weight[g]
  v <- stat_total_covariance(z, cluster, strata, absent)
  sd <- sqrt(as.vector(rowsum(w * apart^2, g)) / weight)
  c(list(mean = mean, se = sqrt(diag(v$covariance)), weight = weight, sd = sd, n = length(y)), v)
}

#' Are several estimates the same?
#' @section Shape: list(statistic = F, df1, df2, p_value).
#' @section Source: Korn, E. L. and Graubard, B. I. (1990). The American Statistician 44, 270-276 (Wald test with adjusted degrees of freedom).
#' @noRd
stat_wald_equal <- function(estimate, covariance, df) {
  k <- length(estimate)
  contrast <- cbind(-1, diag(k - 1))
  d <- contrast %*% estimate
  v <- contrast %*% covariance %*% t(contrast)
  if (qr(v)$rank < k - 1) stop_data("A group does not vary, so the groups cannot be tested.", class = "outcome_constant")
  df2 <- df - k + 2
  if (df2 < 1) stop_data("There are too few clusters to test so many groups.", class = "too_few_groups")
  f <- drop(t(d) %*% solve(v, d)) * df2 / (df * (k - 1))
  list(statistic = f, df1 = k - 1, df2 = df2, p_value = stats::pf(f, k - 1, df2, lower.tail = FALSE))
}

#' Weighted shares of levels within groups
#'
#' @param x Level codes 1..l. @param g Group codes 1..k, each with rows.
#' @section Shape: list(share, se, low, high: matrices l x k; df, clusters, strata), intervals on the logit scale.
#' @noRd
stat_weighted_shares <- function(x, g, w, l = max(x), k = max(g), conf_level = 0.95, cluster = NULL, strata = NULL, absent = NULL) {
  share <- se <- matrix(0, l, k)
  out <- NULL
  for (i in seq_len(l)) {
    out <- stat_weighted_groups(as.numeric(x == i), g, w, k, cluster, strata, absent)
    share[i, ] <- out$mean; se[i, ] <- out$se
  }
  half <- stats::qt(1 - (1 - conf_level) / 2, out$df) * se / (share * (1 - share))
  list(share = share, se = se, low = ifelse(se > 0, stats::plogis(stats::qlogis(share) - half), share),
       high = ifelse(se > 0, stats::plogis(stats::qlogis(share) + half), share), df = out$df, clusters = out$clusters, strata = out$strata)
}

#' Independence of two columns of levels under weights
#'
#' @param x,g Level codes. @param l,k Numbers of levels.
#' @section Shape: list(statistic = F, df1, df2 (fractional), p_value, chi_square (of the weighted shares), design_effect, cramers_v, n).
#' @section Source: Rao, J. N. K. and Scott, A. J. (1984). Annals of Statistics 12, 46-60, second-order correction.
#' @noRd
stat_rao_scott <- function(x, g, w, l, k, cluster = NULL, strata = NULL, absent = NULL) {
  n <- length(x)
  cell <- (g - 1L) * l + x
  filled <- rowsum(w, cell)
  p <- replace(numeric(l * k), as.integer(rownames(filled)), filled[, 1]) / sum(w)
  z <- -tcrossprod(w, p) / sum(w)
  z[cbind(seq_len(n), cell)] <- z[cbind(seq_len(n), cell)] + w / sum(w)
  v <- stat_total_covariance(z, cluster, strata, absent)
  table <- matrix(p, l, k)
  expected <- outer(rowSums(table), colSums(table))
  chi <- n * sum(ifelse(expected > 0, (table - expected)^2 / expected, 0))
  # contrasts of the cells that are free of rows and columns
  row <- factor(rep(seq_len(l), k)); column <- factor(rep(seq_len(k), each = l))
  indicator <- function(f) outer(as.integer(f), seq_len(nlevels(f))[-1], "==") + 0
  a <- indicator(row); b <- indicator(column)
  both <- a[, rep(seq_len(l - 1), k - 1), drop = FALSE] * b[, rep(seq_len(k - 1), each = l - 1), drop = FALSE]
  free <- qr.resid(qr(cbind(1, a, b)), both)
  inverse <- ifelse(p > 0, 1 / p, 0)
  delta <- solve(crossprod(free, inverse * free) / n, crossprod(free * inverse, v$covariance %*% (inverse * free)))
  trace <- sum(diag(delta))
  df1 <- trace^2 / sum(diag(delta %*% delta))
  f <- chi / trace
  list(statistic = f, df1 = df1, df2 = df1 * v$df, p_value = stats::pf(f, df1, df1 * v$df, lower.tail = FALSE), chi_square = chi,
       design_effect = trace / ((l - 1) * (k - 1)), cramers_v = sqrt(chi / n / (min(l, k) - 1)), n = n)
}

#' Regression under weights: least squares or logistic, errors by linearisation
#'
#' @param x Model matrix, intercept first. @param y Outcome, 0 and 1 for "binomial". @param family "gaussian" or "binomial".
#' @section Shape: list(coefficients, se, covariance, df (clusters less strata less predictors), fitted, r_squared (gaussian), n, clusters, strata).
#' @section Source: Binder, D. A. (1983). International Statistical Review 51, 279-292.
#' @noRd
stat_weighted_model <- function(x, y, w, family = "gaussian", cluster = NULL, strata = NULL, absent = NULL) {
  w <- w / mean(w)
  fit <- if (family == "gaussian") stat_least_squares(x, y, w) else weighted_logistic(x, y, w)
  if (length(fit$aliased)) stop_data("The predictors repeat each other, so their effects cannot be told apart.", class = "collinear")
  v <- stat_total_covariance(x * (w * (y - fit$fitted)), cluster, strata, absent)
  df <- v$df - (ncol(x) - 1)
  if (df < 1) stop_data("There are too few clusters for so many coefficients.", class = "too_few_groups")
  spread <- if (family == "gaussian") w else w * fit$fitted * (1 - fit$fitted)
  bread <- solve(crossprod(x, spread * x))
  covariance <- bread %*% v$covariance %*% bread
  list(coefficients = unname(fit$coefficients), se = sqrt(diag(covariance)), covariance = covariance, df = df, fitted = fit$fitted,
       r_squared = fit$r_squared, n = length(y), clusters = v$clusters, strata = v$strata)
}

weighted_logistic <- function(x, y, w) {
  beta <- numeric(ncol(x))
  for (round in 1:50) {
    mu <- stats::plogis(drop(x %*% beta))
    spread <- pmax(w * mu * (1 - mu), 1e-12)
    step <- stat_least_squares(x, (y - mu) / pmax(mu * (1 - mu), 1e-12), spread)
    if (length(step$aliased)) return(step)
    beta <- beta + step$coefficients
    if (max(abs(step$coefficients)) < 1e-12 * max(1, abs(beta))) break
    if (max(abs(beta)) > 500) stop_data("The predictors tell the outcome apart perfectly, so odds ratios run off to infinity.", class = "separation")
  }
  list(coefficients = beta, fitted = stats::plogis(drop(x %*% beta)), aliased = integer())
}

#' Pearson correlation under weights
#'
#' @param x,y Numbers.
#' @section Shape: list(estimate, se, statistic, df, p_value, ci_low, ci_high (Fisher's z), n, clusters, strata).
#' @section Source: linearisation of the ratio of weighted moments: Deville, J.-C. (1999). Survey Methodology 25, 193-203.
#' @noRd
stat_weighted_correlation <- function(x, y, w, conf_level = 0.95, cluster = NULL, strata = NULL, absent = NULL) {
  w <- w / sum(w)
  scaled <- function(v) {
    v <- v - sum(w * v)
    spread <- sum(w * v^2)
    need_spread(spread)
    v / sqrt(spread)
  }
  zx <- scaled(x); zy <- scaled(y)
  r <- sum(w * zx * zy)
  v <- stat_total_covariance(matrix(w * (zx * zy - r / 2 * (zx^2 + zy^2))), cluster, strata, absent)
  se <- sqrt(v$covariance[1, 1])
  out <- t_result(r, se, v$df, length(x), conf_level, "two_sided")
  half <- stats::qt(1 - (1 - conf_level) / 2, v$df) * se / (1 - r^2)
  out$ci_low <- tanh(atanh(r) - half); out$ci_high <- tanh(atanh(r) + half)
  c(out, list(clusters = v$clusters, strata = v$strata))
}

#' Weighted means, medians and totals of groups, with errors of one of them
#'
#' @param y Numbers. @param g Group codes 1..k, each with rows. @param w Weights, none negative.
#' @param of What the errors are of: "mean", "total" or "median".
#' @section Shape: list(weight, mean, median, total, se, ci_low, ci_high: one a group; df, clusters, strata). The interval of
#'   a median turns round the one of the share at or below it; its se is the interval's width over twice the t quantile.
#' @section Source: Woodruff, R. S. (1952). JASA 47, 635-646; Wolter, K. M. (2007), ch. 6.
#' @noRd
stat_weighted_summary <- function(y, g, w, of = "mean", conf_level = 0.95, cluster = NULL, strata = NULL, absent = NULL) {
  k <- max(g)
  weight <- as.vector(rowsum(w, g)); mean <- as.vector(rowsum(w * y, g)) / weight
  median <- vapply(seq_len(k), function(i) stat_weighted_quantile(y[g == i], w[g == i], 0.5), 1)
  part <- switch(of, mean = w * (y - mean[g]) / weight[g], total = w * y, median = w * (y <= median[g]) / weight[g])
  below <- if (of == "median") as.vector(rowsum(part, g))
  if (of == "median") part <- part - w * below[g] / weight[g]
  z <- matrix(0, length(y), k)
  z[cbind(seq_along(y), g)] <- part
  v <- stat_total_covariance(z, cluster, strata, absent)
  se <- sqrt(diag(v$covariance))
  half <- stats::qt(1 - (1 - conf_level) / 2, v$df) * se
  centre <- if (of == "total") mean * weight else mean
  limits <- if (of == "median") turned_limits(y, g, w, below, half) else cbind(centre - half, centre + half)
  if (of == "median") se <- (limits[, 2] - limits[, 1]) * se / (2 * half)
  list(weight = weight, mean = mean, median = median, total = mean * weight, se = se, ci_low = limits[, 1], ci_high = limits[, 2], df = v$df,
       clusters = v$clusters, strata = v$strata)
}

#' Limits of medians from limits of the shares at or below them
#' @noRd
turned_limits <- function(y, g, w, below, half) {
  limit <- function(side) vapply(seq_along(below), function(i) {
    p <- below[i] + side * half[i]
    if (p <= 0 || p >= 1) NA_real_ else stat_weighted_quantile(y[g == i], w[g == i], p)
  }, 1)
  cbind(limit(-1), limit(1))
}

#' The value up to which a share p of the weight lies; the middle of two where that is met exactly
#' @noRd
stat_weighted_quantile <- function(y, w, p) {
  at <- order(y)[w[order(y)] > 0]
  share <- cumsum(w[at]) / sum(w)
  k <- which(share >= p - 1e-12)[1]
  if (abs(share[k] - p) < 1e-12 && k < length(at)) (y[at[k]] + y[at[k + 1]]) / 2 else y[at[k]]
}
