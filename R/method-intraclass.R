# Intraclass correlation: raters in columns, raters in rows, or rows within groups.

#' @noRd
method_intraclass_correlation <- function() {
  new_method(
    id = "intraclass_correlation", name = "Intraclass correlation", tasks = "agreement",
    fits = function(shape) if (isTRUE(shape$long)) fits_long_ratings(shape) else fits_agreement(shape, 66,
      "Raters or instruments measure the same subjects in numbers.", c("number", "count", "ordered"), 2:60),
    compute = function(ctx) {
      if (isTRUE(ctx$reading$extra$long) && length(ctx$reading$by) == 1) return(compute_intraclass_groups(ctx))
      long <- isTRUE(ctx$reading$extra$long)
      names <- if (long) outcome_name(ctx) else agreement_names(ctx)
      x <- if (long) ratings_by_subject(ctx) else measured_matrix(ctx, names)
      out <- stat_intraclass(x, ctx$conf_level)
      form <- intraclass_form(ctx)
      main <- out$forms[form$at, ]
      result(list(new_number("statistic", "F", main$statistic), new_number("df1", "df (subjects)", main$df1),
          new_number("df2", "df (error)", main$df2), new_number("p_value", "p", main$p_value),
                  new_number("estimate", form$name, main$estimate), new_number("ci_low", "lower limit",
                      main$ci_low), new_number("ci_high", "upper limit", main$ci_high),
                  new_number("conf_level", "confidence level", ctx$conf_level), new_number("n", "subjects",
                      out$n), new_number("icc", form$name, main$estimate),
                  new_number("icc_low", "lower limit", main$ci_low), new_number("icc_high", "upper limit",
                      main$ci_high), new_number("raters", "raters", out$k)),
             tables = list(new_table("forms", "All six forms", out$forms)), names = names, forms = out$forms, form = form, x = x, direction = NA_real_)  # nolint: line_length_linter.
    },
    checks = function(ctx, res) if (isTRUE(ctx$reading$extra$long)) list() else list(check_independent_rows(ctx$unit_values, ctx$unit_name)),
    figure = function(ctx, res) if (!is.null(res$x)) figure_ratings(ctx, res),
    sentences = function(ctx, res) {
      if (!is.null(res$groups)) return(say_intraclass_groups(ctx, res))
      n <- res$number
      interval <- say_interval(n$ci_low, n$ci_high, ctx$conf_level, say_unit)
      form <- res$form
      word <- c("poor", "moderate", "good", "excellent")[findInterval(n$icc, c(0.5, 0.75, 0.9)) + 1]
      list(headline = sprintf("The intraclass correlation of %s is %s (%s): %s, %s.", some_of(res$names, 6),
                              say_unit(n$icc), interval, form$says, form$name),
           details = c(sprintf("That is %s by the convention of Koo and Li. The mean of the %s ratings reaches %s.",
               word, say_number(n$raters), say_unit(res$forms$estimate[form$mean_at])),
                       say_rows(ctx)),
           write_up = sprintf("Agreement of %s was %s = %s, %s (%s, %s; n = %s, F(%s, %s) = %s, %s).%s",
                              some_of(res$names, 6), form$name, say_unit(n$icc), interval, form$model, form$says, say_number(n$n), say_df(n$df1), say_df(n$df2), say_number(n$statistic,  # nolint: line_length_linter.
                                  2), say_p(n$p_value), write_rows(ctx)))
    },
    script = function(ctx, res) if (!is.null(res$groups)) script_intraclass_groups(ctx) else c(
      if (isTRUE(ctx$reading$extra$long)) script_long_ratings(ctx) else script_measured(res$names),
      "long <- data.frame(v = as.vector(x), subject = factor(rep(seq_len(n), k)), rater = factor(rep(seq_len(k), each = n)))",
      "ms <- anova(lm(v ~ subject + rater, long))$`Mean Sq`; r <- ms[1]; c <- ms[2]; e <- ms[3]; w <- anova(lm(v ~ subject, long))$`Mean Sq`[2]",
      "tail <- (1 - conf_level) / 2; dw <- n * (k - 1); de <- (n - 1) * (k - 1)",
      "lim <- function(f, df2) c(f / qf(1 - tail, n - 1, df2), f * qf(1 - tail, df2, n - 1)); one <- lim(r / w, dw); three <- lim(r / e, de)",
      "icc2 <- (r - e) / (r + (k - 1) * e + k * (c - e) / n); a <- k * icc2 / (n * (1 - icc2)); b <- 1 + k * icc2 * (n - 1) / (n * (1 - icc2))",
      "v <- (a * c + b * e)^2 / ((a * c)^2 / (k - 1) + (b * e)^2 / de); f1 <- qf(1 - tail, n - 1, v); f2 <- qf(1 - tail, v, n - 1)",
      paste0("two <- c(n * (r - f1 * e) / (f1 * (k * c + (k * n - k - n) * e) + n * r), n * (f2 * r - e) /",
          " (k * c + (k * n - k - n) * e + n * f2 * r)); up <- function(i) i * k / (1 + i * (k - 1))"),
      "est <- c((r - w) / (r + (k - 1) * w), icc2, (r - e) / (r + (k - 1) * e), (r - w) / r, (r - e) / (r + (c - e) / n), (r - e) / r)",
      "low <- c((one[1] - 1) / (one[1] + k - 1), two[1], (three[1] - 1) / (three[1] + k - 1), 1 - 1 / one[1], up(two[1]), 1 - 1 / three[1])",
      "high <- c((one[2] - 1) / (one[2] + k - 1), two[2], (three[2] - 1) / (three[2] + k - 1), 1 - 1 / one[2], up(two[2]), 1 - 1 / three[2])",
      "f <- rep(c(r / w, r / e, r / e), 2); df2 <- rep(c(dw, de, de), 2); p <- pf(f, n - 1, df2, lower.tail = FALSE)",
      "tables <- list(forms = data.frame(estimate = est, ci_low = low, ci_high = high, statistic = f, df1 = n - 1, df2 = df2, p_value = p))",
      paste0("at <- ", res$form$at, "; numbers <- list(statistic = f[at], df1 = n - 1, df2 = df2[at], p_value = p[at], estimate =",
          " est[at], ci_low = low[at], ci_high = high[at], conf_level = conf_level, n = n,"),
      "  icc = est[at], icc_low = low[at], icc_high = high[at], raters = k)"),
    references = c(paste0("Shrout, P. E., & Fleiss, J. L. (1979). Intraclass correlations: Uses in",
        " assessing rater reliability. Psychological Bulletin, 86, 420-428."),
                   paste0("Koo, T. K., & Li, M. Y. (2016). A guideline of selecting and reporting",
                       " intraclass correlation coefficients. Journal of Chiropractic Medicine, 15,",
                       " 155-163.")),
    next_steps = function(ctx, res) if (isTRUE(ctx$reading$extra$long)) sprintf("Describe %s by %s", outcome_name(ctx), last_of(ctx$reading$by))
      else sprintf("Show the correlation matrix of %s", some_of(res$names, 12)))
}

