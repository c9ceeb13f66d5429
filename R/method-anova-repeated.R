#' @noRd
method_anova_repeated <- function() {
  new_method(
    id = "anova_repeated", name = "Repeated-measures analysis of variance", tasks = c("compare", "change"),
    families = "anova",
    fits = function(shape) fits_conditions(shape, 92,
                                           paste("The same units are measured under more than two conditions;",
                                                            paste0("degrees of freedom are corrected for unequal ",
                                                                   "correlations (Greenhouse-Geisser).")),
                                             if (identical(shape$method_asked, "anova_repeated")) 2:60 else 3:60),
    compute = compute_anova_repeated,
    checks = function(ctx, res) list(check_sphericity(res$effects$within$epsilon, length(res$cells$levels)),
                                     check_residual_normal(res$residuals)),
    second = "friedman", figure = conditions_figure, sentences = say_anova_repeated, script = script_anova_repeated,
    references = c(paste0("Greenhouse, S. W., & Geisser, S. (1959). On methods in the analysis of profile data. ",
                          "Psychometrika, 24, 95-112."),
                   paste0("Huynh, H., & Feldt, L. S. (1976). Estimation of the Box correction for degrees of freedom. ",
                          "Journal of Educational Statistics, 1, 69-82.")),
    next_steps = function(ctx, res) c("Use Friedman's test", sprintf("Describe %s", ctx$reading$outcome[1])))
}

#' Numbers of one effect: the corrected test first, the uncorrected beside it
#' @noRd
within_numbers <- function(e, conf_level, units) {
  list(new_number("statistic", "F", e$statistic), new_number("df1", "df (conditions, corrected)", e$df1),
       new_number("df2", "df (error, corrected)", e$df2),
       new_number("p_value", "p (Greenhouse-Geisser)", e$p_value),
       new_number("conf_level", "confidence level", conf_level),
       new_number("n", "units", units), new_number("partial_eta_squared", "partial eta squared", e$partial_eta_squared),
       new_number("epsilon_gg", "epsilon, Greenhouse-Geisser", e$epsilon),
       new_number("epsilon_hf", "epsilon, Huynh-Feldt", e$epsilon_hf),
       new_number("p_uncorrected", "p without correction", e$p_uncorrected),
       new_number("p_hf", "p (Huynh-Feldt)", e$p_hf)) |>
    c(limit_numbers("partial_eta_squared", "partial eta squared", stat_share_limits(e$statistic, e$df1_full, e$df2_full, conf_level)))
}

effect_rows <- function(effects, names) {
  do.call(rbind, lapply(names(names), function(id) {
    e <- effects[[id]]
    data.frame(term = names[[id]], df = e$df1_full, sum_sq = e$ss, mean_sq = e$ss / e$df1_full, statistic = e$statistic,
               p_value = e$p_value,
               error_df = e$df2_full, error_sum_sq = e$ss_error, stringsAsFactors = FALSE)
  }))
}

#' Pairs of conditions by paired t tests, adjusted by Holm
#' @noRd
condition_pairs <- function(s, conf_level) {
  pair <- utils::combn(length(s$levels), 2)
  tests <- lapply(seq_len(ncol(pair)), function(i) {
    d <- s$values[, pair[1, i]] - s$values[, pair[2, i]]
    if (stat_group_moments(d)[, "m2"] <= 0) return(list(estimate = mean(d), ci_low = NA_real_, ci_high = NA_real_,
                                                        p_value = NA_real_))
    stat_t_one_sample(d, 0, conf_level)[c("estimate", "ci_low", "ci_high", "p_value")]
  })
  out <- as.data.frame(do.call(rbind, lapply(tests, unlist)))
  out$p_adjusted <- stats::p.adjust(out$p_value, "holm")
  cbind(a = pair[1, ], b = pair[2, ], out)
}

compute_anova_repeated <- function(ctx) {
  s <- unit_conditions(ctx)
  effects <- stat_anova_repeated(s$values)
  pairs <- pairs_table(condition_pairs(s, ctx$conf_level), s$levels, "Pairs of conditions (paired t tests, Holm)")
  anova <- new_table("anova", "Analysis of variance", effect_rows(effects,
      list(within = ctx$reading$by[1] %||% "condition")))
  residuals <- as.vector(sweep(s$values - rowMeans(s$values), 2, colMeans(s$values - rowMeans(s$values))))
  result(within_numbers(effects$within, ctx$conf_level, nrow(s$values)),
         tables = compact(list(conditions_table(s, ctx), pairs, anova)),
         cells = s, effects = effects, pairs = pairs, residuals = residuals, direction = NA_real_)
}

