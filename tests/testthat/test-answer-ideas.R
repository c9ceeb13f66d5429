test_that("every idea is answered when asked, whatever the data", {
  for (study in list(hive_study(), demo_study("keeper_survey.csv"), demo_study("hive_weights.csv"), open_study(data.frame(n = c("u", "v", "w"),
    k = 1:3)))) {
    offered <- ideas(study)
    expect_gt(length(offered), 0)
    for (q in offered) expect_equal(status_of(ask(study, q)), "answered", info = q)
  }
})

test_that("the declared comparison comes first", {
  study <- design(hive_study(), treatment = "arm", randomised = TRUE, outcome = "honey_yield_kg")
  expect_match(ideas(study)[1], "honey_yield_kg")
  expect_match(ideas(study)[1], "arm")
})
