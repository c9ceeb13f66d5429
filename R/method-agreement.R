# Raters and measurements compared: kappas, intraclass correlations, limits of agreement, omega, items.

agreement_names <- function(ctx) unique(c(ctx$reading$outcome, ctx$reading$by, ctx$reading$predictors))

fits_agreement <- function(shape, score, why, kinds, columns) {
  if (shape$task != "agreement" || !length(shape$pair_kinds) %in% columns) return(NULL)
  asked <- isTRUE(shape$raters)
  # (scores beyond 0 to 10 are measured, not sorted into levels)
  if ("count" %in% kinds && !"number" %in% kinds && isTRUE(shape$pair_levels > 11) && is.null(shape$method_asked)) return(NULL)
  if (all(shape$pair_kinds %in% kinds)) new_fit(score + 20 * asked, why)
}

#' Ratings of all raters on one set of levels
#' @section Shape: list(codes (matrix), levels, names).
#' @noRd
rating_codes <- function(ctx) {
  names <- agreement_names(ctx)
  columns <- lapply(names, function(n) as_group(ctx$frame$data[[n]]))
  declared <- lapply(names, function(n) ctx$columns[[n]]$levels)
  levels <- unique(c(unlist(declared), unlist(lapply(columns, levels))))
  numbers <- suppressWarnings(as.numeric(levels))
  if (!anyNA(numbers)) levels <- levels[order(numbers)]
  used <- levels[levels %in% unlist(lapply(columns, function(v) as.character(v)))]
  if (length(used) > 60) stop_data("The ratings take too many values for a kappa.", todo = "Use the intraclass correlation.", class = "unfit_data")
  list(codes = vapply(columns, function(v) as.numeric(match(as.character(v), used)), numeric(length(columns[[1]]))), levels = used, names = names)
}

kappa_words <- function(kappa) {
  # Landis and Koch (1977), a convention
  c("poor", "slight", "fair", "moderate", "substantial", "almost perfect")[findInterval(kappa, c(0, 0.2, 0.4, 0.6, 0.8)) + 1]
}

#' Do weights credit ratings that differ by little?
#' @noRd
has_credit <- function(out) !is.null(out$credited) && abs(out$credited - out$agreement) > 1e-12

#' Raw agreement beside what chance would give, both with the same weights
#' @noRd
say_raw_agreement <- function(n) {
  size <- sprintf("%s by the convention of Landis and Koch.", kappa_words(n$kappa))
  if (is.null(n$credited_agreement)) return(sprintf("They agree in %s, where chance alone would give %s; %s", say_percent(n$agreement),
                                                    say_percent(n$expected_agreement), size))
  sprintf("They agree exactly in %s; with near misses credited they agree to %s, where chance alone would give %s; %s", say_percent(n$agreement),
          say_percent(n$credited_agreement), say_percent(n$expected_agreement), size)
}

