# Findings about several columns, groups of rows, and several tables.

#' Columns that are missing in the same rows
#' @noRd
missing_pattern_findings <- function(table, columns) {
  n <- nrow(table$data)
  gaps <- Filter(function(col) col$missing >= 3 && col$missing < n && !isTRUE(col$derived), columns)
  if (length(gaps) < 2) return(NULL)
  gaps <- utils::head(gaps, 300)
  rows <- lapply(gaps, function(col) missing_rows(table, col))
  key <- vapply(rows, function(r) paste(length(r), sum(as.numeric(r)), sum(as.numeric(r)^2)), "")
  together <- Filter(function(i) length(i) > 1, split(seq_along(gaps), key))
  lapply(unname(together), function(i) {
    names <- vapply(gaps[i], `[[`, "", "name")
    new_finding("note", table, names[[1]], rows[[i[1]]], sprintf("%s are missing together in %s.", some_of(unname(names), 5),
                                                                 count_of(length(rows[[i[1]]]), "row")))
  })
}

missing_rows <- function(table, col) {
  raw <- table$data[[col$name]]
  if (length(col$missing_codes)) which(is.na(raw) | raw %in% col$missing_codes) else rows_without(raw)
}

#' Columns of groups worth looking into: few levels, all of some size
#' @noRd
dividing_columns <- function(columns, most = 6) {
  utils::head(Filter(function(col) col$kind %in% c("category", "yes_no") && length(col$levels) >= 2 && length(col$levels) <= 12, columns), most)
}

#' Missing values that gather in one group: Pearson's chi-square beyond its 0.1 % point, and 20 points between the shares
#' @noRd
missing_by_group_findings <- function(table, columns) {
  n <- nrow(table$data)
  if (n > 2e6) return(NULL)
  gaps <- utils::head(Filter(function(col) col$missing >= 10 && col$missing <= n - 10 && !isTRUE(col$derived), columns), 40)
  groups <- if (length(gaps)) dividing_columns(columns)
  sizes <- lapply(groups, function(by) level_counts(table$data[[by$name]], by))
  out <- list()
  for (col in gaps) {
    rows <- missing_rows(table, col)
    for (i in seq_along(groups)) {
      by <- groups[[i]]; counts <- sizes[[i]]
      if (by$name == col$name) next
      g <- understand(table$data[[by$name]][rows], by)
      lost <- tabulate(g, nlevels(g))
      ok <- counts >= 10
      if (sum(ok) < 2) next
      share <- lost[ok] / counts[ok]; overall <- sum(lost[ok]) / sum(counts[ok])
      chi <- sum((lost[ok] - counts[ok] * overall)^2 / (counts[ok] * overall * (1 - overall)))
      if (!is.finite(chi) || max(share) - min(share) < 0.2 || stats::pchisq(chi, sum(ok) - 1, lower.tail = FALSE) > 0.001) next
      worst <- which.max(share)
      out[[length(out) + 1L]] <- new_finding("look", table, col$name, rows[which(g == levels(g)[ok][worst])],
        sprintf("%s: missing in %d %% of the rows where %s is %s, against %d %% at the least.", col$name, round(100 * share[worst]), by$name,
                quoted(levels(g)[ok][worst]), round(100 * min(share))))
      break
    }
  }
  out
}

#' Columns that are copies of others, or their sums; and totals that do not add up
#' @noRd
sum_findings <- function(table, columns) {
  numeric <- utils::head(Filter(function(col) is_numeric_kind(col$kind) && col$distinct > 5 && !isTRUE(col$derived), columns), 24)
  if (length(numeric) < 2 || nrow(table$data) < 8) return(NULL)
  # a few hundred rows decide which sums are tried on all of them
  some <- unique(round(seq(1, nrow(table$data), length.out = min(200, nrow(table$data)))))
  names <- vapply(numeric, `[[`, "", "name")
  x <- function(k) understand(table$data[[names[k]]], numeric[[k]])
  part <- vapply(numeric, function(col) understand(table$data[[col$name]][some], col), numeric(length(some)))
  part <- matrix(part, ncol = length(names), dimnames = list(NULL, names))
  c(copy_findings(table, x, part), total_findings(table, x, part))
}

#' @param x Function that gives the k-th column in full. @param part Some rows of each.
#' @noRd
copy_findings <- function(table, x, part) {
  out <- list()
  names <- colnames(part)
  for (j in seq_along(names)[-1]) for (i in seq_len(j - 1)) {
    same <- share_equal(part[, i], part[, j])
    if (is.na(same) || same < 0.95) next
    off <- which(!nearly(x(i), x(j)))
    if (length(off) > 0.05 * nrow(table$data)) next
    out[[length(out) + 1L]] <- new_finding("look", table, names[j], off, sprintf("%s: the same as %s%s.", names[j], names[i],
        if (length(off)) sprintf(" but for %s", count_of(length(off), "row")) else " in every row"), sprintf("leave out the column %s", names[j]))
    break
  }
  out
}

nearly <- function(a, b) is.na(a) | is.na(b) | abs(a - b) <= 1e-9 * pmax(1, abs(a), abs(b))

share_equal <- function(a, b) {
  both <- !is.na(a) & !is.na(b)
  if (sum(both) < 5) return(NA)
  mean(nearly(a[both], b[both]))
}

