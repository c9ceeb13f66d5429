# What is asked of a model beside its coefficients ("which rows are influential in ...", "is there collinearity in ...", "hc3 errors for ...").
# The wish is taken out of the question; what is left asks for the model itself.

#' The wish about a model in a question
#'
#' @section Shape: list(text = question without the wish, extra = settings of the reading).
#' @noRd
take_model_wish <- function(text, vocabulary) {
  out <- list(text = text, extra = list(), told = NULL)
  through_turns(out, model_wishes(), function(out, one) {
    found <- one$take(out$text, vocabulary)
    if (is.null(found)) return(out)
    out$text <- found$text
    out$extra <- utils::modifyList(out$extra, as.list(found$extra))
    out$told <- c(out$told, found$told)
    out
  })
}

#' A wish: the function that takes it out of a question, and words without which it cannot stand, as full patterns are slow
#' @noRd
wish <- function(cue, take) list(cue = cue, take = take)

#' All wishes, in the order in which they are looked for; put together once
#' @noRd
model_wishes <- local({
  kept <- NULL
  function() {
    if (is.null(kept)) kept <<- sifted(c(group_wishes(), described_wishes(), trial_wishes(), chance_wishes(), row_wishes(), test_wishes(), count_wishes(),  # nolint: line_length_linter.
        everyday_model_wishes(),
        said_of_models()))
    kept
  }
})

#' The wishes of this file
#' @noRd
said_of_models <- function() {
  list(wish("\\bbox", wish_top_box), wish("write|report|phrase", wish_write_up), wish("(plot|figure|chart) of", wish_ratio_plot),
       wish("back-?test|hold-?out|held|way|correlation|zero|enough|\\(", wish_plain_words),
       wish("holm|hochberg|bonferroni|\\bbh\\b|\\bfdr\\b|false discovery|false-discovery|benjamini", wish_adjustment),
       wish("semi|part correlation", wish_semipartial), wish("share|proportion|percent|fraction|probability|chance|risk", wish_event_share),
       wish("marginal|adjusted|least[- ]squares", wish_adjusted_means), wish("rate ratio", wish_rate_ratio), wish("models?\\b", wish_nested),
       wish("\\b(add|adds|adding|contributes?)\\b|nested|beyond", wish_joint), wish("random slope", wish_slope), wish("rmst|restricted",
           wish_restricted_mean),
       wish("strat|cluster", wish_hazard_rows), wish("conditional|matched", wish_matched), wish("error|hc[0-4]|robust|sandwich", wish_errors),
           wish("cluster", wish_clusters), wish("standardi[sz]|beta", wish_standardised),
       wish("vif|inflation|collinear|overlap|redundant|related", wish_collinearity), wish("multi-?collinear", wish_overlap),
       wish("influential|influence|cook|leverage|dfbeta|dffit|hat values|outl", wish_influence),
       wish("residual|assumption|diagnostic", wish_residuals), wish("dispers", wish_dispersion), wish("hazard", wish_hazards),
       wish("calibrat|\\broc\\b|\\bauc|area|confusion|sensitivity|specificity|classif|discriminat|c[- ]statistic|lift|brier", wish_chances))
}

#' A verdict that carries what was wished of its model
#' @noRd
with_model_wish <- function(verdict, wish) {
  if (!length(wish$extra) && !length(wish$told)) return(verdict)
  add <- function(r) {
    r$assumed <- unique(c(wish$told, r$assumed))
    r$extra <- utils::modifyList(r$extra, wish$extra)
    r <- with_totals(with_hazard_rows(r))
    if (isTRUE(wish$extra$hc3) && r$task == "predict") r$method_asked <- "linear_regression_hc3"
    if (!is.null(wish$extra$null_value) && r$task == "frequency") r$task <- "compare"
    r <- with_test_wish(r, wish$extra)
    if (length(wish$extra$only_columns) && r$task == "drivers") {
      r$predictors <- wish$extra$only_columns
      r$assumed <- setdiff(r$assumed, "All other columns that can be related are considered.")
    }
    if (isTRUE(wish$extra$importance) && r$task == "predict" && length(r$predictors) > 1) r$method_asked <- "relative_importance"
    finish_reading(r)
  }
  verdict$reading <- add(verdict$reading)
  verdict$reading$alternatives <- lapply(verdict$reading$alternatives, add)
  verdict
}

#' "model of Y on X" of what is left when a wish is cut out ("for Y on X", "of the regression of Y on X", "when predicting Y from X")
#' @noRd
model_of <- function(rest) {
  rest <- trimws(gsub("[?!. ]+$", "", rest))
  rest <- sub("^(?i)(?:(?:of|for|in|from|on|after|between|among|when|while)\\s+)?(?:(?:the|a|an|my|this|our)\\s+)?(?:fitted\\s+)?", "", rest, perl = TRUE)  # nolint: line_length_linter.
  rest <- sub("^(?i)(?:(?:multiple|simple|ols|least[- ]squares)\\s+)?(?:linear\\s+)?(?:regression|model|fit)(?:\\s+model)?\\s+(?:of|for|predicting|explaining)\\s+",  # nolint: line_length_linter.
              "", rest, perl = TRUE)
  rest <- sub("^(?i)(?:predicting|explaining|modelling|modeling|regressing|predictors? (?:of|for))\\s+", "", rest, perl = TRUE)
  # "the model that predicts Y from X"
  rest <- sub("^(?i)(?:regression|model)\\s+(?:that|which)\\s+(?:predicts|explains)\\s+", "", rest, perl = TRUE)
  if (grepl("^(?i)(?:linear|multiple|logistic|poisson|negative binomial|cox|robust)?\\s*(?:regression|model)\\b", rest, perl = TRUE)) return(rest)
  paste("model of", rest)
}

