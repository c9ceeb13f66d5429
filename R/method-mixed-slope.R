#' @noRd
method_mixed_linear_slope <- function() {
  new_method(
    id = "mixed_linear_slope", name = "Linear mixed model (random intercept and slope)", tasks = c("predict", "relate", "compare"),
    fits = function(shape) {
      ok <- isTRUE(shape$random_slope) && shape$task == "predict" && shape$n_outcome == 1 && shape$predictors + shape$n_by >= 1 &&
          isTRUE(shape$clustered) &&
        shape$outcome_kind %in% c("number", "count", "ordered")
      if (ok) new_fit(97, "The question lets the slope differ from group to group.")
    },
    compute = compute_mixed_slope,
    checks = function(ctx, res) list(check_residual_normal(res$residuals), check_cluster_count(res$fit$groups), check_singular(res$fit)),
    second = "mixed_linear",
    figure = function(ctx, res) figure_fitted(ctx, res$fit$fitted, outcome_name(ctx), sprintf("%s: observed against fitted",
      capital(say_column(outcome_column(ctx))))),
    sentences = say_mixed_slope, script = script_mixed_slope,
    references = c("Laird, N. M., & Ware, J. H. (1982). Random-effects models for longitudinal data. Biometrics, 38, 963-974.",
                   reference_fai_cornelius(),
                   paste0("Bates, D., Machler, M., Bolker, B., & Walker, S. (2015). Fitting linear mixed-effects models using ",
                       "lme4. Journal of ",
                       "Statistical ",
                          "Software, 67(1).")),
    next_steps = function(ctx, res) sprintf("Describe %s", outcome_name(ctx)))
}

#' The column whose slope varies: the first measured predictor
#' @noRd
slope_column <- function(columns) {
  numeric <- names(columns)[!vapply(columns, is.factor, NA)]
  if (!length(numeric)) stop_data("A random slope needs a predictor that is measured, not one of levels.", class = "unfit_data")
  numeric[1]
}

compute_mixed_slope <- function(ctx) {
  m <- named_model(ctx)
  name <- slope_column(m$columns)
  group <- as_group(ctx$frame$data[[ctx$reading$extra$cluster]])
  need_spread(stat_group_moments(m$y)[, "m2"])
  restricted <- !isTRUE(ctx$reading$extra$maximum_likelihood)
  fit <- stat_mixed_slope(m$y, m$x, as.integer(group), as.double(m$columns[[name]]), restricted)
  coefficient_result(ctx, m, fit$coefficients, fit$se, fit$df,
                     list(new_number("variance_intercept", sprintf("variance of the intercepts, at the mean of %s", name), fit$covariance[1, 1]),
                          new_number("variance_slope", sprintf("variance of the slopes of %s", name), fit$covariance[2, 2]),
                          new_number("correlation", "correlation of intercepts and slopes", fit$correlation),
                          new_number("variance_within", "variance within groups", fit$sigma2),
                          new_number("log_likelihood", if (restricted) "restricted log likelihood" else "log likelihood", fit$log_likelihood),
                          new_number("groups", "groups", fit$groups), new_number("n", "rows used", fit$n)),
                     joint = function(rows) joint_numbers(mixed_joint(fit, rows)), fit = fit, columns = m$columns, factors = m$factors,
                     pair = m$pair, slope = name, residuals = m$y - fit$fitted,
                     restricted = restricted)
}

#' Could the variances not be told from nothing?
#' @noRd
check_singular <- function(fit) {
  new_check("singular", if (fit$singular) "caution" else "ok", "Smallest eigenvalue of the covariance of the groups' effects",
            list(list(id = "correlation", label = "correlation of intercepts and slopes", value = fit$correlation, of = NULL)), list())
}

say_mixed_slope <- function(ctx, res) {
  n <- res$number
  base <- say_named_model(ctx, res,
      sprintf("A linear mixed model (%s, Satterthwaite degrees of freedom) with an intercept and a slope of %s for each %s",
              if (res$restricted) "REML" else "maximum likelihood", res$slope, ctx$reading$extra$cluster),
    sprintf("The slopes of %s differ between the %s groups of %s with a standard deviation of %s; intercepts, at its mean, with %s.", res$slope,
            say_number(n$groups), say_column(ctx$columns[[ctx$reading$extra$cluster]]), say_number(sqrt(n$variance_slope)),
                say_number(sqrt(n$variance_intercept))))
  base$headline <- after_lead(sprintf("With an intercept and a slope for each %s, ", say_column(ctx$columns[[ctx$reading$extra$cluster]])),
                              base$headline)
  base
}

