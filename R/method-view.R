# One side of a fitted model looked at by itself: its influential rows, how its columns overlap, its residuals, the chances it gives.
# A view stands on the model that answers the question: it sets the headline, the main numbers, a table and the figure.

#' The views of a model
#'
#' @section Shape: Named list; each with name (in words), methods (ids it can be of), of(ctx, res) giving
#'   list(numbers, tables, headline, details), script(ctx, res) giving lines that set `view` (list of numbers) and `tables`, and
#'   figure(ctx, res) giving a figure or NULL (the model's own).
#' @noRd
model_views <- function() {
  pools <- c("pooled_random", "pooled_fixed")
  list(
    influence = list(name = "The influence of single rows", methods = c("linear_regression", "logistic_regression", "poisson_regression"),
                     of = view_influence, script = script_view_influence, figure = figure_influence),
    collinearity = list(name = "Collinearity", methods = c("linear_regression", "logistic_regression", "poisson_regression"),
                        of = view_collinearity, script = script_view_collinearity),
    residuals = list(name = "A residual plot", methods = "linear_regression", of = view_residuals, script = script_view_residuals,
                     figure = figure_residuals),
    discrimination = list(name = "A ROC curve", methods = "logistic_regression", of = view_discrimination, script = script_view_discrimination,
                          figure = figure_roc),
    calibration = list(name = "Calibration", methods = "logistic_regression", of = view_calibration, script = script_view_calibration,
                       figure = figure_calibration),
    explained = list(name = "The spread accounted for", methods = "linear_regression", of = view_explained, script = script_view_explained),
    marginal_effect = list(name = "The effect in chances", methods = "logistic_regression", of = view_marginal_effect,
                           script = script_view_marginal_effect),
    dispersion = list(name = "Overdispersion", methods = "poisson_regression", of = view_dispersion, script = script_view_dispersion),
    restricted_mean = list(name = "Restricted mean time", methods = c("kaplan_meier", "log_rank"), of = view_restricted_mean,
                           script = script_view_restricted_mean),
    study_groups = list(name = "Groups of studies", methods = pools, of = view_study_groups, script = script_view_study_groups,
                        figure = figure_study_groups),
    study_line = list(name = "A line through the effects of studies", methods = pools, of = view_study_line, script = script_view_study_line),
    small_studies = list(name = "The effects of small studies", methods = pools, of = view_small_studies, script = script_view_small_studies),
    study_weights = list(name = "The weight of single studies", methods = pools, of = view_study_weights, script = script_view_study_weights),
    single_studies = list(name = "The result without single studies", methods = pools, of = view_single_studies, script = script_view_single_studies),
    new_study = list(name = "What a new study would find", methods = pools, of = view_new_study, script = script_view_new_study),
    heterogeneity = list(name = "Heterogeneity", methods = pools, of = view_heterogeneity, script = script_view_heterogeneity),
    hazards = list(name = "Proportional hazards", methods = "cox_regression", of = view_hazards, script = script_view_hazards))
}

#' The method with the view that the question asks for; the method itself where none is asked for
#' @section Errors: `unfit_view` where the model that fits the columns has no such side.
#' @noRd
with_view <- function(method, asked) {
  if (is.null(asked)) return(method)
  view <- model_views()[[asked]]
  if (!method$id %in% view$methods) {
    fitting <- vapply(view$methods, function(id) find_method(id)$name, "")
    stop_data(sprintf("%s is looked at in a model by %s; these columns lead to %s.", view$name,
                      some_of(tolower(fitting), 4, and = "or"), tolower(method$name)), class = "unfit_view")
  }
  own <- method
  method$compute <- function(ctx) {
    res <- own$compute(ctx)
    seen <- view$of(ctx, res)
    c(result(c(seen$numbers, without_main(res$numbers)), tables = c(seen$tables, res$tables)),
      list(view = seen), res[setdiff(names(res), c("numbers", "number", "tables"))], list(model = res))
  }
  method$sentences <- function(ctx, res) {
    said <- own$sentences(ctx, res$model)
    list(headline = res$view$headline, details = c(res$view$details, say_rows(ctx)),
         write_up = sprintf("%s %s", res$view$headline, said$write_up))
  }
  method$checks <- function(ctx, res) own$checks(ctx, res$model)
  method$script <- function(ctx, res) c(own$script(ctx, res$model), "", sprintf("# %s", tolower(view$name)), view$script(ctx, res$model),
    sprintf("numbers <- c(view, numbers[!names(numbers) %%in%% c(%s)])", paste0("\"", main_ids(), "\"", collapse = ", ")))
  method$figure <- function(ctx, res) if (is.null(view$figure)) own$figure(ctx, res$model) else view$figure(ctx, res$model)
  method$next_steps <- function(ctx, res) own$next_steps(ctx, res$model)
  # (other methods have no such side, so their p value answers another question)
  method["second"] <- list(NULL)
  method
}

