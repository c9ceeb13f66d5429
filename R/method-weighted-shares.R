#' @noRd
method_weighted_shares <- function() {
  new_method(
    id = "weighted_shares", weights = TRUE, name = "Weighted shares, design-based", tasks = c("frequency", "relate", "compare"),
    fits = function(shape) {
      count <- shape$task == "frequency" && (isTRUE(shape$event_set) || (length(shape$pair_kinds) %in% 1:2 && all(shape$pair_groups)))
      table <- !is.null(fits_table(shape, 90, ""))
      if (isTRUE(shape$weighted) && is.null(shape$method_asked) && (count || table))
        new_fit(if (count) 99.5 else 96, "Weights are declared, so the shares and their errors respect them.")
    },
    compute = compute_weighted_shares, checks = sampling_checks,
    second = "chi_square_independence", figure = figure_weighted_shares, sentences = say_weighted_shares, script = script_weighted_shares,
    references = c(sampling_references(),
        paste0("Rao, J. N. K., & Scott, A. J. (1984). On chi-squared tests for multiway contingency tables with cell ",
                                                 "proportions estimated from survey data. Annals of Statistics, 12, 46-60.")),
    next_steps = function(ctx, res) if (length(res$names) == 2 && !res$tested) sprintf("Is %s related to %s?", res$names[1],
        res$names[2]) else character())
}

#' What is shared out (levels, or an event and the rest) and the groups it is shared within
#' @noRd
weighted_parts <- function(ctx) {
  names <- unique(c(ctx$reading$outcome, ctx$reading$by, ctx$reading$predictors))
  event <- ctx$reading$extra$event
  x <- if (length(event) && ctx$reading$task == "frequency")
    factor(ifelse(row_matches(ctx$frame$data[[event$column]], event), "yes", "no"), c("no", "yes")) else as_group(ctx$frame$data[[names[1]]])
  groups <- if (length(event) && ctx$reading$task == "frequency") setdiff(names, event$column) else names[-1]
  list(names = names, x = x, groups = groups, g = if (length(groups)) group_of(ctx, groups) else factor(rep("all", length(x))),
       event = if (length(event) && ctx$reading$task == "frequency") event)
}

compute_weighted_shares <- function(ctx) {
  s <- sampling_of(ctx); parts <- weighted_parts(ctx)
  x <- parts$x; g <- parts$g; l <- nlevels(x); k <- nlevels(g)
  tested <- ctx$reading$task != "frequency"
  if (tested && min(l, k) < 2) stop_data("One of the columns has only one level in these rows, so there is nothing to compare.", class = "one_group")
  out <- stat_weighted_shares(as.integer(x), as.integer(g), s$w, l, k, ctx$conf_level, s$cluster, s$strata, s$absent)
  table <- data.frame(level = rep(levels(x), k), group = rep(levels(g), each = l), n = as.vector(stat_cross_counts(x, g, l, k)),
                      percent = 100 * as.vector(out$share), se = as.vector(out$se), ci_low = 100 * as.vector(out$low),
                          ci_high = 100 * as.vector(out$high),
                      stringsAsFactors = FALSE)
  if (!length(parts$groups)) table$group <- NULL
  numbers <- if (tested) weighted_table_numbers(ctx, x, g, s, l, k) else weighted_event_numbers(ctx, x, s)
  id <- if (length(parts$groups)) "crosstab" else "counts"
  title <- sprintf("%s%s, weighted by %s", if (is.null(parts$event)) parts$names[1] else plain_filter(parts$event),
                   if (length(parts$groups)) paste(" within", paste(parts$groups, collapse = " and ")) else "", ctx$weight_name)
  result(c(numbers, sampling_numbers(s, out)), list(new_table(id, title, table)), parts = parts, out = out, tested = tested, names = parts$names,
         direction = NA_real_)
}

weighted_table_numbers <- function(ctx, x, g, s, l, k) {
  test <- stat_rao_scott(as.integer(x), as.integer(g), s$w, l, k, s$cluster, s$strata, s$absent)
  numbers <- c(test_numbers(test[c("statistic", "df1", "df2", "p_value", "n")], "F (Rao-Scott)", "", ctx$conf_level),
               list(new_number("cramers_v", "Cramer's V of the weighted shares", test$cramers_v),
                    new_number("design_effect", "mean design effect", test$design_effect)))
  if (l != 2 || k != 2) return(c(numbers, list(new_number("estimate", "Cramer's V of the weighted shares", test$cramers_v))))
  out <- stat_weighted_groups(as.numeric(x == levels(x)[2]), as.integer(g), s$w, k, s$cluster, s$strata, s$absent)
  se <- sqrt(sum(out$covariance * c(1, -1, -1, 1))); d <- out$mean[1] - out$mean[2]
  half <- stats::qt(1 - (1 - ctx$conf_level) / 2, out$df) * se
  c(numbers, list(new_number("estimate", sprintf("difference in shares of %s, %s minus %s", levels(x)[2], levels(g)[1], levels(g)[2]), d),
                  new_number("se", "standard error", se), new_number("ci_low", "lower limit", d - half),
                      new_number("ci_high", "upper limit", d + half),
                  new_number("risk_difference", "risk difference", d)))
}

