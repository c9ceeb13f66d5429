# Two and more crossed factors.

#' @noRd
method_anova_two_way <- function() factorial_method("anova_two_way", "Two-way analysis of variance", 2L)

#' @noRd
method_anova_factorial <- function() factorial_method("anova_factorial", "Factorial analysis of variance", 3L)

factorial_method <- function(id, name, factors) {
  new_method(
    id = id, name = name, tasks = "compare", families = "anova",
    fits = function(shape) {
      ok <- shape$task %in% c("compare", "relate", "advise", "figure") && shape$n_outcome == 1 &&
        shape$n_by == factors && !isTRUE(shape$paired) && !length(shape$adjust) &&
        is.null(shape$null_value) && shape$outcome_kind %in% c("number", "count", "ordered")
      if (ok) new_fit(if (shape$outcome_kind == "ordered") 70 else 88,
                      sprintf("A measured outcome is compared over crossed groupings; sums of squares are of type %s.",
                        if (isTRUE(shape$type_three)) "III, as asked" else "II"))
    },
    compute = compute_factorial, checks = function(ctx, res) list(check_independent_rows(ctx$unit_values,
        ctx$unit_name), check_residual_normal(res$residuals), check_equal_spread(res$cells, res$cell_names, TRUE)),
    second = "factorial_robust", figure = function(ctx, res) figure_interaction(ctx, res), sentences = say_factorial, script = script_factorial,
    references = paste0("Langsrud, O. (2003). ANOVA for unbalanced data: use Type II instead of Type III sums of ",
                        "squares. Statistics and Computing, 13, 163-167."),
    next_steps = function(ctx, res) sprintf("Does %s differ by %s?", outcome_name(ctx), ctx$reading$by))
}

#' Factors of which one lies within the other (each rep in one region) are not crossed: their effects cannot be told apart
#' @noRd
stop_nested <- function(factors, outcome) {
  for (inner in names(factors)) for (outer in setdiff(names(factors), inner)) {
    cells <- nlevels(droplevels(interaction(factors[[inner]], factors[[outer]], drop = TRUE)))
    if (cells > nlevels(factors[[inner]])) next
    stop_data(sprintf("Every %s stands in one %s only, so the two cannot be told apart as crossed groupings.", inner, outer),
        class = "nested_factors",
              todo = sprintf("Ask for \"mixed model of %s on %s with a random intercept for %s\", or name one of the two.", outcome, outer, inner))
  }
}

#' The crossed groupings of a reading, each of two levels or more and none within another
#' @noRd
crossed_factors <- function(ctx) {
  by <- ctx$reading$by
  factors <- lapply(stats::setNames(by, by), function(b) as_group(ctx$frame$data[[b]]))
  single <- by[vapply(factors, nlevels, 1L) < 2]
  if (length(single)) stop_data(sprintf("%s has only one level in these rows.", quoted(single[1])), class = "one_group")
  stop_nested(factors, outcome_name(ctx))
  factors
}

compute_factorial <- function(ctx) {
  factors <- crossed_factors(ctx)
  y <- outcome_values(ctx)
  type <- if (isTRUE(ctx$reading$extra$type_three)) 3L else 2L
  anova <- stat_anova_factorial(y, factors, type)
  margins <- stat_marginal_means(y, factors, ctx$conf_level)
  cell <- group_of(ctx)
  top <- anova[nrow(anova) - 1, ]
  result(list(new_number("statistic", sprintf("F of %s", top$term), top$statistic),
              new_number("df1", "df (term)", top$df), new_number("df2", "df (residuals)", anova$df[nrow(anova)]),
              new_number("p_value", sprintf("p of %s", top$term), top$p_value),
              new_number("partial_eta_squared", "partial eta squared", top$partial_eta_squared),
              new_number("conf_level", "confidence level", ctx$conf_level), new_number("n", "rows used", length(y))) |>
           c(limit_numbers("partial_eta_squared", "partial eta squared",
                           stat_share_limits(top$statistic, top$df, anova$df[nrow(anova)], ctx$conf_level))),
         tables = compact(list(groups_table(ctx), new_table("anova", sprintf("Analysis of variance (type %s)", c("", "II", "III")[type]), anova),
                               if (!is.null(margins)) new_table("marginal_means", "Marginal means, every cell with the same weight", margins))),
         anova = anova, margins = margins, type = c("", "II", "III")[type],
         cells = unname(split(y, cell)), cell_names = levels(cell), residuals = y - stats::ave(y, cell),
         direction = NA_real_)
}