main_ids <- function() c("estimate", "se", "ci_low", "ci_high", "statistic", "df", "df1", "df2", "p_value")

without_main <- function(numbers) Filter(function(n) !n$id %in% main_ids(), numbers)

# ---- single rows -----------------------------------------------------------------------------------------------------

#' What a row used is called: its key, or its row in the file
#' @param i Positions among the rows used.
#' @noRd
row_names_used <- function(ctx, i) {
  rows <- ctx$frame$rows[i]
  key <- utils::head(ctx$row_labels(rows), 1)
  if (length(key)) sprintf("%s (row %s)", key[[1]], format(rows, trim = TRUE)) else sprintf("row %s", format(rows, trim = TRUE))
}

view_influence <- function(ctx, res) {
  t <- row_influence(res)
  top <- order(-t$cooks_distance)[seq_len(min(10, nrow(t)))]
  rows <- ctx$frame$rows[top]
  table <- data.frame(c(list(row = as.numeric(rows)), utils::head(ctx$row_labels(rows), 1), as.list(t[top, ])), check.names = FALSE,
                      stringsAsFactors = FALSE)
  if (is.null(res$family)) table <- cbind(table, largest_dfbetas(res, top))
  rownames(table) <- NULL
  worst <- table$cooks_distance[1]
  pulls <- worst > 1 || worst > 0.5 && nrow(t) > 20
  name <- row_names_used(ctx, top[1])
  list(numbers = list(new_number("estimate", sprintf("largest Cook's distance, %s", name), worst),
                      new_number("largest_leverage", "largest leverage", max(t$leverage)),
                      new_number("largest_standardised", "largest standardised residual, without its sign", max(abs(t$standardised)))),
       tables = list(new_table("influence", sprintf("The %s with most influence on the fit", count_of(length(top), "row")), table)),
       headline = sprintf(if (pulls) "%s pulls the fit: Cook's distance %s." else
         "No single row carries the fit; the most influential is %s (Cook's distance %s).", if (pulls) capital(name) else name, say_number(worst)),
       details = c("Cook's distance adds up how far all fitted values move when the row is left out; above 0.5 a row deserves a look, above 1 it decides.",  # nolint: line_length_linter.
                   if (is.null(res$family)) say_without_row(ctx, res, top[1], name)))
}

#' The coefficient that a row moves most, for each row
#' @section Shape: data frame dfbetas (signed), moves (term).
#' @noRd
largest_dfbetas <- function(res, rows) {
  d <- stat_dfbetas(res$x, res$fit, rows)
  at <- max.col(abs(d), ties.method = "first")
  data.frame(dfbetas = d[cbind(seq_along(rows), at)], moves = res$term[res$fit$kept[at]], stringsAsFactors = FALSE)
}

#' What the coefficient asked about becomes without the most influential row
#' @noRd
say_without_row <- function(ctx, res, row, name) {
  if (length(res$focal) != 1 || !res$focal %in% res$fit$kept) return(NULL)
  e <- res$fit$residuals[row]; h <- res$fit$leverage[row]
  if (h > 1 - 1e-9) return(sprintf("Without %s the coefficient of %s could not be told at all.", name, res$term[res$focal]))
  kept <- res$x[row, res$fit$kept]
  moved <- drop(res$fit$unscaled %*% kept) * e / (1 - h)
  now <- res$fit$coefficients[res$focal]
  sprintf("Without %s the coefficient of %s would be %s instead of %s.", name, res$term[res$focal],
          say_number(now - moved[match(res$focal, res$fit$kept)]), say_number(now))
}

