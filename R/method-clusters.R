#' @noRd
method_cluster_kmeans <- function() {
  new_method(
    id = "cluster_kmeans", name = "k-means clusters", tasks = "describe",
    fits = function(shape) fits_structure(shape, "cluster_kmeans", "The question asks for groups of similar rows."),
    compute = compute_clusters,
    checks = function(ctx, res) list(check_independent_rows(ctx$unit_values, ctx$unit_name),
      new_check("apart", if (res$fit$silhouette >= 0.5) "ok" else "caution", "Mean silhouette", list(new_number("silhouette", "mean silhouette",
        res$fit$silhouette)), list(silhouette = res$fit$silhouette))),
    figure = figure_clusters, sentences = say_clusters, script = script_clusters,
    references = c("Lloyd, S. P. (1982). Least squares quantization in PCM. IEEE Transactions on Information Theory, 28, 129-137.",
                   paste0("Rousseeuw, P. J. (1987). Silhouettes: A graphical aid to the interpretation and validation of cluster analysis. ",
                       "Journal of Computational and Applied Mathematics, 20, 53-65.")),
    next_steps = function(ctx, res) sprintf("Principal components of %s", some_of(res$names, 20)))
}

compute_clusters <- function(ctx) {
  x <- structure_matrix(ctx, 1)
  fit <- stat_clusters(x, ctx$reading$extra$pieces, ctx$seed)
  size <- tabulate(fit$cluster, fit$k)
  means <- rowsum(x, fit$cluster) / size
  table <- data.frame(cluster = seq_len(fit$k), n = size, share = size / fit$n, means, check.names = FALSE)
  names(table)[-(1:3)] <- ifelse(colnames(x) %in% c("cluster", "n", "share"), paste(colnames(x), "(column)"), colnames(x))
  result(compact(list(new_number("clusters", "clusters", fit$k), new_number("r_squared", "share of the spread between clusters",
    1 - fit$within / fit$total),
              new_number("silhouette", "mean silhouette", fit$silhouette), new_number("n", "rows used", fit$n))),
         compact(list(new_table("clusters", "Mean of each column by cluster", table),
                      if (!is.null(fit$choice)) new_table("choice", "Mean silhouette by number of clusters",
                        data.frame(clusters = fit$choice$clusters, silhouette = fit$choice$silhouette)))),
         fit = fit, names = colnames(x))
}

#' What sets a cluster apart: its standardised means farthest from the middle
#' @noRd
say_cluster <- function(ctx, res, j) {
  v <- res$fit$centres[j, ]
  far <- utils::head(order(-abs(v)), 3)
  far <- far[abs(v[far]) > 0.3]
  label <- vapply(ctx$columns[res$names[far]], say_column, "")
  sprintf("cluster %d (%s rows)%s", j, say_number(res$tables[[1]]$data$n[j]), if (length(far)) sprintf(": %s", some_of(sprintf("%s %s",
    ifelse(v[far] > 0, "high", "low"), label), 3)) else ": near the middle")
}

say_clusters <- function(ctx, res) {
  n <- res$number
  items <- vapply(seq_len(n$clusters), function(j) say_cluster(ctx, res, j), "")
  apart <- if (n$silhouette >= 0.7) "well apart" else if (n$silhouette >= 0.5) "fairly apart" else if (n$silhouette >= 0.25) "overlapping" else "hardly apart: they divide a cloud rather than find groups"  # nolint: line_length_linter.
  list(headline = sprintf("The rows were divided into %s clusters, %s (mean silhouette %s): %s.", say_number(n$clusters), apart,
    say_unit(n$silhouette), some_of(items, 8)),
       details = c(if (!is.null(res$fit$choice)) sprintf("The number is the one from 2 to %s with the widest mean silhouette.",
         say_number(max(res$fit$choice$clusters))) else "The number of clusters is the one asked for.",
                   "Columns were standardised, so each counts alike. k-means always finds clusters, also where there are none.", say_rows(ctx)),
       write_up = sprintf(paste0("k-means on %s standardised columns (n = %s, best of several seeded beginnings) gave %s clusters explaining ",
           "%s of the spread (mean silhouette %s): %s.%s"),
                          say_number(length(res$names)), say_number(n$n), say_number(n$clusters), say_percent(n$r_squared, 0),
                            say_unit(n$silhouette), paste(items, collapse = "; "), write_rows(ctx)))
}

