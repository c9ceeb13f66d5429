# What single numbers say, in two or three sentences tied to the answer.

#' Words by which a number is asked about, most telling first
#' @noRd
number_words <- function() {
  c(p_value = "\\bp[- ]?values?\\b|\\bp (mean|here|is)\\b|significan", hedges_g = "hedges|\\bg\\b",
    cohens_d = paste0("cohen'?s? d|\\bd\\b(?= mean)|standardi[sz]ed difference|effect size|\\b(is|are) (that|it|this|the ",
        "(difference|effect|relation))( difference| effect)? (a )?(big|large|small|strong|weak|meaningful|important|relevant)"),
          odds_ratio = "odds ratio",
    risk_ratio = "risk ratio|relative risk", risk_difference = "risk difference", hazard_ratio = "hazard ratio",
      ci_low = "confidence interval|\\binterval\\b|\\bci\\b|margin of error", se = "standard error|\\bse\\b",
    df = "degrees? of freedom|\\bdf\\b", adj_r_squared = "adjusted r", r_squared = "r[- ]?squared|r2\\b|\u00b2|explained (variance|spread)",
      r = "\\bcorrelation\\b|\\br\\b(?! squared)", rho = "\\brho\\b", tau = "\\btau\\b",
    auc = "\\bauc\\b|roc|area under", sensitivity = "sensitivit", specificity = "specificit", brier = "brier", best_cut = "\\bcut\\b|threshold",
    aic = "\\baic\\b", bic = "\\bbic\\b", sigma = "residual standard|\\bsigma\\b",
      eta_squared = "eta squared|\\beta\\b", omega_squared = "omega squared", cramers_v = "cramer|\\bv\\b",
    alpha = "\\balpha\\b", omega = "\\bomega\\b", kappa = "\\bkappa\\b", icc = "\\bicc\\b|intraclass", i_squared = "i[- ]?squared|heterogeneity",
      rank_biserial = "rank[- ]biserial", hodges_lehmann = "hodges|shift",
    rmse = "\\brmse\\b|root mean squared", accuracy = "accuracy", statistic = "\\b(t|f|z|w|h|u)\\b|chi[- ]?squared?|test statistic|statistic\\b",
      estimate = "estimate|coefficient|slope|difference|mean\\b", n = "sample size|\\bn\\b|how many rows")
}