kappa_method <- function(id, name, score, columns, kinds, why, run, script, reference, second = "gwet_ac1") {
  new_method(
    id = id, name = name, tasks = "agreement", fits = function(shape) fits_agreement(shape, score, why, kinds, columns),
    compute = function(ctx) {
      s <- rating_codes(ctx)
      if (length(s$levels) < 2) stop_data("All ratings are the same, so agreement beyond chance cannot be told.", class = "outcome_constant")
      out <- run(s, ctx$conf_level)
      cells <- if (ncol(s$codes) == 2) { counts <- table(factor(s$codes[, 1], seq_along(s$levels)), factor(s$codes[, 2], seq_along(s$levels)))
        list(new_table("crosstab", sprintf("%s by %s", s$names[1], s$names[2]),
            stats::setNames(data.frame(rep(s$levels, length(s$levels)), rep(s$levels, each = length(s$levels)),
          as.vector(counts), stringsAsFactors = FALSE), c(s$names[1], if (s$names[2] == "n") "n (column)" else s$names[2], "n")))) }
      result(list(new_number("statistic", "z", out$statistic), new_number("p_value", "p", out$p_value),
          new_number("estimate", "kappa", out$kappa), new_number("se", "standard error", out$se),
                  new_number("ci_low", "lower limit", out$kappa_low), new_number("ci_high", "upper limit",
                      out$kappa_high), new_number("conf_level", "confidence level", ctx$conf_level),
                  new_number("n", "rows used", out$n), new_number("kappa", "kappa", out$kappa), new_number("kappa_low", "lower limit", out$kappa_low),
                  new_number("kappa_high", "upper limit", out$kappa_high), new_number("agreement", "share of agreement", out$agreement),
                  if (has_credit(out)) new_number("credited_agreement", "agreement with near misses credited", out$credited),
                  new_number("expected_agreement", "agreement expected by chance", out$expected)),
             tables = c(cells, list()), ratings = s, direction = NA_real_)
    },
    checks = function(ctx, res) list(check_independent_rows(ctx$unit_values, ctx$unit_name)), second = second,
    figure = function(ctx, res) if (length(res$ratings$names) == 2) figure_shares(ctx, res$ratings$names[1],
        res$ratings$names[2], table(res$ratings$codes[, 1], res$ratings$codes[, 2]) |>
      (\(t) { m <- unclass(t); dimnames(m) <- list(res$ratings$levels[as.integer(rownames(m))], res$ratings$levels[as.integer(colnames(m))]); m })()),
    sentences = function(ctx, res) {
      n <- res$number
      interval <- say_interval(n$ci_low, n$ci_high, ctx$conf_level, say_unit)
      who <- some_of(res$ratings$names, 6)
      same <- if (length(res$ratings$names) == 2) sprintf("%s give the same answer in %s of %s", capital(who), say_percent(n$agreement),
          count_of(n$n, "row"))
        else sprintf("Any two of %s give the same answer in %s of the cases", who, say_percent(n$agreement))
      list(headline = sprintf("%s; beyond chance they agree with kappa = %s (%s), %s.", same, say_unit(n$kappa), interval, say_p(n$p_value)),
           details = c(say_raw_agreement(n), say_rows(ctx)),
           write_up = sprintf("Agreement of %s was kappa = %s, %s (n = %s; raw agreement %s).%s", who,
               say_unit(n$kappa), interval, say_number(n$n), say_percent(n$agreement), write_rows(ctx)))
    },
    script = function(ctx, res) c(script_ratings(ctx, res$ratings), script,
      "half <- qnorm(1 - (1 - conf_level) / 2) * se; z <- kappa / se0",
      paste0("numbers <- list(statistic = z, p_value = 2 * pnorm(-abs(z)), estimate = kappa, se = se,",
          " ci_low = kappa - half, ci_high = min(1, kappa + half), conf_level = conf_level, n = n,"),
      paste0("  kappa = kappa, kappa_low = kappa - half, kappa_high = min(1, kappa + half), agreement = observed_plain, ",
             if (!is.null(res$number$credited_agreement)) "credited_agreement = observed, ", "expected_agreement = expected)")),
    references = reference, next_steps = function(ctx, res) "What is in this data?")
}

script_ratings <- function(ctx, s) {
  c(sprintf("levels_used <- %s; tables <- list()", as_r_strings(s$levels)),
    sprintf("ratings <- cbind(%s)", paste(sprintf("match(%s, levels_used)", vapply(s$names, script_text, "")), collapse = ", ")),
    "n <- nrow(ratings); k <- length(levels_used)",
    if (length(s$names) == 2) paste0("counts <- table(factor(ratings[, 1], seq_len(k)), factor(ratings[,",
        " 2], seq_len(k))); tables$crosstab <- data.frame(n = as.vector(counts))"))
}