script_view_influence <- function(ctx, res) {
  glm <- !is.null(res$family)
  c("h <- hatvalues(fit); cook <- cooks.distance(fit); e <- residuals(fit, \"response\")",
    if (glm) "std <- residuals(fit, \"pearson\") / sqrt(1 - h)" else "std <- rstandard(fit)",
    sprintf("top <- order(-cook)[seq_len(%d)]", min(10, length(res$fit$fitted))),
    paste0("tables$influence <- data.frame(row = as.numeric(rownames(rows))[top], residual = e[top], standardised = std[top], leverage = h[top], ",
           "cooks_distance = cook[top])"),
    if (!glm) "d <- dfbetas(fit)[top, , drop = FALSE]; tables$influence$dfbetas <- d[cbind(seq_along(top), max.col(abs(d), ties.method = \"first\"))]",  # nolint: line_length_linter.
    "view <- list(estimate = max(cook), largest_leverage = max(h), largest_standardised = max(abs(std)))")
}

# ---- columns among themselves ----------------------------------------------------------------------------------------

view_collinearity <- function(ctx, res) {
  t <- stat_variance_inflation(res$x, res$source, res$fit$kept)
  if (is.null(t)) stop_data("A model with one predictor has no collinearity: there is nothing that it could overlap with.",
                            todo = "Name the other columns of the model.", class = "unfit_view")
  t <- t[order(-t$per_df), ]
  rownames(t) <- NULL
  worst <- t$per_df[1]^2
  shown <- sprintf("%s %s", vapply(t$column, function(n) say_column(ctx$columns[[n]]), ""), say_number(t$per_df^2))
  all <- some_of(shown, 6)
  list(numbers = list(new_number("estimate", sprintf("largest variance inflation factor, %s", t$column[1]), worst)),
       tables = list(new_table("collinearity", "Generalised variance inflation factors", t)),
       headline = if (length(res$aliased)) sprintf("The columns repeat each other: %s is a combination of the others and has no coefficient. Among the rest, variance inflation: %s.",  # nolint: line_length_linter.
                                                   some_of(res$aliased, 3), all)
         else if (worst < 5) sprintf("The predictors are not too closely related. Variance inflation: %s.", all)
         else sprintf("The predictors overlap strongly: what each of them adds can hardly be told from the others. Variance inflation: %s.", all),
       details = c("A factor of 4 doubles the standard error of a coefficient, against columns that have nothing to do with each other; 5 and 10 are the usual limits.",  # nolint: line_length_linter.
                   if (any(t$df > 1)) "For a column of several levels the factor is that of all its coefficients, on the scale of a single one."))
}

script_view_collinearity <- function(ctx, res) {
  source <- res$source[setdiff(res$fit$kept, 1)]
  c("r <- cor(model.matrix(fit)[, -1, drop = FALSE])", sprintf("from <- %s", as_r_strings(source)),
    "of <- function(name) { own <- which(from == name); g <- det(r[own, own, drop = FALSE]) * det(r[-own, -own, drop = FALSE]) / det(r)",
    "  data.frame(df = length(own), gvif = g, per_df = g^(1 / (2 * length(own)))) }",
    "tables$collinearity <- do.call(rbind, lapply(unique(from), of))",
    "tables$collinearity <- tables$collinearity[order(-tables$collinearity$per_df), ]", "view <- list(estimate = tables$collinearity$per_df[1]^2)")
}

# ---- residuals -------------------------------------------------------------------------------------------------------

