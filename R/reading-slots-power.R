# Filling the slots of questions about sample size: the numbers of the question are effect, power, level, size.

fill_sample_size <- function(state, mentions, r) {
  at <- which(state$type == "number")
  value <- vapply(at, function(k) state$items[[k]]$value, 1)
  percent <- vapply(at, function(k) item_norm(state, k + 1) %in% c("%", "percent"), NA)
  share <- ifelse(percent, value / 100, value)
  around <- vapply(at, function(k) paste(vapply((k - 3):(k + 3), function(j) item_norm(state, j), ""), collapse = " "), "")
  after <- vapply(at, function(k) paste(item_norm(state, k + 1), item_norm(state, k + 2)), "")
  is_power <- grepl("power", after) | (grepl("power", around) & share %in% c(0.8, 0.85, 0.9, 0.95))
  is_alpha <- !is_power & grepl("alpha|level|significance", around) & share <= 0.2
  is_groups <- !is_power & grepl("^groups?|^arms?", after) & value == round(value)
  is_size <- !is_power & !is_groups & value >= 4 & value == round(value) & !percent & grepl(paste0("^(per group|rows|people|patien",
      "ts|participants|animals|hives|in each|each)"), after)
  rest <- !(is_power | is_alpha | is_groups | is_size)
  plan <- list(power = if (any(is_power)) share[is_power][1], alpha = if (any(is_alpha)) share[is_alpha][1], n = if (any(is_size)) value[is_size][1])
  groups <- if (any(is_groups)) value[is_groups][1] else 2
  plan <- c(plan, effect_to_see(state, share[rest], percent[rest], groups))
  r$extra$plan <- compact(plan)
  r$assumed <- c(r$assumed, if (is.null(plan$power) && is.null(plan$n)) "A power of 80 % is wanted.",
      if (is.null(plan$alpha)) "The two-sided level is 0.05.")
  r$outcome <- r$by <- r$predictors <- character()
  r$extra$needs_effect <- is.null(plan$effect) && is.null(plan$p1)
  r
}

effect_to_see <- function(state, values, percent, groups) {
  words <- paste(vapply(state$items, `[[`, "", "norm"), collapse = " ")
  if (!length(values)) return(list(what = "mean"))
  if (grepl("correlat", words)) return(list(what = "correlation", effect = values[1]))
  if (length(values) >= 2 && (all(percent[1:2]) || grepl("proportion|share|rate", words)) && all(values[1:2] > 0 & values[1:2] < 1)) {
    return(list(what = "share", p1 = values[1], p2 = values[2]))
  }
  if (groups > 2 || grepl("anova|analysis of variance", words)) return(list(what = "anova", effect = values[1], groups = max(3, groups)))
  list(what = "mean", effect = values[1])
}
