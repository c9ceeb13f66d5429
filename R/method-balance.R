#' @noRd
method_baseline_table <- function() {
  new_method(
    id = "baseline_table", name = "Characteristics by group", tasks = "describe",
    fits = function(shape) if (isTRUE(shape$baseline)) new_fit(98,
      paste0("The question asks who is in the groups, so each column is described in each group; a test of baseline differences would test the ",
          "randomisation, not the groups.")),
    compute = compute_baseline, checks = function(ctx, res) list(check_independent_rows(ctx$unit_values, ctx$unit_name)), figure = figure_balance,
      sentences = say_baseline, script = script_baseline,
    references = c(paste0("Austin, P. C. (2009). Balance diagnostics for comparing the distribution of baseline covariates between treatment ",
        "groups in propensity-score matched samples. Statistics in Medicine, 28, 3083-3107."),
                   paste0("Yang, D., & Dalton, J. E. (2012). A unified approach to measuring the effect size between two groups using SAS. SAS ",
                       "Global Forum 2012, paper 335.")),
    next_steps = function(ctx, res) if (length(ctx$reading$by)) sprintf("Does %s differ by %s?", ctx$reading$outcome[1],
      ctx$reading$by[1]) else character())
}

#' Values of a column and their group, for the rows that have the value
#' @noRd
baseline_parts <- function(ctx, name) {
  v <- ctx$frame$data[[name]]
  measured <- ctx$columns[[name]]$kind %in% c("number", "count")
  g <- if (length(ctx$reading$by)) group_of(ctx) else factor(rep("all", length(v)))
  keep <- !is.na(v)
  list(measured = measured, value = if (measured) as.double(v)[keep] else droplevels(as_group(v)[keep]), group = g[keep], groups = levels(g))
}

compute_baseline <- function(ctx) {
  columns <- setdiff(ctx$reading$outcome, ctx$reading$by)
  rows <- lapply(columns, function(name) {
    p <- baseline_parts(ctx, name)
    if (!length(p$value)) return(NULL)
    if (p$measured) {
      parts <- split(p$value, factor(p$group, p$groups))
      middle <- vapply(parts, function(v) if (length(v)) mean(v) else NA_real_, 1); second <- vapply(parts,
        function(v) if (length(v) > 1) stats::sd(v) else NA_real_, 1)
      return(baseline_rows(name, "mean, sd", rbind(middle), rbind(second), if (length(parts) > 1) largest_difference(parts,
        standardised_difference) else NA_real_, length(p$value)))
    }
    if (nlevels(p$value) > 20) return(NULL)
    counts <- unclass(table(p$value, factor(p$group, p$groups)))
    parts <- lapply(seq_len(ncol(counts)), function(k) counts[, k])
    gap <- if (length(parts) > 1) largest_difference(parts, standardised_shares) else NA_real_
    shares <- 100 * t(t(counts) / pmax(1, colSums(counts)))
    # of two levels one says it all
    keep <- if (nrow(counts) == 2) 2 else seq_len(nrow(counts))
    baseline_rows(name, paste(rownames(counts)[keep], "(%, n)"), shares[keep, , drop = FALSE], counts[keep, , drop = FALSE], gap, length(p$value))
  })
  groups <- baseline_parts(ctx, columns[1])$groups
  table <- do.call(rbind, rows)
  if (is.null(table)) stop_data("No column can be described by group.", class = "no_method")
  size <- if (length(ctx$reading$by)) as.vector(table(factor(group_of(ctx), groups))) else ctx$frame$used
  names(table) <- c("column", "level", as.vector(rbind(groups, paste(groups, "sd or n"))), "difference", "n")
  gaps <- table[!duplicated(table$column) & !is.na(table$difference), ]
  result(compact(list(new_number("n", "rows", ctx$frame$used), new_number("columns", "columns described", length(unique(table$column))),
    new_number("groups", "groups", length(groups)),
                      if (nrow(gaps)) new_number("largest_difference", "largest standardised difference", max(gaps$difference)))),
         list(new_table("baseline", if (length(ctx$reading$by)) sprintf("Characteristics by %s", ctx$reading$by[1]) else "Characteristics", table),
              new_table("sizes", "Rows in each group", data.frame(group = groups, n = size, stringsAsFactors = FALSE))),
         gaps = gaps, columns = columns, groups = groups, size = size)
}