say_anova_repeated <- function(ctx, res) {
  n <- res$number
  s <- res$cells
  means <- colMeans(s$values)
  unit <- outcome_column(ctx)$unit
  high <- which.max(means); low <- which.min(means)
  shown <- with_unit(say_alike(means), unit)
  test <- sprintf("F(%s, %s) = %s, %s", say_df(n$df1), say_df(n$df2), say_number(n$statistic, 2), say_p(n$p_value))
  headline <- if (isTRUE(n$p_value < 1 - ctx$conf_level)) sprintf(paste0("Within the same units, %s %s over the ",
                                                                         "%d conditions: means from %s (%s) to %s ",
                                                                         "(%s), %s."), outcome_words(ctx),
                                                                         plural(length(unique(ctx$reading$outcome)), "changes", "change"),
                                                                         length(means), shown[low], s$levels[low],
                                                                         shown[high], s$levels[high], say_p(n$p_value))
    else sprintf(paste0("Within the same units, no clear change of %s over the %d conditions: means from %s (%s) to ",
                        "%s (%s), %s."), outcome_words(ctx), length(means), shown[low], s$levels[low], shown[high],
                        s$levels[high], say_p(n$p_value))
  details <- c(sprintf("%s with Greenhouse-Geisser correction (epsilon %s); partial eta squared %s: %s.", test,
                       say_unit(n$epsilon_gg), paste0(say_unit(n$partial_eta_squared), say_effect_limits(n, "partial_eta_squared", ctx$conf_level)),
                           say_size(n$partial_eta_squared, "eta")),
               say_pairs(res$pairs, 1 - ctx$conf_level, unit), say_units(s, ctx), say_rows(ctx))
  list(headline = headline, details = details,
       write_up = sprintf(paste0("%s was measured under %d conditions on the same %s units: %s (Greenhouse-Geisser, ",
                                 "epsilon = %s), partial eta squared = %s.%s"), capital(outcome_words(ctx)),
                                 length(means),
                          say_number(nrow(s$values)), test, say_unit(n$epsilon_gg), say_unit(n$partial_eta_squared),
                          write_rows(ctx)))
}

#' Script lines for sums of squares of conditions and units, and epsilons from the covariances of the conditions
#' @noRd
script_sphericity <- function(df_error, groups) {
  c("# departure from sphericity, from the covariances of orthonormal contrasts",
    "q <- contr.helmert(k); q <- sweep(q, 2, sqrt(colSums(q^2)), \"/\")",
    sprintf("error_products <- crossprod(resid(lm(cells %%*%% q ~ %s)))", groups), sprintf("df_error <- %s", df_error),
    "gg <- sum(diag(error_products))^2 / ((k - 1) * sum(error_products^2)); gg <- max(1 / (k - 1), min(1, gg))",
    "hf <- ((df_error + 1) * (k - 1) * gg - 2) / ((k - 1) * (df_error - (k - 1) * gg)); hf <- max(gg, min(1, hf))")
}

script_anova_repeated <- function(ctx, res) {
  c(script_conditions(ctx), "k <- ncol(cells); units <- nrow(cells)",
    paste0("long <- data.frame(value = as.vector(cells), unit = factor(rep(seq_len(units), k)), condition = ",
           "factor(rep(seq_len(k), each = units)))"),
    paste0("fit <- anova(lm(value ~ unit + condition, long)); f <- fit[\"condition\", \"F value\"]; ss <- ",
           "fit[c(\"condition\", \"Residuals\"), \"Sum Sq\"]; df <- fit[c(\"condition\", \"Residuals\"), \"Df\"]"),
    script_sphericity("units - 1", "1"), "tail_area <- function(e) pf(f, df[1] * e, df[2] * e, lower.tail = FALSE)",
    paste0("numbers <- list(statistic = f, df1 = df[1] * gg, df2 = df[2] * gg, p_value = tail_area(gg), conf_level = ",
           "conf_level, n = units, partial_eta_squared = ss[1] / sum(ss),"),
    "  epsilon_gg = gg, epsilon_hf = hf, p_uncorrected = tail_area(1), p_hf = tail_area(hf))",
    script_share_limits("partial_eta_squared", df = "df"),
    paste0("tables$anova <- data.frame(df = df[1], sum_sq = ss[1], mean_sq = ss[1] / df[1], statistic = f, p_value = ",
           "tail_area(gg), error_df = df[2], error_sum_sq = ss[2])"),
    paste0("pair <- combn(k, 2); tests <- lapply(seq_len(ncol(pair)), function(i) t.test(cells[, pair[1, i]], cells[, ",
           "pair[2, i]], paired = TRUE, conf.level = conf_level))"),
    "p <- vapply(tests, function(t) t$p.value, 1)",
    paste0("if (k <= 30) tables$pairs <- data.frame(estimate = vapply(tests, function(t) unname(t$estimate), 1), ",
           "ci_low = vapply(tests, function(t) t$conf.int[1], 1),"),
    "  ci_high = vapply(tests, function(t) t$conf.int[2], 1), p_value = p, p_adjusted = p.adjust(p, \"holm\"))")
}