view_residuals <- function(ctx, res) {
  shape <- stat_group_moments(res$fit$residuals)
  t <- row_influence(res)
  spread <- check_residual_spread(res$x[, res$fit$kept, drop = FALSE], res$fit$residuals)
  bend <- check_fit_linear(res)
  values <- c(skewness = skewness_from_moments(shape)[[1]], excess_kurtosis = kurtosis_from_moments(shape)[[1]],
              largest_standardised = max(abs(t$standardised)), beyond_two = mean(abs(t$standardised) > 2), residual_sd = res$fit$sigma)
  concerns <- c(if (bend$verdict == "caution") "they bend along the fit", if (spread$verdict == "caution") "their spread changes along the fit",
                if (check_residual_normal(res$fit$residuals)$verdict == "caution") "they are skewed")
  list(numbers = list(new_number("estimate", "skewness of the residuals", values[["skewness"]])),
       tables = list(new_table("residuals", "Residuals", data.frame(measure = names(values), value = unname(values), stringsAsFactors = FALSE))),
       headline = if (length(concerns)) sprintf("The residuals are not as the model wants them: %s.", some_of(concerns, 3))
         else "The residuals show no bend, no change of spread and no skew that would matter at this number of rows.",
       details = sprintf("Skewness %s, excess kurtosis %s; %s of the rows lie more than two standard errors from their fitted value (about 5 %% would).",  # nolint: line_length_linter.
                         say_unit(values[["skewness"]]), say_unit(values[["excess_kurtosis"]]), say_percent(values[["beyond_two"]])))
}

script_view_residuals <- function(ctx, res) c(
  "e <- resid(fit); std <- rstandard(fit); n <- length(e); z <- (e - mean(e)) / sqrt(mean((e - mean(e))^2))",
  "g1 <- mean(z^3) * sqrt(n * (n - 1)) / (n - 2); g2 <- (n - 1) / ((n - 2) * (n - 3)) * ((n + 1) * (mean(z^4) - 3) + 6)",
  "tables$residuals <- data.frame(value = c(g1, g2, max(abs(std)), mean(abs(std) > 2), summary(fit)$sigma))", "view <- list(estimate = g1)")

# ---- chances ---------------------------------------------------------------------------------------------------------

view_discrimination <- function(ctx, res) {
  roc <- stat_roc(res$fit$fitted, res$y)
  best <- stat_best_cut(roc)
  cuts <- seq(0.1, 0.9, by = 0.1)
  called <- vapply(cuts, function(cut) c(sum(res$fit$fitted >= cut & res$y == 1), sum(res$fit$fitted < cut & res$y == 0)), numeric(2))
  table <- data.frame(cut = cuts, sensitivity = called[1, ] / sum(res$y == 1), specificity = called[2, ] / sum(res$y == 0))
  n <- res$number
  at <- cut_on_predictor(res, best$cut)
  list(numbers = compact(list(new_number("estimate", "area under the ROC curve", n$auc), new_number("ci_low", "lower limit", n$auc_low),
                      new_number("ci_high", "upper limit", n$auc_high), new_number("best_cut", "cut with most right calls of both kinds", best$cut),
                      new_number("sensitivity", "sensitivity there", best$sensitivity),
                      new_number("specificity", "specificity there", best$specificity),
                      if (!is.null(at)) new_number("best_cut_value", sprintf("%s at that cut", at$name), at$value))),
       tables = list(new_table("roc", sprintf("Calling %s from a chance upwards", res$event), table), confusion_table(res)),
       headline = sprintf("%she model tells %s = %s from the rest with an area under the curve of %s (%s).", say_cut(ctx, at, best), say_column(outcome_column(ctx)), res$event,  # nolint: line_length_linter.
                          say_unit(n$auc), say_interval(n$auc_low, n$auc_high, ctx$conf_level, say_unit)),
       details = c(sprintf("Called from a chance of %s upwards%s, %s of those with it are found (sensitivity) and %s of the others are left alone (specificity).",  # nolint: line_length_linter.
                           say_percent(best$cut, 0), if (is.null(at)) "" else sprintf(", that is where %s is %s %s",
                             say_column(ctx$columns[[at$name]]), say_number(at$value), if (at$rises) "or more" else "or less"),
                                 say_percent(best$sensitivity), say_percent(best$specificity)),
                   "The area is that in the rows the model was fitted to; new rows are told apart a little worse.", say_calls(res)))
}