fits_long_ratings <- function(shape) {
  if (shape$task != "agreement" || shape$n_outcome != 1 || !shape$n_by %in% 1:2 || !shape$outcome_kind %in% c("number", "count",
      "ordered")) return(NULL)
  new_fit(96, if (shape$n_by == 2) "Every row is the rating of one subject by one rater."
          else "Rows of the same group are set against those of other groups.")
}

#' Ratings in rows as a matrix, a row for each subject rated by all raters
#' @noRd
ratings_by_subject <- function(ctx) {
  d <- ctx$frame$data
  subject <- as_group(d[[ctx$reading$by[1]]]); rater <- as_group(d[[ctx$reading$by[2]]])
  cell <- paste(as.integer(subject), as.integer(rater))
  if (anyDuplicated(cell)) stop_data(sprintf("Some %s have several values of the same %s, so rows are not single ratings.", ctx$reading$by[1],
    ctx$reading$by[2]), todo = "Leave rows out, or average them first.", class = "unfit_data")
  x <- matrix(NA_real_, nlevels(subject), nlevels(rater))
  x[cbind(as.integer(subject), as.integer(rater))] <- as_plain_number(d[[outcome_name(ctx)]])
  x <- x[stats::complete.cases(x), , drop = FALSE]
  if (nrow(x) < 2) stop_data(sprintf("No two %s were rated by every %s.", ctx$reading$by[1], ctx$reading$by[2]), class = "too_few_rows")
  x
}

