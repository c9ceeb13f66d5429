#' @noRd
method_multinomial_regression <- function() {
  new_method(
    id = "multinomial_regression", name = "Multinomial logistic regression", tasks = "predict",
    fits = function(shape) {
      ok <- shape$task == "predict" && shape$n_outcome == 1 && shape$predictors + shape$n_by >= 1 && (shape$outcome_kind == "category" ||
          (identical(shape$method_asked, "multinomial_regression") && shape$outcome_kind == "ordered"))
      if (ok) new_fit(84, "The outcome has several levels without an order, so the odds of each against the first are modelled.")
    },
    compute = function(ctx) {
      m <- named_model(list_without_outcome(ctx))
      g <- as_group(ctx$frame$data[[outcome_name(ctx)]])
      if (nlevels(g) < 3) stop_data("A multinomial model needs an outcome of at least three levels.",
          todo = "Use a logistic regression.", class = "group_count")
      if (nlevels(g) > 20) stop_data(sprintf("%s has %d levels, too many for a multinomial model.",
          quoted(outcome_name(ctx)), nlevels(g)), class = "unfit_data")
      fit <- stat_multinomial(as.integer(g), m$x)
      z <- stats::qnorm(1 - (1 - ctx$conf_level) / 2)
      b <- as.vector(t(fit$coefficients)); se <- as.vector(t(fit$se))
      table <- data.frame(level = rep(levels(g)[-1], each = ncol(m$x)), term = rep(m$term, nlevels(g) - 1),
          estimate = b, se = se, statistic = b / se, p_value = 2 * stats::pnorm(-abs(b / se)), ci_low = b - z * se, ci_high = b + z * se,
                          odds_ratio = exp(b), odds_ratio_low = exp(b - z * se), odds_ratio_high = exp(b + z * se), stringsAsFactors = FALSE)
      result(list(new_number("statistic", "likelihood ratio chi-square", fit$statistic),
          new_number("df", "degrees of freedom", fit$df), new_number("p_value", "p",
          fit$p_value), new_number("conf_level", "confidence level", ctx$conf_level),
                  new_number("n", "rows used", fit$n), new_number("log_likelihood", "log likelihood",
                      fit$log_likelihood), new_number("aic", "AIC", fit$aic), new_number("bic", "BIC", fit$bic),
                  new_number("pseudo_r_squared", "McFadden pseudo R squared",
                      1 - fit$log_likelihood / fit$null_log_likelihood), new_number("accuracy", "rows put into the right level", fit$accuracy)),
             tables = list(new_table("coefficients", sprintf("Odds of each level of %s against %s", outcome_name(ctx),
                 levels(g)[1]), table)), fit = fit, term = m$term, columns = m$columns, factors = m$factors, pair = m$pair,
                     levels = levels(g), direction = NA_real_)
    },
    checks = function(ctx, res) list(check_independent_rows(ctx$unit_values, ctx$unit_name),
        check_events_per_term(min(table(ctx$frame$data[[outcome_name(ctx)]])), length(res$term) - 1)),
    figure = function(ctx, res) figure_multinomial(ctx, res),
    sentences = function(ctx, res) {
      n <- res$number; t <- res$tables[[1]]$data; y <- say_column(outcome_column(ctx))
      t <- t[t$term != "(intercept)", ]
      clear <- t[t$p_value < 1 - ctx$conf_level, ]
      item <- function(d) {
        r <- say_ratio(d, "odds_ratio", ctx$conf_level)
        sprintf("%s for %s: odds ratio %s (%s), %s", d$term, d$level, r$value, r$interval, vapply(d$p_value, say_p, ""))
      }
      test <- sprintf("likelihood ratio chi-square(%s) = %s, %s", say_df(n$df), say_number(n$statistic, 2), say_p(n$p_value))
      list(headline = sprintf("%s %s %s: %s.", capital(some_of(vapply(ctx$columns[names(res$columns)], say_column, ""),
          4)), joint_verb(isTRUE(n$p_value < 1 - ctx$conf_level), length(res$columns)), y, test),
           details = c(if (nrow(clear)) sprintf("Clear, each against %s: %s.", res$levels[1], some_of(item(clear), 5)),
               sprintf("The model puts %s of the rows into their own level.", say_percent(n$accuracy, 0)), say_rows(ctx)),
           write_up = sprintf("A multinomial logistic regression of %s (n = %s; reference %s) gave %s: %s.%s", y,
               say_number(n$n), res$levels[1], test, some_of(item(t), 10), write_rows(ctx)))
    },
    script = function(ctx, res) {
      m <- script_model_columns(ctx, res)
      c(sprintf("y <- droplevels(factor(%s)); code <- as.integer(y); k <- nlevels(y); n <- length(y); q <- k - 1",
          script_column(outcome_name(ctx))), m$set,
        sprintf(paste0("x <- model.matrix(~ %s); p <- ncol(x); start <- nnet::multinom(y ~ x - 1, trace =",
            " FALSE, maxit = 500, reltol = 1e-12); theta <- matrix(t(rbind(coef(start))), p)"), m$formula),
        "# multinom() stops at about six digits; Newton steps on the same likelihood give the rest",
        "hit <- outer(code, seq_len(q) + 1, `==`) * 1; chance <- function(t) { e <- exp(x %*% t); e / (1 + rowSums(e)) }",
        paste0("info <- function(pr) { h <- matrix(0, p * q, p * q); for (a in seq_len(q)) for (b in",
            " seq_len(q)) h[(a - 1) * p + seq_len(p), (b - 1) * p + seq_len(p)] <- crossprod(x, x *",
            " (pr[, a] * ((a == b) - pr[, b]))); h }"),
        paste0("for (i in 1:30) { pr <- chance(theta); theta <- theta + matrix(solve(info(pr),",
            " as.vector(crossprod(x, hit - pr))), p) }; pr <- chance(theta)"),
        paste0("ll <- sum(log(cbind(1 - rowSums(pr), pr)[cbind(seq_len(n), code)])); null <- sum(table(y) *",
            " log(table(y) / n)); b <- as.vector(theta); se <- sqrt(diag(solve(info(pr)))); z <- qnorm(1",
            " - (1 - conf_level) / 2)"),
        paste0("tables <- list(coefficients = data.frame(estimate = b, se = se, statistic = b / se, p_value",
            " = 2 * pnorm(-abs(b / se)), ci_low = b - z * se, ci_high = b + z * se, odds_ratio = exp(b),",
            " odds_ratio_low = exp(b - z * se),"),
        "  odds_ratio_high = exp(b + z * se))); lr <- 2 * (ll - null); df <- (p - 1) * q",
        paste0("numbers <- list(statistic = lr, df = df, p_value = pchisq(lr, df, lower.tail = FALSE),",
            " conf_level = conf_level, n = n, log_likelihood = ll, aic = -2 * ll + 2 * p * q, bic = -2 *",
            " ll + log(n) * p * q, pseudo_r_squared = 1 - ll / null,"),
        "  accuracy = mean(max.col(cbind(1 - rowSums(pr), pr), \"first\") == code))")
    },
    references = "McCullagh, P., & Nelder, J. A. (1989). Generalized Linear Models (2nd ed.). Chapman & Hall.", next_steps = function(ctx,
        res) sprintf("How many rows are there for each %s?", outcome_name(ctx)))
}

#' A context whose outcome need not be a number
#' @noRd
list_without_outcome <- function(ctx) {
  ctx$frame$data[[outcome_name(ctx)]] <- rep(0, ctx$frame$used)
  ctx
}

#' "goes with", "together do not clearly go with"
#' @noRd
joint_verb <- function(clear, columns) {
  if (columns == 1) return(if (clear) "goes with" else "does not clearly go with")
  if (clear) "together go with" else "together do not clearly go with"
}

#' The odds ratios of every level against the first
#' @noRd
figure_multinomial <- function(ctx, res) {
  all <- res$tables[[1]]$data
  at <- which(all$term != "(intercept)")
  if (!length(at) || length(at) > 60) return(NULL)
  t <- all[at, , drop = FALSE]
  t$term <- sprintf("%s: %s", t$level, t$term)
  draw_ratios(ctx, t, "odds_ratio", "Odds ratio", sprintf("Odds of each %s against %s", say_column(outcome_column(ctx)), res$levels[1]),
              sprintf("tables$coefficients[c(%s), ]", paste(at, collapse = ", ")), t$term)
}
