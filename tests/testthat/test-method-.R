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
  linear_regression = list("hive_trial.csv", "regress honey yield on strength before and arm"))

test_that("each method is reached by a plain question, owes all its parts, and is retraced by its script", {
  for (id in names(reached)) {
    a <- ask(demo_study(reached[[id]][[1]]), reached[[id]][[2]])
    d <- as.list(a)
    expect_equal(d$status, "answered", info = id)
    expect_equal(d$method$id, id, info = id)
    expect_true(nzchar(d$method$why) && nzchar(d$sentences$headline) && nzchar(d$sentences$write_up), info = id)
    expect_true(all(vapply(d$checks, function(k) nzchar(k$meaning), NA)), info = id)
    if (id == "overview") expect_true(as.list(retrace(a))$ok) else expect_retraces(a)
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