script_mixed_slope <- function(ctx, res) {
  m <- script_model_columns(ctx, res)
  at <- match(res$slope, names(res$columns))
  c(sprintf("y <- %s", script_value(outcome_name(ctx))), m$set,
    sprintf("g <- droplevels(factor(%s)); x <- model.matrix(~ %s); n <- length(y); p <- ncol(x); s <- as.numeric(x%d)",
        script_column(ctx$reading$extra$cluster),
            m$formula, at),
    "z <- cbind(1, (s - mean(s)) / sd(s)); rows <- unname(split(seq_len(n), g)); add <- function(f, ...) Reduce(`+`, Map(f, rows, ...))",
    sprintf("lost <- %s  # %s", if (res$restricted) "p" else "0", if (res$restricted) "restricted likelihood" else "maximum likelihood"),
    "# the likelihood and its score, by the inverse of each group's own covariance matrix",
    "fit_at <- function(th) { L <- matrix(c(th[1], th[2], 0, th[3]), 2)",
    "  inv <- lapply(rows, function(i) solve(diag(length(i)) + z[i, , drop = FALSE] %*% tcrossprod(L) %*% t(z[i, , drop = FALSE])))",
    "  A <- add(function(i, v) t(x[i, , drop = FALSE]) %*% v %*% x[i, , drop = FALSE], inv); C <- solve(A)",
    "  b <- drop(C %*% add(function(i, v) t(x[i, , drop = FALSE]) %*% v %*% y[i], inv)); e <- y - drop(x %*% b)",
    "  s2 <- add(function(i, v) drop(t(e[i]) %*% v %*% e[i]), inv) / (n - lost)",
    "  score <- sapply(1:3, function(k) { d <- matrix(0, 2, 2); d[c(1, 2, 4)[k]] <- 1; D <- d %*% t(L) + L %*% t(d)",
    "    add(function(i, v) { V <- z[i, , drop = FALSE] %*% D %*% t(z[i, , drop = FALSE]); h <- v %*% x[i, , drop = FALSE]; r <- v %*% e[i]",
    "      -0.5 * sum(v * V) + 0.5 * (lost > 0) * sum(diag(C %*% t(h) %*% V %*% h)) + 0.5 * drop(t(r) %*% V %*% r) / s2 }, inv) })",
    paste0("  ll <- -0.5 * ((n - lost) * (log(2 * pi * s2) + 1) - add(function(i, v) determinant(v)$modulus[[1]], inv) + ",
           "(lost > 0) * determinant(A)$modulus[[1]])"),
    "  list(b = b, C = C, s2 = s2, ll = ll, score = score, L = L) }",
    paste0("starts <- list(c(1, 0, 0.5), c(0.3, 0, 0.1)); tries <- lapply(starts, optim, fn = function(t) -fit_at(t)$ll, gr = function(t) ",
        "-fit_at(t)$score, method = \"BFGS\","),
    "  control = list(reltol = 1e-13, maxit = 500)); th <- tries[[which.min(sapply(tries, `[[`, \"value\"))]]$par",
    paste0("for (round in 1:30) { h <- sapply(1:3, function(k) { e <- replace(numeric(3), k, 1e-5 * max(1, abs(th[k]))); (fit_at(th + e)$score - ",
        "fit_at(th - e)$score) / (2 * e[k]) })"),
    paste0("  step <- tryCatch(solve(h, fit_at(th)$score), error = function(e) NULL); if (is.null(step) || any(!is.finite(step)) || ",
        "max(abs(step)) > ",
        "0.5) break"),
    "  th <- th - step; if (max(abs(step)) < 1e-12) break }",
    "f <- fit_at(th); se <- sqrt(f$s2 * diag(f$C)); b <- unname(f$b); psi <- f$s2 * tcrossprod(f$L)",
    # (a variance at its bound is where lme() stops short of the highest likelihood, so that it is no judge there)
    if (!res$fit$singular) c("lme <- tryCatch(nlme::lme(y ~ x1, random = ~ s | g, data = list(y = y, x1 = x[, -1, drop = FALSE], s = s, g = g),",
      "  method = if (lost > 0) \"REML\" else \"ML\"), error = function(e) NULL)",
      "stopifnot(is.null(lme) || isTRUE(all.equal(unname(nlme::fixef(lme)), b, tolerance = 1e-2)))"),
    "# Satterthwaite degrees of freedom from the expected information of the variances",
    "inv <- lapply(rows, function(i) solve(f$s2 * diag(length(i)) + z[i, , drop = FALSE] %*% psi %*% t(z[i, , drop = FALSE])))",
    paste0("E <- list(matrix(c(1, 0, 0, 0), 2), matrix(c(0, 1, 1, 0), 2), matrix(c(0, 0, 0, 1), 2)); dV <- function(i, k) if (k == 4) ",
        "diag(length(i)) ",
        "else z[i, , drop = FALSE] %*% E[[k]] %*% t(z[i, , drop = FALSE])"),
    "C <- solve(add(function(i, v) t(x[i, , drop = FALSE]) %*% v %*% x[i, , drop = FALSE], inv))",
    "A <- lapply(1:4, function(k) add(function(i, v) t(x[i, , drop = FALSE]) %*% v %*% dV(i, k) %*% v %*% x[i, , drop = FALSE], inv))",
    paste0("info <- outer(1:4, 1:4, Vectorize(function(k, l) 0.5 * (add(function(i, v) sum(diag(v %*% dV(i, k) %*% v %*% dV(i, l))), ",
        "inv) + (lost > 0) * ",
        "(sum(diag(C %*% A[[k]] %*% C %*% A[[l]]))"),
    paste0("  - 2 * sum(diag(C %*% add(function(i, v) t(x[i, , drop = FALSE]) %*% v %*% dV(i, k) %*% v %*% dV(i, l) %*% v %*% x[i, , drop = FALSE], ",
        "inv)))))))"),
    "df_of <- function(L) { of <- function(m) rowSums((L %*% m) * L); grad <- matrix(sapply(A, function(a) of(C %*% a %*% C)), ncol = 4)",
    "  2 * of(C)^2 / rowSums((grad %*% solve(info)) * grad) }", "df <- df_of(diag(p))",
    script_coefficients(res, TRUE), "tables$coefficients$df <- df", if (!is.null(res$together)) script_joint_mixed("C"),
    paste0("numbers <- c(numbers, list(variance_intercept = psi[1, 1], variance_slope = psi[2, 2] / var(s), correlation = psi[1, 2] / ",
        "sqrt(psi[1, 1] * psi[2, 2]), ",
           "variance_within = f$s2, log_likelihood = f$ll, groups = length(rows), n = n))"))
}
