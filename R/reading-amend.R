# Amendments in plain words: each sentence form is recognised as a whole, and what it names is looked up in the study.

#' Carry out one plain sentence as an amendment or a declaration
#'
#' @section Errors: `upbeatquill_error_bad_amendment` when the sentence is not understood or names nothing that is there.
#' @noRd
amend_in_words <- function(study, text) {
  text <- sub("[.!]+$", "", clean_question(text))
  text <- sub("^(please|now|also|and) +", "", text, ignore.case = TRUE)
  # "add a column gain as ...", "create a new variable called gain = ..."
  text <- sub("^(add|derive|define|compute|create|make) (?:a|another|the) (?:new )?(?:column|variable) (?:called |named )?", "\\1 ", text,
              ignore.case = TRUE, perl = TRUE)
  study$vocabulary <- NULL
  tables <- names(data_tables(study))
  named <- tables[vapply(tables, function(t) grepl(table_phrase(t), text, ignore.case = TRUE, perl = TRUE), NA)]
  if (length(named) == 1) return(amend_within(study, named, sub(table_phrase(named), "", text, ignore.case = TRUE, perl = TRUE)))
  done <- amend_by_form(study, text)
  if (length(tables) > 1) amend_everywhere(study, done, text, tables) else done
}

#' "in the table hives", at the end of a sentence
#' @noRd
table_phrase <- function(name) sprintf(",? (?:in|of|from|for) (?:the )?table ['\"]?\\Q%s\\E['\"]?$", name)

#' An amendment of one table: the others are out of sight meanwhile
#' @noRd
amend_within <- function(study, table, text) {
  used <- lapply(study$tables, `[[`, "used")
  for (other in setdiff(names(study$tables), table)) study$tables[[other]]$used <- FALSE
  done <- amend_by_form(study, text)
  for (name in intersect(names(used), names(done$tables))) done$tables[[name]]$used <- used[[name]]
  done
}

#' Of several tables that hold a column of the name, all are amended; rows by their numbers belong to one table only
#' @noRd
amend_everywhere <- function(study, done, text, tables) {
  new <- utils::tail(done$amendments, max(0, length(done$amendments) - length(study$amendments)))
  if (any(vapply(new, function(a) !is.null(a$rows$numbers), NA))) {
    stop_input("There are several tables, and each has rows of these numbers.",
               todo = sprintf("Say which is meant, such as \"%s in the table %s\".", text, tables[1]), class = "bad_amendment")
  }
  for (record in new) {
    if (is.null(record$column) || is.null(record$table)) next
    for (other in setdiff(tables, record$table)) {
      if (is.null(study$tables[[other]]$columns[[record$column]])) next
      done <- tryCatch(amend_within(done, other, text), upbeatquill_error = function(e) done)
    }
  }
  done
}

amend_by_form <- function(study, text) {
  for (form in amendment_forms()) {
    parts <- regmatches(text, regexec(form$pattern, text, ignore.case = TRUE, perl = TRUE))[[1]]
    if (!length(parts)) next
    done <- form$apply(study, parts[-1])
    if (!is.null(done)) return(done)
  }
  stop_input(sprintf("%s is not understood as an amendment.", quoted(substr(text, 1, 80))),
             todo = paste("Say it like \"treat -99 as missing in all items\", \"leave out hive H017\", \"satisfaction is ordered\",",
                          "\"merge Nroth into north\", \"add gain as after minus before\" or \"arm is the treatment\"."),
             class = "bad_amendment")
}

