# Amending a study, by argument or in words, and taking it back.

#' Amend how a study is read
#'
#' Nothing in the files changes: an amendment is recorded, repeated in every script, and written to the logbook. [undo()]
#' takes the last one back.
#'
#' @param study A study.
#' @param ... Either one plain sentence ("treat -99 as missing in all items", "leave out hive H017", "satisfaction is
#'   ordered"), or one argument a column, named as the column: a list with any of `kind` (one of number, count,
#'   ordered, category, yes_no, date, datetime, text, id), `label`, `unit`, `missing` (codes to be read as missing),
#'   `order` (the levels in their order), `labels` (what stored codes mean: `c("1" = "female", "2" = "male")`),
#'   `recode` (values to be read as others, also to merge levels: `c("Nroth" = "north", "N" = "north")`), `format` (of a
#'   date, as in [strptime()]), `role` ("weight", "item"), `use` (`FALSE` leaves the column out). A new name with
#'   `derive` and `from` adds a column: `derive` is one of difference, ratio, product, sum, mean, reversed, log (natural), log10, log2,
#'   square_root, standardised, converted (times `factor`), bands (`cuts`, or `groups` of equal size, and `labels`), age (`from`
#'   a birth date and a second date, or `on` a day), year, month, weekday, rolling_mean (`window` rows,
#'   `within` a unit, in the `order` of a column), low, high
#'   and middle (of text such as "12-15"), against_rest (a `level` of the column against all its others), equals
#'   (whether the column has a `level`), years_to (years from a year in the column to the year `on`), period
#'   (the day, week, month, quarter or year of a date: `every`), two_periods (which of two `periods`, written as "2024", "2024-H1", "2024-Q2"
#'   or "2024-05", a date lies in), day_part (night, morning, afternoon or evening of a time), clock (its hours since
#'   midnight), years_since (years from a date to the day `on`, or to a second date where there is one), first_row (is it the first row of its unit?),
#'   last_seen (`from` a unit and a time: the last time of the unit), gain (the last value of a unit less its first, `within` its column and in the
#'   `order` of a date, between the two days `on` if given), value_at (the value of the same unit at one time, with `within` (one
#'   column, or several that tell the unit together), `order` and `on` as for from_start), from_start (each value less that of the same unit, `within`
#'   its column, where the column `order` is `on`).
#' @param leave_out Rows to leave out: a named list of values (`list(hive_id = "H017")`), a list of conditions
#'   (`list(list(column = "honey_kg", op = ">", value = 90))`; several must all be met), or row numbers as in the file.
#' @param keep_only The same for the only rows to keep.
#' @param cases The column that says how many cases each row stands for, of a table of counts (a sentence does it too:
#'   "each row stands for Freq cases"). All rows are then counted that often.
#' @param codebook An edited codebook (data frame or CSV path), as [codebook()] returns, instead of single columns.
#' @param table The table that is meant, when several hold a column of that name.
#' @return A new study; the one passed in is unchanged.
#' @section Errors: `upbeatquill_error_column_unknown`, `upbeatquill_error_bad_amendment`, `upbeatquill_error_no_rows`.
#' @examples
#' study <- open_study(system.file("extdata", "hive_trial.csv", package = "upbeatquill"))
#' study <- amend(study, arm = list(order = c("control", "syrup", "pollen patty")))
#' study <- amend(study, gain = list(derive = "difference", from = c("mites_after", "mites_before")))
#' study <- amend(study, "leave out hive H017")
#' @export
amend <- function(study, ..., leave_out = NULL, keep_only = NULL, cases = NULL, codebook = NULL, table = NULL) {
  need_study(study)
  before <- study
  changes <- list(...)
  if (!is.null(codebook)) study <- amend_by_codebook(study, codebook)
  if (!length(changes) && is.null(codebook) && is.null(leave_out) && is.null(keep_only) && is.null(cases)) {
    stop_input("amend() needs at least one change, such as amend(study, arm = list(kind = \"category\")).")
  }
  named <- names(changes) %||% rep("", length(changes))
  for (i in seq_along(changes)) {
    if (nzchar(named[i])) { study <- amend_named(study, named[i], changes[[i]], table); next }
    if (!is.character(changes[[i]]) || length(changes[[i]]) != 1) {
      stop_input("Every change in amend() is a sentence, or is named by its column.")
    }
    study <- amend_in_words(study, changes[[i]])
  }
  if (!is.null(cases)) study <- amend_cells(study, cases, table)
  if (!is.null(leave_out)) study <- amend_rows(study, leave_out, keep = FALSE, table)
  if (!is.null(keep_only)) study <- amend_rows(study, keep_only, keep = TRUE, table)
  remember(refresh(study), before)
}

#' Take the last amendment or declaration back
#'
#' @param study A study.
#' @param steps How many changes to take back.
#' @return The study as it was before them.
#' @section Errors: `upbeatquill_error_nothing_to_undo`.
#' @examples
#' study <- open_study(system.file("extdata", "hive_trial.csv", package = "upbeatquill"))
#' study <- amend(study, "leave out hive H017")
#' study <- undo(study)
#' @export
undo <- function(study, steps = 1) {
  need_study(study)
  take_back(study, steps)
}