#' Rows of one column: its values by group side by side, the difference on the first
#' @noRd
baseline_rows <- function(name, label, first, second, gap, n) {
  k <- ncol(first)
  both <- matrix(NA_real_, nrow(first), 2 * k)
  both[, 2 * seq_len(k) - 1] <- first; both[, 2 * seq_len(k)] <- second
  data.frame(column = name, level = label, both, difference = gap, n = n, stringsAsFactors = FALSE, row.names = NULL)
}

say_baseline <- function(ctx, res) {
  sizes <- some_of(sprintf("%s (%s)", res$groups, count_of(res$size, "row")), 8)
  if (!length(ctx$reading$by)) return(list(headline = sprintf("%s described on %s.", count_of(res$number$columns, "column"), count_of(res$number$n,
    "row")), details = say_rows(ctx), write_up = sprintf("Characteristics of the %s are given in the table.", count_of(res$number$n, "row"))))
  g <- res$gaps[order(-res$gaps$difference), ]
  wide <- g[g$difference > 0.1, ]
  label <- function(t) sprintf("%s (%s)", vapply(ctx$columns[t$column], say_column, ""), say_unit(t$difference))
  head <- if (!nrow(g)) "No difference can be standardised." else if (!nrow(wide)) sprintf(paste0("The groups of %s are alike in all %s ",
      "columns: no standardised difference exceeds 0.1."), say_column(ctx$columns[[ctx$reading$by[1]]]), say_number(nrow(g)))
    else sprintf("The groups of %s differ by more than 0.1 standard deviations in %s of %s columns: %s.",
      say_column(ctx$columns[[ctx$reading$by[1]]]), say_number(nrow(wide)), say_number(nrow(g)), some_of(label(wide), 5))
  list(headline = head,
       details = c(sprintf("Groups: %s.", sizes),
         paste0("Differences are the largest between any two groups, in standard deviations, without their sign; no p values, since they would ",
             "test the allocation and not the groups."),
                   if (min(res$size) < 100 && nrow(wide)) sprintf("With groups of this size differences of up to about %s arise by chance.",
                     say_unit(1.96 * sqrt(2 / min(res$size)))), say_rows(ctx)),
       write_up = sprintf("Characteristics by %s (%s) are shown as mean and standard deviation or percent and number; %s%s",
         say_column(ctx$columns[[ctx$reading$by[1]]]), sizes,
                          if (nrow(wide)) sprintf("standardised differences exceeded 0.1 for %s.", some_of(label(wide),
                            8)) else "no standardised difference exceeded 0.1.", write_rows(ctx)))
}

figure_balance <- function(ctx, res) {
  g <- res$gaps
  if (!length(ctx$reading$by) || nrow(g) < 2) return(NULL)
  g <- utils::head(g[order(-g$difference), ], 30)
  d <- data.frame(column = factor(g$column, rev(g$column)), difference = g$difference)
  title <- sprintf("How far the groups of %s are apart", say_column(ctx$columns[[ctx$reading$by[1]]]))
  new_figure("balance", title, "dot", subtitle = "Largest standardised difference of each column; the dashes mark 0.1.",
    alt = sprintf("%s: one dot a column.", title),
    draw = function() ggplot2::ggplot(d, ggplot2::aes(x = .data$difference, y = .data$column)) + ggplot2::geom_vline(xintercept = 0.1,
      colour = quill_soft(), linetype = "22") +
      ggplot2::geom_segment(ggplot2::aes(x = 0, xend = .data$difference, yend = .data$column), colour = quill_soft()) +
        ggplot2::geom_point(colour = quill_colours(1), size = 3.2) +
      ggplot2::scale_y_discrete(labels = function(x) wrap_level(gsub("_", " ", x), 28)) + ggplot2::expand_limits(x = 0) +
        ggplot2::labs(x = "Standardised difference", y = NULL),
    script = c(sprintf("plot_data <- data.frame(column = %s, difference = %s)", as_r_strings(g$column), paste0("c(",
      paste(as_r_number(g$difference), collapse = ", "), ")")),
               sprintf(paste0("plot <- ggplot(plot_data, aes(difference, reorder(column, difference))) + geom_point() + geom_vline(xintercept ",
                   "= 0.1, linetype = 2) + labs(title = %s, y = NULL) + theme_minimal()"), as_r_string(title))))
}