#' Sentence forms, the more telling first
#' @section Shape: list of list(pattern, apply(study, parts) -> study, or NULL when the form does not fit after all).
#' @noRd
amendment_forms <- function() {
  verb <- "^(?:treat|read|take|count|regard|consider|set|mark|code|define) "
  name <- "(?: (?:as|called|named|in) ['\"]?([\\p{L}][\\p{L}\\p{N}_.]*)['\"]?)?$"
  add <- "^(?:add|derive|compute|create|make|calculate|define|take)?(?: the| a| an)? ?"
  rules_of_one <- "(log|logarithm|log10|log2|square root|year|month|weekday|middle|low|high|lower end|upper end)"
  form <- function(pattern, apply) list(pattern = pattern, apply = apply)
  list(
    form("^(undo|take (?:that|it|the last(?: change)?) back)$", function(study, p) take_back(study)),
    form(paste0(verb, "(.+?) as (?:a )?missing(?: values?| codes?)?(?: (?:in |for |of )?(.+))?$"), words_missing),
    form(paste0(verb, "['\"]?([<>\u2264\u2265] ?[0-9.]+)['\"]? as ([0-9.]+) (?:in|of|for) (.+)$"), words_limit),
    form(paste0("^(?:each|every|a) row (?:stands for|counts for|counts as|is|represents) (?:as many )?(?:cases as )?",
      "(.+?)(?: (?:cases|people|persons|rows|times|says))?$"),
         function(study, p) amend_cells(study, one_column(study, p[1]))),
    form("^(?:leave out|exclude|drop|remove|ignore|omit|without|discard|delete|skip) (.+)$", function(study, p) words_rows(study, p, FALSE)),
    form("^(?:keep only|use only|only keep|only use|restrict to|limit to|keep|only) (.+)$", function(study, p) words_rows(study, p, TRUE)),
    form("^(?:in|for) (.+?),? (\\S+) (?:is|are|means?|stands? for) (?:a )?missing(?: values?| codes?)?$",
         function(study, p) words_missing(study, rev(p))),
    form("^(.+?) (?:is|are|means?|stands? for) (?:a )?missing(?: values?| codes?)?(?: (?:in|for|of) (.+))?$", words_missing),
    form("^(.*?[0-9] ?(?:=|:|is|are|means?|stands? for|as) ?.*[0-9] ?(?:=|:|is|are|means?|stands? for|as) ?.+)$", words_codes),
    form("^by ['\"]?(.+?)['\"]? (?:i|we) mean (.+)$", function(study, p) words_alias(study, p[1], p[2])),
    form("^['\"]?([^'\"]+?)['\"]? means (?:the )?(?:column )?(.+)$", words_means),
    form("^(?:rename|relabel|label|call) (?:the )?(?:column |variable )?['\"]?(.+?)['\"]? (?:to |as |= ?|the )['\"]?([^'\":]+?)['\"]?$", words_rename),  # nolint: line_length_linter.
    form("^(?:reverse|invert|flip|turn round|reverse[- ]?(?:code|score)|turn around)(?:[- ]?(?:code|score))? (?:the )?(?:items? |columns? )?(.+)$", words_reverse),  # nolint: line_length_linter.
    form(paste0("^(average|combine|sum|add up|total) (?:the |all )*(?:\\w+ )?(?:items|statements|questions|answers) (?:in)?(?:to|as) (?:an? |one )?",
                "(?:single |scale |total |mean |overall )*(?:score|scale|index)?(?:,? ?(?:called|named) ['\"]?([\\p{L}][\\p{L}\\p{N}_.]*)['\"]?)?$"), words_scale),  # nolint: line_length_linter.
    form(paste0(add, "(difference) (?:between|of) (.+?) and (.+?)", name), words_derive),
    form(paste0(add, "(ratio) (?:of|between) (.+?) (?:to|and) (.+?)", name), words_derive),
    form(paste0(add, "(sum|mean|average|total|product) of (.+?)", name), words_derive_many),
    form(paste0(add, rules_of_one, " of (.+?)", name), words_derive_one),
    form(paste0("^(?:add|derive|create|compute|define|calculate) ['\"]?([\\p{L}][\\p{L}\\p{N}_.]*)['\"]? (?:as|=|is) (?:the )?",
                rules_of_one, " of (.+)$"),
         function(study, p) words_derive_one(study, p[c(2, 3, 1)])),
    form(paste0(add, "(age) (?:from|of) (.+?) (?:at|on|to|and) (.+?)", name), words_age),
    form(paste0(add, "(?:bands|groups) of (.+?) (?:at|from|cut at) ([-0-9][-0-9., and]*?)", name), words_bands),
    form(paste0("^(?:cut|band|split) (.+?) (?:at|by) ([-0-9][-0-9., and]*?)", name), words_bands),
    form(paste0("^(?:cut|divide|split|group) (.+?) into (\\d+|two|three|four|five|ten) (?:equal )?(?:groups|bands|parts|quantiles)",
        name), words_quantiles),
    form(paste0(add, "(?:rolling|moving) (?:mean|average) of (.+?) over (\\d+)",
        " (?:rows?|days?|weeks?|months?|values?)(?: (?:within|per|for each|of each) (.+?))?(?:",
        " (?:by|ordered by|in order of) (.+?))?",
                name), words_rolling),
    form(paste0("^(?:add |derive |define |compute |create )?['\"]?([\\p{L}][\\p{L}\\p{N}_.]*)['\"]?",
        " (?:=|as|is) (.+?) (-|minus|/|divided by|over|times|\\*|\\+|plus) (.+)$"),
         words_formula),
    form(paste0("^(?:add|derive|define|compute|create) ['\"]?([\\p{L}][\\p{L}\\p{N}_. ]*?)['\"]? (?:=|as|is) (.+?) (-|minus|/|divided by|over|times|\\*|\\+|plus) (.+)$"),  # nolint: line_length_linter.
         words_formula),
    form("^(?:in (.+?),? )?(?:recode|rename|replace|call|relabel) (?:the )?(?:levels? |values? )?(.+?) (?:to|as|by|with|into|=) ([^:]+?)$", words_relabel),  # nolint: line_length_linter.
    form("^(?:recode|rename|relabel) (?:(?:the )?(?:levels?|values?) of )?(.+?): (.+?) (?:to|as|by|with|into|=) (.+)$", words_relabel),
    form("^call (?:the )?(?:level |value )?(\\S+) (\\S+)$", function(study, p) words_relabel(study, c("", p))),
    form("^(?:merge|combine|join|lump) (.+?) (?:into|to|as|under) (.+?)(?: (?:in|of|for) (.+))?$", words_merge),
    form("^(?:recode|rename|replace) (.+?) (?:to|as|by|with|into) (.+?)(?: (?:in|of|for) (.+))?$", words_merge),
    form("^(?:the )?units? of (.+?) (?:is|are) (.+)$", function(study, p) amend_named(study, one_column(study, p[1]), list(unit = p[2]))),
    form("^(.+?) (?:is|are) (?:measured |given |recorded )?in ([\\p{L}%\u00b0\u00b5/0-9\u00b2\u00b3]{1,12})$",
         function(study, p) amend_named(study, one_column(study, p[1]), list(unit = p[2]))),
    form("^(?:the )?label of (.+?) (?:is|should be) ['\"]?(.+?)['\"]?$",
        function(study, p) amend_named(study, one_column(study, p[1]), list(label = p[2]))),
    form("^(?:label|call) (.+?) (?:as )?['\"](.+?)['\"]$", function(study, p) amend_named(study, one_column(study, p[1]), list(label = p[2]))),
    form("^(?:the )?(?:order of (.+?) (?:is|should be)|(?:order|sort) (.+?) (?:as|by|like)|(.+?) (?:is|are) ordered(?: from| as| like|:)?):? (.+)$",
        words_order),
    form("^(?:make )(.+?) ordered(?: from| as| like)?:? (.+)$", function(study, p) words_order(study, c(p[1], "", "", p[2]))),
    form("^(?:order|sort|arrange) (?:the )?(?:levels?|values?) of (.+?)(?: as| like| from)?:? (.+)$", function(study, p) words_order(study, c(p[1], "", "", p[2]))),  # nolint: line_length_linter.
    form("^(?:order|sort|arrange) (.+?): (.+)$", function(study, p) words_order(study, c(p[1], "", "", p[2]))),
    form("^(\\S+) identif(?:ies|y) (?:the |a |each |every )?(?:rows?|units?|subjects?|\\w+)$", function(study, p) words_design(study, p[1], "unit")),
    form("^(?:the )?(?:study|trial|treatment|allocation|it)(?: (?:is|was))? (not |un)?(?:randomi[sz]ed|allocated at random)$",
         function(study, p) design(study, randomised = !nzchar(p[1]))),
    form("^(.+?) (?:is|are|was) (not )?(?:randomi[sz]ed|allocated at random)$",
         function(study, p) design(study, treatment = one_column(study, p[1]), randomised = !nzchar(p[2]))),
    form("^(?:the )?treatment is (.+?),? (?:and )?(not )?randomi[sz]ed(?:,? (?:and )?(?:the )?control(?: group| arm)? is (.+))?$",
         function(study, p) {
           done <- design(study, treatment = one_column(study, p[1]), randomised = !nzchar(p[2]))
           if (nzchar(p[3])) words_control(done, p[3]) else done
         }),
    form(paste0("^(?:the )?(treatment|arms?|outcome|primary",
        " outcome|unit|subject|clusters?|weights?|strata|time|pairs?) (?:is|are) (?:the )?(?:column",
        " )?(.+)$"),
         function(study, p) words_design(study, p[2], p[1])),
    form(paste0("^(.+?) (?:is|are|holds?|identif(?:ies|y)) (?:the |our |a )?(?:study",
        " )?(treatment|arms?|outcome|primary outcome|unit|subject|clusters?|sampling",
        " weights?|weights?|strata|time|pairs?)$"),
         function(study, p) words_design(study, p[1], p[2])),
    form("^(.+?) (?:is|are) the (?:control|reference|baseline)(?: (?:group|level|arm|category))?$", words_control),
    form("^(?:the )?(?:control|reference)(?: (?:group|level|arm))?(?: (?:of|in) (?:the )?[\\p{L}\\p{N}_. ]+?)? is (.+)$", words_control),
    form("^(?:the )?(?:dates (?:in|of) )?(.+?) (?:is|are|have|has)?,? ?(?:written |read )?(?:the )?(day|month) (?:is )?first$", words_date_order),
    form(paste0(verb, "(.+?) as (?:an? |the )?(.+)$"), words_kind),
    form("^(.+?) (?:is|are) (?:an? |the )?(.+)$", words_kind))
}

