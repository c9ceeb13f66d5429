# Are two groups, or two occasions, practically the same?

#' Margin named in the question: "within 2 kg", "a margin of 0.5"
#' @noRd
equivalence_margin <- function(ctx) {
  margin <- ctx$reading$extra$margin
  if (is.null(margin) || !is.finite(margin) || margin <= 0) {
    stop_data("Equivalence needs a margin: the largest difference that counts as none.",
        todo = "Say it, such as \"equivalent within 2 kg\".", class = "no_margin")
  }
  margin
}

fits_equivalence <- function(shape, score, why) {
  two <- shape$n_outcome == 1 && shape$n_by == 1 && identical(shape$groups, 2L)
  pairs <- isTRUE(shape$paired) && isTRUE(shape$conditions == 2)
  if (shape$task != "equivalence" || !(two || pairs) || !shape$outcome_kind %in% c("number", "count", "ordered")) return(NULL)
  new_fit(score, why)
}

#' Difference of two groups (Welch) or of pairs, with its standard error
#' @section Shape: list(estimate, se, df, levels, means, tables, paired).
#' @noRd
difference_of <- function(ctx) {
  r <- ctx$reading
  if (length(r$outcome) == 2 && !length(r$by)) {
    ctx$reading$task <- "change"
    s <- paired_values(ctx)
    out <- stat_t_one_sample(s$difference, 0, ctx$conf_level)
    return(list(estimate = out$estimate, se = out$se, df = out$df, levels = s$levels, means = colMeans(s$values),
        tables = list(conditions_table(s, ctx)), paired = TRUE, n = length(s$difference)))
  }
  s <- two_groups(ctx)
  m <- two_group_moments(ctx)
  out <- t_welch_from_moments(m$a, m$b, ctx$conf_level)
  list(estimate = out$estimate, se = out$se, df = out$df, levels = s$levels,
      means = c(m$a[[1, "mean"]], m$b[[1, "mean"]]), tables = list(groups_table(ctx)), paired = FALSE,
       n = length(unlist(s$values)))
}

script_difference <- function(ctx, res) {
  if (res$difference$paired) return(c(script_conditions(ctx), "d <- cells[, 1] - cells[, 2]; test <- t.test(d); n <- length(d)"))
  c(script_two_groups(ctx), "test <- t.test(x, y); n <- length(x) + length(y)", script_groups(ctx))
}

#' @noRd
method_equivalence_t <- function() {
  new_method(
    id = "equivalence_t", name = "Two one-sided t tests of equivalence", tasks = "equivalence",
    fits = function(shape) fits_equivalence(shape, 90, "The question asks whether a difference is small enough to count as none."),
    compute = function(ctx) {
      margin <- equivalence_margin(ctx)
      d <- difference_of(ctx)
      out <- c(stat_equivalence(d$estimate, d$se, d$df, margin, 1 - ctx$conf_level), n = d$n)
      label <- sprintf("difference in means, %s minus %s", d$levels[1], d$levels[2])
      # the interval that decides has the level 1 - 2 alpha
      result(c(test_numbers(out, "t", label, 1 - 2 * (1 - ctx$conf_level)),
               list(new_number("margin", "margin", margin), new_number("p_lower", "p against a difference below the margin", out$p_lower),
                    new_number("p_upper", "p against a difference above the margin", out$p_upper))),
             tables = d$tables, difference = d, margin = margin, direction = NA_real_)
    },
    checks = function(ctx, res) if (res$difference$paired) list() else two_group_checks(ctx, c(two_groups(ctx), res)),
    second = "equivalence_ranks",
    figure = function(ctx, res) if (res$difference$paired) NULL else two_group_figure(ctx, res),
    sentences = function(ctx, res) say_margin(ctx, res, "equivalence"),
    script = function(ctx, res) c(script_difference(ctx, res), sprintf("margin <- %s", as_r_number(res$margin)),
      paste0("estimate <- if (length(test$estimate) > 1) test$estimate[[1]] - test$estimate[[2]] else",
          " test$estimate[[1]]; se <- test$stderr; df <- test$parameter[[1]]; alpha <- 1 - conf_level"),
      "t_low <- (estimate + margin) / se; t_high <- (estimate - margin) / se; p_low <- pt(t_low, df, lower.tail = FALSE); p_high <- pt(t_high, df)",
      "numbers <- list(statistic = if (p_low >= p_high) t_low else t_high, df = df, p_value = max(p_low, p_high), estimate = estimate, se = se,",
      paste0("  ci_low = estimate - qt(1 - alpha, df) * se, ci_high = estimate + qt(1 - alpha, df) * se,",
          " conf_level = 1 - 2 * alpha, n = n, margin = margin, p_lower = p_low, p_upper = p_high)")),
    references = paste0("Schuirmann, D. J. (1987). A comparison of the two one-sided tests procedure and",
        " the power approach. Journal of Pharmacokinetics and Biopharmaceutics, 15, 657-680."),
    next_steps = function(ctx,
        res) if (res$difference$paired) "What is in this data?" else sprintf("Does %s differ by %s?", outcome_name(ctx), ctx$reading$by[1]))
}

