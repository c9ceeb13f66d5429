# Checks of generalised models.

#' Can the outcome be told apart perfectly, so that odds ratios run off to infinity?
#' @section Source: Albert, A. and Anderson, J. A. (1984). Biometrika 71, 1-10.
#' @noRd
check_separation <- function(fit) {
  new_check("separation", if (fit$separated) "broken" else "ok", "Fitted chances of 0 or 1 with exploding errors",
            list(list(id = "largest_se", label = "largest standard error", value = max(c(0, fit$se), na.rm = TRUE),
                      of = NULL)), list(complete = isTRUE(fit$complete)))
}

#' Are counts more spread than a Poisson model allows? A ratio above 1.5 makes its errors clearly too small
#' @noRd
check_dispersion <- function(ratio, model = "Poisson") {
  new_check("overdispersion", if (ratio < 1.5) "ok" else "broken", "Pearson chi-square over its degrees of freedom",
            list(list(id = "dispersion", label = "dispersion", value = ratio, of = NULL)), list(ratio = ratio, model = model))
}

#' Events for each coefficient: below ten, odds ratios are overstated
#' @section Source: Peduzzi, P. et al. (1996). Journal of Clinical Epidemiology 49, 1373-1379.
#' @noRd
check_events <- function(res) {
  events <- if (res$family == "binomial") min(sum(res$y), sum(1 - res$y)) else length(res$y)
  ratio <- events / max(1, length(res$fit$kept) - 1)
  binary <- res$family == "binomial"
  new_check("events_per_coefficient", if (ratio >= 10) "ok" else "caution",
            if (binary) "Rows of the rarer outcome per coefficient" else "Rows per coefficient",
            list(list(id = "events_per_coefficient", label = "rows per coefficient", value = ratio, of = NULL)),
            list(ratio = ratio, rows = if (binary) "rows of the rarer outcome" else "rows"))
}

#' Do the odds ratios hold at every threshold? Separate logistic fits are compared with the common one
#'
#' A predictor whose odds ratio at some threshold lies more than threefold from the common one, and further than two of its own standard
#' errors, is called out; smaller departures change no reading.
#' @section Source: Brant, R. (1990). Biometrics 46, 1171-1178 (the idea; his test is not used).
#' @noRd
check_parallel <- function(y, x, common, terms) {
  k <- max(y)
  off <- list(gap = 0, term = "", at = NA)
  for (cut in seq_len(k - 1)) {
    high <- as.numeric(y > cut)
    if (min(sum(high), sum(1 - high)) < 10) next
    fit <- tryCatch(stat_generalised(cbind(1, x), high, "binomial"), upbeatquill_error = function(e) NULL)
    if (is.null(fit)) next
    gap <- fit$coefficients[-1] - common
    big <- which(abs(gap) > log(3) & abs(gap) > 2 * fit$se[-1])
    if (length(big) && max(abs(gap[big])) > off$gap) off <- list(gap = max(abs(gap[big])), term = terms[big[which.max(abs(gap[big]))]], at = cut)
  }
  new_check("parallel_odds", if (off$gap > 0) "caution" else "ok", "Logistic fits at each threshold",
      list(list(id = "largest_gap", label = "largest gap of log odds ratios", value = off$gap, of = NULL)), off)
}

#' Groups enough for the variance between them to be told: below five it is little more than a guess
#' @noRd
check_cluster_count <- function(groups) {
  new_check("group_count", if (groups >= 10) "ok" else if (groups >= 5) "caution" else "broken", "Count of groups",
      list(list(id = "groups", label = "groups", value = groups, of = NULL)), list(groups = groups))
}

#' Does the covariate act alike in all groups? A difference found at 5 % bends the adjusted means
#' @noRd
check_same_slopes <- function(slopes) {
  verdict <- if (is.na(slopes$p_value)) "not_assessed" else if (slopes$p_value < 0.05) "caution" else "ok"
  new_check("same_slopes", verdict, "F test of unequal slopes",
      list(list(id = "p_value", label = "p", value = slopes$p_value, of = NULL)), list(p = slopes$p_value))
}

