# Conditions with values of columns.

#' Values named in the question, gathered into groups of one column
#' @noRd
value_groups <- function(state) {
  state <- agreed_groups(any_groups(state))
  state <- levels_named_like_columns(state)
  at <- which(state$type == "value" & !state$used)
  for (k in at) {
    if (state$used[k]) next
    column <- value_column(state, k)
    run <- value_run(state, k, column)
    lead <- group_lead(state, k)
    levels <- run_levels(state, run, column)
    state <- tell_several_levels(state, run, column)
    onwards <- levels_onwards(state, max(run), column, levels)
    if (!is.null(onwards)) { levels <- onwards$levels; lead$at <- c(lead$at, onwards$at)
      for (j in onwards$at) state$items[[j]]["lex"] <- list(NULL)
      state <- assume(state, onwards$said) }
    state <- use_own_column(state, run, column)
    state$groups <- c(state$groups, list(list(column = column, levels = unique(levels), negated = lead$negated,
                                              at = run, lead = lead$word, numeric = FALSE)))
    state <- use_items(state, c(run, lead$at))
  }
  merge_groups(state)
}

#' Levels that a run of value words stands for: joined by "and" or a comma they add up, side by side they narrow ("died from melanoma")
#' @noRd
run_levels <- function(state, run, column) {
  levels <- value_level(state, run[1], column)
  for (i in seq_along(run)[-1]) {
    own <- value_level(state, run[i], column)
    between <- if (run[i] - run[i - 1] > 1) vapply((run[i - 1] + 1):(run[i] - 1), function(j) item_norm(state, j), "") else character()
    adds <- any(between %in% c("and", "or", "&", "/", "vs", "versus", "to", "than", "against", "with")) ||
      grepl(",", gap_text(state, run[i - 1], run[i]), fixed = TRUE)
    narrower <- intersect(levels, own)
    levels <- if (!adds && length(narrower)) narrower else c(levels, own)
  }
  unique(levels)
}

#' "new", of the levels new_layout and new_price: a word that stands for several levels is told
#' @noRd
tell_several_levels <- function(state, run, column) {
  for (k in run) {
    own <- value_level(state, k, column)
    if (length(own) > 1) state <- assume(state, sprintf("Took %s to mean %s of %s.", quoted(state$items[[k]]$text), some_of(quoted(own), 4,
        and = "or"),
      column_of(state, column)))
  }
  state
}

#' "Good or better", of an ordered column: the level named and those beyond it
#' @section Shape: list(levels, at, said), or NULL.
#' @noRd
levels_onwards <- function(state, k, column, levels) {
  if (kind_at(state, column) != "ordered" || length(levels) != 1 || item_norm(state, k + 1) != "or" && !grepl("^or ", item_norm(state, k +
      1))) return(NULL)
  word <- sub("^or ", "", paste(item_norm(state, k + 1), item_norm(state, k + 2)))
  word <- strsplit(word, " ")[[1]][1]
  up <- word %in% c("better", "higher", "more", "above", "up", "over"); down <- word %in% c("worse", "lower", "less", "below", "under")
  if (!up && !down) return(NULL)
  all <- unique(state$vocabulary$values$level[state$vocabulary$values$column == column & state$vocabulary$values$quality >= 1])
  at <- match(levels, all)
  if (is.na(at)) return(NULL)
  found <- if (up) all[at:length(all)] else all[seq_len(at)]
  used <- if (grepl("^or ", item_norm(state, k + 1))) k + 1 else k + 1:2
  list(levels = found, at = used, said = sprintf("Took %s to mean %s.", quoted(paste(levels, "or", word)), some_of(quoted(found), 6, and = "or")))
}

value_column <- function(state, k) {
  vals <- state$items[[k]]$vals
  if (nrow(vals) == 1) return(vals$column[1])
  mentioned <- unlist(lapply(state$items, function(i) i$cols$column[i$cols$score > 0.5]))
  # levels that several items share belong to the item that is spoken of, be it by its label only
  if (!any(vals$column %in% mentioned)) mentioned <- unlist(lapply(state$items,
      function(i) if (is.null(i$cols)) NULL else i$cols$column[i$cols$score ==
    max(i$cols$score)]))
  near <- c(item_column(state, k - 1), item_column(state, k + 1))
  # a level written out goes before another word for one ("placebo" of the arm, for the level "none" of something else)
  exact <- vals$score >= max(vals$score) - 0.05
  # "left handed", beside handedness and the clapping hand: the name that begins with the word next to it
  beside <- c(item_norm(state, k - 1), item_norm(state, k + 1))
  beside <- beside[nchar(beside) >= 5]
  called <- vapply(vals$column, function(i) any(startsWith(tolower(state$vocabulary$columns$name[i]), beside)), NA)
  best <- order(!exact, !called, !(vals$column %in% near), !(vals$column %in% mentioned), -vals$score, vals$column)
  vals$column[best[1]]
}