#' Sums of two columns anywhere; sums of any number where a name says that it is a total
#' @noRd
total_findings <- function(table, x, part) {
  out <- list()
  names <- colnames(part)
  for (k in seq_along(names)) {
    others <- setdiff(seq_along(names), k)
    found <- named_total(names, part, k) %||% sum_of_two(part, k, others)
    if (is.null(found)) next
    total <- Reduce(`+`, lapply(found, x))
    off <- which(!nearly(total, x(k)))
    if (length(off) > 0.1 * length(total)) next
    text <- paste(names[found], collapse = " + ")
    out[[length(out) + 1L]] <- if (length(off)) new_finding("act", table, names[k], off, sprintf("%s: equals %s except in %s.", names[k], text,
                                                                                                    count_of(length(off), "row")))
      else new_finding("note", table, names[k], integer(), sprintf("%s: the sum of %s in every row.", names[k], text), count = length(total))
  }
  # one sum is one finding: a = b + c is not told again as a difference
  utils::head(out, 5)
}

sum_of_two <- function(part, k, others) {
  if (length(others) < 2) return(NULL)
  for (a in others) for (b in others[others > a]) {
    same <- share_equal(part[, a] + part[, b], part[, k])
    if (!is.na(same) && same >= 0.9 && stats::sd(part[, a], na.rm = TRUE) > 0 && stats::sd(part[, b], na.rm = TRUE) > 0) return(c(a, b))
  }
  NULL
}

named_total <- function(names, part, k) {
  if (!grepl("total|sum|overall|score", tolower(names[k]))) return(NULL)
  stem <- sub("[_. ]?(total|sum|overall|score)[_. ]?", "", tolower(names[k]))
  sets <- list(setdiff(which(startsWith(tolower(names), stem) & nzchar(stem)), k), if (k > 2) seq_len(k - 1), setdiff(seq_along(names), k))
  for (set in sets) {
    if (length(set) < 3) next
    same <- share_equal(rowSums(part[, set, drop = FALSE]), part[, k])
    if (!is.na(same) && same >= 0.9) return(set)
  }
  NULL
}

#' Values that are usual overall but far out within their own group
#' @noRd
group_outlier_findings <- function(table, columns) {
  if (nrow(table$data) > 200000) return(NULL)
  numeric <- utils::head(Filter(function(col) is_numeric_kind(col$kind) && col$distinct >= 10 && is.null(col$role), columns), 20)
  groups <- dividing_columns(columns, 3)
  out <- list()
  for (col in numeric) {
    x <- understand(table$data[[col$name]], col)
    q <- stat_group_quantiles(x)
    inside <- x >= q[1] - 3 * (q[3] - q[1]) & x <= q[3] + 3 * (q[3] - q[1])
    for (by in groups) {
      g <- understand(table$data[[by$name]], by)
      far <- which(far_in_group(x, g) & inside)
      # a group whose values spread widely has no slips
      if (!length(far) || length(far) > 3) next
      out[[length(out) + 1L]] <- new_finding("note", table, col$name, far, sprintf("%s: %s far from the others where %s is %s (%s).", col$name,
        paste(count_of(length(far), "value"), plural(length(far), "lies", "lie")), by$name, some_of(quoted(unique(as.character(g[far])))),
        paste(say_value(x[far]), collapse = ", ")))
      break
    }
  }
  out
}

far_in_group <- function(x, g) {
  out <- rep(FALSE, length(x))
  for (rows in split(seq_along(x), g)) {
    v <- x[rows]
    if (sum(!is.na(v)) < 12) next
    q <- stat_group_quantiles(v)
    width <- q[3] - q[1]
    if (width > 0) out[rows] <- !is.na(v) & (v < q[1] - 3 * width | v > q[3] + 3 * width)
  }
  out
}

#' Respondents who gave one answer to every item of a scale
#' @noRd
straight_line_findings <- function(table) {
  sets <- Filter(function(set) set$kind == "items" && length(set$columns) >= 5, table$sets)
  compact(lapply(sets, function(set) {
    answers <- vapply(set$columns, function(name) as.numeric(as.integer(understand(table$data[[name]],
        table$columns[[name]]))), numeric(nrow(table$data)))
    first <- answers[, 1]
    same <- which(rowSums(answers != first) == 0)
    if (!length(same)) return(NULL)
    new_finding(if (length(same) > 0.1 * nrow(answers)) "look" else "note", table, NULL, same,
                sprintf("%s the same answer to all %d items of %s.",
                    capital(paste(count_of(length(same), "row"), plural(length(same), "gives", "give"))),
                        length(set$columns), some_of(unname(set$columns), 3)))
  }))
}

# ---- several tables ---------------------------------------------------------------------------------------------------

#' Keys that do not match between tables, and keys that would multiply rows
#' @noRd
join_findings <- function(study) {
  joined <- lapply(study$joins, function(j) {
    if (j$unmatched == 0) return(NULL)
    many <- study$tables[[j$many]]; one <- study$tables[[j$one]]
    left <- as.character(many$data[[j$key]])
    off <- which(!is.na(left) & !left %in% as.character(one$data[[j$one_key]]))
    if (!length(off)) return(NULL)
    new_finding("look", many, j$key, off, sprintf("%s: %s of %s no row in %s (such as %s).", j$key, count_of(length(off), "row"),
      paste(j$many, plural(length(off), "finds", "find")), j$one, some_of(quoted(utils::head(unique(left[off]), 3)))))
  })
  c(compact(joined), lapply(study$many_to_many, function(m) new_finding("look", study$tables[[m$a]], m$key, integer(),
    sprintf("%s: repeats in both %s and %s, so the two are not joined by it (it would multiply the rows to %s).", m$key, m$a, m$b, say_count(m$rows)),
    count = m$rows)))
}
