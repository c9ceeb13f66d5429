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
                   reference_fai_cornelius()),
    next_steps = function(ctx, res) sprintf("Describe %s", outcome_name(ctx)))
}

compute_mixed <- function(ctx) {
  m <- named_model(ctx)
  group <- as_group(ctx$frame$data[[ctx$reading$extra$cluster]])
  need_spread(stat_group_moments(m$y)[, "m2"])
  restricted <- !isTRUE(ctx$reading$extra$maximum_likelihood)
  fit <- stat_mixed_intercept(m$y, m$x, as.integer(group), restricted)
  coefficient_result(ctx, m, fit$coefficients, fit$se, fit$df,
                     list(new_number("variance_between", "variance between groups", fit$tau2),
                          new_number("variance_within", "variance within groups", fit$sigma2),
                          new_number("icc", "share of the variance between groups", fit$icc),
                          new_number("log_likelihood", if (restricted) "restricted log likelihood" else "log likelihood", fit$log_likelihood),
                          new_number("groups", "groups", fit$groups), new_number("n", "rows used", fit$n)),
                     joint = function(rows) joint_numbers(mixed_joint(fit, rows)), fit = fit, columns = m$columns, factors = m$factors, pair = m$pair,
                     residuals = m$y - fit$fitted, restricted = restricted)
}

say_mixed <- function(ctx, res) {
  n <- res$number; by <- say_column(ctx$columns[[ctx$reading$extra$cluster]])
  what <- sprintf("A linear mixed model with a random intercept for %s (%s groups; %s, Satterthwaite degrees of freedom)", by, say_number(n$groups),
                  if (res$restricted) "REML" else "maximum likelihood")
  base <- say_named_model(ctx, res, what,
                          sprintf("%s of the variance that the model leaves lies between the %s groups of %s.", say_percent(n$icc, 0),
                                  say_number(n$groups), by),
                          sprintf(" The variance between groups was %s, within groups %s (ICC = %s).", say_number(n$variance_between),
                                  say_number(n$variance_within), say_unit(n$icc)))
  if (is.null(res$together) && length(res$term) > 2) base$details <- c(sprintf("All coefficients: %s.", some_of(say_coefficients(ctx, res), 6)),
                                                                       base$details)
  base$headline <- after_lead(sprintf("With an intercept for each %s, ", by), base$headline)
  base
}

#' A sentence that goes on after a lead
#' @noRd
after_lead <- function(lead, sentence) {
  # (acronyms and single letters keep their capital: "IQ", "E")
  kept <- grepl("^([A-Z][A-Z0-9]|[B-Z] )", sentence)
  paste0(lead, if (kept) sentence else paste0(tolower(substr(sentence, 1, 1)), substring(sentence, 2)))
}

reference_fai_cornelius <- function() {
  paste("Fai, A. H.-T., & Cornelius, P. L. (1996). Approximate F-tests of multiple degree of freedom hypotheses in generalized least squares",
        "analyses of unbalanced split-plot experiments. Journal of Statistical Computation and Simulation, 54, 363-378.")
}

#' Lines that test the coefficients k of a mixed model together, with degrees of freedom by df_of()
#' @param covariance What the script calls the covariance of the coefficients.
#' @noRd
script_joint_mixed <- function(covariance) {
  c(sprintf("turn <- eigen(%s[k, k, drop = FALSE], symmetric = TRUE); L <- matrix(0, length(k), length(b)); L[, k] <- t(turn$vectors)", covariance),
    "t2 <- drop(L %*% b)^2 / turn$values; own <- df_of(L); E <- sum((own / (own - 2))[own > 2]); df2 <- 2 * E / (E - length(k))",
    paste0("numbers <- c(list(statistic = mean(t2), df1 = length(k), df2 = df2, p_value = pf(mean(t2), length(k), df2, lower.tail = FALSE)), ",
           "numbers)"))
}

