#' @noRd
method_clustered_regression <- function() {
  new_method(
    id = "clustered_regression", name = "Least squares with cluster-robust (CR2) standard errors", tasks = c("predict", "compare", "relate"),
    fits = function(shape) {
      ok <- identical(shape$method_asked, "clustered_regression") && isTRUE(shape$clustered) && shape$n_outcome == 1 && shape$predictors +
        shape$n_by >= 1 && shape$outcome_kind %in% c("number", "count", "ordered", "yes_no")
      if (ok) new_fit(50, "You asked for errors that allow for rows of the same cluster being alike.")
    },
    compute = function(ctx) {
      m <- named_model(if (ctx$columns[[outcome_name(ctx)]]$kind == "yes_no") yes_as_one(ctx) else ctx)
      fit <- stat_least_squares(m$x, m$y)
      if (length(fit$aliased)) stop_data("The predictors repeat each other, so their effects cannot be told apart.", class = "collinear")
      group <- as_group(ctx$frame$data[[ctx$reading$extra$cluster]])
      robust <- stat_clustered(m$x, fit, as.integer(group))
      coefficient_result(ctx, m, fit$coefficients, robust$se, robust$df, list(new_number("clusters", "clusters", robust$clusters),
        new_number("r_squared", "R squared", fit$r_squared),
        new_number("se_plain", "largest ratio of a robust to a plain standard error", max(robust$se / fit$se)), new_number("n", "rows used",
          fit$n)),
        joint = function(rows) joint_wald(fit$coefficients, robust$covariance, rows, robust$clusters - 1),
        fit = fit, columns = m$columns, factors = m$factors, pair = m$pair)
    },
    checks = function(ctx, res) list(check_cluster_count(res$number$clusters), check_residual_normal(res$fit$residuals)),
    figure = function(ctx, res) figure_fitted(ctx, res$fit$fitted, outcome_name(ctx), sprintf("%s: observed against fitted",
      capital(say_column(outcome_column(ctx))))), second = "mixed_linear",
    sentences = function(ctx, res) say_named_model(ctx, res,
      sprintf("A least-squares regression with standard errors clustered by %s (CR2, %s clusters)", ctx$reading$extra$cluster,
        say_number(res$number$clusters)),
      sprintf("Allowing for clusters changes the standard errors by up to a factor of %s.", say_number(res$number$se_plain, 2))),
    script = function(ctx, res) {
      m <- script_model_columns(ctx, res)
      c(sprintf("y <- %s", if (ctx$columns[[outcome_name(ctx)]]$kind == "yes_no") sprintf("as.numeric(factor(%s)) - 1",
        script_column(outcome_name(ctx))) else script_value(outcome_name(ctx))), m$set, sprintf("g <- droplevels(factor(%s))",
          script_column(ctx$reading$extra$cluster)),
        sprintf(paste0("fit <- lm(y ~ %s); x <- unname(model.matrix(fit)); e <- unname(resid(fit)); n <- length(y); m <- solve(crossprod(x)); ",
            "b <- unname(coef(fit)); rows_of <- split(seq_len(n), g)"), m$formula),
        paste0("root <- function(s) { v <- eigen(s, symmetric = TRUE); v$vectors %*% (ifelse(v$values > 1e-10, 1 / sqrt(pmax(v$values, ",
            "1e-300)), 0) * t(v$vectors)) }"),
        paste0("adjust <- lapply(rows_of, function(i) t(x[i, , drop = FALSE]) %*% root(diag(length(i)) - x[i, , drop = FALSE] %*% m %*% t(x[i, ",
            ", drop = FALSE])))"),
        paste0("scores <- mapply(function(a, i) a %*% e[i], adjust, rows_of); vc <- m %*% tcrossprod(matrix(scores, ncol(x))) %*% m; se <- ",
            "sqrt(diag(vc)); resid_maker <- diag(n) - x %*% m %*% t(x)"),
        paste0("df <- sapply(seq_len(ncol(x)), function(j) { p <- mapply(function(a, i) resid_maker[, i, drop = FALSE] %*% t(m[j, ] %*% a), ",
            "adjust, rows_of); s <- crossprod(p); sum(diag(s))^2 / sum(s^2) })"),
        script_coefficients(res, TRUE, "vc", "nlevels(g) - 1"), "tables$coefficients$df <- df",
        paste0("numbers <- c(numbers, list(clusters = nlevels(g), r_squared = summary(fit)$r.squared, se_plain = max(se / ",
            "summary(fit)$coefficients[, 2]), n = n))"))
    },
    references = c(paste0("Bell, R. M., & McCaffrey, D. F. (2002). Bias reduction in standard errors for linear regression with multi-stage ",
        "samples. Survey Methodology, 28, 169-181."),
                   paste0("Pustejovsky, J. E., & Tipton, E. (2018). Small-sample methods for cluster-robust variance estimation and hypothesis ",
                       "testing in fixed effects models. Journal of Business & Economic Statistics, 36, 672-683.")),
    next_steps = function(ctx, res) sprintf("Mixed model of %s on %s with a random intercept for %s", outcome_name(ctx), paste(names(res$columns),
      collapse = " and "), ctx$reading$extra$cluster))
}

