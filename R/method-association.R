# Further measures of association: ordered tables, tables of any kind, groups, and any relation at all.

association_method <- function(id, name, fits, compute, script, references, label, say, second = character(), figure = NULL) {
  new_method(id = id, name = name, tasks = "relate", fits = fits, compute = compute,
             checks = function(ctx, res) compact(list(check_independent_rows(ctx$unit_values, ctx$unit_name),
                                                      if (!is.null(res$counts)) check_expected_counts(outer(rowSums(res$counts),
                                                        colSums(res$counts)) /
                                                                                                        sum(res$counts)))),
             second = second, figure = figure %||% function(ctx, res) figure_shares(ctx, res$names[1], res$names[2], res$counts),
             sentences = function(ctx, res) say_association(ctx, res, label, say), script = script, references = references,
             next_steps = function(ctx, res) sprintf("Cross-tabulate %s by %s", res$names[1], res$names[2]))
}

say_association <- function(ctx, res, label, say) {
  n <- res$number
  a <- say_column(ctx$columns[[res$names[1]]]); b <- say_column(ctx$columns[[res$names[2]]])
  clear <- isTRUE(n$p_value < 1 - ctx$conf_level)
  interval <- if (!is.null(n$ci_low) && is.finite(n$ci_low)) sprintf(" (%s)", say_interval(n$ci_low, n$ci_high, ctx$conf_level, say_unit)) else ""
  value <- sprintf("%s = %s%s", label, say_unit(n$estimate), interval)
  list(headline = sprintf("%s and %s are %s: %s, %s.", capital(a), b, if (clear) "associated" else "not clearly associated", value, say_p(n$p_value)),
       details = c(say(res), say_rows(ctx)),
       write_up = sprintf("%s and %s were %s, %s, %s (n = %s).%s", capital(a), b, if (clear) "associated" else "not clearly associated", value,
                          say_p(n$p_value), say_number(n$n), write_rows(ctx)))
}

#' Fit of a measure that is used only when it is asked for by name, or as a second opinion
#' @noRd
fits_named_pair <- function(shape, id, score, ok, why) {
  pair <- shape$task %in% c("relate", "compare", "advise") && length(shape$pair_kinds) == 2 && !length(shape$adjust) && is.null(shape$null_value)
  # measures of a number with groups answer no question unless they are asked for
  alone <- id %in% c("correlation_ratio", "biserial") && !identical(shape$method_asked, id)
  if (pair && !alone && ok(shape)) new_fit(score, why)
}

table_numbers <- function(out, label, statistic, conf_level, extra = list()) c(test_numbers(out, statistic, label, conf_level), extra)

