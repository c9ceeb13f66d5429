test_that("every cue is asked, and asked once", {
  space <- asNamespace("upbeatquill")
  written <- grep("^cue_(?!scores$)", ls(space), value = TRUE, perl = TRUE)
  listed <- upbeatquill:::phrase_cues()
  expect_gt(length(written), 50)
  expect_length(listed, length(written))
  for (name in written) expect_equal(sum(vapply(listed, identical, NA, get(name, space))), 1L, info = name)
})

test_that("turns of phrase decide what is done", {
  expected <- c(
    "is the yield more variable in syrup hives than in control hives?" = "compare",
    "are swarmed hives more common in the north?" = "compare",
    "does syrup work?" = "compare",
    "how many distinct apiaries are there?" = "frequency",
    "hives with more than 60 mites before" = "look_up",
    "which hives have more than 60 mites before?" = "look_up",
    "are apiaries unique?" = "quality",
    "how many values of mites_before are missing?" = "quality",
    "the average mites after excluding missing" = "describe",
    "does the effect of arm on honey yield depend on region?" = "predict",
    "which is the better predictor of honey yield, mites before or queen age?" = "drivers",
    "which test should I use to compare yield between the arms?" = "advise",
    "how many hives per arm for a difference of 5 kg in honey yield?" = "sample_size"
  )
  study <- hive_study()
  got <- vapply(names(expected), function(q) reading(ask(study, q))$task %||% "", "")
  expect_equal(unname(got), unname(expected))
})
