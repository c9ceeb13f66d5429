# Shared by the methods for declared sampling weights, clusters and strata.

#' Weights, clusters and strata of the rows used
#' @noRd
sampling_of <- function(ctx) {
  w <- ctx$weight_values
  if (any(w < 0)) stop_data(sprintf("%s holds negative weights.", quoted(ctx$weight_name)), todo = "Correct them, or leave those rows out.",
                            class = "unfit_data")
  if (sum(w) <= 0) stop_data(sprintf("All weights in %s are zero.", quoted(ctx$weight_name)), class = "unfit_data")
  part <- function(name, frame = ctx$frame) if (!is.null(name)) as.character(frame$data[[name]])
  design <- ctx$reading$extra$sampling
  list(w = w, cluster = part(design$cluster), strata = part(design$strata), absent = absent_clusters(ctx, part))
}

#' Strata of the clusters without a row in play, one each: of all rows with a weight and their place in the design
#' @noRd
absent_clusters <- function(ctx, part) {
  if (ctx$frame$used == ctx$frame$total) return(NULL)
  design <- ctx$reading$extra$sampling
  all <- ctx$whole_frame(c(ctx$weight_name, design$cluster, design$strata))
  if (all$table != ctx$frame$table) return(NULL)
  key <- function(frame) paste(part(design$strata, frame) %||% "", if (is.null(design$cluster)) frame$rows else part(design$cluster, frame))
  without <- !duplicated(key(all)) & !key(all) %in% key(ctx$frame)
  (part(design$strata, all) %||% rep("all", length(all$rows)))[without]
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
  sprintf("Rows are weighted by %s%s; errors by linearisation, and the %s rows tell as much as %s equally weighted ones.%s", ctx$weight_name,
          if (length(parts)) sprintf(", in %s", paste(parts, collapse = " and ")) else "", say_number(res$number$n),
          say_number(res$number$effective_n, 0),
          if (ctx$frame$used < ctx$frame$total) " The rows in play are a part of the sample, which the errors allow for." else "")
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
    "# clusters of the sample without a row in play count with nothing (the rows are a domain)",
    sprintf("every <- data[complete.cases(data[%s]), , drop = FALSE]", as_r_strings(c(ctx$weight_name, r$cluster, r$strata))),
    sprintf("all_strata <- %s", if (is.null(r$strata)) "rep(\"all\", nrow(every))"
            else sprintf("as.character(%s)", script_column(r$strata, "every"))),
    if (is.null(r$cluster)) paste0("absent_of <- function(strata, cluster) { counts <- table(all_strata); ",
                                   "rep(names(counts), counts - table(factor(strata, names(counts)))) }")
    else sprintf(paste0("all_keys <- paste(all_strata, %s); absent_of <- function(strata, cluster) all_strata[!duplicated(all_keys) & ",
                        "!all_keys %%in%% paste(strata, cluster)]"), script_column(r$cluster, "every")),
    "absent <- absent_of(strata, cluster)",
    "# covariance of weighted totals: spread of the clusters' totals within their stratum",
    "total_covariance <- function(z) {",
    "  z <- as.matrix(z); key <- paste(strata, cluster); total <- rowsum(z, key); of <- c(strata[match(rownames(total), key)], absent)",
    "  total <- rbind(total, matrix(0, length(absent), ncol(z)))",
    "  v <- Reduce(`+`, lapply(split(seq_along(of), of), function(i) {",
    "    if (length(i) == 1) return(tcrossprod(total[i, ] - colMeans(total)))",
    "    cov(total[i, , drop = FALSE]) * length(i) })); list(v = v, df = length(of) - length(unique(of))) }")
}

sampling_script_numbers <- function(ctx) {
  r <- ctx$reading$extra$sampling
  paste0("effective_n = sum(w)^2 / sum(w^2)", if (!is.null(r$cluster)) ", clusters = length(unique(paste(strata, cluster))) + length(absent)",
         if (!is.null(r$strata)) ", strata = length(unique(c(strata, absent)))")
}
