# A share against a stated value, and counts against equal shares.

#' @noRd
method_binomial_exact <- function() {
  new_method(
    id = "binomial_exact", name = "Exact binomial test", tasks = c("compare", "frequency"),
    fits = function(shape) {
      if (is.null(shape$null_value) || shape$n_outcome != 1 || shape$n_by > 0) return(NULL)
      if (is.null(shape$event) && shape$outcome_kind != "yes_no") return(NULL)
      new_fit(93, "A share is compared with a stated value, exactly.")
    },
    compute = compute_binomial, checks = function(ctx, res) list(check_independent_rows(ctx$unit_values,
        ctx$unit_name)), second = "proportion_one",
    figure = function(ctx, res) figure_counts(ctx, outcome_name(ctx), res$counts, res$levels),
    sentences = function(ctx, res) {
      n <- res$number
      interval <- say_interval(n$ci_low, n$ci_high, ctx$conf_level, function(v) say_percent(v))
      clear <- isTRUE(n$p_value < 1 - ctx$conf_level)
      text <- sprintf("The share of rows where %s is %s %s: %s (%s), %s.", plain_filter(res$event),
                      if (clear) (if (n$estimate > n$null_value) "above"
                                  else "below") else "not clearly different from",
                      say_percent(n$null_value), say_percent(n$estimate), interval, say_p(n$p_value))
      list(headline = text, details = c(sprintf("%s of %s rows.", say_number(n$count), say_number(n$n)),
                                        say_share_interval(ctx), say_rows(ctx)),
           write_up = sprintf("%s of %s rows (%s, %s), exact binomial test against %s: %s.%s", say_number(n$count),
                              say_number(n$n), say_percent(n$estimate), interval, say_percent(n$null_value),
                              say_p(n$p_value), write_rows(ctx)))
    },
    script = function(ctx, res) c("tables <- list(); keep <- rep(TRUE, nrow(rows))",
                                  script_filter(res$event, ctx$columns[[res$event$column]], "rows"),
                                  "x <- sum(keep); n <- nrow(rows)",
      sprintf("null <- %s; test <- binom.test(x, n, null, alternative = %s)", as_r_number(ctx$reading$extra$null_value),
              script_alternative(ctx)),
      if (isTRUE(ctx$reading$extra$exact_interval)) "interval <- binom.test(x, n, conf.level = conf_level)$conf.int" else
        "interval <- suppressWarnings(prop.test(x, n, conf.level = conf_level, correct = FALSE)$conf.int)",
      paste0("numbers <- list(p_value = test$p.value, estimate = x / n, ci_low = interval[1], ci_high = interval[2], ",
             "conf_level = conf_level, n = n, count = x, null_value = null)")),
    references = c(paste0("Clopper, C. J., & Pearson, E. S. (1934). The use of confidence or fiducial limits ",
                          "illustrated in the case of the binomial. Biometrika, 26, 404-413."),
                   paste0("Wilson, E. B. (1927). Probable inference, the law of succession, and statistical ",
                          "inference. Journal of the American Statistical Association, 22, 209-212.")),
    next_steps = function(ctx, res) sprintf("How many rows are there for each %s?", outcome_name(ctx)))
}

compute_binomial <- function(ctx) {
  x <- ctx$frame$data[[outcome_name(ctx)]]
  event <- ctx$reading$extra$event %||% new_filter(outcome_name(ctx), "==", last_of(outcome_column(ctx)$levels))
  null <- ctx$reading$extra$null_value
  if (null <= 0 || null >= 1) stop_data("A share is compared with a value between 0 and 1 (0 % and 100 %).",
                                        class = "bad_null")
  hits <- sum(row_matches(x, event)); n <- length(x)
  w <- stat_share_interval(hits, n, ctx$conf_level, ctx$reading$extra$exact_interval)
  g <- as_group(x)
  result(list(new_number("p_value", "p", stat_binomial_p(hits, n, null, ctx$alternative)),
              new_number("estimate", "share", hits / n), new_number("ci_low", "lower limit", w$low),
              new_number("ci_high", "upper limit", w$high), new_number("conf_level", "confidence level",
                  ctx$conf_level), new_number("n", "rows", n),
              new_number("count", "rows that meet the condition", hits),
              new_number("null_value", "share under the null hypothesis", null)),
         event = event, counts = tabulate(g, nlevels(g)), levels = levels(g), direction = sign(hits / n - null))
}