figure_clusters <- function(ctx, res) {
  k <- res$fit$k
  size <- res$tables[[1]]$data$n
  label <- sprintf("%d (n = %s)", seq_len(k), say_number(size))
  d <- data.frame(column = factor(rep(res$names, each = k), rev(res$names)), cluster = factor(rep(label, length(res$names)), label),
    centre = as.vector(res$fit$centres))
  title <- "Profile of each cluster"
  new_figure("clusters", title, "dot", subtitle = "Mean of each column in standard deviations from the mean of all rows.",
    alt = sprintf("%s: one dot a cluster and column.", title),
    draw = function() ggplot2::ggplot(d, ggplot2::aes(x = .data$centre, y = .data$column, colour = .data$cluster, shape = .data$cluster)) +
      ggplot2::geom_vline(xintercept = 0, colour = quill_soft()) +
      ggplot2::geom_line(ggplot2::aes(group = .data$column), colour = quill_soft()) + ggplot2::geom_point(size = 3.6) +
      ggplot2::scale_colour_manual(values = quill_colours(k), name = "Cluster") + ggplot2::scale_shape_manual(values = rep(c(16, 17, 15, 18, 8, 3,
        4, 7), length.out = k), name = "Cluster") +
      ggplot2::scale_y_discrete(labels = function(x) wrap_level(gsub("_", " ", x), 28)) + ggplot2::labs(x = "Standard deviations from the mean",
        y = NULL),
    script = c(sprintf("plot_data <- data.frame(column = rep(%s, each = k), cluster = factor(rep(seq_len(k), p)), centre = as.vector(centres))",
      as_r_strings(res$names)),
               sprintf(paste0("plot <- ggplot(plot_data, aes(centre, column, colour = cluster)) + geom_point(size = 3) + labs(title = %s) + ",
                   "theme_minimal()"), as_r_string(title))))
}

script_clusters <- function(ctx, res) {
  numbers_of <- function(v) paste0("c(", paste(v, collapse = ", "), ")")
  begins <- if (is.null(res$fit$choice)) list(res$fit$begin) else attr(res$fit$choice, "begin")
  c(script_matrix(ctx), sprintf("colnames(x) <- %s; z <- scale(x)", as_r_strings(names(res$tables[[1]]$data)[-(1:3)])),
    "# beginnings: the best of several drawn by the engine, by row number",
    sprintf("begin <- list(%s)", paste(vapply(begins, numbers_of, ""), collapse = ",\n  ")),
    "fits <- lapply(begin, function(b) kmeans(z, z[b, , drop = FALSE], iter.max = 500, algorithm = \"Lloyd\"))",
    sprintf("sampled <- %s", if (res$fit$n <= 1500) "seq_len(n)" else "unique(round(seq(1, n, length.out = 1500)))"),
    "d <- as.matrix(dist(z[sampled, , drop = FALSE]))",
    paste0("silhouette <- function(g) mean(vapply(seq_along(g), function(i) { m <- tapply(d[i, ], g, sum); k <- table(g); own <- ",
        "as.character(g[i]); if (k[own] == 1) return(0)"),
    "  a <- m[own] / (k[own] - 1); b <- min((m / k)[names(m) != own]); (b - a) / max(a, b) }, 1))",
    "widths <- vapply(fits, function(f) silhouette(f$cluster[sampled]), 1); best <- which.max(widths); f <- fits[[best]]; k <- nrow(f$centers)",
    "by <- order(-tabulate(f$cluster, k)); cluster <- match(f$cluster, by); size <- tabulate(cluster, k); centres <- f$centers[by, , drop = FALSE]",
    "tables <- list(clusters = data.frame(cluster = seq_len(k), n = size, share = size / n, rowsum(x, cluster) / size, check.names = FALSE))",
    if (!is.null(res$fit$choice)) "tables$choice <- data.frame(clusters = vapply(fits, function(f) nrow(f$centers), 1), silhouette = widths)",
    "numbers <- list(clusters = k, r_squared = 1 - f$tot.withinss / f$totss, silhouette = widths[best], n = n)")
}
