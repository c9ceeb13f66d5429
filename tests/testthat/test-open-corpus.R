# A corpus of awkward files, made here: each opens with the right rows and kinds, or is refused in one clear message.

bytes_file <- function(bytes, name, env = parent.frame()) {
  file <- file.path(withr::local_tempdir(.local_envir = env), name)
  writeBin(if (is.character(bytes)) charToRaw(bytes) else bytes, file)
  file
}

opens <- function(text, rows, kinds, name = "data.csv") {
  s <- open_study(bytes_file(text, name, env = parent.frame()))
  d <- as.list(s)$tables[[1]]
  expect_equal(d$rows, rows, info = text)
  expect_equal(vapply(d$columns, `[[`, "", "kind"), kinds, info = text)
  invisible(s)
}

test_that("delimiters, quotes, line ends and headers", {
  opens("a,b\n1.5,x\n2.5,y\n3,x\n", 3, c("number", "category"))
  opens("a;b\n1,5;x\n2,5;y\n3,0;x\n", 3, c("number", "category"))
  opens("a\tb\n1.5\tx\n2.5\ty\n", 2, c("number", "category"), "data.tsv")
  opens("a|b\n1.5|x\n2.5|y\n", 2, c("number", "category"), "data.txt")
  opens("a,b\r\n1.5,x\r\n2.5,y\r\n", 2, c("number", "category"))
  opens("a,b\n1.5,\"x, and more\"\n2.5,\"y\"\n", 2, c("number", "category"))
  opens("a,b\n1.5,\"two\nlines\"\n2.5,\"y\"\n", 2, c("number", "category"))
  opens("a,b\n1.5,\"he said \"\"no\"\"\"\n2.5,y\n", 2, c("number", "category"))
  opens("\"a\",\"b\"\n\"1.5\",\"x\"\n\"2.5\",\"y\"\n", 2, c("number", "category"))
  opens("a,a,\n1.5,2.5,x\n2.5,1.5,y\n", 2, c("number", "number", "category"))
  opens("one\n1.5\n2.5\n3.5\n", 3, "number")
  opens("if,for,function\n1.5,x,2.5\n2.5,y,3.5\n", 2, c("number", "category", "number"))
  opens("a,b\n1.5,x\n\n2.5,y\n\n", 2, c("number", "category"))
  opens("a,b,c\n1.5,x,1\n2.5,y\n3.5,x,4\n", 3, c("number", "category", "count"))
})

test_that("titles above, totals below, byte marks and encodings", {
  opens("Yields of 2024\n\nplot,kg,n\na,1.5,2\nb,2.5,9\nc,4.5,3\n", 3, c("category", "number", "count"))
  s <- opens("plot,kg\na,1.5\nb,2.5\nc,4.0\nTotal,8.0\n", 3, c("category", "number"))
  expect_true(any(grepl("totals", vapply(as.list(s)$findings, `[[`, "", "message"))))
  opens(c(as.raw(c(0xef, 0xbb, 0xbf)), charToRaw("a,b\n1.5,x\n2.5,y\n")), 2, c("number", "category"))
  opens(stringi::stri_encode("a,b\n1.5,\u00e9\n2.5,y\n", "UTF-8", "UTF-16LE", to_raw = TRUE)[[1]], 2, c("number", "category"))
  s <- opens(as.raw(c(0x61, 0x2c, 0x62, 0x0a, 0x31, 0x2e, 0x35, 0x2c, 0xe9, 0x0a, 0x32, 0x2c, 0x79, 0x0a)), 2, c("number", "category"))
  expect_true("\u00e9" %in% unlist(as.list(s)$tables[[1]]$columns[[2]]$levels))
})

test_that("numbers in the dress of text", {
  opens("p\n\"$1,200\"\n$900\n$15\n", 3, "count")
  opens("p\n12 %\n7.5 %\n80 %\n", 3, "number")
  opens("p\n3.5 kg\n4 kg\n5.25 kg\n", 3, "number")
  opens("p;q\n1.234,5;x\n12,25;y\n7,0;x\n", 3, c("number", "category"))
  opens("p\n1'200\n3'450.5\n20\n", 3, "number")
  opens("p\n34\n51\nrefused\n28\n60\n45\nn/a\n", 7, "count")
  opens("zip\n01234\n00501\n99501\n01234\n", 4, "id")
  opens("x\n1e3\n2.5e-2\n7\n", 3, "number")
  opens("x\n-99\n4\n5\n-99\n6\n7\n8\n", 7, "count")
})