#' A yes/no outcome as 0 and 1
#' @noRd
yes_as_one <- function(ctx) {
  ctx$frame$data[[outcome_name(ctx)]] <- as.integer(as_group(ctx$frame$data[[outcome_name(ctx)]])) - 1
  ctx
}

#' @noRd
method_penalised_logistic <- function() {
  new_method(
    id = "penalised_logistic", name = "Penalised (Firth) logistic regression", tasks = "predict",
    fits = function(shape) {
      ok <- shape$task == "predict" && shape$n_outcome == 1 && shape$predictors + shape$n_by >= 1 && (shape$outcome_kind == "yes_no" ||
        isTRUE(shape$two_valued))
      if (ok) new_fit(15, "The penalty keeps odds ratios finite where a predictor tells the two outcomes apart, and takes off the bias of few rows.")
    },
    compute = compute_penalised, checks = function(ctx, res) list(check_independent_rows(ctx$unit_values, ctx$unit_name)),
    figure = function(ctx, res) figure_ratios(ctx, res),
    sentences = function(ctx, res) {
      text <- sprintf("Odds of %s = %s with Firth's penalty: %s.", say_column(outcome_column(ctx)), res$event, some_of(say_coefficients(ctx, res), 6))
      list(headline = text, details = say_rows(ctx), write_up = paste0(text, write_rows(ctx)))
    },
    script = function(ctx, res) {
      m <- script_model_columns(ctx, res)
      c(script_model_outcome(ctx, res$event), m$set,
        sprintf("x <- unname(model.matrix(~ %s)); n <- length(y); b <- numeric(ncol(x))", m$formula),
        "# score with Firth's term: half of each row's leverage is added to both outcomes",
        paste0("for (i in 1:500) { p <- plogis(drop(x %*% b)); inv <- solve(crossprod(x, x * (p * (1 - p)))); h <- rowSums((x %*% inv) * x) * ",
            "p * (1 - p); s <- drop(inv %*% crossprod(x, y - p + h * (0.5 - p))); b <- b + s * min(1, 2 / max(abs(s))); if (max(abs(s)) < 1e-13) ",
            "break }"),
        paste0("p <- plogis(drop(x %*% b)); info <- crossprod(x, x * (p * (1 - p))); se <- sqrt(diag(solve(info))); z <- qnorm(1 - (1 - ",
            "conf_level) / 2); stat <- b / se; low <- b - z * se; high <- b + z * se"),
        paste0("tables <- list(coefficients = data.frame(estimate = b, se = se, statistic = stat, p_value = 2 * pnorm(-abs(stat)), ci_low = ",
            "low, ci_high = high, odds_ratio = exp(b), odds_ratio_low = exp(low), odds_ratio_high = exp(high)))"),
        if (length(res$focal) > 1) c(
          sprintf("k <- c(%s); wald <- drop(b[k] %%*%% solve(solve(info)[k, k], b[k]))", paste(res$focal, collapse = ", ")),
          "numbers <- list(statistic = wald, df = length(k), p_value = pchisq(wald, length(k), lower.tail = FALSE), conf_level = conf_level,")
        else c(sprintf("o <- tables$coefficients[%d, ]", as.integer(res$focal)),
        paste0("numbers <- list(estimate = o$estimate, se = o$se, statistic = o$statistic, p_value = o$p_value, ci_low = o$ci_low, ci_high = ",
            "o$ci_high, conf_level = conf_level, odds_ratio = o$odds_ratio, odds_ratio_low = o$odds_ratio_low, ",
            "odds_ratio_high = o$odds_ratio_high,")),
        paste0("  log_likelihood = sum(dbinom(y, 1, p, log = TRUE)) + determinant(info)$modulus[[1]] / 2, ",
            "n = n, events = sum(y))"))
    },
    references = c("Firth, D. (1993). Bias reduction of maximum likelihood estimates. Biometrika, 80, 27-38.",
                   paste0("Heinze, G., & Schemper, M. (2002). A solution to the problem of separation in logistic regression. Statistics in ",
                       "Medicine, 21, 2409-2419.")))
}

compute_penalised <- function(ctx) {
  columns <- need_two_levels(model_columns(ctx))
  pair <- interaction_pair(ctx, columns)
  m <- stat_model_matrix(columns, pair)
  o <- model_outcome(ctx, "binomial")
  fit <- stat_penalised_logistic(m$x, o$y)
  table <- ratio_table(m$term, fit$coefficients, fit$se, ctx$conf_level)
  focal <- focal_rows(ctx, m$source)
  # (of several columns, or of several levels of one, the answer tells the joint test)
  if (!length(focal)) focal <- seq_len(ncol(m$x))[-1]
  joint <- if (length(focal) > 1) wald_numbers(fit$coefficients, fit$covariance, focal)
  result(c(generalised_focal(table, focal, "odds_ratio", ctx$conf_level), joint, list(new_number("log_likelihood", "penalised log likelihood",
    fit$log_likelihood), new_number("n", "rows used", fit$n), new_number("events", sprintf("rows with %s", o$event), sum(o$y)))),
         list(new_table("coefficients", sprintf("Coefficients for %s = %s (Firth)", outcome_name(ctx), o$event), table)), focal = focal,
           event = o$event, columns = columns, factors = vapply(columns, is.factor, NA), pair = pair, term = m$term, ratio = "odds_ratio")
}
