# How people speak of a survey whose columns are codes and whose codebook tells what was asked.

transit_study <- function(env = parent.frame()) {
  rows <- with_seed(84, {
    n <- 260
    scale <- function() sample(1:5, n, TRUE)
    data.frame(id = seq_len(n), wt = round(runif(n, 0.5, 2), 2), Q1 = scale(), Q2 = scale(), Q3 = sample(c(1:5, 9), n, TRUE), Q4 = scale(),
               Q5_bus = rbinom(n, 1, 0.4), Q5_train = rbinom(n, 1, 0.3), Q5_bike = rbinom(n, 1, 0.25), Q5_car = rbinom(n, 1, 0.6),
               D1 = sample(1:4, n, TRUE), D2 = sample(1:2, n, TRUE), D3 = pmax(16, round(rnorm(n, 44, 15))))
  })
  five <- "1=Strongly disagree|2=Disagree|3=Neutral|4=Agree|5=Strongly agree"
  book <- data.frame(column = c("Q1", "Q2", "Q3", "Q4", "Q5_bus", "Q5_train", "Q5_bike", "Q5_car", "D1", "D2", "D3", "wt"),
                     label = c("Buses run on time", "I feel safe at stations", "Fares are fair", "Staff are friendly", "Uses: bus", "Uses: train", "Uses: bicycle",  # nolint: line_length_linter.
                               "Uses: car", "Region", "Gender", "Age in years", "Survey weight"),
                     levels = c(rep(five, 4), rep("0=no|1=yes", 4), "1=North|2=South|3=East|4=West", "1=Female|2=Male", "", ""),
                     missing = c("", "", "9", rep("", 9)))
  folder <- withr::local_tempdir(.local_envir = env)
  files <- file.path(folder, c("transit.csv", "transit_codebook.csv"))
  utils::write.csv(rows, files[1], row.names = FALSE); utils::write.csv(book, files[2], row.names = FALSE)
  rows$Q3[rows$Q3 == 9] <- NA
  list(rows = rows, study = open_study(files))
}

test_that("what people think is what they agree with", {
  t <- transit_study(); rows <- t$rows; s <- t$study
  expect_equal(value_of(ask(s, "how many people think fares are fair"), "n"), sum(rows$Q3 >= 4, na.rm = TRUE))
  expect_equal(value_of(ask(s, "what share of bus users think buses run on time"), "estimate"), mean(rows$Q1[rows$Q5_bus == 1] >= 4), tolerance = 1e-12)  # nolint: line_length_linter.
  a <- ask(s, "do people who use the train more often agree that fares are fair")
  expect_equal(unname(unlist(reading(a)[c("outcome", "by")])), c("Q3", "Q5_train"))
  b <- ask(s, "percentage who feel safe by region")
  expect_setequal(round(table_of(b, "shares")$share, 10), round(as.vector(tapply(rows$Q2 >= 4, rows$D1, mean)), 10))
})

test_that("users, both, neither, and no answer", {
  t <- transit_study(); rows <- t$rows; s <- t$study
  expect_equal(value_of(ask(s, "average age of cyclists"), "estimate"), mean(rows$D3[rows$Q5_bike == 1]), tolerance = 1e-12)
  expect_equal(value_of(ask(s, "how many use both bus and train"), "n"), sum(rows$Q5_bus == 1 & rows$Q5_train == 1))
  expect_setequal(filters_of(ask(s, "people who use neither car nor train")), c("Q5_car == no", "Q5_train == no"))
  expect_equal(value_of(ask(s, "how many gave no answer on fares"), "n"), sum(is.na(rows$Q3)))
  expect_equal(method_of(ask(s, "are the four items one scale")), "cronbach_alpha")
})

test_that("the label of a code tells the age", {
  t <- transit_study(); rows <- t$rows; s <- t$study
  expect_equal(value_of(ask(s, "average age"), "estimate"), mean(rows$D3), tolerance = 1e-12)
  expect_equal(value_of(ask(s, "share of people under 30 who cycle"), "estimate"), mean(rows$Q5_bike[rows$D3 < 30]), tolerance = 1e-12)
  a <- ask(s, "are younger people more likely to use the bus")
  expect_setequal(unlist(reading(a)[c("outcome", "by", "predictors")]), c("D3", "Q5_bus"))
})

