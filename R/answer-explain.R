# Why this method, and what do the numbers mean?

explain_lines <- function(a) {
  if (a$status != "answered" || is.null(a$method)) return(a$sentences$headline)
  n <- a$result$number
  alpha <- 1 - a$context$conf_level
  c(sprintf("%s %s", a$method$name, "was used."), a$why, explain_p(n$p_value, alpha),
    explain_interval(n, a$context$conf_level), explain_effect(n))
}

explain_p <- function(p, alpha) {
  if (is.null(p) || is.na(p)) return(NULL)
  chance <- if (p < 0.001) "less than once in a thousand such studies" else sprintf("in about %s of such studies",
      say_percent(p, if (p < 0.1) 1 else 0))
  sprintf(paste("The p value (%s): if there were nothing in the population, a result at least this far from it would turn",
                "up %s. It is not the probability that there is nothing, and it says nothing about size."), say_p(p),
                chance)
}

explain_interval <- function(n, conf_level) {
  if (is.null(n$ci_low) || !is.finite(n$ci_low + n$ci_high)) return(NULL)
  sprintf(paste("The interval (%s): values in this range fit the data at this level; a method that gives such ranges",
                "catches the true value in %s of studies."),
          say_interval(n$ci_low, n$ci_high, conf_level), say_level(conf_level))
}

explain_effect <- function(n) {
  if (!is.null(n$hedges_g)) return(sprintf("g = %s says that the means lie %s standard deviations apart, %s.",
                                           say_number(n$hedges_g, 2), say_number(abs(n$hedges_g), 2),
                                           say_size(n$hedges_g, "d")))
  if (!is.null(n$r)) return(sprintf(paste0("r = %s: on a scale from -1 to 1, %s; r squared = %s is the share of ",
                                           "spread the two have in common."), say_unit(n$r), say_size(n$r, "r"),
                                           say_unit(n$r^2)))
  if (!is.null(n$r_squared)) return(sprintf(paste0("R squared = %s: the share of the spread of the outcome that the ",
                                                   "model reproduces on these rows."), say_unit(n$r_squared)))
  if (!is.null(n$cramers_v)) return(sprintf("Cramer's V = %s: 0 is independence, 1 complete dependence; %s.",
                                            say_unit(n$cramers_v), say_size(n$cramers_v, "v")))
  NULL
}

#' A follow-up that asks what the answer before it means
#' @noRd
explain_answer <- function(answer, previous) {
  keep <- c("method", "why", "frame", "context", "result", "checks", "second", "figure", "seed")
  answer[keep] <- previous[keep]
  reading <- previous$reading
  reading$task <- "explain"
  reading$plain <- sprintf("Explain the answer to %s", quoted(previous$question))
  answer$reading <- reading
  lines <- explain_lines(previous)
  # "what does t mean here": the number asked about comes first
  asked <- unlist(lapply(asked_numbers(answer$question), function(id) explain_number(previous, id) %||% explain_ratios(previous, id)))
  why <- grepl("\\bwhy\\b|which (test|method)", answer$question, ignore.case = TRUE)
  if (why) asked <- previous$why
  if (!length(asked) && grepl("p[ -]?value|significan", answer$question, ignore.case = TRUE) && is.null(previous$result$number$p_value)) {
    asked <- "This answer holds no p value: it counts or describes the rows and tests nothing. Ask \"is that significant?\" for a test."
  }
  answer$sentences <- list(headline = if (length(asked)) asked[1] else previous$sentences$headline, details = unique(c(asked[-1], setdiff(lines,
    asked))),
                           write_up = previous$sentences$write_up)
  answer$next_steps <- previous$next_steps
  answer
}

#' A question about a term with no answer before it: what the term means, with the number that the question names
#' @noRd
explain_term <- function(answer) {
  text <- tolower(answer$question)
  number <- suppressWarnings(as.numeric(regmatches(text, regexpr("[0-9]*[.][0-9]+", text))))
  p <- if (length(number) && !is.na(number) && number > 0 && number <= 1) number
  lines <- c(
    if (grepl("p[ -]?value|significan", text)) (if (is.null(p)) paste(
      "A p value says how often a result at least this far from \"nothing there\" would turn up if there were nothing in the population.",
      "It is not the probability that there is nothing, and it says nothing about size.") else explain_p(p, 0.05)),
    if (grepl("confidence interval|interval", text)) paste(
      "A 95 % confidence interval is a range of values that fit the data: a method that gives such ranges catches the true value in 95 % of studies.",
      "Its width says how sure the estimate is."),
    if (grepl("effect size|cohen|hedges",
        text)) paste0("An effect size says how large a difference is in units of the spread: 0.2, 0.5 and",
            " 0.8 are called small, medium and large by Cohen's convention."))
  if (!length(lines)) {
    return(refused(answer, "There is no answer yet to explain. Ask a question first, then ask what its numbers mean.", answer$study, "cannot_answer"))
  }
  answer$sentences <- list(headline = lines[1], details = lines[-1], write_up = "")
  answer
}
