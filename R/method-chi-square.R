#' @noRd
method_chi_square_independence <- function() {
  new_method(
    id = "chi_square_independence", name = "Chi-square test of independence", tasks = c("relate", "compare"),
    fits = function(shape) fits_table(shape, if (isTRUE(shape$small_expected)) 70 else 90,
                                      "Both columns are categories, so their independence is tested on the table of counts."),
    compute = compute_chi_square,
    checks = function(ctx, res) list(check_independent_rows(ctx$unit_values, ctx$unit_name),
                                     check_expected_counts(res$expected)),
    second = "fisher_exact",
    figure = function(ctx, res) figure_shares(ctx, res$names[1], res$names[2], res$counts),
    sentences = say_chi_square, script = script_chi_square,
    references = c(paste0("Pearson, K. (1900). On the criterion that a given system of deviations ... Philosophical ",
                          "Magazine, 50, 157-175."),
                   paste0("Newcombe, R. G. (1998). Interval estimation for the difference between independent ",
                          "proportions. Statistics in Medicine, 17, 873-890.")),
    next_steps = function(ctx, res) c("Use Fisher's exact test",
                                      sprintf("Cross-tabulate %s by %s", res$names[1], res$names[2])))
}

#' Two columns of levels
#' @noRd
fits_table <- function(shape, score, why) {
  ok <- shape$task %in% c("relate", "compare", "advise", "figure") && length(shape$pair_kinds) == 2 &&
    all(shape$pair_groups) && !length(shape$adjust) && is.null(shape$null_value)
  if (!ok) return(NULL)
  # the mix of levels is a matter of the table, also where the levels are ordered
  if (isTRUE(shape$mix) && all(shape$pair_kinds %in% c("category", "yes_no", "ordered"))) return(new_fit(score + 7, why))
  # a measured or ordered outcome in groups is compared, not cross-tabulated, unless the table is asked for by name
  if (shape$task == "compare" && shape$outcome_kind %in% c("number", "count", "ordered") &&
      !all(shape$pair_kinds %in% c("ordered"))) score <- score - 75
  plain <- all(shape$pair_kinds %in% c("category", "yes_no")) ||
    (shape$task == "relate" && any(shape$pair_kinds %in% c("category", "yes_no")) &&
     !any(shape$pair_kinds %in% c("number"))) ||
    (!any(shape$pair_kinds %in% c("number", "count")) && any(shape$pair_kinds %in% c("category", "yes_no")) &&
     shape$outcome_kind != "ordered")
  score <- if (plain) score else score - 55
  if (score > 0) new_fit(score, why)
}

#' The two columns as factors: what is explained in the rows, the groups in the columns
#' @noRd
table_columns <- function(ctx) {
  names <- unique(c(ctx$reading$outcome, ctx$reading$by, ctx$reading$predictors))[1:2]
  a <- as_group(ctx$frame$data[[names[1]]]); b <- as_group(ctx$frame$data[[names[2]]])
  counts <- stat_cross_counts(a, b, nlevels(a), nlevels(b))
  dimnames(counts) <- list(levels(a), levels(b))
  if (min(dim(counts)) < 2) {
    one <- names[which(dim(counts) < 2)[1]]
    stop_data(sprintf("%s has only one level in these rows, so there is nothing to compare.", quoted(one)),
              class = "one_group")
  }
  list(names = names, counts = counts)
}

crosstab_table <- function(names, counts) {
  cells <- expand.grid(a = rownames(counts), b = colnames(counts), stringsAsFactors = FALSE)
  data <- stats::setNames(cells, names)
  expected <- outer(rowSums(counts), colSums(counts)) / sum(counts)
  data$n <- as.vector(counts)
  data$percent_row <- as.vector(100 * counts / rowSums(counts))
  data$percent_column <- as.vector(100 * t(t(counts) / colSums(counts)))
  data$percent <- as.vector(100 * counts / sum(counts))
  data$expected <- as.vector(expected)
  # standard normal if the columns were independent: beyond 2 a cell stands out (Haberman, 1973)
  data$adjusted_residual <- as.vector((counts - expected) / sqrt(expected * outer(1 - rowSums(counts) / sum(counts),
    1 - colSums(counts) / sum(counts))))
  new_table("crosstab", sprintf("%s by %s", names[1], names[2]), data)
}

#' Effects of a 2 x 2 table: the event is the last level of the row column, groups are the column's levels
#' @noRd
two_by_two_effects <- function(counts, conf_level) {
  if (!identical(dim(counts), c(2L, 2L))) return(NULL)
  stat_two_by_two(t(counts)[, 2:1], conf_level)
}

