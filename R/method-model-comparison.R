#' @noRd
method_model_comparison <- function() {
  new_method(
    id = "model_comparison", name = "Models compared by cross-validation", tasks = c("predict", "drivers", "relate", "compare"),
    fits = function(shape) {
      ok <- isTRUE(shape$models) && shape$n_outcome == 1 && shape$predictors + shape$n_by >= 1 &&
        (shape$outcome_kind %in% c("number", "count", "ordered", "yes_no") || isTRUE(shape$two_valued))
      if (ok) new_fit(99, "The question asks which model predicts best, so each is judged on rows it has not seen.")
    },
    compute = compute_model_comparison,
    checks = function(ctx, res) list(check_independent_rows(ctx$unit_values, ctx$unit_name), check_any_gain(res)),
    figure = figure_model_comparison, sentences = say_model_comparison, script = script_model_comparison,
    references = c(paste0("Stone, M. (1974). Cross-validatory choice and assessment of statistical predictions. Journal of the Royal Statistical ",
        "Society B, 36, 111-147."),
                   "Breiman, L., Friedman, J. H., Olshen, R. A., & Stone, C. J. (1984). Classification and Regression Trees. Wadsworth."),
    next_steps = function(ctx, res) c(sprintf("How does %s depend on %s?", outcome_name(ctx), some_of(names(res$columns), 3)),
                                      sprintf("Which columns are related to %s?", outcome_name(ctx))))
}

model_titles <- function(binary) {
  c(mean = if (binary) "one share for all rows" else "one mean for all rows",
      linear = if (binary) "logistic regression" else "least squares, straight lines",
    ridge = "least squares, shrunk (ridge)", curves = if (binary) "logistic regression with curves" else "least squares with curves",
        tree = "tree of plain rules")
}

compute_model_comparison <- function(ctx) {
  binary <- ctx$columns[[outcome_name(ctx)]]$kind == "yes_no" || length(unique(ctx$frame$data[[outcome_name(ctx)]])) == 2
  o <- if (binary) model_outcome(ctx, "binomial") else list(y = outcome_values(ctx))
  columns <- lapply(need_two_levels(model_columns(ctx)), function(v) if (is.factor(v)) v else as.double(v))
  need_spread(stat_group_moments(o$y)[, "m2"])
  out <- stat_model_comparison(columns, o$y, binary, ctx$seed)
  title <- model_titles(binary)[names(out$error)]
  table <- data.frame(model = unname(title), error = unname(out$error), error_se = unname(out$error_se),
      relative_error = unname(out$error / out$error[["mean"]]),
                      stringsAsFactors = FALSE)
  if (binary) table$accuracy <- unname(colMeans((out$held > 0.5) == (o$y == 1)))
  explained <- 1 - table$relative_error
  result(compact(list(new_number("n", "rows used", out$n), new_number("folds", "folds", out$folds),
                      new_number("estimate", sprintf("R squared on rows held back, %s", title[out$chosen]), explained[out$chosen]),
                      new_number("rmse", sprintf("root mean squared error on rows held back, %s", title[out$chosen]), sqrt(out$error[out$chosen])),
                      if (binary) new_number("accuracy", sprintf("rows held back called right at one half, %s", title[out$chosen]),
                                             table$accuracy[out$chosen]),
                      new_number("best_relative_error", sprintf("error of the best relative to no model, %s", title[out$best]),
                          table$relative_error[out$best]))),
         list(new_table("models", sprintf("Mean squared error on rows held back%s, the simplest model first", if (binary) " (Brier)" else ""),
             table)),
         out = out, columns = columns, factors = vapply(columns, is.factor, NA), pair = list(), binary = binary, event = o$event,
             direction = NA_real_)
}

#' Does any model predict better than the mean by more than its error?
#' @noRd
check_any_gain <- function(res) {
  out <- res$out
  gain <- out$error[["mean"]] - out$error[out$best]
  clear <- gain > out$error_se[out$best]
  new_check("any_gain", if (clear) "ok" else "caution", "Error against that of no predictors",
            list(list(id = "gain", label = "gain over the mean, share of its error", value = unname(gain / out$error[["mean"]]), of = NULL)),
            list(gain = unname(gain / out$error[["mean"]])))
}

#' Is a straight line good enough? Yes where nothing errs less by more than one standard error
#' @noRd
say_line_enough <- function(t, line, out) {
  best <- t[out$best, ]
  beaten <- t$error[line] > best$error + best$error_se
  if (out$chosen == 1 && !beaten) return("A straight line does as well as anything that was tried, which is not much.")
  if (!beaten) "Yes, a straight line is good enough." else sprintf("No, a straight line is not enough: %s errs less by more than one standard error.",
                                                                  best$model)
}

