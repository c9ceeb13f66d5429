# English words and their kin (synonyms of the first senses, words of one family, opposites), from the WordNet database
# that Debian packages as wordnet-base (WordNet 3.0 licence: use, copy and change freely, with its notice). Run from the
# package's folder: Rscript data-raw/make_english.R. Writes inst/lexicon/en/english.rds.
folder <- "/usr/share/wordnet"
parts <- c(n = "noun", v = "verb", a = "adj", r = "adv")
rows_of <- function(file) { x <- readLines(file.path(folder, file)); x[!startsWith(x, " ")] }

index <- do.call(rbind, lapply(names(parts), function(p) {
  f <- strsplit(rows_of(paste0("index.", parts[[p]])), " ", fixed = TRUE)
  pointers <- as.integer(vapply(f, `[[`, "", 4)); senses <- as.integer(vapply(f, `[[`, "", 3))
  tagged <- as.integer(mapply(function(v, k) v[4 + k + 2], f, pointers))
  offsets <- mapply(function(v, k, s) v[4 + k + 2 + seq_len(s)], f, pointers, senses, SIMPLIFY = FALSE)
  data.frame(word = vapply(f, `[[`, "", 1), part = p, tagged = tagged, offsets = I(offsets))
}))
synsets <- do.call(c, lapply(names(parts), function(p) {
  f <- strsplit(rows_of(paste0("data.", parts[[p]])), " ", fixed = TRUE)
  out <- lapply(f, function(v) {
    n <- strtoi(v[4], 16); words <- tolower(sub("\\(.*\\)$", "", v[4 + 2 * seq_len(n) - 1]))
    k <- as.integer(v[4 + 2 * n + 1]); at <- 4 + 2 * n + 1 + 4 * (seq_len(k) - 1)
    pointers <- if (k) data.frame(sign = v[at + 1], to = paste0(v[at + 3], v[at + 2]), from_word = strtoi(substr(v[at + 4], 1, 2), 16),
                                  to_word = strtoi(substr(v[at + 4], 3, 4), 16))
    list(words = words, pointers = pointers)
  })
  stats::setNames(out, paste0(p, vapply(f, `[[`, "", 1)))
}))
names(synsets) <- sub("^s", "a", names(synsets))
plain <- function(w) w[grepl("^[a-z]{3,}$", w)]

kin_of <- function(word, part, offsets, tagged) {
  senses <- utils::head(offsets, max(1, min(2, tagged)))
  family <- same <- opposite <- character()
  for (k in seq_along(offsets)) {
    set <- synsets[[paste0(part, offsets[k])]]
    at <- match(word, set$words)
    if (k <= length(senses)) same <- c(same, set$words)
    p <- set$pointers
    if (is.null(p)) next
    linked <- function(signs, all) {
      q <- p[p$sign %in% signs & (p$from_word %in% c(0, at)), , drop = FALSE]
      unlist(Map(function(to, w) { own <- synsets[[sub("^s", "a", to)]]$words; if (w > 0) own[w] else if (all) own else character() }, q$to, q$to_word))
    }
    if (k <= 3) family <- c(family, linked(c("+", "\\", "<"), FALSE))
    if (k <= length(senses)) { opposite <- c(opposite, linked("!", FALSE)); same <- c(same, linked("=", TRUE)) }
  }
  list(same = setdiff(plain(unique(c(same, family))), word), opposite = setdiff(plain(unique(opposite)), word))
}
single <- index[grepl("^[a-z]{3,}$", index$word), ]
found <- Map(kin_of, single$word, single$part, single$offsets, single$tagged)
join <- function(field) {
  words <- lapply(found, `[[`, field)
  all <- tapply(seq_along(words), single$word, function(i) paste(unique(unlist(words[i])), collapse = " "))
  all <- all[nzchar(all)]
  stats::setNames(as.character(all), names(all))
}
forms <- do.call(rbind, lapply(parts, function(p) { f <- strsplit(readLines(file.path(folder, paste0(p, ".exc"))), " ", fixed = TRUE)
  data.frame(form = vapply(f, `[[`, "", 1), base = vapply(f, `[[`, "", 2)) }))
forms <- forms[grepl("^[a-z]{3,}$", forms$form) & grepl("^[a-z]{3,}$", forms$base), ]
forms <- forms[!duplicated(forms$form), ]
common <- sort(unique(single$word[single$tagged > 0]), method = "radix")
english <- list(common = common, kin = join("same"), opposite = join("opposite"), forms = stats::setNames(forms$base, forms$form))
# quick to load matters more than small on disk
saveRDS(english, "inst/lexicon/en/english.rds", compress = "gzip")
cat(length(common), "common words,", length(english$kin), "words with kin,", file.size("inst/lexicon/en/english.rds"), "bytes\n")
