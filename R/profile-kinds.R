# What kind of column is this? Every decision carries its reason.

#' Profile one column
#'
#' @param name The column's name.
#' @param x The column as read.
#' @section Shape: list(kind, reason, style (how numbers are written, see number_style()), codes (stored values of
#'   the levels), distinct, missing, missing_codes, levels, format, numeric): `levels` for ordered,
#'   category and yes_no; `format` of a date; `numeric` TRUE when the column was read as numbers.
#' @noRd
profile_column <- function(name, x, codes = NULL) {
  numeric <- is.numeric(x) && !inherits(x, c("Date", "POSIXct", "factor"))
  texts <- if (is.character(x)) seen_texts(x, missing_words())
  values <- texts$values
  facts <- if (numeric) number_facts(x)
  codes <- codes %||% if (numeric) missing_codes_of(x, facts) else texts$found
  if (length(codes)) values <- values[!values %in% codes]
  among <- if (is.character(x)) words_among_numbers(values)
  if (isTRUE(among$safe)) {
    codes <- c(codes, among$words)
    values <- setdiff(values, among$words)
  }
  seen <- drop_codes(x, codes)
  style <- if (is.character(x)) number_style(values) %||% clock_style(name, values)
  if (!is.null(style)) {
    seen <- as_numbers(seen, style)
    numeric <- TRUE
    if (is.null(codes)) {
      codes <- missing_codes_of(seen)
      if (length(codes)) {
        seen <- drop_codes(seen, codes)
        codes <- unique(x[as_numbers(x, style) %in% codes])
      }
    }
  }
  if (numeric && (!is.null(style) || length(codes))) facts <- number_facts(seen)
  distinct <- if (!is.null(facts)) facts$distinct else if (is.null(values)) distinct_of(seen) else length(values)
  base <- list(name = name, label = NULL, unit = unit_of(name) %||% style$unit, style = style, codes = NULL,
               distinct = distinct, missing = length(x) - length(seen),
               missing_codes = codes, levels = NULL, format = NULL, numeric = numeric, role = NULL)
  found <- if (isTRUE(style$clock) && distinct > 1) kind("number", style$reason) else kind_of(name, seen, distinct, numeric, length(x), values, facts)
  if (found$kind %in% c("number", "count")) found$proposed <- proposed_codes(seen, facts)
  # (a price of 999 may stand several times)
  if (isTRUE(found$proposed$safe) && !grepl("price|cost|fee|fare|amount|salary|wage|income|spend|revenue|sales|paid|pay|value", tolower(name))) {
    far <- if (is.null(style)) found$proposed$codes else unique(x[as_numbers(x, style) %in% found$proposed$codes])
    return(profile_column(name, x, c(codes, far)))
  }
  if (!is.null(among) && !among$safe && is.null(style)) found$proposed <- list(codes = among$words, rows = sum(x %in% among$words),
      evidence = "every other value is a number")
  if (length(among$beyond) && isTRUE(among$safe) && numeric) {
    found$beyond_limit <- among$beyond
    found$reason <- sprintf("%s; %s beyond a limit (%s) counted as missing", found$reason, count_of(sum(x %in% among$beyond), "value"),
      some_of(among$beyond, 3))
  }
  utils::modifyList(base, found)
}

#' Different texts of a column in the order in which they come, missing ones left out; and which of some words occur
#' @section Shape: list(values, found (NULL if none)).
#' @noRd
seen_texts <- function(x, words = character()) {
  out <- kernel_first_texts(x, words)
  values <- if (length(out$first) == length(x)) x else x[out$first]
  # texts of one encoding have one address each; only others need to be compared letter by letter
  if (out$other) values <- unique(values)
  list(values = values, found = nothing_as_null(if (out$other) values[values %in% words] else values_among(values, words[out$found])))
}

#' Words in the order in which a column holds them
#' @noRd
values_among <- function(values, words) if (length(words) < 2) words else words[order(match(words, values))]

distinct_texts <- function(x) seen_texts(x)$values

#' match() of texts against levels, faster where the levels are plain
#' @noRd
text_codes <- function(x, levels) {
  if (length(x) > 1e4 && !anyNA(levels) && all(stringi::stri_enc_isascii(levels))) kernel_text_codes(x, levels) else match(x, levels)
}

#' Bounds, counts and wholeness of a numeric vector in one pass
#' @section Shape: list(count, distinct, below_zero, min, max, whole, stepping).
#' @noRd
number_facts <- function(x) kernel_number_facts(as_kernel_numbers(x))

#' Numbers as the kernels take them: integers stay what they are, so that ten million of them are not copied
#' @noRd
as_kernel_numbers <- function(x) if (is.integer(x) || is.double(x)) x else as.double(x)

distinct_of <- function(x) {
  if (inherits(x, c("Date", "POSIXct")) && is.numeric(x)) number_facts(unclass(x))$distinct else data.table::uniqueN(x)
}

