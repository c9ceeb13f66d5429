#' @noRd
method_jonckheere <- function() {
  new_method(
    id = "jonckheere", name = "Jonckheere-Terpstra test", tasks = "compare",
    fits = function(shape) {
      fit <- fits_several_groups(shape, 44, "You asked for a test of a trend over ordered groups.", kinds = c("number", "count", "ordered"))
      if (!is.null(fit) && (identical(shape$by_kinds, "ordered") ||
          identical(shape$method_asked,
          "jonckheere"))) new_fit(fit$score + 48 * (isTRUE(shape$trend_words) && identical(shape$by_kinds, "ordered")), fit$why)
    },
    compute = function(ctx) {
      s <- groups_in_order(several_groups(ctx), ctx)
      out <- stat_jonckheere(s$y, s$code, ctx$alternative)
      tau <- stat_kendall(s$code, s$y, ctx$conf_level)
      result(c(test_numbers(out[c("statistic", "p_value", "n")], "J", "", ctx$conf_level), list(new_number("z", "z", out$z)),
               list(new_number("tau", "Kendall's tau with the order of the groups", tau$estimate)), own_limits("tau", "Kendall's tau", tau)), tables = list(groups_table(ctx)), levels = s$levels, values = s$values,  # nolint: line_length_linter.
             reordered = s$reordered, medians = vapply(s$values, function(v) stat_group_quantiles(v, probs = 0.5)[1], 1), direction = sign(out$z))
    },
    checks = function(ctx, res) list(check_independent_rows(ctx$unit_values, ctx$unit_name), check_same_shape(res$values, res$levels),
                                     check_group_order(ctx, res)),
    second = "kruskal_wallis", figure = function(ctx, res) figure_groups(ctx, outcome_name(ctx), ctx$reading$by[1]),
    sentences = function(ctx, res) {
      n <- res$number; y <- say_column(outcome_column(ctx)); by <- say_column(ctx$columns[[ctx$reading$by[1]]])
      way <- if (!isTRUE(n$p_value < 1 - ctx$conf_level)) "shows no clear trend" else if (n$z > 0) "rises" else "falls"
      test <- sprintf("J = %s, z = %s, %s, tau = %s%s", say_number(n$statistic), say_number(n$z, 2), say_p(n$p_value), say_unit(n$tau),
                      if (is.finite(n$tau_low %||% NA)) sprintf(" (%s)", say_interval(n$tau_low, n$tau_high, ctx$conf_level, say_unit)) else "")
      list(headline = sprintf("%s %s over the ordered groups of %s (%s): %s.", capital(y), way, by, paste(res$levels, collapse = ", "), test),
           details = c(say_group_order(ctx, res), sprintf("Medians: %s.", paste(sprintf("%s %s", res$levels, say_number(res$medians)),
               collapse = ", ")), say_rows(ctx)),
           write_up = sprintf("A trend of %s over %s was tested with the Jonckheere-Terpstra test: %s (n = %s).%s", y,
               by, test, say_number(n$n), write_rows(ctx)))
    },
    script = function(ctx, res) c(script_several_groups(ctx),
      if (res$reordered) sprintf("g <- factor(as.character(g), %s); size <- as.vector(table(g))", as_r_strings(res$levels)),
          "n <- length(y); j <- 0; values <- split(y, g)",
      paste0("for (a in seq_len(k)[-1]) for (b in seq_len(a - 1)) j <- j +",
          " suppressWarnings(wilcox.test(values[[a]], values[[b]], exact = FALSE)$statistic[[1]])"),
      paste0("ties <- as.vector(table(y)); s2 <- function(v) sum(v * (v - 1)); s3 <- function(v) sum(v * (v",
          " - 1) * (v - 2)); s5 <- function(v) sum(v * (v - 1) * (2 * v + 5))"),
      paste0("v <- (n * (n - 1) * (2 * n + 5) - s5(size) - s5(ties)) / 72 + s3(size) * s3(ties) / (36 * n *",
          " (n - 1) * (n - 2)) + s2(size) * s2(ties) / (8 * n * (n - 1))"),
      "z <- (j - (n^2 - sum(size^2)) / 4) / sqrt(v)",
      sprintf("numbers <- list(statistic = j, p_value = %s, conf_level = conf_level, n = n, z = z)",
          switch(ctx$alternative, two_sided = "2 * pnorm(-abs(z))", greater = "pnorm(z, lower.tail = FALSE)",
          less = "pnorm(z)")),
      "tau <- cor(as.integer(g), y, method = \"kendall\"); numbers$tau <- tau",
      "if (n > 4) numbers[c(\"tau_low\", \"tau_high\")] <- tanh(atanh(tau) + c(-1, 1) * qnorm(1 - (1 - conf_level) / 2) * sqrt(0.437 / (n - 4)))",
      script_groups(ctx)),
    references = c("Jonckheere, A. R. (1954). A distribution-free k-sample test against ordered alternatives. Biometrika, 41, 133-145.",
                   "Fieller, E. C., Hartley, H. O., & Pearson, E. S. (1957). Tests for rank correlation coefficients. I. Biometrika, 44, 470-481."),
    next_steps = function(ctx, res) utils::tail(next_several_groups(ctx, res), 1))
}

#' Groups by the size that their names speak of ("placebo", "low dose", "high dose"), where no order is declared
#' @noRd
groups_in_order <- function(s, ctx) {
  place <- if (ctx$columns[[ctx$reading$by[1]]]$kind == "category") level_places(s$levels)
  s$reordered <- !is.null(place) && is.unsorted(place)
  if (!s$reordered) return(s)
  at <- order(place)
  s$code <- match(s$code, at)
  s$levels <- s$levels[at]; s$values <- s$values[at]
  s
}

#' @section Shape: numbers that put the levels in order, or NULL where their names do not say it.
#' @noRd
level_places <- function(levels) {
  words <- list("none|placebo|control|no|zero|sham|untreated", "very low|lowest", "low|mild|small|minor|light|short|young",
      "medium|moderate|mid|middle|average",
                "high|large|severe|major|heavy|strong|long|old", "very high|highest|extreme")
  place <- vapply(tolower(levels), function(l) { hit <- which(vapply(words, function(w) grepl(paste0("\\b(", w, ")\\b"), l),
      NA)); if (length(hit)) last_of(hit) else NA_integer_ }, 1L)
  if (anyNA(place)) {
    number <- suppressWarnings(as.numeric(sub("^[^0-9]*([0-9.]+).*$", "\\1", levels)))
    place <- ifelse(is.na(number) & place %in% 1L, 0, number)
  }
  if (anyNA(place) || anyDuplicated(place)) NULL else unname(place)
}

say_group_order <- function(ctx, res) {
  if (ctx$columns[[ctx$reading$by[1]]]$kind == "category" && res$reordered) "The groups stand in the order that their names speak of."
}

#' Does anything say that the groups are ordered: their kind, or their names? Otherwise a trend over them means nothing by itself.
#' @noRd
check_group_order <- function(ctx, res) {
  column <- ctx$columns[[ctx$reading$by[1]]]
  known <- column$kind != "category" || !is.null(level_places(res$levels))
  new_check("group_order", if (known) "ok" else "caution", "Kind and names of the groups",
            facts = list(column = say_column(column), name = column$name, levels = some_of(res$levels, 6)))
}
