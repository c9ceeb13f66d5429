# Principal components and factors.

fits_structure <- function(shape, id, why) {
  ok <- identical(shape$method_asked, id) && shape$n_outcome >= 2
  if (ok) new_fit(60, why)
}

#' The columns as a matrix of numbers
#' @noRd
structure_matrix <- function(ctx, least) {
  names <- unique(ctx$reading$outcome)
  if (length(names) < least) stop_data(sprintf("At least %d columns are needed; %s named.", least, count_of(length(names), "column")),
    class = "group_count")
  matrix(unlist(lapply(names, function(name) as_plain_number(ctx$frame$data[[name]]))), ncol = length(names), dimnames = list(NULL, names))
}

script_matrix <- function(ctx) {
  names <- unique(ctx$reading$outcome)
  number <- function(name) if (ctx$columns[[name]]$kind == "yes_no") sprintf("as.numeric(factor(%s)) - 1",
    script_column(name)) else script_value(name)
  c(sprintf("x <- cbind(%s)", paste(vapply(names, number, ""), collapse = ",\n  ")), "n <- nrow(x); p <- ncol(x)")
}

#' @noRd
method_principal_components <- function() {
  new_method(
    id = "principal_components", name = "Principal components", tasks = "describe",
    fits = function(shape) fits_structure(shape, "principal_components",
      "The question asks for the few directions in which the columns vary together."),
    compute = compute_components,
    checks = function(ctx, res) list(check_independent_rows(ctx$unit_values, ctx$unit_name), check_rows_per_column(res$fit$n, length(res$names))),
    figure = figure_components, sentences = say_components, script = script_components,
    references = c(paste0("Hotelling, H. (1933). Analysis of a complex of statistical variables into principal components. Journal of ",
        "Educational Psychology, 24, 417-441."),
                   "Horn, J. L. (1965). A rationale and test for the number of factors in factor analysis. Psychometrika, 30, 179-185."),
    next_steps = function(ctx, res) c(sprintf("Factor analysis of %s", some_of(res$names, 20)), sprintf("Correlation matrix of %s",
      some_of(res$names, 20))))
}

check_rows_per_column <- function(n, p) {
  new_check("rows_per_column", if (n / p >= 10) "ok" else if (n / p >= 5) "caution" else "broken", "Rows per column",
    list(new_number("rows_per_column", "rows per column", n / p)), list(ratio = n / p))
}

compute_components <- function(ctx) {
  x <- structure_matrix(ctx, 2)
  fit <- stat_components(x, ctx$seed)
  kept <- if (is.null(ctx$reading$extra$pieces)) fit$kept else max(1L, min(ncol(x), ctx$reading$extra$pieces))
  loadings <- data.frame(column = colnames(x), fit$loadings[, seq_len(kept), drop = FALSE], stringsAsFactors = FALSE)
  names(loadings)[-1] <- sprintf("component_%d", seq_len(kept))
  values <- data.frame(component = seq_along(fit$values), eigenvalue = fit$values, share = fit$share, cumulative = cumsum(fit$share),
    by_chance = fit$random)
  result(list(new_number("components", "components kept", kept), new_number("above_chance", "components above chance",
    if (fit$above[1]) fit$kept else 0),
              new_number("share", "share of the variance in them", sum(fit$share[seq_len(kept)])), new_number("first_share", "share of the first",
                fit$share[1]),
              new_number("n", "rows used", fit$n)),
         list(new_table("components", "Components", values), new_table("loadings", "Correlation of each column with the components", loadings)),
         fit = fit, names = colnames(x), kept = kept, loadings = fit$loadings[, seq_len(kept), drop = FALSE])
}

#' The columns that load most on a component or factor
#' @noRd
say_loadings <- function(ctx, res, j, word) {
  v <- res$loadings[, j]
  strong <- order(-abs(v))
  strong <- strong[abs(v[strong]) >= max(0.4, 0.6 * max(abs(v)))]
  if (!length(strong)) strong <- which.max(abs(v))
  sprintf("%s %d: %s", word, j, some_of(sprintf("%s (%s)", vapply(ctx$columns[res$names[strong]], say_column, ""), say_unit(v[strong])), 6))
}