#' Rows of a column without a value, or (there) with one
#' @noRd
rows_without <- function(x, there = FALSE) {
  plain <- !is.object(x) || inherits(x, c("factor", "Date", "POSIXct"))
  if (plain && typeof(x) %in% c("double", "integer", "logical", "character")) return(kernel_missing(x, !there))
  which(is.na(x) != there)
}

drop_codes <- function(x, codes) {
  if (!length(codes)) return(if (anyNA(x)) x[rows_without(x, there = TRUE)] else x)
  x[!is.na(x) & !(x %in% codes)]
}

kind_of <- function(name, seen, distinct, numeric, rows, values = NULL, facts = NULL) {
  if (length(seen) == 0) return(kind("empty", "no value at all"))
  if (distinct == 1 && rows > 1) return(kind("constant", "one value in every row"))
  if (inherits(seen, "Date")) return(kind("date", "read as dates", format = "%Y-%m-%d"))
  if (inherits(seen, "POSIXct")) return(kind("datetime", "read as time stamps"))
  if (is.factor(seen)) return(kind_of_factor(seen, name))
  if (is.logical(seen)) return(kind("yes_no", "TRUE and FALSE", levels = c("FALSE", "TRUE")))
  if (numeric) return(kind_of_number(name, seen, distinct, facts %||% number_facts(seen)))
  kind_of_text(name, as.character(seen), distinct, values %||% unique(as.character(seen)))
}

kind <- function(kind, reason, ...) list(kind = kind, reason = reason, ...)

kind_of_factor <- function(x, name = "") {
  if (is.ordered(x)) return(kind("ordered", "an ordered factor", levels = levels(x)))
  if (nlevels(droplevels(x)) == 2 && mean_yes_and_no(levels(x))) {
    return(kind("yes_no", "two levels that mean yes and no", levels = levels(x)))
  }
  # levels such as "Agree" say their order themselves, if the factor does not put them in another one
  scale <- ordered_scale_of(levels(x)) %||% letter_grades(name, levels(x))
  given <- match(scale$levels, levels(x))
  if (!is.null(scale) && (!is.unsorted(given) || !is.unsorted(rev(given)) || !is.unsorted(levels(x)))) {
    return(kind("ordered", paste("a factor of", scale$reason), levels = scale$levels))
  }
  kind("category", "a factor", levels = levels(x))
}

kind_of_number <- function(name, x, distinct, facts) {
  whole <- facts$whole
  range <- c(facts$min, facts$max)
  if (whole && names_a_date(name) && range[1] >= 19000101 && range[2] <= 21001231 && all_dates(as.character(unique(x)), "%Y%m%d")) {
    return(kind("date", "eight digits that read as dates", format = "%Y%m%d"))
  }
  if (whole && range[1] >= 190001 && range[2] <= 210012 && grepl("month|period|date|yyyymm|(^|[^a-z])ym([^a-z]|$)", tolower(name)) && distinct > 1 &&
      all(unique(x) %% 100 %in% 1:12)) {
    return(kind("date", "every value reads as a month (%Y%m), which stands for its first day", format = "%Y%m"))
  }
  if (looks_like_day_numbers(name, range, whole)) {
    return(kind("date", "whole numbers under the name of a date, read as the day numbers of a spreadsheet", format = "day number"))
  }
  if (distinct == 2 && all(range == c(0, 1))) return(kind("yes_no", "only 0 and 1", levels = c("0", "1")))
  # ("subject_id", of a dozen subjects with a row for each condition: no groups, and no numbers to be added up)
  few <- whole && distinct > 4 && names_a_key(name) && (names_one_of_many(name) || distinct > length(x) / 3)
  if (whole && range[1] >= 0 && names_an_id(name) && (distinct > 20 || distinct >= 0.9 * length(x) || few)) {
    return(kind("id", "whole numbers under a name that marks a key"))
  }
  # a few numbers that come back often, under such a name
  if (whole && distinct %in% 3:20 && distinct <= length(x) / 3 && numbers_groups(name, range[1])) {
    return(kind("category", "a few numbers under a name that marks a key", levels = format_plain(sort(unique(x)))))
  }
  # "diet", numbered 1 to 4
  if (whole && distinct %in% 2:12 && distinct <= length(x) / 3 && range[1] %in% 0:1 && range[2] - range[1] == distinct - 1 && names_groups(name)) {
    return(kind("category", "a few numbers without gaps under a name for groups", levels = format_plain(sort(unique(x)))))
  }
  if (whole && distinct == length(x) && length(x) >= 10 && range[2] - range[1] == length(x) - 1 && range[1] %in% 0:1 &&
      facts$stepping && is.null(unit_of(name)) && !names_a_scale(name)) {
    return(kind("id", "counts the rows from first to last"))
  }
  # "session" from 5001 on, in the order of the rows
  if (whole && distinct == length(x) && length(x) >= 10 && facts$stepping && range[1] >= 100 && is.null(unit_of(name)) &&
      (names_a_record(name) || range[2] > 2200)) {
    return(kind("id", "counts the rows from first to last"))
  }
  # "rating_patient", in steps of ten, is a measure given by the patient
  dense <- !grepl("[_. ]", name) || distinct >= 0.5 * (range[2] - range[1] + 1)
  if (whole && names_a_unit(name) && range[1] >= 0 && distinct > 4 && dense) {
    return(kind("id", "whole numbers under a name that stands for a unit"))
  }
  # numbers without gaps that all come back equally often: units with a row for each occasion
  if (whole && distinct >= 20 && range[1] %in% 0:1 && range[2] - range[1] == distinct - 1 && length(x) %in% (distinct * 2:24) &&
      !grepl("count|number|score|age|year|day|week|month|rank|order|trial|time|visit|rating|amount|quantity|price|total", tolower(name)) &&
      all(tabulate(x - range[1] + 1) == length(x) / distinct)) {
    return(kind("id", "numbers without gaps that all come back equally often"))
  }
  # "boy", numbered from 1 without gaps
  # ("sat_home", from 1 to 10, is what somebody says of the home)
  if (whole && (names_a_thing(name) || names_a_record(name)) && range[1] %in% 0:1 && distinct >= (if (grepl("[_. ]", name)) 30 else 10) &&
      range[2] - range[1] == distinct - 1) {
    return(kind("id", "numbers without gaps under a name that stands for a unit"))
  }
  # "class" with codes such as 180, 280 and 1082, each with several rows: names of things, and no amounts
  if (whole && range[1] >= 0 && (names_a_thing(name) || names_a_unit(name)) && distinct > 20 && distinct <= length(x) / 2 &&
      range[2] - range[1] + 1 > 3 * distinct && !grepl("[_. ]", name)) {
    return(kind("id", "codes with gaps under a name for things of which each has several rows"))
  }
  role <- if (is_sampling_weight(name, x)) "weight" else position_role(name, range)
  # "season" and its like hold years only where they look like nothing else
  season <- grepl("season|vintage|edition|cohort|election|fiscal|campaign|^fy", tolower(name)) && range[1] >= 1900 && range[2] <= 2100
  if (whole && range[1] >= 1500 && range[2] <= 2200 && (season || any(grepl("year|yr$|jahr|annee", tolower(name))))) {
    return(kind("number", "whole numbers that read as years", role = "year"))
  }
  # "year", from 50 to 73 in the order of the rows: the last two digits
  if (whole && grepl("^(year|yr|jahr|annee)s?$", tolower(name)) && range[1] >= 20 && range[2] <= 99 && distinct >= 5 &&
      distinct == range[2] - range[1] + 1 && distinct == length(x)) {
    return(kind("number", "whole numbers without gaps that read as the last two digits of years", role = "year"))
  }
  if (whole && range[1] >= 0) return(kind("count", "whole numbers from zero up", role = role))
  kind("number", if (whole) "whole numbers, some below zero" else "numbers with decimals", role = role,
       share = !whole && range[1] >= 0 && range[2] <= 1)
}