#' The explanation of one number of an answer; NULL where the answer does not hold it
#' @noRd
explain_number <- function(a, id) {
  n <- a$result$number
  if (is.null(n[[id]]) || is.na(n[[id]])) return(NULL)
  v <- n[[id]]
  conf <- a$context$conf_level
  label <- a$result$numbers[[match(id, vapply(a$result$numbers, `[[`, "", "id"))]]$label
  value <- say_number(v, if (abs(v) < 10) 2 else NULL)
  unit <- if (length(a$reading$outcome)) a$context$columns[[a$reading$outcome[1]]]$unit
  limits <- if (!is.null(n[[paste0(id, "_low")]])) sprintf(" Values from %s to %s fit these data.", say_number(n[[paste0(id, "_low")]], 2),
    say_number(n[[paste0(id, "_high")]], 2)) else ""
  ratio <- function(what) sprintf("%s = %s: %s.%s", capital(label), value, if (abs(v - 1) < 1e-9) sprintf("the %s are the same on both sides",
    what) else sprintf("the %s are multiplied by %s, that is %s by %s", what, value,
    if (v > 1) "raised" else "lowered", say_percent(abs(v - 1), 0)), limits)
  text <- switch(id,
    p_value = explain_p(v, 1 - conf), ci_low = , ci_high = explain_interval(n, conf),
    statistic = explain_statistic(n, label, v),
      df = sprintf(paste0("%s degrees of freedom: about how many independent pieces of information are left to judge the spread by, once the ",
          "estimates have been made."), say_df(v)),
    se = sprintf(paste0("The standard error (%s) is how far the estimate would typically move from one sample to the next; about two of them ",
        "to each side make the interval."), with_unit(say_number(v), unit)),
    estimate = sprintf("%s is %s: the best guess from these rows%s.", capital(label), with_unit(say_number(v), unit), if (!is.null(n$ci_low) &&
      is.finite(n$ci_low)) sprintf("; values %s fit the data as well", sub("^.*CI ", "from ", say_interval(n$ci_low, n$ci_high, conf))) else ""),
    hedges_g = , cohens_d = sprintf(paste0("%s = %s: the means lie %s standard deviations apart, %s. A value of 0.5 means that about 69 of 100 ",
        "in the higher group lie above the mean of the lower.%s"), label, value, say_number(abs(v), 2), say_size(v, "d"), limits),
    odds_ratio = paste(ratio("odds"), odds_note()),
    risk_ratio = ratio("chances"), hazard_ratio = paste(ratio("hazards, the rates at which the event comes to those still without it,"),
      "It is taken as the same at all times."),
    risk_difference = sprintf("Risk difference %s: of 100 rows on the first side, %s %s have the event than of 100 on the other.", say_points(v),
      say_number(abs(100 * v), 1), if (v > 0) "more" else "fewer"),
    r_squared = sprintf("R squared = %s: the model reproduces %s of the spread of the outcome on these rows; on new rows it will be less.",
      say_unit(v), say_percent(v, 0)),
    adj_r_squared = sprintf(paste0("Adjusted R squared = %s: R squared with a price for each coefficient, so that adding columns of noise does ",
        "not raise it."), say_unit(v)),
    r = , rho = , tau = sprintf("%s = %s: from -1 to 1, how closely the two go together%s; %s.%s", id, say_unit(v),
      if (id == "r") " along a straight line" else " in their order", say_size(v, "r"), limits),
    sensitivity = sprintf("Sensitivity %s: of 100 rows with the event so many are called at the stated cut; the others are missed.",
                          say_percent(v, 0)),
    specificity = sprintf("Specificity %s: of 100 rows without the event so many are left alone at the stated cut; the others are false alarms.",
                          say_percent(v, 0)),
    brier = sprintf(paste0("Brier score %s: the mean squared distance of the fitted chances from what happened (1 or 0). Zero is perfect; 0.25 is ",
                           "what saying one half every time would get."), say_number(v, 3)),
    best_cut = sprintf("Called an event from a chance of %s upwards, sensitivity and specificity add up to most; other costs call for other cuts.",
                       say_percent(v, 0)),
    auc = sprintf(paste0("Area under the curve %s: of one row with the event and one without, the model gives the higher chance to the right ",
        "one in %s of cases; 0.5 is guessing.%s"), say_unit(v), say_percent(v, 0), limits),
    aic = , bic = sprintf(paste0("%s = %s: a badness of fit with a price for each coefficient. Only differences between models of the same ",
        "rows count; lower is better, less than about 2 apart is a tie."), toupper(id), say_number(v)),
    sigma = sprintf("Residual standard deviation %s: how far single rows typically lie from what the model says.", with_unit(say_number(v), unit)),
    rmse = sprintf("Root mean squared error %s: how far a prediction for a row that was held back is typically off.", with_unit(say_number(v), unit)),
    accuracy = sprintf(paste0("Accuracy %s: the share of rows put into their own level. Compare it with the share of the commonest level, ",
        "which needs no model."), say_percent(v, 0)),
    eta_squared = , omega_squared = , partial_eta_squared = ,
      epsilon_squared = sprintf("%s = %s: about %s of the spread of the outcome lies between the groups, %s.", gsub("_", " ", id), say_unit(v),
        say_percent(max(0, v), 0), say_size(v, "eta")),
    cramers_v = sprintf("Cramer's V = %s: from 0 (independent) to 1 (one column tells the other); %s.%s", say_unit(v), say_size(v, "v"), limits),
    alpha = , omega = sprintf(paste0("%s = %s: the share of the spread of the sum score that the items have in common. About .70 serves for ",
        "comparing groups, .90 for judging single persons; it does not show that the items measure one thing."), capital(id), say_unit(v)),
    kappa = sprintf("Kappa = %s: agreement beyond chance, from 0 (as by chance) to 1 (always).%s", say_unit(v), limits),
    icc = sprintf("Intraclass correlation %s: the share of the variance that lies between the units rather than within them.%s", say_unit(v), limits),
    i_squared = sprintf(paste0("I squared %s: the share of the differences between the studies that goes beyond chance. It says nothing about ",
        "how large those differences are."), say_percent(v, 0)),
    rank_biserial = sprintf(paste0("Rank-biserial correlation %s: of all pairs with one row from each group, the share in which the first is ",
        "higher minus the share in which it is lower."), say_unit(v)),
    hodges_lehmann = sprintf("Hodges-Lehmann shift %s: the median of all differences between a row of the first group and a row of the second.",
      with_unit(say_number(v), unit)),
    n = sprintf("%s rows were used.", say_number(v)), sprintf("%s: %s.", capital(label), say_number(v)))
  text
}

