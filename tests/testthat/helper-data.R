# Shared fixtures: the demo files, small studies, comparisons.

demo_file <- function(name = "hive_trial.csv") system.file("extdata", name, package = "upbeatquill", mustWork = TRUE)
demo_study <- function(...) open_study(vapply(c(...), demo_file, ""))
hive_study <- function() demo_study("hive_trial.csv")

# A CSV file that goes away with the test.
local_csv <- function(text, name = "data.csv", env = parent.frame()) {
  folder <- withr::local_tempdir(.local_envir = env)
  file <- file.path(folder, name)
  writeBin(charToRaw(enc2utf8(paste0(paste(text, collapse = "\n"), "\n"))), file)
  file
}

local_data <- function(data, name = "data.csv", env = parent.frame()) {
  folder <- withr::local_tempdir(.local_envir = env)
  file <- file.path(folder, name)
  utils::write.csv(data, file, row.names = FALSE, na = "")
  file
}

# Names ending in _of read one piece of an answer.
value_of <- function(a, id) {
  n <- numbers(a)
  n$value[match(id, n$id)]
}
table_of <- function(a, id) {
  for (t in as.list(a)$tables) if (t$id == id) {
    rows <- lapply(t$rows, function(r) lapply(r, function(v) if (is.null(v)) NA else v))
    out <- as.data.frame(do.call(rbind, lapply(rows, unlist)), stringsAsFactors = FALSE)
    names(out) <- unlist(t$columns)
    return(utils::type.convert(out, as.is = TRUE))
  }
  NULL
}
method_of <- function(a) as.list(a)$method$id
status_of <- function(a) as.list(a)$status
filters_of <- function(a) vapply(reading(a)$filters, function(f) paste(f$column, f$op, paste(unlist(f$value), collapse = "|")), "")

# The internals that the core tests call.
internal <- function(name) get(name, envir = asNamespace("upbeatquill"))

with_seed <- function(seed, code) withr::with_seed(seed, code, .rng_kind = "Mersenne-Twister", .rng_normal_kind = "Inversion",
                                                   .rng_sample_kind = "Rejection")

expect_retraces <- function(a, tolerance = 1e-8) {
  trace <- as.list(retrace(a, tolerance))
  expect_null(trace$error)
  expect_true(trace$ok, info = paste(format(retrace(a)), collapse = "\n"))
  expect_gt(trace$total, 0)
  expect_equal(nrow(trace$not_compared), 0L, info = paste(trace$not_compared$id, collapse = ", "))
}