script_long_ratings <- function(ctx) {
  c("# a row for each subject rated by all raters",
    sprintf("x <- unname(tapply(%s, list(droplevels(factor(%s)), droplevels(factor(%s))), mean))", script_value(outcome_name(ctx)),
            script_column(ctx$reading$by[1]), script_column(ctx$reading$by[2])),
    "x <- x[complete.cases(x), , drop = FALSE]; n <- nrow(x); k <- ncol(x)")
}

compute_intraclass_groups <- function(ctx) {
  out <- stat_intraclass_groups(as_plain_number(ctx$frame$data[[outcome_name(ctx)]]), as.integer(as_group(ctx$frame$data[[ctx$reading$by[1]]])),
                                ctx$conf_level)
  result(list(new_number("statistic", "F", out$statistic), new_number("df1", "df (groups)", out$df1), new_number("df2", "df (within)", out$df2),
              new_number("p_value", "p", out$p_value), new_number("estimate", "ICC(1,1)", out$icc), new_number("icc", "ICC(1,1)", out$icc),
              new_number("ci_low", "lower limit", out$low),
              new_number("ci_high", "upper limit", out$high), new_number("conf_level", "confidence level", ctx$conf_level),
              new_number("n", "rows used", out$n), new_number("groups", "groups", out$groups), new_number("group_size", "typical rows per group",
                  out$size),
              new_number("sd_between", "standard deviation between groups", out$sd_between),
              new_number("sd_within", "standard deviation within groups", out$sd_within)),
         tables = list(), names = outcome_name(ctx), groups = out$groups, direction = NA_real_)
}

say_intraclass_groups <- function(ctx, res) {
  n <- res$number; unit <- outcome_column(ctx)$unit; group <- ctx$reading$by[1]
  interval <- say_interval(n$ci_low, n$ci_high, ctx$conf_level, say_unit)
  headline <- sprintf("The intraclass correlation of %s within %s is %s (%s): %s of the variance lies between the %s groups.", res$names, group,
    say_unit(n$estimate), interval, say_percent(max(0, n$estimate), 0), say_number(n$groups))
  list(headline = headline,
       details = c(sprintf("The standard deviation is %s between the groups and %s within them.", with_unit(say_number(n$sd_between), unit),
                           with_unit(say_number(n$sd_within), unit)), say_rows(ctx)),
       write_up = sprintf("Rows within %s correlated with ICC(1,1) = %s, %s (one-way random effects; %s groups, n = %s, F(%s, %s) = %s, %s).%s",
           group,
                          say_unit(n$estimate), interval, say_number(n$groups), say_number(n$n), say_df(n$df1), say_df(n$df2),
                          say_number(n$statistic, 2), say_p(n$p_value), write_rows(ctx)))
}

script_intraclass_groups <- function(ctx) {
  c(sprintf("v <- %s", script_value(outcome_name(ctx))), sprintf("g <- droplevels(factor(%s))", script_column(ctx$reading$by[1])),
    "fit <- anova(lm(v ~ g)); between <- fit$`Mean Sq`[1]; within <- fit$`Mean Sq`[2]; sizes <- as.numeric(table(g)); k <- length(sizes)",
    "size <- (sum(sizes) - sum(sizes^2) / sum(sizes)) / (k - 1); f <- between / within; tail <- (1 - conf_level) / 2",
    "low <- f / qf(1 - tail, fit$Df[1], fit$Df[2]); high <- f / qf(tail, fit$Df[1], fit$Df[2])",
    "tables <- list()",
    "numbers <- list(statistic = f, df1 = fit$Df[1], df2 = fit$Df[2], p_value = fit$`Pr(>F)`[1], estimate = (f - 1) / (f + size - 1), icc = (f - 1) / (f + size - 1),",  # nolint: line_length_linter.
    "  ci_low = (low - 1) / (low + size - 1), ci_high = (high - 1) / (high + size - 1), conf_level = conf_level, n = length(v), groups = k,",
    "  group_size = size, sd_between = sqrt(max(0, (between - within) / size)), sd_within = sqrt(within))")
}

