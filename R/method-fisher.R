#' @noRd
method_fisher_exact <- function() {
  new_method(
    id = "fisher_exact", name = "Fisher's exact test", tasks = c("relate", "compare"),
    fits = function(shape) {
      if (!isTRUE(shape$two_by_two)) return(NULL)
      fits_table(shape, if (isTRUE(shape$small_expected)) 92 else 50,
                 if (isTRUE(shape$small_expected)) paste0("Both columns have two levels and some expected counts are ",
                                                          "small, so the exact test is used.") else "You asked for the exact test.")
    },
    compute = compute_fisher,
    checks = function(ctx, res) list(check_independent_rows(ctx$unit_values, ctx$unit_name)),
    second = "chi_square_independence",
    figure = function(ctx, res) figure_shares(ctx, res$names[1], res$names[2], res$counts),
    sentences = function(ctx, res) {
      n <- res$number
      a <- say_column(ctx$columns[[res$names[1]]]); b <- say_column(ctx$columns[[res$names[2]]])
      clear <- isTRUE(n$p_value < 1 - ctx$conf_level)
      interval <- say_interval(n$odds_ratio_low, n$odds_ratio_high, ctx$conf_level, function(v) say_number(v, 2))
      what <- if (clear) "associated" else "not clearly associated"
      list(headline = sprintf("%s and %s are %s: Fisher's exact test, %s, odds ratio %s (%s).", capital(a), b, what,
                              say_p(n$p_value), say_number(n$odds_ratio, 2), interval),
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
  if (!identical(dim(t$counts), c(2L, 2L))) {
    stop_data(sprintf("Fisher's exact test is carried out for tables of two by two; this one is %d by %d.",
                      nrow(t$counts), ncol(t$counts)),
                      todo = "Use the chi-square test, or name two levels of each column.", class = "table_size")
  }
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

script_fisher <- function(ctx, res) {
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