#' Does a name say that its numbers name groups ("store_no")? Not where it counts ("children_number") or numbers occasions
#' @noRd
numbers_groups <- function(name, lowest) {
  said <- tolower(name)
  thing <- sub("[_. ]?(id|no|nr|code|key|ref|number)$", "", said)
  counts <- grepl("(s|children|people|men|women)$", thing) || grepl("number$", said) && lowest < 100
  occasions <- paste0("week|month|year|day|visit|wave|round|session|trial|period|quarter|hour|time|order|seq|rank|line|item|test|attempt|",
                      "occasion|phase|step")
  names_an_id(name) && lowest >= 1 && !counts && !grepl(occasions, said)
}

#' Nouns for groups without an order, whose numbers only tell them apart
#' @noRd
names_groups <- function(name) {
  sub("^.*[_. ]", "", tolower(name)) %in% c("diet", "treatment", "trt", "arm", "group", "grp", "condition", "race", "ethnicity", "region", "religion",
    "method", "drug", "feed", "variety", "cultivar", "breed", "strain", "brand", "supplier", "occupation", "party", "species", "colour", "color",
    "shift", "operator", "sex", "gender", "fertiliser", "fertilizer", "therapy", "vaccine", "supplement", "block", "rep", "replicate", "centre",
    "center", "site", "ward", "clinic", "hospital", "stratum", "district", "zone", "province", "sector", "department", "cohort", "segment",
    "quadrant", "category", "county", "country")
}

names_a_date <- function(name) grepl("date|(^|[^a-z])(day|dob|born|birth)([^a-z]|$)", tolower(name))

names_an_id <- function(name) {
  # "pid", "subjid", "custid"; "grid" and "paid" are words
  short <- paste0("^(p|s|u|c|h|e|t|g|n|w|r|pt|ppt|sub|subj|subject|pat|patient|part|participant|resp|respondent|stud|student|emp|employee|cust|",
    "customer|user|case|study|record|rec|row|site|hh|household|person|pers|indiv|ind|animal|mouse|rat|plot|tree|order|trans|transaction|visit|",
    "session|account|acct|client|member|team|store|product|prod|item|event|trip|loan|claim|school|class|teacher|pupil|child|family|fam|group|",
    "batch|sample|samp|specimen|device|machine|unit|obs|seq|doc|ticket|invoice|inv|player|game|match)id$|",
    "^(mrn|nhs|ssn|isbn|ean|upc|sku|imei|uuid|guid)$")
  grepl(short, tolower(name)) || grepl("(^|[^a-z])(id|ids|key|uuid|serial)$|_id($|_)|^id_|(^|[_ .])(nr|no|number|code|ref)$|[a-z]I[dD]$",
        if (grepl("[a-z]I[dD]$", name)) name else tolower(gsub("([a-z])([A-Z])", "\\1_\\2", name)))
}