script_baseline <- function(ctx, res) {
  by <- ctx$reading$by
  kinds <- vapply(res$columns, function(n) ctx$columns[[n]]$kind %in% c("number", "count"), NA)
  c(sprintf("g <- %s", if (!length(by)) "factor(rep(\"all\", nrow(rows)))" else script_group(by)),
    paste0("gap_of <- function(parts, f) { if (length(parts) < 2) return(NA); v <- abs(combn(length(parts), 2, function(k) f(parts[[k[1]]], ",
        "parts[[k[2]]]))); if (all(is.na(v))) NA else max(v, na.rm = TRUE) }"),
    paste0("of_means <- function(x, y) { if (min(length(x), length(y)) < 2) return(NA); s <- sqrt((var(x) + var(y)) / 2); if (s > 0) (mean(x) ",
        "- mean(y)) / s else if (mean(x) == mean(y)) 0 else NA }"),
    paste0("of_shares <- function(a, b) { if (min(sum(a), sum(b)) < 1) return(NA); p <- (a / sum(a))[-1]; q <- (b / sum(b))[-1]; k <- p + q > ",
        "0; p <- p[k]; q <- q[k]; if (!length(p) || all(abs(p - q) < 1e-15)) return(0)"),
    paste0("  s <- (diag(p, length(p)) - p %o% p + diag(q, length(q)) - q %o% q) / 2; tryCatch(sqrt(drop((p - q) %*% solve(s, p - q))), error ",
        "= function(e) NA) }"),
    paste0("side_by_side <- function(a, b, gap, n) { m <- matrix(NA, nrow(a), 2 * ncol(a)); m[, 2 * seq_len(ncol(a)) - 1] <- a; m[, 2 * ",
        "seq_len(ncol(a))] <- b; cbind(m, gap, n) }"),
    paste0("measured <- function(v) { k <- !is.na(v); parts <- split(as.numeric(v[k]), g[k]); side_by_side(rbind(sapply(parts, function(x) if ",
        "(length(x)) mean(x) else NA)), rbind(sapply(parts, sd)), gap_of(parts, of_means), sum(k)) }"),
    paste0("levelled <- function(v) { k <- !is.na(v); v <- droplevels(factor(v[k])); if (!length(v) || nlevels(v) > 20) return(NULL); counts ",
        "<- table(v, g[k]); shares <- 100 * prop.table(counts, 2); shares[is.nan(shares)] <- 0"),
    paste0("  gap <- gap_of(lapply(seq_len(ncol(counts)), function(j) counts[, j]), of_shares); pick <- if (nrow(counts) == 2) 2 else ",
        "seq_len(nrow(counts)); side_by_side(shares[pick, , drop = FALSE], counts[pick, , drop = FALSE], gap, sum(k)) }"),
    sprintf("rows_of <- list(%s)", paste(sprintf("%s(%s)", ifelse(kinds, "measured", "levelled"), vapply(res$columns, script_column, "")),
      collapse = ",\n  ")),
    "all <- do.call(rbind, rows_of); rownames(all) <- NULL",
    sprintf("tables <- list(baseline = setNames(as.data.frame(all), %s), sizes = data.frame(n = as.vector(table(g))))",
      as_r_strings(names(res$tables[[1]]$data)[-(1:2)])),
    paste0("gaps <- unlist(lapply(rows_of, function(r) if (!is.null(r)) r[1, \"gap\"])); numbers <- list(n = nrow(rows), columns = ",
        "sum(lengths(rows_of) > 0), groups = nlevels(g))"),
    "if (any(!is.na(gaps))) numbers$largest_difference <- max(gaps, na.rm = TRUE)")
}
