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
  dunnett = list("hive_trial.csv", "Compare honey yield of each arm with the control"),
  contrast = list("hive_trial.csv", "planned contrast: honey yield of syrup versus the other arms"),
  bootstrap = list("hive_trial.csv", "bootstrap confidence interval of the median honey yield"),
  regression_tree = list("hive_trial.csv", "Which kinds of hives have the highest honey yield?"),
  classification_tree = list("hive_trial.csv", "classification tree of survived winter from mites after and arm"),
  random_forest = list("hive_trial.csv", "random forest for honey yield"),
  mixed_logistic = list("hive_trial.csv", "logistic mixed model of swarmed on strength before with a random intercept for each apiary"),
  principal_components = list("keeper_survey.csv", "principal components of the survey items"),
  factor_analysis = list("keeper_survey.csv", "factor analysis of the items"),
  cluster_kmeans = list("keeper_survey.csv", "k-means clusters of the items"),
  correlation_by_group = list("hive_trial.csv", "correlation of honey yield and queen age in each arm"),
  baseline_table = list("hive_trial.csv", "baseline characteristics by arm"),
  share_of_total = list("hive_trial.csv", "what share of honey yield comes from each region?"),
  clustered_regression = list("hive_trial.csv", "regression of honey yield on strength before with standard errors clustered by apiary"),
  penalised_logistic = list("hive_trial.csv", "Firth logistic regression of swarmed on strength before"),
  relative_importance = list("hive_trial.csv", "relative importance of strength before, queen age and arm for honey yield"),
  change_points = list("hive_weights.csv", "change points of the temperature"),
  power_paired = list("hive_trial.csv", "sample size for a paired t test with an effect of 0.4 and 90 % power"),
  power_equivalence = list("hive_trial.csv", "sample size for equivalence within a margin of 0.5 standard deviations at 80 % power"),
  dagostino = list("hive_trial.csv", "DAgostino test of honey yield"),
  pair_screening = list("hive_trial.csv", "what is interesting here?"),
  share_by_group = list("hive_trial.csv", "share surviving winter by arm and region"),
  rate_table = list("hive_trial.csv", "total honey yield per strength before by arm"),
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
  linear_regression = list("hive_trial.csv", "regress honey yield on strength before and arm"),
  proportions_two = list("hive_trial.csv", "two proportions test of survived winter between syrup and control"),
  proportions_many = list("hive_trial.csv", "equality of proportions of survived winter by arm"),
  proportion_one = list("hive_trial.csv", "score test: is the proportion of hives that swarmed different from 50 %?"),
  trend_proportions = list("keeper_survey.csv", "Cochran-Armitage test of region by age band, only north and south"),
  cochran_mantel_haenszel = list("hive_trial.csv", "association of swarmed and survived winter within region"),
  mcnemar = list("hive_trial.csv", "McNemar test of swarmed and survived winter"),
  brown_forsythe = list("hive_trial.csv", "Do the variances of honey yield differ between the arms?"),
  bartlett = list("hive_trial.csv", "Bartlett test of honey yield by arm"),
  f_variances = list("hive_trial.csv", "F test of variances of honey yield between syrup and control"),
  kolmogorov_smirnov = list("hive_trial.csv", "Kolmogorov-Smirnov test of honey yield between syrup and control"),
  shapiro_wilk = list("hive_trial.csv", "Is honey yield normally distributed?"),
  anderson_darling = list("hive_trial.csv", "Anderson-Darling test of honey yield"),
  equivalence_t = list("hive_trial.csv", "Are syrup and control equivalent in honey yield within 3 kg?"),
  noninferiority_t = list("hive_trial.csv", "Is syrup non-inferior to control in honey yield with a margin of 2 kg?"),
  ancova = list("hive_trial.csv", "ANCOVA of honey yield by arm with strength before as covariate"),
  jonckheere = list("keeper_survey.csv", "Jonckheere test of hives owned by age band"),
  permutation_paired = list("hive_trial.csv", "permutation test of strength before against strength after"),
  point_biserial = list("hive_trial.csv", "point-biserial correlation of honey yield and swarmed"),
  goodman_kruskal_gamma = list("keeper_survey.csv", "Goodman-Kruskal gamma of advice_helpful and training_clear"),
  polychoric = list("keeper_survey.csv", "polychoric correlation of advice_helpful and training_clear"),
  theil_u = list("hive_trial.csv", "uncertainty coefficient of winter survival given the arm"),
  correlation_ratio = list("hive_trial.csv", "correlation ratio of honey yield and arm"),
  biserial = list("hive_trial.csv", "biserial correlation of honey yield and swarmed"),
  distance_correlation = list("hive_trial.csv", "distance correlation of honey yield and strength before"),
  mcdonald_omega = list("keeper_survey.csv", "McDonald's omega of advice_helpful, training_clear, inspections_fair and community_support"),
  item_analysis = list("keeper_survey.csv", "item analysis of advice_helpful, training_clear, inspections_fair and community_support"),
  intraclass_correlation = list("hive_trial.csv", "intraclass correlation of strength before and strength after"),
  limits_of_agreement = list("hive_trial.csv", "Bland-Altman limits of agreement of strength before and strength after"),
  cohen_kappa = list("hive_trial.csv", "Cohen's kappa of swarmed and survived winter"),
  weighted_kappa = list("keeper_survey.csv", "weighted kappa of advice_helpful and training_clear"),
  fleiss_kappa = list("keeper_survey.csv", "Fleiss kappa of advice_helpful, training_clear and website_easy"),
  kaplan_meier = list("hive_trial.csv", "How long until the hives swarm?"),
  log_rank = list("hive_trial.csv", "Does the time to swarm differ by arm?"),
  cox_regression = list("hive_trial.csv", "Cox regression of time to swarm on arm and queen age"),
  polynomial_regression = list("hive_trial.csv", "Fit a quadratic of honey yield on strength before"),
  ordinal_regression = list("keeper_survey.csv", "ordinal regression of training_clear on region and years keeping"),
  mixed_linear = list("hive_weights.csv", "mixed model of weight on temperature with a random intercept for each hive"),
  text_themes = list("keeper_survey.csv", "What are the themes of the open answers in to_improve?"),
  text_terms = list("keeper_survey.csv", "Which words come up most in to_improve?"),
  pooled_random = list("earlier_trials.csv", "Pool the earlier trials"),
  pooled_fixed = list("earlier_trials.csv", "Fixed effect meta-analysis of effect_kg with se_kg"),
  seasonal_forecast = list("hive_weights.csv", "Forecast the weight for the next month"),
  row_listing = list("hive_trial.csv", "Show me the rows where honey yield is above 33"),
  negative_binomial_regression = list("hive_trial.csv", "negative binomial regression of mites_after on arm and mites_before"),
  robust_linear_regression = list("hive_trial.csv", "robust regression of honey yield on strength before"),
  weighted_linear_regression = list("keeper_survey.csv", "weighted regression of satisfaction on years keeping"),
  spline_regression = list("hive_trial.csv", "spline regression of honey yield on strength before"),
  multinomial_regression = list("hive_trial.csv", "multinomial regression of region on honey yield"),
  equivalence_ranks = list("hive_trial.csv", "rank-based equivalence of honey yield between syrup and control within 4 kg"),
  multinomial_exact = list("keeper_survey.csv", "exact multinomial test of region"),
  mann_kendall = list("hive_weights.csv", "Mann-Kendall test of weight for hive H038"),
  partial_ranks = list("hive_trial.csv", "partial rank correlation of honey yield and strength before controlling for queen age and region"),
  log_rank_early = list("hive_trial.csv", "Peto test of days to swarm by arm"),
  constant_hazard = list("hive_trial.csv", "constant hazard model of days to swarm on arm and queen age"),
  gwet_ac1 = list("keeper_survey.csv", "Gwet's AC1 of advice_helpful, training_clear and website_easy"),
  gwet_ac2 = list("keeper_survey.csv", "Gwet's AC2 of advice_helpful and training_clear"),
  factorial_robust = list("hive_trial.csv", "robust two way anova of honey yield by arm and region"))

