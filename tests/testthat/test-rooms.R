# The layering, read from the code itself: a room calls only rooms below it, and the core reaches for no interface package.

rooms_low_to_high <- c("util", "stat", "check", "open", "profile", "study", "words", "reading", "say", "script", "figure", "method",
                       "plan", "answer", "report", "desk", "cli")
core_rooms <- c("stat", "check")

source_files <- function() {
  # beside the tests in the repository; a check of the built package has no sources to read and uses the namespace's
  folder <- test_path("..", "..", "R")
  if (!dir.exists(folder)) return(character())
  setdiff(list.files(folder, "[.]R$", full.names = TRUE), file.path(folder, "RcppExports.R"))
}

room_of <- function(file) sub("[-.].*$", "", basename(file))

definitions <- function(files) {
  out <- list()
  for (f in files) for (e in parse(f, keep.source = FALSE)) {
    if (is.call(e) && identical(e[[1]], as.name("<-")) && is.name(e[[2]])) out[[as.character(e[[2]])]] <- list(file = f, body = e[[3]])
  }
  out
}

# Places of a call's arguments that are not left empty, as in x[, 1].
filled <- function(e) {
  # only these take empty arguments; asking each one takes its time
  if (!is.name(e[[1]]) || !as.character(e[[1]]) %in% c("[", "[[", "switch", "quote", "alist", "function")) return(seq_along(e)[-1])
  setdiff(which(!vapply(as.list(e), identical, NA, quote(expr = ))), 1L)
}

# Names that are called, or handed on as functions; not fields after $, not arguments' names, not local variables.
called_names <- function(body) {
  found <- character()
  walk <- function(e, local) {
    if (is.name(e)) { if (!as.character(e) %in% local) found <<- c(found, as.character(e)); return(invisible()) }
    if (!is.call(e)) return(invisible())
    head <- e[[1]]
    if (is.name(head) && as.character(head) == "function") {
      inner <- c(local, names(e[[2]]), assigned_in(e[[3]]))
      for (i in which(nzchar(as.character(e[[2]])))) walk(e[[2]][[i]], inner)
      return(walk(e[[3]], inner))
    }
    if (is.name(head) && as.character(head) %in% c("$", "@", "::", ":::")) return(walk(e[[2]], local))
    if (is.name(head)) found <<- c(found, as.character(head)) else walk(head, local)
    for (i in filled(e)) walk(e[[i]], local)
  }
  walk(body, character())
  unique(found)
}

assigned_in <- function(e) {
  if (!is.call(e)) return(character())
  own <- if (is.name(e[[1]]) && as.character(e[[1]]) %in% c("<-", "for") && is.name(e[[2]])) as.character(e[[2]]) else character()
  c(own, unlist(lapply(filled(e), function(i) assigned_in(e[[i]]))))
}

packages_named <- function(e) {
  if (!is.call(e)) return(character())
  own <- if (is.name(e[[1]]) && as.character(e[[1]]) %in% c("::", ":::")) as.character(e[[2]]) else character()
  c(own, unlist(lapply(c(1L, filled(e)), function(i) packages_named(e[[i]]))))
}

# Walked through once for all the tests below.
defs <- definitions(source_files())
calls <- lapply(defs, function(d) called_names(d$body))

test_that("every file stands in a room and every call goes downward", {
  files <- source_files()
  expect_true(all(room_of(files) %in% rooms_low_to_high))
  upward <- character()
  for (name in names(defs)) for (used in intersect(calls[[name]], names(defs))) {
    from <- match(room_of(defs[[name]]$file), rooms_low_to_high)
    to <- match(room_of(defs[[used]]$file), rooms_low_to_high)
    if (to > from) upward <- c(upward, sprintf("%s (%s) calls %s (%s)", name, basename(defs[[name]]$file), used, basename(defs[[used]]$file)))
  }
  expect_equal(upward, character())
})

test_that("the core names no package of the interface", {
  core <- Filter(function(d) room_of(d$file) %in% core_rooms, defs)
  packages <- unique(unlist(lapply(core, function(d) packages_named(d$body))))
  expect_true(all(packages %in% c("stats", "utils")), info = paste(packages, collapse = ", "))
})

# The functions of the package that call one of these.
callers_of <- function(forbidden) names(Filter(function(called) any(forbidden %in% called), calls))

test_that("base R's tests and models are named in no computation, only in the scripts handed out", {
  expect_equal(callers_of(c("t.test", "wilcox.test", "chisq.test", "fisher.test", "cor.test", "lm", "glm", "aov", "prop.test")), character())
})

test_that("nothing that comes from outside is evaluated as code", {
  expect_equal(callers_of(c("eval", "evalq", "source", "sys.source", "str2lang", "parse")), character())
})

test_that("no two functions of the package share a name", {
  defined <- as.character(unlist(lapply(source_files(), function(f) {
    lines <- readLines(f, encoding = "UTF-8", warn = FALSE)
    sub(" <- function.*$", "", grep("^[A-Za-z_.][A-Za-z0-9_.]* <- function", lines, value = TRUE))
  })))
  expect_equal(defined[duplicated(defined)], character())
})

test_that("no name is defined in two files, where the later would replace the earlier unseen", {
  files <- source_files()
  skip_if_not(length(files) > 0, "no sources to read")
  names <- unlist(lapply(files, function(f) vapply(Filter(function(e) is.call(e) && identical(e[[1]], as.name("<-")) && is.name(e[[2]]),
    as.list(parse(f, keep.source = FALSE))), function(e) as.character(e[[2]]), "")))
  expect_equal(unique(names[duplicated(names)]), character())
})

test_that("no reading function drops what another gives", {
  files <- source_files()
  skip_if(!length(files))
  known <- names(definitions(files))
  dropped <- character()
  look <- function(e, name) {
    if (!is.call(e)) return(invisible())
    if (identical(e[[1]], as.name("{"))) for (s in utils::head(as.list(e)[-1], -1)) {
      called <- if (is.call(s) && is.name(s[[1]])) as.character(s[[1]]) else ""
      if (called %in% known && !grepl("^(stop|refuse|abort|check)_", called)) dropped <<- c(dropped, sprintf("%s drops %s()", name, called))
    }
    for (i in filled(e)) look(e[[i]], name)
  }
  reading <- definitions(Filter(function(f) room_of(f) == "reading", files))
  for (name in names(reading)) look(reading[[name]]$body, name)
  # (an amendment is tried only to see whether it can be carried out)
  expect_equal(setdiff(dropped, "changes_data drops amend_in_words()"), character())
})