#' Does a name say outright that it is a key ("ID", "subject_id", "subjid")? A number or a code may be anything
#' @noRd
names_a_key <- function(name) {
  names_an_id(name) && !grepl("(nr|no|number|code|ref)$", tolower(name))
}

#' Is a key that of the people, animals or things that are measured, rather than of the places that hold several of them?
#' @noRd
names_one_of_many <- function(name) {
  thing <- sub("[_. ]?(ids?|key|uuid|serial)$", "", sub("^id[_. ]", "", tolower(gsub("([a-z])([A-Z])", "\\1_\\2", name))))
  places <- c("school", "site", "ward", "cluster", "block", "batch", "farm", "village", "stratum", "family", "household", "plot", "tank", "cage")
  short <- c("", "p", "s", "u", "subj", "pt", "ppt", "pat", "part", "resp", "stud", "emp", "cust", "indiv", "ind")
  thing %in% short || !thing %in% places && (names_a_unit(thing) || names_a_performer(thing))
}

#' Names of the things that are measured: their numbers are keys
#' @noRd
names_a_unit <- function(name) {
  # the singular names one thing ("hive"), the plural says how many there are ("hives")
  last <- sub("^.*[_. ]", "", tolower(name))
  last %in% c("subject", "subj", "patient", "participant", "ppt", "respondent", "emp", "person", "student", "pupil", "child",
                             "chick", "animal", "hive", "plant", "tree", "rat",
    "mouse", "dog", "cow", "bird", "fish", "rabbit", "horse", "mare", "sheep", "pig", "piglet", "sow", "goat", "lamb", "ewe", "calf", "heifer",
        "steer",
    "cat", "monkey", "hen", "hamster", "ferret", "larva", "colony", "seed", "donor", "volunteer", "employee", "customer", "client", "user", "case",
        "household", "school",
    "plot", "pot", "tank", "cage", "litter", "family", "village", "nest", "farm", "tray",
    "player", "worker", "member", "specimen", "stratum", "pair", "block", "batch", "site", "ward", "cluster")
}

#' Nouns for what a row records: where they step by one from row to row, they number the rows
#' @noRd
names_a_record <- function(name) {
  sub("^.*[_. ]", "", tolower(name)) %in% c("session", "visit", "order", "call", "trip", "ticket", "transaction", "booking", "loan", "claim", "event",
    "sample", "run", "bib", "resp", "respondent", "invoice", "record", "obs", "row", "index", "line", "entry", "submission", "case", "mrn", "form",
    "response", "receipt", "parcel", "admission", "episode")
}

#' Names whose numbers measure even where they step from row to row: a time or dose that was set, the x of a curve
#'
#' A capital X or a letter that counts (i, j, k, n) is what a table of numbered rows carries.
#' @noRd
names_a_scale <- function(name) {
  grepl("^[xytuvwz]$", name) || sub("^.*[_. ]", "", tolower(name)) %in% c("second", "minute", "hour", "day", "week", "fortnight", "month", "quarter",
    "season", "year", "time", "period", "age", "dose", "dosage", "concentration", "distance", "depth", "height", "length", "width", "weight", "mass",
    "altitude", "temperature", "temp", "speed", "velocity", "load", "force", "pressure", "power", "voltage", "current", "frequency", "duration",
    "delay", "lag", "angle", "strength", "intensity", "size", "volume", "area", "score", "price", "cost", "quantity", "amount", "count", "level",
    "rank", "generation", "cycle", "lap", "mile", "predictor", "regressor")
}

#' Further nouns for people, animals and objects: names of keys where their numbers run without gaps
#' @noRd
names_a_thing <- function(name) {
  last <- sub("^.*[_. ]", "", tolower(name))
  last %in% c("boy", "girl", "man", "woman", "baby", "infant", "mother", "couple", "rater", "judge", "reader", "observer", "interviewer", "runner",
    "driver", "volunteer", "donor", "voter", "tenant", "nurse", "doctor", "teacher", "class", "team", "store", "shop", "firm", "company", "bank",
    "house", "home", "apartment", "flat", "property", "building", "room", "hotel", "restaurant", "book", "film", "movie", "song", "device", "sensor",
    "machine", "lamp", "bulb", "battery", "engine", "pump", "bearing", "wafer", "piece", "bottle", "box", "sample", "specimen", "sheep", "lamb",
        "goat",
    "horse", "pig", "calf", "bull", "puppy", "hen", "turtle", "frog", "lizard", "beetle", "crab", "seal", "whale", "owl", "bat", "deer", "seedling",
    "seed", "leaf", "shrub", "fruit", "lake", "river", "island", "star", "planet", "station", "well", "event", "quake", "earthquake", "hospital",
    "clinic", "library", "town", "state", "county", "country", "city", "order", "invoice", "flight", "shipment", "parcel", "account", "loan")
}

