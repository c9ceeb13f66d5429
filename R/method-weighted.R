# Shared by the methods for declared sampling weights, clusters and strata.

#' Weights, clusters and strata of the rows used
#' @noRd
sampling_of <- function(ctx) {
  w <- ctx$weight_values
  if (any(w < 0)) stop_data(sprintf("%s holds negative weights.", quoted(ctx$weight_name)), todo = "Correct them, or leave those rows out.",
                            class = "unfit_data")
  if (sum(w) <= 0) stop_data(sprintf("All weights in %s are zero.", quoted(ctx$weight_name)), class = "unfit_data")
  part <- function(name) if (!is.null(name)) as.character(ctx$frame$data[[name]])
  list(w = w, cluster = part(ctx$reading$extra$sampling$cluster), strata = part(ctx$reading$extra$sampling$strata))
}

sampling_numbers <- function(s, out) {
  compact(list(new_number("effective_n", "equally weighted rows that would tell as much", effective_size(s$w)),
               if (!is.null(s$cluster)) new_number("clusters", "clusters", out$clusters),
               if (!is.null(s$strata)) new_number("strata", "strata", out$strata)))
}

sampling_checks <- function(ctx, res) {
  clusters <- res$number$clusters
  compact(list(check_weights(ctx$weight_values), if (!is.null(clusters)) check_cluster_count(clusters)))
}

#' @section Source: Kish, L. (1965). Survey Sampling, sec. 11.7.
#' @noRd
check_weights <- function(w) {
  share <- effective_size(w) / length(w)
  new_check("uneven_weights", if (share >= 0.5) "ok" else "caution", "Effective number of rows (Kish)",
            list(list(id = "effective_share", label = "effective rows, share of all", value = share, of = NULL)),
            list(share = share, ratio = max(w) / min(w[w > 0])))
}

#' How the errors were found, in words
#' @noRd
say_sampling <- function(ctx, res) {
  r <- ctx$reading$extra$sampling
  parts <- c(if (!is.null(r$cluster)) sprintf("clusters of %s", r$cluster), if (!is.null(r$strata)) sprintf("strata of %s", r$strata))
  sprintf("Rows are weighted by %s%s; errors by linearisation, and the %s rows tell as much as %s equally weighted ones.", ctx$weight_name,
          if (length(parts)) sprintf(", in %s", paste(parts, collapse = " and ")) else "", say_number(res$number$n),
          say_number(res$number$effective_n, 0))
}

sampling_references <- function() {
  c("Wolter, K. M. (2007). Introduction to Variance Estimation (2nd ed.). Springer.", "Kish, L. (1965). Survey Sampling. Wiley.")
}

#' Script lines: the weights, and a function for the covariance of weighted totals
#' @noRd
script_sampling <- function(ctx) {
  r <- ctx$reading$extra$sampling
  code <- function(name, none) if (is.null(name)) none else sprintf("as.character(%s)", script_column(name))
  c(sprintf("w <- as.numeric(%s); strata <- %s; cluster <- %s", script_column(ctx$weight_name), code(r$strata, "rep(\"all\", length(w))"),
            code(r$cluster, "seq_along(w)")),
    "# covariance of weighted totals: spread of the clusters' totals within their stratum",
    "total_covariance <- function(z) {",
    "  z <- as.matrix(z); key <- paste(strata, cluster); total <- rowsum(z, key); of <- strata[match(rownames(total), key)]",
    "  v <- Reduce(`+`, lapply(split(seq_along(of), of), function(i) {",
    "    if (length(i) == 1) return(tcrossprod(total[i, ] - colMeans(total)))",
    "    cov(total[i, , drop = FALSE]) * length(i) })); list(v = v, df = length(of) - length(unique(of))) }")
}

sampling_script_numbers <- function(ctx) {
  r <- ctx$reading$extra$sampling
  paste0("effective_n = sum(w)^2 / sum(w^2)", if (!is.null(r$cluster)) ", clusters = length(unique(paste(strata, cluster)))",
         if (!is.null(r$strata)) ", strata = length(unique(strata))")
}
