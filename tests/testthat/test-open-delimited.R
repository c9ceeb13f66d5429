test_that("delimiters, byte-order marks, quotes and blanks are read as they stand", {
  for (sep in c(",", ";", "\t", "|")) {
    f <- local_csv(c(paste("name", "value", sep = sep), paste("\"a b\"", "1.5", sep = sep), paste("c", "2", sep = sep)))
    d <- as.data.frame(open_study(f))
    expect_equal(names(d), c("name", "value"))
    expect_equal(d$value, c(1.5, 2))
  }
  f <- local_csv(c("\ufeffgroup,x", "a,1", "b,2"))
  expect_equal(names(as.data.frame(open_study(f))), c("group", "x"))
})

test_that("awkward names stay as in the file; blanks and repeats are numbered", {
  f <- local_csv(c("if,x y,,x y,\"a \"\"b\"\"; stop()\"", "1,2,3,4,5", "2,3,4,5,7"))
  expect_equal(names(as.data.frame(open_study(f))), c("if", "x y", "V3", "x y (2)", "a \"b\"; stop()"))
})

test_that("leading zeros and long keys are not numbers", {
  f <- local_csv(c("code,card", "0012,12345678901234567890", "0450,12345678901234567891", "0007,12345678901234567892"))
  d <- as.data.frame(open_study(f))
  expect_equal(d$code, c("0012", "0450", "0007"))
  expect_equal(d$card[1], "12345678901234567890")
})

test_that("files that hold no table are refused in one message", {
  for (case in list(list("file_empty", ""), list("file_no_rows", "a,b\n"), list("file_empty", "\n\n  \n"))) {
    f <- withr::local_tempfile(fileext = ".csv")
    writeBin(charToRaw(case[[2]]), f)
    expect_error(open_study(f), class = paste0("upbeatquill_error_", case[[1]]))
  }
  f <- withr::local_tempfile(fileext = ".csv")
  writeBin(as.raw(c(0x89, 0x50, 0x4e, 0x47, 0, 1, 2, 3, rep(0:255, 20))), f)
  expect_error(open_study(f), class = "upbeatquill_error_file_binary")
  f <- local_csv(c("a,b", "1,2", "3,4,5,6", "7,8"))
  expect_error(open_study(f), class = "upbeatquill_error_input")
})

test_that("titles and notes above the header are passed over, a row of totals is left out, and the script does the same", {
  f <- local_csv(c("Hive report 2024", "made by hand, please check", "", "region,hives,kg", "north,3,12.5", "south,4,15.5", "coast,5,11",
    "east,2,10", "Total,14,49"))
  study <- open_study(f)
  d <- as.data.frame(study)
  expect_equal(names(d), c("region", "hives", "kg"))
  expect_equal(nrow(d), 4)
  a <- ask(study, "mean kg")
  expect_equal(value_of(a, "estimate"), 49 / 4)
  expect_retraces(a)
})

test_that("decimal commas, thousands marks, currencies, units and percent signs are numbers", {
  f <- local_csv(c("item;price;weight;share;sales;turnover", "a;1.234,50;3,5 kg;12 %;$1,200;12K", "b;999,00;2,25 kg;7.5 %;$15,400;$3M",
    "c;10.000,25;1 kg;100 %;$900;$1.5K"))
  f2 <- local_csv(c("item,sales,turnover", "a,\"$1,200\",$12K", "b,\"$15,400\",$3M", "c,$900,$1.5K"))
  d <- as.data.frame(open_study(f))
  expect_equal(d$price, c(1234.5, 999, 10000.25))
  expect_equal(d$weight, c(3.5, 2.25, 1))
  expect_equal(d$share, c(12, 7.5, 100))
  b <- codebook(open_study(f))
  expect_equal(b$unit[match(c("weight", "share"), b$column)], c("kg", "%"))
  e <- as.data.frame(open_study(f2))
  expect_equal(e$sales, c(1200, 15400, 900))
  expect_equal(e$turnover, c(12000, 3e6, 1500))
  expect_retraces(ask(open_study(f), "mean price"))
  expect_retraces(ask(open_study(f2), "mean turnover"))
})