#' Is a text put as a question an amendment that could be carried out ("leave out hive H017", "satisfaction is ordered")?
#' @noRd
changes_data <- function(study, text) {
  acts <- paste0("^ *(?:please |now |also )*(?:treat|regard|leave out|exclude|drop|remove|ignore|omit|discard|delete|keep only|use only|only keep|only use|",  # nolint: line_length_linter.
                 "merge|lump|recode|rename|relabel|make [\\w. ]+ ordered|(?:sort|order) (?:the )?levels|undo|by ['\"]?[\\w .]+['\"]? (?:i|we) mean|(?:each|every) row (?:stands|counts|represents)|add [\\w. ]+ as|derive [\\w. ]+ as|",  # nolint: line_length_linter.
                 "(?:cut|band) [\\w .]+ (?:at|into))\\b|^ *(?:the )?(?:label|units?|order) of .+ (?:is|are|should be) |",
                 "^(?!.*\\b(?:how|what|which|who|why|when|where|whether|if)\\b)[\\w .]+ (?:is|are|was) (?:the (?:treatment|outcome|unit|control|weights?|clusters?|strata)|ordered|randomi[sz]ed|",  # nolint: line_length_linter.
                 "an? (?:number|category|count|date|text|id|identifier|yes.?no)|in (?:pounds|lb|kg|grams|cm|mm|inches|miles|minutes|hours|days|months|years))\\b[^?]*$|",  # nolint: line_length_linter.
                 "^(?:the )?(?:control|reference)(?: (?:group|level|arm))? (?:of [\\w .]+ )?is ")
  if (grepl("[?] *$", text) || !grepl(acts, text, ignore.case = TRUE, perl = TRUE)) return(FALSE)
  if (grepl("^ *(?:is|are|was|were|do|does|did|has|have|can|could|should|would)\\b", text, ignore.case = TRUE, perl = TRUE)) return(FALSE)
  # ("exclude Graz and repeat: bmi by arm" goes on to ask)
  if (grepl("^ *(?:leave|exclude|drop|remove|ignore|omit|discard|delete|keep|use|only).*(?::|\\band (?:repeat|redo|rerun|then|show|compare|tell|give|test|what|how|do|is|does)\\b)",  # nolint: line_length_linter.
            text, ignore.case = TRUE, perl = TRUE)) return(FALSE)
  tryCatch({ amend_in_words(study, text); TRUE }, upbeatquill_error = function(e) FALSE)
}

