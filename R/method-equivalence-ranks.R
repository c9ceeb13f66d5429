# Equivalence and non-inferiority by ranks: the shift of two groups, or of pairs, against a margin.

#' @noRd
method_equivalence_ranks <- function() {
  new_method(
    id = "equivalence_ranks", name = "Two one-sided rank tests of equivalence", tasks = "equivalence",
    fits = function(shape) if (!isTRUE(shape$noninferior)) fits_equivalence(shape, 40, "You asked for a test of equivalence by ranks."),
    compute = function(ctx) compute_margin_ranks(ctx, c("lower", "upper")), checks = margin_rank_checks, second = "equivalence_t",
    figure = function(ctx, res) if (res$difference$paired) NULL else two_group_figure(ctx, res),
    sentences = function(ctx, res) say_margin(ctx, res, "equivalence"), script = script_margin_ranks, references = margin_rank_references(),
    next_steps = function(ctx, res) method_equivalence_t()$next_steps(ctx, res))
}

#' @noRd
method_noninferiority_ranks <- function() {
  new_method(
    id = "noninferiority_ranks", name = "Rank test of non-inferiority", tasks = "equivalence",
    fits = function(shape) if (isTRUE(shape$noninferior)) fits_equivalence(shape, 40, "You asked for a test of non-inferiority by ranks."),
    compute = function(ctx) compute_margin_ranks(ctx, if (isTRUE(ctx$reading$extra$lower_better)) "upper" else "lower"),
    checks = margin_rank_checks, second = "noninferiority_t",
    figure = function(ctx, res) if (res$difference$paired) NULL else two_group_figure(ctx, res),
    sentences = function(ctx, res) say_margin(ctx, res, "non-inferiority"), script = script_margin_ranks, references = margin_rank_references(),
    next_steps = function(ctx, res) method_noninferiority_t()$next_steps(ctx, res))
}

margin_rank_references <- function() c(
  "Wellek, S. (2010). Testing Statistical Hypotheses of Equivalence and Noninferiority (2nd ed.). Chapman & Hall/CRC.",
  "Hodges, J. L., & Lehmann, E. L. (1963). Estimates of location based on rank tests. Annals of Mathematical Statistics, 34, 598-611.")

margin_rank_checks <- function(ctx, res) if (res$difference$paired) list() else
  list(check_independent_rows(ctx$unit_values, ctx$unit_name), check_same_shape(res$values, res$levels))

#' The shift of what was compared, tested against the sides of the margin that matter
#'
#' The interval has the level 1 - 2 alpha, as that of the t tests, and comes from the same ranks.
#' @param sides "lower" (the shift lies above minus the margin), "upper" (below the margin), or both.
#' @noRd
compute_margin_ranks <- function(ctx, sides) {
  margin <- equivalence_margin(ctx)
  inner <- 1 - 2 * (1 - ctx$conf_level)
  paired <- length(ctx$reading$outcome) == 2 && !length(ctx$reading$by)
  if (paired) ctx$reading$task <- "change"
  s <- if (paired) paired_values(ctx) else two_groups(ctx)
  a <- if (paired) s$difference else s$values[[1]]
  b <- if (!paired) s$values[[2]]
  # a test of non-inferiority is told for the group that must not be worse
  turned <- if (length(sides) == 1) turn_difference(ctx, list(estimate = 1, levels = s$levels, means = 1:2)) else list(turn = 1L, levels = s$levels)
  if (turned$turn < 0) { hold <- a; a <- if (paired) -a else b; b <- if (!paired) hold }
  # (a sum of decimals is rounded to what it means, so that ties stay ties)
  moved <- function(shift) if (shift == 0) a else signif(a + shift, 12)
  test <- function(shift, way) if (paired) stat_signed_rank(moved(shift), inner, way) else stat_mann_whitney(moved(shift), b, inner, way)
  out <- list(lower = if ("lower" %in% sides) test(margin, "greater"), upper = if ("upper" %in% sides) test(-margin, "less"))
  p <- vapply(compact(out), `[[`, 1, "p_value")
  plain <- test(0, "two_sided")
  medians <- if (paired) apply(s$values, 2, stats::median) else vapply(s$values, stats::median, 1)
  numbers <- test_numbers(list(p_value = max(p), estimate = plain$estimate + 0, ci_low = plain$ci_low + 0, ci_high = plain$ci_high + 0, n = plain$n), "",  # nolint: line_length_linter.
                          sprintf("shift (Hodges-Lehmann), %s minus %s", turned$levels[1], turned$levels[2]), inner)
  both <- length(p) == 2
  result(c(numbers, list(new_number("margin", "margin", margin)), if (both) list(
           new_number("p_lower", "p against a shift below the margin", p[["lower"]]),
           new_number("p_upper", "p against a shift above the margin", p[["upper"]]))),
         tables = list(if (paired) conditions_table(s, ctx) else groups_table(ctx)), margin = margin, sides = sides, turn = turned$turn,
         exact = compact(out)[[1]]$exact, values = if (!paired) s$values, levels = s$levels, ns = c(length(a), length(b)), direction = NA_real_,
         difference = list(paired = paired, levels = turned$levels, means = if (turned$turn < 0) rev(medians) else medians, centre = "medians"))
}

script_margin_ranks <- function(ctx, res) {
  paired <- res$difference$paired
  one <- function(side) {
    way <- if (side == "lower") "greater" else "less"
    side_ctx <- list(conf_level = ctx$conf_level, alternative = way)
    c(sprintf("# against a shift %s the margin", if (side == "lower") "below minus" else "above"),
      if (paired) script_signed_rank_core(side_ctx, res$exact, Inf, sprintf("signif(d0 %s margin, 12)", if (side == "lower") "+" else "-"))
      else c(sprintf("x <- signif(x0 %s margin, 12)", if (side == "lower") "+" else "-"), script_rank_sum(side_ctx, res$exact)),
      sprintf("p_%s <- p", side))
  }
  lines <- if (paired) c(script_conditions(ctx), sprintf("d0 <- %s(cells[, 1] - cells[, 2])", if (res$turn < 0) "-" else ""))
    else c(script_two_groups(ctx), if (res$turn < 0) "hold <- x; x <- y; y <- hold", "x0 <- x")
  small <- prod(as.numeric(if (paired) c(res$ns[1], res$ns[1]) else res$ns)) <= 2.5e7
  c(lines, sprintf("margin <- %s; level <- 1 - 2 * (1 - conf_level)", as_r_number(res$margin)), unlist(lapply(res$sides, one)),
    if (!small) "# not compared: the shift (a table of all pairs would not fit into memory)"
    else if (paired) script_pseudo_median("d0", "level") else script_shift("x0", "level"),
    sprintf("numbers <- list(p_value = max(%s), %sconf_level = level, n = %s, margin = margin%s)", paste0("p_", res$sides, collapse = ", "),
            if (small) "estimate = shift[1], ci_low = shift[2], ci_high = shift[3], " else "", if (paired) "length(d0)" else "length(x0) + length(y)",
            if (length(res$sides) == 2) ", p_lower = p_lower, p_upper = p_upper" else ""),
    if (!paired) script_groups(ctx))
}
