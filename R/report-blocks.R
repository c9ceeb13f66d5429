# What a report says, in order and without a format: blocks that each kind of file lays out in its own way.

#' One block of a report
#'
#' @param type "heading", "text", "bullets", "marks", "table", "figure", "code".
#' @param ... What the type needs: `level`, `text`, `id` of a heading; `text`, `role` ("plain", "soft", "headline", "refused",
#'   "paper") of a text; `items`; `items` and `marks`; `title`, `columns`, `rows`, `numeric`, `more` of a table; `answer`, `alt` of a
#'   figure; `title`, `lines` of code.
#' @noRd
new_block <- function(type, ...) list(type = type, ...)

block_heading <- function(text, level = 2, id = NULL) new_block("heading", text = text, level = level, id = id)
block_text <- function(text, role = "plain") if (length(text) && nzchar(text)) new_block("text", text = text, role = role)
block_bullets <- function(items) if (length(items)) new_block("bullets", items = unlist(items))
block_table <- function(title, columns, rows, numeric, more = 0) {
  if (length(rows)) new_block("table", title = title, columns = unlist(columns), rows = rows, numeric = numeric, more = more)
}

#' The parts of a whole report
#'
#' @param answers Answers.
#' @param title Its title.
#' @section Shape: list of list(id, title, role, blocks); role is "data", "quality", "answer", "holds", "limits", "next",
#'   "references" or "scripts".
#' @noRd
report_sections <- function(answers, title) {
  documents <- lapply(answers, as.list)
  section <- function(id, title, role, blocks) list(id = id, title = title, role = role, blocks = compact(blocks))
  asked <- Map(function(a, d, i) section(sprintf("question-%d", i), d$question, "answer", answer_blocks(a, d)),
               answers, documents, seq_along(answers))
  sections <- c(list(section("data", "The data", "data", data_blocks(answers)),
                     section("quality", "Its quality", "quality", quality_blocks(answers))), asked,
                list(section("holds", "What holds", "holds", holds_blocks(answers, documents)),
                     section("limits", "Limits", "limits", limits_blocks(answers, documents)),
                     section("next", "Next steps", "next", next_blocks(documents)),
                     section("references", "Methods and their sources", "references", references_blocks(answers)),
                     section("scripts", "Appendix: the scripts", "scripts", script_blocks(documents))))
  Filter(function(s) length(s$blocks) > 0, sections)
}

#' Studies behind the answers, each once
#' @noRd
report_studies <- function(answers) {
  studies <- lapply(answers, `[[`, "study")
  key <- vapply(studies, function(s) paste(c(vapply(s$sources, `[[`, "", "sha256"), length(s$amendments)), collapse = " "), "")
  studies[!duplicated(key)]
}

data_blocks <- function(answers) {
  studies <- report_studies(answers)
  sources <- unlist(lapply(studies, `[[`, "sources"), recursive = FALSE)
  sources <- sources[!duplicated(vapply(sources, `[[`, "", "sha256"))]
  rows <- lapply(sources, function(s) list(s$file, say_number(s$rows), say_number(s$bytes), substr(s$sha256, 1, 16)))
  tables <- unlist(lapply(studies, data_tables), recursive = FALSE)
  tables <- tables[!duplicated(vapply(tables, function(t) paste(t$name, t$source$sha256), ""))]
  held <- vapply(unname(tables), function(t) sprintf("%s: %s, %s (%s).", t$name, count_of(nrow(t$data), "row"), count_of(ncol(t$data), "column"),
                                                     kinds_in_words(t)), "")
  amended <- unique(unlist(lapply(studies, function(s) lapply(data_tables(s), left_out_words))))
  declared <- unique(unlist(lapply(studies, design_words)))
  c(list(block_table("Files", c("file", "rows", "bytes", "SHA-256 (first 16)"), rows, c(FALSE, TRUE, TRUE, FALSE)), block_bullets(held)),
    if (length(declared)) list(block_heading("Declared design", 3), block_bullets(declared)),
    if (length(amended)) list(block_heading("Amended", 3), block_bullets(amended)))
}

kinds_in_words <- function(table) {
  kinds <- table(factor(gsub("_", "/", vapply(table$columns, `[[`, "", "kind"))))
  kinds <- sort(kinds, decreasing = TRUE)
  paste(sprintf("%d %s", kinds, names(kinds)), collapse = ", ")
}

design_words <- function(study) {
  d <- study$design
  if (!length(d)) return(NULL)
  sprintf("%s: %s", gsub("_", " ", names(d)), vapply(d, function(v) if (is.logical(v)) if (v) "yes" else "no" else paste(v, collapse = ", "), ""))
}

