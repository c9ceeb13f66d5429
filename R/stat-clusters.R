# Rows that lie together.

#' k-means clusters of standardised columns
#'
#' @param x Numeric matrix, no missing values. @param k Number of clusters; NULL: the number from 2 to 8 with the widest mean silhouette.
#' @param starts Number of seeded beginnings, of which the best is kept.
#' @section Shape: `cluster` (1 the largest), `k`, `centres` (standardised), `within` and `total` sums of squares, `silhouette`, `begin` (row
#'   numbers of the
#'   beginning that was kept), `choice` (data frame k, silhouette, begin; NULL if k was given), `sampled` (rows that the silhouettes rest on), `n`.
#' @section Source: Lloyd, S. P. (1982). IEEE Transactions on Information Theory 28, 129-137; beginnings: Arthur, D. and Vassilvitskii, S. (2007);
#'   silhouettes: Rousseeuw, P. J. (1987). J. Computational and Applied Mathematics 20, 53-65.
#' @noRd
stat_clusters <- function(x, k = NULL, seed = 20240501) {
  n <- nrow(x)
  z <- standardise(x)
  different <- nrow(unique(z))
  most <- min(8L, different - 1L, n %/% 5L)
  if (is.null(k) && most < 2) stop_data("There are too few different rows for clusters.", class = "too_few_rows")
  if (!is.null(k) && (k < 2 || k >= different || k > n / 2)) stop_data(sprintf("%d clusters cannot be formed from %d different rows.", k,
    different), class = "too_few_rows")
  sampled <- spread_rows(n, 1500L)
  choice <- NULL
  if (is.null(k)) {
    fits <- lapply(2:most, function(j) with_recorded_seed(seed + j, best_clusters(z, j)))
    silhouette <- vapply(fits, function(f) mean_silhouette(z[sampled, , drop = FALSE], f$cluster[sampled]), 1)
    choice <- data.frame(clusters = 2:most, silhouette = silhouette)
    fit <- fits[[which.max(silhouette)]]
    attr(choice, "begin") <- lapply(fits, `[[`, "begin")
  } else fit <- with_recorded_seed(seed + k, best_clusters(z, k))
  k <- nrow(fit$centres)
  order <- order(-tabulate(fit$cluster, k), seq_len(k))
  cluster <- match(fit$cluster, order)
  list(cluster = cluster, k = k, centres = fit$centres[order, , drop = FALSE], within = fit$within, total = sum(z^2),
       silhouette = mean_silhouette(z[sampled, , drop = FALSE], cluster[sampled]), begin = fit$begin, choice = choice, sampled = sampled, n = n,
         z = z)
}

standardise <- function(x) {
  centred <- sweep(x, 2, colMeans(x))
  size <- sqrt(colSums(centred^2) / (nrow(x) - 1))
  if (any(!is.finite(size) | size <= 0)) stop_data("One of the columns does not vary in these rows.", class = "outcome_constant")
  sweep(centred, 2, size, "/")
}

#' Rows spread evenly over the data
#' @noRd
spread_rows <- function(n, most) if (n <= most) seq_len(n) else unique(round(seq(1, n, length.out = most)))

best_clusters <- function(z, k) {
  starts <- if (nrow(z) > 20000) 4L else if (nrow(z) > 3000) 10L else 25L
  best <- NULL
  for (s in seq_len(starts)) {
    begin <- spread_begin(z, k)
    fit <- lloyd(z, begin)
    # the first of equals is kept
    if (!is.null(fit) && (is.null(best) || fit$within < best$within * (1 - 1e-9))) best <- c(fit, list(begin = begin))
  }
  if (is.null(best)) stop_data(sprintf("%d clusters cannot be told apart in these rows.", k), class = "too_few_rows")
  best
}

#' Beginnings drawn far from each other
#' @noRd
spread_begin <- function(z, k) {
  begin <- sample.int(nrow(z), 1)
  near <- rowSums(sweep(z, 2, z[begin, ])^2)
  while (length(begin) < k) {
    begin <- c(begin, sample.int(nrow(z), 1, prob = if (sum(near) > 0) near))
    near <- pmin(near, rowSums(sweep(z, 2, z[begin[length(begin)], ])^2))
  }
  begin
}

lloyd <- function(z, begin) {
  centres <- z[begin, , drop = FALSE]
  if (anyDuplicated(centres)) return(NULL)
  cluster <- NULL
  for (i in 1:500) {
    far <- sweep(-2 * z %*% t(centres), 2, rowSums(centres^2), "+")
    new <- max.col(-far, "first")
    if (length(unique(new)) < length(begin)) return(NULL)
    if (identical(new, cluster)) break
    cluster <- new
    centres <- rowsum(z, cluster) / tabulate(cluster, length(begin))
  }
  list(cluster = cluster, centres = unname(centres), within = sum((z - centres[cluster, , drop = FALSE])^2))
}

mean_silhouette <- function(z, cluster) {
  d <- as.matrix(stats::dist(z))
  size <- tabulate(cluster, max(cluster))
  sums <- d %*% outer(cluster, seq_along(size), `==`)
  own <- cbind(seq_along(cluster), cluster)
  a <- sums[own] / pmax(1, size[cluster] - 1)
  means <- sweep(sums, 2, pmax(size, 1), "/")
  means[own] <- Inf
  means[, size == 0] <- Inf
  b <- apply(means, 1, min)
  mean(ifelse(size[cluster] == 1, 0, (b - a) / pmax(a, b)))
}
