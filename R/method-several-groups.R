# Shared by the methods that compare three or more independent groups.

#' Fit of a method for several groups: one measured outcome, one dividing column
#' @noRd
fits_several_groups <- function(shape, score, why, kinds = c("number", "count"), fewest = 3L) {
  ok <- shape$task %in% c("compare", "relate", "figure", "advise") && shape$n_outcome == 1 && shape$n_by == 1 &&
    isTRUE(shape$groups >= fewest) && is.null(shape$null_value) && !length(shape$adjust) && !isTRUE(shape$paired) &&
    shape$outcome_kind %in% c("number", "count", "ordered")
  if (!ok) return(NULL)
  new_fit(if (shape$outcome_kind %in% kinds) score else score - 60, why)
}

#' The groups with at least one value, their moments and labels
#' @noRd
several_groups <- function(ctx, fewest = 2L) {
  group <- group_of(ctx)
  if (nlevels(group) < fewest) {
    stop_data(sprintf("%s has only %s in these rows, so there is nothing to compare.", quoted(ctx$reading$by[1]),
                      count_of(nlevels(group), "group")), class = "one_group")
  }
  y <- outcome_values(ctx)
  list(values = unname(split(y, group)), levels = levels(group), y = y, code = as.integer(group),
       moments = stat_group_moments(y, as.integer(group), nlevels(group)))
}

several_group_checks <- function(ctx, res, pools = FALSE) {
  list(check_independent_rows(ctx$unit_values, ctx$unit_name), check_mean_normal(res$values, res$levels),
       check_equal_spread(res$values, res$levels, pools), check_far_values(res$values, res$levels))
}

#' Pairs with their level names, as the answer document wants them
#' @noRd
pairs_table <- function(pairs, levels, title, most = 30L) {
  if (length(levels) > most) return(NULL)
  keep <- intersect(c("estimate", "ci_low", "ci_high", "p_value", "p_adjusted"), names(pairs))
  new_table("pairs", title, cbind(data.frame(level_a = levels[pairs$a], level_b = levels[pairs$b],
                                             stringsAsFactors = FALSE),
                                  pairs[keep]))
}

#' Which pairs stand apart, in words
#' @noRd
say_pairs <- function(table, alpha, unit = NULL, what = "difference") {
  if (is.null(table)) return(NULL)
  d <- table$data
  clear <- d[which(d$p_adjusted < alpha), ]
  if (!nrow(clear)) return("No single pair of groups differs clearly once all pairs are allowed for.")
  clear <- clear[order(clear$p_adjusted), ]
  text <- sprintf("%s and %s (%s %s, adjusted %s)", clear$level_a, clear$level_b, what,
                  with_unit(say_number(clear$estimate), unit), vapply(clear$p_adjusted, say_p, ""))
  sprintf("Pairs that differ clearly, all pairs allowed for: %s.", some_of(text, 6))
}

#' Headline of a comparison of several groups: highest and lowest when clear
#' @noRd
say_several_groups <- function(ctx, res, how) {
  y <- say_column(outcome_column(ctx))
  unit <- outcome_column(ctx)$unit
  by <- say_column(ctx$columns[[ctx$reading$by[1]]])
  clear <- isTRUE(res$number$p_value < 1 - ctx$conf_level)
  values <- say_alike(how$values)
  high <- which.max(how$values); low <- which.min(how$values)
  if (!clear) {
    return(sprintf("No clear difference in %s between the %d groups of %s: %s from %s (%s) to %s (%s), %s.", y,
                   length(res$levels),
                   by, how$measure, with_unit(values[low], unit), res$levels[low], with_unit(values[high], unit),
                   res$levels[high], say_p(res$number$p_value)))
  }
  sprintf("%s differs between the %d groups of %s: %s from %s (%s) to %s (%s), %s.", capital(y), length(res$levels), by,
          how$measure, with_unit(values[low], unit), res$levels[low], with_unit(values[high], unit), res$levels[high],
          say_p(res$number$p_value))
}

write_groups <- function(res) {
  m <- res$moments
  paste(sprintf("%s: M = %s, SD = %s, n = %s", res$levels, say_alike(m[, "mean"]), say_number(sd_from_moments(m)),
                say_number(m[, "n"])), collapse = "; ")
}

next_several_groups <- function(ctx, res) {
  y <- outcome_name(ctx); by <- ctx$reading$by[1]
  two <- utils::head(res$levels, 2)
  c("Use a rank test", sprintf("Does %s differ between %s and %s?", y, two[1], two[2]),
    sprintf("Describe %s by %s", y, by))
}

#' Script lines that set up the outcome and the groups
#' @noRd
script_several_groups <- function(ctx) {
  c(sprintf("y <- %s", script_value(outcome_name(ctx))), sprintf("g <- %s", script_group(ctx$reading$by)), "k <- nlevels(g); tables <- list()",
    "size <- as.vector(table(g)); means <- as.vector(tapply(y, g, mean)); spreads <- as.vector(tapply(y, g, var))")
}

#' Script lines for all pairs of means
#' @noRd
script_pairs <- function(pooled) {
  c("pair <- combn(k, 2); a <- pair[1, ]; b <- pair[2, ]", "difference <- means[a] - means[b]",
    if (pooled) c("df_pair <- rep(length(y) - k, length(a))",
                  "part <- sum((size - 1) * spreads) / (length(y) - k) / size")
    else c("part <- spreads / size",
           "df_pair <- (part[a] + part[b])^2 / (part[a]^2 / (size[a] - 1) + part[b]^2 / (size[b] - 1))"),
    "se_pair <- sqrt(part[a] + part[b]); t_pair <- difference / se_pair",
    "half <- qtukey(conf_level, k, df_pair) / sqrt(2) * se_pair",
    "if (k <= 30) tables$pairs <- data.frame(estimate = difference, ci_low = difference - half, ci_high = difference + half,",
    "  p_value = 2 * pt(-abs(t_pair), df_pair), p_adjusted = ptukey(abs(t_pair) * sqrt(2), k, df_pair, lower.tail = FALSE))")
}