#' The cut comes first where it is what the question asks for
#' @noRd
say_cut <- function(ctx, at, best) {
  if (is.null(at) || !isTRUE(ctx$reading$extra$cut_asked)) return("T")
  sprintf("The best cut, by sensitivity and specificity together, is %s of %s %s: %s of those with it are found and %s of the others left alone. T",
          say_column(ctx$columns[[at$name]]), say_number(at$value), if (at$rises) "or more" else "or less", say_percent(best$sensitivity),
              say_percent(best$specificity))
}

#' The cut on the scale of the predictor, where there is one only and it is measured
#' @section Shape: list(name, value, rises = does the chance rise with it), or NULL.
#' @noRd
cut_on_predictor <- function(res, cut) {
  if (length(res$columns) != 1 || res$factors[[1]]) return(NULL)
  v <- as.double(res$columns[[1]])
  rises <- res$fit$coefficients[2] > 0
  called <- v[res$fit$fitted >= cut]
  list(name = names(res$columns), value = if (rises) min(called) else max(called), rises = rises)
}

#' Calls at one half against what happened
#' @noRd
confusion_table <- function(res) {
  called <- res$fit$fitted > 0.5; happened <- res$y == 1
  new_table("confusion", sprintf("Calls at a chance of one half against %s", res$event),
            data.frame(called = c("event", "no event"), event = c(sum(called & happened), sum(!called & happened)),
                       no_event = c(sum(called & !happened), sum(!called & !happened)), stringsAsFactors = FALSE))
}

#' How many calls are right, beside those of calling every row the commoner of the two
#' @noRd
say_calls <- function(res) {
  right <- mean((res$fit$fitted > 0.5) == (res$y == 1)); plain <- max(mean(res$y), 1 - mean(res$y))
  sprintf("At one half %s of the rows are called right; calling all of them the commoner value would be right in %s.", say_percent(right),
          say_percent(plain))
}

script_view_discrimination <- function(ctx, res) c(
  "p <- fitted(fit); y1 <- y == 1; cuts <- seq(0.1, 0.9, by = 0.1)",
  paste0("tables$roc <- data.frame(cut = cuts, sensitivity = sapply(cuts, function(k) mean(p[y1] >= k)), specificity = sapply(cuts, function(k) ",
         "mean(p[!y1] < k)))"),
  paste0("tables$confusion <- data.frame(event = c(sum(p > 0.5 & y1), sum(p <= 0.5 & y1)), no_event = c(sum(p > 0.5 & !y1), sum(p <= 0.5 & ",
         "!y1)))"),
  "k <- sort(unique(p), decreasing = TRUE); sens <- sapply(k, function(v) mean(p[y1] >= v)); spec <- sapply(k, function(v) mean(p[!y1] < v))",
  "at <- which(sens + spec > max(sens + spec) - 1e-12)[1]",
  paste0("view <- list(estimate = numbers$auc, ci_low = numbers$auc_low, ci_high = numbers$auc_high, best_cut = k[at], sensitivity = sens[at], ",
         "specificity = spec[at])"),
  if (length(res$columns) == 1 && !res$factors[[1]]) sprintf("view$best_cut_value <- %s(x[p >= k[at], 2])",
                                                            if (res$fit$coefficients[2] > 0) "min" else "max"))

view_calibration <- function(ctx, res) {
  k <- stat_calibration(res$fit$fitted, res$y, conf_level = ctx$conf_level)
  gap <- max(abs(k$table$fitted - k$table$observed))
  off <- isTRUE(k$p_value < 1 - ctx$conf_level)
  test <- if (is.na(k$p_value)) "too few groups for a test" else
    sprintf("Hosmer-Lemeshow chi-square(%s) = %s, %s", say_number(k$df), say_number(k$statistic, 2), say_p(k$p_value))
  list(numbers = compact(list(if (!is.na(k$p_value)) new_number("statistic", "Hosmer-Lemeshow chi-square", k$statistic),
                      if (!is.na(k$p_value)) new_number("df", "degrees of freedom", k$df),
                      if (!is.na(k$p_value)) new_number("p_value", "p", k$p_value),
                      new_number("brier", "mean squared error of the chances (Brier score)", mean((res$y - res$fit$fitted)^2)),
                      new_number("largest_gap", "largest gap between chance and share", gap))),
       tables = list(new_table("calibration", "Fitted chances and observed shares, in groups of about equal size", k$table)),
       headline = sprintf("The chances that the model gives %s: %s.", if (off) "do not match what happened" else "are in line with what happened", test),  # nolint: line_length_linter.
       details = c(sprintf("In %s the mean chance and the observed share lie at most %s apart.", count_of(nrow(k$table), "group"), say_points(gap)),
                   "The test sees gross misfit only, and with few rows hardly that; the figure says more."))
}