say_model_comparison <- function(ctx, res) {
  t <- res$tables[[1]]$data; out <- res$out
  t$r_squared <- 1 - t$relative_error
  y <- say_column(outcome_column(ctx))
  item <- sprintf("%s: R2 = %s", t$model, say_unit(t$r_squared))
  chosen <- t$model[out$chosen]; best <- t$model[out$best]
  text <- if (out$chosen == 1) sprintf("Nothing here predicts %s better on rows held back than its %s; the best try, %s, gains %s.", y,
      if (res$binary) "overall share" else "mean", best, say_percent(max(0, t$r_squared[out$best]), 0))
    else if (out$chosen == out$best) sprintf("%s predicts %s best on rows held back: it accounts for %s of the spread there.", capital(chosen), y,
      say_percent(t$r_squared[out$chosen], 0))
    else sprintf(paste0("%s is good enough for %s: on rows held back it accounts for %s of the spread, and %s, with %s, is not better ",
        "by more than one ",
        "standard error."),
                 capital(chosen), y, say_percent(t$r_squared[out$chosen], 0), best, say_percent(t$r_squared[out$best], 0))
  line <- match("least squares, straight lines", t$model)
  if (isTRUE(ctx$reading$extra$line_asked) && !is.na(line)) text <- paste(say_line_enough(t, line, out), text)
  list(headline = text,
       details = c(sprintf("On rows held back (10 folds): %s.", paste(item, collapse = "; ")),
                   if (res$binary) sprintf("Called right at one half: %s.", paste(sprintf("%s %s", t$model, vapply(t$accuracy, say_percent, "")),
                                                                                  collapse = "; ")),
                   "The simplest model whose error is within one standard error of the best is preferred; R2 below zero means worse than no model.",
                       say_rows(ctx)),
       write_up = sprintf("Models of %s on %s were compared by 10-fold cross-validation (n = %s): %s.%s", y,
                          some_of(vapply(ctx$columns[names(res$columns)], say_column, ""), 8), say_number(out$n), paste(item, collapse = "; "),
                              write_rows(ctx)))
}

figure_model_comparison <- function(ctx, res) {
  t <- res$tables[[1]]$data
  d <- data.frame(model = factor(t$model, rev(t$model)), error = t$error, low = t$error - t$error_se, high = t$error + t$error_se,
                  chosen = seq_len(nrow(t)) == res$out$chosen)
  title <- sprintf("Error in predicting %s, by model", say_column(outcome_column(ctx)))
  new_figure("models", title, "dot", subtitle = "Mean squared error on rows held back, with one standard error; filled: the model preferred.",
    alt = sprintf("%s: a dot with its error for each model.", title),
    draw = function() ggplot2::ggplot(d, ggplot2::aes(x = .data$error, y = .data$model)) +
      ggplot2::geom_linerange(ggplot2::aes(xmin = .data$low, xmax = .data$high), colour = quill_colours(1), linewidth = 0.9) +
      ggplot2::geom_point(ggplot2::aes(shape = .data$chosen), size = 3.4, fill = "white", colour = quill_colours(1)) +
      ggplot2::scale_shape_manual(values = c(`TRUE` = 16, `FALSE` = 21), guide = "none") +
      ggplot2::scale_y_discrete(labels = function(x) wrap_level(x, 26)) + ggplot2::labs(x = "Mean squared error on rows held back", y = NULL),
    script = c(sprintf("plot_data <- cbind(tables$models, model = %s)", as_r_strings(t$model)),
               sprintf(paste0("plot <- ggplot(plot_data, aes(error, model)) + geom_pointrange(aes(xmin = error - error_se, xmax = error + ",
                   "error_se)) + ",
                              "labs(title = %s) + theme_minimal()"), as_r_string(title))))
}