#' Does what is left name an outcome and something that explains it?
#' @noRd
names_model <- function(rest) {
  grepl("\\b(regression|model|fit|predicting|explaining|predictors?|predicts|explains|regressing)\\b|\\S+ (on|from|by|against|with|using) \\S+|~",
        rest, ignore.case = TRUE, perl = TRUE)
}

#' Cut a lead out where the rest of the question names a model
#' @section Shape: list(text, extra), or NULL.
#' @noRd
cut_lead <- function(text, lead, extra, to = model_of) {
  rest <- sub(paste0("(?i)^ *", lead, " *"), "", text, perl = TRUE)
  if (rest == text || !nzchar(trimws(gsub("[?!.]", "", rest))) || !names_model(rest)) return(NULL)
  list(text = to(rest), extra = extra)
}

# what a question may begin with before it names its matter
ask_lead <- function() paste0("(?:(?:please|can you|could you|i want|i need|we need)\\s+)*(?:what(?:'s| is| are)\\s+|how (?:large|big|high|strong) (?:is|are)\\s+|",  # nolint: line_length_linter.
                              "(?:show|give|get|print|list|find|draw|plot|make|compute|calculate|report)(?: me| us)?\\s+|is there\\s+|are there\\s+|",
                              "(?:check|test|look|assess|examine|verify)(?: for| at| whether)?\\s+|do (?:we|i) have\\s+)?(?:an?\\s+|any\\s+|the\\s+|some\\s+|all\\s+)*(?:problems? with\\s+|signs? of\\s+|evidence of\\s+)?")  # nolint: line_length_linter.

wish_collinearity <- function(text, vocabulary) {
  matter <- "(?:generali[sz]ed )?(?:vifs?|variance[- ]inflation(?: factors?)?|(?:multi-?)?collinearity(?: statistics| diagnostics| checks?)?)"
  # "collinearity between A and B in the model of Y", "are A and B collinear in predicting Y"
  into <- "(?:(?:in|when|while|as|for)\\s+(?:the |a |an )?(?:(?:model|regression|predictors?) (?:of|for)|predicting|explaining)|for)"
  both <- match_groups(text, sprintf("(?i)^ *%s%s (?:between|among|of) (.+?) %s (?:the )?(.+?)[?. ]*$", ask_lead(), matter, into))  # nolint: line_length_linter.
  if (is.na(both[1])) both <- match_groups(text, sprintf(
    "(?i)^ *(?:are|is) (?:the predictors )?(.+?) (?:(?:multi-?)?collinear|too closely related|redundant|overlapping)(?: with each other)? %s (?:the )?(.+?)[?. ]*$", into))  # nolint: line_length_linter.
  if (!is.na(both[1])) return(list(text = sprintf("model of %s on %s", both[3], both[2]), extra = list(view = "collinearity")))
  # "collinearity of the predictors of Y": of all that could explain it
  text <- sub("(?i)\\b(?:the )?(?:predictors|explanatory variables|covariates) (?:of|for) (?:the )?((?:(?! on ).)+?)[?. ]*$", "\\1 on all other columns",  # nolint: line_length_linter.
              text, perl = TRUE)
  cut_lead(text, paste0(ask_lead(), matter), list(view = "collinearity")) %||%
    cut_lead(text, "(?:are|do) the predictors (?:(?:in|of) )?(?=.*\\b(?:collinear|overlap|too closely related)\\b)", list(view = "collinearity"),
             to = function(rest) model_of(sub("(?i)\\s*(?:(?:multi-?)?collinear|overlap\\w*|too closely related)\\b.*$", "", rest, perl = TRUE)))
}

#' Columns set side by side are correlated where no model is named
#' @noRd
wish_overlap <- function(text, vocabulary) {
  form <- "(?i)\\bmulti-?collinearity\\b"
  if (grepl(form, text, perl = TRUE)) list(text = sub(form, "collinearity", text, perl = TRUE), extra = list())
}

wish_influence <- function(text, vocabulary) {
  matter <- "(?:influential|cook'?s?[- ]distances?|leverages?|dfbetas?|dffits|hat values|undue influence|outl(?:iers|ying \\w+))"
  of <- "(?:in|for|on|of|from)\\s+(?:the |a |an |my )?(?:fitted )?(?:(?:multiple|simple|linear|logistic|poisson|least[- ]squares)\\s+)*(?:regression|model|fit)\\b"  # nolint: line_length_linter.
  hit <- match_groups(text, sprintf("(?i)^(.*?\\b%s\\b.*?)\\s(%s.*)$", matter, of))
  # "cook's distances for Y on X"
  if (is.na(hit[1])) hit <- match_groups(text, sprintf("(?i)^(.*?\\b%s\\b(?: points?| rows?| cases?| values?)?)\\s((?:in|for|of|from) .+ (?:on|from) .+)$",  # nolint: line_length_linter.
                                                                          sub("|outl(?:iers|ying \\w+)", "", matter, fixed = TRUE)))
  if (is.na(hit[1])) return(NULL)
  list(text = model_of(hit[3]), extra = list(view = "influence"))
}