two_by_two_labels <- function(counts, names) {
  what <- sprintf("%s = %s, %s against %s", names[1], rownames(counts)[2], colnames(counts)[1], colnames(counts)[2])
  list(risk_difference = paste("risk difference,", what), risk_ratio = paste("risk ratio,", what),
       odds_ratio = paste("odds ratio,", what))
}

compute_chi_square <- function(ctx) {
  t <- table_columns(ctx)
  out <- stat_chi_square(t$counts, ctx$conf_level)
  effects <- two_by_two_effects(t$counts, ctx$conf_level)
  numbers <- c(test_numbers(out, "chi-square", "", ctx$conf_level), effect_numbers(out, list(cramers_v = "Cramer's V")),
               list(new_number("cramers_v_corrected", "Cramer's V, bias-corrected", out$cramers_v_corrected)),
               if (!is.null(effects)) c(list(new_number("estimate", "risk difference", effects$risk_difference),
                                             new_number("ci_low", "lower limit", effects$risk_difference_low),
                                             new_number("ci_high", "upper limit", effects$risk_difference_high),
                                             new_number("phi", "phi", sqrt(out$statistic / out$n)),
                                             new_number("phi_low", "phi, lower limit", out$cramers_v_low),
                                             new_number("phi_high", "phi, upper limit", out$cramers_v_high)),
                                             effect_numbers(effects, two_by_two_labels(t$counts, t$names)))
               else list(new_number("estimate", "Cramer's V", out$cramers_v),
                         new_number("ci_low", "lower limit", out$cramers_v_low),
                         new_number("ci_high", "upper limit", out$cramers_v_high)))
  result(asked_ratio_first(ctx, numbers), tables = list(crosstab_table(t$names, t$counts)), names = t$names, counts = t$counts,
         expected = out$expected, residuals = out$residuals, effects = effects,
         direction = if (is.null(effects)) NA_real_ else sign(effects$risk_difference))
}

say_chi_square <- function(ctx, res) {
  n <- res$number
  a <- say_column(ctx$columns[[res$names[1]]]); b <- say_column(ctx$columns[[res$names[2]]])
  clear <- isTRUE(n$p_value < 1 - ctx$conf_level)
  headline <- sprintf("%s and %s are %s: chi-square(%s) = %s, %s, Cramer's V = %s.", capital(a), b,
                      if (clear) "associated" else "not clearly associated", say_number(n$df),
                      say_number(n$statistic, 2), say_p(n$p_value), say_unit(n$cramers_v))
  if (!is.null(res$effects)) headline <- trimws(paste(say_asked_effect(ctx, res), say_two_shares(ctx, res, clear)))
  far <- which(abs(res$residuals) == max(abs(res$residuals)), arr.ind = TRUE)[1, ]
  details <- c(say_asked_shares(ctx, res), say_two_by_two(ctx, res),
               if (clear && is.null(res$effects)) sprintf(paste0("The cell furthest from independence is %s with %s: ",
                                                                 "%s rows where %s would be expected."),
                                                                 rownames(res$counts)[far[1]],
    colnames(res$counts)[far[2]], say_number(res$counts[far[1], far[2]]), say_number(res$expected[far[1], far[2]])),
    sprintf("The size is %s.", say_size(n$cramers_v, "v")), say_rows(ctx))
  write_up <- sprintf("%s and %s were %s, chi-square(%s, N = %s) = %s, %s, Cramer's V = %s, %s.%s", capital(a), b,
                      if (clear) "associated" else "not clearly associated", say_number(n$df), say_number(n$n),
                      say_number(n$statistic, 2), say_p(n$p_value), say_unit(n$cramers_v),
                      say_interval(n$cramers_v_low, n$cramers_v_high, ctx$conf_level, say_unit), write_rows(ctx))
  list(headline = headline, details = details, write_up = write_up)
}

#' The shares of the event in two groups, side by side
#' @noRd
say_two_shares <- function(ctx, res, clear) {
  n <- res$number
  shares <- res$counts[2, ] / colSums(res$counts)
  what <- sprintf("%s %s", say_column(ctx$columns[[res$names[1]]]), rownames(res$counts)[2])
  points <- function(v) say_points(v)
  sides <- say_sides(ctx, colnames(res$counts), res$names[2])
  sprintf("%s: %s in %s and %s in %s, %s apart (%s; %s).", capital(what), say_percent(shares[1]), sides[1], say_percent(shares[2]), sides[2],
          if (clear) points(abs(n$risk_difference)) else sprintf("not clearly different, %s", points(abs(n$risk_difference))),
          if (is.null(n$statistic)) "Fisher's exact test" else sprintf("chi-square(%s) = %s", say_number(n$df), say_number(n$statistic, 2)),
            say_p(n$p_value))
}

