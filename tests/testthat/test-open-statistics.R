labelled_data <- function() {
  data.frame(who = 1:12, sex = haven::labelled(rep(1:2, 6), c(male = 1, female = 2), label = "Sex of the person"),
             score = haven::labelled_spss(c(5, 6, 7, -9, 8, 9, 4, -9, 6, 7, 5, 8), na_values = -9, label = "Score"))
}

test_that("labels, value labels and user-missing values come along, and the script reads the same file", {
  d <- labelled_data()
  f <- withr::local_tempfile(fileext = ".sav")
  haven::write_sav(d, f)
  study <- open_study(f)
  b <- codebook(study)
  expect_equal(b$label[b$column == "sex"], "Sex of the person")
  expect_equal(b$levels[b$column == "sex"], "1=male|2=female")
  expect_equal(b$missing[b$column == "score"], 2L)
  a <- ask(study, "Does the score differ between male and female?")
  score <- as.numeric(d$score); score[score == -9] <- NA
  ref <- t.test(score[d$sex == 1], score[d$sex == 2])
  expect_equal(value_of(a, "p_value"), ref$p.value, tolerance = 1e-10)
  expect_retraces(a)
})

test_that("Stata and transport files open with their values", {
  d <- data.frame(g = rep(c("a", "b"), 5), y = c(1.5, 2, 3, 4, 5, 6, 7, 8, 9, 10.25))
  for (type in c("dta", "xpt")) {
    f <- withr::local_tempfile(fileext = paste0(".", type))
    if (type == "dta") haven::write_dta(d, f) else haven::write_xpt(d, f, version = 8, name = "trial")
    study <- open_study(f)
    expect_equal(as.data.frame(study)$y, d$y, info = type)
    expect_retraces(ask(study, "does y differ by g"))
  }
})

test_that("value labels without a label, and refusals on an ordered scale, come through", {
  d <- data.frame(id = 1:30)
  d$sex <- haven::labelled(rep(1:2, 15), c(Male = 1, Female = 2))
  d$trust <- haven::labelled(rep(c(1:5, 9), 5), c("Strongly agree" = 1, Agree = 2, Neither = 3, Disagree = 4, "Strongly disagree" = 5, Refused = 9), label = "Trust")
  d$seen <- as.Date("2024-01-01") + 1:30
  f <- withr::local_tempfile(fileext = ".sav")
  haven::write_sav(d, f)
  s <- open_study(f)
  b <- codebook(s)
  expect_equal(b$kind, c("id", "category", "ordered", "date"))
  expect_equal(b$label[2], "")
  expect_equal(sub("=.*", "", strsplit(sub("^.*?=", "", b$levels[3]), "|", fixed = TRUE)[[1]][1]), "Strongly disagree")
  expect_retraces(ask(s, "number of rows by month of seen"))
  expect_retraces(ask(s, "does trust differ by sex?"))
})