script_view_calibration <- function(ctx, res) c(
  "p <- fitted(fit); cuts <- unique(quantile(p, seq(0, 1, 0.1))); g <- if (length(cuts) < 3) rep(1, length(p)) else as.integer(cut(p, cuts, include.lowest = TRUE))",  # nolint: line_length_linter.
  "m <- as.vector(table(g)); o <- as.vector(tapply(y, g, sum)); f <- as.vector(tapply(p, g, mean)); z <- qnorm(1 - (1 - conf_level) / 2); q <- o / m",
  "mid <- (q + z^2 / (2 * m)) / (1 + z^2 / m); half <- z / (1 + z^2 / m) * sqrt(q * (1 - q) / m + z^2 / (4 * m^2))",
  paste0("tables$calibration <- data.frame(group = seq_along(m), n = m, fitted = f, observed = q, ci_low = ifelse(o == 0, 0, mid - half), ci_high = ",
         "ifelse(o == m, 1, mid + half))"),
  "chi <- sum((o - m * f)^2 / (m * f * (1 - f))); d <- length(m) - 2",
  "view <- list(brier = mean((y - p)^2), largest_gap = max(abs(f - q)))",
  "if (d >= 1 && is.finite(chi)) view <- c(list(statistic = chi, df = d, p_value = pchisq(chi, d, lower.tail = FALSE)), view)")

# ---- counts ----------------------------------------------------------------------------------------------------------

view_dispersion <- function(ctx, res) {
  ratio <- res$fit$pearson
  chi <- ratio * res$fit$df
  p <- stats::pchisq(chi, res$fit$df, lower.tail = FALSE)
  zeros <- sum(res$y == 0); expected <- expected_zeros(res$fit$fitted)
  list(numbers = list(new_number("statistic", "Pearson chi-square", chi), new_number("df", "degrees of freedom", res$fit$df),
                      new_number("p_value", "p (more spread than Poisson)", p), new_number("estimate", "dispersion", ratio),
                      new_number("zeros", "rows with a count of zero", zeros), new_number("zeros_expected", "zeros the model expects", expected)),
       tables = list(),
       headline = sprintf("%s: Pearson chi-square over its degrees of freedom is %s (chi-square(%s) = %s, %s).",
                          if (ratio >= 1.5) "The counts spread more than a Poisson model allows" else if (p < 0.05) "The counts spread a little more than a Poisson model allows"  # nolint: line_length_linter.
                          else "The counts are about as spread as a Poisson model allows", say_number(ratio, 2), say_number(res$fit$df),
                          say_number(chi, 1), say_p(p)),
       details = c(sprintf("%s; the model expects %s.", capital(count_of(zeros, "row has a count of zero", "rows have a count of zero")),
                           say_number(expected, 1)),
                   if (ratio >= 1.5) "The errors of a Poisson model are too small here: use a negative binomial model."))
}

script_view_dispersion <- function(ctx, res) c(
  "chi <- sum(resid(fit, \"pearson\")^2); d <- fit$df.residual",
  paste0("view <- list(statistic = chi, df = d, p_value = pchisq(chi, d, lower.tail = FALSE), estimate = chi / d, zeros = sum(y == 0), ",
         "zeros_expected = sum(dpois(0, fitted(fit))))"))

# ---- hazards ---------------------------------------------------------------------------------------------------------