quality_blocks <- function(answers, most = 12) {
  findings <- unlist(lapply(report_studies(answers), study_findings), recursive = FALSE)
  findings <- findings[!duplicated(vapply(findings, `[[`, "", "message"))]
  if (!length(findings)) return(list(block_text("Nothing was found that needs a look.")))
  shown <- utils::head(findings, most)
  words <- c(act = "broken", look = "caution", note = "not_assessed")
  list(new_block("marks", items = vapply(shown, `[[`, "", "message"), words = vapply(shown, `[[`, "", "severity"),
                 marks = unname(ifelse(is.na(words[vapply(shown, `[[`, "", "severity")]), "not_assessed", words[vapply(shown, `[[`, "",
                   "severity")]))),
       if (length(findings) > most) block_text(sprintf("and %s.", count_of(length(findings) - most, "more finding")), "soft"))
}

#' One answer, from how it was read to what to ask next
#' @noRd
answer_blocks <- function(answer, document) {
  answered <- document$status == "answered"
  choices <- if (document$status == "needs_choice") vapply(document$reading$alternatives, function(r) r$plain, "")
  titled <- function(title, block) if (length(block)) list(block_heading(title, 3), block)
  compact(c(
    list(if (answered && nzchar(document$reading$plain)) block_text(paste("Read as:", document$reading$plain), "soft")),
    titled("Assumed", block_bullets(document$reading$assumed)),
    list(block_text(document$sentences$headline, if (answered) "headline" else "refused")),
    lapply(document$sentences$details, block_text), list(block_bullets(choices)), numbers_blocks(document),
    list(if (length(document$figures)) new_block("figure", answer = answer, alt = document$figures[[1]]$alt)),
    if (answered) lapply(document$tables, table_block), check_blocks(document), opinion_blocks(document),
    titled("Cautions", block_bullets(document$cautions)),
    if (answered && nzchar(document$sentences$write_up)) titled("For the paper", block_text(document$sentences$write_up, "paper")),
    titled(if (answered) "Ask next" else "Could be asked instead", block_bullets(document[["next"]])),
    list(if (!is.null(document$script)) new_block("code", title = "The script that computes every number again", lines = document$script))))
}

numbers_blocks <- function(document) {
  numbers <- document$numbers
  if (!length(numbers) || document$status != "answered") return(NULL)
  of <- any(vapply(numbers, function(n) !is.null(n$of), NA))
  rows <- lapply(numbers, function(n) c(list(n$label, say_document_value(n$value, n$id)), if (of) list(n$of %||% "")))
  list(block_heading(document$method$name, 3), block_text(document$method$why, "soft"),
       block_table(NULL, c("number", "value", if (of) "of"), rows, c(FALSE, TRUE, if (of) FALSE)))
}

table_block <- function(table, most = 60) {
  columns <- unlist(table$columns)
  rows <- table$rows[seq_len(min(most, length(table$rows)))]
  values <- lapply(stats::setNames(seq_along(columns), columns), function(j) {
    own <- lapply(rows, `[[`, j)
    if (!all(vapply(own, function(x) is.null(x) || is.numeric(x), NA))) return(vapply(own, say_document_value, "", columns[j]))
    vapply(own, function(x) if (is.null(x)) NA_real_ else as.numeric(x), 1)
  })
  numeric <- vapply(values, is.numeric, NA, USE.NAMES = FALSE)
  cells <- lapply(columns, function(name) {
    v <- values[[name]]
    if (is.numeric(v)) ifelse(is.na(v), say_number(NA_real_), table_cells(values, name)) else v
  })
  shown <- lapply(seq_along(rows), function(i) lapply(cells, `[[`, i))
  block_table(table$title, columns, shown, numeric, length(table$rows) - length(rows))
}

#' A value of the document as text: infinities are texts already, a missing value is a dash
#' @noRd
say_document_value <- function(value, id) {
  if (is.null(value)) return(say_number(NA_real_))
  if (is.character(value) || is.logical(value)) return(as.character(value))
  if (grepl("^p_value$|^p_adjusted$|_p$|_p_value$", id)) return(sub("^p (= )?", "", say_p(value)))
  say_number(value)
}

check_words <- function() c(ok = "ok", caution = "caution", broken = "broken", not_assessed = "not assessed")

check_blocks <- function(document) {
  checks <- document$checks
  if (!length(checks) || document$status != "answered") return(NULL)
  verdict <- vapply(checks, `[[`, "", "verdict")
  list(block_heading("Checks", 3), new_block("marks", items = vapply(checks, `[[`, "", "meaning"), marks = verdict,
    words = unname(check_words()[verdict])))
}