odds_note <- function()
  "Odds are the share with the event over the share without; for common events the ratio of odds is farther from 1 than that of shares."

explain_statistic <- function(n, label, v) {
  value <- say_number(v, 2)
  if (grepl("^t", label)) return(sprintf(paste0("t = %s: the estimate lies %s standard errors from the value it is compared with. Beyond about ",
      "2 such a distance is rare when there is nothing."), value, say_number(abs(v), 1)))
  if (grepl("^z", label)) return(sprintf(paste0("z = %s: the estimate lies %s standard errors from the value it is compared with; beyond 1.96 ",
      "such a distance comes in fewer than 5 of 100 samples when there is nothing."), value, say_number(abs(v), 1)))
  if (grepl("^F", label)) return(sprintf(paste0("F = %s: the spread that the groups or columns account for, per degree of freedom, is %s times ",
      "what is left within. About 1 is what chance gives."), value, value))
  if (grepl("chi", label)) return(sprintf(paste0("Chi-square = %s: how far the counts are from those expected if there were nothing, summed ",
      "over the cells; about its degrees of freedom (%s) is what chance gives."), value, if (is.null(n$df)) "see the table" else say_df(n$df)))
  sprintf("%s = %s: the test statistic, from which the p value follows.", label, value)
}

#' Ratios that stand in the table of coefficients only, as those of a column with several levels: the clearest three
#' @section Shape: character vector, or NULL where the answer holds no such ratios.
#' @noRd
explain_ratios <- function(a, id) {
  ids <- vapply(a$result$tables, `[[`, "", "id")
  t <- if ("coefficients" %in% ids) a$result$tables[[match("coefficients", ids)]]$data
  if (is.null(t) || is.null(t[[id]]) || !id %in% c("odds_ratio", "hazard_ratio", "rate_ratio")) return(NULL)
  t <- t[!grepl("^\\(intercept\\)$", t$term) & is.finite(t[[id]]), , drop = FALSE]
  t <- utils::head(t[order(t$p_value), , drop = FALSE], 3)
  if (!nrow(t)) return(NULL)
  what <- c(odds_ratio = "odds", hazard_ratio = "hazards", rate_ratio = "expected counts")[[id]]
  v <- t[[id]]
  said <- sprintf("%s: the %s are multiplied by %s, that is %s by %s, all else equal; values from %s to %s fit these data.", t$term, what,
                  say_number(v, 2), ifelse(v > 1, "raised", "lowered"), say_percent(abs(v - 1), 0), say_number(t[[paste0(id, "_low")]], 2),
                  say_number(t[[paste0(id, "_high")]], 2))
  c(said, if (id == "odds_ratio") odds_note())
}

