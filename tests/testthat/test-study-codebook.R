test_that("a codebook file beside the data is recognised and gives labels, kinds, orders and codes", {
  study <- demo_study("keeper_survey.csv", "keeper_survey_codebook.csv")
  b <- codebook(study)
  expect_equal(unique(b$table), "keeper_survey")
  expect_equal(b$label[b$column == "feed_affordable"], "Feed is affordable (1 = strongly disagree to 5 = strongly agree)")
  expect_equal(b$kind[b$column == "satisfaction"], "number")
  expect_equal(b$missing_codes[b$column == "satisfaction"], "-99")
  expect_equal(b$role[b$column == "weight"], "weight")
})

test_that("the written file can be read again and holds no formula", {
  d <- data.frame(x = 1:12, y = rep(c("=cmd()", "+b", "c"), 4))
  names(d)[1] <- "=evil()"
  file <- withr::local_tempfile(fileext = ".csv")
  codebook(open_study(d), file)
  back <- read.csv(file)
  expect_equal(nrow(back), 2)
  expect_false(any(grepl("^[=+@]", unlist(back))))
})

test_that("value labels that say nothing was answered are missing codes, and ends of a scale leave it a number", {
  folder <- withr::local_tempdir()
  rows <- with_seed(96, data.frame(rid = 1:80, town = sample(1:3, 80, TRUE), age_grp = sample(1:4, 80, TRUE), visits = c(-99, rpois(79, 3)),
    overall = sample(0:10, 80, TRUE), q1 = sample(c(1:5, -99), 80, TRUE), q2 = c(98, sample(1:5, 79, TRUE)), wgt = round(runif(80, 0.5, 2), 2)))
  book <- data.frame(column = names(rows), label = c("Respondent", "Town", "Age band", "Visits per month", "Overall satisfaction", "Staff", "Books",
    "Survey weight"), values = c("", "1 = Ald; 2 = Bry; 3 = Cor", "1: under 25\n2: 25-44\n3: 45-64\n4: 65+", "-99=missing",
    "0=not at all satisfied; 10=extremely satisfied", "1=very poor; 2=poor; 3=fair; 4=good; 5=very good; -99=no answer",
    "1=very poor, 2=poor, 3=fair, 4=good, 5=very good, 98=don't know", "0.5 to 2"))
  utils::write.csv(rows, file.path(folder, "library.csv"), row.names = FALSE)
  utils::write.csv(book, file.path(folder, "library_codebook.csv"), row.names = FALSE)
  b <- codebook(open_study(file.path(folder, c("library.csv", "library_codebook.csv"))))
  of <- function(column, field) b[[field]][b$column == column]
  expect_equal(of("visits", "kind"), "count")
  expect_equal(of("visits", "missing_codes"), "-99")
  expect_equal(of("overall", "kind"), "count")
  expect_equal(of("age_grp", "kind"), "ordered")
  expect_equal(of("age_grp", "levels"), "1=under 25|2=25-44|3=45-64|4=65+")
  expect_equal(of("q1", "missing_codes"), "-99")
  expect_equal(of("q1", "levels"), "1=very poor|2=poor|3=fair|4=good|5=very good")
  # "don't know" has no place on an ordered scale
  expect_equal(of("q2", "missing_codes"), "98")
  expect_equal(of("wgt", "role"), "weight")
  expect_equal(of("wgt", "kind"), "number")
})

test_that("codes and labels are read in the ways in which they are listed", {
  labelled <- internal("labelled_codes")
  two <- c("1" = "yes", "2" = "no")
  for (text in c("1=yes|2=no", "1 = yes; 2 = no", "1=yes, 2=no", "1: yes\n2: no", "1 - yes; 2 - no", "1=yes;2=no;")) expect_equal(labelled(text), two, info = text)
  expect_equal(labelled("2=yes, always, 3=no"), c("2" = "yes, always", "3" = "no"))
  for (text in c("a, b, c", "0-10", "north|south", "")) expect_null(labelled(text), info = text)
  expect_null(internal("listed_levels")("18 to 99"))
  expect_equal(internal("listed_levels")("north|south"), c("north", "south"))
})