value_level <- function(state, k, column) {
  vals <- state$items[[k]]$vals
  of_column <- vals[vals$column == column, , drop = FALSE]
  unique(of_column$level[of_column$score >= max(of_column$score, 0) - 1e-9])
}

#' "A, B and C": further values of the same column, joined by small words
#' @noRd
value_run <- function(state, k, column) {
  run <- k
  j <- k + 1
  gap <- 0
  while (j <= state$n && gap <= 2) {
    if (state$type[j] == "value" && column %in% state$items[[j]]$vals$column) { run <- c(run, j); gap <- 0 }
    else if (state$items[[j]]$norm %in% c("and", "or", "&", "/", "vs", "versus", "with", "to", "against", "than", "the",
                                          "in", "from", "for")) gap <- gap + 1
    # "sports cars and vans"
    else if (gap == 0 && state$type[j] == "entity" && item_norm(state, j + 1) %in% c("and", "or", "&")) gap <- gap + 1
    else break
    j <- j + 1
  }
  run
}

#' Words in front of a value: "without", "only", "not", "than"
#' @noRd
group_lead <- function(state, k) {
  negated <- FALSE; word <- ""; at <- integer()
  j <- k - 1
  steps <- 0
  listed <- passed <- FALSE
  while (j >= 1 && steps < 4) {
    item <- state$items[[j]]
    if (state$used[j] && identical(state$flags$both_at, as.integer(j))) { word <- "both"; break }
    except <- has_lex(item, "scope", "except") && !(passed && item$norm %in% c("without", "no", "not"))
    # "without mastitis on Vale": that word was spent on another condition
    if (except && !passed && state$used[j] && any(state$used[(j + 1):(k - 1)])) break
    if (except || (!passed && item$norm %in% c("not", "non", "isnt", "arent", "!="))) {
      negated <- TRUE; at <- j; word <- "except"; break
    }
    if (passed && !(state$type[j] %in% c("stop", "entity", "filler"))) break
    if (!passed && has_lex(item, "scope", "only")) { word <- "only"; at <- j; break }
    if (!passed && item$norm %in% c("between", "among", "than", "versus", "vs", "against", "by")) { word <- item$norm; break }
    # "excluding women and smokers": what is left out goes on over "and"
    if (state$type[j] == "value" && listed) { passed <- TRUE; j <- j - 1; next }
    listed <- listed && (item$norm %in% c("and", "or", "nor", "&", "the", "all", "any") || state$type[j] %in% c("entity", "column")) ||
      item$norm %in% c("and", "or", "nor")
    own <- state$type[j] == "column"
    if (!(state$type[j] %in% c("stop", "filler", "entity")) && !own && !item$norm %in% c("=", "==", ":")) break
    j <- j - 1
    steps <- steps + 1
  }
  list(negated = negated, word = word, at = at)
}

#' "diet 4", "Catholic schools sector": the column named beside its value belongs to the value
#' @noRd
use_own_column <- function(state, run, column) {
  for (k in run) {
    before <- k - 1
    while (before >= 1 && state$items[[before]]$norm %in% c("is", "=", "==", "was", "are", "of", "the", "a", "an",
                                                            "were", "being", "not", ":", "'", "\"", "equals", "!=")) before <- before - 1
    for (j in c(before, k + 1)) {
      if (j >= 1 && j <= state$n && state$type[j] == "column" && !state$used[j] &&
          column %in% state$items[[j]]$cols$column) {
        state <- use_items(state, j)
        state$flags$named_groups <- unique(c(state$flags$named_groups, column))
      }
    }
  }
  state
}