#' The shares of the level asked about, group by group, where no other sentence holds them
#' @noRd
say_asked_shares <- function(ctx, res) {
  event <- ctx$reading$extra$event
  levels <- rownames(res$counts)
  if (!identical(event$column, res$names[1]) || !event$op %in% c("==", "in") || !all(as.character(event$value) %in% levels)) return(NULL)
  if (!is.null(res$effects) && identical(as.character(event$value), levels[2])) return(NULL)
  shares <- colSums(res$counts[as.character(event$value), , drop = FALSE]) / colSums(res$counts)
  item <- sprintf("%s in %s", vapply(shares, say_percent, ""), colnames(res$counts))
  sprintf("%s: %s.", capital(plain_filter(event)), some_of(item[order(-shares)], 8))
}

#' The ratio that the question asks for becomes the estimate
#' @noRd
asked_ratio_first <- function(ctx, numbers) {
  id <- ctx$reading$extra$effect
  ids <- vapply(numbers, `[[`, "", "id")
  if (!isTRUE(id %in% c("risk_ratio", "odds_ratio", "cramers_v")) || !all(c(id, "estimate") %in% ids)) return(numbers)
  for (pair in list(c("estimate", id), c("ci_low", paste0(id, "_low")), c("ci_high", paste0(id, "_high")))) {
    from <- numbers[[match(pair[2], ids)]]
    numbers[[match(pair[1], ids)]] <- new_number(pair[1], from$label, from$value)
  }
  numbers
}

#' @noRd
script_asked_ratio <- function(ctx) {
  id <- ctx$reading$extra$effect
  if (!isTRUE(id %in% c("risk_ratio", "odds_ratio", "cramers_v"))) return(NULL)
  sprintf("if (!is.null(numbers$%1$s)) numbers[c(\"estimate\", \"ci_low\", \"ci_high\")] <- numbers[c(\"%1$s\", \"%1$s_low\", \"%1$s_high\")]", id)
}

#' An effect that the question names comes first
#' @noRd
say_asked_effect <- function(ctx, res) {
  id <- ctx$reading$extra$effect
  n <- res$number
  if (is.null(id) || is.null(n[[id]])) return("")
  if (id == "cramers_v") return(sprintf("Cramer's V is %s (%s); corrected for the bias of small tables %s.", say_unit(n$cramers_v),
                                        say_interval(n$cramers_v_low, n$cramers_v_high, ctx$conf_level, say_unit), say_unit(n$cramers_v_corrected)))
  fmt <- if (id == "risk_difference") say_points else function(v) say_number(v, 2)
  label <- res$numbers[[match(id, vapply(res$numbers, `[[`, "", "id"))]]$label
  said <- sprintf("The %s: %s (%s)", label, fmt(n[[id]]), say_interval(n[[paste0(id, "_low")]], n[[paste0(id, "_high")]], ctx$conf_level, fmt))
  sides <- colnames(res$counts)
  # people ask for yes against no
  turned <- kind_says_yes(sides) || identical(ctx$reading$extra$first_side, sides[2])
  if (id == "risk_difference" || length(sides) != 2 || !turned) return(paste0(said, "."))
  sprintf("%s; the other way round, %s against %s, it is %s (%s).", said, sides[2], sides[1], fmt(1 / n[[id]]),
          say_interval(1 / n[[paste0(id, "_high")]], 1 / n[[paste0(id, "_low")]], ctx$conf_level, fmt))
}

kind_says_yes <- function(levels) length(levels) == 2 && tolower(levels[1]) %in% no_words() && tolower(levels[2]) %in% yes_words()

say_two_by_two <- function(ctx, res) {
  if (is.null(res$effects)) return(NULL)
  n <- res$number
  points <- function(v) say_points(v)
  sprintf("%s Risk difference %s (%s), risk ratio %s, odds ratio %s.", say_event_shares(ctx, res),
          points(n$risk_difference),
          say_interval(n$risk_difference_low, n$risk_difference_high, ctx$conf_level, points),
          say_number(n$risk_ratio, 2), say_number(n$odds_ratio, 2))
}