wish_residuals <- function(text, vocabulary) {
  if ("residu" %in% vocabulary$terms$stem) return(NULL)
  # "are the residuals of Y on X normal"
  asked <- match_groups(text, paste0("(?i)^ *(?:are|do|is|does) (?:the )?(?:spread of (?:the )?)?(?:model )?residuals?(?: (?:of|from|for|in) (.+?))? ",  # nolint: line_length_linter.
    "(?:approximately |roughly )?(?:look |follow (?:a )?|have (?:a )?)?(?:normal(?:ly distributed)?(?: distribution)?|gaussian|symmetric|homo\\w+|hetero\\w+|constant|equal|skewed|",  # nolint: line_length_linter.
    "independent|auto-?correlated|ok|fine|well behaved)[?. ]*$"))
  if (!is.na(asked[1])) return(if (is.na(asked[2])) NULL else list(text = model_of(asked[2]), extra = list(view = "residuals")))
  cut_lead(text, paste0(ask_lead(), "(?:residuals?(?: plots?| panels?| figures?| diagnostics?| analysis| checks?)?|(?:model |regression )?(?:diagnostics?|diagnostic (?:plots?|panels?|figures?)))"),  # nolint: line_length_linter.
           list(view = "residuals")) %||%
    cut_lead(text, paste0("(?:(?:check|test|verify|assess)|(?:are|do|is)) (?:the |all )?(?:model |regression |linear )?(?:model )?assumptions?(?: (?:of|for|in|behind))?(?=.*\\b(?:regression|model|on|from)\\b)"),  # nolint: line_length_linter.
             list(view = "residuals"), to = function(rest) model_of(sub("(?i)\\s+(?:met|satisfied|fulfilled|ok|hold(?:s|ing)?|violated|reasonable)[?. ]*$", "", rest,  # nolint: line_length_linter.
                                                                       perl = TRUE)))
}

#' "are falls overdispersed", "overdispersion of falls in a Poisson model on ward"
#' @noRd
wish_dispersion <- function(text, vocabulary) {
  counts_of <- function(rest) sub("^model of", "poisson regression of", model_of(rest))
  hit <- match_groups(text, "(?i)^ *(?:are|is) (?:the )?(.+?)(?: counts?)? (?:over|under)-?dispersed(?: (?:in|for|given|by|within|across|on|with) (.+?))?[?. ]*$")  # nolint: line_length_linter.
  if (!is.na(hit[1]) && !is.na(hit[3])) {
    by <- sub("(?i)^(?:the |a )?(?:poisson )?(?:model|regression)(?: (?:on|by|with|of))? ", "", hit[3], perl = TRUE)
    return(list(text = sprintf("poisson regression of %s on %s", hit[2], by), extra = list(view = "dispersion")))
  }
  cut_lead(text, paste0(ask_lead(), "(?:over|under)-?dispersion"), list(view = "dispersion"), to = counts_of)
}

wish_hazards <- function(text, vocabulary) {
  form <- paste0("(?i)^ *(?:are|is|do|does|check|test|assess|verify)?(?: whether| if)?(?: the)?(?: assumption of)? ?(?:the )?",
                 "(?:proportional hazards(?: assumption)?|hazards?(?: ratios?)? (?:are |is )?(?:proportional|constant(?: over time| in time)?))",
                 "(?: hold| holds| met| ok| satisfied)? *")
  rest <- sub(form, "", text, perl = TRUE)
  if (rest == text || !nzchar(gsub("[?. ]", "", rest))) return(NULL)
  # "for the cox model of time by arm"
  rest <- sub("^(?i)(?:in|for|of|with|hold (?:in|for)) (?:the |a )?(?:cox )?(?:model|regression) (?:of|for) ", "", rest, perl = TRUE)
  list(text = paste("cox regression", gsub("[?. ]+$", "", rest)), extra = list(view = "hazards"))
}

#' ROC curves, tables of calls, calibration
#' @noRd
wish_chances <- function(text, vocabulary) {
  hit <- match_groups(text, paste0("(?i)^ *(?:how well calibrated is|is) (?:the |a )?((?:logistic )?(?:model|regression)\\b.+?)(?: (?:well[- ])?calibrated)?[?. ]*$"))  # nolint: line_length_linter.
  if (!is.na(hit[1]) && grepl("calibrated", text, ignore.case = TRUE)) return(list(text = model_of(hit[2]), extra = list(view = "calibration")))
  if ("calibr" %in% vocabulary$terms$stem) return(NULL)
  cut_lead(text, paste0(ask_lead(), "calibration(?: (?:plot|curve|figure|check|table))?"), list(view = "calibration")) %||%
    cut_lead(text, paste0(ask_lead(), "(?:roc(?:[- ]curves?| plots?| analysis)?|aucs?|areas? under (?:the )?(?:roc )?curve|c[- ]statistics?|",
                          "confusion (?:matrix|table)|(?:sensitivity and specificity|classification table|discrimination))"), list(view = "discrimination"),  # nolint: line_length_linter.
             to = function(rest) chances_of(model_of(rest)))
}

#' "of temperature for infection", "for infection from temperature": what happens is the outcome of a model of chances
#' @noRd
chances_of <- function(text) sub("^model of", "logistic regression of", text)