say_components <- function(ctx, res) {
  n <- res$number
  about <- sprintf("the %s columns", say_number(length(res$names)))
  items <- vapply(seq_len(res$kept), function(j) say_loadings(ctx, res, j, "Component"), "")
  few <- if (n$above_chance == 0) "No component stands out from what unrelated columns give by chance"
    else sprintf("%s above what unrelated columns give by chance",
      if (n$above_chance == 1) "The first component stands" else sprintf("The first %s components stand", say_number(n$above_chance)))
  list(headline = sprintf("%s; %s %s of the variance of %s.", few, if (res$kept == n$above_chance) plural(res$kept, "it holds",
    "they hold") else if (res$kept == 1) "the first holds" else sprintf("the first %s hold", say_number(res$kept)),
                          say_percent(n$share, 0), about),
       details = c(items, "Columns were standardised, so each counts alike; a component's sign is arbitrary.", say_rows(ctx)),
       write_up = sprintf(paste0("A principal component analysis of %s (correlation matrix, n = %s) with parallel analysis gave %s above ",
           "chance; %s %s of the variance. %s.%s"), about,
                          say_number(n$n), count_of(n$above_chance, "component"),
                            if (res$kept == 1) "the first explains" else sprintf("the first %s explain", say_number(res$kept)),
                          say_percent(n$share, 1), paste(items, collapse = "; "), write_rows(ctx)))
}

figure_components <- function(ctx, res) {
  d <- data.frame(component = seq_along(res$fit$values), eigenvalue = res$fit$values, chance = res$fit$random)
  title <- "How much each component holds"
  new_figure("components", title, "line",
    subtitle = "Points: eigenvalues; dashes: 95th percentile for unrelated columns. Above the dashes is more than chance.",
    alt = sprintf("%s: eigenvalues in falling order beside those of unrelated columns.", title),
    draw = function() ggplot2::ggplot(d, ggplot2::aes(x = .data$component)) +
      ggplot2::geom_line(ggplot2::aes(y = .data$chance), colour = quill_soft(), linetype = "22", linewidth = 0.9) +
      ggplot2::geom_line(ggplot2::aes(y = .data$eigenvalue), colour = quill_colours(1)) + ggplot2::geom_point(ggplot2::aes(y = .data$eigenvalue),
        colour = quill_colours(1), size = 3.2) +
      ggplot2::scale_x_continuous(breaks = function(l) seq(1, max(1, floor(l[2])), by = max(1, ceiling(l[2] / 15)))) + ggplot2::expand_limits(y = 0) +
      ggplot2::labs(x = "Component", y = "Eigenvalue"),
    script = c("plot_data <- tables$components",
      sprintf(paste0("plot <- ggplot(plot_data, aes(component, eigenvalue)) + geom_line() + geom_point() + geom_line(aes(y = by_chance), ",
          "linetype = 2) + labs(title = %s) + theme_minimal()"), as_r_string(title))))
}

script_point_up <- function() paste0("up <- function(l) sweep(l, 2, apply(l, 2, function(v) if (v[which.max(abs(v) * (1 - 1e-9 * ",
    "seq_along(v)))] < 0) -1 else 1), \"*\")")

script_components <- function(ctx, res) {
  c(script_matrix(ctx), "fit <- prcomp(x, scale. = TRUE); values <- fit$sdev^2; share <- values / sum(values)", script_point_up(),
    sprintf("RNGkind(\"L'Ecuyer-CMRG\", \"Inversion\", \"Rejection\"); set.seed(%s); w <- rWishart(500, n - 1, diag(p))", format(ctx$seed,
      scientific = FALSE)),
    "chance <- apply(apply(w, 3, function(v) eigen(cov2cor(v), symmetric = TRUE, only.values = TRUE)$values), 1, quantile, 0.95, names = FALSE)",
    "above <- values > chance; first <- if (all(above)) p else which(!above)[1] - 1",
    sprintf("kept <- %s", if (is.null(ctx$reading$extra$pieces)) "max(1, first)" else format(res$kept)),
    "loadings <- up(fit$rotation %*% diag(fit$sdev, p))[, seq_len(kept), drop = FALSE]",
    paste0("tables <- list(components = data.frame(component = seq_len(p), eigenvalue = values, share = share, cumulative = cumsum(share), ",
        "by_chance = chance),"),
    sprintf("  loadings = setNames(as.data.frame(loadings), sprintf(\"component_%%d\", seq_len(kept))))"),
    "numbers <- list(components = kept, above_chance = first, share = sum(share[seq_len(kept)]), first_share = share[1], n = n)")
}

