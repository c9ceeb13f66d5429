# Time to an event: curves and the comparison of groups.

#' Times, events and groups of the rows used
#' @noRd
survival_parts <- function(ctx) {
  r <- ctx$reading
  time <- as_plain_number(ctx$frame$data[[r$outcome[1]]])
  if (any(time < 0)) stop_data(sprintf("%s holds negative times.", quoted(r$outcome[1])), class = "unfit_data")
  event <- row_matches(ctx$frame$data[[r$outcome[2]]], r$extra$event)
  group <- if (length(r$by)) group_of(ctx) else factor(rep("all", length(time)))
  stratum <- if (!is.null(r$extra$strata_by)) as.integer(as_group(ctx$frame$data[[r$extra$strata_by]]))
  list(time = time, event = event, group = droplevels(group), unit = ctx$columns[[r$outcome[1]]]$unit,
       stratum = stratum)
}

#' The same, of two groups or more
#' @noRd
survival_groups <- function(ctx) {
  s <- survival_parts(ctx)
  if (nlevels(s$group) < 2) stop_data("There is only one group in these rows, so there is nothing to compare.", class = "one_group")
  s
}

fits_survival <- function(shape, score, why, groups) {
  if (shape$task != "survival" || shape$n_outcome != 2 || !isTRUE(shape$event_set)) return(NULL)
  if (groups && !(shape$n_by >= 1 && isTRUE(is.na(shape$groups) || shape$groups >= 2))) return(NULL)
  new_fit(score, why)
}

script_survival <- function(ctx) {
  r <- ctx$reading
  c(sprintf("time <- %s", script_value(r$outcome[1])), "keep <- rep(TRUE, nrow(rows))",
      script_filter(r$extra$event, ctx$columns[[r$extra$event$column]], "rows"),
    "event <- keep; library(survival); tables <- list()",
    if (!is.null(r$extra$strata_by)) sprintf("stratum <- droplevels(factor(%s))", script_column(r$extra$strata_by)),
    if (length(r$by)) sprintf("group <- %s", script_group(r$by))
    else "group <- factor(rep(\"all\", length(time)))")
}

#' Curves of all groups, one below the other, and a summary line a group
#' @noRd
survival_tables <- function(s, conf_level) {
  curves <- lapply(levels(s$group), function(g) stat_kaplan_meier(s$time[s$group == g], s$event[s$group == g], conf_level))
  tau <- min(vapply(curves, function(k) max(k$time), 1))
  medians <- t(vapply(curves, median_survival, numeric(3)))
  means <- t(vapply(curves, restricted_mean, numeric(2), tau = tau))
  label <- levels(s$group)
  all <- do.call(rbind, Map(function(k, g) cbind(group = g, k, stringsAsFactors = FALSE), curves, label))
  groups <- data.frame(group = label, n = as.vector(table(s$group)),
      events = vapply(curves, function(k) sum(k$events), 1), median = medians[, 1], ci_low = medians[, 2], ci_high = medians[, 3],
                       restricted_mean = means[, 1], restricted_mean_se = means[, 2], stringsAsFactors = FALSE)
  list(curves = curves, all = all, groups = groups, tau = tau)
}

script_survival_tables <- function() {
  c("curves <- lapply(levels(group), function(g) survfit(Surv(time, event)[group == g] ~ 1, conf.int = conf_level, conf.type = \"log-log\"))",
    "tau <- min(vapply(curves, function(k) max(k$time), 1))",
    "flat <- function(k, v) ifelse(k$surv %in% c(0, 1), NA, v)",
    paste0("tables$survival <- do.call(rbind, lapply(curves, function(k) data.frame(time = k$time, at_risk",
        " = k$n.risk, events = k$n.event, censored = k$n.censor, survival = k$surv,"),
    "  se = ifelse(k$surv == 0, NA, k$surv * k$std.err), ci_low = flat(k, k$lower), ci_high = flat(k, k$upper))))",
    paste0("area <- function(k) { i <- k$time < tau; w <- diff(c(0, k$time[i], tau)); a <- w * c(1,",
        " k$surv[i]); b <- rev(cumsum(rev(a)))[-1]; d <- k$n.event[i]; n <- k$n.risk[i]"),
    "  c(sum(a), sqrt(sum(ifelse(n > d, b^2 * d / (n * (n - d)), 0)))) }",
    paste0("areas <- t(vapply(curves, area, numeric(2))); q <- t(vapply(curves, function(k) { m <-",
        " quantile(k, 0.5); c(m$quantile, m$lower, m$upper) }, numeric(3)))"),
    paste0("tables$groups <- data.frame(n = as.vector(table(group)), events = vapply(curves, function(k)",
        " sum(k$n.event), 1), median = q[, 1], ci_low = q[, 2], ci_high = q[, 3],"),
    "  restricted_mean = areas[, 1], restricted_mean_se = areas[, 2])")
}