#' The share over all rows, where one share is asked for
#' @noRd
weighted_event_numbers <- function(ctx, x, s) {
  n <- new_number("n", "rows used", length(x))
  if (nlevels(x) != 2) return(list(n))
  out <- stat_weighted_shares(as.integer(x), rep(1L, length(x)), s$w, 2L, 1L, ctx$conf_level, s$cluster, s$strata, s$absent)
  list(new_number("estimate", sprintf("weighted share with %s", levels(x)[2]), out$share[2]), new_number("se", "standard error", out$se[2]),
       new_number("ci_low", "lower limit", out$low[2]), new_number("ci_high", "upper limit", out$high[2]),
       new_number("conf_level", "confidence level", ctx$conf_level), n)
}

say_weighted_shares <- function(ctx, res) {
  t <- res$tables[[1]]$data; p <- res$parts; n <- res$number
  binary <- nlevels(p$x) == 2
  interval <- function(d) mapply(function(l, h) sprintf("%s to %s", say_percent(l / 100), say_percent(h / 100)), d$ci_low, d$ci_high)
  what <- if (!is.null(p$event)) plain_filter(p$event) else if (binary) sprintf("%s is %s", say_column(ctx$columns[[p$names[1]]]), levels(p$x)[2])
    else say_column(ctx$columns[[p$names[1]]])
  d <- if (binary) t[t$level == levels(p$x)[2], ] else t
  if (length(p$groups) && !binary) d <- d[order(-d$percent), ][!duplicated(d$group[order(-d$percent)]), ]  # the commonest level of each group
  in_order <- all(vapply(ctx$columns[c(if (is.null(p$event)) p$names[1], p$groups)], function(col) col$kind == "ordered", NA))
  if (!in_order) d <- d[order(-d$percent), ]
  label <- if (!length(p$groups)) d$level else if (binary) d$group else sprintf("%s in %s", d$level, d$group)
  item <- if (!length(p$groups) && binary) sprintf("%s (%s CI %s)", say_percent(d$percent / 100), say_level(ctx$conf_level), interval(d))
    else sprintf("%s: %s (%s)", label, say_percent(d$percent / 100), interval(d))
  text <- if (!length(p$groups) && binary) sprintf("%s in %s of the population, by the weights.", capital(what), item)
    else sprintf("%s%s, weighted: %s.", capital(what), if (length(p$groups)) sprintf(" by %s",
        some_of(vapply(ctx$columns[p$groups], say_column, ""), 3)) else "",
                 if (length(p$groups) && !binary) paste("the commonest are", some_of(item, 6)) else some_of(item, 8))
  if (res$tested) {
    clear <- isTRUE(n$p_value < 1 - ctx$conf_level)
    test <- sprintf("Rao-Scott F(%s, %s) = %s, %s", say_df(n$df1), say_df(n$df2), say_number(n$statistic, 2), say_p(n$p_value))
    names <- vapply(ctx$columns[p$names[1:2]], say_column, "")
    head <- sprintf("%s and %s are %s, weights respected: %s; V = %s.", capital(names[1]), names[2],
        if (clear) "associated" else "not clearly associated",
                    test, say_unit(n$cramers_v))
    return(list(headline = head, details = c(text, say_sampling(ctx, res), say_rows(ctx)), write_up = paste(head, text)))
  }
  list(headline = text, details = c(say_sampling(ctx, res), say_rows(ctx)), write_up = paste0(text, write_rows(ctx)))
}

figure_weighted_shares <- function(ctx, res) {
  t <- res$tables[[1]]$data; p <- res$parts; grouped <- length(p$groups) > 0
  if (nlevels(p$x) == 2 && (grouped || !is.null(p$event))) t <- t[t$level == levels(p$x)[2], ]
  d <- data.frame(level = factor(t$level, levels(p$x)), group = factor(if (grouped) t$group else t$level,
      rev(if (grouped) levels(p$g) else levels(p$x))),
                  value = t$percent / 100, low = t$ci_low / 100, high = t$ci_high / 100)
  title <- capital(sprintf("Weighted share %s%s", if (is.null(p$event)) paste("of", say_column(ctx$columns[[p$names[1]]])) else paste("in which",
      plain_filter(p$event)),
                           if (grouped) sprintf(" by %s", some_of(vapply(ctx$columns[p$groups], say_column, ""), 3)) else ""))
  new_figure("shares", title, "dot", subtitle = sprintf("Weighted shares with design-based %s intervals.", say_level(ctx$conf_level)),
    alt = sprintf("%s: a dot with its interval for each share.", title),
    draw = function() draw_interval_dots(if (grouped) d else d[names(d) != "level"], "Weighted share", shares = TRUE),
    script = c("plot_data <- cbind(expand.grid(level = levels(x), group = levels(g)), as.data.frame(tables[[1]]))",
               sprintf("plot <- ggplot(plot_data, aes(percent, group, colour = level)) + geom_point() + labs(title = %s) + theme_minimal()",
                   as_r_string(title))))
}

