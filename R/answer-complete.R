# Completion of a question that is being typed.

#' Complete a question
#'
#' What may come next in a question, for an editor or a page: the last word, if it is begun, is completed by the study's own
#' columns and values first, then by words that call for an analysis; after a blank, columns are offered that are not named yet.
#'
#' @param study A study.
#' @param text The question so far.
#' @param most How many at most.
#' @return Character: whole texts of the question with the next words filled in, the most likely first; empty when nothing fits.
#' @examples
#' study <- open_study(system.file("extdata", "hive_trial.csv", package = "upbeatquill"))
#' complete_question(study, "does honey differ between sy")
#' @export
complete_question <- function(study, text, most = 8) {
  need_study(study)
  if (!is.character(text) || length(text) != 1 || is.na(text)) stop_input("complete_question() takes one text.")
  if (nchar(text) > 2000) return(character())
  begun <- sub("^.*?([^[:space:]]*)$", "\\1", text, perl = TRUE)
  before <- substr(text, 1, nchar(text) - nchar(begun))
  columns <- all_columns(study)
  names <- unique(gsub("_+", " ", vapply(columns, `[[`, "", "name")))
  if (!nzchar(begun)) {
    fresh <- names[!vapply(tolower(names), function(n) grepl(n, tolower(text), fixed = TRUE), NA)]
    return(paste0(rep(before, min(most, length(fresh))), utils::head(fresh, most)))
  }
  levels <- unique(unlist(lapply(columns, function(col) if (length(col$levels) <= 30) col$levels)))
  levels <- levels[grepl("[[:alpha:]]{2}", levels)]
  calls <- c("compare", "correlation between", "difference between", "distribution of", "average", "median", "how many rows", "related to",
             "predict", "over time", "by", "between", "only", "without", "adjusting for", "share of")
  candidates <- unique(c(names, levels, calls))
  # a word of a name counts as much as its beginning: "yield" completes to "honey yield kg"
  start <- tolower(begun)
  first <- startsWith(tolower(candidates), start)
  inside <- !first & grepl(paste0(" ", start), tolower(candidates), fixed = TRUE)
  found <- utils::head(c(candidates[first], candidates[inside]), most)
  paste0(rep(before, length(found)), found)
}
