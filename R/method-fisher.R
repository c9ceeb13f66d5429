#' @noRd
method_fisher_exact <- function() {
  new_method(
    id = "fisher_exact", name = "Fisher's exact test", tasks = c("relate", "compare"),
    fits = function(shape) {
      if (!isTRUE(shape$two_by_two)) {
        if (is.null(shape$table_dim) || min(shape$table_dim) < 2) return(NULL)
        return(fits_table(shape, if (isTRUE(shape$small_expected)) 91 else 48,
            if (isTRUE(shape$small_expected)) "Some expected counts are small, so the exact test is used." else "You asked for the exact test."))
      }
      fits_table(shape, if (isTRUE(shape$small_expected)) 92 else 50,
                 if (isTRUE(shape$small_expected)) paste0("Both columns have two levels and some expected counts are ",
                                                          "small, so the exact test is used.") else "You asked for the exact test.")
    },
    compute = compute_fisher,
    checks = function(ctx, res) list(check_independent_rows(ctx$unit_values, ctx$unit_name)),
    second = "chi_square_independence",
    figure = function(ctx, res) figure_shares(ctx, res$names[1], res$names[2], res$counts),
    sentences = function(ctx, res) {
      if (is.null(res$effects)) return(say_fisher_table(ctx, res))
      n <- res$number
      a <- say_column(ctx$columns[[res$names[1]]]); b <- say_column(ctx$columns[[res$names[2]]])
      clear <- isTRUE(n$p_value < 1 - ctx$conf_level)
      interval <- say_interval(n$odds_ratio_low, n$odds_ratio_high, ctx$conf_level, function(v) say_number(v, 2))
      what <- if (clear) "associated" else "not clearly associated"
      list(headline = trimws(paste(say_asked_effect(ctx, res),
             sprintf("%s and %s are %s: Fisher's exact test, %s, odds ratio %s (%s), %s against %s.", capital(a), b, what,
                     say_p(n$p_value), say_number(n$odds_ratio, 2), interval, colnames(res$counts)[1], colnames(res$counts)[2]))),
           details = c(say_event_shares(ctx, res), say_rows(ctx)),
           write_up = sprintf("%s and %s were %s (Fisher's exact test, N = %s, %s; conditional odds ratio %s, %s).%s",
                              capital(a), b, what, say_number(n$n), say_p(n$p_value), say_number(n$odds_ratio, 2),
                              interval, write_rows(ctx)))
    },
    script = script_fisher,
    references = "Fisher, R. A. (1935). The logic of inductive inference. Journal of the Royal Statistical Society, 98, 39-82.",
    next_steps = function(ctx, res) sprintf("Cross-tabulate %s by %s", res$names[1], res$names[2]))
}

compute_fisher <- function(ctx) {
  t <- table_columns(ctx)
  if (!identical(dim(t$counts), c(2L, 2L))) return(compute_fisher_table(ctx, t))
  turned <- t(t$counts)[, 2:1]
  out <- stat_fisher_two_by_two(turned, ctx$conf_level, ctx$alternative)
  effects <- stat_two_by_two(turned, ctx$conf_level)
  labels <- two_by_two_labels(t$counts, t$names)
  result(c(test_numbers(out, "", "", ctx$conf_level), list(new_number("estimate", "conditional odds ratio",
      out$odds_ratio),
                                                           new_number("ci_low", "lower limit", out$odds_ratio_low),
                                                           new_number("ci_high", "upper limit", out$odds_ratio_high)),
           effect_numbers(out, list(odds_ratio = "conditional odds ratio")),
           effect_numbers(effects, labels[c("risk_difference", "risk_ratio")])),
         tables = list(crosstab_table(t$names, t$counts)), names = t$names, counts = t$counts, effects = effects,
         direction = sign(log(out$odds_ratio)))
}

#' Larger tables: the p value, and Cramer's V as the size
#' @noRd
compute_fisher_table <- function(ctx, t) {
  # beside another method it may take a moment only; asked for by name, a few seconds
  out <- stat_fisher_table(t$counts, ctx$seed, most = if (isTRUE(ctx$opinion)) 5e3 else 2e5)
  v <- stat_chi_square(t$counts, ctx$conf_level)
  result(c(list(new_number("p_value", if (out$exact) "p, exact" else "p, from random tables", out$p_value),
      new_number("estimate", "Cramer's V", v$cramers_v), new_number("ci_low", "lower limit", v$cramers_v_low),
                new_number("ci_high", "upper limit", v$cramers_v_high), new_number("conf_level", "confidence level",
                    ctx$conf_level), new_number("n", "rows used", out$n)),
           effect_numbers(v, list(cramers_v = "Cramer's V")), if (!out$exact) list(new_number("resamples", "random tables", out$tables))),
         tables = list(crosstab_table(t$names,
             t$counts)), names = t$names, counts = t$counts, exact = out$exact, effects = NULL, direction = NA_real_)
}

