test_that("wordings of a known scale are ordered, anything else is not", {
  scale <- internal("ordered_scale_of")
  expect_equal(scale(c("Agree", "Strongly agree", "Disagree", "Neutral"))$levels, c("Disagree", "Neutral", "Agree", "Strongly agree"))
  expect_equal(scale(c("often", "never", "always"))$levels, c("never", "often", "always"))
  expect_equal(scale(c("10-19", "<10", "20+"))$levels, c("<10", "10-19", "20+"))
  expect_null(scale(c("red", "green", "blue")))
})

test_that("degrees of two poles are ordered, in whatever words they come", {
  scale <- internal("ordered_scale_of")
  lists <- list(c("Completely disagree", "Mostly disagree", "Neither", "Tend to agree", "Completely agree"),
    c("Not at all important", "Slightly important", "Moderately important", "Very important", "Extremely important"),
    c("Much worse", "Somewhat worse", "About the same", "Somewhat better", "Much better"),
    c("Very difficult", "Difficult", "Easy", "Very easy"), c("Less often", "Monthly", "Weekly", "Daily"),
    c("sehr unzufrieden", "eher unzufrieden", "teils/teils", "eher zufrieden", "sehr zufrieden"),
    c("pas du tout d\u2019accord", "plut\u00f4t pas d\u2019accord", "plut\u00f4t d\u2019accord", "tout \u00e0 fait d\u2019accord"),
    c("nunca", "a veces", "siempre"), c("Mon", "Wed", "Fri"), c("1 - Strongly disagree", "2", "3", "4", "5 - Strongly agree"))
  set.seed(5)
  for (words in lists) expect_equal(scale(sample(words))$levels, words, info = words[1])
  expect_null(scale(c("very red", "red", "slightly blue")))
  expect_null(scale(c("1 - North", "2 - South", "3 - East")))
})

test_that("codes that run against their meaning are turned, so that higher says more", {
  set.seed(3)
  d <- data.frame(sex = rep(c("men", "women"), each = 40), sat = c(sample(3:5, 40, TRUE), sample(1:3, 40, TRUE)))
  f <- local_data(d, "r.csv")
  utils::write.csv(data.frame(column = "sat", label = "Satisfaction", levels = "1=Very satisfied|2=Satisfied|3=Neutral|4=Dissatisfied|5=Very dissatisfied"),
    sub("[.]csv$", "_codebook.csv", f), row.names = FALSE)
  s <- open_study(f)
  expect_match(vapply(as.list(s)$findings, `[[`, "", "message"), "codes run from", all = FALSE)
  a <- ask(s, "average satisfaction by sex")
  expect_equal(table_of(a, "groups")$mean, as.vector(tapply(6 - d$sat, d$sex, mean)))
  expect_match(paste(format(ask(s, "are women more satisfied than men?")), collapse = " "), "higher in women than in\\s+men")
  expect_retraces(a)
})

test_that("grades of one thing are ordered by their word, and steps by their number", {
  scale <- internal("ordered_scale_of")
  for (words in list(c("none", "slight", "moderate", "severe"), c("placebo", "low dose", "medium dose", "high dose"), c("No pain", "Mild pain", "Severe pain"),
                     c("Stage I", "Stage II", "Stage IV"), c("Week 1", "Week 2", "Week 10"), c("Low", "Normal", "High"))) {
    expect_equal(scale(rev(words))$levels, words, info = words[1])
  }
  # nouns alone, and steps of several things, are no scale
  expect_null(scale(c("north field", "south field", "east field")))
  expect_null(scale(c("Grade 1", "Stage 2", "Level 3")))
})

test_that("bands of money, days and grades of a career are ordered", {
  order <- function(values) internal("ordered_scale_of")(values)$levels
  expect_equal(order(c("over \u00a360k", "\u00a330k-\u00a340k", "\u00a320k-\u00a330k", "\u00a340k-\u00a360k")),
               c("\u00a320k-\u00a330k", "\u00a330k-\u00a340k", "\u00a340k-\u00a360k", "over \u00a360k"))
  expect_equal(order(c("$50,000 or more", "less than $10,000", "$10,000-$49,999")), c("less than $10,000", "$10,000-$49,999", "$50,000 or more"))
  expect_equal(order(c("always", "some days", "never")), c("never", "some days", "always"))
  expect_equal(order(c("senior", "junior", "middle")), c("junior", "middle", "senior"))
  # metres are no millions
  expect_equal(internal("range_ends")("0-5 m"), c(0, 5))
  expect_equal(internal("range_ends")("$1m-$2m"), c(1e6, 2e6))
  expect_equal(internal("range_ends")("20 or less"), c(NA, 20))
})
