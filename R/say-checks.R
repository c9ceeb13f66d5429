# What each check means, in one sentence that can stand in a paper.

#' @noRd
word_check <- function(check) {
  wording <- check_wordings()[[check$id]]
  check$meaning <- if (is.null(wording)) "" else wording(check)
  check
}

check_wordings <- function() {
  list(
    normal_within_groups = say_check_normal, equal_spread = say_check_spread, far_values = say_check_far,
    independent_rows = say_check_independent,
    mean_of_ratio = function(c) sprintf(if (c$verdict == "ok") "%s is %s over %s; all rows together give %s, about the mean of the rows (%s)." else
      "%1$s is %2$s over %3$s, and a mean of it weighs all rows alike (%5$s): all rows together give %4$s.",
      c$facts$name, c$facts$top, c$facts$base, say_number(c$facts$pooled), say_number(c$facts$mean)),
    same_shape = function(c) if (c$verdict == "ok") "The groups are of similar shape, so the ranks speak about a shift."
      else paste0("The spreads of the groups differ by more than a factor of two, so the test speaks about which ",
                  "group tends to have larger values, not about medians."),
    group_order = function(c) if (c$verdict == "ok") sprintf("The groups of %s have an order: %s.", c$facts$column, c$facts$levels)
      else sprintf(paste("Nothing says that the groups of %s are ordered: they stand as in the data (%s), and the trend means that order only;",
                         "declare it with an amendment such as \"%s is ordered\"."), c$facts$column, c$facts$levels, c$facts$name),
    expected_counts = function(c) if (c$verdict == "ok") sprintf(paste0("The expected counts are large enough for the ",
                                                                        "chi-square approximation (smallest %s)."),
                                                                        say_number(c$facts$smallest))
      else sprintf(paste0("Some expected counts are too small for the chi-square approximation (smallest %s; %s of ",
                          "the cells below 5): rely on Fisher's exact test."), say_number(c$facts$smallest),
                          say_percent(c$facts$low, 0)),
    same_odds = function(c) if (c$verdict == "ok") sprintf("The odds ratios of the strata are alike (Breslow-Day, %s).", say_p(c$facts$p))
      else sprintf("The odds ratios differ between the strata (Breslow-Day, %s), so one common ratio hides part of the story: see each stratum.",
          say_p(c$facts$p)),
    proportional_hazards = function(c) switch(c$verdict, ok = "The hazard ratios are about constant in time.",
        not_assessed = "Too few events to judge whether hazard ratios are constant in time.",
      caution = sprintf("The effect of %s changes over time (correlation %s, %s): its hazard ratio is an average.",
          c$facts$term, say_unit(c$facts$rho), say_p(c$facts$p))),
    event_count = function(c) if (c$verdict == "ok") sprintf("There are %s events.", say_number(c$facts$events))
      else sprintf("There are only %s events, so the curves and tests rest on single rows.", say_number(c$facts$events)),
    events_per_term = function(c) if (c$verdict == "ok") sprintf("There are %s events for each coefficient.", say_number(c$facts$ratio, 0))
      else sprintf("There are only %s events for each coefficient, so the ratios are likely overstated.", say_number(c$facts$ratio)),
    matched_sets = function(c) sprintf("%s of %s sets hold rows both with and without the event%s.", say_number(c$facts$told),
        say_number(c$facts$all),
      if (c$verdict == "ok") "" else ": the others tell nothing, so the answer rests on few rows"),
    parallel_odds = function(c) if (c$verdict == "ok") "One odds ratio serves for every step of the scale."
      else sprintf("The odds ratio of %s is not the same at every step of the scale: look at the shares of each answer as well.", c$facts$term),
    group_count = function(c) if (c$verdict == "ok") sprintf("There are %s groups, enough to tell the variance between them.",
        say_number(c$facts$groups))
      else sprintf("There are only %s groups, so the variance between them is hardly known.", say_number(c$facts$groups)),
    same_slopes = function(c) switch(c$verdict, ok = "The covariate acts about alike in all groups.",
        not_assessed = "There are too few rows to see whether the covariate acts alike in all groups.",
      caution = sprintf(paste0("The covariate acts differently in the groups (%s), so the adjusted",
          " difference depends on its value: ask for the interaction."), say_p(c$facts$p))),
    study_count = function(c) if (c$verdict == "ok") sprintf("There are %s studies.",
        say_number(c$facts$k)) else sprintf("There are only %s studies, so how much they differ is hardly known.", say_number(c$facts$k)),
    interval_width = function(c) if (c$verdict == "ok") "The interval is no narrower than that of one effect common to all studies."
      else sprintf(paste("The studies differ less than chance would make them, so the interval is %s times as wide as that of one common effect:",
                         "rely on the wider one, which the fixed-effect model gives."), say_number(c$facts$ratio, 2)),
    heterogeneity = function(c) if (c$verdict == "ok") sprintf("The studies differ little beyond chance (I squared %s).", say_percent(c$facts$i, 0))
      else sprintf("The studies differ by more than chance (I squared %s): one pooled number hides part of the story.", say_percent(c$facts$i, 0)),
    funnel = function(c) switch(c$verdict, ok = sprintf("Small studies do not show larger effects than large ones (Egger, %s).", say_p(c$facts$p)),
      not_assessed = "There are too few studies to judge whether small ones show larger effects.",
          caution = sprintf("Small studies show other effects than large ones (Egger, %s), as when some were not published.", say_p(c$facts$p))),
    enough_periods = function(c) if (c$verdict == "ok") sprintf("There are %s periods to learn from.",
        say_number(c$facts$n)) else sprintf("There are only %s periods to learn from.", say_number(c$facts$n)),
    forecast_skill = function(c) switch(c$verdict, not_assessed = "The series is too short for a back-test.",
      ok = sprintf("On the last %s periods, held back, the forecast was off by %s on average; carrying the last value on, by %s.",
          say_number(c$facts$steps), say_number(c$facts$error), say_number(c$facts$naive)),
      caution = sprintf(paste0("On the last %s periods, held back, the forecast was off by %s on average,",
          " more than carrying the last value on (%s): it adds nothing so far."), say_number(c$facts$steps), say_number(c$facts$error),
              say_number(c$facts$naive))),
    rows_of_pairs = function(c) sprintf("Over the rows that each pair has, %s: r of %s and %s is %s there and %s in the complete rows.%s",
      if (c$verdict == "ok") "hardly anything changes" else "some correlations are others", c$facts$a, c$facts$b, say_unit(c$facts$there),
      say_unit(c$facts$here), if (c$verdict == "ok") "" else " Ask for all available pairs of values to see them, and why values are missing."),
    linear_relation = function(c) switch(c$verdict,
                                         ok = "A straight line describes the relation as well as a bend would.",
                                         not_assessed = "There are too few different values to see a bend.",
      caution = sprintf(paste0("A bend explains a further %s of the spread left by the straight line (%s), so one ",
                               "slope does not tell the whole story."), say_percent(c$facts$share, 0),
                               say_p(c$facts$p))),
    influential_rows = say_check_influence,
    residual_spread = function(c) switch(c$verdict, ok = "The residual spread is about the same along the fit.",
                                         not_assessed = "The residual spread could not be assessed.",
      caution = sprintf(paste0("The residual spread changes along the fit (Breusch-Pagan, %s): compare the robust ",
                               "standard errors."), say_p(c$facts$p))),
    normal_residuals = function(c) switch(c$verdict,
                                          ok = paste0("The residuals are symmetric enough for the intervals at this ",
                                                      "number of rows."), not_assessed = "The residuals could not be assessed.",
      caution = sprintf("The residuals are skewed (%s) for %s rows, so the intervals are approximate.",
                        say_number(c$facts$skew), say_number(c$facts$n))),
    collinear_predictors = function(c) if (c$verdict == "ok") sprintf(paste0("The predictors are not too closely ",
                                                                             "related (largest VIF %s)."),
                                                                             say_number(c$facts$vif))
      else sprintf("%s is closely related to the other predictors (VIF %s): its own coefficient is unsure.",
                   capital(c$facts$term), say_number(c$facts$vif)),
    rows_per_column = function(c) if (c$verdict == "ok") sprintf("There are %s rows for each column.", say_number(c$facts$ratio, 0))
      else sprintf("There are only %s rows for each column, so the pattern may not hold in other rows.", say_number(c$facts$ratio)),
    adequacy = function(c) if (c$verdict == "ok") sprintf("The columns share enough for factors (sampling adequacy %s).", say_unit(c$facts$kmo))
      else sprintf("The columns share little that is common to several of them (sampling adequacy %s), so factors describe them poorly.",
        say_unit(c$facts$kmo)),
    improper = function(c) if (c$verdict == "ok") "No column is explained wholly by the factors." else
      "A column is explained wholly by the factors (an improper solution): ask for fewer factors or leave that column out.",
    apart = function(c) if (c$verdict == "ok") sprintf("The clusters lie apart (mean silhouette %s).", say_unit(c$facts$silhouette))
      else sprintf("The clusters overlap (mean silhouette %s): they divide the rows conveniently rather than find natural groups.",
        say_unit(c$facts$silhouette)),
    held_back = function(c) if (c$verdict == "ok") sprintf("The rules also hold on rows held back (%s gained over no tree).",
      say_percent(c$facts$gain, 0))
      else "On rows held back the rules gain little or nothing over no tree, so they may be chance.",
    leaf_size = function(c) if (c$verdict == "ok") sprintf("The smallest kind holds %s rows.", say_number(c$facts$smallest))
      else sprintf("The smallest kind holds only %s rows, so its value is uncertain.", say_number(c$facts$smallest)),
    sample_per_coefficient = function(c) if (c$verdict == "ok") sprintf("There are %s rows for each coefficient.",
        say_number(c$facts$ratio, 0))
      else sprintf(paste0("There are only %s rows for each coefficient, so the fit follows the sample more than the ",
                          "population."), say_number(c$facts$ratio)),
    symmetric_differences = function(c) switch(c$verdict,
      ok = "The differences are about symmetric, as the signed-rank test supposes.",
      not_assessed = "The symmetry of the differences could not be assessed.",
      caution = sprintf(paste0("The differences are skewed (%s), so the test speaks about signs and sizes together: ",
                               "compare the sign test."),
                        say_number(c$facts$skew))),
    sphericity = function(c) if (c$verdict == "ok") sprintf("The conditions are about equally correlated (epsilon %s).",
                                                            say_unit(c$facts$epsilon))
      else sprintf("The conditions are unequally correlated (epsilon %s); the degrees of freedom are corrected for it.",
                   say_unit(c$facts$epsilon)),
    changed_units = function(c) if (c$verdict == "ok") sprintf("%s units change between the occasions, enough for the test.", say_number(c$facts$changed))  # nolint: line_length_linter.
      else sprintf("Only %s change between the occasions, so the result rests on few of them.", count_of(c$facts$changed, "unit")),
    unit_count = function(c) if (c$verdict == "ok") sprintf("There are %s units, enough for the approximation of the p value.", say_number(c$facts$units))  # nolint: line_length_linter.
      else sprintf("There are only %s, so the p value is rough.", count_of(c$facts$units, "unit")),
    rank_inflation = function(c) if (c$verdict == "ok") "Neighbours in time are not so much alike as to weaken the test."
      else sprintf("Neighbours in time are alike: the variance of the test is enlarged %s times, so the rows say less than their number suggests.",
                   say_number(c$facts$inflation, 2)),
    autocorrelation = function(c) switch(c$verdict,
                                         ok = sprintf("Neighbours in time are not much alike (autocorrelation %s).",
                                                      say_unit(c$facts$r)),
      not_assessed = "The likeness of neighbours in time could not be assessed.",
      caution = sprintf(paste0("Neighbours in time are alike (autocorrelation %s): the interval allows for it, but ",
                               "holds less than so many rows suggest."), say_unit(c$facts$r))),
    uneven_weights = function(c) if (c$verdict == "ok") sprintf("The weights are even enough: the rows tell %s of what equally weighted ones would.",
                                                                say_percent(c$facts$share, 0))
      else sprintf("The weights are very uneven (the largest is %s times the smallest): the rows tell only %s of what equally weighted ones would.",
                   say_number(c$facts$ratio), say_percent(c$facts$share, 0)),
    any_gain = function(c) if (c$verdict == "ok") sprintf("On rows held back the best model errs %s less than no model.",
        say_percent(c$facts$gain, 0))
      else "On rows held back no model errs less than no model by more than one standard error: these columns hardly predict the outcome.",
    singular = function(c) if (c$verdict == "ok") "Intercepts and slopes both vary between the groups."
      else "The slopes (or the intercepts) hardly vary between the groups, or vary as one: the simpler model with intercepts alone would do.",
    level_steps = function(c) switch(c$verdict, ok = "The values keep to levels with steps between them, rather than to a slope or a slow course.",
      not_assessed = "Whether steps or a slope describe the values could not be assessed.",
      caution = "A straight line describes the values better than these steps: ask for the trend.",
      broken = sprintf(paste0("The values move slowly from neighbour to neighbour (successive changes correlate with %s; near -0.5 where levels ",
                              "stay put), so these shifts cut a steady course into pieces: ask for a table by month or for the trend."),
                       say_unit(c$facts$changes))),
    item_direction = function(c) if (c$verdict == "ok") "Every item points the same way as the rest."
      else sprintf("%s runs against the rest of the scale: turn its answers round before a score is formed.",
                   some_of(c$facts$turned, 4)),
    separation = function(c) if (c$verdict == "ok") "The outcome is not told apart perfectly by any predictor."
      else if (c$facts$complete) paste0("The predictors tell the outcome apart perfectly in these rows, so odds ratios run off to infinity: ",
                  "do not rely on them.")
      else paste0("In some rows the predictors tell the outcome without exception, so an odds ratio runs off without bound: ",
                  "rely on the penalised estimate for it."),
    overdispersion = function(c) if (c$verdict == "ok") sprintf("The counts are about as spread as a %s model allows (dispersion %s).",
                                                                c$facts$model, say_number(c$facts$ratio))
      else if (c$facts$model != "Poisson") sprintf("The counts are more spread than a %s model allows (dispersion %s), so its errors are too small.",
                                                   c$facts$model, say_number(c$facts$ratio))
      else sprintf(paste0("The counts are more spread than a Poisson model allows (dispersion %s), so its errors are ",
                          "too small: a negative binomial model would suit."), say_number(c$facts$ratio)),
    exact_fit = function(c) paste0("The outcome follows from the predictors but for the rounding of the numbers: see whether it is computed from ",
                                   "them."),
    near_outcome = function(c) sprintf(paste0("%s says nearly the same as the outcome (%s): see whether it is computed from it or known only ",
                                              "after it, since then the fit tells nothing."), capital(c$facts$column), say_unit(c$facts$value)),
    zeros = function(c) if (c$verdict == "ok") sprintf("There are about as many zeros as the model expects (%s against %s).",
                                                       say_number(c$facts$seen), say_number(c$facts$expected, 1))
      else sprintf("There are more zeros than the model expects (%s against %s), as when some rows could not have had any count at all.",
                   say_number(c$facts$seen), say_number(c$facts$expected, 1)),
    calibrated = function(c) if (c$verdict == "ok") sprintf("Fitted chances and observed shares are in line (Hosmer-Lemeshow, %s).", say_p(c$facts$p))
      else sprintf(paste0("Fitted chances and observed shares differ (Hosmer-Lemeshow, %s; by %s on average): a predictor may act along a bend ",
                          "or depend on another."), say_p(c$facts$p), say_points(c$facts$gap)),
    residual_order = function(c) if (c$verdict == "ok") sprintf(
      "Residuals of rows that follow each other in time are not alike (autocorrelation %s).", say_unit(c$facts$r))
      else sprintf(paste0("Residuals of rows that follow each other in time are %s (autocorrelation %s), so the errors are too %s: ",
                          "ask for the trend over time, or leave more time between the rows."),
                   if (c$facts$r > 0) "alike" else "turned against each other", say_unit(c$facts$r), if (c$facts$r > 0) "small" else "large"),
    events_per_coefficient = function(c) if (c$verdict == "ok") sprintf("There are %s %s for each coefficient.", say_number(c$facts$ratio, 0),
                                                                        c$facts$rows)
      else sprintf("There are only %s %s for each coefficient, so the ratios are likely overstated.", say_number(c$facts$ratio), c$facts$rows),
    enough_values = function(c) if (c$verdict == "ok") "There are enough values for the summary to be stable." else
        "There are very few values, so the summary says little beyond them.")
}

