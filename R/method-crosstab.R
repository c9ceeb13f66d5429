#' @noRd
method_crosstab <- function() {
  new_method(
    id = "crosstab", name = "Cross-table", tasks = "frequency",
    fits = function(shape) if (shape$task == "frequency" && shape$n_outcome + shape$n_by == 2 && all(shape$pair_groups |
        shape$pair_units)) new_fit(88, "Two columns of categories are counted against each other."),
    compute = function(ctx) {
      t <- table_columns(ctx)
      result(list(new_number("n", "rows", sum(t$counts))), tables = list(crosstab_table(t$names, t$counts)),
             names = t$names, counts = t$counts)
    },
    figure = function(ctx, res) figure_shares(ctx, res$names[1], res$names[2], res$counts),
    sentences = function(ctx, res) {
      at <- which(res$counts == max(res$counts), arr.ind = TRUE)[1, ]
      text <- sprintf("%s by %s, %s; the commonest cell is %s with %s (%s).",
                      capital(say_column(ctx$columns[[res$names[1]]])), say_column(ctx$columns[[res$names[2]]]),
                      count_of(sum(res$counts), "row"),
                      rownames(res$counts)[at[1]], colnames(res$counts)[at[2]], say_number(max(res$counts)))
      shares <- say_shares_of(ctx, res)
      list(headline = shares %||% text, details = c(if (!is.null(shares)) text, say_rows(ctx)), write_up = paste(c(shares, text), collapse = " "))
    },
    script = function(ctx, res) c(script_table(ctx, res), "numbers <- list(n = sum(counts))"),
    next_steps = function(ctx, res) sprintf("Is %s related to %s?", res$names[1], res$names[2]))
}

#' How often a yes/no column is yes at each level of the other; NULL where neither is one, or the other has many levels
#' @noRd
say_shares_of <- function(ctx, res) {
  yes <- which(vapply(res$names, function(n) ctx$columns[[n]]$kind == "yes_no", NA))
  if (!length(yes) || max(dim(res$counts)) > 40) return(NULL)
  counts <- if (yes[1] == 1) res$counts else t(res$counts)
  if (nrow(counts) != 2) return(NULL)
  names <- if (yes[1] == 1) res$names else rev(res$names)
  # the level asked about, else the yes
  event <- ctx$reading$extra$event
  k <- if (identical(event$column, names[1])) match(as.character(unlist(event$value)[1]), rownames(counts), nomatch = 2L) else 2L
  share <- say_percent(counts[k, ] / colSums(counts))
  beyond <- say_groups_beyond(share_bound(ctx), colnames(counts), counts[k, ] / colSums(counts), say_percent)
  paste(c(beyond, sprintf("%s is %s in %s.", capital(say_column(ctx$columns[[names[1]]])), rownames(counts)[k],
          some_of(sprintf("%s of %s (%s of %s)", share, say_sides(ctx, colnames(counts), names[2]), say_number(counts[k, ]),
              say_number(colSums(counts))), 6))), collapse = " ")
}

#' A bound on shares, which may be stated in percent
#' @noRd
share_bound <- function(ctx) {
  bound <- ctx$reading$extra$group_bound
  if (!is.null(bound) && (isTRUE(bound$percent) || bound$value > 1)) bound$value <- bound$value / 100
  bound
}
