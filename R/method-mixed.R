#' @noRd
method_mixed_linear <- function() {
  new_method(
    id = "mixed_linear", name = "Linear mixed model (random intercept)", tasks = c("predict", "relate", "compare"), families = "mixed_model",
    fits = function(shape) {
      ok <- shape$task == "predict" && shape$n_outcome == 1 && shape$predictors + shape$n_by >= 1 && isTRUE(shape$clustered) &&
          shape$outcome_kind %in% c("number", "count", "ordered")
      if (ok) new_fit(if (shape$outcome_kind %in% c("number", "count")) 92 else 45,
          "Rows of the same group belong together, so each group gets an intercept of its own.")
    },
    compute = compute_mixed,
    checks = function(ctx, res) list(check_residual_normal(res$residuals), check_cluster_count(res$fit$groups),
        check_residual_spread(res$x, res$residuals)),
    figure = function(ctx, res) figure_fitted(ctx, res$fit$fitted, outcome_name(ctx),
        sprintf("%s: observed against fitted", capital(say_column(outcome_column(ctx))))),
    sentences = say_mixed, script = script_mixed,
    references = c("Laird, N. M., & Ware, J. H. (1982). Random-effects models for longitudinal data. Biometrics, 38, 963-974.",
                   paste0("Fai, A. H.-T., & Cornelius, P. L. (1996). Approximate F-tests of multiple degree",
                       " of freedom hypotheses in generalized least squares analyses of unbalanced",
                       " split-plot experiments. Journal of Statistical Computation and Simulation, 54,",
                       " 363-378.")),
    next_steps = function(ctx, res) sprintf("Describe %s", outcome_name(ctx)))
}

compute_mixed <- function(ctx) {
  columns <- need_two_levels(model_columns(ctx))
  pair <- interaction_pair(ctx, columns)
  m <- stat_model_matrix(columns, pair)
  group <- as_group(ctx$frame$data[[ctx$reading$extra$cluster]])
  y <- outcome_values(ctx)
  need_spread(stat_group_moments(y)[, "m2"])
  fit <- stat_mixed_intercept(y, m$x, as.integer(group))
  half <- stats::qt(1 - (1 - ctx$conf_level) / 2, fit$df) * fit$se
  t <- fit$coefficients / fit$se
  table <- data.frame(term = m$term, estimate = fit$coefficients, se = fit$se, df = fit$df, statistic = t,
      p_value = 2 * stats::pt(-abs(t), fit$df), ci_low = fit$coefficients - half,
                      ci_high = fit$coefficients + half, stringsAsFactors = FALSE)
  focal <- focal_rows(ctx, m$source)
  row <- if (length(focal) == 1) table[focal, ] else table[2, ]
  result(list(new_number("statistic", "t", row$statistic), new_number("df", "degrees of freedom", row$df),
      new_number("p_value", "p", row$p_value), new_number("estimate", sprintf("coefficient of %s", row$term), row$estimate),
              new_number("se", "standard error", row$se), new_number("ci_low", "lower limit",
                  row$ci_low), new_number("ci_high", "upper limit", row$ci_high), new_number("conf_level", "confidence level", ctx$conf_level),
              new_number("variance_between", "variance between groups", fit$tau2), new_number("variance_within",
                  "variance within groups", fit$sigma2), new_number("icc", "share of the variance between groups", fit$icc),
              new_number("log_likelihood", "restricted log likelihood", fit$log_likelihood), new_number("groups",
                  "groups", fit$groups), new_number("n", "rows used", fit$n)),
         tables = list(new_table("coefficients", sprintf("Coefficients for %s", outcome_name(ctx)),
             table)), fit = fit, x = m$x, term = m$term, columns = columns, factors = vapply(columns, is.factor, NA), pair = pair,
         residuals = y - fit$fitted, row = row)
}

say_mixed <- function(ctx, res) {
  n <- res$number; unit <- outcome_column(ctx)$unit
  y <- say_column(outcome_column(ctx)); by <- say_column(ctx$columns[[ctx$reading$extra$cluster]])
  clear <- isTRUE(n$p_value < 1 - ctx$conf_level)
  interval <- sprintf("%s, %s", say_interval(n$ci_low, n$ci_high, ctx$conf_level), say_p(n$p_value))
  t <- res$tables[[1]]$data[-1, ]
  item <- sprintf("%s: b = %s, %s, %s", t$term, say_number(t$estimate),
      mapply(function(l, h) say_interval(l, h, ctx$conf_level), t$ci_low, t$ci_high), vapply(t$p_value, say_p, ""))
  list(headline = sprintf("With an intercept for each %s, %s %s with %s: %s a unit (%s).", by, y,
      if (clear) (if (n$estimate > 0) "rises" else "falls") else "does not clearly change", res$row$term,
                          with_unit(say_number(n$estimate), unit), interval),
       details = c(if (nrow(t) > 1) sprintf("All coefficients: %s.", some_of(item, 6)),
                   sprintf("%s of the variance that the model leaves lies between the %s groups of %s.",
                       say_percent(n$icc, 0), say_number(n$groups), by), say_rows(ctx)),
       write_up = sprintf(paste0("A linear mixed model of %s with a random intercept for %s (%s groups, n =",
           " %s; REML, Satterthwaite degrees of freedom) gave %s; variance between groups %s, within %s",
           " (ICC = %s).%s"), y, by,
                          say_number(n$groups), say_number(n$n), paste(item,
                              collapse = "; "), say_number(n$variance_between), say_number(n$variance_within), say_unit(n$icc), write_rows(ctx)))
}