bad_words <- function(...) stop_input(..., class = "bad_amendment")

strip_quotes <- function(x) gsub("^['\"\u201c\u201d]+|['\"\u201c\u201d]+$", "", trimws(x))

#' "a, b and c" in pieces
#' @noRd
listed <- function(text) {
  pieces <- strsplit(text, "\\s*(,|;|<|\u2192|->|\\bthen\\b|\\band\\b|\\bor\\b)\\s*", perl = TRUE)[[1]]
  strip_quotes(pieces[nzchar(trimws(pieces))])
}

#' Names of the columns that a piece of text means: an exact name first, then as a question would be read
#' @noRd
columns_meant <- function(study, text) {
  text <- strip_quotes(text)
  known <- column_names(study)
  exact <- known[tolower(known) == tolower(text)]
  if (length(exact)) return(exact[1])
  plain <- gsub("^(the|all|column|variable|columns|variables) +", "", text, ignore.case = TRUE)
  exact <- known[tolower(known) == tolower(plain)]
  if (length(exact)) return(exact[1])
  state <- parse_question(plain, study_vocabulary(study))
  # a name that is only partly understood ("hive H999") is not a column
  if (length(unknown_words(state)) || any(state$type %in% c("number", "value"))) return(character())
  found <- unlist(lapply(which(state$type == "column"), function(k) column_of(state, state$items[[k]]$cols$column[1])))
  unique(found)
}

