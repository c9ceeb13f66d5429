kinds_of <- function(study) { b <- codebook(study); stats::setNames(b$kind, b$column) }
messages_of <- function(study) vapply(as.list(study)$findings, `[[`, "", "message")

test_that("names in two lines are joined, and the rows below are numbers again", {
  weight <- 60 + 1:12 / 4
  f <- local_csv(c(",Baseline,Baseline,Week 12,Week 12", "id,weight,pain,weight,pain",
                   sprintf("P%d,%s,%d,%s,%d", 1:12, weight, rep(1:4, 3), weight - 2, rep(0:2, 4))))
  s <- open_study(f)
  expect_equal(kinds_of(s), c(id = "id", "Baseline weight" = "number", "Baseline pain" = "count", "Week 12 weight" = "number", "Week 12 pain" = "count"))
  a <- ask(s, "mean of `Week 12 weight`")
  expect_equal(value_of(a, "estimate"), mean(weight - 2))
  expect_retraces(a)
})

test_that("a line of units becomes units, a line of questions becomes labels", {
  temp <- 20 + 1:10 / 8
  f <- local_csv(c("sample,temp,flow", ",\u00b0C,l/min", sprintf("s%d,%s,%s", 1:10, temp, temp / 7)))
  b <- codebook(s <- open_study(f))
  expect_equal(b$unit[b$kind == "number"], c("\u00b0C", "l/min"))
  expect_equal(value_of(ask(s, "mean of temp"), "estimate"), mean(temp))
  f <- local_csv(c("Q1,Q2,Q3", "\"How satisfied are you, overall?\",What is your age?,Any comments?",
                   "\"{\"\"ImportId\"\":\"\"a\"\"}\",\"{\"\"ImportId\"\":\"\"b\"\"}\",\"{\"\"ImportId\"\":\"\"c\"\"}\"",
                   sprintf("%d,%d,it was quite all right for %d people", rep(1:5, 4), 20 + 1:20, 1:20)))
  s <- open_study(f)
  b <- codebook(s)
  expect_equal(b$label[1:2], c("How satisfied are you, overall?", "What is your age?"))
  a <- ask(s, "what is the average age?")
  expect_equal(value_of(a, "estimate"), mean(20 + 1:20))
  expect_retraces(a)
})

test_that("a file without names keeps its first row", {
  f <- local_csv(sprintf("%d,%s,%s,2024-01-%02d", 1:15, rep(c("m", "f", "f"), 5), seq(-1.5, 2, by = 0.25), 11:25))
  s <- open_study(f)
  expect_equal(as.list(s)$tables[[1]]$rows, 15)
  expect_equal(unname(kinds_of(s)[2:4]), c("category", "number", "date"))
  expect_match(messages_of(s), "no line of names", all = FALSE)
  a <- ask(s, "mean of column_3")
  expect_equal(value_of(a, "estimate"), mean(seq(-1.5, 2, by = 0.25)))
  expect_retraces(a)
  # years over numbers are names
  s <- open_study(local_csv(c("country,2019,2020", sprintf("c%d,%s,%s", 1:6, 1:6 + 0.5, 2:7))))
  expect_equal(names(kinds_of(s)), c("country", "2019", "2020"))
})

test_that("a data row of words is not taken for a second line of names", {
  s <- open_study(local_csv(c("name,grade,note", "Ann,n/a,good", "Bo,7,bad", "Cy,8,good", "Di,9,bad")))
  expect_equal(as.list(s)$tables[[1]]$rows, 4)
  s <- open_study(local_csv(c("town,region", "Ulm,South", "Kiel,North", "Bonn,West", "Ulm,South")))
  expect_equal(names(kinds_of(s)), c("town", "region"))
})

test_that("notes below a table, a line that says the separator, and names that come again are no rows", {
  kg <- c(1.5, 2.5, 4, 8, 3)
  s <- open_study(local_csv(c("plot,kg,n", sprintf("p%d,%s,%d", 1:5, kg, 1:5), "", "* provisional", "Source: field book")))
  expect_equal(as.list(s)$tables[[1]]$rows, 5)
  expect_match(messages_of(s), "2 lines below the table", all = FALSE)
  expect_retraces(ask(s, "mean of kg"))
  s <- open_study(local_csv(c("sep=;", "name;score", sprintf("P%d;%d", 1:12, 11:22))))
  expect_equal(value_of(a <- ask(s, "mean of score"), "estimate"), mean(11:22))
  expect_retraces(a)
  page <- c("plot,kg,arm", sprintf("p%d,%s,%s", 1:6, 1:6 / 4, c("a", "b")))
  s <- open_study(local_csv(rep(page, 3)))
  expect_equal(as.list(s)$tables[[1]]$rows, 18)
  expect_equal(value_of(a <- ask(s, "mean of kg"), "estimate"), mean(1:6 / 4))
  expect_retraces(a)
})

test_that("delimiters behind the last value lose nothing; a value too many stops the reading", {
  s <- open_study(local_csv(c("a,b,c", "1.5,2,3,", "2.5,4,6", "3.5,5,7,", "4,6,8")))
  expect_equal(as.data.frame(s)$c, c(3, 6, 7, 8))
  expect_retraces(ask(s, "mean of c"))
  expect_error(open_study(local_csv(c("a,b,c", "1,2,3", "2,4,6,8", "3,5,7"))), class = "upbeatquill_error_file_ragged")
})

test_that("columns of fixed width are cut where every line is blank", {
  f <- local_csv(c("ID   NAME      SCORE  DAY       ", sprintf("%-5d%-10s%5d  2024-01-%02d", 1:12, c("Ann Lee", "Bo Fox", "Cyd Oh"), 31:42, 11:22)), "lab.txt")
  s <- open_study(f)
  expect_equal(kinds_of(s), c(ID = "id", NAME = "category", SCORE = "count", DAY = "date"))
  a <- ask(s, "mean of SCORE by NAME")
  expect_equal(table_of(a, "groups")$mean, as.vector(tapply(31:42, rep(c("Ann Lee", "Bo Fox", "Cyd Oh"), 4), mean)))
  expect_retraces(a)
})

test_that("names of rows in front of the names of columns shift nothing", {
  d <- data.frame(kg = c(1.5, 2.5, 4, 8), arm = c("x", "y", "x", "y"))
  for (sep in c(",", " ", ";")) {
    f <- withr::local_tempfile(fileext = ".txt")
    utils::write.table(d, f, sep = sep)
    s <- open_study(f)
    expect_equal(as.list(s)$tables[[1]]$rows, 4, info = sep)
    a <- ask(s, "mean of kg")
    expect_equal(value_of(a, "estimate"), mean(d$kg), info = sep)
    expect_retraces(a)
  }
  # a delimiter behind every row is an empty column without a name
  s <- open_study(local_csv(c("a,b,c", sprintf("%s,%d,%d,", 1:6 + 0.5, 2:7, 3:8))))
  expect_equal(as.data.frame(s)$c, 3:8)
  expect_retraces(ask(s, "mean of c"))
})