# A survey as tools for forms export it: names, then a line of questions, then answers in words.
exported <- function(n = 120) {
  set.seed(12)
  sat <- c("Very dissatisfied", "Dissatisfied", "Neither satisfied nor dissatisfied", "Satisfied", "Very satisfied")
  agree <- c("Strongly disagree", "Somewhat disagree", "Neither agree nor disagree", "Somewhat agree", "Strongly agree")
  ways <- c("Email", "Phone", "Chat")
  data.frame(ResponseId = sprintf("R_%04d", 1:n), Q1 = sample(c("18-24", "25-34", "35-44", "45+"), n, TRUE), Q2 = sample(c("Female", "Male"), n, TRUE),
    Q3 = sample(sat, n, TRUE), Q4_1 = sample(agree, n, TRUE), Q4_2 = sample(agree, n, TRUE), Q5 = sample(0:10, n, TRUE),
    Q6 = vapply(1:n, function(i) paste(ways[sort(sample(3, sample(1:3, 1)))], collapse = ","), ""),
    Q8 = sample(c("it was quite fine", "too slow and nobody answered", "great staff very helpful", "the waiting time was long"), n, TRUE))
}
export_file <- function(d, env = parent.frame()) {
  labels <- c("Response ID", "What is your age?", "What is your gender?", "Overall, how satisfied are you with our service?",
    "Please rate: - The staff was friendly", "Please rate: - I got the help I needed", "How likely are you to recommend us?",
    "Which channels have you used? (Select all that apply)", "Any other comments?")
  head <- data.frame(as.list(labels))
  names(head) <- names(d)
  d[] <- lapply(d, as.character)
  local_data(rbind(head, d), env = env)
}

test_that("a survey with its questions in the second line is asked in words", {
  d <- exported()
  s <- open_study(export_file(d))
  b <- codebook(s)
  expect_equal(as.list(s)$tables[[1]]$rows, nrow(d))
  expect_equal(b$kind[match(c("Q3", "Q4_1", "Q5", "Q8"), b$column)], c("ordered", "ordered", "count", "text"))
  scored <- match(d$Q3, c("Very dissatisfied", "Dissatisfied", "Neither satisfied nor dissatisfied", "Satisfied", "Very satisfied"))
  expect_equal(value_of(ask(s, "how satisfied are people overall"), "estimate"), mean(scored), tolerance = 1e-9)
  a <- ask(s, "are women more satisfied than men")
  expect_equal(as.list(a)$reading[c("outcome", "by")], list(outcome = list("Q3"), by = list("Q2")), ignore_attr = TRUE)
  expect_equal(value_of(ask(s, "do people agree that the staff was friendly"), "estimate"), mean(d$Q4_1 %in% c("Somewhat agree", "Strongly agree")), tolerance = 1e-9)
  a <- ask(s, "which channel is used most")
  used <- vapply(c("Email", "Phone", "Chat"), function(w) sum(grepl(w, d$Q6)), 1)
  expect_equal(sort(as.numeric(table_of(a, "counts")$n)), sort(unname(used)))
  # an age band and a frequency are not one measure
  expect_false(identical(as.list(ask(s, "compare Q1 and Q3"))$method$id, "wilcoxon_signed_rank"))
})

test_that("people counted in rows of accidents are added up", {
  d <- data.frame(date = as.Date("2023-01-01") + 1:60 * 5, severity = rep(c("slight", "serious"), 30), injured = rep(0:4, 12))
  a <- ask(open_study(local_data(d)), "how many people were injured")
  expect_equal(value_of(a, "estimate"), sum(d$injured))
})

test_that("both words for agreeing are both levels, and disagreeing strongly is no agreement", {
  levels <- c("Strongly disagree", "Disagree", "Neither", "Agree", "Strongly agree")
  rows <- with_seed(4, data.frame(respondent = 1:200, branch = sample(c("Central", "Harbour"), 200, TRUE), age_group = sample(c("16-24", "25-64", "65+"), 200, TRUE),
                                  q1_staff_helpful = sample(levels, 200, TRUE), q2_easy_to_find = sample(levels, 200, TRUE), q3_feel_safe = sample(levels, 200, TRUE),
                                  recommend = sample(0:10, 200, TRUE), weight = round(runif(200, 0.4, 2.2), 3)))
  s <- open_study(local_data(rows))
  share <- function(q) value_of(ask(s, q), "estimate")
  agrees <- mean(rows$q1_staff_helpful %in% levels[4:5])
  expect_equal(share("what percentage agree or strongly agree that staff are helpful?"), agrees)
  expect_equal(share("share who agree or strongly agree with q1_staff_helpful by branch"), agrees)
  expect_equal(share("percentage who disagree or strongly disagree with feel safe"), mean(rows$q3_feel_safe %in% levels[1:2]))
  expect_equal(share("percentage who strongly disagree with feel safe"), mean(rows$q3_feel_safe == levels[1]))
  expect_equal(share("top 2 box of feel safe"), mean(rows$q3_feel_safe %in% levels[4:5]))
  expect_equal(method_of(ask(s, "top two box for easy to find by branch")), "share_by_group")
  promoters <- 100 * (mean(rows$recommend >= 9) - mean(rows$recommend <= 6))
  means <- table_of(ask(s, "nps by branch"), "groups")
  expect_equal(sum(means$mean * means$n) / sum(means$n), promoters, tolerance = 1e-10)
  expect_equal(share("what share of respondents are 65+ using the weights"), sum(rows$weight[rows$age_group == "65+"]) / sum(rows$weight), tolerance = 1e-10)
  # the percentages of a whole table are not those of one event
  table <- ask(s, "cross tab of age group and branch with row percentages, without 65+")
  expect_equal(method_of(table), "crosstab")
  # nothing here says who is a woman
  for (q in c("how many women", "average recommend of the women", "percentage women")) expect_equal(status_of(ask(s, q)), "cannot_answer", info = q)
})