one_column <- function(study, text) {
  found <- columns_meant(study, text)
  if (length(found) == 1) return(found)
  if (length(found) > 1) bad_words(sprintf("%s could mean %s.", quoted(text), some_of(quoted(found), 4, and = "or")), todo = "Name one of them.")
  known <- column_names(study)
  near <- nearest_names(text, known)
  bad_words(sprintf("No column is called %s.", quoted(text)), todo = sprintf("Did you mean %s?", some_of(quoted(if (length(near)) near
                                                                                                             else utils::head(known,
                                                                                                                 4)), 4, and = "or")))
}

many_columns <- function(study, text) unique(vapply(listed(text), function(piece) one_column(study, piece), ""))

# ---- missing codes -------------------------------------------------------------------------------------------------

words_missing <- function(study, p) {
  codes <- listed(p[1])
  where <- if (length(p) > 1) p[2] else ""
  columns <- columns_for_codes(study, where, codes)
  for (name in columns) {
    col <- find_column(study, name)
    change <- unique(c(as.character(col$missing_codes), codes[codes_present(study, name, codes)]))
    study <- amend_named(study, name, list(missing = change))
  }
  study
}

columns_for_codes <- function(study, where, codes) {
  where <- gsub("^(the|all|every|any|each) +(of the +)?", "", tolower(where))
  everywhere <- !nzchar(where) || grepl("^(items?|questions|columns?|variables?|numbers?|numeric columns|answers|everywhere|data|survey|file|table)$",
      where)
  if (!everywhere) return(many_columns(study, where))
  columns <- all_columns(study)
  if (grepl("^(items?|questions|answers)$", where)) {
    items <- Filter(function(col) identical(col$role, "item") || col$kind == "ordered" || col$name %in% item_set_names(study), columns)
    if (length(items)) columns <- items
  }
  names <- vapply(columns, `[[`, "", "name")
  present <- names[vapply(names, function(n) any(codes_present(study, n, codes)), NA)]
  if (!length(present)) bad_words(sprintf("No column holds %s.", some_of(quoted(codes), 4, and = "or")))
  present
}

item_set_names <- function(study) unlist(lapply(data_tables(study), function(t) unlist(lapply(t$sets, `[[`, "columns"))))

codes_present <- function(study, name, codes) {
  col <- find_column(study, name)
  raw <- study$tables[[col$table]]$data[[name]]
  if (is.numeric(raw)) { number <- suppressWarnings(as.numeric(codes)); return(!is.na(number) & number %in% raw) }
  codes %in% as.character(raw)
}

# ---- rows and columns ------------------------------------------------------------------------------------------------

words_rows <- function(study, p, keep) {
  body <- sub("^(the )?(rows?|cases?|records?|observations?) (?=(where|with|that|whose|of|from|in)\\b)", "", p[1], ignore.case = TRUE, perl = TRUE)
  numbered <- regmatches(body, regexec("^(?:the )?rows? ([0-9, and]+)$", body, ignore.case = TRUE))[[1]]
  if (length(numbered)) return(amend_rows(study, as.numeric(unlist(regmatches(numbered[2], gregexpr("[0-9]+", numbered[2])))), keep))
  body <- sub("^where ", "", body, ignore.case = TRUE)
  column <- regmatches(body, regexec("^(?:the )?(?:columns?|variables?) (.+)$", body, ignore.case = TRUE))[[1]]
  filters <- if (!length(column)) conditions_meant(study, body)
  if (length(filters)) return(amend_rows(study, filters, keep))
  names <- many_columns(study, if (length(column)) column[2] else body)
  if (keep) names <- setdiff(column_names(study), names)
  for (name in names) study <- amend_named(study, name, list(use = FALSE))
  study
}

