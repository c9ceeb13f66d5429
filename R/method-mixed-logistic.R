#' @noRd
method_mixed_logistic <- function() {
  new_method(
    id = "mixed_logistic", name = "Logistic mixed model (random intercept)", tasks = c("predict", "relate", "compare"), families = "mixed_model",
    fits = function(shape) {
      ok <- shape$task == "predict" && shape$n_outcome == 1 && shape$predictors + shape$n_by >= 1 && isTRUE(shape$clustered) &&
        (shape$outcome_kind == "yes_no" || isTRUE(shape$two_valued))
      if (ok) new_fit(96, "The outcome has two values and rows of the same group belong together, so each group gets an intercept of its own.")
    },
    compute = compute_mixed_logistic,
    checks = function(ctx, res) list(check_cluster_count(res$fit$groups), check_events_per_term(min(sum(res$y), sum(1 - res$y)), ncol(res$x) - 1)),
    figure = function(ctx, res) figure_ratios(ctx, res), sentences = say_mixed_logistic, script = script_mixed_logistic,
    references = c(paste0("Pinheiro, J. C., & Bates, D. M. (1995). Approximations to the log-likelihood function in the nonlinear ",
        "mixed-effects model. ",
                          "Journal of Computational and Graphical Statistics, 4, 12-35."),
                   paste0("Louis, T. A. (1982). Finding the observed information matrix when using the EM algorithm. Journal of the Royal ",
                       "Statistical Society B, 44, 226-233.")),
    next_steps = function(ctx, res) sprintf("How many rows are there for each %s?", outcome_name(ctx)))
}

compute_mixed_logistic <- function(ctx) {
  columns <- need_two_levels(model_columns(ctx))
  pair <- interaction_pair(ctx, columns)
  m <- stat_model_matrix(columns, pair)
  o <- model_outcome(ctx, "binomial")
  group <- as_group(ctx$frame$data[[ctx$reading$extra$cluster]])
  if (stat_least_squares(m$x, as.numeric(seq_along(o$y)))$aliased |>
    any()) stop_data("The predictors repeat each other, so their effects cannot be told apart.", class = "collinear")
  fit <- stat_mixed_logistic(o$y, m$x, as.integer(group))
  b <- fit$coefficients
  table <- ratio_table(m$term, b, fit$se, ctx$conf_level)
  focal <- focal_rows(ctx, m$source)
  together <- if (length(focal) != 1 && length(m$term) > 2) asked_rows(ctx, m$source, focal)
  if (length(focal) != 1) focal <- if (is.null(together)) 2L else integer()
  gain <- max(0, 2 * (fit$log_likelihood - fit$plain_log_likelihood))
  k <- length(b) + 1
  result(c(generalised_focal(table, focal, "odds_ratio", ctx$conf_level), if (!is.null(together)) wald_numbers(b, fit$covariance, together),
           list(new_number("variance_between", "variance between groups (log odds)", fit$sigma^2), new_number("icc",
             "share of the latent variance between groups", fit$icc),
                new_number("groups_chi_square", "likelihood-ratio chi-square of the groups", gain),
                new_number("groups_p_value", "p of the groups (half the tail: a variance cannot be negative)", if (gain > 0) stats::pchisq(gain, 1,
                  lower.tail = FALSE) / 2 else 1),
                new_number("log_likelihood", "log likelihood", fit$log_likelihood), new_number("aic", "AIC", 2 * k - 2 * fit$log_likelihood),
                new_number("groups", "groups", fit$groups), new_number("events", sprintf("rows with %s", o$event), sum(o$y)), new_number("n",
                  "rows used", fit$n))),
         list(new_table("coefficients", sprintf("Coefficients for %s = %s (Wald intervals)", outcome_name(ctx), o$event), table)),
         fit = fit, x = m$x, y = o$y, term = m$term, focal = focal, together = together, event = o$event, columns = columns,
             factors = vapply(columns, is.factor, NA),
           pair = pair,
         ratio = "odds_ratio", row = table[focal, ])
}

