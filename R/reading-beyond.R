# Methods that are known by name and not carried out: said plainly, with the nearest question that can be answered.

#' The methods beyond this version, from the lexicon
#' @section Shape: list of list(name, words (regular expressions), instead, why, form, ask).
#' @noRd
methods_beyond <- local({
  kept <- NULL
  function() {
    if (is.null(kept)) kept <<- yaml::yaml.load_file(system.file("lexicon", "en", "beyond.yml", package = "upbeatquill"))
    kept
  }
})

#' One pattern for a quick look: most questions name no such method
#' @noRd
beyond_pattern <- local({
  kept <- NULL
  function() {
    if (is.null(kept)) kept <<- sprintf("(?i)\\b(?:%s)\\b", paste(unlist(lapply(methods_beyond(), `[[`, "words")), collapse = "|"))
    kept
  }
})

#' "lasso of yield on strength": a verdict that says so, or NULL where no such method is asked for
#'
#' A column or a value of that name is what it names.
#' @noRd
beyond_verdict <- function(study, text) {
  hit <- stringi::stri_extract_first_regex(text, quick_form(beyond_pattern()))
  if (is.na(hit)) return(NULL)
  vocabulary <- study_vocabulary(study)
  own <- stems_of(tolower(hit))[[1]]
  if (any(own %in% vocabulary$terms$stem) || joined_stems(tolower(hit)) %in% c(vocabulary$values$phrase, vocabulary$phrases$phrase)) return(NULL)
  method <- Find(function(m) grepl(sprintf("(?i)\\b(?:%s)\\b", paste(m$words, collapse = "|")), text, perl = TRUE), methods_beyond())
  if (is.null(method)) return(NULL)
  near <- utils::head(Filter(function(q) can_be_read(study, q), nearest_questions(method, text)), if (is.null(method$form)) 1 else 2)
  reading <- new_reading("clarify")
  reading$extra$near <- near
  # (what takes long to carry out is not tried before it is offered)
  reading$extra$near_tried <- !isTRUE(method$instead %in% c("compare models", "random forest"))
  new_verdict("cannot_answer", finish_reading(reading), sprintf("%s cannot be carried out here. %s", capital(method$name), method$why))
}

nearest_questions <- function(method, text) {
  turned <- if (!is.null(method$form)) first_match(text, paste0("(?i)", method$form))
  if (!is.null(turned)) return(vapply(method$ask, function(a) {
    for (k in seq_along(turned[-1])) a <- gsub(sprintf("\\%d", k), turned[k + 1], a, fixed = TRUE)
    a
  }, "", USE.NAMES = FALSE))
  if (is.null(method$instead)) return(character())
  words <- sprintf("(?i)\\b(?:%s)\\b", paste(method$words, collapse = "|"))
  said <- stringi::stri_extract_first_regex(text, quick_form(words))
  plain <- trimws(gsub(" +", " ", sub(said, paste0(method$instead, " "), text, fixed = TRUE)))
  # "compare of A and B" is "compare A and B"
  plain <- sub("(?i)^(compare|forecast|baseline characteristics by)( of| for)? ", "\\1 ", plain, perl = TRUE)
  unique(c(plain, sub("(?i) (?:for|of) ", " of ", plain, perl = TRUE)))
}

#' Does a question stand for something that is answered?
#' @noRd
can_be_read <- function(study, text) {
  verdict <- tryCatch(read_question(study, text), upbeatquill_error = function(e) NULL)
  identical(verdict$status, "answered")
}