survival_checks <- function(ctx, s) list(check_independent_rows(ctx$unit_values, ctx$unit_name), check_event_count(sum(s$event), length(s$event)))

#' @noRd
method_kaplan_meier <- function() {
  new_method(
    id = "kaplan_meier", name = "Kaplan-Meier curves", tasks = "survival",
    fits = function(shape) fits_survival(shape, if (isTRUE(shape$at_time)) 92 else if (shape$predictors == 0) 70 else 20,
        "The question asks how long it takes until an event, with censored rows.", FALSE),
    compute = function(ctx) {
      s <- survival_parts(ctx)
      t <- survival_tables(s, ctx$conf_level)
      one <- nrow(t$groups) == 1
      at <- survival_at_time(ctx, t)
      result(c(if (!is.null(at)) at$numbers else if (one) list(new_number("estimate", "median time", t$groups$median),
          new_number("ci_low", "lower limit", t$groups$ci_low), new_number("ci_high", "upper limit", t$groups$ci_high))
               else unlist(lapply(seq_len(nrow(t$groups)), function(i) list(new_number(paste0("median_", i),
                   "median time", t$groups$median[i], of = t$groups$group[i]))), recursive = FALSE),
               list(new_number("conf_level", "confidence level", ctx$conf_level),
                   new_number("n", "rows used", length(s$time)), new_number("events", "events", sum(s$event)))),
             tables = compact(list(new_table("groups", "Median and restricted mean time", if (is.null(at)) t$groups else cbind(t$groups, at$table)),
                 if (!is.null(at$each)) new_table("at_times", "Share without the event at each time", at$each),
                 new_table("survival", "Survival curve", t$all))), parts = s, survival = t, at = at, direction = NA_real_)
    },
    checks = function(ctx, res) survival_checks(ctx, res$parts), second = "log_rank",
    figure = function(ctx, res) figure_survival(ctx, res), sentences = say_kaplan_meier,
    script = function(ctx, res) c(script_survival(ctx), script_survival_tables(),
      if (!is.null(res$at)) script_survival_at(res)
      else if (nrow(res$survival$groups) == 1) "numbers <- list(estimate = q[1, 1], ci_low = q[1, 2], ci_high = q[1, 3])"
      else "numbers <- setNames(as.list(q[, 1]), paste0(\"median_\", seq_len(nrow(q))))",
      "numbers <- c(numbers, list(conf_level = conf_level, n = length(time), events = sum(event)))"),
    references = paste0("Kaplan, E. L., & Meier, P. (1958). Nonparametric estimation from incomplete",
        " observations. Journal of the American Statistical Association, 53, 457-481."),
    next_steps = function(ctx, res) "What is in this data?")
}