test_that("short lines are filled, long lines stop the reading", {
  f <- local_csv(c("a,b,c", "1,2,3", "4,5", "6,7,8"))
  d <- as.data.frame(open_study(f))
  expect_equal(d$c, c(3, NA, 8))
  expect_error(open_study(local_csv(c("a,b,c", "1,2,3", "4,5,6,7", "8,9,1"))), class = "upbeatquill_error_file_ragged")
})

test_that("titles, empty lines and notes that a spreadsheet filled up with delimiters are no rows", {
  f <- local_csv(c("Umsatzbericht 2024;;;", "Erstellt am 01.02.2024;;;", ";;;", "Filiale;Datum;Umsatz (EUR);Anteil",
      "Nord;01.03.2024;1.234,50;12,5 %",
                   "S\u00fcd;02.03.2024;987,00;8,1 %", ";;;", "West;15.03.2024;12.000,75;44,0 %", "Ost;28.03.2024;3.456,10;35,4 %",
                       "Summe;;17.678,35;100 %"))
  s <- open_study(f)
  d <- as.data.frame(s)
  expect_equal(names(d), c("Filiale", "Datum", "Umsatz (EUR)", "Anteil"))
  expect_equal(d[["Umsatz (EUR)"]], c(1234.5, 987, 12000.75, 3456.1))
  expect_equal(codebook(s)$kind, c("category", "date", "number", "number"))
  found <- said_of(s)
  expect_true(any(grepl("totals", found)) && any(grepl("1 line holds no value at all", found)))
  expect_retraces(ask(s, "mean Umsatz"))
  f <- local_csv(c("Report,,,", ",,,", "region,units,price,day", "North,10,2.5,2024-01-02", ",,,", "South,20,3.5,2024-01-03",
      "West,15,1.5,2024-02-03",
                   "North,11,2.25,2024-03-02", ",,,", "Source: ERP,,,"))
  s <- open_study(f)
  expect_equal(as.data.frame(s)$units, c(10, 20, 15, 11))
  expect_retraces(ask(s, "total units by region"))
  # a row whose values are all said to be missing is a row, and so is a line of one value
  f <- local_csv(c("a,b,c", "1,2,3", "NA,NA,NA", "4,5,6", "7,,"))
  expect_equal(nrow(as.data.frame(open_study(f))), 4)
})

test_that("fields in single quotation marks are read whole, and an apostrophe is none", {
  f <- local_csv(c("name,value,note", "'x, y',1,'it''s'", "'z',2,'b'", "'w, v',3,'c, d'", "'q',9,'e'"))
  s <- open_study(f)
  d <- as.data.frame(s)
  expect_equal(as.character(d$name), c("x, y", "z", "w, v", "q"))
  expect_equal(as.character(d$note), c("it's", "b", "c, d", "e"))
  expect_retraces(ask(s, "mean value by name"))
  g <- local_csv(c("name,value", "O'Brien,1", "D'Arcy,2", "Smith,3"), "apostrophe.csv")
  expect_equal(as.character(as.data.frame(open_study(g))$name), c("O'Brien", "D'Arcy", "Smith"))
})

test_that("columns without a name, and names that stand twice, are told", {
  s <- open_study(local_csv("id,score,score,,\n1,3,5,a,2.5\n2,4,6,b,2.6\n3,9,1,c,2.7\n"))
  said <- vapply(as.list(s)$findings, `[[`, "", "message")
  expect_match(said, "2 columns have no name in the file and are called \"V4\" and \"V5\"", all = FALSE)
  expect_match(said, "\"score\" stands over several columns: the second is called \"score \\(2\\)\"", all = FALSE)
  # a table whose columns are all called so has names of its own
  own <- open_study(local_csv("V1,V2\n1,2\n3,4\n5,6\n"))
  expect_false(any(grepl("no name", vapply(as.list(own)$findings, `[[`, "", "message"))))
})
