# What every method shares: its shape, the register, numbers and tables.

#' Make a method
#'
#' @param id,name As in the answer document.
#' @param tasks Tasks it serves.
#' @param fits function(shape) giving [new_fit()] or NULL.
#' @param compute function(ctx) giving [result()].
#' @param checks function(ctx, res) giving a list of checks.
#' @param second Ids of second opinions.
#' @param figure function(ctx, res) giving a figure or NULL.
#' @param sentences function(ctx, res) giving headline, details, write_up.
#' @param script function(ctx, res) giving lines that set `numbers` and `tables` from the data frame `rows`.
#' @param references Character.
#' @param weights Does it respect sampling weights, where the reading has them?
#' @param families Everyday names that stand for several methods ("rank_test"), of which the data choose one.
#' @noRd
new_method <- function(id, name, tasks, fits, compute, checks = function(ctx, res) list(), second = character(),
                       figure = function(ctx, res) NULL,
                       sentences, script, references = character(), families = character(), weights = FALSE,
                       next_steps = function(ctx, res) character()) {
  stopifnot(is.character(id), is.function(fits), is.function(compute), is.function(sentences), is.function(script))
  structure(as.list(environment()), class = "upbeatquill_method")
}

new_fit <- function(score, why) list(score = score, why = why)

#' Every method of the package: the functions called method_<id>
#' @noRd
registered_methods <- local({
  # (they do not change while the package is loaded)
  kept <- NULL
  function() {
    if (is.null(kept)) {
      space <- asNamespace("upbeatquill")
      methods <- lapply(ls(space, pattern = "^method_"), function(maker) get(maker, envir = space)())
      kept <<- stats::setNames(methods, vapply(methods, `[[`, "", "id"))
    }
    kept
  }
})

find_method <- function(id) {
  maker <- get0(paste0("method_", id), envir = asNamespace("upbeatquill"), mode = "function")
  if (is.null(maker)) NULL else maker()
}

new_number <- function(id, label, value, of = NULL) list(id = id, label = label, value = unname(as.numeric(value)),
                                                         of = of)

new_table <- function(id, title, data) list(id = id, title = title, data = data)

#' @section Shape: list(numbers, number = the same by id, tables, ...).
#' @noRd
result <- function(numbers, tables = list(), ...) {
  numbers <- compact(numbers)
  c(list(numbers = numbers, number = stats::setNames(lapply(numbers, `[[`, "value"), vapply(numbers, `[[`, "", "id")),
         tables = tables), list(...))
}

#' Numbers of the usual test, in the usual order
#' @noRd
test_numbers <- function(out, statistic_label, estimate_label, conf_level) {
  take <- function(id, label) if (!is.null(out[[id]])) new_number(id, label, out[[id]])
  compact(list(take("statistic", statistic_label), take("df", "degrees of freedom"), take("df1", "df (between)"),
               take("df2", "df (within)"), take("p_value", "p"),
               take("estimate", estimate_label), take("se", "standard error"), take("ci_low", "lower limit"),
               take("ci_high", "upper limit"),
               new_number("conf_level", "confidence level", conf_level), take("n", "rows used")))
}

effect_numbers <- function(out, labels) {
  unlist(lapply(names(labels), function(id) {
    ids <- c(id, paste0(id, "_low"), paste0(id, "_high"))
    text <- paste0(labels[[id]], c("", ", lower limit", ", upper limit"))
    lapply(which(!vapply(ids, function(i) is.null(out[[i]]), NA)),
           function(k) new_number(ids[k], text[k], out[[ids[k]]]))
  }), recursive = FALSE)
}

#' The two limits of an effect, named by its id; none where there are none
#' @noRd
limit_numbers <- function(id, label, limits) {
  if (length(limits) != 2 || anyNA(limits)) return(NULL)
  list(new_number(paste0(id, "_low"), paste0(label, ", lower limit"), limits[1]),
       new_number(paste0(id, "_high"), paste0(label, ", upper limit"), limits[2]))
}

#' The interval of the main estimate under the effect's own id as well
#' @noRd
own_limits <- function(id, label, out) if (!is.null(out$ci_low)) limit_numbers(id, label, c(out$ci_low, out$ci_high))

#' " (95 % CI ... to ...)" of an effect, or nothing
#' @noRd
say_effect_limits <- function(n, id, conf_level) {
  low <- n[[paste0(id, "_low")]]
  if (is.null(low)) "" else sprintf(", %s", say_interval(low, n[[paste0(id, "_high")]], conf_level, say_unit))
}

outcome_name <- function(ctx) ctx$reading$outcome[1]
outcome_column <- function(ctx) ctx$columns[[outcome_name(ctx)]]