#' @noRd
method_goodman_kruskal_gamma <- function() {
  association_method("goodman_kruskal_gamma", "Goodman and Kruskal's gamma",
    fits = function(shape) fits_named_pair(shape, "goodman_kruskal_gamma", 28, function(s)
    (all(s$pair_groups) || identical(s$method_asked, "goodman_kruskal_gamma")) && all(s$pair_kinds %in% c("ordered",
      "yes_no", "count", "number")),
                                           "You asked for gamma, which counts pairs of rows in the same and in the opposite order."),
    compute = function(ctx) {
      t <- table_columns(ctx)
      out <- stat_gamma(t$counts, ctx$conf_level, ctx$alternative)
      result(table_numbers(out, "gamma", "z", ctx$conf_level), tables = list(crosstab_table(t$names, t$counts)), names = t$names, counts = t$counts)
    },
    script = function(ctx, res) c(script_table(ctx, res),
      "r <- nrow(counts); k <- ncol(counts); same <- opposite <- matrix(0, r, k)",
      "for (i in seq_len(r)) for (j in seq_len(k)) {",
      "  same[i, j] <- sum(counts[row(counts) < i & col(counts) < j]) + sum(counts[row(counts) > i & col(counts) > j])",
      "  opposite[i, j] <- sum(counts[row(counts) < i & col(counts) > j]) + sum(counts[row(counts) > i & col(counts) < j])", "}",
      "n <- sum(counts); p <- sum(counts * same); q <- sum(counts * opposite); gamma <- (p - q) / (p + q)",
      paste0("se <- 4 / (p + q)^2 * sqrt(sum(counts * (q * same - p * opposite)^2)); z <- gamma / (2 / (p + q) * sqrt(sum(counts * (same - ",
          "opposite)^2) - (p - q)^2 / n))"),
      sprintf("p_value <- %s", switch(ctx$alternative, two_sided = "2 * pnorm(-abs(z))", greater = "pnorm(z, lower.tail = FALSE)",
        less = "pnorm(z)")),
      "half <- qnorm(1 - (1 - conf_level) / 2) * se",
      paste0("numbers <- list(statistic = z, p_value = p_value, estimate = gamma, se = se, ci_low = max(-1, gamma - half), ci_high = min(1, ",
          "gamma + half), conf_level = conf_level, n = n)")),
    references = paste0("Goodman, L. A., & Kruskal, W. H. (1963). Measures of association for cross classifications III. Journal of the ",
        "American Statistical Association, 58, 310-364."),
    label = "gamma", second = c("kendall", "spearman"),
    say = function(res) sprintf("Of the pairs of rows that differ in both columns, %s stand in the same order and %s in the opposite one.",
                                say_percent((1 + res$number$estimate) / 2, 0), say_percent((1 - res$number$estimate) / 2, 0)))
}

#' @noRd
method_theil_u <- function() {
  association_method("theil_u", "Theil's uncertainty coefficient",
    fits = function(shape) fits_named_pair(shape, "theil_u", 26, function(s) all(s$pair_groups), "You asked for the uncertainty coefficient."),
    compute = function(ctx) {
      t <- table_columns(ctx)
      out <- stat_uncertainty(t$counts, ctx$conf_level)
      result(table_numbers(out, sprintf("U of %s given %s", t$names[1], t$names[2]), "G", ctx$conf_level,
                           list(new_number("reverse", sprintf("U of %s given %s", t$names[2], t$names[1]), out$reverse),
                                new_number("symmetric", "U, symmetric", out$symmetric))),
             tables = list(crosstab_table(t$names, t$counts)), names = t$names, counts = t$counts, direction = NA_real_)
    },
    script = function(ctx, res) c(script_table(ctx, res),
      paste0("n <- sum(counts); plogp <- function(v) { v <- v[v > 0] / n; sum(v * log(v)) }; ha <- -plogp(margin.table(counts, 1)); hb <- ",
          "-plogp(margin.table(counts, 2))"),
      "g <- 2 * sum(ifelse(counts > 0, counts * log(counts / expected), 0)); df <- (nrow(counts) - 1) * (ncol(counts) - 1); shared <- g / (2 * n)",
      paste0("numbers <- list(statistic = g, df = df, p_value = pchisq(g, df, lower.tail = FALSE), estimate = shared / ha, conf_level = ",
          "conf_level, n = n, reverse = shared / hb, symmetric = 2 * shared / (ha + hb))"), script_chi_share_limits("ci", "g", "df", "2 * n * ha")),
    references = "Theil, H. (1970). On the estimation of relationships involving qualitative variables. American Journal of Sociology, 76, 103-154.",
    label = "U", second = "chi_square_independence",
    say = function(res) sprintf("Knowing %s takes away %s of the uncertainty about %s; the other way round it is %s.", res$names[2],
                                say_percent(res$number$estimate, 1), res$names[1], say_percent(res$number$reverse, 1)))
}