#' The shares still free of the event at the time that the question states
#' @section Shape: list(value, said, table, numbers), or NULL where no time is stated.
#' @noRd
survival_at_time <- function(ctx, t) {
  stated <- ctx$reading$extra$at_time
  if (is.null(stated)) return(NULL)
  shares <- t(vapply(t$curves, survival_at, numeric(3), at = stated$value))
  if (all(is.na(shares[, 1]))) stop_data(sprintf("No row was followed for %s, so the curve cannot be read there.", stated$said), class = "unfit_data",
                                         todo = sprintf("The longest time is %s.", say_number(max(vapply(t$curves, function(k) max(k$time), 1)))))
  # the share that has had the event by then is the other side
  turned <- isTRUE(ctx$reading$extra$with_event)
  if (turned) shares <- 1 - shares[, c(1, 3, 2), drop = FALSE]
  table <- data.frame(at_time = stated$value, survival_at = shares[, 1], survival_low = shares[, 2], survival_high = shares[, 3])
  one <- nrow(shares) == 1
  if (turned) names(table) <- c("at_time", "event_by", "event_low", "event_high")
  label <- sprintf(if (turned) "share with the event by %s" else "share without the event at %s", stated$said)
  numbers <- if (one) list(new_number("estimate", label, shares[1, 1]), new_number("ci_low", "lower limit", shares[1, 2]),
                           new_number("ci_high", "upper limit", shares[1, 3]))
    else lapply(seq_len(nrow(shares)), function(i) new_number(paste0("survival_", i), label, shares[i, 1], of = t$groups$group[i]))
  list(value = stated$value, said = stated$said, table = table, numbers = numbers, turned = turned, each = survival_at_times(ctx, t))
}

#' The shares still free of the event at each of several stated times, in every group
#' @section Shape: data frame group, at_time, survival_at, survival_low, survival_high; NULL where one time is stated.
#' @noRd
survival_at_times <- function(ctx, t) {
  times <- vapply(ctx$reading$extra$at_times, `[[`, 1, "value")
  if (length(times) < 2) return(NULL)
  shares <- do.call(rbind, lapply(times, function(at) t(vapply(t$curves, survival_at, numeric(3), at = at))))
  data.frame(group = rep(t$groups$group, length(times)), at_time = rep(times, each = length(t$curves)), survival_at = shares[, 1],
             survival_low = shares[, 2], survival_high = shares[, 3], stringsAsFactors = FALSE)
}

#' "60.3 % at 12 months and 32.1 % at 24 months in Basic"
#' @noRd
say_survival_times <- function(ctx, res) {
  t <- res$at$each; g <- unique(t$group)
  said <- said_times(ctx$reading)
  share <- ifelse(is.na(t$survival_at), "not known", say_percent(t$survival_at))
  each <- vapply(g, function(group) some_of(paste(share[t$group == group], "at", said), 8), "")
  sprintf("Without the event (%s): %s.", plain_filter(ctx$reading$extra$event), paste(if (length(g) == 1) each else paste(each, "in", g),
      collapse = "; "))
}

script_survival_at <- function(res) {
  one <- nrow(res$at$table) == 1
  c(sprintf("at <- %s", format(res$at$value, digits = 15)),
    "read <- function(k) { i <- sum(k$time <= at); if (i == 0) return(c(1, NA, NA))",
    "  if (at > max(k$time) && k$surv[i] > 0) return(c(NA, NA, NA)); c(k$surv[i], flat(k, k$lower)[i], flat(k, k$upper)[i]) }",
    "shares <- t(vapply(curves, read, numeric(3)))", if (res$at$turned) "shares <- 1 - shares[, c(1, 3, 2), drop = FALSE]  # with the event",
    sprintf("tables$groups <- cbind(tables$groups, at_time = at, %s = shares[, 1], %s = shares[, 2], %s = shares[, 3])", names(res$at$table)[2],
            names(res$at$table)[3], names(res$at$table)[4]),
    if (!is.null(res$at$each)) c(sprintf("times <- c(%s)", paste(format_plain(unique(res$at$each$at_time)), collapse = ", ")),
      "each <- do.call(rbind, lapply(times, function(t) { at <<- t; t(vapply(curves, read, numeric(3))) })); at <- times[1]",
      "tables$at_times <- data.frame(at_time = rep(times, each = length(curves)), survival_at = each[, 1], survival_low = each[, 2], survival_high = each[, 3])"),  # nolint: line_length_linter.
    if (one) "numbers <- list(estimate = shares[1, 1], ci_low = shares[1, 2], ci_high = shares[1, 3])"
    else "numbers <- setNames(as.list(shares[, 1]), paste0(\"survival_\", seq_len(nrow(shares))))")
}

