# Experiments in blocks, doses against none, reliability and trends of diaries, odd rows.

plot_rows <- function() with_seed(71, {
  out <- expand.grid(block = 1:6, variety = c("Arvo", "Belisa", "Corin"), nitrogen_kg_ha = c(0, 60, 120, 180))
  out$plot <- seq_len(nrow(out))
  lift <- rnorm(6, 0, 0.4)
  out$grain_yield_t_ha <- round(3.2 + lift[out$block] + 0.01 * out$nitrogen_kg_ha + 0.5 * (out$variety == "Corin") + rnorm(nrow(out), 0, 0.3), 2)
  out$lodging <- c("none", "slight", "moderate", "severe")[pmin(4, 1 + rpois(nrow(out), out$nitrogen_kg_ha / 120))]
  out$protein_pct <- round(10 + rnorm(nrow(out)), 1)
  out[sample(nrow(out)), ]
})

test_that("an ordered outcome that gets worse with a dose is ranked against it", {
  rows <- plot_rows(); s <- open_study(local_data(rows))
  a <- ask(s, "does lodging get worse with nitrogen?")
  place <- match(rows$lodging, c("none", "slight", "moderate", "severe"))
  expect_equal(method_of(a), "spearman")
  expect_equal(value_of(a, "rho"), suppressWarnings(cor(place, rows$nitrogen_kg_ha, method = "spearman")), tolerance = 1e-10)
})

test_that("blocks taken as random give a model with an intercept for each", {
  rows <- plot_rows(); s <- open_study(local_data(rows))
  fit <- nlme::lme(grain_yield_t_ha ~ variety, random = ~ 1 | block, data = rows)
  for (question in c("treat blocks as random: effect of variety on yield", "compare varieties on yield with block as random")) {
    a <- ask(s, question)
    expect_equal(method_of(a), "mixed_linear")
    terms <- table_of(a, "coefficients")
    expect_equal(terms$estimate[grep("Corin", terms$term)], unname(nlme::fixef(fit)["varietyCorin"]), tolerance = 1e-6)
  }
  # nothing is measured: what it is asked about is asked back, and the blocks stay
  b <- ask(s, "treat blocks as random: effect of variety")
  expect_equal(status_of(b), "needs_choice")
  expect_true(all(vapply(reading(b)$alternatives, function(r) identical(r$predictors, "variety") && identical(r$extra$cluster, "block"), NA)))
  d <- ask(s, "are block differences big?")
  expect_true(all(vapply(reading(d)$alternatives, function(r) identical(r$by, "block"), NA)))
})

test_that("each dose is set against none", {
  rows <- plot_rows(); s <- open_study(local_data(rows))
  a <- ask(s, "compare yield of each nitrogen rate with the zero rate")
  expect_equal(method_of(a), "dunnett")
  pairs <- table_of(a, "pairs")
  means <- tapply(rows$grain_yield_t_ha, rows$nitrogen_kg_ha, mean)
  expect_equal(sort(pairs$estimate), sort(as.numeric(means[-1] - means[1])), tolerance = 1e-10)
  # "control" is no level of a scale that begins with none
  expect_false(any(grepl("lodging", filters_of(ask(s, "compare yield of each nitrogen rate against the control")))))
})

test_that("rows that are odd are looked for in all columns, not listed", {
  rows <- plot_rows(); rows$protein_pct[5] <- 45
  s <- open_study(local_data(rows))
  for (question in c("which plots are outliers?", "which rows look odd?")) {
    a <- ask(s, question)
    expect_equal(method_of(a), "quality_scan")
    expect_match(paste(c(as.list(a)$sentences$headline, unlist(as.list(a)$sentences$details), unlist(as.list(a)$tables)), collapse = " "), "protein_pct")
  }
})

test_that("reliability over days is agreement within a person, and a trend is over the days", {
  rows <- with_seed(5, data.frame(person = rep(sprintf("P%02d", 1:10), each = 14), day = rep(1:14, 10),
                                  screen_minutes = round(rep(rnorm(10, 60, 20), each = 14) + rnorm(140, 0, 15)), mood = round(rnorm(140, 5, 1), 1)))
  s <- open_study(local_data(rows))
  a <- ask(s, "what is the reliability of screen minutes across days?")
  expect_equal(method_of(a), "intraclass_correlation")
  table <- anova(lm(screen_minutes ~ person, rows))[["Mean Sq"]]
  expect_equal(value_of(a, "estimate"), (table[1] - table[2]) / (table[1] + 13 * table[2]), tolerance = 1e-8)
  b <- ask(s, "is there a trend in screen time?")
  expect_equal(reading(b)$task, "trend")
  expect_equal(value_of(b, "estimate"), unname(coef(lm(screen_minutes ~ day, rows))[2]), tolerance = 1e-8)
})
