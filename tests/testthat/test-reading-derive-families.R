choir <- with_seed(41, data.frame(height = round(rnorm(80, 68, 3), 1), part = rep(c("Bass 1", "Bass 2", "Tenor 1", "Tenor 2"), 20)))
people <- with_seed(42, data.frame(income = round(rnorm(80, 30, 4)), region = rep(c("North East", "North West", "South East", "South West"), 20)))

test_that("levels that share a word are put together where their words are set against each other", {
  s <- open_study(choir)
  own <- t.test(choir$height[grepl("Bass", choir$part)], choir$height[grepl("Tenor", choir$part)])
  for (q in c("are basses taller than tenors?", "difference in height between basses and tenors", "compare height of basses and tenors")) {
    a <- ask(s, q)
    expect_equal(method_of(a), "t_welch", info = q)
    expect_equal(value_of(a, "p_value"), own$p.value, tolerance = 1e-9, info = q)
    expect_match(paste(unlist(as.list(a)$reading$assumed), collapse = " "), "Took \"basses\" to mean \"Bass 1\" or \"Bass 2\" of part", fixed = TRUE, info = q)
  }
  expect_retraces(a)
  # a level that is written out is meant by itself
  two <- ask(s, "compare Bass 1 and Bass 2 in height")
  expect_equal(value_of(two, "n"), 40)
})

test_that("north and south, east and west cut the same levels in two ways", {
  s <- open_study(people)
  north <- grepl("North", people$region); east <- grepl("East", people$region)
  expect_equal(value_of(ask(s, "is income higher in the south than in the north?"), "p_value"),
               t.test(people$income[north], people$income[!north])$p.value, tolerance = 1e-9)
  expect_equal(value_of(ask(s, "do eastern regions differ from western regions in income?"), "p_value"),
               t.test(people$income[east], people$income[!east])$p.value, tolerance = 1e-9)
  expect_equal(value_of(ask(s, "does income differ between north east and south west"), "n"), 40)
})

test_that("a derived column of level sets survives saving and says what it is made of", {
  s <- amend(open_study(people), side = list(derive = "level_sets", from = "region", level = c("North East", "North West", "South East", "South West"),
                                             side = c("north", "north", "south", "south")))
  a <- ask(s, "mean income by side")
  expect_equal(table_of(a, "groups")$mean, as.vector(tapply(people$income, ifelse(grepl("North", people$region), "north", "south"), mean)))
  expect_retraces(a)
})