#' "standardised coefficients of A and B for Y", "beta weights for Y on A and B"
#' @noRd
wish_standardised <- function(text, vocabulary) {
  matter <- "(?:standardi[sz]ed (?:regression |partial )?(?:coefficients?|betas?|slopes?|weights?|b|estimates?)|beta[- ](?:weights?|coefficients?)|betas)"  # nolint: line_length_linter.
  if (!grepl(matter, text, ignore.case = TRUE, perl = TRUE)) {
    # "with standardised predictors"
    form <- "(?i),? *(?:with|using|after) (?:all )?standardi[sz](?:ed|ing) (?:the )?(?:predictors?|variables?|columns?|values)"
    return(if (grepl(form, text, perl = TRUE)) list(text = sub(form, "", text, perl = TRUE), extra = list(standardised = TRUE)))
  }
  # ("standardised coefficients of A and B for Y" names what explains first)
  turned <- match_groups(text, sprintf("(?i)^ *%s%s of (.+?) (?:for|on|in (?:the (?:model|regression) of|predicting|explaining)) (?:the )?(.+?)[?. ]*$",  # nolint: line_length_linter.
                                                          ask_lead(), matter))
  # (and "of Y on A and B" is the regression of Y: there the list comes last)
  lists <- function(x) grepl(",| and ", x)
  regressed <- !is.na(turned[1]) && grepl(sprintf("%s on ", turned[2]), text, fixed = TRUE) && (lists(turned[3]) || !lists(turned[2]))
  if (!is.na(turned[1]) && !regressed && !grepl("\\b(regression|model)\\b", turned[2], ignore.case = TRUE) && !grepl("\\b(on|from)\\b", turned[3])) {
    return(list(text = sprintf("model of %s on %s", turned[3], turned[2]), extra = list(standardised = TRUE)))
  }
  cut_lead(text, paste0(ask_lead(), matter), list(standardised = TRUE)) %||% {
    form <- paste0("(?i),? *(?:with|as|giving|in|using) (?:the )?", matter)
    if (grepl(form, text, perl = TRUE)) list(text = sub(form, "", text, perl = TRUE), extra = list(standardised = TRUE))
  }
}

#' "hc3 standard errors for Y on X", "Y on X with heteroscedasticity-robust errors"
#' @noRd
wish_errors <- function(text, vocabulary) {
  matter <- "(?:hc[0-4]?|(?:heteroske|heterosce)\\w*[- ](?:consistent|robust)|(?<!cluster[- ])robust|white'?s?|sandwich)(?: \\(?hc[0-4]?\\)?)? (?:standard[- ])?errors?"  # nolint: line_length_linter.
  if (!grepl(matter, text, ignore.case = TRUE, perl = TRUE) || grepl("\\bcluster", text, ignore.case = TRUE)) return(NULL)
  tail <- paste0("(?i),? *(?:and |but )?(?:with|using|and|via|by) (?:the )?", matter)
  if (grepl(tail, text, perl = TRUE)) {
    rest <- sub(tail, "", text, perl = TRUE)
    # ("Y on X with HC3 errors" names no method: errors of this kind are those of a regression)
    bare <- grepl("\\S+ (on|from) \\S+", rest) && !grepl("\\b(regress\\w*|model\\w*|effects?|predict\\w*|affects?|anova|how|does|do|did|is|are)\\b", rest,  # nolint: line_length_linter.
                                                       ignore.case = TRUE, perl = TRUE)
    return(list(text = if (bare) model_of(rest) else rest, extra = list(hc3 = TRUE)))
  }
  cut_lead(text, paste0(ask_lead(), matter), list(hc3 = TRUE))
}

#' "cluster-robust errors by site: Y on X", "use site as clusters: Y on X"
#' @noRd
wish_clusters <- function(text, vocabulary) {
  hit <- match_groups(text, paste0("(?i)^ *(?:with |use |using |taking |take )?(?:cluster(?:ed)?[- ]?(?:robust)?(?: standard)? errors? (?:by|for|at|on) (?:the )?([\\w ]+?)(?: level)?|",  # nolint: line_length_linter.
    "([\\w ]+?) as (?:the |a )?clusters?(?:ing (?:variable|column))?)(?: ?[:,] ?(?:for |of |in )?| for )(?:the )?(.+)$"))
  if (!is.na(hit[1])) {
    by <- if (is.na(hit[2])) hit[3] else hit[2]
    return(list(text = sprintf("%s with cluster-robust errors by %s", model_of(hit[4]), by), extra = list()))
  }
  # "Y on X clustered by site"
  tail <- "(?i) (?:and )?(?:clustered|clustering) (?:by|within|on|at|in) (?=[\\w ]+[?. ]*$)"
  if (grepl(" on ", text) && !grepl("^ *(do|does|did|is|are|how|what|which)\\b", text, ignore.case = TRUE) && grepl(tail, text, perl = TRUE) && !grepl("errors? clustered|random|mixed", text, ignore.case = TRUE)) {  # nolint: line_length_linter.
    return(list(text = model_of(text), extra = list()))
  }
  NULL
}

#' "random slopes of X within site for Y": the outcome comes last
#' @noRd
wish_slope <- function(text, vocabulary) {
  hit <- match_groups(text, "(?i)^ *(?:a |fit (?:a )?)?(?:model with )?(?:a )?random slopes? (?:of|for) (.+?) (?:within|by|across|in|over) (?:each |the )?(.+?) (?:for|on|in|explaining|predicting) (?:the )?(.+?)[?. ]*$")  # nolint: line_length_linter.
  if (is.na(hit[1])) return(NULL)
  list(text = sprintf("model of %s on %s with a random slope for %s", hit[4], hit[2], hit[3]), extra = list())
}