script_cohen <- function(weights) {
  c("apart <- abs(outer(seq_len(k), seq_len(k), \"-\"))", sprintf("w <- %s",
      switch(weights, none = "(apart == 0) * 1", linear = "1 - apart / (k - 1)", quadratic = "1 - (apart / (k - 1))^2")),
    "p <- counts / n; a <- rowSums(p); b <- colSums(p); observed <- sum(w * p); expected <- sum(w * outer(a, b)); observed_plain <- sum(diag(p))",
    "kappa <- (observed - expected) / (1 - expected); both <- outer(as.vector(w %*% b), as.vector(t(w) %*% a), \"+\")",
    "se <- sqrt((sum(p * (w - both * (1 - kappa))^2) - (kappa - expected * (1 - kappa))^2) / (n * (1 - expected)^2))",
    "se0 <- sqrt((sum(outer(a, b) * (w - both)^2) - expected^2) / (n * (1 - expected)^2))")
}

cohen_counts <- function(s) {
  k <- length(s$levels)
  matrix(table(factor(s$codes[, 1], seq_len(k)), factor(s$codes[, 2], seq_len(k))), k)
}

#' @noRd
method_cohen_kappa <- function() {
  kappa_method("cohen_kappa", "Cohen's kappa", 70, 2L, c("category", "yes_no", "ordered", "count", "constant"),
      "Two raters put the same subjects into categories.",
    function(s, level) stat_cohen_kappa(cohen_counts(s), "none", level), script_cohen("none"),
    c("Cohen, J. (1960). A coefficient of agreement for nominal scales. Educational and Psychological Measurement, 20, 37-46.",
      "Landis, J. R., & Koch, G. G. (1977). The measurement of observer agreement for categorical data. Biometrics, 33, 159-174."))
}

#' @noRd
method_weighted_kappa <- function() {
  kappa_method("weighted_kappa", "Weighted kappa (quadratic weights)", 72, 2L, c("ordered", "count"),
      "Two raters grade the same subjects on an ordered scale.",
    function(s, level) stat_cohen_kappa(cohen_counts(s), "quadratic", level), script_cohen("quadratic"),
    paste0("Cohen, J. (1968). Weighted kappa: Nominal scale agreement provision for scaled disagreement or",
        " partial credit. Psychological Bulletin, 70, 213-220."), second = "gwet_ac2")
}

#' @noRd
method_fleiss_kappa <- function() {
  kappa_method("fleiss_kappa", "Fleiss' kappa", 70, 3:60, c("category", "yes_no", "ordered", "count", "constant"),
      "Several raters put the same subjects into categories.",
    function(s, level) stat_fleiss_kappa(s$codes, length(s$levels), level),
    c("m <- ncol(ratings); counts <- vapply(seq_len(k), function(j) rowSums(ratings == j), numeric(n)); share <- colSums(counts) / (n * m)",
      paste0("observed_plain <- mean((rowSums(counts^2) - m) / (m * (m - 1))); expected <- sum(share^2);",
          " kappa <- (observed_plain - expected) / (1 - expected)"),
      "q <- share * (1 - share); se <- se0 <- sqrt(2) / (sum(q) * sqrt(n * m * (m - 1))) * sqrt(sum(q)^2 - sum(q * (1 - 2 * share)))"),
    "Fleiss, J. L. (1971). Measuring nominal scale agreement among many raters. Psychological Bulletin, 76, 378-382.")
}

#' Measurements of several raters as a matrix
#' @noRd
measured_matrix <- function(ctx, names = agreement_names(ctx)) {
  matrix(unlist(lapply(names, function(n) as_plain_number(ctx$frame$data[[n]]))), ncol = length(names), dimnames = list(NULL, names))
}

script_measured <- function(names) sprintf("x <- cbind(%s); n <- nrow(x); k <- ncol(x)", paste(vapply(names, script_value, ""), collapse = ", "))

