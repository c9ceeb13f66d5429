#' @noRd
method_cronbach_alpha <- function() {
  new_method(
    id = "cronbach_alpha", name = "Cronbach's alpha", tasks = "agreement",
    fits = function(shape) if (shape$task == "agreement" && length(shape$pair_kinds) >= 2 &&
                               all(shape$pair_kinds %in% c("number", "count", "ordered", "yes_no"))) new_fit(85,
                                   "The question asks whether several items measure the same thing."),
    compute = compute_alpha,
    checks = function(ctx, res) list(check_independent_rows(ctx$unit_values, ctx$unit_name),
                                     check_item_direction(res$items$item_rest, res$names)),
    figure = function(ctx, res) figure_items(ctx, res), sentences = say_alpha, script = script_alpha,
    references = c("Cronbach, L. J. (1951). Coefficient alpha and the internal structure of tests. Psychometrika, 16, 297-334.",
                   paste0("Feldt, L. S. (1965). The approximate sampling distribution of Kuder-Richardson reliability ",
                          "coefficient twenty. Psychometrika, 30, 357-370.")),
    next_steps = function(ctx, res) sprintf("Show the correlation matrix of %s", some_of(res$names, 12)))
}

compute_alpha <- function(ctx) {
  names <- unique(c(ctx$reading$outcome, ctx$reading$by, ctx$reading$predictors))
  items <- matrix(unlist(lapply(names, function(name) as_plain_number(ctx$frame$data[[name]]))), ncol = length(names))
  out <- stat_cronbach_alpha(items, ctx$conf_level)
  table <- cbind(item = names, out$items, stringsAsFactors = FALSE)
  result(list(new_number("alpha", "Cronbach's alpha", out$alpha), new_number("alpha_low", "lower limit", out$alpha_low),
              new_number("alpha_high", "upper limit", out$alpha_high),
              new_number("estimate", "Cronbach's alpha", out$alpha), new_number("ci_low", "lower limit", out$alpha_low),
              new_number("ci_high", "upper limit", out$alpha_high),
              new_number("conf_level", "confidence level", ctx$conf_level), new_number("n", "rows used", out$n),
              new_number("items", "items", out$k),
              new_number("standardised_alpha", "standardised alpha", out$standardised),
              new_number("mean_r", "mean correlation between items", out$mean_r)),
         tables = list(new_table("items", "Items", table)), names = names, items = table, direction = NA_real_)
}

say_alpha <- function(ctx, res) {
  n <- res$number
  interval <- say_interval(n$alpha_low, n$alpha_high, ctx$conf_level, say_unit)
  worst <- which.max(res$items$alpha_without)
  gain <- res$items$alpha_without[worst] - n$alpha
  headline <- sprintf("Cronbach's alpha of the %s items is %s (%s).", say_number(n$items), say_unit(n$alpha), interval)
  details <- c(sprintf("The items correlate with %s on average.", say_unit(n$mean_r)),
               if (isTRUE(gain > 0.02)) sprintf("Without %s alpha would be %s.", res$names[worst],
                                                say_unit(res$items$alpha_without[worst])) else "No item lowers alpha by much.", say_rows(ctx))
  list(headline = headline, details = details,
       write_up = sprintf("The internal consistency of the %s items was Cronbach's alpha = %s, %s (n = %s).%s",
                          say_number(n$items), say_unit(n$alpha), interval, say_number(n$n), write_rows(ctx)))
}

script_alpha <- function(ctx, res) {
  c(sprintf("items <- cbind(%s)", paste(vapply(res$names, script_value, ""), collapse = ",\n  ")),
    "alpha_of <- function(x) { v <- var(x); ncol(x) / (ncol(x) - 1) * (1 - sum(diag(v)) / sum(v)) }",
    "n <- nrow(items); k <- ncol(items); alpha <- alpha_of(items); tail <- (1 - conf_level) / 2",
    paste0("low <- 1 - (1 - alpha) * qf(1 - tail, n - 1, (n - 1) * (k - 1)); high <- 1 - (1 - alpha) * qf(tail, n - ",
           "1, (n - 1) * (k - 1))"), "r <- cor(items); r <- mean(r[upper.tri(r)])",
    "tables <- list(items = data.frame(item_rest = vapply(seq_len(k), function(j) cor(items[, j], rowSums(items[, -j, drop = FALSE])), 1),",
        paste0("  alpha_without = vapply(seq_len(k), function(j) if (k > 2) alpha_of(items[, -j]) else NA_real_, 1), ",
               "mean = colMeans(items), sd = apply(items, 2, sd)))"),
    paste0("numbers <- list(alpha = alpha, alpha_low = low, alpha_high = high, estimate = alpha, ci_low = low, ",
           "ci_high = high, conf_level = conf_level, n = n, items = k, standardised_alpha = k * r / (1 + (k - 1) * ",
           "r), mean_r = r)"))
}