#' Further nouns for people by what they do, and for animals
#' @noRd
names_a_performer <- function(name) {
  sub("^.*[_. ]", "", tolower(name)) %in% c("athlete", "swimmer", "rider", "cyclist", "gymnast", "dancer", "musician", "singer", "skier", "rower",
    "golfer", "boxer", "learner", "trainee", "apprentice", "resident", "caregiver", "carer", "adult", "teenager", "sibling", "twin", "speaker",
        "listener",
    "writer", "author", "candidate", "applicant", "guest", "visitor", "passenger", "pilot", "patron", "borrower", "citizen", "individual",
        "panelist", "runner", "driver", "volunteer", "donor", "voter",
    "panellist", "horse", "sheep", "goat", "pig", "cat", "rabbit", "chicken", "duck", "colony", "pony", "sow", "piglet", "ewe", "ram", "heifer")
}

#' Does a label say that a column weighs the rows ("Survey weight", "Design weight (final)")?
#' @noRd
says_sampling_weight <- function(label) {
  grepl("\\b(sampling|survey|design|person|population|calibration|post.?stratification|non.?response|analysis) weight(s|ing)?\\b|\\bweighting factor\\b",  # nolint: line_length_linter.
        label, ignore.case = TRUE)
}

#' A sampling weight says so in its name; a column that is only called "weight" must also look like one (about 1 on
#' average)
#' @noRd
is_sampling_weight <- function(name, x) {
  plain <- tolower(gsub("[^A-Za-z]+", "_", name))
  outright <- c("pweight", "weight_factor", "weight_final", paste0(c("sampling", "survey", "design", "person", "household", "post", "final",
                                                                     "calibrated", "normalised"), "_weight"))
  if (sub("s$", "", plain) %in% outright) {
    return(all(x >= 0))
  }
  grepl("^(weights?|wt|weighting)$", plain) && all(x >= 0) && mean(x) > 0.5 && mean(x) < 2 && any(x != round(x))
}

#' Yes and no in more than one spelling each ("Yes", "yes", "NO", "no"): the commonest of each side stands for it
#' @section Shape: As of `kind()`, with `recode`; NULL where other values occur, or one side only.
#' @noRd
spelled_yes_no <- function(x, values) {
  if (length(values) < 3 || length(values) > 12) return(NULL)
  lower <- tolower(trimws(values))
  yes <- lower %in% yes_words(); no <- lower %in% no_words()
  if (!all(yes | no) || !any(yes) || !any(no)) return(NULL)
  times <- tabulate(match(x, values), length(values))
  commonest <- function(side) values[side][which.max(times[side])]
  levels <- c(commonest(no), commonest(yes))
  to <- ifelse(yes, levels[2], levels[1])
  kind("yes_no", "several spellings of yes and no", levels = levels, distinct = 2L, recode = stats::setNames(to, values)[!values %in% levels])
}

kind_of_text <- function(name, x, distinct, values) {
  found <- kind_of_words(name, x, distinct, values)
  if (!found$kind %in% c("category", "text", "id", "ordered")) return(found)
  odd <- words_among_dates(values)
  if (length(odd)) found$proposed <- list(codes = odd, rows = sum(x %in% odd), evidence = "every other value is a date",
                                          dated = any(grepl("[0-9]", odd)))
  found
}

#' The few values of a column of dates that are none; empty for other columns
#' @noRd
words_among_dates <- function(values) {
  form <- "^[0-9]{4}-[0-9]{1,2}-[0-9]{1,2}|^[0-9]{1,2}([/.-])[0-9]{1,2}\\1[0-9]{2,4}"
  # (the first values tell at once that most columns hold no dates)
  if (mean(grepl(form, utils::head(values, 50))) < 0.5) return(character())
  dated <- grepl(form, values)
  if (sum(dated) < 3 || mean(dated) < 0.7) return(character())
  # of several ways to write a date the commonest
  way <- paste0(ifelse(grepl("^[0-9]{4}", values), "year first ", ""), gsub("[0-9]+", "9", sub("[T ].*$", "", values)))
  rest <- values[!dated | way != names(which.max(table(way[dated])))]
  kept <- setdiff(values, rest)
  if (!length(rest) || length(rest) > max(2, 0.3 * length(values)) || length(kept) < 3 || is.null(date_format_of(kept))) return(character())
  rest
}