#' What a check is about and what it found
#' @noRd
explain_check <- function(check) sprintf("%s (%s): %s", capital(gsub("_", " ", check$id)), check$method, check$meaning)

#' The numbers that a follow-up asks about, in the order of the list
#' @noRd
asked_numbers <- function(question) {
  words <- number_words()
  hit <- vapply(words, function(w) grepl(w, question, ignore.case = TRUE, perl = TRUE), NA)
  ids <- names(words)[hit]
  # "effect size" and the like stand for whichever the answer holds
  if ("cohens_d" %in% ids) ids <- unique(c(ids, "hedges_g", "r", "cramers_v", "eta_squared", "odds_ratio", "rank_biserial"))
  ids
}

# ---- a pasted table of coefficients ------------------------------------------------------------------------------------

#' Read a table of coefficients from text: tabs, commas, semicolons, pipes or blanks between the columns
#'
#' @section Shape: data frame with term and, where found, estimate, se, statistic, p, low, high.
#' @section Errors: `upbeatquill_error_bad_argument` when no row holds a name and a number.
#' @noRd
read_coefficients <- function(text) {
  lines <- stringi::stri_trim_both(unlist(strsplit(paste(text, collapse = "\n"), "\r?\n")))
  lines <- lines[nzchar(lines) & !grepl("^[-=+|: ]+$|^(signif|---)", lines, ignore.case = TRUE)]
  # "< 2e-16 ***": the sign belongs to its number, stars say nothing more
  lines <- gsub("([<>=]) +(?=[0-9.])", "\\1", gsub("\\s+[*.\u2020]+$", "", lines), perl = TRUE)
  separator <- if (any(grepl("\t", lines))) "\\s*\t\\s*" else if (sum(grepl("|", lines,
    fixed = TRUE)) > length(lines) / 2) "\\s*\\|\\s*" else if (sum(grepl(";", lines)) > length(lines) / 2) "\\s*;\\s*"
    else if (sum(grepl(",", lines)) > length(lines) / 2) "\\s*,\\s*" else "\\s+"
  cells <- lapply(lines, function(l) { p <- strsplit(gsub("^\\||\\|$", "", l), separator)[[1]]; stringi::stri_trim_both(p) })
  number <- function(x) suppressWarnings(as.numeric(gsub("^[<>=~]+ *|[*\u2020.]+$|\\s*[*]+$", "", gsub("\u2212", "-", x))))
  numeric <- lapply(cells, function(p) !is.na(number(sub("[.]$", "", p))))
  header <- which(!vapply(numeric, any, NA) & lengths(cells) > 1)
  rows <- which(vapply(numeric, function(k) length(k) > 1 && any(k[-1]), NA))
  rows <- setdiff(rows, header)
  if (!length(rows)) stop_input("No table of coefficients was found in the text.",
    todo = "Paste rows with a name and its numbers, with the line of column names above.", class = "bad_argument")
  # blanks within names ("Pr(>|t|)", "Std. Error") leave more words than columns: numbers count from the right
  width <- max(vapply(numeric[rows], function(k) sum(rev(cumprod(rev(k))) > 0), 1))
  names <- if (length(header)) coefficient_names(cells[[header[1]]], width) else character()
  if (!length(names)) names <- c("estimate", "se", "statistic", "p")[seq_len(min(4, width))]
  out <- lapply(rows, function(i) {
    p <- cells[[i]]
    k <- min(width, length(p) - 1)
    values <- number(utils::tail(p, k))
    data.frame(term = paste(utils::head(p, length(p) - k), collapse = " "), t(stats::setNames(c(values, rep(NA, length(names)))[seq_along(names)],
      names)), stringsAsFactors = FALSE)
  })
  do.call(rbind, out)
}

