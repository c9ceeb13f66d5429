# Rows that stand for groups of people, and a column that says how many are in each.

home_rows <- function(n = 300) with_seed(9, {
  data.frame(hh = seq_len(n), province = sample(c("Coast", "Plains", "Highland"), n, TRUE), area = sample(c("urban", "rural"), n, TRUE),
             hh_size = 1 + rpois(n, 2.3), income = round(rlnorm(n, 10, 0.7)), internet = sample(c(1, 0), n, TRUE, c(0.6, 0.4)),
             head_sex = sample(c("male", "female"), n, TRUE))
})

test_that("members are counted by the column of sizes", {
  rows <- home_rows(); s <- open_study(local_data(rows))
  expect_equal(value_of(ask(s, "how many households have more than 6 members?"), "n"), sum(rows$hh_size > 6))
  expect_equal(value_of(ask(s, "total number of people"), "estimate"), sum(rows$hh_size))
  people <- table_of(ask(s, "number of people by area"), "groups")
  expect_equal(people$sum[match(c("rural", "urban"), people[[1]])], as.vector(tapply(rows$hh_size, rows$area, sum)))
  expect_equal(filters_of(ask(s, "how many households with 5 or more people")), "hh_size >= 5")
})

test_that("the rows at one end may stand first", {
  rows <- home_rows(); s <- open_study(local_data(rows))
  a <- ask(s, "richest 10 percent of households: what share have internet?")
  top <- rows$income >= quantile(rows$income, 0.9)
  expect_equal(value_of(a, "estimate"), mean(rows$internet[top]), tolerance = 1e-12)
})

test_that("bands of equal size are named behind their column", {
  rows <- home_rows(); s <- open_study(local_data(rows))
  a <- ask(s, "average hh_size by income decile")
  expect_equal(nrow(table_of(a, "groups")), 10L)
  expect_equal(sum(table_of(a, "groups")$n), nrow(rows))
  expect_equal(reading(ask(s, "internet by income quintile"))$outcome[1], "internet")
  fifth <- ask(s, "how many households in the top income quintile")
  expect_equal(value_of(fifth, "n"), sum(rows$income >= quantile(rows$income, 0.8)))
})

test_that("one side in one place is compared with the others there", {
  rows <- home_rows(); s <- open_study(local_data(rows))
  a <- ask(s, "are rural households poorer in the coast province")
  coast <- rows[rows$province == "Coast", ]
  expect_equal(abs(value_of(a, "statistic")), abs(unname(t.test(income ~ area, coast)$statistic)), tolerance = 1e-10)
  expect_equal(status_of(ask(s, "is internet access associated with income?")), "answered")
})