#' The form of the coefficient that is told first: the one asked for, else absolute agreement of a single rating, ICC(2,1)
#' @section Shape: list(at (row of the table of forms), mean_at (that of the mean of all ratings, same model), name, model, says).
#' @section Source: Shrout, P. E. and Fleiss, J. L. (1979). Psychological Bulletin 86, 420-428 (names of the forms).
#' @noRd
intraclass_form <- function(ctx) {
  asked <- ctx$reading$extra$icc_form
  model <- asked$model %||% 2L; mean <- isTRUE(asked$mean)
  list(at = model + 3L * mean, mean_at = model + 3L, name = sprintf("ICC(%d,%s)", model, if (mean) "k" else "1"),
       model = c("one-way random effects", "two-way random effects", "two-way mixed effects")[model],
       says = sprintf("%s of %s", if (model == 3L) "consistency" else "absolute agreement", if (mean) "the mean of all ratings" else "a single rating"))  # nolint: line_length_linter.
}

#' All ratings of each subject, subjects in the order of their mean
#' @noRd
figure_ratings <- function(ctx, res) {
  x <- res$x
  middle <- rowMeans(x)
  # (of many subjects every so-manieth is drawn, so that the ratings of one can be told apart)
  order <- order(middle); at <- order[unique(round(seq(1, length(order), length.out = min(length(order), 120))))]
  d <- data.frame(place = rep(seq_along(at), ncol(x)), rating = as.vector(x[at, ]), rater = rep(colnames(x) %||% sprintf("rater %d", seq_len(ncol(x))),  # nolint: line_length_linter.
                                                                                              each = length(at)))
  d$rater <- factor(d$rater, unique(d$rater))
  span <- data.frame(place = seq_along(at), low = apply(x[at, , drop = FALSE], 1, min), high = apply(x[at, , drop = FALSE], 1, max))
  title <- sprintf("Ratings of each subject: %s", some_of(res$names, 6))
  few <- ncol(x) <= 8
  # (equal whole numbers lie upon each other: they are set a little apart)
  lift <- if (few && all(d$rating == round(d$rating))) (as.integer(d$rater) - (ncol(x) + 1) / 2) * 0.06 else 0
  new_figure("ratings", title, "scatter", subtitle = sprintf("Each line spans the ratings of one subject%s; subjects in the order of their mean.",
               if (length(at) < length(middle)) sprintf(" (%d of %d)", length(at), length(middle)) else ""),
             alt = sprintf("%s: a vertical line for each subject with a point for each rating.", title),
    draw = function() {
      plot <- ggplot2::ggplot(d, ggplot2::aes(x = .data$place)) +
        ggplot2::geom_linerange(data = span, ggplot2::aes(ymin = .data$low, ymax = .data$high), colour = quill_soft(), linewidth = 0.6) +
        ggplot2::labs(x = "Subjects, by their mean rating", y = "Rating")
      if (!few) return(plot + ggplot2::geom_point(ggplot2::aes(y = .data$rating), colour = quill_colours(1), size = 1.4, alpha = 0.7))
      plot + ggplot2::geom_point(ggplot2::aes(y = .data$rating + lift, colour = .data$rater, shape = .data$rater), size = 2, alpha = 0.85) +
        ggplot2::scale_colour_manual(values = quill_colours(ncol(x)), name = NULL) +
        ggplot2::scale_shape_manual(values = rep_len(c(16, 17, 15, 18, 8, 4, 3, 7), ncol(x)), name = NULL)
    },
    script = c("order <- rank(rowMeans(x), ties.method = \"first\")",
               "plot_data <- data.frame(place = rep(order, ncol(x)), rating = as.vector(x), rater = factor(rep(seq_len(ncol(x)), each = nrow(x))))",
               sprintf("plot <- ggplot(plot_data, aes(place, rating, colour = rater)) + geom_point() + labs(title = %s) + theme_minimal()",
                       as_r_string(title))))
}