#' Names of the numeric columns, by the usual headings
#' @noRd
coefficient_names <- function(header, width) {
  text <- tolower(paste(header, collapse = " "))
  known <- c(estimate = "estimate|coef(ficient)?s?\\.?|\\bb\\b|\\bbeta\\b|odds ratio|\\bor\\b|hazard ratio|\\bhr\\b",
    se = "std\\.? ?err(or)?\\.?|standard error|s\\.?e\\.?\\b", statistic = "t[ -]?value|z[ -]?value|\\bt\\b|\\bz\\b|wald|statistic",
             p = "pr\\(>\\|?[tz]\\|?\\)|p>\\|[tz]\\||p[- ]?value|\\bp\\b|sig\\.?", low = "2\\.5 ?%|lower|\\bll\\b|ci[_ .-]?low|\\[0\\.025",
               high = "97\\.5 ?%|upper|\\bul\\b|ci[_ .-]?high|0\\.975\\]")
  at <- vapply(known, function(k) regexpr(k, text, perl = TRUE)[1], 1L)
  found <- names(sort(at[at > 0]))
  utils::head(found, width)
}

#' Sentences for each row of a pasted table, with what does not fit
#' @noRd
explain_coefficients <- function(text) {
  t <- read_coefficients(text)
  ratio <- grepl("odds ratio|hazard ratio|\\bOR\\b|\\bHR\\b|exp\\(b", paste(text, collapse = " "), ignore.case = FALSE)
  get <- function(name, i) if (name %in% names(t)) t[[name]][i] else NA_real_
  one <- function(i) {
    b <- get("estimate", i); se <- get("se", i); s <- get("statistic", i); p <- get("p", i); low <- get("low", i); high <- get("high", i)
    constant <- grepl("intercept|constant|_cons", t$term[i], ignore.case = TRUE)
    if (is.na(low) && !is.na(b) && !is.na(se)) { low <- b - 1.96 * se; high <- b + 1.96 * se }
    size <- if (is.na(b)) "" else if (constant) sprintf("the expected outcome is %s where all predictors are zero",
      say_number(b)) else if (ratio) sprintf("the odds or hazard are multiplied by %s for each unit", say_number(b, 2))
      else sprintf("for each further unit the outcome is %s %s, the other rows held constant", say_number(abs(b)), if (b < 0) "lower" else "higher")
    interval <- if (is.na(low)) "" else sprintf("; values from %s to %s fit the data", say_number(low), say_number(high))
    p <- if (is.na(p) && !is.na(s)) 2 * stats::pnorm(-abs(s)) else p
    chance <- if (is.na(p) || constant) "" else if (p < 0.05) sprintf("; so far from nothing a value would rarely come by chance (%s)",
      say_p(p)) else sprintf("; chance alone gives such a value often (%s)", say_p(p))
    sprintf("%s: %s%s%s.", t$term[i], size, interval, chance)
  }
  lines <- vapply(seq_len(nrow(t)), one, "")
  c(lines, coefficient_doubts(t, ratio),
    "A coefficient says what goes along with a unit of its column in this model; it does not say what would happen if the column were changed.")
}

#' Rows whose numbers contradict each other
#' @noRd
coefficient_doubts <- function(t, ratio) {
  out <- character()
  if (!ratio && all(c("estimate", "se", "statistic") %in% names(t))) {
    off <- which(abs(t$estimate / t$se - t$statistic) > 0.06 * pmax(1, abs(t$statistic)) + 0.5 * abs(t$estimate) * 0.01 / t$se)
    if (length(off)) out <- c(out, sprintf("Look again at %s: the estimate over its standard error is not the statistic given.",
      some_of(t$term[off], 4)))
  }
  if (all(c("statistic", "p") %in% names(t))) {
    normal <- 2 * stats::pnorm(-abs(t$statistic)); wide <- 2 * stats::pt(-abs(t$statistic), 5)
    off <- which(t$p < normal * 0.5 - 0.002 | t$p > wide * 1.3 + 0.01)
    if (length(off)) out <- c(out, sprintf("Look again at %s: the p value does not fit the statistic.", some_of(t$term[off], 4)))
  }
  out
}