view_hazards <- function(ctx, res) {
  t <- stat_hazards_over_time(res$fit, res$term)
  if (is.null(t)) stop_data("There are fewer than ten events, too few to see whether hazard ratios are constant in time.", class = "unfit_view")
  worst <- which.min(t$p_value)
  off <- t$p_adjusted[worst] < 1 - ctx$conf_level
  list(numbers = list(new_number("estimate", sprintf("correlation of the residuals of %s with the rank of time", t$term[worst]), t$correlation[worst]),  # nolint: line_length_linter.
                      new_number("p_value", "p, adjusted for the number of coefficients (Holm)", t$p_adjusted[worst])),
       tables = list(new_table("hazards", "Scaled Schoenfeld residuals against the rank of time", t)),
       headline = if (off) sprintf("The hazards are not proportional: the effect of %s changes over time (correlation %s, %s).", t$term[worst],
                                   say_unit(t$correlation[worst]), say_p(t$p_adjusted[worst]))
         else sprintf("Nothing speaks against proportional hazards: the clearest change over time is that of %s (correlation %s, %s).", t$term[worst],
                      say_unit(t$correlation[worst]), say_p(t$p_adjusted[worst])),
       details = "A correlation above zero means that the hazard ratio grows over time; p values are adjusted by Holm for all coefficients.")
}

script_view_hazards <- function(ctx, res) c(
  "r <- as.matrix(residuals(fit, \"scaledsch\")); at <- rank(as.numeric(rownames(r))); d <- nrow(r)",
  "rho <- apply(r, 2, cor, at); p <- 2 * pt(-abs(rho) * sqrt((d - 2) / (1 - rho^2)), d - 2)",
  "tables$hazards <- data.frame(correlation = rho, p_value = p, p_adjusted = p.adjust(p, \"holm\"))",
  "view <- list(estimate = rho[[which.min(p)]], p_value = min(p.adjust(p, \"holm\")))")

# ---- mean time up to a limit -----------------------------------------------------------------------------------------

view_restricted_mean <- function(ctx, res) {
  t <- res$survival; unit <- res$parts$unit
  until <- ctx$reading$extra$until
  tau <- if (is.null(until)) t$tau else in_unit_of_times(until, unit %||% "")$value
  if (tau > t$tau && any(vapply(t$curves, function(k) max(k$time) < tau && min(k$survival) > 0, NA))) {
    stop_data(sprintf("Up to %s the mean cannot be told: some group was followed for %s only.", with_unit(say_number(tau), unit),
                      with_unit(say_number(t$tau), unit)), class = "unfit_data", todo = "Name an earlier limit.")
  }
  m <- t(vapply(t$curves, restricted_mean, numeric(2), tau = tau))
  z <- stats::qnorm(1 - (1 - ctx$conf_level) / 2)
  gap <- m[1, 1] - m[, 1]; gap_se <- sqrt(m[1, 2]^2 + m[, 2]^2)
  gap[1] <- gap_se[1] <- NA
  table <- data.frame(group = t$groups$group, until = tau, mean = m[, 1], se = m[, 2], ci_low = m[, 1] - z * m[, 2], ci_high = m[, 1] + z * m[, 2],
                      difference = gap, difference_low = gap - z * gap_se, difference_high = gap + z * gap_se, stringsAsFactors = FALSE)
  numbers <- restricted_mean_numbers(table, m, gap_se, ctx$conf_level)
  n <- stats::setNames(lapply(numbers, `[[`, "value"), vapply(numbers, `[[`, "", "id"))
  list(numbers = c(numbers, list(new_number("until", "limit of the time", tau))),
       tables = list(new_table("restricted_means", sprintf("Mean time up to %s", with_unit(say_number(tau), unit)), table)),
       headline = say_restricted_mean(ctx, table, n, unit),
       details = "The restricted mean is the area under the survival curve up to the limit: the mean time without the event, counting no time beyond it.")  # nolint: line_length_linter.
}