say_median <- function(g, unit, conf_level) {
  if (is.na(g$median)) return("not reached")
  interval <- if (is.na(g$ci_low) && is.na(g$ci_high)) "" else sprintf(" (%s CI %s to %s)", say_level(conf_level),
      if (is.na(g$ci_low)) "not reached" else say_number(g$ci_low),
                                                                      if (is.na(g$ci_high)) "not reached" else say_number(g$ci_high))
  paste0(with_unit(say_number(g$median), unit), interval)
}

say_kaplan_meier <- function(ctx, res) {
  g <- res$survival$groups; unit <- res$parts$unit
  text <- vapply(seq_len(nrow(g)), function(i) say_median(g[i, ], unit, ctx$conf_level), "")
  y <- say_column(outcome_column(ctx))
  headline <- if (!is.null(res$at)) say_survival_at(ctx, res) else if (nrow(g) == 1) sprintf("The median of %s is %s; the event came in %s of %s.",
      y, text, say_number(g$events), count_of(g$n, "row"))
    else sprintf("Medians of %s: %s.", y, some_of(sprintf("%s in %s", text, g$group), 6))
  list(headline = headline,
       details = c(sprintf("Up to %s the mean is %s.", with_unit(say_number(res$survival$tau), unit),
           some_of(sprintf("%s%s", with_unit(say_number(g$restricted_mean), unit),
                           if (nrow(g) == 1) "" else paste(" in", g$group)), 6)), say_rows(ctx)),
       write_up = sprintf("Survival was estimated by the Kaplan-Meier method (%s events in %s rows): median %s.%s",
           say_number(sum(g$events)), say_number(sum(g$n)),
                          some_of(if (nrow(g) == 1) text else paste(text, "in", g$group), 6), write_rows(ctx)))
}

say_survival_at <- function(ctx, res) {
  if (!is.null(res$at$each)) return(say_survival_times(ctx, res))
  t <- res$at$table; g <- res$survival$groups
  share <- ifelse(is.na(t[[2]]), "not known", sprintf("%s%s", say_percent(t[[2]]), ifelse(is.na(t[[3]]), "",
    sprintf(" (%s)", mapply(function(a, b) say_interval(a, b, ctx$conf_level, say_percent), t[[3]], t[[4]])))))
  sprintf(if (res$at$turned) "With the event (%s) by %s: %s." else "Without the event (%s) at %s: %s.", plain_filter(ctx$reading$extra$event),
          res$at$said,
          some_of(if (nrow(g) == 1) share else paste(share, "in", g$group), 6))
}