say_mixed_logistic <- function(ctx, res) {
  n <- res$number
  y <- sprintf("the odds of %s = %s", say_column(outcome_column(ctx)), res$event); by <- say_column(ctx$columns[[ctx$reading$extra$cluster]])
  item <- say_coefficients(ctx, res)
  list(headline = sprintf("With an intercept for each %s, %s", by, if (is.null(res$together)) say_own_odds(ctx, res, y) else {
         about <- say_asked_columns(ctx, res)
         sprintf("%s %s %s%s: %s.", some_of(about$asked, 5), joint_verb(isTRUE(n$p_value < 1 - ctx$conf_level), length(about$asked)), y,
                 about$held, say_joint(n))
       }),
       details = c(if (length(item) > 1) sprintf("All coefficients: %s.", some_of(item, 6)),
                   sprintf("%s of the latent variance lies between the %s groups of %s (%s). Odds ratios are within a group.", say_percent(n$icc,
                     0), say_number(n$groups), by,
                           say_p(n$groups_p_value)), say_rows(ctx)),
       write_up = sprintf(paste0("A logistic mixed model of %s = %s with a random intercept for %s (%s groups, n = %s; maximum ",
           "likelihood, adaptive Gauss-Hermite quadrature with 31 nodes) ",
                                 "gave %s; variance between groups %s (latent ICC = %s).%s"), say_column(outcome_column(ctx)), res$event, by,
                                   say_number(n$groups), say_number(n$n),
                          paste(item, collapse = "; "), say_number(n$variance_between), say_unit(n$icc), write_rows(ctx)))
}

#' The one odds ratio that the question is about
#' @noRd
say_own_odds <- function(ctx, res, y) {
  own <- say_ratio(res$row, "odds_ratio", ctx$conf_level)
  clear <- isTRUE(res$row$p_value < 1 - ctx$conf_level)
  change <- if (clear) sprintf("%s %s", y, if (res$row$estimate > 0) "rise" else "fall") else sprintf("there is no clear change of %s", y)
  sprintf("%s with %s: odds ratio %s (%s), %s.", change, res$row$term, own$value, own$interval, say_p(res$row$p_value))
}

#' Wald chi-square test of several coefficients together
#' @noRd
wald_numbers <- function(b, covariance, rows) {
  statistic <- drop(b[rows] %*% solve(covariance[rows, rows, drop = FALSE], b[rows]))
  list(new_number("statistic", "chi-square (Wald)", statistic), new_number("df", "degrees of freedom", length(rows)),
       new_number("p_value", "p", stats::pchisq(statistic, length(rows), lower.tail = FALSE)))
}

