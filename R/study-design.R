#' Declare how a study was designed
#'
#' The declaration decides wording and method: causal words only for a randomised treatment, the control group
#' first, repeated
#' rows of a unit never treated as independent without a word.
#'
#' @param study A study.
#' @param unit Column that identifies the subject that is measured.
#' @param treatment Column of the arms.
#' @param randomised Was the treatment allocated at random?
#' @param control The level of `treatment` that is the control.
#' @param weights Column of sampling weights.
#' @param cluster Column of clusters.
#' @param outcome Column of primary interest.
#' @param time Column of the time of each measurement.
#' @param pairs Column that says which two rows belong together.
#' @param strata Column of the strata within which units were drawn or randomised.
#' @return A new study.
#' @section Errors: `upbeatquill_error_column_unknown`, `upbeatquill_error_bad_argument`.
#' @examples
#' study <- open_study(system.file("extdata", "hive_trial.csv", package = "upbeatquill"))
#' study <- design(study, unit = "hive_id", treatment = "arm", randomised = TRUE, control = "control")
#' @export
design <- function(study, unit = NULL, treatment = NULL, randomised = NULL, control = NULL, weights = NULL,
                   cluster = NULL, outcome = NULL, time = NULL, pairs = NULL, strata = NULL) {
  need_study(study)
  before <- study
  given <- compact(list(unit = unit, treatment = treatment, weights = weights, cluster = cluster, outcome = outcome, time = time,
                        pairs = pairs, strata = strata))
  for (part in names(given)) find_column(study, given[[part]])
  if (!is.null(randomised)) given$randomised <- isTRUE(randomised)
  if (!is.null(control)) {
    arm <- given$treatment %||% study$design$treatment
    if (is.null(arm)) stop_input("A control level needs a treatment column.")
    col <- find_column(study, arm)
    if (!control %in% col$levels) {
      stop_input(sprintf("%s has no level %s.", quoted(arm), quoted(control)),
                 sprintf("Its levels are %s.", some_of(quoted(col$levels), 8)))
    }
    study <- amend_named(study, arm, list(order = c(control, setdiff(col$levels, control))))
    given$control <- control
  }
  study$design <- utils::modifyList(study$design, given)
  note_in_logbook(study, c(list(event = "declared"), given))
  remember(refresh(study), before)
}
