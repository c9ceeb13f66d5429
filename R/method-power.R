# How large a sample is needed, or what a sample of a size can see.

#' @noRd
method_power_t <- function() power_method("power_t", "Sample size for two means (t test)", "mean")

#' @noRd
method_power_paired <- function() power_method("power_paired", "Sample size for pairs or one sample (t test)", "paired")

#' @noRd
method_power_equivalence <- function() power_method("power_equivalence", "Sample size for equivalence of two means (two one-sided tests)",
  "equivalence")

#' @noRd
method_power_noninferiority <- function() power_method("power_noninferiority", "Sample size for non-inferiority of two means (one-sided t test)",
  "noninferiority")

#' @noRd
method_power_proportions <- function() power_method("power_proportions", "Sample size for two shares", "share")

#' @noRd
method_power_correlation <- function() power_method("power_correlation", "Sample size for a correlation", "correlation")

#' @noRd
method_power_anova <- function() power_method("power_anova", "Sample size for several means (analysis of variance)", "anova")

power_method <- function(id, name, what) {
  new_method(
    id = id, name = name, tasks = "sample_size",
    fits = function(shape) if (shape$task == "sample_size" && identical(shape$plan$what, what)) new_fit(90,
        "The question asks how large a sample has to be."),
    compute = compute_power, figure = figure_power, sentences = say_power, script = script_power,
    references = "Cohen, J. (1988). Statistical Power Analysis for the Behavioral Sciences (2nd ed.). Erlbaum.")
}

#' Power at a size, for the plan of the question
#' @noRd
power_curve <- function(plan, alpha) {
  switch(plan$what,
    paired = function(n) power_of_paired(n, plan$effect, alpha), equivalence = function(n) power_of_equivalence(n, plan$effect, alpha),
    noninferiority = function(n) power_of_noninferiority(n, plan$effect, alpha),
    mean = function(n) power_of_t(n, plan$effect, alpha), share = function(n) power_of_proportions(n, plan$p1, plan$p2, alpha),
    correlation = function(n) power_of_correlation(n, plan$effect, alpha), anova = function(n) power_of_anova(n, plan$effect, plan$groups, alpha))
}

compute_power <- function(ctx) {
  plan <- ctx$reading$extra$plan
  alpha <- plan$alpha %||% 0.05
  if (isTRUE(plan$detect)) plan$effect <- detectable_effect(plan, alpha)
  power_at <- power_curve(plan, alpha)
  smallest <- if (plan$what == "correlation") 4.001 else 2.001
  exact <- if (is.null(plan$n)) stat_size_for(power_at, plan$power %||% 0.8, smallest) else plan$n
  n <- if (is.null(plan$n)) ceiling(exact - 1e-9) else plan$n
  groups <- switch(plan$what, correlation = 1, paired = 1, anova = plan$groups, 2)
  numbers <- list(new_number("n_per_group", if (groups == 1) "rows" else "rows per group", n),
      new_number("n", "rows in all", n * groups), new_number("n_exact", "size before rounding up", exact),
                  new_number("estimate",
                      if (isTRUE(plan$detect)) "smallest effect that is seen" else if (is.null(plan$n)) (if (groups == 1) "rows needed" else "rows needed per group") else "power",  # nolint: line_length_linter.
                          if (isTRUE(plan$detect)) plan$effect else if (is.null(plan$n)) n else power_at(n)),
                  new_number("power", "power at that size", power_at(n)), new_number("alpha", "significance level",
                      alpha), if (!is.null(plan$effect)) new_number("effect", "effect to be seen", plan$effect),
                  if (isTRUE(plan$detect) && !is.null(plan$sd)) new_number("effect_raw", "effect to be seen, in the units of the measure",
                                                                         plan$effect * plan$sd),
                  if (!is.null(plan$p1)) new_number("p1", "first share", plan$p1), if (!is.null(plan$p2)) new_number("p2", "second share", plan$p2))
  sizes <- unique(pmax(ceiling(smallest), round(n * c(0.25, 0.5, 0.75, 1, 1.25, 1.5, 2))))
  result(compact(numbers), tables = list(new_table("power", "Power by size",
      data.frame(n_per_group = sizes, power = vapply(sizes, power_at, 1)))), plan = plan, groups = groups, alpha = alpha, direction = NA_real_)
}