#' @noRd
method_limits_of_agreement <- function() {
  new_method(
    id = "limits_of_agreement", name = "Limits of agreement", tasks = "agreement",
    fits = function(shape) fits_agreement(shape, 62, "Two instruments measure the same subjects in the same unit.", c("number", "count", "ordered"),
        2L),
    compute = function(ctx) {
      names <- agreement_names(ctx)[1:2]
      worded <- Filter(function(n) is.factor(ctx$frame$data[[n]]) && anyNA(suppressWarnings(as.numeric(levels(ctx$frame$data[[n]])))), names)
      if (length(worded)) stop_data(sprintf("%s holds levels in words, of which no differences can be taken.", quoted(worded[1])),
          class = "no_method",
                                    todo = sprintf("Ask for the weighted kappa of %s and %s.", names[1], names[2]))
      x <- measured_matrix(ctx, names)
      out <- stat_limits_of_agreement(x[, 1], x[, 2], ctx$conf_level)
      result(list(new_number("estimate", sprintf("mean difference, %s minus %s", names[1], names[2]), out$bias),
          new_number("ci_low", "lower limit", out$bias_low),
                  new_number("ci_high", "upper limit", out$bias_high), new_number("conf_level", "confidence level",
                      ctx$conf_level), new_number("n", "pairs", out$n),
                  new_number("sd_difference", "standard deviation of the differences", out$sd), new_number("limit_low",
                      "lower limit of agreement", out$lower),
                  new_number("limit_high", "upper limit of agreement", out$upper), new_number("limit_margin",
                      "half-width of the interval of each limit", out$margin)),
             tables = list(), names = names, x = x, direction = NA_real_)
    },
    checks = function(ctx, res) list(check_independent_rows(ctx$unit_values, ctx$unit_name),
        check_mean_normal(list(res$x[, 1] - res$x[, 2]), "The differences")),
    second = "intraclass_correlation", figure = function(ctx, res) figure_agreement(ctx, res),
    sentences = function(ctx, res) {
      n <- res$number; unit <- outcome_column(ctx)$unit
      limits <- sprintf("%s to %s", say_number(n$limit_low), with_unit(say_number(n$limit_high), unit))
      list(headline = sprintf("%s and %s differ by %s on average (%s); 95 %% of the differences lie within %s.",
          capital(res$names[1]), res$names[2], with_unit(say_number(n$estimate), unit),
                              say_interval(n$ci_low, n$ci_high, ctx$conf_level), limits),
           details = c("Whether these limits are narrow enough is a matter of use, not of statistics.", say_rows(ctx)),
           write_up = sprintf("Agreement of %s and %s: mean difference %s (%s), limits of agreement %s (n = %s).%s",
               res$names[1], res$names[2], with_unit(say_number(n$estimate), unit),
                              say_interval(n$ci_low, n$ci_high, ctx$conf_level), limits, say_number(n$n), write_rows(ctx)))
    },
    script = function(ctx, res) c(script_measured(res$names),
        "d <- x[, 1] - x[, 2]; test <- t.test(d, conf.level = conf_level); s <- sd(d); tables <- list()",
      "margin <- qt(1 - (1 - conf_level) / 2, n - 1) * s * sqrt(1 / n + 1.96^2 / (2 * (n - 1)))",
      paste0("numbers <- list(estimate = mean(d), ci_low = test$conf.int[1], ci_high = test$conf.int[2],",
          " conf_level = conf_level, n = n, sd_difference = s, limit_low = mean(d) - 1.96 * s,"),
      "  limit_high = mean(d) + 1.96 * s, limit_margin = margin)"),
    references = paste0("Bland, J. M., & Altman, D. G. (1986). Statistical methods for assessing agreement",
        " between two methods of clinical measurement. Lancet, 327, 307-310."),
    next_steps = function(ctx, res) sprintf("What is the correlation between %s and %s?", res$names[1], res$names[2]))
}

