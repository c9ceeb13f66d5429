#' @noRd
method_permutation_means <- function() {
  new_method(
    id = "permutation_means", name = "Permutation test of the means", tasks = "compare", families = "permutation_test",
    fits = function(shape) fits_two_groups(shape, 45,
                                           paste0("You asked for a permutation test, which rests on nothing but the ",
                                                  "exchange of group labels.")),
    compute = compute_permutation,
    checks = function(ctx, res) list(check_independent_rows(ctx$unit_values, ctx$unit_name),
                                     check_equal_spread(res$values, res$levels, FALSE),
                                     check_far_values(res$values, res$levels)),
    second = c("t_welch", "mann_whitney"),
    figure = two_group_figure,
    sentences = function(ctx, res) {
      n <- res$number
      how <- if (res$exact) sprintf("all %s relabellings",
                                    say_number(res$resamples)) else sprintf("%s random relabellings, seed %s",
                                        say_number(res$resamples), format(ctx$seed, scientific = FALSE))
      write_up <- sprintf(paste0("The means of %s in %s (M = %s) and %s (M = %s) were compared with a permutation ",
                                 "test (%s): difference %s, %s.%s"), say_column(outcome_column(ctx)), res$levels[1],
        say_number(res$means[1]), res$levels[2], say_number(res$means[2]), how, say_number(n$estimate),
        say_p(n$p_value), write_rows(ctx))
      say_two_groups(ctx, res, list(measure = "mean", values = res$means,
                                    details = sprintf("The p value comes from %s.", how), write_up = write_up))
    },
    script = function(ctx, res) c(script_two_groups(ctx), script_permutation(ctx, res), script_groups(ctx)),
    references = c(paste0("Pitman, E. J. G. (1937). Significance tests which may be applied to samples from any ",
                          "populations. Supplement to the Journal of the Royal Statistical Society, 4, 119-130."),
                   paste0("Phipson, B., & Smyth, G. K. (2010). Permutation p-values should never be zero. Statistical ",
                          "Applications in Genetics and Molecular Biology, 9, Article 39.")),
    next_steps = next_two_groups)
}

compute_permutation <- function(ctx) {
  s <- two_groups(ctx)
  out <- stat_permutation_means(s$values[[1]], s$values[[2]], ctx$alternative, seed = ctx$seed)
  result(c(test_numbers(out, "", sprintf("difference in means, %s minus %s", s$levels[1], s$levels[2]), ctx$conf_level),
           permutation_effects(s, ctx$conf_level), list(new_number("resamples", "relabellings", out$resamples))),
         tables = list(groups_table(ctx)), levels = s$levels, values = s$values, means = vapply(s$values, mean, 1),
         exact = out$exact, resamples = out$resamples)
}

#' The standardised difference beside the p value, where both groups can have one
#' @noRd
permutation_effects <- function(s, conf_level) {
  if (any(lengths(s$values) < 2)) return(NULL)
  m <- lapply(s$values, stat_group_moments)
  if (m[[1]][, "m2"] + m[[2]][, "m2"] <= 0) return(NULL)
  effect_numbers(stat_standardised_difference(m[[1]], m[[2]], conf_level), list(cohens_d = "Cohen's d", hedges_g = "Hedges' g"))
}

script_permutation <- function(ctx, res) {
  hits <- switch(ctx$alternative, two_sided = "sum(abs(differences) >= abs(observed) - slack)",
                 greater = "sum(differences >= observed - slack)", less = "sum(differences <= observed + slack)")
  c("observed <- mean(x) - mean(y)", "centred <- c(x, y) - mean(c(x, y))",
    "m <- length(x); n <- length(y); few <- min(m, n)",
    if (res$exact) "sums <- combn(centred, few, sum)  # every way to choose the smaller group"
    else c("# random relabellings: the generator, its streams (one for every 500) and the order of draws are those of the engine",
           "RNGkind(\"L'Ecuyer-CMRG\")", sprintf("set.seed(%s)", format(ctx$seed, scientific = FALSE)),
           "stream <- .Random.seed", sprintf("resamples <- %d", as.integer(res$resamples)),
           "sums <- numeric(resamples)",
           "for (start in seq(1, resamples, by = 500)) {", "  assign(\".Random.seed\", stream, envir = globalenv())",
           "  deck <- centred",
           "  for (r in start:min(resamples, start + 499)) {",
           "    u <- runif(few); i <- seq_len(few); j <- i + floor(u * (m + n - i + 1))",
           "    for (k in i) { hold <- deck[k]; deck[k] <- deck[j[k]]; deck[j[k]] <- hold }",
           "    sums[r] <- sum(deck[i])", "  }",
           "  stream <- parallel::nextRNGStream(stream)", "}"),
    "differences <- sums * (1 / few + 1 / (m + n - few)) * (if (few == m) 1 else -1)",
    "slack <- 1e-9 * max(abs(centred))", sprintf("hits <- %s", hits),
    if (res$exact) "p <- hits / length(sums)" else "p <- (hits + 1) / (length(sums) + 1)",
    "numbers <- list(p_value = p, estimate = observed, conf_level = conf_level, n = m + n, resamples = length(sums))",
    if (!is.null(res$number$cohens_d)) script_standardised(ctx))
}