#' Conditions on rows as a question would state them
#' @noRd
conditions_meant <- function(study, text) {
  known <- column_names(study)
  if (tolower(strip_quotes(text)) %in% tolower(known)) return(NULL)
  gap <- regmatches(text,
      regexec("^(.+?) (?:is|are) (not )?(?:missing|empty|blank|unknown)$|^(?:missing|no|without) (.+)$", text, ignore.case = TRUE, perl = TRUE))[[1]]
  if (length(gap)) return(list(list(column = one_column(study, paste0(gap[2], gap[4])),
      op = if (nzchar(gap[3])) "not_missing" else "is_missing", value = list())))
  state <- parse_question(paste("where", text), study_vocabulary(study))
  c(state$filters, lapply(state$groups, function(g) group_filter(state, g)))
}

# ---- names, labels, levels -------------------------------------------------------------------------------------------

words_alias <- function(study, phrase, target) {
  name <- one_column(study, target)
  phrase <- strip_quotes(phrase)
  study$aliases[[tolower(phrase)]] <- name
  record_amendment(study, list(alias = phrase, column = name))
}

#' "sex 1 is male and 2 is female", "sex: 1 = male, 2 = female", "label 1 as male and 2 as female in sex": what stored codes mean
#' @noRd
words_codes <- function(study, p) {
  pair <- "(?<![\\p{L}\\p{N}.])(-?[0-9]+(?:\\.[0-9]+)?) ?(?:=|:|(?:is|are|means?|stands? for|as)\\b) ?(?:the )?['\"]?([\\p{L}][\\p{L} /'-]*?)['\"]?(?=,|;| and -?[0-9]| (?:in|of|for) |$)"  # nolint: line_length_linter.
  hits <- stringi::stri_match_all_regex(p[1], pair, case_insensitive = TRUE)[[1]]
  if (nrow(hits) < 2) return(NULL)
  rest <- p[1]
  for (hit in hits[, 1]) rest <- sub(hit, " ", rest, fixed = TRUE)
  said <- trimws(gsub("(?i)^ *(?:(?:in|for|label|read|code|name|the|codes?|values?|levels?|of) )*|[,:;]|\\b(?:and|are|is|in|of|for)\\b", " ",  # nolint: line_length_linter.
                      rest, perl = TRUE))
  name <- if (nzchar(said)) columns_meant(study, gsub(" +", " ", said))
  if (length(name) != 1) return(NULL)
  amend_named(study, name, list(labels = stats::setNames(trimws(hits[, 3]), hits[, 2])))
}

#' "yield means honey_yield_kg": an everyday name of a column
#' @noRd
words_means <- function(study, p) {
  known <- c(column_names(study), unlist(lapply(all_columns(study), `[[`, "levels")))
  target <- columns_meant(study, p[2])
  if (length(target) != 1 || tolower(strip_quotes(p[1])) %in% tolower(known)) return(NULL)
  words_alias(study, p[1], target)
}

#' "rename arm to feed": names stay as in the file, so the other name is the label and an everyday name of the column
#' @noRd
words_rename <- function(study, p) {
  said <- tolower(strip_quotes(p[1])); to <- strip_quotes(p[2])
  name <- column_names(study)[tolower(column_names(study)) == said]
  if (!length(name)) {
    # (levels of columns are renamed by another form)
    if (said %in% tolower(unlist(lapply(all_columns(study), `[[`, "levels")))) return(NULL)
    name <- columns_meant(study, p[1])
  }
  if (length(name) != 1) return(NULL)
  study <- amend_named(study, name, list(label = to))
  if (tolower(to) %in% tolower(column_names(study))) study else words_alias(study, to, name)
}

#' "reverse website_easy": a further column with the answers turned round
#' @noRd
words_reverse <- function(study, p) {
  for (name in many_columns(study, p[1])) study <- add_column(study, "", c(name, "reversed"), list(derive = "reversed", from = name))
  study
}

#' "average the six items into a score called support"
#' @noRd
words_scale <- function(study, p) {
  items <- item_columns(list(vocabulary = study_vocabulary(study)))
  if (length(items) < 2) bad_words("No columns of this data read as the items of a scale.", todo = "Name them, such as \"mean of q1, q2 and q3 as score\".")  # nolint: line_length_linter.
  rule <- if (tolower(p[1]) %in% c("sum", "add up", "total")) "sum" else "mean"
  add_column(study, p[2], c("scale", rule), list(derive = rule, from = items))
}

