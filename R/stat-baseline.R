# Recent values of each unit against the unit's own earlier ones.

#' Means of a short window and of the days that it is held against, for each unit
#'
#' @param y Values. @param day Days (numbers). @param unit Codes from 1. @param units How many. @param last Last day of the short window.
#' @param short,long Lengths in days. @param within Does the long window take in the short one? Else it ends where that begins.
#' @section Shape: data frame, one row a unit: n_short, short (mean), n_long, long (mean), sd_long, difference, ratio (NA unless the long mean is
#'   above zero), distance (difference in standard deviations), usual_low, usual_high (mean plus and minus two standard deviations). NA where a
#'   window holds too little: 1 value for the short one, 3 for the long one.
#' @section Source: Shewhart, W. A. (1931). Economic Control of Quality, ch. 19 (a unit against limits from its own past values).
#' @noRd
stat_own_baseline <- function(y, day, unit, units, last, short, long, within = FALSE) {
  recent <- day > last - short & day <= last
  before <- if (within) day > last - long & day <= last else day > last - short - long & day <= last - short
  means <- function(keep) {
    n <- tabulate(unit[keep], units)
    m <- rep(NA_real_, units); s <- m
    sums <- rowsum(y[keep], unit[keep]); at <- as.integer(rownames(sums))
    m[at] <- sums[, 1] / n[at]
    apart <- rowsum((y[keep] - m[unit[keep]])^2, unit[keep])
    s[at] <- ifelse(n[at] > 1, sqrt(apart[, 1] / (n[at] - 1)), NA)
    list(n = n, mean = m, sd = s)
  }
  a <- means(recent); b <- means(before)
  b$mean[b$n < 3] <- NA; b$sd[b$n < 3] <- NA
  difference <- a$mean - b$mean
  data.frame(n_short = a$n, short = a$mean, n_long = b$n, long = b$mean, sd_long = b$sd, difference = difference,
             ratio = ifelse(is.finite(b$mean) & b$mean > 0, a$mean / b$mean, NA), distance = ifelse(b$sd > 0, difference / b$sd, NA),
             usual_low = b$mean - 2 * b$sd, usual_high = b$mean + 2 * b$sd)
}