say_check_normal <- function(c) {
  f <- c$facts
  if (c$verdict == "not_assessed") return("The shape within the groups could not be assessed: too few values.")
  if (c$verdict == "ok") return("The group means can be treated as normal: skewness is small for these numbers of rows.")
  if (f$small) return(paste0("A group has fewer than five rows, so the shape cannot be judged and the t interval ",
                             "rests on faith in normality."))
  sprintf(paste0("%s is skewed (%s with n = %s), so the interval is approximate: compare the rank-based and ",
                 "permutation results."), capital(f$label), say_number(f$skew), say_number(f$n))
}

say_check_spread <- function(c) {
  f <- c$facts
  if (!is.finite(f$ratio)) return("One group does not vary at all.")
  if (!f$differs) return(sprintf("The groups spread about equally (ratio of standard deviations %s).",
                                 say_number(f$ratio)))
  if (f$pools) return(sprintf(paste0("The spreads differ (ratio of standard deviations %s), which this test assumes ",
                                     "they do not: prefer the Welch test."), say_number(f$ratio)))
  sprintf("The spreads differ (ratio of standard deviations %s, widest in %s); the method allows for that.",
          say_number(f$ratio), f$widest)
}

say_check_far <- function(c) {
  f <- c$facts
  if (f$count == 0) return("No value lies far outside the middle half of its group.")
  sprintf("%s far outside the middle half of %s group (%s): see whether %s real, and compare the trimmed result.",
          capital(paste(count_of(f$count, "value"), plural(f$count, "lies", "lie"))),
          plural(f$count, "its", "their"), paste(say_number(f$values), collapse = ", "),
          plural(f$count, "it is", "they are"))
}

