#' @noRd
method_dunnett <- function() {
  new_method(
    id = "dunnett", name = "Dunnett's comparisons with a control", tasks = "compare",
    fits = function(shape) fits_several_groups(shape, 42,
      "You asked for each group to be compared with the control; the number of comparisons is allowed for."),
    compute = compute_dunnett, checks = function(ctx, res) several_group_checks(ctx, res, TRUE),
    second = c("anova_welch", "kruskal_wallis"),
    figure = function(ctx, res) figure_groups(ctx, outcome_name(ctx), ctx$reading$by[1]), sentences = say_dunnett,
    script = script_dunnett,
    references = paste0("Dunnett, C. W. (1955). A multiple comparison procedure for comparing several treatments with a control. Journal of ",
        "the American Statistical Association, 50, 1096-1121."),
    next_steps = next_several_groups)
}

#' The level that the others are compared with: declared, else one that is called so, else the first
#' @noRd
control_level <- function(ctx, levels) {
  asked <- ctx$reading$extra$control
  declared <- if (identical(ctx$design$treatment, ctx$reading$by[1])) ctx$design$control
  named <- grep("^(control|placebo|reference|none|untreated|standard|usual care|baseline)$", levels, ignore.case = TRUE, value = TRUE)
  found <- intersect(c(asked, declared, named, levels[1]), levels)[1]
  match(found, levels)
}

compute_dunnett <- function(ctx) {
  s <- several_groups(ctx)
  control <- control_level(ctx, s$levels)
  if (length(s$levels) > 20) stop_data("Dunnett's comparisons are made for up to 20 groups.", class = "group_count")
  pairs <- stat_dunnett(s$moments, control, ctx$conf_level)
  one_way <- stat_anova_one_way(s$moments, ctx$conf_level)
  table <- pairs_table(pairs, s$levels, sprintf("Each group minus %s (Dunnett)", s$levels[control]))
  best <- which.min(pairs$p_adjusted)
  result(list(new_number("estimate", sprintf("largest difference, %s minus %s", s$levels[pairs$a[best]], s$levels[control]), pairs$estimate[best]),
              new_number("se", "standard error", pairs$se[best]), new_number("ci_low", "lower limit (all comparisons)", pairs$ci_low[best]),
              new_number("ci_high", "upper limit (all comparisons)", pairs$ci_high[best]), new_number("p_value", "p, all comparisons allowed for",
                pairs$p_adjusted[best]),
              new_number("df", "degrees of freedom", pairs$df[1]), new_number("conf_level", "confidence level", ctx$conf_level), new_number("n",
                "rows used", one_way$n)),
         tables = list(groups_table(ctx), table), levels = s$levels, values = s$values, moments = s$moments, pairs = table, control = control,
           best = best,
         direction = NA_real_)
}

say_dunnett <- function(ctx, res) {
  d <- res$pairs$data
  unit <- outcome_column(ctx)$unit
  y <- say_column(outcome_column(ctx)); control <- res$levels[res$control]
  item <- sprintf("%s %s (%s, adjusted %s)", d$level_a, with_unit(say_number(d$estimate), unit),
                  mapply(function(l, h) say_interval(l, h, ctx$conf_level), d$ci_low, d$ci_high), vapply(d$p_adjusted, say_p, ""))
  clear <- which(d$p_adjusted < 1 - ctx$conf_level)
  list(headline = if (length(clear)) sprintf("Against %s, %s differs in %s.", control, y, some_of(item[clear], 4))
         else sprintf("No group differs clearly from %s in %s; the nearest: %s.", control, y, item[res$best]),
       details = c(sprintf("Differences from %s: %s.", control, some_of(item, 6)), say_rows(ctx)),
       write_up = sprintf("%s was compared between each group and %s with Dunnett's procedure (%s): %s.%s", capital(y), control, write_groups(res),
                          paste(item, collapse = "; "), write_rows(ctx)))
}

script_dunnett <- function(ctx, res) {
  c(script_several_groups(ctx), sprintf("control <- %d; others <- setdiff(seq_len(k), control); df <- length(y) - k", as.integer(res$control)),
    paste0("estimate <- means[others] - means[control]; se <- sqrt(sum((size - 1) * spreads) / df * (1 / size[others] + 1 / size[control])); t ",
        "<- abs(estimate / se)"),
    "# probability that no |t| is larger than q: over the mean of the control (inner) and the pooled spread (outer)",
    "share <- sqrt(size[others] / (size[others] + size[control])); rest <- sqrt(1 - share^2)",
    paste0("inner <- function(s, q) integrate(function(z) dnorm(z) * apply(vapply(seq_along(share), function(i) pnorm((share[i] * z + q * s) / ",
        "rest[i]) - pnorm((share[i] * z - q * s) / rest[i]), z), 1, prod), -9, 9, rel.tol = 1e-11, subdivisions = 500)$value"),
    "ends <- sqrt(qchisq(c(1e-14, 1 - 1e-14), df) / df)",
    paste0("inside <- function(q) integrate(function(s) 2 * s * df * dchisq(s^2 * df, df) * vapply(s, inner, 1, q = q), ends[1], ends[2], ",
        "rel.tol = 1e-10, subdivisions = 500)$value"),
    "adjusted <- 1 - vapply(t, inside, 1); cut <- uniroot(function(q) inside(q) - conf_level, c(1, 8), tol = 1e-9)$root",
    paste0("tables$pairs <- data.frame(estimate = estimate, ci_low = estimate - cut * se, ci_high = estimate + cut * se, p_value = 2 * pt(-t, ",
        "df), p_adjusted = adjusted)"),
    sprintf("best <- %d", as.integer(res$best)),
    paste0("numbers <- list(estimate = estimate[best], se = se[best], ci_low = tables$pairs$ci_low[best], ci_high = ",
        "tables$pairs$ci_high[best], p_value = adjusted[best], df = df, conf_level = conf_level, n = length(y))"),
    script_groups(ctx))
}
