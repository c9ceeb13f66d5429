# Runs every test against the installed package and ends with "N passed, N failed" (a test is one test_that block).
# Rscript tools/run-tests.R [FILTER]
suppressPackageStartupMessages(library(testthat))
filter <- commandArgs(TRUE)
Sys.setenv(NOT_CRAN = "true", TESTTHAT_CPUS = "2", LANGUAGE = "en")
results <- test_dir("tests/testthat", package = "upbeatquill", load_package = "installed",
                    filter = if (length(filter)) filter[1], reporter = "summary", stop_on_failure = FALSE)
table <- as.data.frame(results)
bad <- table$failed > 0 | table$error
if (any(bad)) cat("\nFailed:\n", sprintf("  %s: %s\n", table$file[bad], table$test[bad]), sep = "")
if (any(table$skipped)) cat("\nSkipped:\n", sprintf("  %s: %s\n", table$file[table$skipped], table$test[table$skipped]), sep = "")
cat(sprintf("\n%d passed, %d failed\n", sum(!bad & !table$skipped), sum(bad)))
quit(status = if (any(bad) || !nrow(table)) 1 else 0)
