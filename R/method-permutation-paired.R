#' @noRd
method_permutation_paired <- function() {
  new_method(
    id = "permutation_paired", name = "Permutation test of paired differences", tasks = c("compare", "change"), families = "permutation_test",
    fits = function(shape) fits_conditions(shape, 38,
        "You asked for a permutation test, and the same units are measured twice.", 2L, kinds = c("number", "count", "ordered")),
    compute = function(ctx) {
      s <- paired_values(ctx)
      out <- stat_permutation_paired(s$difference, ctx$alternative, seed = ctx$seed)
      result(c(test_numbers(out[c("p_value", "estimate", "n")], "",
          sprintf("mean difference, %s minus %s", s$levels[1],
          s$levels[2]), ctx$conf_level), list(new_number("resamples", "sign patterns", out$resamples))),
             tables = list(conditions_table(s, ctx)), cells = s, exact = out$exact, means = colMeans(s$values))
    },
    second = c("t_paired", "wilcoxon_signed_rank"), figure = conditions_figure,
    sentences = function(ctx, res) {
      n <- res$number; s <- res$cells
      how <- if (res$exact) sprintf("all %s patterns of signs",
          say_number(n$resamples)) else sprintf("%s random patterns of signs, seed %s", say_number(n$resamples), format(ctx$seed, scientific = FALSE))
      text <- sprintf("Within the same units, %s %s between %s and %s: mean difference %s, %s.",
          if (length(ctx$reading$outcome) > 1) "the value" else outcome_words(ctx),
              if (isTRUE(n$p_value < 1 - ctx$conf_level)) "differs" else "does not clearly differ", s$levels[1], s$levels[2],
                      with_unit(say_number(n$estimate), outcome_column(ctx)$unit), say_p(n$p_value))
      list(headline = text, details = c(sprintf("The p value comes from %s.", how), say_units(s, ctx), say_rows(ctx)),
           write_up = sprintf("A permutation test of the paired differences (%s) gave a mean difference of %s, %s (n = %s).%s",
               how, say_number(n$estimate), say_p(n$p_value), say_number(n$n), write_rows(ctx)))
    },
    script = function(ctx, res) c(script_conditions(ctx), "d <- cells[, 1] - cells[, 2]; n <- length(d)",
      if (res$exact) "sums <- drop(as.matrix(expand.grid(rep(list(c(-1, 1)), n))) %*% d)"
      else c("RNGkind(\"L'Ecuyer-CMRG\")", sprintf("set.seed(%s)", format(ctx$seed, scientific = FALSE)),
          sprintf("sums <- vapply(seq_len(%d), function(i) sum(ifelse(runif(n) < 0.5, -d, d)), 1)", as.integer(res$number$resamples))),
      "observed <- sum(d); slack <- 1e-9 * sum(abs(d))",
      sprintf("hits <- %s", switch(ctx$alternative, two_sided = "sum(abs(sums) >= abs(observed) - slack)",
          greater = "sum(sums >= observed - slack)", less = "sum(sums <= observed + slack)")),
      if (res$exact) "p <- hits / length(sums)" else "p <- (hits + 1) / (length(sums) + 1)", paste0("numbers <- list(p_value = p,",
          " estimate = mean(d), conf_level = conf_level, n = n, resamples = length(sums))")),
    references = "Fisher, R. A. (1935). The Design of Experiments. Oliver & Boyd.", next_steps = function(ctx, res) "Use a paired t test")
}