kind_of_words <- function(name, x, distinct, values) {
  if (distinct == 2 && mean_yes_and_no(values)) {
    no <- tolower(trimws(values)) %in% no_words()
    return(kind("yes_no", "two values that mean yes and no", levels = values[order(!no)]))
  }
  spelled <- spelled_yes_no(x, values)
  if (!is.null(spelled)) return(spelled)
  dated <- date_format_of(values)
  if (!is.null(dated)) return(kind(dated$kind, dated$reason, format = dated$format, role = dated$role))
  scale <- ordered_scale_of(values) %||% letter_grades(name, values)
  # ("placebo", "low dose" and "high dose" of an arm are groups, which stand in the order of the dose)
  if (!is.null(scale)) return(kind(if (isTRUE(scale$of_groups) && names_groups(name)) "category" else "ordered", scale$reason, levels = scale$levels))
  mark <- answer_separator(values, x)
  if (!is.null(mark)) return(kind("text", sprintf("several answers in a cell, divided by %s", quoted(trimws(mark))), role = "multi_answer",
      mark = mark))
  words <- mean(lengths(strsplit(utils::head(values, 500), "[[:space:]]+")))
  if (says_open_answer(name) && distinct > 2 && words >= 2) return(kind("text", "answers in own words, as its name says"))
  if (distinct > 12 && holds_ranges(values)) return(kind("text", "ranges of numbers", role = "range"))
  # sentences that all come back are the names of groups, not answers in own words
  if (words >= 3.5 && distinct > 0.3 * length(x) && (distinct > 0.5 * length(x) || min(tabulate(match(x, values))) < 2)) {
    return(kind("text", "sentences, mostly different"))
  }
  if (distinct == length(x) && length(x) >= 10 && (names_an_id(name) || looks_like_codes(values))) {
    return(kind("id", "a different short code in every row"))
  }
  if (distinct > 0.5 * length(x) && all(grepl("^[0-9]+$", values))) {
    return(kind("id", "digits that numbers would destroy (leading zeros or too long), mostly different"))
  }
  # (a dozen places with names, each with several rows, are groups: "Waseca" of site)
  places <- grepl("(^|[_. ])(site|ward|farm|village|school|block|batch|cluster|stratum)$", tolower(name)) && distinct <= 15 &&
    length(x) >= 3 * distinct && !any(grepl("[0-9]", values)) && all(nchar(values) > 2)
  if (names_a_unit(name) && distinct > 4 && words < 2 && !places) return(kind("id", "codes under a name that stands for a unit"))
  # numbered codes ("A01", "P-17") of people and animals that come back
  numbered <- distinct > 7 && all(grepl("^[[:alpha:]]{1,4}[-_ ]?[0-9]+$", values))
  if (numbered && names_a_performer(name)) return(kind("id", "numbered codes under a name that stands for a unit"))
  # "R0136" of a ring: many numbers of one width behind one letter
  same_form <- numbered && distinct > 20 && length(unique(gsub("[0-9]+$", "", values))) == 1 && all(grepl("[0-9]{3,}$", values)) &&
    length(unique(nchar(values))) == 1
  if (same_form) return(kind("id", "numbered codes of one form"))
  if (distinct == length(x) && length(x) >= 10) return(kind("id", "a different value in every row"))
  if (names_an_id(name) && distinct > 10) return(kind("id", "codes under a name that marks a key"))
  if (distinct > 200 && distinct > 0.5 * length(x)) {
    return(kind(if (words >= 2.5) "text" else "id", "mostly different values"))
  }
  if (distinct > 2 && all(grepl(range_pattern(), values)) && holds_ranges(values)) {
    ends <- vapply(values, range_ends, numeric(2))
    return(kind("ordered", "ranges of numbers", levels = values[order(ends[1, ], ends[2, ])]))
  }
  found <- kind("category", sprintf("%d different values", distinct), levels = denied_first(natural_order(values)))
  # one answer that refuses keeps the others from being a scale
  refused <- values[plain_answer(values) %in% c(refusal_words(), "don't know / no answer", "cannot say", "can't say", "no opinion", "other")]
  if (length(refused) && distinct - length(refused) > 2 && !is.null(ordered_scale_of(setdiff(values, refused)))) {
    found$proposed <- list(codes = refused, rows = sum(x %in% refused), evidence = "the others are answers of an ordered scale")
  } else if (length(refused) && (mean_yes_and_no(setdiff(values, refused)) || !is.null(spelled_yes_no(x, setdiff(values, refused))))) {
    found$proposed <- list(codes = refused, rows = sum(x %in% refused), evidence = "the others mean yes and no")
  }
  found
}

#' Does a name or a label say that people answered in their own words?
#' @noRd
says_open_answer <- function(said) {
  grepl("(^|[^a-z])(comments?|remarks?|feedback|suggestions?|verbatims?|free[_ ]?text|open[_ ]?(ended|answers?|text|comments?)|own words)([^a-z]|$)",
        tolower(said))
}

looks_like_codes <- function(x) mean(grepl("^[A-Za-z]{0,6}[-_ ]?[0-9]+[A-Za-z]?$", utils::head(x, 2000))) > 0.9

#' "not met" before "met": of two levels the one that denies the other comes first, as no before yes
#' @noRd
denied_first <- function(levels) {
  if (length(levels) != 2) return(levels)
  bare <- tolower(levels)
  denials <- paste0(c("not ", "no ", "non ", "non-", "un", "in", "without ", "never "), bare[1])
  if (bare[2] %in% denials) rev(levels) else levels
}

