#' @noRd
method_multinomial_exact <- function() {
  new_method(
    id = "multinomial_exact", name = "Exact multinomial test", tasks = c("compare", "frequency"),
    fits = function(shape) {
      if (!shape$task %in% c("compare", "frequency", "distribution")) return(NULL)
      fit <- method_chi_square_goodness()$fits(utils::modifyList(shape, list(even = TRUE)))
      if (!is.null(fit) && (isTRUE(shape$even) || !is.null(shape$method_asked))) new_fit(40, "You asked for the exact test of the shares.")
    },
    compute = function(ctx) {
      plain <- method_chi_square_goodness()$compute(ctx)
      out <- stat_multinomial_exact(plain$counts, plain$shares %||% rep(1, length(plain$counts)), ctx$seed)
      result(list(new_number("p_value", "p", out$p_value), new_number("n", "rows used", out$n), new_number("conf_level", "confidence level",
                    ctx$conf_level), new_number(if (out$exact) "tables" else "resamples", if (out$exact) "tables counted through" else "random tables",  # nolint: line_length_linter.
                      out$tables)),
             tables = plain$tables, name = plain$name, counts = plain$counts, levels = plain$levels, expected = plain$expected,
             shares = plain$shares, exact = out$exact, direction = NA_real_)
    },
    checks = function(ctx, res) list(check_independent_rows(ctx$unit_values, ctx$unit_name)), second = "chi_square_goodness",
    figure = function(ctx, res) method_chi_square_goodness()$figure(ctx, res), sentences = say_multinomial_exact,
    script = script_multinomial_exact,
    references = "Cressie, N., & Read, T. R. C. (1984). Multinomial goodness-of-fit tests. Journal of the Royal Statistical Society B, 46, 440-464.",
    next_steps = function(ctx, res) sprintf("How many rows are there for each %s?", res$name))
}

say_multinomial_exact <- function(ctx, res) {
  n <- res$number
  most <- which.max(res$counts); least <- which.min(res$counts)
  against <- if (is.null(res$shares)) "equal shares" else sprintf("the expected shares (%s)", paste(res$levels,
    say_percent(res$shares / sum(res$shares), 0), collapse = ", "))
  text <- sprintf("The counts of %s %s %s: from %s (%s) to %s (%s), %s.", say_column(ctx$columns[[res$name]]),
                  if (isTRUE(n$p_value < 1 - ctx$conf_level)) "differ from" else "do not clearly differ from", against, say_number(res$counts[least]),
                  res$levels[least], say_number(res$counts[most]), res$levels[most], say_p(n$p_value))
  how <- if (res$exact) sprintf("All %s ways to spread the rows over the levels were counted through.", say_number(n$tables))
    else sprintf("The p value comes from %s random tables (seed %s).", say_number(n$resamples), format(ctx$seed, scientific = FALSE))
  list(headline = text, details = c(how, say_rows(ctx)),
       write_up = sprintf("The counts of %s were compared with %s by the exact multinomial test, %s (N = %s).%s", say_column(ctx$columns[[res$name]]),
                          against, say_p(n$p_value), say_number(n$n), write_rows(ctx)))
}

script_multinomial_exact <- function(ctx, res) {
  plain <- method_chi_square_goodness()$script(ctx, res)
  c(plain, sprintf("share <- %s; share <- share / sum(share); n <- as.vector(counts); total <- sum(n); k <- length(n)",
                   if (is.null(res$shares)) "rep(1, length(counts))" else sprintf("c(%s)", paste(vapply(res$shares, as_r_number, ""), collapse = ", "))),  # nolint: line_length_linter.
    if (res$exact) c("# every table of so many rows, with its chance",
      "spread <- function(n, k) if (k == 1) matrix(n) else do.call(rbind, lapply(0:n, function(i) cbind(i, spread(n - i, k - 1))))",
      "all <- spread(total, k)",
      "chance <- apply(all, 1, dmultinom, prob = share)",
      "p <- min(1, sum(chance[chance <= dmultinom(n, prob = share) * (1 + 1e-7)])); tables_seen <- nrow(all)")
    else c(sprintf("RNGkind(\"L'Ecuyer-CMRG\", \"Inversion\", \"Rejection\"); set.seed(%s)", format(ctx$seed, scientific = FALSE)),
      sprintf("drawn <- rmultinom(%d, total, share); chance <- apply(drawn, 2, dmultinom, prob = share)", as.integer(res$number$resamples)),
      "p <- (sum(chance <= dmultinom(n, prob = share) * (1 + 1e-7)) + 1) / (ncol(drawn) + 1); tables_seen <- ncol(drawn)"),
    sprintf("numbers <- list(p_value = p, n = total, conf_level = conf_level, %s = tables_seen)", if (res$exact) "tables" else "resamples"))
}
