#' upbeatquill: ask statistical questions of a study in plain English
#'
#' Open a data file with [open_study()], look at what it holds with [look()], ask with [ask()], and check every
#' number with [retrace()]. Everything happens on the analyst's own machine.
#'
#' @keywords internal
#' @useDynLib upbeatquill, .registration = TRUE
#' @importFrom Rcpp evalCpp
#' @importFrom data.table data.table
"_PACKAGE"
