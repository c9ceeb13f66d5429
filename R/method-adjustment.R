# Another way to allow for many tests than the one a method would choose.

#' What the ways are called
#' @noRd
adjustment_names <- function() c(holm = "Holm", hochberg = "Hochberg", BH = "Benjamini and Hochberg (false discoveries)", bonferroni = "Bonferroni")

#' The method with the p values of its pairs adjusted as the question asks
#'
#' Intervals that belong to the method's own adjustment are left out, since they would say something else than the p values.
#' @section Source: Holm, S. (1979). Scandinavian Journal of Statistics 6, 65-70; Hochberg, Y. (1988). Biometrika 75, 800-802; Benjamini, Y. and
#'   Hochberg, Y. (1995). JRSS B 57, 289-300.
#' @noRd
with_adjustment <- function(method, how) {
  if (is.null(how)) return(method)
  own <- method
  can <- function(t) all(c("p_value", "p_adjusted") %in% names(t$data))
  again <- function(data, simultaneous) {
    data$p_adjusted <- stats::p.adjust(data$p_value, how)
    if (simultaneous) data[setdiff(names(data), c("ci_low", "ci_high"))] else data
  }
  method$compute <- function(ctx) {
    res <- own$compute(ctx)
    of <- which(vapply(res$tables, can, NA))
    if (!length(of)) stop_data(sprintf("%s makes no set of tests whose p values could be adjusted.", own$name), class = "unfit_adjustment")
    for (i in of) {
      t <- res$tables[[i]]
      res$tables[[i]]$data <- again(t$data, t$id == "pairs")
      if (identical(res$pairs$id, t$id)) res$pairs <- res$tables[[i]]
      if (t$id == "correlations" && is.data.frame(res$correlations)) res$correlations <- res$tables[[i]]$data
    }
    res$adjusted <- res$tables[of]
    res
  }
  method$sentences <- function(ctx, res) {
    said <- own$sentences(ctx, res)
    said$details <- c(sprintf("p values are adjusted by %s, as asked.", adjustment_names()[[how]]),
                      grep("p values are adjusted", said$details, value = TRUE, invert = TRUE))
    said
  }
  method$script <- function(ctx, res) c(own$script(ctx, res), unlist(lapply(res$adjusted, function(t) c(
    sprintf("tables$%1$s$p_adjusted <- p.adjust(tables$%1$s$p_value, \"%2$s\")", t$id, how),
    if (t$id == "pairs") "tables$pairs$ci_low <- tables$pairs$ci_high <- NULL"))))
  method
}
