# Every registered method: one question that reaches it, and what it owes.

reached <- list(
  descriptives = list("hive_trial.csv", "mean honey yield"),
  group_summary = list("hive_trial.csv", "honey yield by region"),
  frequency_table = list("hive_trial.csv", "How many rows are there for each arm?"),
  crosstab = list("hive_trial.csv", "Cross-tabulate arm by region"),
  overview = list("hive_trial.csv", "What is in this data?"),
  t_welch = list("hive_trial.csv", "Does the honey yield differ between syrup and control?"),
  t_student = list("hive_trial.csv", "Student t test of honey yield between syrup and control"),
  mann_whitney = list("hive_trial.csv", "Mann-Whitney test of honey yield between syrup and control"),
  permutation_means = list("hive_trial.csv", "permutation test of honey yield between syrup and control"),
  trimmed_t = list("hive_trial.csv", "trimmed t test of honey yield between syrup and control"),
  pearson = list("hive_trial.csv", "Is queen age correlated with honey yield?"),
  spearman = list("hive_trial.csv", "Spearman correlation of queen age and honey yield"),
  chi_square_independence = list("hive_trial.csv", "Is winter survival associated with the arm?"),
  fisher_exact = list("hive_trial.csv", "Fisher exact test of winter survival and swarmed"),
  anova_welch = list("hive_trial.csv", "Does the honey yield differ by arm?"),
  anova_one_way = list("hive_trial.csv", "one-way anova of honey yield by arm"),
  kruskal_wallis = list("hive_trial.csv", "Kruskal-Wallis test of honey yield by arm"),
  t_paired = list("hive_trial.csv", "paired t test of mites_before and mites_after"),
  wilcoxon_signed_rank = list("hive_trial.csv", "Wilcoxon signed-rank test of mites_before against mites_after"),
  sign_test = list("hive_trial.csv", "sign test of mites_before against mites_after"),
  t_one_sample = list("hive_trial.csv", "Is the mean honey yield different from 20?"),
  binomial_exact = list("hive_trial.csv", "Is the proportion of hives that swarmed different from 50 %?"),
  kendall = list("hive_trial.csv", "Kendall's tau of queen age and honey yield"),
  partial_correlation = list("hive_trial.csv", "partial correlation of honey yield and strength before controlling for queen age"),
  correlation_matrix = list("hive_trial.csv", "correlation matrix of honey yield, strength before and queen age"),
  association_ranking = list("hive_trial.csv", "Which variables are related to honey yield?"),
  rank_table = list("hive_trial.csv", "Top 5 hives by honey yield"),
  quality_scan = list("hive_trial.csv", "Which columns have missing values?"),
  cronbach_alpha = list("keeper_survey.csv", "Cronbach's alpha of advice_helpful, training_clear, inspections_fair and community_support"),
  time_table = list("hive_weights.csv", "mean weight by month"),
  rolling_table = list("hive_weights.csv", "7-day rolling average of the temperature"),
  linear_trend = list("hive_weights.csv", "Is there a linear trend in the temperature?"),
  logistic_regression = list("hive_trial.csv", "logistic regression of winter survival on strength after and mites after"),
  poisson_regression = list("hive_trial.csv", "Poisson regression of mites_after on mites_before and arm"),
  anova_two_way = list("hive_trial.csv", "two-way anova of honey yield by arm and region"),
  linear_regression = list("hive_trial.csv", "regress honey yield on strength before and arm"))

test_that("each method is reached by a plain question, owes all its parts, and is retraced by its script", {
  for (id in names(reached)) {
    a <- ask(demo_study(reached[[id]][[1]]), reached[[id]][[2]])
    d <- as.list(a)
    expect_equal(d$status, "answered", info = id)
    expect_equal(d$method$id, id, info = id)
    expect_true(nzchar(d$method$why) && nzchar(d$sentences$headline) && nzchar(d$sentences$write_up), info = id)
    expect_true(all(vapply(d$checks, function(k) nzchar(k$meaning), NA)), info = id)
    if (id %in% c("overview")) expect_true(as.list(retrace(a))$ok) else expect_retraces(a)
  }
})

test_that("every script is standalone: base R and recommended packages only, and it says what it reads", {
  base <- c("base", "stats", "utils", "graphics", "grDevices", "methods", rownames(installed.packages(priority = "recommended")), "ggplot2")
  for (id in names(reached)) {
    lines <- script(ask(demo_study(reached[[id]][[1]]), reached[[id]][[2]]))
    expect_silent(parsed <- parse(text = lines))
    used <- regmatches(lines, regexpr("(?<=library[(])[A-Za-z0-9.]+", lines, perl = TRUE))
    expect_true(all(used %in% base), info = id)
    expect_false(any(grepl("upbeatquill::", lines, fixed = TRUE)), info = id)
    expect_true(any(grepl("SHA-256", lines)), info = id)
  }
})

test_that("second opinions say whether they agree", {
  a <- as.list(ask(hive_study(), "Does the honey yield differ between syrup and control?"))
  ids <- vapply(a$second_opinions, function(o) o$method$id, "")
  expect_setequal(ids, c("mann_whitney", "permutation_means", "trimmed_t"))
  expect_true(all(vapply(a$second_opinions, function(o) is.logical(o$agrees), NA)))
})
