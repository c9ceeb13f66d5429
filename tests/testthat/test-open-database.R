test_that("SQLite files and connections open, every table a table", {
  f <- withr::local_tempfile(fileext = ".sqlite")
  con <- DBI::dbConnect(RSQLite::SQLite(), f)
  DBI::dbWriteTable(con, "hives", data.frame(id = 1:6, arm = rep(c("a", "b"), 3), kg = c(1.5, 2, 3, 4, 5, 6)))
  DBI::dbWriteTable(con, "places", data.frame(place = c("x", "y", "z"), height = c(10, 20.5, 30)))
  study <- open_study(f)
  expect_equal(vapply(as.list(study)$tables, `[[`, "", "name"), c("hives", "places"))
  expect_retraces(ask(study, "does kg differ by arm"))
  queried <- open_study(con, query = "select arm, kg from hives where kg > 1.6")
  expect_equal(nrow(as.data.frame(queried)), 5)
  DBI::dbDisconnect(con)
})

test_that("a query that changes something, fails or finds nothing is refused, and nothing is lost", {
  con <- DBI::dbConnect(RSQLite::SQLite(), ":memory:")
  withr::defer(DBI::dbDisconnect(con))
  DBI::dbWriteTable(con, "hives", data.frame(id = 1:6, kg = c(1.5, 2, 3, 4, 5, 6), note = "drop table hives"))
  for (q in c("drop table hives", "DELETE FROM hives", "with x as (select 1) delete from hives", "select 1; drop table hives")) {
    expect_error(open_study(con, query = q), "more than read", info = q)
  }
  expect_equal(DBI::dbGetQuery(con, "select count(*) as n from hives")$n, 6)
  expect_error(open_study(con, query = "select nothing_like_it from hives"), "did not answer")
  expect_error(open_study(con, query = "select * from hives where kg > 99"), "no rows")
  expect_error(open_study(con, query = c("select 1", "select 2")), "one SQL query")
  expect_equal(nrow(as.data.frame(open_study(con, query = "-- all of them\n select * from hives where note = 'drop table hives'"))), 6)
  # the table is shown by its name, which is not that of a file
  expect_match(format(look(open_study(con)))[1], "^hives ")
})

test_that("of two tables with a column of one name, a finding says which it means", {
  d <- data.frame(id = 1:8, same = "x", y = c(1.5, 2:8))
  text <- paste(format(look(open_study(list(first = d, second = d[1:6, ])))), collapse = "\n")
  expect_match(text, "first, same: the same value", fixed = TRUE)
  expect_match(text, "second, same: the same value", fixed = TRUE)
})
test_that("a Parquet file opens with its types, and the script reads it again", {
  skip_if_not_installed("nanoparquet")
  f <- withr::local_tempfile(fileext = ".parquet")
  d <- data.frame(g = rep(c("a", "b"), 6), y = c(1.5, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12.25), day = as.Date("2024-01-01") + 0:11)
  nanoparquet::write_parquet(d, f)
  study <- open_study(f)
  expect_equal(as.data.frame(study)$y, d$y)
  expect_equal(codebook(study)$kind[3], "date")
  expect_retraces(ask(study, "does y differ by g"))
})

test_that("a DuckDB file opens table by table, and the script reads it again; without the package the message says what is needed", {
  f <- withr::local_tempfile(fileext = ".duckdb")
  if (!requireNamespace("duckdb", quietly = TRUE)) {
    writeBin(c(raw(8), charToRaw("DUCK"), raw(64)), f)
    expect_error(open_study(f), "duckdb")
    # the first bytes say what it is, whatever it is called
    other <- withr::local_tempfile(fileext = ".dat")
    file.copy(f, other)
    expect_error(open_study(other), "duckdb")
    return(invisible())
  }
  con <- DBI::dbConnect(getExportedValue("duckdb", "duckdb")(dbdir = f))
  d <- data.frame(id = 1:12, arm = rep(c("a", "b"), 6), kg = c(1.5, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12.25), day = as.Date("2024-01-01") + 0:11,
                  ok = rep(c(TRUE, FALSE, NA), 4))
  DBI::dbWriteTable(con, "hives", d)
  DBI::dbExecute(con, "create view heavy as select * from hives where kg > 5")
  DBI::dbDisconnect(con, shutdown = TRUE)
  s <- open_study(f)
  expect_setequal(vapply(as.list(s)$tables, `[[`, "", "name"), c("heavy", "hives"))
  book <- codebook(s)
  expect_equal(book$kind[book$table == "hives" & book$column %in% c("day", "ok")], c("date", "yes_no"))
  a <- ask(open_study(list(hives = d)), "does kg differ by arm?")
  con <- DBI::dbConnect(getExportedValue("duckdb", "duckdb")(dbdir = f, read_only = TRUE))
  b <- ask(open_study(con, query = "select arm, kg from hives"), "does kg differ by arm?")
  DBI::dbDisconnect(con, shutdown = TRUE)
  expect_equal(value_of(a, "statistic"), value_of(b, "statistic"), tolerance = 1e-12)
})

test_that("cells that hold several values or parts are one text each, and no number", {
  plain <- internal("plain_cells")
  expect_equal(plain(list(1:2, NULL, c("a", "b"))), c("1; 2", NA, "a; b"))
  expect_equal(plain(data.frame(a = 1:2, c = c("x", "y"))), c("a: 1; c: x", "a: 2; c: y"))
  expect_equal(plain(c(1.5, NA)), c(1.5, NA))
  f <- withr::local_tempfile(fileext = ".duckdb")
  writeLines("x", f)
  opened <- internal("typed_table")(f, list(l = list(0:1, 1:2, 2:3), g = c("x", "y", "x")), "t", "duckdb", list())
  expect_equal(opened$data$l, c("0; 1", "1; 2", "2; 3"))
})