#' Differences of two measurements against their means
#' @noRd
figure_agreement <- function(ctx, res) {
  d <- data.frame(mean = rowMeans(res$x), difference = res$x[, 1] - res$x[, 2])
  n <- res$number
  title <- sprintf("Agreement of %s and %s", res$names[1], res$names[2])
  new_figure("agreement", title, "scatter", subtitle = "Difference of each pair against its mean; lines at the mean and the limits of agreement.",
             alt = sprintf("%s: a point for each pair, three horizontal lines.", title),
    draw = function() ggplot2::ggplot(d, ggplot2::aes(x = .data$mean, y = .data$difference)) +
      ggplot2::geom_hline(yintercept = n$estimate, colour = quill_colours(2)[2], linewidth = 0.9) +
      ggplot2::geom_hline(yintercept = c(n$limit_low, n$limit_high), colour = quill_colours(2)[2], linetype = 2) +
      ggplot2::geom_point(colour = quill_colours(1), alpha = 0.8, size = 2) + ggplot2::labs(x = "Mean of the two",
          y = sprintf("%s minus %s", res$names[1], res$names[2])),
    script = c("plot_data <- data.frame(mean = rowMeans(x), difference = d)",
               sprintf(paste0("plot <- ggplot(plot_data, aes(mean, difference)) + geom_hline(yintercept =",
                   " mean(d) + c(-1.96, 0, 1.96) * s) + geom_point() + labs(title = %s) + theme_minimal()"),
                       as_r_string(title))))
}

#' @noRd
method_mcdonald_omega <- function() {
  new_method(
    id = "mcdonald_omega", name = "McDonald's omega", tasks = "agreement",
    fits = function(shape) if (shape$task == "agreement" && length(shape$pair_kinds) >= 3 &&
        all(shape$pair_kinds %in% c("number", "count", "ordered", "yes_no")))
      new_fit(60, "You asked for omega, the reliability of a scale of one factor."),
    compute = function(ctx) {
      names <- agreement_names(ctx)
      x <- measured_matrix(ctx, names)
      a <- stat_cronbach_alpha(x, ctx$conf_level)
      out <- stat_omega(x, ctx$conf_level)
      table <- data.frame(item = names, loading = out$loadings, uniqueness = out$uniquenesses,
          item_rest = a$items$item_rest, stringsAsFactors = FALSE)
      result(c(list(new_number("omega", "McDonald's omega", out$omega),
          new_number("estimate", "McDonald's omega", out$omega)), own_limits("omega", "McDonald's omega", out), limit_numbers("ci", "omega",
            c(out$ci_low, out$ci_high)), list(new_number("conf_level", "confidence level", ctx$conf_level),
                  new_number("n", "rows used", nrow(x)), new_number("items", "items",
                      ncol(x)), new_number("standardised_alpha", "standardised alpha", a$standardised))),
             tables = list(new_table("items", "Loadings on the common factor", table)), names = names, items = table, direction = NA_real_)
    },
    checks = function(ctx, res) list(check_independent_rows(ctx$unit_values, ctx$unit_name), check_item_direction(res$items$item_rest, res$names)),
    second = "cronbach_alpha", figure = function(ctx, res) figure_items(ctx, res),
    sentences = function(ctx, res) {
      n <- res$number
      weak <- which.min(res$items$loading)
      interval <- if (is.null(n$ci_low)) "" else sprintf(" (%s)", say_interval(n$ci_low, n$ci_high, ctx$conf_level, say_unit))
      list(headline = sprintf("McDonald's omega of the %s items is %s%s; standardised alpha %s.", say_number(n$items),
          say_unit(n$omega), interval, say_unit(n$standardised_alpha)),
           details = c(sprintf("The weakest loading is that of %s, %s.", res$names[weak], say_unit(res$items$loading[weak])), say_rows(ctx)),
           write_up = sprintf("The reliability of the %s items was McDonald's omega = %s%s (one factor by maximum likelihood, n = %s).%s",
               say_number(n$items), say_unit(n$omega), sub("^ \\((.*)\\)$", ", \\1", interval), say_number(n$n),
                              write_rows(ctx)))
    },
    script = function(ctx, res) c(script_measured(res$names), "fit <- factanal(x, 1, control = list(opt = list(factr = 1e4, maxit = 2000)))",
      "load <- fit$loadings[, 1]; if (sum(load) < 0) load <- -load; unique <- 1 - load^2",
      "rest <- vapply(seq_len(k), function(j) cor(x[, j], rowSums(x[, -j, drop = FALSE])), 1); r <- cor(x); r <- mean(r[upper.tri(r)])",
      "tables <- list(items = data.frame(loading = load, uniqueness = unique, item_rest = rest)); omega <- sum(load)^2 / (sum(load)^2 + sum(unique))",
      "numbers <- list(omega = omega, estimate = omega, conf_level = conf_level, n = n, items = k, standardised_alpha = k * r / (1 + (k - 1) * r))",
      if (!is.null(res$number$omega_low)) script_omega_limits()),
    references = c("McDonald, R. P. (1999). Test Theory: A Unified Treatment. Erlbaum.",
                   paste0("Raykov, T. (2002). Analytic estimation of standard error and confidence interval for scale reliability. Multivariate ",
                          "Behavioral Research, 37, 89-103.")),
    next_steps = function(ctx, res) sprintf("Show the correlation matrix of %s", some_of(res$names, 12)))
}