#' @noRd
method_polychoric <- function() {
  association_method("polychoric", "Polychoric correlation",
    fits = function(shape) fits_named_pair(shape, "polychoric", 27, function(s) all(s$pair_groups) && all(s$pair_kinds %in% c("ordered", "yes_no",
      "count", "number")),
                                           "You asked for the correlation of the normal variables behind two ordered answers."),
    compute = function(ctx) {
      t <- table_columns(ctx)
      out <- stat_polychoric(t$counts, ctx$conf_level)
      result(table_numbers(out, "polychoric correlation", "likelihood-ratio chi-square", ctx$conf_level), tables = list(crosstab_table(t$names,
        t$counts)),
             names = t$names, counts = t$counts, direction = if (all(dim(t$counts) == 2)) NA_real_ else sign(out$estimate))
    },
    script = function(ctx, res) c(script_table(ctx, res),
      paste0("n <- sum(counts); cut_a <- c(-Inf, qnorm(cumsum(rowSums(counts)) / n)); cut_b <- c(-Inf, qnorm(cumsum(colSums(counts)) / n)); ",
          "cut_a[length(cut_a)] <- cut_b[length(cut_b)] <- Inf"),
      "r <- nrow(counts); k <- ncol(counts)",
      "# probability of a cell: the density of one variable times the conditional probability of the other, integrated",
      paste0("cell <- function(i, j, rho) integrate(function(x) dnorm(x) * (pnorm((cut_b[j + 1] - rho * x) / sqrt(1 - rho^2)) - ",
          "pnorm((cut_b[j] - rho * x) / sqrt(1 - rho^2))),"),
      "  max(cut_a[i], -9), min(cut_a[i + 1], 9), rel.tol = 1e-11, abs.tol = 1e-14, subdivisions = 2000)$value",
      "cells <- function(rho) outer(seq_len(r), seq_len(k), Vectorize(function(i, j) cell(i, j, rho)))",
      paste0("d2 <- function(x, y, rho) ifelse(is.finite(x) & is.finite(y), exp(-(x^2 - 2 * rho * x * y + y^2) / (2 * (1 - rho^2))) / (2 * pi ",
          "* sqrt(1 - rho^2)), 0)"),
      "slopes <- function(rho) { f <- outer(cut_a, cut_b, d2, rho = rho); f[-1, -1] - f[-(r + 1), -1] - f[-1, -(k + 1)] + f[-(r + 1), -(k + 1)] }",
      "score <- function(rho) sum(counts * slopes(rho) / cells(rho)); way <- sign(score(0)); from <- 0; to <- way * 0.3",
      "while (score(to) * way > 0) { from <- to; to <- way * (1 - (1 - abs(to)) / 2) }",
      "rho <- uniroot(score, sort(c(from, to)), tol = 1e-12)$root; p <- cells(rho)",
      paste0("se <- 1 / sqrt(n * sum(slopes(rho)^2 / p)); g <- 2 * sum(counts * (log(p) - log(expected / n))); half <- qnorm(1 - (1 - ",
          "conf_level) / 2) * se / (1 - rho^2)"),
      paste0("numbers <- list(statistic = g, df = 1, p_value = pchisq(g, 1, lower.tail = FALSE), estimate = rho, se = se, ci_low = ",
          "tanh(atanh(rho) - half), ",
             "ci_high = tanh(atanh(rho) + half), conf_level = conf_level, n = n)")),
    references = "Olsson, U. (1979). Maximum likelihood estimation of the polychoric correlation coefficient. Psychometrika, 44, 443-460.",
    label = "r", second = c("spearman", "goodman_kruskal_gamma"),
    say = function(res) "It supposes that two normal variables stand behind the answers, cut where the shares of the answers say.")
}

