# One group against several: the sides of a planned contrast.

#' "syrup against the mean of control and patty", "syrup versus the other arms": the two sides, or NULL
#'
#' @section Shape: list(group = the group of values that names them, sides = list of two character vectors).
#' @noRd
contrast_named <- function(state) {
  text <- tolower(state$text)
  pooled <- grepl("\\b(mean|average) of\\b|\\b(combined|together|pooled)\\b", text) || identical(single_method(state), "contrast")
  rest <- grepl("\\b(against|versus|vs|than|with|to|from|and)\\.? (all |both )?(of )?the (other|others|rest|remaining)\\b|\\ball others\\b|\\b(every(one|body|thing)) else\\b",  # nolint: line_length_linter.
    text)
  # ("sprays A, B and F against C, D and E": two sides of several groups each)
  lists <- grepl("\\b(against|versus|vs|compared (with|to)|than)\\b", text)
  if (!pooled && !rest && !lists) return(NULL)
  wide <- Filter(function(g) !g$negated && !isTRUE(g$numeric) && g$lead != "only" && state$vocabulary$columns$distinct[g$column] > 2, state$groups)
  # "goalkeepers with everyone else in training": what stands behind "in" or before "only" narrows the rows
  narrows <- vapply(wide, function(g) item_norm(state, min(g$at) - 1) %in% c("in", "during", "within", "at") ||
    item_norm(state, max(g$at) + 1) == "only", NA)
  if (rest && length(wide) > 1) wide <- wide[!narrows]
  if (length(wide) != 1) return(NULL)
  g <- wide[[1]]
  all <- unique(state$vocabulary$values$level[state$vocabulary$values$column == g$column])
  if (rest && length(g$levels) == 1) return(list(group = g, sides = list(g$levels, setdiff(all, g$levels))))
  sides <- split_sides(state, g)
  if (!is.null(sides) && (pooled || lists && min(lengths(sides)) > 1)) list(group = g, sides = sides)
}

#' The levels before and after the word that sets them against each other
#' @noRd
split_sides <- function(state, g) {
  at <- sort(g$at)
  if (length(at) < 3) return(NULL)
  turns <- which(vapply(state$items, function(i) i$norm %in% c("against", "versus", "vs", "than", "to", "with", "from", "compared with",
    "compared to",
                                                              "different from", "differ from"), NA))
  turns <- turns[turns > at[1] & turns < at[length(at)]]
  if (!length(turns)) return(NULL)
  level <- function(where) unique(unlist(lapply(where, function(k) value_level(state, k, g$column))))
  sides <- list(level(at[at < turns[1]]), level(at[at > turns[1]]))
  if (all(lengths(sides) > 0) && !length(intersect(sides[[1]], sides[[2]])) && max(lengths(sides)) > 1) sides
}

#' Take the contrast into the reading: its levels are the rows, its column divides
#' @noRd
take_contrast <- function(state, r, found) {
  name <- column_of(state, found$group$column)
  r$by <- name
  used <- unlist(found$sides)
  all <- state$vocabulary$columns$distinct[found$group$column]
  if (length(used) < all) r$filters <- c(r$filters, list(new_filter(name, "in", used)))
  # shares of levels have no contrast of means: all the groups are compared
  if (length(r$outcome) == 1 && kind_of_names(state, r$outcome) %in% c("category", "yes_no")) {
    r$assumed <- c(r$assumed, sprintf("All groups of %s are compared, since the outcome is no number.", name))
    return(r)
  }
  r$extra$contrast <- found$sides
  label <- vapply(found$sides, function(l) if (length(l) == 1) l else sprintf("the mean of %s", some_of(l, 6)), "")
  r$assumed <- c(r$assumed, sprintf("Set %s against %s; the groups on a side count alike.", label[1], label[2]))
  r
}
