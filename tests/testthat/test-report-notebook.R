run_cells <- function(lines) {
  file <- withr::local_tempfile(fileext = ".R")
  writeLines(c(lines, "saveRDS(lapply(numbers, as.numeric), commandArgs(TRUE)[1])"), file, useBytes = TRUE)
  out <- withr::local_tempfile(fileext = ".rds")
  callr::rscript(file, cmdargs = out, show = FALSE, wd = tempdir(), env = c(R_LIBS = "", LC_ALL = "C.UTF-8"))
  readRDS(out)
}

test_that("a notebook is valid, and its cells compute the numbers of the answer", {
  file <- withr::local_tempfile(fileext = ".ipynb")
  a <- ask(hive_study(), "Does the honey yield differ between syrup and control?")
  report(list(a, ask(hive_study(), "mean wing length")), file)
  book <- jsonlite::read_json(file)
  expect_equal(book$nbformat, 4)
  expect_equal(book$metadata$kernelspec$name, "ir")
  kinds <- vapply(book$cells, `[[`, "", "cell_type")
  expect_equal(sum(kinds == "code"), 1)
  ids <- vapply(book$cells, `[[`, "", "id")
  expect_false(anyDuplicated(ids) > 0)
  code <- paste(unlist(book$cells[[which(kinds == "code")]]$source), collapse = "")
  found <- run_cells(strsplit(code, "\n", fixed = TRUE)[[1]])
  n <- numbers(a)
  for (i in seq_len(nrow(n))) expect_equal(found[[n$id[i]]], n$value[i], tolerance = 1e-9, info = n$id[i])
})

test_that("sources for Quarto and R Markdown carry the same cells, with the title quoted", {
  a <- ask(hive_study(), "honey yield by arm")
  for (type in c("qmd", "Rmd")) {
    file <- withr::local_tempfile(fileext = paste0(".", type))
    report(a, file, title = "Yield: \"by arm\"")
    lines <- readLines(file, encoding = "UTF-8")
    head <- yaml::yaml.load(paste(lines[2:(which(lines == "---")[2] - 1)], collapse = "\n"))
    expect_equal(head$title, "Yield: \"by arm\"")
    code <- lines[(grep("^```[{]r", lines)[1] + 1):(which(lines == "```")[1] - 1)]
    expect_equal(run_cells(code)$n, numbers(a)$value[numbers(a)$id == "n"])
  }
})

test_that("text of the data cannot become markup", {
  expect_equal(upbeatquill:::markdown_text("a*b_[x](y)|<script>"), "a\\*b\\_\\[x\\](y)\\|\\<script\\>")
})