test_that("dates, yes and no, scales", {
  opens("d,x\n2024-01-02,1.5\n2024-01-03,2\n", 2, c("date", "number"))
  opens("d,x\n25/12/2023,1.5\n03/01/2024,2\n", 2, c("date", "number"))
  opens("d,x\n12/25/2023,1.5\n01/03/2024,2\n", 2, c("date", "number"))
  opens("d,x\n20240102,1.5\n20240103,2\n", 2, c("count", "number"))
  opens("day,date\n1,20240102\n2,20240103\n9,20240104\n", 3, c("count", "date"))
  opens("t,x\n2024-01-02 10:30:00,1.5\n2024-01-02 11:00:00,2\n", 2, c("datetime", "number"))
  opens("s,x\nYes,1.5\nNo,2\nYes,3\n", 3, c("yes_no", "number"))
  opens("s,x\nagree,1.5\nstrongly agree,2\ndisagree,3\nagree,4\n", 4, c("ordered", "number"))
  opens("s,x\n18-34,1.5\n35-49,2\n50+,3\n", 3, c("ordered", "number"))
  opens("c,x\nfixed,1.5\nfixed,2\n", 2, c("constant", "number"))
  opens("e,x\n,1.5\n,2\n", 2, c("empty", "number"))
  opens("d,x\n29/02/2023,1.5\n13/01/2023,2\n", 2, c("category", "number"))
})

test_that("hostile and broken files end in one message of ours", {
  refused <- function(bytes, name = "data.csv") {
    error <- tryCatch(open_study(bytes_file(bytes, name)), error = function(e) e)
    expect_s3_class(error, "upbeatquill_error_input")
    expect_lt(nchar(conditionMessage(error)), 600)
  }
  refused("")
  refused("\n\n  \n")
  refused("a,b\n")
  refused(as.raw(sample(0:255, 4000, TRUE)))
  refused("a,b\n1,2\n3,4,5,6\n")
  refused("not a workbook", "data.xlsx")
  refused("not a workbook", "data.xls")
  refused("not statistics", "data.sav")
  refused("not statistics", "data.dta")
  refused("not statistics", "data.sas7bdat")
  refused("not parquet", "data.parquet")
  refused("{]", "data.json")
  refused("no zip", "data.zip")
  refused("<a><b></a>", "data.xml")
  refused(as.raw(c(0x1f, 0x8b, 0x08, 0x00, 0x01)), "data.csv.gz")
})

test_that("names and values that look like code stay text", {
  s <- open_study(bytes_file("system('touch pwned'),`x`;y\n1.5,=cmd()\n2.5,$(rm)\n3.5,=cmd()\n", "data.csv"))
  a <- ask(s, "mean of system touch pwned by `x`;y")
  expect_false(file.exists("pwned"))
  expect_true(status_of(a) %in% c("answered", "needs_choice", "cannot_answer"))
})

test_that("line ends, headers over two lines, blanks between columns, one column with decimal commas", {
  s <- opens("a,b\r\n1.5,x\n2.5,y\r3.5,z\n", 3, c("number", "category"))
  expect_retraces(ask(s, "mean a"))
  s <- opens("\"plot\nname\",c\nx,1.5\ny,2.5\nx,4\n", 3, c("category", "number"))
  expect_equal(codebook(s)$column[1], "plot\nname")
  expect_retraces(ask(s, "mean c"))
  s <- opens("a  b c\n1 2 3.5\n4   5 6\n7 8 9\n", 3, c("count", "count", "number"), "data.txt")
  expect_retraces(ask(s, "mean c"))
  opens("p\n\u20ac1.200,50\n\u20ac900,00\n\u20ac15,25\n", 3, "number")
  opens("p\n1 200\n13 450\n900\n", 3, "count")
  s <- opens("1,2,3\n4,5,6\n7,8,9\n", 2, c("count", "count", "count"))
  expect_match(as.list(s)$findings[[1]]$message, "read as the names of the columns")
  opens("region,2019,2020\nn,1.5,2\ns,2.5,3\n", 2, c("category", "number", "count"))
})