#' @noRd
method_factor_analysis <- function() {
  new_method(
    id = "factor_analysis", name = "Factor analysis (maximum likelihood, varimax)", tasks = "describe",
    fits = function(shape) fits_structure(shape, "factor_analysis",
      "The question asks for what lies behind the columns, so common factors are estimated."),
    compute = compute_factors,
    checks = function(ctx, res) list(check_independent_rows(ctx$unit_values, ctx$unit_name), check_rows_per_column(res$fit$n, length(res$names)),
      new_check("adequacy", if (res$fit$kmo >= 0.6) "ok" else if (res$fit$kmo >= 0.5) "caution" else "broken", "Kaiser-Meyer-Olkin",
        list(new_number("kmo", "sampling adequacy", res$fit$kmo)), list(kmo = res$fit$kmo)),
      new_check("improper", if (res$fit$improper) "broken" else "ok", "Uniquenesses", facts = list())),
    second = "principal_components", figure = figure_loadings, sentences = say_factors, script = script_factors,
    references = c("Lawley, D. N., & Maxwell, A. E. (1971). Factor Analysis as a Statistical Method (2nd ed.). Butterworths.",
                   "Kaiser, H. F. (1958). The varimax criterion for analytic rotation in factor analysis. Psychometrika, 23, 187-200.",
                   "Horn, J. L. (1965). A rationale and test for the number of factors in factor analysis. Psychometrika, 30, 179-185."),
    next_steps = function(ctx, res) c(sprintf("Cronbach's alpha of %s", some_of(res$names, 20)), sprintf("Principal components of %s",
      some_of(res$names, 20))))
}

compute_factors <- function(ctx) {
  x <- structure_matrix(ctx, 3)
  p <- ncol(x)
  asked <- ctx$reading$extra$pieces
  most <- max(which(((p - 0:p)^2 - p - 0:p) / 2 >= 0)) - 1L
  k <- if (is.null(asked)) max(1L, min(stat_components(x, ctx$seed)$kept, most)) else as.integer(asked)
  fit <- stat_factors(x, k)
  loadings <- data.frame(column = colnames(x), fit$loadings, uniqueness = fit$uniqueness, stringsAsFactors = FALSE)
  names(loadings)[1 + seq_len(k)] <- sprintf("factor_%d", seq_len(k))
  result(list(new_number("factors", "factors", k), new_number("share", "share of the variance in them", sum(fit$share)), new_number("statistic",
    "chi-square", fit$statistic),
              new_number("df", "degrees of freedom", fit$df), new_number("p_value", sprintf("p (%s suffice)", count_of(k, "factor")), fit$p_value),
              new_number("kmo", "sampling adequacy", fit$kmo), new_number("n", "rows used", fit$n)),
         list(new_table("loadings", "Loadings after varimax rotation", loadings),
              new_table("factors", "Factors", data.frame(factor = seq_len(k), sum_sq = fit$share * p, share = fit$share))),
         fit = fit, names = colnames(x), kept = k, loadings = fit$loadings, direction = NA_real_)
}

say_factors <- function(ctx, res) {
  n <- res$number
  items <- vapply(seq_len(res$kept), function(j) say_loadings(ctx, res, j, "Factor"), "")
  enough <- if (is.na(n$p_value)) "No degrees of freedom are left to test the number of factors."
    else sprintf("%s %s: chi-square(%s) = %s, %s.", if (n$factors == 1) "One factor" else sprintf("The %s factors", say_number(n$factors)),
                 if (n$p_value < 0.05) sprintf("%s not fully explain the correlations", plural(n$factors, "does",
                   "do")) else sprintf("%s the correlations well enough", plural(n$factors, "explains", "explain")),
                 say_df(n$df), say_number(n$statistic, 2), say_p(n$p_value))
  list(headline = sprintf("%s behind the %s columns %s of their variance. %s.", if (n$factors == 1) "One factor" else sprintf("The %s factors",
    say_number(n$factors)),
                          say_number(length(res$names)), sprintf("%s %s", if (n$factors == 1) "explains" else "explain", say_percent(n$share, 0)),
                            paste(items, collapse = "; ")),
       details = c(enough, if (is.null(ctx$reading$extra$pieces)) "The number of factors is that of components above chance (parallel analysis).",
         say_rows(ctx)),
       write_up = sprintf(paste0("A maximum-likelihood factor analysis with varimax rotation of %s columns (n = %s, KMO = %s) with %s ",
           "explained %s of the variance. %s. %s%s"),
                          say_number(length(res$names)), say_number(n$n), say_unit(n$kmo), count_of(n$factors, "factor"), say_percent(n$share, 1),
                            paste(items, collapse = "; "), enough, write_rows(ctx)))
}