yes_words <- function() c("yes", "y", "true", "t", "ja", "oui", "si", "s\u00ed", "sim", "tak", "1", "present", "positive", "pos", "on", "checked",
                          "x", "\u2713", "\u2714", "\u2611", "\u2705")
no_words <- function() c("no", "n", "false", "f", "nein", "non", "n\u00e3o", "nie", "0", "absent", "negative", "neg", "off", "unchecked",
  "\u2610", "\u2717", "\u2718", "\u274c")
#' Two values, one that means yes and one that means no
#' @noRd
mean_yes_and_no <- function(values) {
  lower <- tolower(trimws(values))
  length(values) == 2 && sum(lower %in% yes_words()) == 1 && sum(lower %in% no_words()) == 1
}

#' Sorted levels; those that begin with numbers, or end in them after one and the same word, by the number
#' @noRd
natural_order <- function(x) {
  number <- suppressWarnings(as.numeric(stringi::stri_extract_first_regex(x,
      "^[<>\u2264\u2265 ]*-?[0-9]+([.][0-9]+)?") |>
                                          stringi::stri_replace_all_regex("[<>\u2264\u2265 ]", "")))
  below <- grepl("^[<\u2264]|^(under|below|less)", tolower(x))
  if (all(!is.na(number))) return(x[order(number, !below, x, method = "radix")])
  numbered_order(x) %||% sort_text(x)
}

#' "Screening", "Week 4", "Week 12", "Follow-up": what comes before the first, the numbered in their order, what comes after the last
#' @return The levels in order, or NULL where they are not numbered so.
#' @noRd
numbered_order <- function(x) {
  form <- "^(.*?[^0-9.])([0-9]{1,6})$"
  numbered <- grepl(form, x, perl = TRUE)
  if (sum(numbered) < 2 || length(unique(tolower(sub(form, "\\1", x[numbered], perl = TRUE)))) != 1) return(NULL)
  first <- grepl("^(screening|base ?line|bl|pre|pre[- ]?(test|treatment|dose|op)|enrol+ment|admission|start|entry|run[- ]?in|initial)$", tolower(x))
  last <- grepl("^(follow[- ]?up|fu|end( of (study|treatment|trial))?|eot|eos|exit|discharge|final|post|post[- ]?(test|treatment|op)|completion)$", tolower(x))  # nolint: line_length_linter.
  if (!all(numbered | first | last)) return(NULL)
  number <- suppressWarnings(as.numeric(sub(form, "\\2", x, perl = TRUE)))
  number[first] <- -Inf
  number[last] <- Inf
  x[order(number, x, method = "radix")]
}

#' Two units at the end of a name: "hb_g_dl", "dose_mg_per_kg"
#' @noRd
double_unit <- function() {
  paste0("[_. ](mg|g|kg|ug|ng|mmol|mol|t|km|m|cm|l|ml|iu|kwh|eur|usd|gbp|chf)[_. ](?:per[_. ])?",
         "(l|dl|ml|kg|g|ha|h|s|m2|m3|day|week|km|min|kwh|mwh|sqm|night)$")
}

#' A measure for each of another at the end of a name: "pace_min_per_km", "energy_kcal_per_day"
#' @noRd
rate_unit <- function() {
  paste0("[_. ](min|mins|minutes|s|sec|seconds|h|hrs|hours|days|kcal|kj|kw|mwh|gbp|ft|mi|miles|mm|gal|mph|steps|beats|breaths|drops|cells|counts)[_. ]per[_. ]",  # nolint: line_length_linter.
         "(km|mi|mile|m|ha|acre|m2|m3|min|minute|h|hr|hour|s|sec|second|day|night|week|month|year|kg|g|l|ml|dl|unit|person|head)$")
}

#' Money in thousands or millions at the end of a name: "price_k_usd", "revenue_m_eur", "budget_thousand_gbp"
#' @param gap What stands between the size and the currency.
#' @noRd
money_unit <- function(gap = "[_. ]?") sprintf("[_. ](k|m|mn|mio|bn|thousands?|millions?|billion)%s(usd|eur|gbp)$", gap)

#' Names without the unit at their end
#' @param keep Units that stay.
#' @noRd
strip_tail <- function(name, keep = character()) {
  if (length(name) == 1 && !length(keep) && !is.na(name)) kept_text(tails_kept, name, tail_stripped) else tail_stripped(name, keep)
}

tails_kept <- new.env(parent = emptyenv())

tail_stripped <- function(name, keep = character()) {
  name <- tail_apart(name)
  single <- sprintf("[_. ](%s)$", paste(setdiff(names(unit_tails()), keep), collapse = "|"))
  bare <- ifelse(lettered_name(name), name, sub(single, "", name, ignore.case = TRUE))
  bare <- sub(money_unit(), "", bare, ignore.case = TRUE)
  # ("weeds_per_m2" are weeds)
  bare <- ifelse(bare == name, bare, sub("[_. ]per$", "", bare, ignore.case = TRUE))
  money <- grepl(money_unit("[_. ]"), name, ignore.case = TRUE)
  bare[money] <- sub("[_. ](k|m|mn|mio|bn|thousands?|millions?|billion)$", "", bare[money], ignore.case = TRUE)
  double <- grepl(double_unit(), name, ignore.case = TRUE)
  bare[double] <- sub(double_unit(), "", name[double], ignore.case = TRUE)
  rate <- grepl(rate_unit(), name, ignore.case = TRUE)
  bare[rate] <- sub(rate_unit(), "", name[rate], ignore.case = TRUE)
  bare
}