#' @noRd
method_item_analysis <- function() {
  base <- method_cronbach_alpha()
  base$id <- "item_analysis"; base$name <- "Item analysis"
  base$fits <- function(shape) { fit <- method_cronbach_alpha()$fits(shape)
  if (!is.null(fit)) new_fit(50, "You asked how each item goes with the rest of its scale.") }
  base$sentences <- function(ctx, res) {
    said <- say_alpha(ctx, res)
    low <- which.min(res$items$item_rest)
    said$headline <- sprintf("Of the %s items, %s goes least with the rest (item-rest correlation %s); alpha is %s.",
        say_number(res$number$items), res$names[low],
                             say_unit(res$items$item_rest[low]), say_unit(res$number$alpha))
    said
  }
  base
}

#' Interval of omega: the information of the one-factor model from its derivatives, and the slope of omega by differences
#' @noRd
script_omega_limits <- function() {
  c("# interval of omega: information of the one-factor model, slope of omega by small differences, logistic scale",
    "theta <- unname(c(load, unique)); inverse <- solve(tcrossprod(load) + diag(unique))",
    "turn <- lapply(seq_len(2 * k), function(j) { e <- numeric(k); e[(j - 1) %% k + 1] <- 1; if (j <= k) outer(e, load) + outer(load, e) else outer(e, e) })",  # nolint: line_length_linter.
    "part <- lapply(turn, function(d) inverse %*% d)",
    "information <- outer(seq_len(2 * k), seq_len(2 * k), Vectorize(function(i, j) sum(part[[i]] * t(part[[j]])) / 2))",
    "omega_at <- function(p) { l <- p[seq_len(k)]; u <- p[k + seq_len(k)]; v <- l^2 + u; l <- l / sqrt(v); sum(l)^2 / (sum(l)^2 + sum(u / v)) }",
    "slope <- vapply(seq_len(2 * k), function(j) { h <- numeric(2 * k); h[j] <- 1e-4; (8 * (omega_at(theta + h) - omega_at(theta - h)) - omega_at(theta + 2 * h) + omega_at(theta - 2 * h)) / 12e-4 }, 1)",  # nolint: line_length_linter.
    "se <- sqrt(drop(slope %*% solve(information, slope)) / n) / (omega * (1 - omega)); limits <- plogis(qlogis(omega) + c(-1, 1) * qnorm(1 - (1 - conf_level) / 2) * se)",  # nolint: line_length_linter.
    "numbers[c(\"omega_low\", \"omega_high\", \"ci_low\", \"ci_high\")] <- rep(limits, 2)")
}