#' One group: its mean. Two: the first less the second. More: a test of all being equal
#' @noRd
restricted_mean_numbers <- function(t, m, gap_se, conf_level) {
  if (nrow(t) == 1) return(list(new_number("estimate", "restricted mean time", t$mean), new_number("se", "standard error", t$se),
                                new_number("ci_low", "lower limit", t$ci_low), new_number("ci_high", "upper limit", t$ci_high)))
  if (nrow(t) == 2) {
    z <- t$difference[2] / gap_se[2]
    return(list(new_number("estimate", sprintf("difference of restricted means, %s less %s", t$group[1], t$group[2]), t$difference[2]),
                new_number("se", "standard error", gap_se[2]), new_number("statistic", "z", z),
                new_number("p_value", "p", 2 * stats::pnorm(-abs(z))), new_number("ci_low", "lower limit", t$difference_low[2]),
                new_number("ci_high", "upper limit", t$difference_high[2])))
  }
  weight <- 1 / m[, 2]^2
  chi <- sum(weight * (m[, 1] - sum(weight * m[, 1]) / sum(weight))^2)
  list(new_number("statistic", "chi-square", chi), new_number("df", "degrees of freedom", nrow(t) - 1),
       new_number("p_value", "p", stats::pchisq(chi, nrow(t) - 1, lower.tail = FALSE)))
}

say_restricted_mean <- function(ctx, t, n, unit) {
  with <- function(v) vapply(v, function(x) with_unit(say_number(x), unit), "")
  limit <- with(t$until[1])
  if (nrow(t) == 1) return(sprintf("Up to %s the mean time without the event is %s (%s).", limit, with(t$mean), say_interval(t$ci_low, t$ci_high,
                                                                                                                            ctx$conf_level)))
  means <- some_of(sprintf("%s in %s", with(t$mean), t$group), 6)
  if (nrow(t) == 2) return(sprintf("Up to %s the mean time without the event is %s; %s, difference %s (%s), %s.", limit, means,
    if (isTRUE(n$p_value < 1 - ctx$conf_level)) "they differ" else "no clear difference", with(n$estimate),
    say_interval(n$ci_low, n$ci_high, ctx$conf_level), say_p(n$p_value)))
  sprintf("Up to %s the mean time without the event is %s; the groups %s: chi-square(%s) = %s, %s.", limit, means,
          if (isTRUE(n$p_value < 1 - ctx$conf_level)) "differ" else "do not clearly differ", say_number(n$df), say_number(n$statistic, 2),
          say_p(n$p_value))
}

script_view_restricted_mean <- function(ctx, res) {
  until <- ctx$reading$extra$until
  tau <- if (!is.null(until)) in_unit_of_times(until, res$parts$unit %||% "")$value
  two <- nrow(res$survival$groups) == 2; one <- nrow(res$survival$groups) == 1
  c(if (!is.null(tau)) sprintf("tau <- %s", as_r_number(tau)), "m <- t(vapply(curves, area, numeric(2))); z <- qnorm(1 - (1 - conf_level) / 2)",
    "gap <- m[1, 1] - m[, 1]; gap_se <- sqrt(m[1, 2]^2 + m[, 2]^2); gap[1] <- gap_se[1] <- NA",
    paste0("tables$restricted_means <- data.frame(until = tau, mean = m[, 1], se = m[, 2], ci_low = m[, 1] - z * m[, 2], ci_high = m[, 1] + z * ",
           "m[, 2], difference = gap, difference_low = gap - z * gap_se, difference_high = gap + z * gap_se)"),
    if (one) "view <- list(estimate = m[1, 1], se = m[1, 2], ci_low = m[1, 1] - z * m[1, 2], ci_high = m[1, 1] + z * m[1, 2], until = tau)"
    else if (two) paste0("view <- list(estimate = gap[2], se = gap_se[2], statistic = gap[2] / gap_se[2], p_value = 2 * pnorm(-abs(gap[2] / ",
                         "gap_se[2])), ci_low = gap[2] - z * gap_se[2], ci_high = gap[2] + z * gap_se[2], until = tau)")
    else c("w <- 1 / m[, 2]^2; chi <- sum(w * (m[, 1] - sum(w * m[, 1]) / sum(w))^2); d <- nrow(m) - 1",
           "view <- list(statistic = chi, df = d, p_value = pchisq(chi, d, lower.tail = FALSE), until = tau)"))
}