script_mixed <- function(ctx, res) {
  m <- script_model_columns(ctx, res)
  c(sprintf("y <- %s", script_value(outcome_name(ctx))), m$set,
      sprintf("g <- droplevels(factor(%s)); code <- as.integer(g); x <- model.matrix(~ %s); n <- length(y); p <- ncol(x)",
      script_column(ctx$reading$extra$cluster), m$formula),
    "size <- as.vector(table(g)); sums <- rowsum(x, code)",
    "# for a given ratio of the variances the model is least squares on values drawn towards their group means",
    "fit_at <- function(ratio) {", "  part <- 1 - 1 / sqrt(1 + ratio * size[code]); drawn <- function(v) v - part * ave(v, code)",
    paste0("  xs <- apply(x, 2, drawn); fit <- lm.fit(xs, drawn(y)); s2 <- sum(fit$residuals^2) / (n - p);",
        " inv <- chol2inv(fit$qr$qr[seq_len(p), , drop = FALSE]); sh <- 1 / (1 + ratio * size)"),
    "  r <- as.vector(rowsum(y - drop(x %*% fit$coefficients), code)); scaled <- sums * sh",
    paste0("  list(beta = unname(fit$coefficients), s2 = s2, inv = inv, ll = -0.5 * ((n - p) * (log(2 * pi",
        " * s2) + 1) + sum(log(1 + ratio * size)) + determinant(crossprod(xs))$modulus[[1]]),"),
    "    slope = -0.5 * sum(size * sh) + 0.5 * sum((scaled %*% inv) * scaled) + 0.5 * sum((r * sh)^2) / s2)", "}",
    "slope <- function(ratio) fit_at(ratio)$slope; ratio <- 0",
    "if (slope(0) > 0) { high <- 1; while (slope(high) > 0) high <- high * 4; ratio <- uniroot(slope, c(0, high), tol = 1e-14, maxiter = 500)$root",
    "  for (i in 1:4) { h <- 1e-5 * max(ratio, 1e-3); ratio <- ratio - slope(ratio) * 2 * h / (slope(ratio + h) - slope(ratio - h)) } }",
    "f <- fit_at(ratio); se <- sqrt(f$s2 * diag(f$inv)); tau2 <- ratio * f$s2",
    "frame <- data.frame(y = y, g = g); frame$x <- x[, -1, drop = FALSE]",
    "lme <- tryCatch(nlme::lme(y ~ x, random = ~ 1 | g, data = frame), error = function(e) NULL)",
    "stopifnot(is.null(lme) || isTRUE(all.equal(unname(nlme::fixef(lme)), f$beta, tolerance = 1e-3)))",
    "# Satterthwaite degrees of freedom from the information on the two variances",
    paste0("sh <- 1 / (1 + ratio * size); e <- f$s2; cov_b <- f$inv * e; between <- function(k)",
        " crossprod(sums, sums * (sh^k / size)) / e^k; within <- crossprod(x) - crossprod(sums, sums /",
        " size)"),
    paste0("v2 <- within / e^2 + between(2); v3 <- within / e^3 + between(3); sg <- sums * sh / e; tg <-",
        " sums * sh^2 / e^2; ss <- crossprod(sg); d <- size * sh / e; tr <- function(a, b) sum(diag(a",
        " %*% b))"),
    "info <- 0.5 * matrix(c((n - length(size)) / e^2 + sum(sh^2) / e^2 - 2 * tr(cov_b, v3) + tr(cov_b %*% v2, cov_b %*% v2),",
    paste0("  rep(sum(size * sh^2) / e^2 - 2 * tr(cov_b, crossprod(tg, sg)) + tr(cov_b %*% v2, cov_b %*%",
        " ss), 2), sum(d^2) - 2 * sum(d * rowSums((sg %*% cov_b) * sg)) + tr(cov_b %*% ss, cov_b %*%",
        " ss)), 2)"),
    paste0("grad <- cbind(diag(cov_b %*% v2 %*% cov_b), diag(cov_b %*% ss %*% cov_b)); df <- if (ratio ==",
        " 0) rep(n - p, p) else 2 * diag(cov_b)^2 / rowSums((grad %*% solve(info)) * grad)"),
    "half <- qt(1 - (1 - conf_level) / 2, df) * se; stat <- f$beta / se",
    paste0("tables <- list(coefficients = data.frame(estimate = f$beta, se = se, df = df, statistic = stat,",
        " p_value = 2 * pt(-abs(stat), df), ci_low = f$beta - half, ci_high = f$beta + half))"),
    sprintf("o <- tables$coefficients[%d, ]", match(res$row$term, res$term)),
    paste0("numbers <- list(statistic = o$statistic, df = o$df, p_value = o$p_value, estimate = o$estimate,",
        " se = o$se, ci_low = o$ci_low, ci_high = o$ci_high, conf_level = conf_level, variance_between =",
        " tau2,"),
    paste0("  variance_within = f$s2, icc = tau2 / (tau2 + f$s2), log_likelihood = f$ll, groups =",
        " length(size), n = n)"), "fit <- list(fitted.values = drop(x %*% f$beta), residuals = y - drop(x %*% f$beta))")
}