#' @noRd
method_correlation_ratio <- function() {
  association_method("correlation_ratio", "Correlation ratio (eta)",
    fits = function(shape) fits_named_pair(shape, "correlation_ratio", 24, function(s) sum(s$pair_kinds %in% c("number", "count",
      "ordered")) >= 1 && any(s$pair_groups),
                                           "You asked for the correlation ratio of a measured column and groups."),
    compute = compute_correlation_ratio,
    script = function(ctx, res) c(sprintf("y <- %s; g <- droplevels(factor(%s)); tables <- list()", script_value(res$names[1]),
      script_column(res$names[2])),
      "a <- anova(lm(y ~ g)); n <- length(y); f <- a$`F value`[1]; df1 <- a$Df[1]; df2 <- a$Df[2]; eta <- sqrt(a$`Sum Sq`[1] / sum(a$`Sum Sq`))",
      paste0("limit <- function(p) if (pf(f, df1, df2) < p) 0 else uniroot(function(ncp) suppressWarnings(pf(f, df1, df2, ncp)) - p, c(0, ",
          "max(10, 4 * f * df1)), extendInt = \"downX\", tol = 1e-10)$root"),
      "limits <- c(limit(1 - (1 - conf_level) / 2), limit((1 - conf_level) / 2)); limits <- sqrt(limits / (limits + n))",
      paste0("numbers <- list(statistic = f, df1 = df1, df2 = df2, p_value = a$`Pr(>F)`[1], estimate = eta, ci_low = limits[1], ci_high = ",
          "limits[2], conf_level = conf_level, n = n)")),
    references = "Pearson, K. (1905). On the general theory of skew correlation and non-linear regression. Dulau.",
    label = "eta", figure = function(ctx, res) figure_groups(ctx, res$names[1], res$names[2]),
    say = function(res) sprintf("The groups account for %s of the spread.", say_percent(res$number$estimate^2, 1)))
}

#' The measured column first, the groups second
#' @noRd
compute_correlation_ratio <- function(ctx) {
  names <- unique(c(ctx$reading$outcome, ctx$reading$by, ctx$reading$predictors))[1:2]
  kinds <- vapply(ctx$columns[names], `[[`, "", "kind")
  groups <- which(kinds %in% c("category", "yes_no"))
  if (length(groups) == 1) names <- names[c(setdiff(1:2, groups), groups)]
  y <- outcome_values(ctx, names[1]); g <- as_group(ctx$frame$data[[names[2]]])
  if (nlevels(g) < 2) stop_data(sprintf("%s has only one level in these rows.", quoted(names[2])), class = "one_group")
  out <- stat_anova_one_way(stat_group_moments(y, as.integer(g), nlevels(g)), ctx$conf_level)
  out$estimate <- sqrt(out$eta_squared); out$ci_low <- sqrt(out$eta_squared_low); out$ci_high <- sqrt(out$eta_squared_high)
  result(test_numbers(out, "F", "correlation ratio eta", ctx$conf_level), names = names, direction = NA_real_)
}