say_check_independent <- function(c) {
  f <- c$facts
  if (c$verdict == "not_assessed") return("The design names no unit, so it is assumed that every row is a different one.")
  if (c$verdict == "ok") return(sprintf("Every row is a different %s.", f$unit))
  sprintf(paste0("%s repeat %s that already have one (%s different), so the rows are not independent and the p value ",
                 "is too small."), capital(count_of(f$repeated, "row")), f$unit, say_number(f$units))
}

say_check_influence <- function(c) {
  f <- c$facts
  if (c$verdict == "not_assessed") return("There are too few rows to judge the influence of one.")
  if (!is.null(f$cook)) {
    if (c$verdict == "ok") return(sprintf("No single row pulls the fit (largest Cook's distance %s).",
                                          say_number(f$cook)))
    return(sprintf("%s pulls the fit (Cook's distance %s): see what happens without it.",
                   f$named %||% sprintf("Row %s of the rows used", say_number(f$row)), say_number(f$cook)))
  }
  if (c$verdict == "ok") return(sprintf(paste0("No single row carries the result (r changes by at most %s when one is ",
                                               "left out)."), say_unit(abs(f$change))))
  sprintf("Row %s of the rows used carries much of the result: without it r is %s.", say_number(f$row),
          say_unit(f$without))
}