#' Does one predictor say nearly the same as the outcome? Then it may be computed from it, or known only after it
#'
#' Judged by R squared of the one column above .98, for a two-valued outcome by an area under the ROC curve above .99.
#' @param columns Named list of predictors (numbers or factors). @param y Outcome. @param binary Is y 0/1?
#' @return A check, or NULL where no predictor is so close.
#' @noRd
check_near_outcome <- function(columns, y, binary = FALSE) {
  close <- vapply(columns, function(v) if (binary) separating_power(v, y) else explained_by(v, y), 1)
  limit <- if (binary) 0.99 else 0.98
  if (!length(close) || !any(close > limit, na.rm = TRUE)) return(NULL)
  worst <- which.max(close)
  new_check("near_outcome", "caution", if (binary) "Area under the ROC curve of each predictor alone" else "R squared of each predictor alone",
            list(list(id = "closeness", label = if (binary) "area under the curve" else "R squared", value = close[[worst]],
                      of = names(columns)[worst])), list(column = names(columns)[worst], value = close[[worst]]))
}

#' Share of the spread of y that one column explains
#' @noRd
explained_by <- function(v, y) {
  total <- sum((y - mean(y))^2)
  if (!(total > 0)) return(0)
  if (is.factor(v)) {
    # a level for every row would explain anything
    if (nlevels(v) > length(y) / 3) return(0)
    means <- tapply(y, v, mean)
    return(1 - sum((y - means[as.integer(v)])^2) / total)
  }
  if (stats::sd(v) > 0) stats::cor(as.double(v), y)^2 else 0
}

#' How well one column tells two values apart, whichever way round
#' @noRd
separating_power <- function(v, y) {
  score <- if (is.factor(v)) { if (nlevels(v) > length(y) / 3) return(0); as.vector(tapply(y, v, mean)[as.integer(v)]) } else as.double(v)
  if (length(unique(y)) < 2) return(0)
  n1 <- sum(y == 1); n0 <- sum(y == 0)
  auc <- (sum(rank(score)[y == 1]) - n1 * (n1 + 1) / 2) / (n1 * n0)
  max(auc, 1 - auc)
}

#' More zeros than the model of counts expects
#'
#' Called out where there are at least a third more than expected and more than three standard errors.
#' @section Source: Lambert, D. (1992). Technometrics 34, 1-14 (the question; the comparison of counts is the plain one).
#' @noRd
check_zeros <- function(y, fitted, theta = Inf) {
  seen <- sum(y == 0)
  if (!seen) return(NULL)
  expected <- expected_zeros(fitted, theta)
  spread <- sqrt(max(expected * (1 - expected / length(y)), 1e-12))
  off <- seen > 1.33 * expected && seen > expected + 3 * spread
  new_check("zeros", if (off) "caution" else "ok", "Zeros against those the model expects",
            list(list(id = "zeros_expected", label = "zeros expected", value = expected, of = NULL)), list(seen = seen, expected = expected))
}

#' Are the chances that a model gives those that are observed? Asked where a hundred rows or more can tell
#' @section Source: Hosmer, D. W. and Lemeshow, S. (1980). Communications in Statistics A9, 1043-1069.
#' @noRd
check_calibrated <- function(p, y) {
  if (length(y) < 100 || length(unique(p)) < 4) return(NULL)
  k <- stat_calibration(p, y)
  if (is.na(k$p_value)) return(NULL)
  gap <- sum(k$table$n * abs(k$table$fitted - k$table$observed)) / sum(k$table$n)
  off <- k$p_value < 0.05 && gap > 0.03
  new_check("calibrated", if (off) "caution" else "ok", "Hosmer-Lemeshow test",
            list(list(id = "p_value", label = "p", value = k$p_value, of = NULL)), list(p = k$p_value, gap = gap))
}

#' Are residuals of rows that follow each other in time alike? Asked where each row has a date of its own
#' @param order Dates of the rows, or NULL.
#' @noRd
check_residual_order <- function(residuals, order) {
  if (is.null(order) || length(residuals) < 20 || anyNA(order)) return(NULL)
  e <- residuals[order(order)]
  e <- e - mean(e)
  r <- sum(e[-1] * e[-length(e)]) / sum(e^2)
  off <- abs(r) > max(0.2, 2 / sqrt(length(e)))
  new_check("residual_order", if (off) "caution" else "ok", "Autocorrelation of the residuals in the order of the dates, lag 1",
            list(list(id = "autocorrelation", label = "autocorrelation", value = r, of = "residuals")), list(r = r))
}

#' The outcome follows from the predictors but for rounding: nothing is left to test
#' @noRd
check_exact_fit <- function() new_check("exact_fit", "caution", "Residuals against the rounding of the numbers")

#' Do the matched sets hold rows both with and without the event? Where most do not, few rows tell anything
#' @noRd
check_matched_sets <- function(told, all) {
  share <- told / all
  new_check("matched_sets", if (share >= 0.5) "ok" else "caution", "Share of sets with and without the event",
            list(list(id = "informative_share", label = "share of sets", value = share, of = NULL)), list(told = told, all = all))
}