#' Outcome as numbers: an ordered answer by its number
#' @noRd
outcome_values <- function(ctx, name = outcome_name(ctx)) as_plain_number(ctx$frame$data[[name]])

#' One group for each combination of the by columns
#' @noRd
group_of <- function(ctx, by = ctx$reading$by) {
  parts <- lapply(by, function(name) as_group(ctx$frame$data[[name]]))
  if (length(parts) == 1) return(parts[[1]])
  combined <- interaction(parts, drop = TRUE, lex.order = TRUE, sep = " & ")
  combined
}

#' The groups table of the answer document
#' @noRd
groups_table <- function(ctx, y = outcome_name(ctx), by = ctx$reading$by) {
  group <- group_of(ctx, by)
  s <- stat_group_summary(outcome_values(ctx, y), as.integer(group), nlevels(group))
  first <- match(levels(group), as.character(group))
  labels <- lapply(by, function(name) { g <- as_group(ctx$frame$data[[name]]); as.character(g)[first] })
  # a group column that is itself called "n" or "mean" must not hide the statistic of that name
  names(labels) <- ifelse(by %in% names(s), paste(by, "(column)"), by)
  s$missing <- missing_by_group(ctx, y, by, labels)
  keep <- c("n", "missing", "mean", "sd", "se", "median", "q1", "q3", "min", "max")
  # what is asked for and stands in no table by itself comes before what does, so that a narrow view shows it
  asked <- if (identical(ctx$reading$statistic, "sum")) list(sum = s$sum) else list()
  for (id in statistics_besides(ctx)) {
    asked[[id]] <- vapply(split(outcome_values(ctx, y), group), function(v) further_statistics()[[id]]$compute(v[!is.na(v)]), 1)
  }
  data <- as.data.frame(c(labels, s[keep[1:2]], asked, s[keep[-(1:2)]]), check.names = FALSE, stringsAsFactors = FALSE)
  new_table("groups", sprintf("%s by %s", y, paste(by, collapse = " and ")), data)
}

#' Statistics that are asked for and stand in no table of groups by themselves
#' @noRd
statistics_besides <- function(ctx) intersect(unique(c(ctx$reading$statistic, unlist(ctx$reading$extra$statistics))), names(further_statistics()))

#' Rows of each group whose outcome is missing
#' @noRd
missing_by_group <- function(ctx, y, by, labels) {
  n <- length(labels[[1]])
  if (ctx$frame$left_out_missing == 0) return(rep(0, n))
  all <- ctx$frame_without(y)
  key <- function(parts) do.call(paste, c(lapply(parts, as.character), sep = "\r"))
  gone <- is.na(all$data[[y]])
  where <- key(lapply(by, function(name) { g <- as_group(all$data[[name]]); as.character(g) }))[gone]
  as.numeric(table(factor(where, levels = key(labels))))
}

#' Script lines for the groups table
#' @noRd
script_groups <- function(ctx, y = outcome_name(ctx), by = ctx$reading$by) {
  sum_column <- if (identical(ctx$reading$statistic, "sum")) ", sum = sum(v)"
  further <- vapply(statistics_besides(ctx), function(id) sprintf(", %s = %s", id, further_statistics()[[id]]$script), "")
  sum_column <- paste(c(sum_column, further), collapse = "")
  c("# summaries of each group",
    sprintf("kept_y <- %s", gsub("rows[[", "kept[[", script_value(y), fixed = TRUE)),
    sprintf("kept_g <- %s", script_group(by, "kept")),
    "kept_g <- droplevels(kept_g[, drop = TRUE])",
    "group_rows <- lapply(levels(kept_g), function(level) {",
    "  all <- kept_y[which(kept_g == level)]",
    "  v <- all[!is.na(all)]",
    "  if (!length(v)) return(NULL)",
    sprintf(paste0("  data.frame(n = length(v), missing = sum(is.na(all)), mean = mean(v), sd = sd(v), se = sd(v) / ",
                   "sqrt(length(v)), median = median(v),\n    q1 = quantile(v, 0.25), q3 = quantile(v, 0.75), min = ",
                   "min(v), max = max(v)%s)"), sum_column),
    "})", "tables$groups <- do.call(rbind, group_rows)")
}

#' Groups of the outcome as a list of vectors
#' @noRd
split_groups <- function(ctx) {
  g <- group_of(ctx)
  list(values = unname(split(outcome_values(ctx), g)), levels = levels(g), group = g)
}

#' Whether rows stand for different units, where a unit is known
#' @noRd
check_known_units <- function(ctx) if (is.null(ctx$unit_values)) list() else list(check_independent_rows(ctx$unit_values, ctx$unit_name))