#' "do A and B add anything to C in explaining Y", "does adding A to C improve the prediction of Y"
#' @noRd
wish_joint <- function(text, vocabulary) {
  aim <- "(?:in|for|when|to|of)? ?(?:the )?(?:explaining|explain|predicting|predict|explanation of|prediction of|model(?:ling)? (?:of|for)|for|of) (?:the )?"  # nolint: line_length_linter.
  form <- sprintf("(?i)^ *(?:do|does|did) (.+?)(?: jointly| together| as a block)? (?:add|contribute)(?: anything| something| information| significantly| much)?(?: new| more| further| extra)?(?: information)? (?:to|over|beyond|above|on top of|over and above|besides) (?:what )?(.+?)(?: (?:already )?explains?)? %s(.+?)[?. ]*$", aim)  # nolint: line_length_linter.
  hit <- match_groups(text, form)
  if (!is.na(hit[1])) return(joint_model(hit[4], hit[2], hit[3]))
  form <- "(?i)^ *(?:do|does|did|would) adding (.+?) to (?:a |the )?(?:model (?:with|of|on) )?(.+?) (?:improve|help|increase|better|add to) (?:the )?(?:prediction|model|fit|explanation|explained variance|r.?squared?)(?: (?:of|for) (?:the )?(.+?))?[?. ]*$"  # nolint: line_length_linter.
  hit <- match_groups(text, form)
  if (is.na(hit[1])) return(NULL)
  if (!is.na(hit[4])) return(joint_model(hit[4], hit[2], hit[3]))
  # "adding A to the model of Y on B"
  own <- match_groups(hit[3], "(?i)^(?:model of )?(.+?) (?:on|from|by) (.+)$")
  if (!is.na(own[1])) joint_model(own[2], hit[2], own[3])
}

joint_model <- function(outcome, added, base) {
  list(text = sprintf("model of %s on %s adjusting for %s", outcome, added, sub("(?i)^(a |the )?(model|regression) (with|of|on) ", "", base, perl = TRUE)),  # nolint: line_length_linter.
       extra = list(joint = TRUE))
}

#' "nested models: Y on A against Y on A plus B", "compare models of Y: A alone and A plus B"
#' @noRd
wish_nested <- function(text, vocabulary) {
  lead <- "(?i)^ *(?:(?:compare|test) )?(?:the |two )?(?:nested )?models? ?(?:comparison)?(?:(?: of| for) (.+?))? ?[:,] ?(.+?) (?:against|versus|vs\\.?|and|with|to) (.+?)[?. ]*$"  # nolint: line_length_linter.
  hit <- match_groups(text, lead)
  better <- match_groups(text, "(?i)^ *(?:is|does) (?:a |the )?model (?:of|for) (.+?) (?:with|on|from) (.+?) (?:fit better|better|an improvement)(?: fit)? (?:than|over|to) (?:a |the )?(?:one |model |that )?(?:with |on |of |from )?(.+?)[?. ]*$")  # nolint: line_length_linter.
  if (!is.na(better[1])) hit <- c(better[1], better[2], better[4], better[3])
  if (is.na(hit[1])) return(NULL)
  split_terms <- function(x) trimws(strsplit(gsub("(?i)\\b(alone|only|the|just)\\b", "", x, perl = TRUE), "(?i)\\s*(?:,|\\+|\\bplus\\b|\\band\\b|&)\\s*", perl = TRUE)[[1]])  # nolint: line_length_linter.
  sides <- lapply(hit[3:4], function(side) {
    own <- match_groups(side, "(?i)^(.+?) (?:on|from|by|~) (.+)$")
    list(outcome = if (is.na(own[1])) hit[2] else own[2], terms = Filter(nzchar, split_terms(if (is.na(own[1])) side else own[3])))
  })
  outcome <- stats::na.omit(c(sides[[1]]$outcome, sides[[2]]$outcome, hit[2]))
  norm <- function(x) tolower(gsub("[^[:alnum:]]+", " ", x))
  if (length(sides[[1]]$terms) > length(sides[[2]]$terms)) sides <- rev(sides)
  small <- sides[[1]]$terms; large <- sides[[2]]$terms
  if (!length(outcome) || !length(small) || !all(norm(small) %in% norm(large)) || length(large) <= length(small)) return(NULL)
  joint_model(outcome[1], paste(large[!norm(large) %in% norm(small)], collapse = " and "), paste(small, collapse = " and "))
}

#' "top two box of advice by region": the share of the two highest answers
#' @noRd
wish_top_box <- function(text, vocabulary) {
  form <- "(?i)\\b(top|bottom)[- ]?(one|two|three|[1-3])?[- ]box(?:es)?(?: scores?| shares?| percentages?| percent| ?%| results?)?(?: (?:of|for|in|on))?(?: the)? (.+)$"  # nolint: line_length_linter.
  hit <- match_groups(text, form)
  if (is.na(hit[1])) return(NULL)
  k <- if (is.na(hit[3])) 1 else word_number(hit[3])
  words <- strsplit(gsub("[?.!,]+", " ", hit[4]), " +")[[1]]
  for (n in rev(seq_len(min(6, length(words))))) {
    said <- paste(words[seq_len(n)], collapse = " ")
    at <- unique(vocabulary$phrases$column[vocabulary$phrases$phrase == paste(stems_of(said)[[1]], collapse = " ")])
    # (by a part of its name, where that is one column only)
    if (!length(at) && !tolower(words[n]) %in% english$stop) at <- match(column_said(vocabulary, said)$name, vocabulary$columns$name)
    at <- at[vocabulary$columns$kind[at] == "ordered"]
    if (length(at) != 1) next
    share <- box_share(vocabulary, at, k, tolower(hit[2]) == "top")
    if (is.null(share)) return(NULL)
    return(list(text = trimws(sprintf("%s share with %s %s", sub(hit[1], "", text, fixed = TRUE), share,
                                      paste(words[-seq_len(n)], collapse = " "))), extra = list()))
  }
  NULL
}