#' Groups of one column that stand apart in the question ("higher for A than for B") belong together
#' @noRd
merge_groups <- function(state) {
  groups <- state$groups
  out <- list()
  for (g in groups) {
    same <- which(vapply(out, function(o) o$column == g$column && o$negated == g$negated, NA))
    if (length(same)) {
      o <- out[[same[1]]]
      o$levels <- unique(c(o$levels, g$levels)); o$at <- c(o$at, g$at)
      if (!nzchar(o$lead)) o$lead <- g$lead
      if (!is.null(o$numbers)) o$numbers <- unique(c(o$numbers, g$numbers))
      out[[same[1]]] <- o
    } else out[[length(out) + 1L]] <- g
  }
  state$groups <- join_opposites(state, out)
  join_named_side(state)
}

#' "managers and non-managers", of a yes/no column manager: both its sides
#' @noRd
join_named_side <- function(state) {
  joins <- c("and", "or", "versus", "vs", "than", "to", "with", "the", "those", "in", "for", "of", "&", "against", "from", "between")
  for (i in seq_along(state$groups)) {
    g <- state$groups[[i]]
    if (!names_one(g) || state$vocabulary$columns$distinct[g$column] != 2) next
    for (k in which(state$type == "column" & !state$used)) {
      own <- state$items[[k]]$cols$column[1] == g$column && grepl("s$", item_norm(state, k))
      between <- setdiff(seq(min(k, min(g$at)), max(k, max(g$at))), c(k, g$at))
      if (!own || !length(between) || !all(vapply(between, function(j) item_norm(state, j) %in% c(joins, "non", "not"), NA))) next
      state$groups[[i]]$levels <- unique(c(state$vocabulary$columns$first_level[g$column], state$vocabulary$columns$last_level[g$column]))
      state$groups[[i]]$at <- sort(c(k, g$at))
      state$groups[[i]]$lead <- ""
      state <- use_items(state, k)
    }
  }
  state
}

#' "smokers and non-smokers": a level and its negation, of a column of two levels, are both its groups
#' @noRd
join_opposites <- function(state, groups) {
  for (i in seq_along(groups)) {
    g <- groups[[i]]
    if (is.null(g) || g$negated || length(g$levels) != 1 || state$vocabulary$columns$distinct[g$column] != 2) next
    other <- which(vapply(groups, function(o) !is.null(o) && o$column == g$column && o$negated && identical(o$levels, g$levels), NA))
    if (!length(other)) next
    all <- unique(c(g$levels, state$vocabulary$columns$first_level[g$column], state$vocabulary$columns$last_level[g$column]))
    groups[[i]]$levels <- all
    groups[[i]]$at <- c(g$at, groups[[other[1]]]$at)
    groups[[i]]$lead <- ""
    groups[other[1]] <- list(NULL)
  }
  compact(groups)
}

#' Columns of answers from disagreeing to agreeing
#' @noRd
agreed_items <- function(state) {
  values <- state$vocabulary$values
  columns <- unique(c(values$column[grepl("agree", tolower(values$level))],
                      state$vocabulary$terms$column[state$vocabulary$terms$stem == stem_words("agree") & state$vocabulary$terms$source == "label"]))
  columns[state$vocabulary$columns$kind[columns] == "ordered"]
}

