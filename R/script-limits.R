# Script lines for intervals of effect sizes.

#' Script lines for the noncentrality that puts the observed f at a tail probability
#' @noRd
script_noncentral_f <- function() {
  c("# interval of the effect: noncentralities that put the observed F at either tail",
    paste0("limit_f <- function(p) if (pf(f, df[1], df[2]) < p) 0 else uniroot(function(ncp) suppressWarnings(pf(f, ",
           "df[1], df[2], ncp)) - p,"),
    "  c(0, max(10, 4 * f * df[1])), extendInt = \"downX\", tol = 1e-10)$root")
}

#' Limits of a share of the spread from an F, put into `numbers` under the ids given
#' @param f,df R code: the F, and its two degrees of freedom.
#' @noRd
script_share_limits <- function(ids, f = "numbers$statistic", df = "c(numbers$df1, numbers$df2)", rows = "sum(df) + 1") {
  c(sprintf("f <- %s; df <- %s", f, df), script_noncentral_f(), "if (is.finite(f)) {",
    "  ncp <- c(limit_f(1 - (1 - conf_level) / 2), limit_f((1 - conf_level) / 2))",
    sprintf("  numbers[c(\"%1$s_low\", \"%1$s_high\")] <- ncp / (ncp + %2$s)", ids, rows), "}")
}

#' Script lines that set `limits_t`: noncentralities that put an observed t at either tail
#' @param t,df R code.
#' @noRd
script_noncentral_t <- function(t, df) {
  c(sprintf("t0 <- %s; df0 <- %s; half <- qnorm(1 - (1 - conf_level) / 2) * sqrt(1 + t0^2 / (2 * df0))", t, df),
    paste0("limit_t <- function(p) uniroot(function(ncp) suppressWarnings(pt(t0, df0, ncp)) - p, t0 + c(-2, 2) * half + c(-2, 2), tol = 1e-12, ",
           "extendInt = \"downX\")$root"),
    "limits_t <- if (abs(t0) + half > 35) c(t0 - half, t0 + half) else c(limit_t(1 - (1 - conf_level) / 2), limit_t((1 - conf_level) / 2))")
}

#' Script lines for the noncentrality that puts the observed chi at a tail probability
#' @noRd
script_noncentral_chi <- function() {
  c("# interval of the effect: noncentralities that put the observed chi-square at either tail",
    paste0("limit <- function(p) if (pchisq(chi, df) < p) 0 else uniroot(function(ncp) pchisq(chi, df, ncp) - p, c(0, ",
           "max(10, 4 * chi + 10 * df)), extendInt = \"downX\", tol = 1e-10)$root"))
}

#' Limits of an effect that is a chi-square over its largest value
#' @noRd
script_chi_share_limits <- function(id, x, df, scale) {
  c(sprintf("chi <- %s; df <- %s", x, df), script_noncentral_chi(),
    sprintf("numbers[c(\"%1$s_low\", \"%1$s_high\")] <- pmin(1, c(limit(1 - (1 - conf_level) / 2), limit((1 - conf_level) / 2)) / (%2$s))", id,
        scale))
}

#' Limits of an effect that is the root of a chi-square over the rows (Cohen's w)
#' @noRd
script_chi_root_limits <- function(id, x, df, rows) {
  c(sprintf("chi <- %s; df <- %s", x, df), script_noncentral_chi(),
    sprintf("numbers[c(\"%1$s_low\", \"%1$s_high\")] <- sqrt(c(limit(1 - (1 - conf_level) / 2), limit((1 - conf_level) / 2)) / %2$s)", id, rows))
}

#' Limits of the rank-biserial correlation of x and y, by the placements of each value among the other group
#' @noRd
script_rank_biserial_limits <- function() {
  c("# interval of the rank-biserial correlation: placements of each value among the other group, on the logistic scale",
    "above <- (rank(c(x, y))[seq_along(x)] - rank(x)) / length(y); below <- (rank(c(x, y))[length(x) + seq_along(y)] - rank(y)) / length(x)",
    "pairs_above <- mean(above); pairs_se <- sqrt(var(above) / length(x) + var(below) / length(y))",
    "if (isTRUE(pairs_above > 0 && pairs_above < 1 && pairs_se > 0)) {",
    "  half <- qnorm(1 - (1 - conf_level) / 2) * pairs_se / (pairs_above * (1 - pairs_above))",
    "  numbers[c(\"rank_biserial_low\", \"rank_biserial_high\")] <- 2 * plogis(qlogis(pairs_above) + c(-half, half)) - 1", "}")
}

#' Limits of the rank-biserial correlation of m pairs that differ
#' @noRd
script_matched_biserial_limits <- function() {
  c("r <- numbers$rank_biserial", "if (m >= 3 && abs(r) < 1) numbers[c(\"rank_biserial_low\", \"rank_biserial_high\")] <- tanh(atanh(r) +",
    "  c(-1, 1) * qnorm(1 - (1 - conf_level) / 2) * sqrt(m * (m + 1) * (2 * m + 1) / 6) / (m * (m + 1) / 2))")
}

#' The interval of the main estimate under the effect's own id as well
#' @noRd
script_own_limits <- function(id) {
  sprintf("if (!is.null(numbers$ci_low)) numbers[c(\"%1$s_low\", \"%1$s_high\")] <- c(numbers$ci_low, numbers$ci_high)", id)
}
