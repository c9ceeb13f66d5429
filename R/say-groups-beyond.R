# Which groups lie beyond a bound that the question stated ("which regions have a mean yield above 20").

#' One sentence that names the groups on the side asked about
#'
#' @param bound list(op, value), as of the reading's `group_bound`, or NULL.
#' @param groups Names of the groups.
#' @param values Their statistics, on the scale of the bound.
#' @param say Function that formats one value. @param noun What a group is called ("day").
#' @section Shape: text, or NULL where no bound was stated.
#' @noRd
say_groups_beyond <- function(bound, groups, values, say = say_number, noun = "group") {
  if (is.null(bound)) return(NULL)
  side <- c(">" = "above", "<" = "below", ">=" = "at least at", "<=" = "at most at")[[bound$op]]
  hit <- which(compare_to_bound(values, bound))
  if (!length(hit)) return(sprintf("None of the %s lies %s %s.", count_of(length(groups), noun), side, say(bound$value)))
  hit <- hit[order(values[hit], decreasing = startsWith(bound$op, ">"))]
  sprintf("%d of the %s %s %s %s: %s.", length(hit), count_of(length(groups), noun), plural(length(hit), "lies", "lie"), side, say(bound$value),
          some_of(sprintf("%s (%s)", groups[hit], vapply(values[hit], say, "")), 12))
}

compare_to_bound <- function(values, bound) {
  switch(bound$op, ">" = values > bound$value, "<" = values < bound$value, ">=" = values >= bound$value, "<=" = values <= bound$value)
}