script_weighted_shares <- function(ctx, res) {
  p <- res$parts
  x <- if (is.null(p$event)) sprintf("x <- droplevels(factor(%s))", script_column(p$names[1]))
    else c("keep <- rep(TRUE, nrow(rows))", script_filter(p$event, ctx$columns[[p$event$column]], "rows"),
           "x <- factor(ifelse(keep, \"yes\", \"no\"), c(\"no\", \"yes\"))")
  g <- if (length(p$groups)) sprintf("g <- %s", script_group(p$groups)) else "g <- factor(rep(\"all\", length(x)))"
  lines <- c(x, g, script_sampling(ctx), "l <- nlevels(x); k <- nlevels(g); q <- qt(1 - (1 - conf_level) / 2, total_covariance(w)$df)",
    "one <- function(i, group) { inside <- group == levels(group)[i$g]; size <- sum(w[inside]); p <- sum(w[inside & x == levels(x)[i$x]]) / size",
    "  se <- sqrt(total_covariance(ifelse(inside, w * ((x == levels(x)[i$x]) - p) / size, 0))$v[1, 1])",
    "  limits <- if (se > 0) plogis(qlogis(p) + c(-1, 1) * q * se / (p * (1 - p))) else c(p, p)",
    "  data.frame(n = sum(inside & x == levels(x)[i$x]), percent = 100 * p, se = se, ci_low = 100 * limits[1], ci_high = 100 * limits[2]) }",
    "cells <- expand.grid(x = seq_len(l), g = seq_len(k)); shares <- do.call(rbind, lapply(seq_len(nrow(cells)), function(r) one(cells[r, ], g)))",
    sprintf("tables <- list(%s = shares); n <- length(x)", res$tables[[1]]$id))
  c(lines, if (res$tested) script_rao_scott(nlevels(p$x) == 2 && nlevels(p$g) == 2) else if (nlevels(p$x) == 2)
      c("a <- one(list(x = 2, g = 1), factor(rep(\"all\", n)))",
        "numbers <- list(estimate = a$percent / 100, se = a$se, ci_low = a$ci_low / 100, ci_high = a$ci_high / 100, conf_level = conf_level, n = n)")
      else "numbers <- list(n = n)",
    sprintf("numbers <- c(numbers, list(%s))", sampling_script_numbers(ctx)))
}

script_rao_scott <- function(two_by_two) {
  c("# Rao-Scott: the chi-square of the weighted shares over its design effects",
    "p <- as.vector(xtabs(w ~ x + g)) / sum(w); cell <- (as.integer(g) - 1) * l + as.integer(x); hit <- outer(cell, seq_len(l * k), \"==\")",
    "e <- total_covariance(w * sweep(hit, 2, p) / sum(w)); shares_of <- matrix(p, l); free <- outer(rowSums(shares_of), colSums(shares_of))",
    "chi <- n * sum((shares_of - free)^2 / free); grid <- expand.grid(a = factor(seq_len(l)), b = factor(seq_len(k)))",
    "alone <- model.matrix(~ a + b, grid); both <- model.matrix(~ a * b, grid)[, -seq_len(ncol(alone)), drop = FALSE]",
    "contrast <- resid(lm.fit(alone, both)); contrast <- as.matrix(contrast); inv <- diag(ifelse(p > 0, 1 / p, 0))",
    "delta <- solve(t(contrast) %*% inv %*% contrast / n) %*% t(contrast) %*% inv %*% e$v %*% inv %*% contrast; trace <- sum(diag(delta))",
    "df1 <- trace^2 / sum(diag(delta %*% delta)); f <- chi / trace; v <- sqrt(chi / n / (min(l, k) - 1))",
    paste0("numbers <- list(statistic = f, df1 = df1, df2 = df1 * e$df, p_value = pf(f, df1, df1 * e$df, lower.tail = FALSE), conf_level = ",
        "conf_level, ",
           "n = n, cramers_v = v, design_effect = trace / ((l - 1) * (k - 1)))"),
    if (two_by_two) c(paste0("z <- lapply(1:2, function(i) { inside <- as.integer(g) == i; s <- sum(w[inside]); m <- weighted.mean((x == ",
        "levels(x)[2])[inside], w[inside]);"),
      paste0("  list(m = m, z = ifelse(inside, w * ((x == levels(x)[2]) - m) / s, 0)) }); d <- z[[1]]$m - z[[2]]$m; se <- ",
          "sqrt(total_covariance(z[[1]]$z - z[[2]]$z)$v[1, 1])"),
      "numbers <- c(numbers, list(estimate = d, se = se, ci_low = d - q * se, ci_high = d + q * se, risk_difference = d))")
    else "numbers$estimate <- v")
}
