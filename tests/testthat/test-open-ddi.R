test_that("a codebook goes to DDI XML and comes back with its labels, levels, units and missing codes", {
  folder <- withr::local_tempdir()
  file.copy(demo_file("keeper_survey.csv"), folder)
  study <- open_study(file.path(folder, "keeper_survey.csv"))
  study <- amend(study, region = list(label = "Region of the keeper"), years_keeping = list(unit = "years"), satisfaction = list(missing = -99),
                 age_band = list(order = c("18-34", "35-49", "50-64", "65+")))
  codebook(study, file.path(folder, "keeper_survey_codebook.xml"))
  again <- open_study(file.path(folder, "keeper_survey.csv"))
  b <- codebook(again)
  expect_equal(b$label[b$column == "region"], "Region of the keeper")
  expect_equal(b$unit[b$column == "years_keeping"], "years")
  expect_equal(b$missing_codes[b$column == "satisfaction"], "-99")
  expect_equal(b$levels[b$column == "age_band"], "18-34|35-49|50-64|65+")
})

test_that("XML with an outside entity is read without it", {
  secret <- withr::local_tempfile(fileext = ".txt"); writeLines("SECRET", secret)
  f <- withr::local_tempfile(fileext = ".xml")
  writeLines(c("<?xml version=\"1.0\"?>", sprintf("<!DOCTYPE codeBook [<!ENTITY x SYSTEM \"file://%s\">]>", secret),
    "<codeBook><dataDscr><var name=\"a\"><labl>&x;</labl></var></dataDscr></codeBook>"), f)
  found <- tryCatch(as.data.frame(open_study(f)), upbeatquill_error = function(e) NULL)
  expect_false(any(grepl("SECRET", unlist(found))))
})