# Asked once for all that is looked at below.
studies <- lapply(stats::setNames(nm = unique(vapply(reached, `[[`, "", 1))), demo_study)
answers <- lapply(reached, function(r) ask(studies[[r[[1]]]], r[[2]]))
scripts <- lapply(answers, script)

test_that("each method is reached by a plain question, owes all its parts, and is retraced by its script", {
  for (id in names(reached)) {
    a <- answers[[id]]
    d <- as.list(a)
    expect_equal(d$status, "answered", info = id)
    expect_equal(d$method$id, id, info = id)
    expect_true(nzchar(d$method$why) && nzchar(d$sentences$headline) && nzchar(d$sentences$write_up), info = id)
    expect_true(all(vapply(d$checks, function(k) nzchar(k$meaning), NA)), info = id)
    # a session of its own costs most of the time: for every twelfth method, and every third of those that load a package
    loads <- any(grepl("^[^#]*library\\((?!ggplot2)", scripts[[id]], perl = TRUE))
    fresh <- match(id, names(reached)) %% (if (loads) 3 else 12) == 0
    if (id %in% c("overview")) expect_true(as.list(retrace(a))$ok) else expect_retraces(a, fresh = fresh, lines = scripts[[id]])
  }
})

test_that("every script is standalone: base R and recommended packages only, and it says what it reads", {
  base <- c("base", "stats", "utils", "graphics", "grDevices", "methods", rownames(installed.packages(priority = "recommended")), "ggplot2")
  # word breaks and stems are no statistics: the script takes them from the packages that know them
  for (id in names(reached)) {
    lines <- scripts[[id]]
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