script_mixed <- function(ctx, res) {
  m <- script_model_columns(ctx, res)
  c(sprintf("y <- %s", script_value(outcome_name(ctx))), m$set,
      sprintf("g <- droplevels(factor(%s)); code <- as.integer(g); x <- model.matrix(~ %s); n <- length(y); p <- ncol(x)",
      script_column(ctx$reading$extra$cluster), m$formula),
    "size <- as.vector(table(g)); sums <- rowsum(x, code)",
    "# for a given ratio of the variances the model is least squares on values drawn towards their group means",
    sprintf("lost <- %s  # %s", if (res$restricted) "p" else "0", if (res$restricted) "restricted likelihood" else "maximum likelihood"),
    "fit_at <- function(ratio) {", "  part <- 1 - 1 / sqrt(1 + ratio * size[code]); drawn <- function(v) v - part * ave(v, code)",
    paste0("  xs <- apply(x, 2, drawn); fit <- lm.fit(xs, drawn(y)); s2 <- sum(fit$residuals^2) / (n - lost);",
        " inv <- chol2inv(fit$qr$qr[seq_len(p), , drop = FALSE]); sh <- 1 / (1 + ratio * size)"),
    "  r <- as.vector(rowsum(y - drop(x %*% fit$coefficients), code)); scaled <- sums * sh",
    paste0("  list(beta = unname(fit$coefficients), s2 = s2, inv = inv, ll = -0.5 * ((n - lost) * (log(2 * pi",
        " * s2) + 1) + sum(log(1 + ratio * size)) + (lost > 0) * determinant(crossprod(xs))$modulus[[1]]),"),
    "    slope = -0.5 * sum(size * sh) + 0.5 * (lost > 0) * sum((scaled %*% inv) * scaled) + 0.5 * sum((r * sh)^2) / s2)", "}",
    "slope <- function(ratio) fit_at(ratio)$slope; ratio <- 0",
    "if (slope(0) > 0) { high <- 1; while (slope(high) > 0) high <- high * 4; ratio <- uniroot(slope, c(0, high), tol = 1e-14, maxiter = 500)$root",
    "  for (i in 1:4) { h <- 1e-5 * max(ratio, 1e-3); ratio <- ratio - slope(ratio) * 2 * h / (slope(ratio + h) - slope(ratio - h)) } }",
    "f <- fit_at(ratio); se <- sqrt(f$s2 * diag(f$inv)); tau2 <- ratio * f$s2",
    "frame <- data.frame(y = y, g = g); frame$x <- x[, -1, drop = FALSE]",
    "lme <- tryCatch(nlme::lme(y ~ x, random = ~ 1 | g, data = frame, method = if (lost > 0) \"REML\" else \"ML\"), error = function(e) NULL)",
    "stopifnot(is.null(lme) || isTRUE(all.equal(unname(nlme::fixef(lme)), f$beta, tolerance = 1e-3)))",
    "# Satterthwaite degrees of freedom from the information on the two variances",
    paste0("sh <- 1 / (1 + ratio * size); e <- f$s2; cov_b <- f$inv * e; between <- function(k)",
        " crossprod(sums, sums * (sh^k / size)) / e^k; within <- crossprod(x) - crossprod(sums, sums /",
        " size)"),
    paste0("v2 <- within / e^2 + between(2); v3 <- within / e^3 + between(3); sg <- sums * sh / e; tg <-",
        " sums * sh^2 / e^2; ss <- crossprod(sg); d <- size * sh / e; tr <- function(a, b) sum(diag(a",
        " %*% b))"),
    "part <- c((n - length(size)) / e^2 + sum(sh^2) / e^2, sum(size * sh^2) / e^2, sum(d^2))",
    paste0("less <- c(2 * tr(cov_b, v3) - tr(cov_b %*% v2, cov_b %*% v2), 2 * tr(cov_b, crossprod(tg, sg)) - tr(cov_b %*% v2, cov_b %*% ss), ",
           "2 * sum(d * rowSums((sg %*% cov_b) * sg)) - tr(cov_b %*% ss, cov_b %*% ss))"),
    "info <- 0.5 * matrix((part - (lost > 0) * less)[c(1, 2, 2, 3)], 2); moves <- list(cov_b %*% v2 %*% cov_b, cov_b %*% ss %*% cov_b)",
    "df_of <- function(L) { if (ratio == 0) return(rep(n - p, nrow(L))); of <- function(m) rowSums((L %*% m) * L)",
    "  grad <- matrix(sapply(moves, of), ncol = 2); 2 * of(cov_b)^2 / rowSums((grad %*% solve(info)) * grad) }",
    "b <- f$beta; df <- df_of(diag(p))", script_coefficients(res, TRUE), "tables$coefficients$df <- df",
    if (!is.null(res$together)) script_joint_mixed("cov_b"),
    paste0("numbers <- c(numbers, list(variance_between = tau2, variance_within = f$s2, icc = tau2 / (tau2 + f$s2), log_likelihood = f$ll, ",
           "groups = length(size), n = n))"),
    "fit <- list(fitted.values = drop(x %*% f$beta), residuals = y - drop(x %*% f$beta))")
}