say_factorial <- function(ctx, res) {
  t <- res$anova[-nrow(res$anova), ]
  df2 <- res$anova$df[nrow(res$anova)]
  item <- sprintf("%s F(%s, %s) = %s, %s", t$term, say_df(t$df), say_df(rep(df2, nrow(t))), say_number(t$statistic, 2),
                  vapply(t$p_value, say_p, ""))
  y <- say_column(outcome_column(ctx))
  clear <- t$term[t$p_value < 1 - ctx$conf_level]
  mixed <- grepl(" x ", clear)
  headline <- if (any(mixed)) sprintf("The differences in %s over one column depend on the other (%s): %s.", y,
                                      clear[mixed][1], item[match(clear[mixed][1], t$term)])
    else if (length(clear)) sprintf("%s differs by %s; no clear interaction.", capital(y),
                                    some_of(clear, 4)) else sprintf(paste0("No clear difference in %s by %s or their ",
                                                                           "combination."), y,
                                                                      some_of(vapply(ctx$columns[ctx$reading$by], say_column, ""), 3))
  list(headline = headline, details = c(paste0(item, sprintf(" (partial eta squared %s).",
                                                             say_unit(t$partial_eta_squared))),
                                                             if (any(mixed)) paste0("With an interaction, read the groups ",
                                                                                    "cell by cell rather than the single ",
                                                                                    "columns."), say_rows(ctx)),
       write_up = sprintf("%s was analysed by %s (type %s sums of squares): %s.%s", capital(y),
                          some_of(ctx$reading$by, 4), res$type, paste(item, collapse = "; "), write_rows(ctx)))
}

script_factorial <- function(ctx, res) {
  by <- ctx$reading$by
  k <- length(by)
  inner <- sprintf("f%d", seq_len(k))
  sets <- unlist(lapply(seq_len(k), function(size) utils::combn(k, size, simplify = FALSE)), recursive = FALSE)
  term <- vapply(sets, function(s) paste(inner[s], collapse = ":"), "")
  lines <- vapply(seq_along(sets), function(i) {
    if (res$type == "III") return(sprintf("part(%d)", i))
    others <- term[!vapply(sets, function(s) all(sets[[i]] %in% s), NA)]
    base <- if (length(others)) paste(others, collapse = " + ") else "1"
    sprintf("step(y ~ %s, y ~ %s + %s)", base, base, term[i])
  }, "")
  c("tables <- list()", sprintf("y <- %s", script_value(outcome_name(ctx))),
    sprintf("%s <- droplevels(factor(%s))  # %s", inner, vapply(by, script_column, ""), gsub("[\r\n]", " ", by)),
    sprintf("full <- lm(y ~ %s); rss <- sum(resid(full)^2); df2 <- full$df.residual", paste(inner, collapse = " * ")),
    paste0("step <- function(small, large) { a <- lm(small); b <- lm(large); d <- a$df.residual - b$df.residual; ss ",
           "<- sum(resid(a)^2) - sum(resid(b)^2); f <- (ss / d) / (rss / df2)"),
    paste0("  data.frame(df = d, sum_sq = ss, mean_sq = ss / d, statistic = f, p_value = pf(f, d, df2, lower.tail = ",
           "FALSE), partial_eta_squared = ss / (ss + rss)) }"),
    if (res$type == "III") c(
      sprintf("design <- model.matrix(~ %s, contrasts.arg = list(%s))", paste(inner, collapse = " * "), paste(sprintf("%s = \"contr.sum\"", inner),
        collapse = ", ")),
      sprintf("label <- c(\"\", attr(terms(~ %s), \"term.labels\"))[attr(design, \"assign\") + 1]", paste(inner, collapse = " * ")),
      sprintf("part <- function(i) { keep <- label != %s[i]; step(y ~ 0 + design[, keep, drop = FALSE], y ~ 0 + design) }",
              sprintf("c(%s)", paste(sprintf("\"%s\"", term), collapse = ", ")))),
    sprintf(paste0("tables$anova <- rbind(%s, data.frame(df = df2, sum_sq = rss, mean_sq = rss / df2, statistic = NA, ",
                   "p_value = NA, partial_eta_squared = NA))"), paste(lines, collapse = ",\n  ")),
    "top <- tables$anova[nrow(tables$anova) - 1, ]",
    paste0("numbers <- list(statistic = top$statistic, df1 = top$df, df2 = df2, p_value = top$p_value, ",
           "partial_eta_squared = top$partial_eta_squared, conf_level = conf_level, n = length(y))"), script_share_limits("partial_eta_squared"),
    if (!is.null(res$margins)) c(
      sprintf("cells <- tapply(y, list(%s), mean); sizes <- tapply(y, list(%s), length); half <- qt(1 - (1 - conf_level) / 2, df2)", paste(inner,
        collapse = ", "),
              paste(inner, collapse = ", ")),
      paste0("tables$marginal_means <- do.call(rbind, lapply(seq_along(dim(cells)), function(k) { se <- sqrt(rss / df2 * apply(1 / ",
          "sizes, k, sum)) / ",
             "(length(cells) / dim(cells)[k]); m <- apply(cells, k, mean); data.frame(mean = as.vector(m), se = as.vector(se), ci_low = ",
                 "as.vector(m - half * se), ",
             "ci_high = as.vector(m + half * se)) }))")),
           script_groups(ctx))
}