script_model_comparison <- function(ctx, res) {
  m <- script_model_columns(ctx, res)
  models <- names(res$out$error)
  y <- script_model_outcome(ctx, if (res$binary) res$event)
  limits <- tree_limits(sum(res$out$fold != 1))
  fit <- if (res$binary) c(paste0("fit_on <- function(x, i) { q <- qr(x[i, ]); keep <- q$pivot[seq_len(q$rank)]; b <- ",
      "numeric(ncol(x))  # columns that ",
      "repeat others are left out"),
                           paste0("  b[keep] <- coef(suppressWarnings(glm.fit(x[i, keep], y[i], family = binomial(), control = ",
                               "list(epsilon = 1e-12, ",
                               "maxit = 9))))"),
                           "  plogis(pmax(pmin(drop(x[-i, , drop = FALSE] %*% b), 30), -30)) }")
    else c("fit_on <- function(x, i) { b <- lm.fit(x[i, ], y[i])$coefficients; b[is.na(b)] <- 0; drop(x[-i, , drop = FALSE] %*% b) }")
  c(y, m$set, sprintf("X <- list(%s); n <- length(y)", paste(sprintf("x%d", seq_along(res$columns)), collapse = ", ")),
    sprintf("RNGkind(\"L'Ecuyer-CMRG\", \"Inversion\", \"Rejection\"); set.seed(%s); fold <- sample(rep_len(1:%d, n))", format(ctx$seed,
      scientific = FALSE), res$out$folds),
    sprintf("straight <- model.matrix(~ %s)", m$formula), fit,
    "held <- list(); each <- function(f) { out <- numeric(n); for (k in 1:max(fold)) out[fold == k] <- f(which(fold != k)); out }",
    "held$mean <- each(function(i) rep(mean(y[i]), n - length(i))); held$linear <- each(function(i) fit_on(straight, i))",
    if ("ridge" %in% models) c("held$ridge <- each(function(i) {",
      paste0("  x <- straight[, -1, drop = FALSE]; mid <- colMeans(x[i, , drop = FALSE]); size <- sqrt(colMeans(sweep(x[i, , drop = FALSE], 2, ",
          "mid)^2)); ok <- size > 0"),
      paste0("  z <- sweep(sweep(x[, ok, drop = FALSE], 2, mid[ok]), 2, size[ok], \"/\"); k <- length(i); e <- eigen(crossprod(z[i, , ",
          "drop = FALSE]), ",
          "symmetric = TRUE)"),
      "  solve_at <- function(l) e$vectors %*% (crossprod(e$vectors, crossprod(z[i, , drop = FALSE], y[i] - mean(y[i]))) / (e$values + l))",
      "  penalty <- k * 10^seq(-4, 2, length.out = 25)",
      paste0("  gcv <- vapply(penalty, function(l) k * sum((y[i] - mean(y[i]) - z[i, , drop = FALSE] %*% solve_at(l))^2) / (k - 1 - ",
          "sum(pmax(e$values, ",
          "0) / (pmax(e$values, 0) + l)))^2, 1)"),
      "  drop(mean(y[i]) + z[-i, , drop = FALSE] %*% solve_at(penalty[which.min(gcv)])) })"),
    if ("curves" %in% models) c(paste0("curve_of <- function(v, i) { if (is.factor(v)) return(model.matrix(~ v)[, -1, drop = FALSE]); if ",
        "(length(unique(v[i])) < 8) return(cbind(v))"),
      "  knots <- unique(quantile(v[i], 1:3 / 4)); ends <- range(v[i]); knots <- knots[knots > ends[1] & knots < ends[2]]",
      "  if (!length(knots)) return(cbind(v)); splines::ns(v, knots = knots, Boundary.knots = ends) }",
      "held$curves <- each(function(i) fit_on(cbind(1, do.call(cbind, lapply(X, curve_of, i))), i))"),
    if ("tree" %in% models) c("deepest <- 5", script_tree_functions(),
      "held$tree <- each(function(i) { least <<- max(5, ceiling(length(i) / 100)); Y <<- cbind(y - mean(y[i])); p <- pruning(grow(i))",
      "  mean(y[i]) + predict_rows(p$trees[[max(which(p$penalty <= 0.01 * p$trees[[1]]$cost))]], setdiff(seq_len(n), i))[, 1] })"),
    "loss <- sapply(held, function(h) (y - h)^2); error <- colMeans(loss); by_fold <- apply(loss, 2, tapply, fold, mean)",
    paste0("error_se <- apply(by_fold, 2, sd) / sqrt(max(fold)); relative <- error / error[[\"mean\"]]; best <- which.min(error); chosen <- ",
        "which(error <= error[best] + error_se[best])[1]"),
    "tables <- list(models = data.frame(error = error, error_se = error_se, relative_error = relative))",
    if (res$binary) "right <- sapply(held, function(h) mean((h > 0.5) == (y == 1))); tables$models$accuracy <- right",
    paste0("numbers <- list(n = n, folds = max(fold), estimate = 1 - relative[[chosen]], rmse = sqrt(error[[chosen]]), best_relative_error = ",
        "relative[[best]])"), if (res$binary) "numbers$accuracy <- right[[chosen]]")
}