#' @noRd
method_noninferiority_t <- function() {
  new_method(
    id = "noninferiority_t", name = "t test of non-inferiority", tasks = "equivalence",
    fits = function(shape) fits_equivalence(shape, if (isTRUE(shape$noninferior)) 95 else 60,
        "The question asks whether one group is not worse than another by more than a margin."),
    compute = function(ctx) {
      margin <- equivalence_margin(ctx)
      d <- difference_of(ctx)
      better <- !isTRUE(ctx$reading$extra$lower_better)
      turned <- turn_difference(ctx, d)
      out <- c(stat_noninferiority(turned$estimate, d$se, d$df, margin, better, 1 - ctx$conf_level), n = d$n)
      label <- sprintf("difference in means, %s minus %s", turned$levels[1], turned$levels[2])
      result(c(test_numbers(out, "t", label, 1 - 2 * (1 - ctx$conf_level)), list(new_number("margin", "margin", margin))),
             tables = d$tables, difference = c(turned, d[c("paired",
                 "tables")]), margin = margin, turn = turned$turn, better = better, direction = NA_real_)
    },
    checks = function(ctx, res) if (res$difference$paired) list() else two_group_checks(ctx, c(two_groups(ctx), res)),
    second = "noninferiority_ranks",
    figure = function(ctx, res) if (res$difference$paired) NULL else two_group_figure(ctx, res),
    sentences = function(ctx, res) say_margin(ctx, res, "non-inferiority"),
    script = function(ctx, res) c(script_difference(ctx, res), sprintf("margin <- %s", as_r_number(res$margin)),
      sprintf(paste0("estimate <- %d * (if (length(test$estimate) > 1) test$estimate[[1]] -",
          " test$estimate[[2]] else test$estimate[[1]]); se <- test$stderr; df <- test$parameter[[1]];",
          " alpha <- 1 - conf_level"), res$turn),
      if (res$better) "t <- (estimate + margin) / se; p <- pt(t, df, lower.tail = FALSE)" else "t <- (estimate - margin) / se; p <- pt(t, df)",
      paste0("numbers <- list(statistic = t, df = df, p_value = p, estimate = estimate, se = se, ci_low =",
          " estimate - qt(1 - alpha, df) * se, ci_high = estimate + qt(1 - alpha, df) * se,"),
      "  conf_level = 1 - 2 * alpha, n = n, margin = margin)"),
    references = paste0("International Conference on Harmonisation (1998). ICH E9: Statistical principles for clinical trials. International ",
        "Conference on Harmonisation."),
    next_steps = function(ctx,
        res) if (res$difference$paired) "What is in this data?" else sprintf("Does %s differ by %s?", outcome_name(ctx), ctx$reading$by[1]))
}

#' The group named first in the question is the one that must not be worse; else a level other than the control
#' @noRd
turn_difference <- function(ctx, d) {
  named <- ctx$reading$extra$levels[1]
  control <- ctx$design$control %||% d$levels[grepl("control|placebo|standard|usual|reference", tolower(d$levels))][1]
  second_first <- isTRUE(named == d$levels[2]) || (is.null(named) && isTRUE(control == d$levels[1]))
  turn <- if (second_first) -1L else 1L
  list(estimate = turn * d$estimate, levels = if (second_first) rev(d$levels) else d$levels,
      means = if (second_first) rev(d$means) else d$means, turn = turn)
}

say_margin <- function(ctx, res, what) {
  n <- res$number; d <- res$difference
  unit <- outcome_column(ctx)$unit
  shown <- isTRUE(n$p_value < 1 - ctx$conf_level)
  y <- say_column(outcome_column(ctx))
  margin <- with_unit(say_number(n$margin), unit)
  interval <- say_interval(n$ci_low, n$ci_high, n$conf_level)
  verdict <- if (what == "equivalence") {
    if (shown) sprintf("%s and %s are equivalent in %s within %s", capital(d$levels[1]), d$levels[2], y, margin)
    else sprintf("Equivalence of %s and %s in %s within %s is not shown", d$levels[1], d$levels[2], y, margin)
  } else if (shown) sprintf("%s is not inferior to %s in %s by more than %s", capital(d$levels[1]), d$levels[2], y, margin)
    else sprintf("It is not shown that %s is no more than %s worse than %s in %s", d$levels[1], margin, d$levels[2], y)
  what_moved <- if (is.null(d$centre)) "difference" else "shift"
  text <- sprintf("%s: %s %s (%s), %s.", verdict, what_moved, with_unit(say_number(n$estimate), unit), interval, say_p(n$p_value))
  list(headline = text,
       details = c(sprintf("The %s are %s in %s and %s in %s.", d$centre %||% "means", with_unit(say_number(d$means[1]), unit), d$levels[1],
           with_unit(say_number(d$means[2]), unit), d$levels[2]),
                   if (!shown) paste0("A result that is not shown is no proof of the opposite: the interval",
                       " still allows differences beyond the margin."), say_rows(ctx)),
       write_up = sprintf("%s of %s between %s and %s was tested against a margin of %s: %s%s; %s %s, %s.%s",
           capital(what), y, d$levels[1], d$levels[2], margin,
                          if (is.null(d$centre)) sprintf("t(%s) = %s, ", say_df(n$df), say_number(n$statistic, 2)) else "rank tests, ",
                          say_p(n$p_value), what_moved, with_unit(say_number(n$estimate), unit), interval, write_rows(ctx)))
}
