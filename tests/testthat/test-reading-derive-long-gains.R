chicks <- as.data.frame(ChickWeight)
chicks <- data.frame(weight = chicks$weight, Time = chicks$Time, Chick = as.integer(as.character(chicks$Chick)), Diet = as.integer(as.character(chicks$Diet)))
first <- chicks[chicks$Time == 0, ]; last <- chicks[chicks$Time == 21, ]
last$gain <- last$weight - first$weight[match(last$Chick, first$Chick)]

test_that("a gain named by a noun is the last value less the first of each unit, not the measure itself", {
  s <- open_study(chicks)
  for (q in c("weight gain by diet", "change in weight by diet", "mean growth by diet")) {
    a <- ask(s, q)
    expect_equal(table_of(a, "groups")$mean, as.vector(tapply(last$gain, last$Diet, mean)), info = q)
  }
  expect_retraces(a)
  own <- oneway.test(gain ~ factor(Diet), last)
  for (q in c("does weight gain differ between diets?", "is growth different between diets?")) {
    expect_equal(value_of(ask(s, q), "p_value"), own$p.value, tolerance = 1e-8, info = q)
  }
  expect_equal(value_of(ask(s, "mean weight gain"), "estimate"), mean(last$gain))
  expect_match(ask(s, "which diet gives the largest weight gain?")$sentences$headline, "3 (230)", fixed = TRUE)
})

test_that("gains of each unit and per unit of time are told by verbs too", {
  s <- open_study(chicks)
  expect_match(ask(s, "which chick grew most?")$sentences$headline, as.character(last$Chick[which.max(last$gain)]), fixed = TRUE)
  expect_match(ask(s, "how much did each chick gain")$sentences$headline, sprintf("%d (%d)", last$Chick[which.max(last$gain)], max(last$gain)), fixed = TRUE)
  for (q in c("how fast do chicks grow?", "mean growth per day")) expect_equal(value_of(ask(s, q), "estimate"), mean(last$gain) / 21, info = q)
  a <- ask(s, "did weight rise faster on diet 3 than on diet 1?")
  expect_equal(value_of(a, "p_value"), t.test(last$gain[last$Diet == 3], last$gain[last$Diet == 1])$p.value, tolerance = 1e-8)
  expect_retraces(a)
})

test_that("values at the start, at the end and after so many days are those of that time", {
  s <- open_study(chicks)
  expect_equal(table_of(ask(s, "average weight at the start by diet"), "groups")$mean, as.vector(tapply(first$weight, first$Diet, mean)))
  expect_equal(table_of(ask(s, "final weight of each diet"), "groups")$mean, as.vector(tapply(last$weight, last$Diet, mean)))
  ten <- chicks[chicks$Time == 10, ]
  expect_equal(table_of(ask(s, "mean weight after 10 days by diet"), "groups")$mean, as.vector(tapply(ten$weight, ten$Diet, mean)))
  # the course of all rows is asked about by the verb
  expect_equal(method_of(ask(s, "does the change in weight differ between diets?")), "anova_mixed")
})

test_that("ages are the times of units measured at several ages", {
  trees <- data.frame(height = Loblolly$height, age = Loblolly$age, Seed = as.integer(as.character(Loblolly$Seed)))
  s <- open_study(trees)
  span <- vapply(split(trees, trees$Seed), function(d) d$height[d$age == 25] - d$height[d$age == 3], 1)
  expect_equal(sort(table_of(ask(s, "growth of each seed"), "groups")$mean), unname(sort(span)))
  expect_equal(value_of(ask(s, "mean growth per year"), "estimate"), mean(span) / 22)
})