# Every file below opens with these kinds, and what is computed from it is found again by its script.
opens_and_retraces <- function(text, kinds, question, expected, name = "data.csv") {
  s <- open_study(bytes_file(text, name, env = parent.frame()))
  b <- codebook(s)
  expect_equal(b$kind, kinds, info = substr(text, 1, 60))
  a <- ask(s, question)
  expect_equal(value_of(a, "estimate"), expected, tolerance = 1e-9, info = question)
  expect_retraces(a)
}

test_that("exports of other lands and programs give the numbers they hold", {
  umsatz <- c(1108.5, 2250.25, 9735, 4469.75, 3310.1, 1200)
  german <- format(umsatz, big.mark = ".", decimal.mark = ",", nsmall = 2, trim = TRUE)
  opens_and_retraces(paste0("Kunde;Umsatz;Rabatt\n", paste0("K", 1:6, ";", german, " \u20ac;", c("ja", "nein"), "\n", collapse = "")),
                     c("category", "number", "yes_no"), "mean of Umsatz", mean(umsatz))
  opens_and_retraces(paste0("acc,net\n", paste0("a", 1:6, ",\"", c("(1,234.50)", "2,345.00", "(99.10)", "12.00", "7.5", "(3)"), "\"\n", collapse = "")),
                     c("category", "number"), "mean of net", mean(c(-1234.5, 2345, -99.1, 12, 7.5, -3)))
  opens_and_retraces(paste0("g\tchange\n", paste0(c("a", "b"), "\t", c("\u22123.5", "2.25", "\u22120.5", "4", "1", "\u22127"), "\n", collapse = "")),
                     c("category", "number"), "mean of change", mean(c(-3.5, 2.25, -0.5, 4, 1, -7)), "data.tsv")
  opens_and_retraces(paste0("when,kg\n", paste0(c("4/22/2024 7:41 AM", "12/3/2024 12:05 PM", "1/9/2024 11:59 PM", "7/30/2024 1:00 AM"), ",", 1:4 / 4, "\n", collapse = "")),
                     c("datetime", "number"), "mean of kg", mean(1:4 / 4))
})

test_that("periods are dates that can be asked by month, quarter and year", {
  month <- paste(month.abb, 21, sep = "-")
  sales <- c(12, 15, 11, 18, 22, 25, 27, 24, 19, 16, 14, 30)
  s <- open_study(local_csv(c("month,sales", paste(month, sales, sep = ","))))
  expect_equal(codebook(s)$kind[1], "date")
  a <- ask(s, "total sales by quarter")
  expect_equal(table_of(a, "time")$sum, as.vector(tapply(sales, rep(1:4, each = 3), sum)))
  expect_retraces(a)
  expect_equal(value_of(ask(s, "total sales in march 2021"), "estimate"), 11)
  q <- paste0("Q", rep(1:4, 2), " ", rep(2021:2022, each = 4))
  s <- open_study(local_csv(c("quarter,n", paste(q, 11:18, sep = ","))))
  expect_equal(value_of(ask(s, "total n in 2022"), "estimate"), sum(15:18))
  # a column that is called day holds names of days, and is asked by its name
  d <- expand.grid(day = c("Mon", "Tue", "Wed"), week = 1:6)
  d$sales <- c(5, 9, 7) + d$week
  d$date <- as.Date("2021-03-01") + 7 * d$week + match(d$day, c("Mon", "Tue", "Wed"))
  a <- ask(open_study(local_data(d)), "average sales by day")
  expect_equal(sort(table_of(a, "groups")$mean), sort(as.vector(tapply(d$sales, d$day, mean))))
})

test_that("a packed file that is none, a page of another kind and unbalanced quotes are civil", {
  expect_error(open_study(bytes_file("not packed at all", "x.csv.gz")), class = "upbeatquill_error_input")
  s <- open_study(bytes_file("id\ttext\tx\n1\tHe said \"hi\t2\n2\tno\t3\n3\tyes\t4\n", "q.tsv"))
  expect_equal(as.list(s)$tables[[1]]$rows, 3)
  expect_error(open_study(bytes_file("{\"a\": [1,2,", "bad.json")), class = "upbeatquill_error_file_unreadable")
})