words_merge <- function(study, p) {
  from <- listed(p[1])
  to <- strip_quotes(p[2])
  name <- if (nzchar(p[3])) one_column(study, p[3]) else column_with_levels(study, from)
  if (is.null(name)) return(NULL)
  levels <- find_column(study, name)$levels
  exact <- function(x) { at <- match(tolower(x), tolower(levels)); ifelse(is.na(at), x, levels[at]) }
  # a value that is spelled in two cases is meant as it is written
  from <- ifelse(from %in% levels, from, exact(from))
  to <- if (to %in% levels) to else exact(to)
  from <- setdiff(from, to)
  if (!length(from)) return(study)
  amend_named(study, name, list(recode = stats::setNames(rep(to, length(from)), from)))
}

#' "read "<5" as 2.5 in lead": a number in the place of what is only known to lie beyond a limit
#' @noRd
words_limit <- function(study, p) {
  name <- one_column(study, p[3])
  col <- find_column(study, name)
  raw <- unique(as.character(study$tables[[col$table]]$data[[name]]))
  own <- raw[gsub(" ", "", raw, fixed = TRUE) == gsub(" ", "", p[1], fixed = TRUE)]
  if (!length(own)) return(NULL)
  amend_named(study, name, list(recode = stats::setNames(rep(p[2], length(own)), own)))
}

#' "recode arm: syrup to sugar", "in arm, rename syrup to sugar", "call syrup sugar": another name for one level
#' @noRd
words_relabel <- function(study, p) {
  from <- listed(p[2])
  known <- unlist(lapply(all_columns(study), `[[`, "levels"))
  if (!all(tolower(from) %in% tolower(known))) return(NULL)
  words_merge(study, c(p[2], p[3], p[1]))
}

column_with_levels <- function(study, values) {
  for (col in all_columns(study)) if (length(col$levels) && all(tolower(values) %in% tolower(col$levels))) return(col$name)
  bad_words(sprintf("No column holds the values %s.", some_of(quoted(values), 6)))
}

words_order <- function(study, p) {
  target <- p[1:3][nzchar(p[1:3])][1]
  levels <- listed(p[4])
  if (length(levels) < 2) levels <- strip_quotes(strsplit(p[4], "\\s+(?:to|<)\\s+|\\s*<\\s*", perl = TRUE)[[1]])
  name <- one_column(study, target)
  known <- find_column(study, name)$levels
  at <- match(tolower(levels), tolower(known))
  if (length(levels) < 2 || anyNA(at)) {
    bad_words(sprintf("The order of %s names %s.", quoted(name), some_of(quoted(levels[is.na(at)]), 4)),
              sprintf("Its values are %s.", some_of(quoted(known), 12)))
  }
  amend_named(study, name, list(kind = "ordered", order = known[at]))
}

words_kind <- function(study, p) {
  kind <- kind_meant(p[2])
  if (is.null(kind)) return(NULL)
  for (name in many_columns(study, p[1])) {
    if (kind == "weight") { study <- amend_named(study, name, list(role = "weight")); next }
    change <- list(kind = kind)
    col <- find_column(study, name)
    scale <- if (kind == "ordered" && length(col$levels)) ordered_scale_of(col$levels)
    if (!is.null(scale)) change$order <- scale$levels
    study <- amend_named(study, name, change)
  }
  study
}

kind_meant <- function(text) {
  text <- tolower(sub("\\s+(column|variable|scale|kind|values?|answers?)$", "", strip_quotes(text)))
  more <- c(categories = "category", groups = "category", group = "category", factor = "category", numbers = "number", counts = "count",
            dates = "date", ids = "id", identifiers = "id", keys = "id", label = NULL, ordinal = "ordered", "yes or no" = "yes_no",
            "sampling weight" = "weight", weight = "weight", weights = "weight", "free text" = "text", texts = "text", "time stamps" = "datetime",
            "time stamp" = "datetime")
  if (text %in% names(more)) more[[text]] else declared_kind(text)
}

words_design <- function(study, target, part) {
  part <- sub("s$", "", tolower(part))
  part <- switch(part, arm = "treatment", subject = "unit", "primary outcome" = "outcome", cluster = "cluster", weight = "weights",
                 "sampling weight" = "weights", strata = "strata", pair = "pairs", part)
  name <- columns_meant(study, target)
  if (length(name) != 1) return(NULL)
  if (part == "weights") study <- amend_named(study, name, list(role = "weight"))
  do.call(design, c(list(study), stats::setNames(list(name), part)))
}

