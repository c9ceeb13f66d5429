# Two measurements of the same thing in homes, with floor areas in square metres.
homes <- with_seed(77, {
  n <- 120
  d <- data.frame(home_id = sprintf("HM%03d", 1:n), town = sample(c("Ashford", "Brigg", "Corby"), n, TRUE), floor_area_m2 = round(rnorm(n, 105, 28)),
                  insulation = sample(c("none", "loft", "full"), n, TRUE), damp_reported = sample(c("yes", "no"), n, TRUE),
                  comfort = sample(c("poor", "fair", "good", "excellent"), n, TRUE))
  d$energy_before_kwh <- round(8000 + 60 * d$floor_area_m2 + rnorm(n, 0, 1500))
  d$energy_after_kwh <- round(d$energy_before_kwh * (1 - 0.15 * (d$insulation == "full")) + rnorm(n, 0, 900))
  d
})
study <- open_study(homes)
saved <- homes$energy_before_kwh - homes$energy_after_kwh

test_that("savings are reductions, also where a verb says so", {
  a <- ask(study, "average energy saving by insulation")
  t <- table_of(a, "groups")
  expect_equal(t$mean[match(c("full", "loft", "none"), t$insulation)], as.vector(tapply(saved, homes$insulation, mean)[c("full", "loft", "none")]))
  expect_retraces(a)
  b <- ask(study, "does the saving depend on floor area?")
  expect_equal(value_of(b, "estimate"), cor(saved, homes$floor_area_m2), tolerance = 1e-10)
  for (q in c("which homes save the most energy?", "which home cut its energy most?", "which homes reduced energy the most")) {
    top <- ask(study, q)
    expect_equal(value_of(top, "estimate"), max(saved), info = q)
  }
  expect_equal(value_of(ask(study, "expected energy saving for full insulation"), "estimate"), mean(saved[homes$insulation == "full"]), tolerance = 1e-10)
})

test_that("a percentage reduction is one, not the plain difference", {
  share <- 100 * saved / homes$energy_before_kwh
  for (q in c("average percentage reduction in energy by town", "average saving in % by town", "mean percent reduction of energy by town")) {
    a <- ask(study, q)
    t <- table_of(a, "groups")
    expect_equal(t$mean[match("Brigg", t$town)], mean(share[homes$town == "Brigg"]), tolerance = 1e-10, info = q)
  }
  expect_retraces(a)
  b <- ask(study, "percentage change in energy by town")
  expect_equal(table_of(b, "groups")$mean[1], -mean(share[homes$town == "Ashford"]), tolerance = 1e-10)
})

test_that("columns of several words are subtracted", {
  a <- ask(study, "mean energy before minus energy after by town")
  expect_equal(table_of(a, "groups")$mean[1], mean(saved[homes$town == "Ashford"]), tolerance = 1e-10)
})

test_that("units with a power stand behind numbers, in signs and in words", {
  big <- homes$floor_area_m2 > 120
  for (q in c("mean energy before for homes larger than 120 m2", "mean energy before of homes over 120 square metres", "mean energy before of homes over 120 sq m",
              "mean energy before of homes over 120 m\u00b2")) {
    a <- ask(study, q)
    expect_equal(filters_of(a), "floor_area_m2 > 120", info = q)
    expect_equal(value_of(a, "estimate"), mean(homes$energy_before_kwh[big]), info = q)
  }
  b <- ask(study, "predict energy before for a home of 120 m2")
  expect_equal(value_of(b, "estimate"), predict(lm(energy_before_kwh ~ floor_area_m2, homes), data.frame(floor_area_m2 = 120))[[1]], tolerance = 1e-10)
})

test_that("a mean or median of some rows is compared with a value", {
  brigg <- homes$energy_before_kwh[homes$town == "Brigg"]
  own <- t.test(brigg, mu = 14000)
  for (q in c("is the mean energy before in Brigg above 14000 kwh?", "for Brigg, is the mean energy before above 14000?", "is the average energy before in Brigg higher than 14000?")) {
    a <- ask(study, q)
    expect_equal(filters_of(a), "town == Brigg", info = q)
    expect_equal(value_of(a, "p_value"), own$p.value, tolerance = 1e-10, info = q)
  }
  b <- ask(study, "is the median energy before in Brigg below 14000?")
  expect_equal(method_of(b), "sign_test")
  expect_equal(value_of(b, "p_value"), binom.test(sum(brigg > 14000), sum(brigg != 14000))$p.value, tolerance = 1e-12)
  expect_equal(value_of(b, "estimate"), median(brigg))
  expect_retraces(b)
  expect_equal(method_of(ask(study, "sign test of energy before against 14000")), "sign_test")
})

test_that("shares by two columns, two levels of an effect size, and no level called good in a straight line", {
  a <- ask(study, "share of homes with damp by town and insulation")
  t <- table_of(a, "shares")
  expect_equal(sum(t$count), sum(homes$damp_reported == "yes"))
  expect_equal(nrow(t), 9)
  b <- ask(study, "effect size of full against none insulation on energy after")
  expect_equal(filters_of(b), "insulation in full|none")
  line <- ask(study, "is the relation between floor area and energy before a straight line?")
  expect_equal(filters_of(line), character())
  expect_equal(filters_of(ask(study, "is a straight line good enough for energy before and floor area")), character())
})