#' @noRd
method_chi_square_goodness <- function() {
  new_method(
    id = "chi_square_goodness", name = "Chi-square test of expected shares", tasks = c("compare", "frequency"),
    fits = function(shape) if (shape$n_outcome + shape$n_by == 1 && is.null(shape$null_value) &&
                               (isTRUE(shape$even) || identical(shape$method_asked, "chi_square_goodness")))
      new_fit(94, "The question asks whether the rows are spread evenly over the levels of one column."),
    compute = function(ctx) {
      name <- c(ctx$reading$outcome, ctx$reading$by)[1]
      g <- as_group(ctx$frame$data[[name]])
      counts <- tabulate(g, nlevels(g))
      if (length(counts) < 2) stop_data(sprintf("%s has only one level in these rows.", quoted(name)),
                                        class = "one_group")
      shares <- expected_shares(ctx, levels(g))
      out <- stat_chi_square_goodness(counts, shares %||% rep(1, length(counts)))
      table <- cbind(stats::setNames(data.frame(levels(g), stringsAsFactors = FALSE), name),
                     stat_shares(counts, ctx$conf_level))
      if (!is.null(shares)) { table$expected <- out$expected; table$residual <- (counts - out$expected) / sqrt(out$expected) }
      result(c(test_numbers(out, "chi-square", "", ctx$conf_level), list(new_number("cohens_w", "Cohen's w", out$w)),
               limit_numbers("cohens_w", "Cohen's w", sqrt(noncentral_chi_limits(out$statistic, out$df, ctx$conf_level) / out$n))),
             tables = list(new_table("counts", sprintf("Rows by %s", name), table)),
             name = name, counts = counts, levels = levels(g),
             expected = matrix(out$expected), shares = shares, direction = NA_real_)
    },
    checks = function(ctx, res) list(check_independent_rows(ctx$unit_values, ctx$unit_name),
                                     check_expected_counts(res$expected)), second = "multinomial_exact",
    figure = function(ctx, res) figure_counts(ctx, res$name, res$counts, res$levels, expected = if (!is.null(res$shares)) as.vector(res$expected)),
    sentences = function(ctx, res) {
      n <- res$number
      clear <- isTRUE(n$p_value < 1 - ctx$conf_level)
      test <- sprintf("chi-square(%s) = %s, %s", say_df(n$df), say_number(n$statistic, 2), say_p(n$p_value))
      most <- which.max(res$counts); least <- which.min(res$counts)
      text <- if (!is.null(res$shares)) say_against_shares(ctx, res, clear, test)
        else if (length(unique(res$counts)) == 1) sprintf("The rows are spread evenly over the levels of %s: %s at each, %s.",
                                                          say_column(ctx$columns[[res$name]]), say_number(res$counts[1]), test)
        else sprintf("The rows are %s over the levels of %s: from %s (%s) to %s (%s), %s.",
                      if (clear) "not spread evenly" else "about evenly spread", say_column(ctx$columns[[res$name]]),
                      say_number(res$counts[least]), res$levels[least], say_number(res$counts[most]), res$levels[most],
                      test)
      list(headline = text, details = say_rows(ctx),
           write_up = sprintf("The counts of %s were compared with %s: %s, N = %s.%s",
                              say_column(ctx$columns[[res$name]]), if (is.null(res$shares)) "equal shares" else
                                sprintf("the expected shares (%s)", paste(res$levels, say_percent(res$shares / sum(res$shares), 0),
                                    collapse = ", ")), test, say_number(n$n), write_rows(ctx)))
    },
    script = function(ctx, res) c(script_frequency(list(reading = list(extra = list()), columns = ctx$columns), res),
                                  if (is.null(res$shares)) "test <- suppressWarnings(chisq.test(counts))"
                                  else c(sprintf("test <- suppressWarnings(chisq.test(counts, p = c(%s), rescale.p = TRUE))",
                                                 paste(vapply(res$shares, as_r_number, ""), collapse = ", ")),
                                         "tables$counts$expected <- as.vector(test$expected); tables$counts$residual <- as.vector(test$residuals)"),
      paste0("numbers <- list(statistic = test$statistic[[1]], df = test$parameter[[1]], p_value = test$p.value, ",
             "conf_level = conf_level, n = sum(counts), cohens_w = sqrt(test$statistic[[1]] / sum(counts)))"),
      script_chi_root_limits("cohens_w", "test$statistic[[1]]", "test$parameter[[1]]", "sum(counts)")),
    references = paste0("Pearson, K. (1900). On the criterion that a given system of deviations ... Philosophical ",
                        "Magazine, 50, 157-175."),
    next_steps = function(ctx, res) sprintf("How many rows are there for each %s?", res$name))
}

#' The shares that the question expects, in the order of the levels
#' @section Shape: Numeric vector, or NULL where equal shares are meant.
#' @noRd
expected_shares <- function(ctx, levels) {
  shares <- ctx$reading$extra$expected_shares
  if (is.null(shares)) return(NULL)
  if (length(shares) != length(levels)) stop_data(sprintf("%d shares are expected of %d levels (%s).", length(shares), length(levels),
                                                          some_of(levels, 6)), todo = "Give one share for each level.", class = "unfit_data")
  if (!is.null(names(shares))) shares <- shares[levels]
  if (anyNA(shares) || any(shares <= 0)) stop_data("Every level needs an expected share above zero.", class = "unfit_data")
  unname(shares)
}

say_against_shares <- function(ctx, res, clear, test) {
  own <- sprintf("%s %s (expected %s)", res$levels, say_percent(res$counts / sum(res$counts)), say_percent(res$shares / sum(res$shares)))
  sprintf("The rows are %s the expected shares of %s: %s; %s.", if (clear) "not in line with" else "in line with",
      say_column(ctx$columns[[res$name]]),
          some_of(own, 8), test)
}