#' @noRd
method_biserial <- function() {
  association_method("biserial", "Biserial correlation",
    fits = function(shape) fits_named_pair(shape, "biserial", 22, function(s) any(s$pair_kinds == "yes_no") && any(s$pair_kinds %in% c("number",
      "count", "ordered")),
                                           "You asked for the correlation of a measured column with the normal variable behind a yes/no column."),
    compute = function(ctx) {
      names <- unique(c(ctx$reading$outcome, ctx$reading$by, ctx$reading$predictors))[1:2]
      two <- which(vapply(ctx$columns[names], `[[`, "", "kind") == "yes_no")[1]
      names <- names[c(3 - two, two)]
      out <- stat_biserial(outcome_values(ctx, names[1]), as.integer(as_group(ctx$frame$data[[names[2]]])) == 2L, ctx$conf_level, ctx$alternative)
      result(c(test_numbers(out, "t", "biserial correlation", ctx$conf_level), list(new_number("point_biserial", "point-biserial correlation",
        out$point_biserial))),
             names = names)
    },
    script = function(ctx, res) c(sprintf("x <- %s; yes <- as.integer(droplevels(factor(%s))) - 1; tables <- list()", script_value(res$names[1]),
      script_column(res$names[2])),
      sprintf(paste0("test <- cor.test(x, yes, alternative = %s); p <- mean(yes); height <- dnorm(qnorm(p)); r <- test$estimate[[1]] * sqrt(p ",
          "* (1 - p)) / height"), script_alternative(ctx)),
      "se <- (sqrt(p * (1 - p)) / height - r^2) / sqrt(length(x)); half <- qnorm(1 - (1 - conf_level) / 2) * se",
      paste0("numbers <- list(statistic = test$statistic, df = test$parameter, p_value = test$p.value, estimate = r, se = se, ci_low = ",
          "max(-1, r - half), ",
             "ci_high = min(1, r + half), conf_level = conf_level, n = length(x), point_biserial = test$estimate[[1]])")),
    references = "Soper, H. E. (1914). On the probable error of the bi-serial expression for the correlation coefficient. Biometrika, 10, 384-390.",
    label = "r", second = c("point_biserial", "mann_whitney"), figure = function(ctx, res) figure_groups(ctx, res$names[1], res$names[2]),
    say = function(res) sprintf("It supposes that a normal variable, cut in two, stands behind the yes and no; without that the correlation is %s.",
                                say_unit(res$number$point_biserial)))
}

#' @noRd
method_distance_correlation <- function() {
  association_method("distance_correlation", "Distance correlation",
    fits = function(shape) fits_pair(shape, 40, c("number", "count", "ordered"), "You asked for a measure that sees any relation, also bent ones."),
    compute = function(ctx) {
      p <- pair_values(ctx)
      out <- stat_distance_correlation(p$x, p$y)
      result(c(test_numbers(out, "n times the estimate", "squared distance correlation, bias corrected", ctx$conf_level),
               list(new_number("distance_correlation", "distance correlation (not corrected)", out$dcor))), names = p$names, x = p$x, y = p$y,
                 direction = NA_real_)
    },
    script = function(ctx, res) c(script_pair(res), "n <- length(x)",
      "sums <- function(x, y) vapply(seq_len(n), function(i) { a <- abs(x - x[i]); b <- abs(y - y[i]); c(sum(a), sum(b), sum(a * b)) }, numeric(3))",
      paste0("parts <- function(s) { a <- s[1, ]; b <- s[2, ]; p <- sum(s[3, ]); c((p - 2 / (n - 2) * sum(a * b) + sum(a) * sum(b) / ",
          "((n - 1) * (n - 2))) / (n * (n - 3)), ",
             "p / n^2 + sum(a) * sum(b) / n^4 - 2 * sum(a * b) / n^3) }"),
      "xy <- parts(sums(x, y)); xx <- parts(sums(x, x)); yy <- parts(sums(y, y)); r <- xy[1] / sqrt(xx[1] * yy[1])",
      paste0("numbers <- list(statistic = n * r, p_value = pchisq(max(0, n * r + 1), 1, lower.tail = FALSE), estimate = r, conf_level = ",
          "conf_level, n = n, ",
             "distance_correlation = sqrt(max(0, xy[2]) / sqrt(xx[2] * yy[2])))")),
    references = c(paste0("Szekely, G. J., & Rizzo, M. L. (2014). Partial distance correlation with methods for dissimilarities. The Annals of ",
        "Statistics, 42, 2382-2412."),
                   paste0("Shen, C., Panda, S., & Vogelstein, J. T. (2022). The chi-square test of distance correlation. Journal of ",
                       "Computational and Graphical Statistics, 31, 254-262.")),
    label = "squared distance correlation", second = c("pearson", "spearman"), figure = function(ctx, res) figure_scatter(ctx, res$names[1],
      res$names[2]),
    say = function(res) sprintf(paste0("0 means independence, whatever the form of the relation; the p value is conservative. Without the ",
        "correction for bias the distance correlation is %s."),
                                say_unit(res$number$distance_correlation)))
}