#' The smallest effect that a size sees with the power wanted
#' @noRd
detectable_effect <- function(plan, alpha) {
  wanted <- plan$power %||% 0.8
  top <- if (plan$what == "correlation") 0.999 else 50
  at <- function(e) { plan$effect <- e; power_curve(plan, alpha)(plan$n) - wanted }
  if (at(top) < 0) stop_data("A sample of that size reaches that power for no effect.", class = "unfit_data")
  stats::uniroot(at, c(1e-6, top), tol = 1e-10, maxiter = 1000)$root
}

say_power <- function(ctx, res) {
  n <- res$number
  plan <- res$plan
  # a smallest effect in the units in which the spread was named
  own <- plan$raw %||% if (isTRUE(plan$detect)) plan$effect * (plan$sd %||% NA)
  raw <- if (!is.null(plan$sd) && plan$what != "correlation") sprintf(" (%s with a standard deviation of %s)", say_number(own),
                                                                      say_number(plan$sd)) else ""
  effect <- switch(plan$what, mean = sprintf("a standardised difference of %s%s between two groups", say_number(plan$effect, 2), raw),
                   paired = sprintf("a mean change of %s standard deviations of the differences%s", say_number(plan$effect, 2), raw),
                   equivalence = sprintf("equivalence within a margin of %s standard deviations%s when there is no true difference",
                     say_number(plan$effect, 2), raw),
                   noninferiority = sprintf("that one group is not worse by more than %s standard deviations%s when there is no true difference",
                     say_number(plan$effect, 2), raw), share = sprintf("a difference between %s and %s", say_percent(plan$p1, 0),
                       say_percent(plan$p2, 0)),
                   correlation = sprintf("a correlation of %s",
                       say_unit(plan$effect)), anova = sprintf("an effect of f = %s between %d groups", say_number(plan$effect), plan$groups))
  size <- if (res$groups == 1) count_of(n$n, "row") else sprintf("%s per group, %s in all,", count_of(n$n_per_group, "row"), say_number(n$n))
  level <- switch(plan$what, equivalence = "one-sided level (twice)", noninferiority = "one-sided level", "two-sided level")
  headline <- if (isTRUE(plan$detect)) sprintf("With %s the smallest effect seen with a power of %s at a %s of %s is %s.", size,
    say_percent(plan$power %||% 0.8, 0), level, format_plain(res$alpha),
      effect) else if (is.null(plan$n)) sprintf("%s are needed to see %s with a power of %s at a %s of %s.",
      capital(size), effect, say_percent(plan$power %||% 0.8, 0), level, format_plain(res$alpha))
    else sprintf("With %s the power to see %s at a %s of %s is %s.", size, effect, level, format_plain(res$alpha), say_percent(n$power, 0))
  list(headline = headline, details = c(sprintf("At that size the power is %s.", say_percent(n$power, 1)),
      if (is.null(plan$of)) "Nothing of the data enters: the effect is the one that the question names. Allow for rows that will be lost."
      else sprintf("Of the data only the spread of %s enters; within groups it is a little smaller. Allow for rows that will be lost.", plan$of)),
          write_up = headline)
}

figure_power <- function(ctx, res) {
  power_at <- power_curve(res$plan, res$alpha)
  n <- res$number$n_per_group
  at <- seq(max(4, n * 0.2), n * 2, length.out = 80)
  d <- data.frame(n = at, power = vapply(at, power_at, 1))
  label <- if (res$groups == 1) "Rows" else "Rows per group"
  new_figure("power", "Power by sample size", "line", subtitle = "The dashed lines mark the size and its power.",
      alt = "Power by sample size: a rising curve.",
    draw = function() ggplot2::ggplot(d, ggplot2::aes(x = .data$n,
        y = .data$power)) + ggplot2::geom_hline(yintercept = res$number$power, linetype = "22", colour = quill_soft()) +
            ggplot2::geom_vline(xintercept = n, linetype = "22", colour = quill_soft()) +
      ggplot2::geom_line(colour = quill_colours(1), linewidth = 1.1) + ggplot2::scale_y_continuous(limits = c(0, 1),
          labels = function(x) paste0(round(100 * x), " %")) + ggplot2::labs(x = label, y = "Power"),
    script = c("plot_data <- data.frame(n = sizes, power = vapply(sizes, power_at, 1))",
        "plot <- ggplot(plot_data, aes(n, power)) + geom_line() + theme_minimal()"))
}