#' The `k` highest or lowest answers of an ordered column as a condition in words
#' @noRd
box_share <- function(vocabulary, at, k, top) {
  columns <- vocabulary$columns
  name <- columns$name[at]
  # (a scale of numbers runs from its first level to its last)
  ends <- suppressWarnings(as.numeric(unlist(columns[at, c("first_level", "last_level")])))
  if (!anyNA(ends)) {
    levels <- seq(min(ends), max(ends))
    if (length(levels) <= k) return(NULL)
    edge <- if (top) utils::tail(levels, k)[1] else levels[k]
    return(sprintf("%s %s %s", name, if (top) "at least" else "at most", format_plain(edge)))
  }
  levels <- unique(vocabulary$values$level[vocabulary$values$column == at])
  if (length(levels) != columns$distinct[at] || length(levels) <= k || levels[1] != columns$first_level[at]) return(NULL)
  sprintf("%s = %s", name, paste(if (top) rev(utils::tail(levels, k)) else utils::head(levels, k), collapse = " or "))
}

#' "write up the difference in yield between arms": the words of the paper come first
#' @noRd
wish_write_up <- function(text, vocabulary) {
  form <- paste0("(?i)^ *(?:please |can you |could you )*(?:write up|write (?:me )?(?:a |the )?(?:results? )?(?:sentence|paragraph|text) (?:on|about|for|reporting)|",  # nolint: line_length_linter.
                 "how (?:do|should|would|can) (?:i|we|you) (?:report|write up|phrase)|report) (?:the )?(?:results? of )?(?:the )?(?=(?:difference|comparison|correlation|relation|effect|test|t[- ]test|anova|regression|change|association|model|result)\\b)")  # nolint: line_length_linter.
  if (!grepl(form, text, perl = TRUE)) return(NULL)
  list(text = sub("(?i),? (?:in|for) (?:a |the |my )?(?:paper|journal|thesis|report|journal style)[?. ]*$", "", sub(form, "", text, perl = TRUE), perl = TRUE),  # nolint: line_length_linter.
       extra = list(wants_write_up = TRUE))
}

#' "forest plot of the odds ratios for Y on X": a model's ratios, no studies
#' @noRd
wish_ratio_plot <- function(text, vocabulary) {
  cut_lead(text, paste0(ask_lead(), "(?:forest )?(?:plot|figure|chart) of (?:the )?(?:odds ratios|hazard ratios|rate ratios|coefficients|estimates)"), list(ratio_plot = TRUE))  # nolint: line_length_linter.
}

#' Words that change nothing of what is done: "a multi-way table", "allowing for autocorrelation" of a trend, whose errors do so anyway
#' @noRd
wish_plain_words <- function(text, vocabulary) {
  plain <- gsub("(?i)\\b(?:multi|two|three)-?way (?=(?:frequency |contingency |cross[- ]?)?tables?\\b)", "cross-", text, perl = TRUE)
  if (grepl("trend|over time|slope", plain, ignore.case = TRUE)) plain <- gsub(
    "(?i),? *\\b(?:allowing|accounting|adjusting|adjusted|correcting|corrected|controlling) for (?:the )?(?:auto-?|serial )correlation(?: of (?:the )?(?:residuals|errors))?|,? *\\bwith (?:an? )?(?:auto-?|serial )correlat(?:ion|ed)(?: (?:errors|residuals))?", "",  # nolint: line_length_linter.
    plain, perl = TRUE)
  # (every forecast is tried on the last periods, held back)
  if (grepl("forecast|predict|project", plain, ignore.case = TRUE)) plain <- gsub(
    "(?i),? *\\b(?:and|with|including) (?:an? |the )?(?:back-?test(?:ing)?|hold-?out(?: test| check)?|test on held[- ]back (?:data|periods|rows))(?: it| the forecast| figure| check)?",  # nolint: line_length_linter.
    "", plain, perl = TRUE)
  plain <- gsub("(?i)\\b(above|below|over|under|than|from) zero\\b", "\\1 0", plain, perl = TRUE)
  # (a level may be called good)
  plain <- gsub("(?i)\\b(?:good|well|fine) enough\\b", "enough", plain, perl = TRUE)
  # "on warm days (over 20 degrees)": what stands in the brackets says what is meant
  plain <- gsub("(?i)\\b(on|in|for|during) (?:the )?\\w+ (days|nights|weeks|months|hours|rows|cases) \\(((?:over|under|above|below|at least|at most|more than|less than) [^)]+)\\)",  # nolint: line_length_linter.
                "\\1 \\2 \\3", plain, perl = TRUE)
  if (plain != text) list(text = plain, extra = list())
}