words_control <- function(study, p) {
  arm <- study$design$treatment %||% column_with_levels(study, strip_quotes(p[1]))
  levels <- find_column(study, arm)$levels
  at <- match(tolower(strip_quotes(p[1])), tolower(levels))
  if (is.na(at)) return(NULL)
  design(study, treatment = arm, control = levels[at])
}

words_date_order <- function(study, p) {
  name <- one_column(study, sub("^dates? (in|of) ", "", p[1]))
  col <- find_column(study, name)
  amend_named(study, name, list(kind = "date", format = dated_format(study$tables[[col$table]]$data[[name]], p[2] == "day")))
}

# ---- derived columns -------------------------------------------------------------------------------------------------

add_column <- function(study, given, parts, change) {
  name <- if (length(given) && nzchar(given)) given else gsub("[^[:alnum:]]+", "_", tolower(paste(parts, collapse = "_")))
  table <- table_with(study, c(change$from, change$within, change$order))
  amend_derived(study, name, change, table)
}

words_derive <- function(study, p) {
  from <- c(one_column(study, p[2]), one_column(study, p[3]))
  add_column(study, p[4], c(from[1], if (tolower(p[1]) == "ratio") "per" else "minus", from[2]), list(derive = tolower(p[1]), from = from))
}

words_derive_many <- function(study, p) {
  from <- unname(many_columns(study, p[2]))
  rule <- switch(tolower(p[1]), average = "mean", total = "sum", tolower(p[1]))
  # "the mean of honey" is a question, not a new column
  if (length(from) < 2) return(NULL)
  add_column(study, p[3], c(rule, "of", from), list(derive = rule, from = from))
}

words_derive_one <- function(study, p) {
  rule <- switch(tolower(p[1]), logarithm = "log", "square root" = "square_root", "lower end" = "low", "upper end" = "high", tolower(p[1]))
  from <- one_column(study, p[2])
  add_column(study, p[3], c(rule, from), list(derive = rule, from = from))
}

words_age <- function(study, p) {
  from <- one_column(study, p[2])
  day <- suppressWarnings(tryCatch(as.Date(p[3]), error = function(e) NA))
  if (!is.na(day)) return(add_column(study, p[4], "age", list(derive = "age", from = from, on = format(day))))
  add_column(study, p[4], "age", list(derive = "age", from = c(from, one_column(study, p[3]))))
}

words_bands <- function(study, p) {
  from <- one_column(study, p[1])
  add_column(study, p[3], c(from, "band"), list(derive = "bands", from = from, cuts = sort(as.numeric(listed(p[2])))))
}

words_quantiles <- function(study, p) {
  from <- one_column(study, p[1])
  k <- match(tolower(p[2]), c("two", "three", "four", "five", "ten"))
  k <- if (is.na(k)) as.numeric(p[2]) else c(2, 3, 4, 5, 10)[k]
  add_column(study, p[3], c(from, "band"), list(derive = "bands", from = from, groups = k))
}

words_rolling <- function(study, p) {
  from <- one_column(study, p[1])
  change <- compact(list(derive = "rolling_mean", from = from, window = as.numeric(p[2]),
                         within = if (nzchar(p[3])) one_column(study, p[3]), order = if (nzchar(p[4])) one_column(study, p[4])))
  add_column(study, p[5], c(from, "mean", p[2]), change)
}

#' "add years as queen_age_months / 12": a column times or over a number
#' @noRd
words_scaled <- function(study, name, of, sign, number) {
  from <- columns_meant(study, of)
  over <- tolower(sign) %in% c("/", "divided by", "over")
  if (length(from) != 1 || number == 0 || !over && !tolower(sign) %in% c("*", "times")) return(NULL)
  add_column(study, name, character(), list(derive = "converted", from = from, factor = if (over) 1 / number else number))
}

words_formula <- function(study, p) {
  p[1] <- gsub(" +", "_", trimws(p[1]))
  number <- suppressWarnings(as.numeric(strip_quotes(p[4])))
  if (!is.na(number)) return(words_scaled(study, p[1], p[2], p[3], number))
  rule <- switch(tolower(p[3]), "-" = , minus = "difference", "/" = , "divided by" = , over = "ratio", "*" = , times = "product", "sum")
  a <- columns_meant(study, p[2]); b <- columns_meant(study, p[4])
  if (length(a) != 1 || length(b) != 1) return(NULL)
  add_column(study, p[1], character(), list(derive = rule, from = c(a, b)))
}