script_mixed_logistic <- function(ctx, res) {
  m <- script_model_columns(ctx, res)
  flat <- res$fit$sigma == 0
  c(script_model_outcome(ctx, res$event), m$set,
    sprintf("g <- droplevels(factor(%s)); code <- as.integer(g); x <- unname(model.matrix(~ %s)); n <- length(y); p <- ncol(x)",
      script_column(ctx$reading$extra$cluster), m$formula),
    "plain <- glm(y ~ x - 1, family = binomial, control = glm.control(epsilon = 1e-14, maxit = 60)); plain <- update(plain, start = coef(plain))",
    if (flat) "# the likelihood is highest with no variance between groups: the model is the plain one"
    else c("# nodes of Gauss-Hermite quadrature from the eigenvalues of their Jacobi matrix",
      "k <- 31; off <- sqrt(seq_len(k - 1) / 2); jacobi <- diag(0, k); jacobi[cbind(1:(k - 1), 2:k)] <- off; jacobi[cbind(2:k, 1:(k - 1))] <- off",
      "e <- eigen(jacobi, symmetric = TRUE); z <- e$values; w <- sqrt(pi) * e$vectors[1, ]^2",
      "# the likelihood of each group, integrated around the mode of its intercept",
      "parts <- function(theta) {", "  b <- theta[seq_len(p)]; s <- theta[p + 1]; eta <- drop(x %*% b); u <- numeric(nlevels(g))",
      paste0("  for (i in 1:60) { pr <- plogis(eta + s * u[code]); curve <- 1 + s^2 * rowsum(pr * (1 - pr), code)[, 1]; u <- u + pmin(pmax((s ",
          "* rowsum(y - pr, code)[, 1] - u) / curve, -2), 2) }"),
      paste0("  nodes <- u + sqrt(2 / curve) %o% z; log_f <- sapply(seq_len(k), function(j) rowsum(dbinom(y, 1, plogis(eta + s * nodes[code, ",
          "j]), log = TRUE), code)[, 1] + dnorm(nodes[, j], log = TRUE) + z[j]^2 + log(w[j]))"),
      paste0("  list(eta = eta, s = s, nodes = nodes, f = exp(log_f - apply(log_f, 1, max)), ll = sum(apply(log_f, 1, max) + ",
          "log(rowSums(exp(log_f - apply(log_f, 1, max)))) + log(sqrt(2 / curve))))"), "}",
      "slope <- function(theta) { q <- parts(theta); post <- q$f / rowSums(q$f)",
      paste0("  total <- 0; for (j in seq_len(k)) total <- total + post[code, j] * cbind(x, q$nodes[code, j]) * (y - plogis(q$eta + q$s * ",
          "q$nodes[code, j])); colSums(total) }"),
      paste0("theta <- optim(c(coef(plain), 0.5), function(t) -parts(t)$ll, function(t) -slope(t), method = \"BFGS\", control = list(reltol = ",
          "1e-14, maxit = 500))$par; theta[p + 1] <- abs(theta[p + 1])"),
      "# Newton steps with a numeric derivative of the slope give the last digits",
      "bend <- function(theta) sapply(seq_along(theta), function(j) { h <- 1e-4 * max(1, abs(theta[j])); d <- replace(numeric(p + 1), j, h)",
      "  (8 * (slope(theta + d) - slope(theta - d)) - (slope(theta + 2 * d) - slope(theta - 2 * d))) / (12 * h) })",
      paste0("for (i in 1:4) theta <- theta - solve(bend(theta), slope(theta)); vc <- solve(-bend(theta)); se <- sqrt(diag(vc))[seq_len(p)]; b <- ",
          "unname(theta[seq_len(p)]); s2 <- theta[p + 1]^2; ll <- parts(theta)$ll")),
    if (flat) "b <- unname(coef(plain)); vc <- vcov(plain); se <- unname(summary(plain)$coefficients[, 2]); s2 <- 0; ll <- as.numeric(logLik(plain))",
    "z <- qnorm(1 - (1 - conf_level) / 2); stat <- b / se; gain <- max(0, 2 * (ll - as.numeric(logLik(plain))))",
    script_odds_table("stat"),
    if (is.null(res$together)) sprintf("o <- tables$coefficients[%d, ]", as.integer(res$focal))
    else c("# the coefficients asked about, together", sprintf("k <- c(%s)", paste(res$together, collapse = ", ")),
           "o <- list(statistic = drop(b[k] %*% solve(unname(vc)[k, k], b[k])), df = length(k))",
           "o$p_value <- pchisq(o$statistic, o$df, lower.tail = FALSE)"),
    paste0("numbers <- c(as.list(o), list(conf_level = conf_level, variance_between = s2, icc = s2 / (s2 + pi^2 / 3), groups_chi_square = gain,"),
    paste0("  groups_p_value = if (gain > 0) pchisq(gain, 1, lower.tail = FALSE) / 2 else 1, log_likelihood = ll, aic = 2 * (p + 1) - 2 * ll, ",
        "groups = nlevels(g), events = sum(y), n = n))"))
}
