# Turns of phrase that no single word gives away, each a small function of its own (reading-cues-*.R).

#' The cues, in the order in which they are asked: a later one may outbid what earlier ones have said
#' @noRd
phrase_cues <- function() list(
  cue_paired_columns, cue_censoring, cue_hazard, cue_survival_asked, cue_plain_duration, cue_sample_size, cue_power, cue_studies_pooled,
  cue_studies, cue_forest, cue_forecast, cue_slope_per_unit, cue_rate_ranked, cue_share_over_levels, cue_entity_beyond, cue_rows_listed,
  cue_count_by_group, cue_kinds_of_rows, cue_more_common, cue_share_agreeing, cue_agreement_with, cue_items_answered, cue_comparative_for,
  cue_comparative_at, cue_comparative_last, cue_uses_more, cue_rows_over_time, cue_share_higher_in, cue_effect_size, cue_odds_per_unit,
  cue_odds_of_sides, cue_entropy, cue_table_parts, cue_chance_at_values, cue_flow, cue_map, cue_against_usual, cue_season, cue_two_axes, cue_when_changed,  # nolint: line_length_linter.
  cue_how_much_more, cue_stated_value, cue_share_by, cue_share_of_level_by, cue_effective, cue_distinct, cue_one_side_named, cue_sides_do_more,
  cue_side_is_better, cue_stated_mean, cue_rows_with, cue_most_rows, cue_went_up, cue_rose_between, cue_growth, cue_how_changed, cue_models_asked,
  cue_period_ranked, cue_moves_as, cue_relation_within, cue_the_same_of_both, cue_regress, cue_which_test, cue_over_dates, cue_any_verb,
  cue_drives, cue_moderation, cue_moderation_open, cue_effect_differs, cue_interaction_of_factors, cue_interaction_open, cue_interaction_named,
  cue_values_missing, cue_keys_unique, cue_missing_left_out, cue_missing_named, cue_yes_no_and_measure, cue_variable_or_spread,
  cue_better_predictor, cue_when_peak, cue_superlative, cue_measurement_differs, cue_trend_over_levels, cue_changes_with, cue_probability_of,
  cue_rate_of_level, cue_have_less_of, cue_number_of_rows, cue_open_answers, cue_quotes, cue_all_correlated, cue_rows_per_group,
  cue_comparative_of_two, cue_not_worse, cue_moving_window, cue_varies_with_several
)

#' Scores of the tasks, with the turns of phrase taken in
#' @noRd
phrase_scores <- function(state, mentions, kinds, score) {
  for (cue in phrase_cues()) score <- cue(state, mentions, kinds, score)
  score
}

#' Which items of the question are the things that rows are of
#' @noRd
entities_at <- function(state) {
  vapply(seq_len(state$n), function(k) state$type[k] == "entity" || state$items[[k]]$stem %in% state$vocabulary$entities, NA)
}

#' Is something of an order or a size among the columns mentioned?
#' @noRd
any_measured <- function(kinds) any(kinds %in% c("number", "count", "ordered"))
