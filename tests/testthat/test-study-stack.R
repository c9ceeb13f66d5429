pieces_in <- function(names, env = parent.frame()) {
  folder <- withr::local_tempdir(.local_envir = env)
  set.seed(11)
  data <- lapply(names, function(n) {
    d <- data.frame(store = sprintf("S%d", 1:8), sales = stats::rpois(8, 60))
    utils::write.csv(d, file.path(folder, n), row.names = FALSE)
    d
  })
  list(folder = folder, data = data, files = file.path(folder, names))
}

test_that("files with the same columns are one table that says where each row is from", {
  p <- pieces_in(c("sales_2022.csv", "sales_2023.csv"))
  s <- open_study(p$files)
  expect_equal(as.list(s)$tables[[1]]$rows, 16)
  expect_equal(as.list(s)$tables[[1]]$name, "sales")
  expect_length(as.list(s)$sources, 2)
  a <- ask(s, "average sales in 2023")
  expect_equal(value_of(a, "estimate"), mean(p$data[[2]]$sales))
  expect_retraces(a)
  a <- ask(s, "do sales differ between 2022 and 2023?")
  expect_equal(value_of(a, "p_value"), stats::t.test(p$data[[1]]$sales, p$data[[2]]$sales)$p.value, tolerance = 1e-9)
  expect_retraces(a)
})

test_that("sheets named after months are one table with a column month in the order of the year", {
  f <- withr::local_tempfile(fileext = ".xlsx")
  wb <- openxlsx::createWorkbook()
  sold <- list(Jan = 11:16, Feb = 31:36, Mar = 21:26)
  for (m in names(sold)) { openxlsx::addWorksheet(wb, m); openxlsx::writeData(wb, m, data.frame(store = sprintf("S%d", 1:6), sales = sold[[m]])) }
  openxlsx::saveWorkbook(wb, f)
  s <- open_study(f)
  b <- codebook(s)
  expect_equal(b$kind[b$column == "month"], "ordered")
  expect_equal(b$levels[b$column == "month"], "Jan|Feb|Mar")
  a <- ask(s, "total sales in feb")
  expect_equal(value_of(a, "estimate"), sum(sold$Feb))
  expect_retraces(a)
})

test_that("tables of other columns, and tables that describe columns, stay apart", {
  p <- pieces_in(c("a.csv", "b.csv"))
  utils::write.csv(data.frame(store = sprintf("S%d", 1:8), region = c("north", "south")), p$files[2], row.names = FALSE)
  expect_length(as.list(open_study(p$files))$tables, 2)
  expect_equal(internal("piece_names")(c("trial_site_1", "trial_site_2")), list(values = c("1", "2"), common = "trial_site"))
  expect_equal(internal("piece_names")(c("north", "south"))$values, c("north", "south"))
})

test_that("a bundle holds every piece", {
  p <- pieces_in(c("sales_2022.csv", "sales_2023.csv"))
  a <- ask(open_study(p$files), "average sales by year")
  zip <- withr::local_tempfile(fileext = ".zip")
  bundle(a, zip)
  expect_true(all(c("sales_2022.csv", "sales_2023.csv") %in% utils::unzip(zip, list = TRUE)$Name))
})

test_that("a copy of a file is not counted twice", {
  p <- pieces_in("sales.csv")
  copy <- file.path(p$folder, "sales (1).csv")
  file.copy(p$files, copy)
  s <- open_study(c(p$files, copy))
  expect_equal(as.list(s)$tables[[1]]$rows, 8)
  expect_match(vapply(as.list(s)$findings, `[[`, "", "message"), "holds the same rows again", all = FALSE)
  a <- ask(s, "total sales")
  expect_equal(value_of(a, "estimate"), sum(p$data[[1]]$sales))
  expect_retraces(a)
})
