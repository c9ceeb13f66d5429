# Gwet's coefficients: agreement beyond chance that holds up where nearly all ratings fall on one level.

#' @noRd
method_gwet_ac1 <- function() gwet_method("gwet_ac1", "Gwet's AC1", "none", c("category", "yes_no", "ordered", "count", "constant"))

#' @noRd
method_gwet_ac2 <- function() gwet_method("gwet_ac2", "Gwet's AC2 (quadratic weights)", "quadratic", c("ordered", "count"))

gwet_method <- function(id, name, weights, kinds) {
  label <- sub(" .*$", "", sub("^Gwet's ", "", name))
  new_method(
    id = id, name = name, tasks = "agreement",
    fits = function(shape) fits_agreement(shape, 30, sprintf("You asked for %s.", name), kinds, 2:60),
    compute = function(ctx) {
      s <- rating_codes(ctx)
      if (length(s$levels) < 2) stop_data("All ratings are the same, so agreement beyond chance cannot be told.", class = "outcome_constant")
      out <- stat_gwet(s$codes, length(s$levels), weights, ctx$conf_level)
      result(compact(list(new_number("statistic", "t", out$statistic), new_number("df", "degrees of freedom", out$df),
                          new_number("p_value", "p", out$p_value), new_number("estimate", label, out$kappa), new_number("se", "standard error", out$se),  # nolint: line_length_linter.
                          new_number("ci_low", "lower limit", out$kappa_low), new_number("ci_high", "upper limit", out$kappa_high),
                          new_number("conf_level", "confidence level", ctx$conf_level), new_number("n", "rows used", out$n),
                          new_number("agreement", "share of pairs of ratings that are the same", out$agreement),
                          if (has_credit(out)) new_number("credited_agreement", "agreement with near misses credited", out$credited),
                          new_number("expected_agreement", "agreement expected by chance", out$expected))),
             tables = list(), ratings = s, direction = NA_real_)
    },
    checks = function(ctx, res) list(check_independent_rows(ctx$unit_values, ctx$unit_name)),
    second = if (weights == "none") c("cohen_kappa", "fleiss_kappa") else "weighted_kappa",
    figure = function(ctx, res) method_cohen_kappa()$figure(ctx, res), sentences = function(ctx, res) say_gwet(ctx, res, label),
    script = function(ctx, res) script_gwet(ctx, res, weights),
    references = c(paste0("Gwet, K. L. (2008). Computing inter-rater reliability and its variance in the presence of high agreement. British ",
                          "Journal of Mathematical and Statistical Psychology, 61, 29-48."),
                   if (weights != "none") "Gwet, K. L. (2014). Handbook of Inter-Rater Reliability (4th ed.). Advanced Analytics."),
    next_steps = function(ctx, res) "What is in this data?")
}

say_gwet <- function(ctx, res, label) {
  n <- res$number
  interval <- say_interval(n$ci_low, n$ci_high, ctx$conf_level, say_unit)
  who <- some_of(res$ratings$names, 6)
  list(headline = sprintf("%s give the same answer in %s of the pairs of ratings; beyond chance they agree with %s = %s (%s), %s.", capital(who),
                          say_percent(n$agreement), label, say_unit(n$estimate), interval, say_p(n$p_value)),
       details = c(sprintf("Chance alone is put at %s, so the coefficient does not fall apart where nearly all ratings are of one level.",
                           say_percent(n$expected_agreement)), say_rows(ctx)),
       write_up = sprintf("Agreement of %s was %s = %s, %s (n = %s; raw agreement %s).%s", who, label, say_unit(n$estimate), interval,
                          say_number(n$n), say_percent(n$agreement), write_rows(ctx)))
}

script_gwet <- function(ctx, res, weights) {
  c(Filter(function(l) !grepl("tables$crosstab", l, fixed = TRUE), script_ratings(ctx, res$ratings)), "r <- ncol(ratings)",
    sprintf("w <- %s", if (weights == "none") "diag(k)" else "1 - (abs(outer(seq_len(k), seq_len(k), \"-\")) / (k - 1))^2"),
    "# pairs of ratings of each subject, one rater beside another",
    "pairs <- combn(r, 2); own <- rowMeans(apply(pairs, 2, function(p) w[cbind(ratings[, p[1]], ratings[, p[2]])]))",
    "same <- rowMeans(apply(pairs, 2, function(p) ratings[, p[1]] == ratings[, p[2]]))",
    "share <- tabulate(ratings, k) / (n * r); scale <- sum(w) / (k * (k - 1)); expected <- scale * sum(share * (1 - share))",
    "value <- (mean(own) - expected) / (1 - expected); chance <- scale * rowMeans(matrix((1 - share)[ratings], n))",
    "part <- (own - expected) / (1 - expected) - 2 * (1 - value) * (chance - expected) / (1 - expected)",
    "se <- sqrt(sum((part - value)^2) / (n * (n - 1))); t <- value / se; half <- qt(1 - (1 - conf_level) / 2, n - 1) * se",
    "numbers <- list(statistic = t, df = n - 1, p_value = 2 * pt(-abs(t), n - 1), estimate = value, se = se, ci_low = value - half,",
    paste0("  ci_high = min(1, value + half), conf_level = conf_level, n = n, agreement = mean(same), ",
           if (!is.null(res$number$credited_agreement)) "credited_agreement = mean(own), ", "expected_agreement = expected)"))
}
