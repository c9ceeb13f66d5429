# Which columns of a table of studies hold what.

#' What a column of study results reports, and for which group
#' @section Shape: list(role ("events", "n", "mean", "sd"), arm (1, 2)) or NULL.
#' @noRd
study_column <- function(name) {
  bare <- gsub("[^a-z0-9]+", "_", tolower(name_words(name)))
  first <- "1|t|trt|treat|treatment|treated|exp|experimental|intervention|active|drug|new|exposed"
  second <- "2|c|ctl|ctrl|control|controls|placebo|comparison|comparator|standard|old|unexposed"
  roles <- c(events = "events?|deaths?|cases?|responders?|responses?|successes|failures|x|e",
    n = "n|total|totals|size|patients|subjects|sample|sample_size|number", mean = "mean|m|avg|average", sd = "sd|s|stdev|std|std_dev")
  for (role in names(roles)) for (arm in 1:2) {
    who <- if (arm == 1) first else second
    if (grepl(sprintf("^(%s)_?(%s)$|^(%s)_(%s)$", roles[[role]], who, who, roles[[role]]), bare)) return(list(role = role, arm = arm))
  }
  NULL
}

#' Columns of counts, means or correlations when no effect with its error is there
#' @section Shape: list(kind ("counts", "means", "correlations"), columns in a fixed order) or NULL.
#' @noRd
raw_study_columns <- function(columns) {
  numeric <- columns$name[columns$kind %in% c("number", "count")]
  known <- lapply(stats::setNames(nm = numeric), study_column)
  pick <- function(role, arm) names(known)[vapply(known, function(k) identical(k$role, role) && identical(as.integer(k$arm), as.integer(arm)), NA)][1]
  counts <- c(pick("events", 1), pick("n", 1), pick("events", 2), pick("n", 2))
  if (!anyNA(counts)) return(list(kind = "counts", columns = counts))
  means <- c(pick("mean", 1), pick("sd", 1), pick("n", 1), pick("mean", 2), pick("sd", 2), pick("n", 2))
  if (!anyNA(means)) return(list(kind = "means", columns = means))
  r <- numeric[grepl("^(r|cor|correlation|pearson|ri)$", tolower(numeric))][1]; n <- numeric[grepl("^(n|ni|size|sample_size|total)$",
    tolower(numeric))][1]
  if (!is.na(r) && !is.na(n)) return(list(kind = "correlations", columns = c(r, n)))
  NULL
}