#' @noRd
method_log_rank <- function() {
  new_method(
    id = "log_rank", name = "Log-rank test", tasks = "survival",
    fits = function(shape) fits_survival(shape, 88, "Groups are compared in the time to an event, with censored rows.", TRUE),
    compute = function(ctx) {
      s <- survival_groups(ctx)
      out <- stat_log_rank(s$time, s$event, as.integer(s$group), stratum = s$stratum)
      t <- survival_tables(s, ctx$conf_level)
      hazard <- if (nlevels(s$group) == 2) cox_or_null(s, cbind(as.numeric(s$group == levels(s$group)[1])), ctx$conf_level)
      groups <- cbind(t$groups, expected = out$groups$expected)
      result(c(test_numbers(out[c("statistic", "df", "p_value", "n")], "chi-square", "", ctx$conf_level),
               if (!is.null(hazard)) c(list(new_number("estimate",
                   sprintf("hazard ratio, %s against %s", levels(s$group)[1], levels(s$group)[2]), hazard$hazard_ratio),
                                            new_number("ci_low", "lower limit",
                                                hazard$hazard_ratio_low), new_number("ci_high", "upper limit", hazard$hazard_ratio_high)),
                                       effect_numbers(hazard, list(hazard_ratio = "hazard ratio"))),
               list(new_number("events", "events", sum(s$event)))),
             tables = list(new_table("groups", "Median and restricted mean time", groups),
                 new_table("survival", "Survival curve", t$all)), parts = s, survival = t, hazard = hazard,
             direction = NA_real_)
    },
    checks = function(ctx, res) survival_checks(ctx, res$parts), second = "log_rank_early",
    figure = function(ctx, res) figure_survival(ctx, res), sentences = say_log_rank,
    script = function(ctx, res) c(script_survival(ctx), script_survival_tables(),
        sprintf("test <- survdiff(Surv(time, event) ~ group%s); df <- nlevels(group) - 1", script_strata_of(ctx)),
      "tables$groups$expected <- rowSums(as.matrix(test$exp))",
      paste0("numbers <- list(statistic = test$chisq, df = df, p_value = pchisq(test$chisq, df, lower.tail",
          " = FALSE), conf_level = conf_level, n = length(time), events = sum(event))"),
      if (!is.null(res$hazard)) c(paste0("fit <- coxph(Surv(time, event) ~ I(group == levels(group)[1])", script_strata_of(ctx), ",",
          " ties = \"efron\", control = coxph.control(toler.chol = 1e-15, iter.max = 60))"),
        script_cox_settled(),
        "hr <- exp(coef(fit)[[1]] + c(0, -1, 1) * qnorm(1 - (1 - conf_level) / 2) * sqrt(vcov(fit)[1, 1]))",
        paste0("numbers <- c(numbers, list(estimate = hr[1], ci_low = hr[2], ci_high = hr[3], hazard_ratio",
            " = hr[1], hazard_ratio_low = hr[2], hazard_ratio_high = hr[3]))"))),
    references = paste0("Mantel, N. (1966). Evaluation of survival data and two new rank order statistics",
        " arising in its consideration. Cancer Chemotherapy Reports, 50, 163-170."),
    next_steps = function(ctx, res) sprintf("Cox regression of %s on %s", ctx$reading$outcome[1], paste(ctx$reading$by, collapse = " and ")))
}

script_strata_of <- function(ctx) if (is.null(ctx$reading$extra$strata_by)) "" else " + strata(stratum)"

#' Hazard ratio of a single predictor; NULL where it cannot be fitted
#' @noRd
cox_or_null <- function(s, x, conf_level) {
  fit <- tryCatch(stat_cox(s$time, s$event, x, s$stratum), upbeatquill_error_data = function(e) NULL)
  if (is.null(fit)) return(NULL)
  z <- stats::qnorm(1 - (1 - conf_level) / 2)
  list(hazard_ratio = exp(fit$coefficients[1]), hazard_ratio_low = exp(fit$coefficients[1] - z * fit$se[1]),
      hazard_ratio_high = exp(fit$coefficients[1] + z * fit$se[1]))
}

say_log_rank <- function(ctx, res) {
  n <- res$number; g <- res$survival$groups; unit <- res$parts$unit
  y <- say_column(outcome_column(ctx))
  test <- sprintf("chi-square(%s) = %s, %s%s", say_df(n$df), say_number(n$statistic, 2), say_p(n$p_value), say_strata_of(ctx))
  medians <- some_of(sprintf("%s in %s", vapply(seq_len(nrow(g)), function(i) say_median(g[i, ], unit, ctx$conf_level), ""), g$group), 6)
  hazard <- if (!is.null(n$hazard_ratio)) sprintf("The hazard in %s is %s times that in %s (%s).", g$group[1],
      say_number(n$hazard_ratio, 2), g$group[2],
                                                  say_interval(n$hazard_ratio_low, n$hazard_ratio_high, ctx$conf_level, function(v) say_number(v, 2)))
  list(headline = sprintf("The time to the event (%s) %s between the groups%s: medians %s; %s.", y,
      if (isTRUE(n$p_value < 1 - ctx$conf_level)) "differs" else "does not clearly differ", say_strata_of(ctx),
                          medians, say_p(n$p_value)),
       details = c(sprintf("Log-rank test: %s.", test), hazard,
           sprintf("Events: %s.", some_of(sprintf("%s of %s in %s", g$events, g$n, g$group), 6)), say_rows(ctx)),
       write_up = sprintf("%s was compared between groups with the log-rank test: %s (%s events in %s rows; medians %s).%s%s",
           capital(y), test, say_number(n$events), say_number(n$n), medians,
                          if (is.null(hazard)) "" else paste0(" ", hazard), write_rows(ctx)))
}