#' "vitamin_c", "hepatitis_f": a letter, and a unit only of what can have a temperature
#' @noRd
lettered_name <- function(name) {
  warm <- paste0("temp|deg|therm|dew|heat|cool|freez|boil|melt|warm|cold|tmin|tmax|tavg|tmean|air|water|soil|body|oven|ambient|room|outdoor|indoor|",
                 "outside|inside|surface|skin|core|bath|hive|brood|nest|climate|weather")
  grepl("[_. ][cf]$", name, ignore.case = TRUE) & !grepl(warm, name, ignore.case = TRUE)
}

#' Is what stands in brackets behind a name a unit? Not a scale ("1-5", "1 = low"), the number of a repeat ("2") or a choice ("Y/N")
#' @noRd
reads_as_unit <- function(said) {
  !grepl("^[-+]?[0-9]+$|^[0-9.]+ ?(-|\u2013|to) ?[0-9.]+|=|^(y/n|yes/no|no/yes|m/f|f/m|t/f|n|optional|required|total|mean|sd|n/a|specify|other)$",
    tolower(said)) &&
    grepl("[A-Za-z%$\u20ac\u00a3\u00a5\u00b0\u00b5\u03bc\u2030]", said)
}

#' "WaitSecs", "WeightKg": names in one word with their unit set off by a capital, as "Wait_Secs"
#'
#' "TempMin" is more often a minimum than minutes.
#' @noRd
tail_apart <- function(name) {
  if (!any(grepl("[a-z][A-Z]", name))) return(name)
  units <- setdiff(names(unit_tails())[nchar(names(unit_tails())) > 1], c("min", "in"))
  form <- sprintf("^([A-Za-z]*[a-z])(%s)$", paste(c(capital(units), "KG", "KM", "USD", "EUR", "GBP"), collapse = "|"))
  # ("DaysInHospital", "MinutesPlayed")
  sub("^(Seconds|Minutes|Hours|Days|Weeks|Months|Years)(?=[A-Z])", "\\1_", sub(form, "\\1_\\2", name), perl = TRUE)
}

unit_of <- function(name) {
  name <- tail_apart(name)
  # "measure_0017", "age": one word, or a number at the end, holds no unit (and a table may have thousands of such names)
  if (grepl("^[[:alpha:]]+$|^[[:alpha:]]+[_.]?[0-9]+$", name)) return(NULL)
  bracket <- regmatches(name, regexec("[(\\[]([^)\\]]{1,12})[)\\]]\\s*$", name, perl = TRUE))[[1]]
  if (length(bracket) == 2) return(if (reads_as_unit(bracket[2])) bracket[2])
  two <- regmatches(tolower(name), regexec(double_unit(), tolower(name)))[[1]]
  if (!length(two)) two <- regmatches(tolower(name), regexec(rate_unit(), tolower(name)))[[1]]
  if (length(two) == 3) {
    # ("EUR/kWh": money, and energy below the line; other units stand as they are written)
    money <- two[2] %in% c("eur", "usd", "gbp", "chf"); energy <- two[3] %in% c("kwh", "mwh")
    return(paste(if (money) toupper(two[2]) else two[2], if (energy) unit_tails()[[two[3]]] else two[3], sep = "/"))
  }
  money <- regmatches(tolower(name), regexec(money_unit(), tolower(name)))[[1]]
  if (length(money) == 3) {
    size <- c(k = "thousand", m = "million", b = "billion", t = "thousand")[[substr(money[2], 1, 1)]]
    return(paste(size, toupper(money[3])))
  }
  tail <- tolower(sub("^.*[_. ]", "", name))
  if (lettered_name(name)) return(NULL)
  # "_m" is metres of something long only; of people it is millions, of money thousands or millions
  if (tail == "m" && !grepl("height|length|width|depth|dist|altitude|elevation|diameter|radius|size|high|long|wide|deep|tall",
      tolower(name))) return(NULL)
  # "days_to_settle", "hours_of_sleep"
  first <- tolower(sub("[_. ].*$", "", name))
  counted <- c(seconds = "s", minutes = "min", hours = "hours", days = "days", weeks = "weeks", months = "months", years = "years")
  if (first %in% names(counted) && grepl("[_. ]", name)) return(counted[[first]])
  known <- unit_tails()[[tail]]
  if (is.null(known) || !grepl("[_. ]", name)) return(NULL)
  # "weeds_per_m2"
  if (grepl("[_. ]per[_. ][^_. ]+$", tolower(name))) paste("per", known) else known
}