opinion_blocks <- function(document) {
  opinions <- document$second_opinions
  if (!length(opinions) || document$status != "answered") return(NULL)
  word <- vapply(opinions, function(o) if (is.null(o$agrees)) "no verdict" else if (o$agrees) "agrees" else "differs", "")
  list(block_heading("Second opinions", 3),
       new_block("marks", items = vapply(opinions, function(o) paste(o$method$name, say_opinion_numbers(o$numbers)), ""),
                 marks = unname(c("no verdict" = "not_assessed", agrees = "ok", differs = "caution")[word]), words = word))
}

say_opinion_numbers <- function(numbers) {
  value <- function(id) { at <- match(id, vapply(numbers, `[[`, "", "id"))
    if (is.na(at)) NULL else numbers[[at]]$value }
  estimate <- value("estimate"); p <- value("p_value")
  paste(c(if (is.numeric(estimate)) paste("estimate", say_number(estimate)), if (is.numeric(p)) say_p(p)), collapse = ", ")
}

# ---- what follows from all answers together -----------------------------------------------------------------------

#' Can the conclusion be relied on? "stands", "careful" or "broken"
#' @noRd
standing <- function(document) {
  verdicts <- vapply(document$checks, `[[`, "", "verdict")
  differs <- any(vapply(document$second_opinions, function(o) identical(o$agrees, FALSE), NA))
  if ("broken" %in% verdicts) "broken" else if (differs || length(document$cautions) || "caution" %in% verdicts) "careful" else "stands"
}

holds_blocks <- function(answers, documents) {
  done <- Filter(function(d) d$status == "answered", documents)
  if (!length(done)) return(list(block_text("No question was answered.")))
  state <- vapply(done, standing, "")
  words <- c(stands = "holds", careful = "with care", broken = "do not rely")
  marks <- c(stands = "ok", careful = "caution", broken = "broken")
  list(new_block("marks", items = vapply(done, function(d) d$sentences$headline, ""), marks = unname(marks[state]), words = unname(words[state])),
       block_text(paste0("\"holds\": no check speaks against it and every second opinion agrees; \"with care\": a check, a second opinion or a ",
           "caution qualifies it."), "soft"),
       many_tests_block(done))
}

#' How many tests were made, and which stay clear when that is allowed for (Benjamini and Hochberg)
#' @noRd
many_tests_block <- function(documents) {
  p <- lapply(documents, function(d) { at <- match("p_value", vapply(d$numbers, `[[`, "", "id"))
    if (is.na(at)) NULL else d$numbers[[at]]$value })
  tested <- vapply(p, is.numeric, NA)
  if (sum(tested) < 2) return(NULL)
  raw <- unlist(p[tested]); adjusted <- stats::p.adjust(raw, "BH")
  kept <- sum(adjusted < 0.05); before <- sum(raw < 0.05)
  block_text(sprintf("%s were made here: %d of them below .05 by themselves, %d once false discoveries are allowed for (Benjamini and Hochberg).",
                     count_of(sum(tested), "test"), before, kept))
}

limits_blocks <- function(answers, documents) {
  numbered <- function(i, text) if (length(text)) sprintf("Question %d: %s", i, text)
  cautions <- unlist(lapply(seq_along(documents), function(i) numbered(i, unlist(documents[[i]]$cautions))))
  open <- unlist(lapply(seq_along(documents), function(i) {
    d <- documents[[i]]
    if (d$status != "answered") sprintf("Question %d was not answered: %s", i, d$sentences$headline)
  }))
  lost <- unlist(lapply(seq_along(documents), function(i) {
    r <- documents[[i]]$rows
    if (!is.null(r) && isTRUE(r$left_out_missing > 0)) sprintf("Question %d: %s left out of %s, since a value is missing.", i,
                                                               count_of(r$left_out_missing, "row"), say_number(r$after_filters))
  }))
  list(block_bullets(c(open, cautions, lost)))
}

next_blocks <- function(documents) list(block_bullets(utils::head(unique(unlist(lapply(documents, `[[`, "next"))), 8)))

references_blocks <- function(answers) {
  used <- Filter(function(a) a$status == "answered", answers)
  names <- unique(vapply(used, function(a) sprintf("%s: %s", a$method$name, first_sentence(a$why)), ""))
  list(block_bullets(names), block_bullets(sort_text(unique(unlist(lapply(used, function(a) a$method$references))))))
}

script_blocks <- function(documents) {
  lapply(seq_along(documents), function(i) {
    d <- documents[[i]]
    if (!is.null(d$script)) new_block("code", title = sprintf("Question %d: %s", i, d$question), lines = d$script)
  })
}

#' The figure of an answer as a PNG of its own, removed by the caller
#' @noRd
figure_png <- function(answer, width, height, dpi = 150) {
  if (!requireNamespace("ggplot2", quietly = TRUE)) return(NULL)
  file <- tempfile("quill-figure-", fileext = ".png")
  figure(answer, file, width = width, height = height, dpi = dpi)
  file
}
