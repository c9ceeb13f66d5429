# Words that stand in files for no value, and the short forms of units.

#' Words that say that there is no value. A refusal or "don't know" is an answer until the analyst says otherwise.
#' @noRd
missing_words <- function() {
  words <- c("n/a", "n.a.", "n.a", "#n/a", "#null!", "#ref!", "#div/0!", "#value!", "#name?", "#num!", "null", "none given", "nan", "missing",
             "not answered", "no answer", "(blank)", "(empty)", "(null)", "<na>", "keine Angabe", "k.a.", "k. a.", "k.A.", "sans r\u00e9ponse",
             "non renseign\u00e9", "sin respuesta", "ns/nc", "geen antwoord", "sem resposta", "nessuna risposta", ".", "-", "--", "---", "?",
             "-99", "-999", "-9")
  # in the spellings that occur; a plain match, since a column may hold a million different values
  unique(c(words, toupper(words), capital(words)))
}

refusal_words <- function() {
  c("refused", "refusal", "declined", "don't know", "dont know", "do not know", "dk", "unknown", "unk", "not known", "prefer not to say",
    "prefer not to answer", "rather not say", "not applicable", "no response", "skipped", "not stated", "not recorded", "not available",
    "na", "tbd", "none", "not sure", "withheld", "pending", "x", "not measured", "invalid")
}

#' Words of laboratories for a value below the limit of detection
#' @noRd
undetected_words <- function() {
  c("nd", "n.d.", "n.d", "bdl", "b.d.l.", "bld", "<lod", "< lod", "<loq", "< loq", "<dl", "lod", "not detected", "none detected", "undetected",
    "undetectable",
    "below detection", "below detection limit", "below lod", "below limit", "trace")
}

#' Units by the short forms in which they end names and stand below them
#' @noRd
unit_tails <- function() {
  list(kg = "kg", g = "g", mg = "mg", lb = "lb", lbs = "lb", km = "km", m = "m", cm = "cm", mm = "mm", ml = "ml",
       l = "l", s = "s", sec = "s", secs = "s", seconds = "s", min = "min", mins = "min", minutes = "min", h = "h", hrs = "hours", hours = "hours",
       tonnes = "t", days = "days", weeks = "weeks",
       months = "months",
       years = "years", yrs = "years", wks = "weeks", mths = "months",
       pct = "%", percent = "%", c = "\u00b0C", f = "\u00b0F", mph = "mph", kmh = "km/h", ppb = "ppb",
       ppm = "ppm", usd = "USD", eur = "EUR", gbp = "GBP", ms = "ms", ha = "ha", km2 = "km2", m2 = "m2",
       degc = "\u00b0C",
       mi = "mi", mile = "mi", miles = "mi", ft = "ft", feet = "ft", inch = "in", inches = "in", `in` = "in", yd = "yd", oz = "oz", ft2 = "ft2",
           ft3 = "ft3", gal = "gal",
       mmhg = "mmHg", bpm = "bpm", kcal = "kcal", hz = "Hz", db = "dB", kwh = "kWh", mwh = "MWh", kw = "kW",
       kpa = "kPa", hpa = "hPa", psi = "psi", lux = "lux")
}
