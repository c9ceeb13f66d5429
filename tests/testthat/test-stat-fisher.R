test_that("the exact p of tables of any size agrees with fisher.test", {
  tables <- list(matrix(c(1, 2, 1, 0, 3, 3, 6, 1, 10, 10, 14, 9, 6, 7, 12, 11), 4), matrix(c(3, 1, 2, 0, 5, 4), 2), matrix(c(8, 2, 1, 7, 4, 6), 3),
                 with_seed(3, matrix(rpois(15, 4), 3)), matrix(c(3, 1, 1, 3), 2), rbind(c(4, 0, 0), c(0, 4, 0), c(0, 0, 4)))
  for (t in tables) {
    mine <- internal("stat_fisher_table")(t)
    expect_true(mine$exact)
    expect_equal(mine$p_value, fisher.test(t, workspace = 2e8)$p.value, tolerance = 1e-10)
    expect_equal(internal("stat_fisher_table")(t(t))$p_value, mine$p_value, tolerance = 1e-9)
    expect_equal(internal("stat_fisher_table")(t[rev(seq_len(nrow(t))), ])$p_value, mine$p_value, tolerance = 1e-9)
  }
})

test_that("a table too large to enumerate is judged by random tables from a recorded seed", {
  big <- with_seed(5, matrix(rpois(48, 40), 6))
  a <- internal("stat_fisher_table")(big)
  expect_false(a$exact)
  expect_equal(internal("stat_fisher_table")(big)$p_value, a$p_value)
  expect_equal(a$p_value, chisq.test(big)$p.value, tolerance = 0.1)
})