#' How often the event (the last level of the first column) occurs in each of two groups
#' @noRd
say_event_shares <- function(ctx, res) {
  shares <- res$counts[2, ] / colSums(res$counts)
  group <- say_column(ctx$columns[[res$names[2]]])
  sprintf("%s is %s in %s of the rows where %s is %s, and in %s where it is %s.",
          capital(say_column(ctx$columns[[res$names[1]]])), rownames(res$counts)[2], say_percent(shares[1]), group,
          colnames(res$counts)[1], say_percent(shares[2]), colnames(res$counts)[2])
}

script_table <- function(ctx, res) {
  c(sprintf("a <- droplevels(factor(%s))", script_column(res$names[1])),
    sprintf("b <- droplevels(factor(%s))", script_column(res$names[2])), "counts <- table(a, b)", "tables <- list()",
    "expected <- outer(rowSums(counts), colSums(counts)) / sum(counts)",
    paste0("tables$crosstab <- data.frame(n = as.vector(counts), percent_row = as.vector(100 * prop.table(counts, ",
           "1)), percent_column = as.vector(100 * prop.table(counts, 2)),"),
    "  percent = as.vector(100 * prop.table(counts)), expected = as.vector(expected),",
    paste0("  adjusted_residual = as.vector((counts - expected) / sqrt(expected * outer(1 - rowSums(counts) / sum(counts), 1 - colSums(counts) ",
        "/ sum(counts)))))"))
}

script_two_by_two <- function() {
  c("# effects of the 2 x 2 table: groups are the columns, the event is the last row",
    "event <- counts[2, ]; size <- colSums(counts); share <- event / size; z <- qnorm(1 - (1 - conf_level) / 2)",
    paste0("wilson <- function(x, n) { r <- suppressWarnings(prop.test(x, n, conf.level = conf_level, correct = ",
           "FALSE)$conf.int); c(r[1], r[2]) }"),
    "w1 <- wilson(event[1], size[1]); w2 <- wilson(event[2], size[2]); d <- share[1] - share[2]",
    "cells <- counts + if (any(counts == 0)) 0.5 else 0", "totals <- colSums(cells)",
    "rr <- (cells[2, 1] / totals[1]) / (cells[2, 2] / totals[2])",
    "rr_se <- sqrt(1 / cells[2, 1] - 1 / totals[1] + 1 / cells[2, 2] - 1 / totals[2])",
    "or <- cells[2, 1] * cells[1, 2] / (cells[1, 1] * cells[2, 2]); or_se <- sqrt(sum(1 / cells))",
    paste0("effects <- list(risk_difference = d, risk_difference_low = d - sqrt((share[1] - w1[1])^2 + (w2[2] - ",
           "share[2])^2), risk_difference_high = d + sqrt((w1[2] - share[1])^2 + (share[2] - w2[1])^2),"),
    paste0("  risk_ratio = rr, risk_ratio_low = rr * exp(-z * rr_se), risk_ratio_high = rr * exp(z * rr_se), ",
           "odds_ratio = or, odds_ratio_low = or * exp(-z * or_se), odds_ratio_high = or * exp(z * or_se))"))
}

script_chi_square <- function(ctx, res) {
  c(script_table(ctx, res), "test <- suppressWarnings(chisq.test(counts, correct = FALSE))",
    "n <- sum(counts); k <- min(dim(counts)) - 1; chi <- test$statistic[[1]]; df <- test$parameter[[1]]",
    script_noncentral_chi(),
    paste0("v <- sqrt(chi / (n * k)); v_limits <- sqrt(pmin(1, c(limit(1 - (1 - conf_level) / 2), limit((1 - ",
           "conf_level) / 2)) / (n * k)))"),
    paste0("numbers <- list(statistic = chi, df = df, p_value = test$p.value, conf_level = conf_level, n = n, ",
           "cramers_v = v, cramers_v_low = v_limits[1], cramers_v_high = v_limits[2])"),
    "shrunk <- dim(counts) - (dim(counts) - 1)^2 / (n - 1)",
    "numbers$cramers_v_corrected <- sqrt(max(0, chi / n - prod(dim(counts) - 1) / (n - 1)) / (min(shrunk) - 1))",
    if (is.null(res$effects)) "numbers <- c(numbers, list(estimate = v, ci_low = v_limits[1], ci_high = v_limits[2]))"
    else c(script_two_by_two(),
           paste0("numbers <- c(numbers, effects, list(phi = sqrt(chi / n), phi_low = v_limits[1], phi_high = v_limits[2], estimate = effects$risk_difference, ",  # nolint: line_length_linter.
                  "ci_low = effects$risk_difference_low, ci_high = effects$risk_difference_high))")),
    script_asked_ratio(ctx))
}