#' "who agree that parks are good", "share disagreeing with Q2": the levels on that side of the scale
#' @noRd
agreed_groups <- function(state) {
  items <- agreed_items(state)
  found <- regmatches(state$text, regexpr("\\b(strongly |fully |completely |totally )?(dis)?agree(s|d|ing)?\\b(?= (that|with|to|they|it|the|their|there|we|i)\\b)", state$text,  # nolint: line_length_linter.
      ignore.case = TRUE, perl = TRUE))
  if (!length(items) || !length(found)) return(state)
  strong <- grepl("strongly|fully|completely|totally", found, ignore.case = TRUE, perl = TRUE)
  at <- which(state$type == "column" & vapply(state$items, function(i) !is.null(i$cols) && i$cols$column[1] %in% items, NA))
  word <- which(vapply(state$items, function(i) grepl("^(strongly |fully |completely |totally )?(dis)?agree", i$norm), NA))[1]
  at <- at[at > word]
  if (length(at) < 1 || is.na(word)) return(state)
  # "agree or strongly agree that ...": both, which is that side of the scale
  both <- grepl("agree(s|d|ing)? (or|and|/) (strongly |fully |completely |totally )?(dis)?agree", state$text, ignore.case = TRUE, perl = TRUE)
  strong <- strong && !both
  if (both) word <- which(grepl("^(strongly |fully |completely |totally )?(dis)?agree", vapply(state$items, `[[`, "", "norm")))
  column <- state$items[[at[1]]]$cols$column[state$items[[at[1]]]$cols$column %in% items][1]
  levels <- unique(state$vocabulary$values$level[state$vocabulary$values$column == column])
  codes <- suppressWarnings(as.numeric(unlist(state$vocabulary$columns[column, c("first_level", "last_level")])))
  against <- grepl("disagree", found, ignore.case = TRUE, perl = TRUE)
  side <- levels[grepl("disagree", tolower(levels)) == against & grepl("agree", tolower(levels)) & !grepl("neither|nor", tolower(levels))]
  if (strong) side <- side[grepl("strongly|fully|completely|totally", tolower(side))]
  # codes from 1 (disagree) to 5 (agree), as the label says: the side beyond the middle
  if (!length(side) && !strong && !anyNA(codes) && codes[2] - codes[1] >= 2) {
    all <- seq(codes[1], codes[2])
    side <- format_plain(if (against) all[all < mean(codes)] else all[all > mean(codes)])
  }
  if (!length(side)) return(state)
  state$groups <- c(state$groups, list(list(column = column, levels = side, negated = FALSE, at = at[1], lead = "", numeric = FALSE)))
  if (!strong && !both) state <- assume(state, sprintf("Took %s to mean %s.", quoted(found), some_of(quoted(side), 4, and = "or")))
  use_items(state, c(word, at[1]))
}

#' "any adverse event": every level of the column but the one that says none
#' @noRd
any_groups <- function(state) {
  for (k in which(state$type == "column" & !state$used)) {
    if (!item_norm(state, k - 1) %in% c("any", "some", "at least one")) next
    column <- item_column(state, k, c("category", "ordered"))
    if (is.na(column)) next
    levels <- unique(state$vocabulary$values$level[state$vocabulary$values$column == column])
    none <- levels %in% none_levels(state, column)
    if (sum(none) != 1 || length(levels) < 3) next
    state$groups <- c(state$groups, list(list(column = column, levels = levels[!none], negated = FALSE, at = k, lead = "", numeric = FALSE)))
    state <- assume(state, sprintf("Took %s to mean that %s is not %s.", quoted(paste("any", state$items[[k]]$text)), column_of(state, column),
                                   quoted(levels[none])))
    state <- use_items(state, k)
  }
  state
}

#' Are several levels named, each by its own words? One word may stand for several levels ("died") and is a condition then
#' @noRd
names_several <- function(g) length(g$levels) > 1 && (isTRUE(g$numeric) || length(unique(g$at)) > 1)

#' Is one level named, by its word and as something kept?
#' @noRd
names_one <- function(g) !g$negated && length(g$levels) == 1 && !isTRUE(g$numeric)

#' A group as a filter
#' @noRd
group_filter <- function(state, g) {
  name <- column_of(state, g$column)
  value <- if (isTRUE(g$numeric) && is_numeric_kind(kind_at(state, g$column))) g$numbers else g$levels
  op <- if (length(value) > 1) (if (g$negated) "not_in" else "in") else (if (g$negated) "!=" else "==")
  new_filter(name, op, value)
}

#' "remote and office staff", where a column Remote has the levels Remote and Office: beside another level its name is a level
#' @noRd
levels_named_like_columns <- function(state) {
  for (k in which(state$type == "column" & !state$used)) {
    column <- state$items[[k]]$cols$column[1]
    own <- state$vocabulary$values[state$vocabulary$values$column == column & state$vocabulary$values$phrase == state$items[[k]]$stem, , drop = FALSE]
    if (!nrow(own)) next
    for (step in c(-1, 1)) {
      between <- item_norm(state, k + step); other <- k + 2 * step
      if (other < 1 || other > state$n || !between %in% c("and", "or", "versus", "vs", "than", "against", "with", "to")) next
      if (state$type[other] != "value" || !column %in% state$items[[other]]$vals$column) next
      state$type[k] <- "value"
      state$items[[k]]$vals <- new_links(k, k, "value", column = column, level = own$level[1], score = 1)
      break
    }
  }
  state
}