figure_loadings <- function(ctx, res) {
  k <- res$kept
  d <- data.frame(column = rep(res$names, k), factor = factor(rep(sprintf("Factor %d", seq_len(k)), each = length(res$names))),
    loading = as.vector(res$loadings))
  strongest <- max.col(abs(res$loadings), "first")
  d$column <- factor(d$column, rev(res$names[order(strongest, -abs(res$loadings[cbind(seq_along(strongest), strongest)]))]))
  title <- "Loading of each column on the factors"
  new_figure("loadings", title, "dot", subtitle = "Far from zero: the column goes with the factor.",
    alt = sprintf("%s: one panel a factor, one dot a column.", title),
    draw = function() ggplot2::ggplot(d, ggplot2::aes(x = .data$loading, y = .data$column)) + ggplot2::geom_vline(xintercept = 0,
      colour = quill_soft()) +
      ggplot2::geom_segment(ggplot2::aes(x = 0, xend = .data$loading, yend = .data$column), colour = quill_soft()) +
        ggplot2::geom_point(colour = quill_colours(1), size = 3.2) +
      ggplot2::facet_wrap(ggplot2::vars(.data$factor)) + ggplot2::theme(panel.spacing.x = ggplot2::unit(1.6, "lines")) +
        ggplot2::scale_x_continuous(limits = c(-1, 1)) +
      ggplot2::scale_y_discrete(labels = function(x) wrap_level(gsub("_", " ", x), 28)) + ggplot2::labs(x = "Loading", y = NULL),
    script = c(sprintf(paste0("plot_data <- data.frame(column = rep(%s, %d), factor = rep(seq_len(%d), each = p), loading = ",
        "unlist(tables$loadings[seq_len(%d)]))"), as_r_strings(res$names), k, k, k),
               sprintf(paste0("plot <- ggplot(plot_data, aes(loading, column)) + geom_point() + facet_wrap(~ factor) + labs(title = %s) + ",
                   "theme_minimal()"), as_r_string(title))))
}

script_factors <- function(ctx, res) {
  k <- res$kept
  c(script_matrix(ctx), "# varimax() stops at about five digits as well, so it is turned again from where it stopped",
    sprintf("k <- %d; r <- cor(x); inverse <- solve(r)", k),
    paste0("load <- function(u) { e <- eigen(r / sqrt(u %o% u), symmetric = TRUE); sqrt(u) * e$vectors[, 1:k, drop = FALSE] %*% ",
        "diag(sqrt(pmax(e$values[1:k] - 1, 0)), k) }"),
    "slope <- function(u) diag(tcrossprod(load(u)) + diag(u) - r) / u^2",
    "misfit <- function(u) { v <- eigen(r / sqrt(u %o% u), symmetric = TRUE, only.values = TRUE)$values[-(1:k)]; sum(v - log(v) - 1) }",
    "# where factanal() finds no way from its starting values, the same likelihood is sought from several by nlminb()",
    "s <- tryCatch(factanal(covmat = r, factors = k, n.obs = n, rotation = \"none\"), error = function(e) {",
    "  tries <- lapply(list(pmin(pmax((1 - 0.5 * k / p) / diag(inverse), 0.01), 0.99), rep(0.5, p), rep(0.1, p)), function(u)",
    "    nlminb(u, misfit, slope, lower = 0.005, upper = 1, control = list(eval.max = 2000, iter.max = 1000, rel.tol = 1e-14)))",
    "  list(uniquenesses = tries[[which.min(sapply(tries, function(t) t$objective))]]$par) })",
      script_point_up(),
    "# factanal() stops at about five digits; Newton steps on the same likelihood give the rest",
    "u <- unname(s$uniquenesses); at <- which(u > 0.00501 & u < 1 - 1e-9)",
    paste0("for (i in 1:8) { bend <- sapply(at, function(j) { h <- 1e-5 * u[j]; d <- replace(numeric(p), j, h); ((slope(u + d) - slope(u - d)) ",
        "/ (2 * h))[at] }); step <- tryCatch(solve(bend, slope(u)[at]), error = function(e) NULL)"),
    "  if (is.null(step) || max(abs(step)) > 0.2 || any(u[at] - step < 0.005)) break; u[at] <- u[at] - step }",
    "l <- load(u); if (k > 1) for (i in 1:200) l <- l %*% varimax(l)$rotmat; l <- up(l[, order(-colSums(l^2)), drop = FALSE])",
    "v <- eigen(r / sqrt(u %o% u), symmetric = TRUE, only.values = TRUE)$values[-(1:k)]; df <- ((p - k)^2 - p - k) / 2",
    paste0("statistic <- (n - 1 - (2 * p + 5) / 6 - 2 * k / 3) * sum(v - log(v) - 1); q <- -cov2cor(inverse); off <- upper.tri(r); share <- ",
        "colSums(l^2) / p"),
    paste0("tables <- list(loadings = setNames(data.frame(l, u), c(sprintf(\"factor_%d\", 1:k), \"uniqueness\")), factors = data.frame(factor ",
        "= 1:k, sum_sq = share * p, share = share))"),
    paste0("numbers <- list(factors = k, share = sum(share), statistic = statistic, df = df, p_value = if (df > 0) pchisq(statistic, df, ",
        "lower.tail = FALSE) else NA, kmo = sum(r[off]^2) / (sum(r[off]^2) + sum(q[off]^2)), n = n)"))
}