script_power <- function(ctx, res) {
  plan <- res$plan
  body <- switch(plan$what,
    paired = c(sprintf("effect <- %s", as_r_number(plan$effect)),
      "power_at <- function(n) power.t.test(n = n, delta = effect, sd = 1, sig.level = alpha, type = \"paired\", strict = TRUE)$power"),
    equivalence = c(sprintf("effect <- %s", as_r_number(plan$effect)),
      paste0("power_at <- function(n) { df <- 2 * n - 2; cut <- qt(1 - alpha, df); inside <- function(s) pmax(0, 2 * pnorm(effect * sqrt(n / ",
          "2) - cut * s) - 1)"),
      paste0("  ends <- sqrt(qchisq(c(1e-14, 1 - 1e-14), df) / df); integrate(function(s) inside(s) * 2 * s * df * dchisq(s^2 * df, df), ",
          "ends[1], ends[2], rel.tol = 1e-11, subdivisions = 2000)$value }")),
    noninferiority = c(sprintf("effect <- %s", as_r_number(plan$effect)),
      "power_at <- function(n) power.t.test(n = n, delta = effect, sd = 1, sig.level = alpha, alternative = \"one.sided\")$power"),
    mean = c(sprintf("effect <- %s", as_r_number(plan$effect)),
        "power_at <- function(n) power.t.test(n = n, delta = effect, sd = 1, sig.level = alpha, strict = TRUE)$power"),
    share = c(sprintf("p1 <- %s; p2 <- %s", as_r_number(plan$p1), as_r_number(plan$p2)),
        "power_at <- function(n) power.prop.test(n = n, p1 = p1, p2 = p2, sig.level = alpha)$power"),
    anova = c(sprintf("effect <- %s; k <- %d", as_r_number(plan$effect), as.integer(plan$groups)),
        "power_at <- function(n) power.anova.test(groups = k, n = n, between.var = effect^2 * k / (k - 1), within.var = 1, sig.level = alpha)$power"),
    correlation = c(sprintf("effect <- %s", as_r_number(plan$effect)),
        paste0("power_at <- function(n) { t <- qt(1 - alpha / 2, n - 2); critical <- atanh(sqrt(t^2 / (t^2",
            " + n - 2))); z <- atanh(abs(effect)) + abs(effect) / (2 * (n - 1))"),
      "  pnorm((z - critical) * sqrt(n - 3)) + pnorm((-z - critical) * sqrt(n - 3)) }"))
  c(sprintf("alpha <- %s; power <- %s", as_r_number(res$alpha), as_r_number(plan$power %||% 0.8)), body,
    if (is.null(plan$n)) sprintf(paste0("exact <- uniroot(function(n) power_at(n) - power, c(%s, 1e7), tol",
        " = 1e-9, maxiter = 1000)$root; n <- ceiling(exact - 1e-9)"), if (plan$what == "correlation") "4.001" else "2.001")
    else sprintf("exact <- n <- %s", as_r_number(plan$n)),
    sprintf("sizes <- unique(pmax(%d, round(n * c(0.25, 0.5, 0.75, 1, 1.25, 1.5, 2))))",
        if (plan$what == "correlation") 5L else 3L), "tables <- list(power = data.frame(n_per_group = sizes, power = vapply(sizes, power_at, 1)))",
    sprintf("numbers <- list(n_per_group = n, n = n * %d, n_exact = exact, estimate = %s, power = power_at(n), alpha = alpha)",
        as.integer(res$groups), if (isTRUE(plan$detect)) "effect" else if (is.null(plan$n)) "n" else "power_at(n)"),
    if (!is.null(plan$effect)) "numbers$effect <- effect",
    if (isTRUE(plan$detect) && !is.null(plan$sd)) sprintf("numbers$effect_raw <- effect * %s", as_r_number(plan$sd)), if (!is.null(plan$p1)) "numbers <- c(numbers, list(p1 = p1, p2 = p2))")  # nolint: line_length_linter.
}