#' "Hochberg-adjusted comparisons", "with a Holm correction", "using false discovery control"
#' @noRd
wish_adjustment <- function(text, vocabulary) {
  names <- "(?:bonferroni[- ])?(holm|hochberg|bonferroni|benjamini(?:[- ](?:and[- ]|& ?)?hochberg)?|bh|fdr|false[- ]discovery(?:[- ]rate)?)(?:[- ](?:bonferroni|holm))?(?:'s|s')?"  # nolint: line_length_linter.
  act <- "[- ](?:adjust(?:ed|ment|ments|ing)?|correct(?:ed|ion|ions)|method|procedure|control(?:led)?)"
  tail <- sprintf("(?i),? *\\b(?:adjusted|corrected|controlled)? ?(?:for multiple (?:testing|comparisons|tests) )?(?:and |with |using |by |via |after |under )+(?:a |an |the )?%s(?:%s)?(?: of| for| the)*(?: p[- ]?values?)?(?: for multiple (?:testing|comparisons|tests))?\\b", names, act)  # nolint: line_length_linter.
  lead <- sprintf("(?i)\\b%s%s(?: p[- ]?values? (?:of|for|from))? *", names, act)
  for (form in c(tail, lead)) {
    hit <- match_groups(text, form)
    if (is.na(hit[1])) next
    said <- tolower(hit[2])
    how <- if (startsWith(said, "holm")) "holm" else if (startsWith(said, "hochberg")) "hochberg" else if (startsWith(said, "bonf")) "bonferroni" else "BH"  # nolint: line_length_linter.
    return(list(text = trimws(sub(hit[1], " ", text, fixed = TRUE)), extra = list(adjust_p = how)))
  }
  NULL
}

#' "semi-partial correlation of A and B controlling for C"
#' @noRd
wish_semipartial <- function(text, vocabulary) {
  form <- "(?i)\\b(?:semi[- ]?partial|part)(?= correlations?\\b)"
  if (grepl(form, text, perl = TRUE)) list(text = sub(form, "partial", text, perl = TRUE), extra = list(semi = TRUE))
}

#' "what share has not swarmed by day 30", of times that may be censored: the curve read at that time
#' @noRd
wish_event_share <- function(text, vocabulary) {
  time <- survival_time(vocabulary$columns)
  if (is.null(time)) return(NULL)
  columns <- vocabulary$columns
  events <- c(columns$name[match(event_of_time(columns, time), seq_len(nrow(columns)))], censored_columns(columns)$name,
              columns$name[columns$kind == "yes_no" & grepl(event_names(), tolower(columns$name))])
  said <- stems_of(text)[[1]]
  meant <- any(unlist(stems_of(name_words(stats::na.omit(events)))) %in% said) || any(stems_of(vocabulary$values$level[
    columns$name[vocabulary$values$column] %in% events]) %in% said)
  form <- "(?i)\\b(?:by|before|within|in the first|until|up to|at|after|by the end of)(?: the first)? (?:(day|week|month|year|hour) ([0-9.]+)|([0-9.]+|one|two|three|four|five|six|ten|twelve) (day|week|month|year|hour)s?)\\b"  # nolint: line_length_linter.
  hit <- match_groups(text, form)
  asked <- grepl("(?i)\\b(?:share|proportion|percentage|percent|fraction|probability|chance|risk)\\b", text, perl = TRUE)
  if (is.na(hit[1]) || !asked || !meant || !nzchar(unit_of_times(columns, time)) || grepl("\\bsurviv|\\balive\\b", text, ignore.case = TRUE)) return(NULL)  # nolint: line_length_linter.
  unit <- if (is.na(hit[2])) hit[5] else hit[2]
  value <- if (is.na(hit[2])) hit[4] else hit[3]
  without <- grepl("(?i)\\b(?:not|never|without|free|still|yet|un\\w+|escape\\w*|avoid\\w*)\\b|n['\u2019]t\\b", text, perl = TRUE)
  rest <- sub("(?i)^ *(?:what(?: is| was|'s)? )?(?:the )?(?:(?:cumulative )?(?:share|proportion|percentage|percent|fraction|probability|chance|risk|incidence))(?: of| that| for)?(?: (?:the|all))? *", "",  # nolint: line_length_linter.
              sub(hit[1], "", text, fixed = TRUE), perl = TRUE)
  # what is left names groups and conditions; the event itself and its not coming are said by the reading
  stems <- unlist(stems_of(name_words(stats::na.omit(events))))
  words <- strsplit(rest, " +")[[1]]
  said_event <- vapply(words, function(w) any(stems_of(w)[[1]] %in% stems), NA) | grepl("(?i)^(?:not|never|without|yet|still|free|has|have|had|will|did|were|was|be|been|to)$",  # nolint: line_length_linter.
                                                                                        words, perl = TRUE)
  at <- in_unit_of_times(list(value = word_number(value), unit = unit), unit_of_times(columns, time))
  list(text = sprintf("kaplan-meier of %s %s", time, paste(words[!said_event], collapse = " ")), extra = list(with_event = !without, at_time = at))
}

#' "estimated marginal means of Y by G adjusting for C", "adjusted means"
#' @noRd
wish_adjusted_means <- function(text, vocabulary) {
  form <- "(?i)\\b(?:(?:estimated )?marginal|covariate[- ]adjusted|adjusted|least[- ]squares) means?\\b"
  if (!grepl(form, text, perl = TRUE) || !grepl("(?i)\\b(?:adjust\\w* for|controlling for|controlled for|allowing for|accounting for|holding|at the mean of|given|correcting for)\\b",  # nolint: line_length_linter.
                                                  text, perl = TRUE)) return(NULL)
  list(text = sub("(?i)\\bat the mean of\\b|\\bgiven\\b", "adjusting for", sub(form, "ancova", text, perl = TRUE), perl = TRUE), extra = list())
}