say_fisher_table <- function(ctx, res) {
  n <- res$number
  a <- say_column(ctx$columns[[res$names[1]]]); b <- say_column(ctx$columns[[res$names[2]]])
  what <- if (isTRUE(n$p_value < 1 - ctx$conf_level)) "associated" else "not clearly associated"
  how <- if (res$exact) "exact" else sprintf("from %s random tables with the same margins, seed %s",
      say_number(n$resamples), format(ctx$seed, scientific = FALSE))
  list(headline = sprintf("%s and %s are %s: Fisher's exact test, %s, Cramer's V = %s.", capital(a), b, what,
      say_p(n$p_value), say_unit(n$cramers_v)),
       details = c(sprintf("The p value is %s. The size is %s.", how, say_size(n$cramers_v, "v")), say_rows(ctx)),
       write_up = sprintf("%s and %s were %s (Fisher's exact test, N = %s, %s, %s; Cramer's V = %s).%s", capital(a), b,
           what, say_number(n$n), say_p(n$p_value), how, say_unit(n$cramers_v), write_rows(ctx)))
}

script_fisher_table <- function(ctx, res) {
  chi <- script_chi_square(ctx, list(names = res$names, counts = res$counts, effects = NULL, tables = res$tables,
      expected = NULL, residuals = NULL, numbers = list(), number = list()))
  c(chi, if (res$exact) "p <- fisher.test(counts, workspace = 2e8)$p.value"
    else c("RNGkind(\"L'Ecuyer-CMRG\", \"Inversion\", \"Rejection\")",
        sprintf("set.seed(%s); draws <- %d", format(ctx$seed, scientific = FALSE), as.integer(res$number$resamples)),
           paste0("drawn <- vapply(r2dtable(draws, rowSums(counts), colSums(counts)), function(t)",
               " -sum(lfactorial(t)), 1)"), "p <- (sum(drawn <= -sum(lfactorial(counts)) + 1e-7) + 1) / (draws + 1)"),
    sprintf(paste0("numbers <- c(list(p_value = p%s), numbers[c(\"conf_level\", \"n\", \"cramers_v\",",
        " \"cramers_v_low\", \"cramers_v_high\", \"estimate\", \"ci_low\", \"ci_high\")])"), if (res$exact) "" else ", resamples = draws"))
}

script_fisher <- function(ctx, res) {
  if (is.null(res$effects)) return(script_fisher_table(ctx, res))
  c(script_table(ctx, res),
    sprintf("test <- fisher.test(t(counts)[, 2:1], alternative = %s, conf.level = conf_level)",
            script_alternative(ctx)),
    "# conditional odds ratio and exact limits: fisher.test() solves for them to four digits only, so they are solved again",
    "turned <- t(counts)[, 2:1]; m <- sum(turned[, 1]); k <- sum(turned[1, ]); x <- turned[1, 1]",
    "support <- max(0, k - sum(turned[, 2])):min(k, m)",
    paste0("at <- function(log_or) { v <- dhyper(support, m, sum(turned[, 2]), k, log = TRUE) + log_or * support; v ",
           "<- exp(v - max(v)); v / sum(v) }"),
    "solve_or <- function(f) exp(uniroot(f, c(-10, 10), extendInt = \"yes\", tol = 1e-13)$root)",
    "tail <- (1 - conf_level) / 2; lowest <- x == min(support); highest <- x == max(support)",
    "odds <- if (lowest) 0 else if (highest) Inf else solve_or(function(l) sum(support * at(l)) - x)",
    "low <- if (lowest) 0 else solve_or(function(l) sum(at(l)[support >= x]) - tail)",
    "high <- if (highest) Inf else solve_or(function(l) sum(at(l)[support <= x]) - tail)",
    "stopifnot(isTRUE(all.equal(odds, unname(fisher.test(turned)$estimate), tolerance = 1e-3)))",
    script_two_by_two(),
    paste0("numbers <- c(list(p_value = test$p.value, conf_level = conf_level, n = sum(counts), estimate = odds, ",
           "ci_low = low, ci_high = high,"),
    "  odds_ratio = odds, odds_ratio_low = low, odds_ratio_high = high), effects[1:6])")
}
