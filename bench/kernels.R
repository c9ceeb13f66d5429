# Ratios of the kernels against base R on the same work, in one run.   Rscript bench/kernels.R [MILLIONS OF ROWS]
library(upbeatquill)
ours <- function(name) get(name, envir = asNamespace("upbeatquill"))
millions <- as.numeric(c(commandArgs(TRUE), "10")[1])
n <- round(1e6 * millions)
set.seed(1)
x <- rnorm(n, 100, 15)
g <- sample(1:2, n, TRUE)
timed <- function(code) system.time(code)[["elapsed"]]
report <- function(what, base, mine, target) {
  cat(sprintf("%-46s base R %7.2f s   ours %7.3f s   ratio %6.1f (target %g)\n", what, base, mine, base / max(mine, 1e-4), target))
}
f <- factor(g)
welch <- function() {
  m <- ours("stat_group_moments")(x, g, 2L)
  ours("t_welch_from_moments")(m[1, , drop = FALSE], m[2, , drop = FALSE])
}
a <- timed(ref <- t.test(x ~ f)); b <- timed(out <- welch())
stopifnot(isTRUE(all.equal(unname(ref$statistic), out$statistic, tolerance = 1e-9)))
report(sprintf("Welch, %g million rows", millions), a, b, 30)
a <- timed(rank(x)); b <- timed(ours("stat_midranks")(x))
report(sprintf("midranks, %g million rows", millions), a, b, 5)
rm(x, g, f); invisible(gc())
rows <- 1e6
d <- matrix(rnorm(rows * 10), rows)
x <- cbind(1, d)
table <- data.frame(y = drop(d %*% 1:10) + rnorm(rows), d, event = as.numeric(runif(rows) < plogis(drop(d %*% (1:10) / 10))))
y <- table$y
a <- timed(ref <- lm.fit(x, y)); lm_time <- timed(lm(y ~ . - event, table)); b <- timed(out <- ours("stat_least_squares")(x, y))
stopifnot(isTRUE(all.equal(unname(ref$coefficients), out$coefficients, tolerance = 1e-10)))
rm(ref)
report("least squares, 1 million x 10 (against lm)", lm_time, b, 10)
report("least squares, 1 million x 10 (against lm.fit)", a, b, 1)
a <- timed(ref <- glm(event ~ . - y, binomial, table)); b <- timed(out <- ours("stat_generalised")(x, table$event, "binomial"))
stopifnot(isTRUE(all.equal(unname(coef(ref)), out$coefficients, tolerance = 1e-8)))
report("logistic, 1 million x 10", a, b, 5)
if (requireNamespace("survival", quietly = TRUE)) {
  followed <- rexp(rows); came <- table$event == 1
  a <- timed(ref <- survival::coxph(survival::Surv(followed, came) ~ d)); b <- timed(out <- ours("stat_cox")(followed, came, d))
  stopifnot(isTRUE(all.equal(unname(coef(ref)), out$coefficients, tolerance = 1e-6)))
  report("Cox, 1 million x 10 (against coxph)", a, b, 3)
}
rm(ref, table, x, d); invisible(gc())
m <- matrix(rnorm(rows * 30), rows)
m[sample(length(m), length(m) / 10)] <- NA
columns <- lapply(1:30, function(j) m[, j])
a <- timed(ref <- cor(m, use = "pairwise")); pair <- combn(30, 2)
b <- timed(out <- ours("stat_pearson_pairs")(columns, pair))
stopifnot(isTRUE(all.equal(ref[t(pair)], vapply(out, `[[`, 1, "estimate"), tolerance = 1e-10)))
report("correlations, 1 million x 30, a tenth missing", a, b, 50)
m[is.na(m)] <- 0
columns <- as.list(as.data.frame(m[, 1:20]))
cat(sprintf("regression tree, 1 million x 20, grown and pruned: %.1f s\n", timed(ours("stat_tree")(columns, m[, 21] + m[, 1]))))
u <- rnorm(200)
a <- timed(for (i in 1:10000) mean(sample(u)[1:90]))
b <- timed(ours("kernel_permuted_sums")(u, 90, 10000, ours("stream_seed")(1), 2L))
report("10,000 permutations of 200 rows", a, b, 30)