#' "falls by ward as a rate ratio": counts are modelled
#' @noRd
wish_rate_ratio <- function(text, vocabulary) {
  form <- "(?i),? *\\b(?:as|in|by|with|giving)(?: a| an)? (?:incidence )?rate ratios?\\b"
  if (grepl(form, text, perl = TRUE)) return(list(text = paste("poisson regression of", sub(
    "(?i)^ *(?:the )?(?:number|count|numbers|counts) of ", "", sub(form, "", text, perl = TRUE), perl = TRUE)), extra = list()))
  lead <- "(?i)^ *(?:what (?:is|are) )?(?:the )?(?:adjusted )?(?:incidence )?rate ratios? (?:of|for) "
  if (grepl(lead, text, perl = TRUE) && grepl("\\b(by|on|between|adjusting|for)\\b", sub(lead, "", text, perl = TRUE))) {
    list(text = paste("poisson regression of", sub(lead, "", text, perl = TRUE)), extra = list())
  }
}

#' "restricted mean time to swarm up to 60 days"
#' @noRd
wish_restricted_mean <- function(text, vocabulary) {
  matter <- "(?i)\\b(?:rmst|restricted[- ]mean(?: survival)?(?: times?)?)\\b(?: to(?= ))?"
  if (!grepl(matter, text, perl = TRUE)) return(NULL)
  until <- "(?i),? *\\b(?:up to|until|within|at|to|over|restricted to|limited to|truncated at)(?: the first)? ([0-9.]+) ?(hour|day|week|month|year)?s?\\b"  # nolint: line_length_linter.
  hit <- match_groups(text, until)
  if (!is.na(hit[1])) text <- sub(hit[1], " ", text, fixed = TRUE)
  text <- sub("(?i)^ *(?:what is |is there |compare )?(?:the |a )?(?:difference in |ratio of )?(?:the )?", "", text, perl = TRUE)
  list(text = paste("survival times", gsub(" +", " ", sub(matter, "", text, perl = TRUE))),
       extra = list(view = "restricted_mean", until = if (!is.na(hit[1])) list(value = as.numeric(hit[2]), unit = if (is.na(hit[3])) "" else hit[3])))
}

# ---- after a model ---------------------------------------------------------------------------------------------------

#' "which rows are influential?", "is there collinearity?", "show the ROC curve", after a model
#' @noRd
ask_side <- function(text, previous, history) {
  if (!previous$task %in% c("predict", "survival") || !length(previous$outcome)) return(NULL)
  side <- names(Filter(function(form) grepl(form, text, ignore.case = TRUE, perl = TRUE), side_follow_ups()))
  if (!length(side)) return(NULL)
  r <- previous
  if (side[1] == "coefficients") r$extra[c("view", "standardised")] <- NULL
  else if (side[1] == "standardised") { r$extra$standardised <- TRUE; r$extra["view"] <- NULL }
  else if (side[1] == "hc3") { r$method_asked <- "linear_regression_hc3"; r$extra["view"] <- NULL }
  else {
    r$extra$view <- side[1]
    # the side is one of a Cox model
    if (side[1] == "hazards") {
      r$method_asked <- "cox_regression"
      if (!length(r$predictors)) { r$predictors <- r$by; r$by <- character() }
    }
    if (side[1] == "dispersion") r$method_asked <- "poisson_regression"
  }
  new_verdict("answered", continued(r))
}

#' What is said of a model that has just been fitted
#' @section Shape: Named list of patterns; the names are views, or what else is done.
#' @noRd
side_follow_ups <- function() {
  ask <- "^(and |but |now |please |ok |then )*(what (is|are|about)|how about|show|give|draw|plot|see|list|which|are|is|do|does|check|test|look at|can i see|were)?( me| there)?( the| an?| any| some| its)*( most| largest)* ?"  # nolint: line_length_linter.
  of <- "( (of|in|for) (this|that|the) (model|regression|fit))?"
  list(
    influence = paste0(ask, "(\\w+ (are|is|were) (the )?(most )?influential|influential (rows?|points?|cases?|\\w+)|influence( of (single )?rows)?|cook'?s? distances?|leverages?|dfbetas|outl(iers|ying rows))( here)?", of, "$"),  # nolint: line_length_linter.
    collinearity = paste0(ask, "((multi-?)?collinearity|vifs?|variance inflation( factors?)?|predictors (collinear|too closely related|correlated))( here)?", of, "$"),  # nolint: line_length_linter.
    residuals = paste0(ask, "(residuals?( plots?| panels?| diagnostics?)?|diagnostics?|diagnostic plots?|(model )?assumptions)( (ok|normal|normally distributed|fine|met|hold|look|skewed))*( here)?", of, "$"),  # nolint: line_length_linter.
    discrimination = paste0(ask, "(roc( curve)?|auc|area under the( roc)? curve|confusion (matrix|table)|sensitivity( and specificity)?|discrimination)", of, "$"),  # nolint: line_length_linter.
    calibration = paste0(ask, "(calibration( plot| curve| figure)?|(it |the model |that )?(well )?calibrated)", of, "$"),
    dispersion = paste0(ask, "(overdispersion|(counts |they |it |data )?overdispersed)", of, "$"),
    hazards = paste0(ask, "(proportional hazards( assumption)?( met| ok| hold)?|hazards proportional)", of, "$"),
    standardised = "^(and |now |please |show |give |as |in |with |what are |the |me )*(standardi[sz]ed (coefficients?|betas?|form|predictors)|beta weights|betas|standard deviations|standardi[sz]e (it|them|the (predictors|coefficients)))$",  # nolint: line_length_linter.
    hc3 = "^(and |now |please |show |use |using |with |the |it |again )*(hc3|robust|heterosc?k?edasticity[- ](robust|consistent)) (standard )?errors( instead)?$",  # nolint: line_length_linter.
    coefficients = "^(and |now |please |show |give |back to |me |the )*(coefficients?|coefficient table|raw coefficients)( again)?$")
}
