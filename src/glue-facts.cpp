#include <Rcpp.h>
#include <cstdint>
#include <unordered_map>
#include <vector>
#include "facts.h"
#include "keys.h"

// [[Rcpp::export(rng = false)]]
Rcpp::List kernel_number_facts(SEXP x) {
  const quill::NumberFacts f = TYPEOF(x) == REALSXP ? quill::number_facts(REAL(x), Rf_xlength(x))
                                                    : quill::number_facts(INTEGER(x), Rf_xlength(x));
  return Rcpp::List::create(Rcpp::Named("count") = static_cast<double>(f.count),
                            Rcpp::Named("distinct") = static_cast<int>(f.distinct),
                            Rcpp::Named("below_zero") = static_cast<double>(f.below_zero),
                            Rcpp::Named("min") = f.min, Rcpp::Named("max") = f.max, Rcpp::Named("whole") = f.whole,
                            Rcpp::Named("stepping") = f.stepping);
}

// Positions (from 1) at which a string stands that no earlier position holds, missing ones left out; which of some words
// occur; and whether any string is in another encoding than ASCII and UTF-8. Strings are told apart by their address in
// R's cache of strings, so the same text in two encodings counts twice.
// [[Rcpp::export(rng = false)]]
Rcpp::List kernel_first_texts(const Rcpp::CharacterVector& x, const Rcpp::CharacterVector& words) {
  const auto key = [](SEXP text) { return static_cast<std::uint64_t>(reinterpret_cast<std::uintptr_t>(text)); };
  const SEXP* at = STRING_PTR_RO(x);
  const R_xlen_t n = x.size();
  std::vector<int> first;
  quill::KeySet seen;
  SEXP last = NA_STRING;
  bool other = false;
  for (R_xlen_t i = 0; i < n; ++i) {
    // a column that starts with nothing but different texts will have many
    if (i == 2000 && n > 65536 && first.size() > 1800) {
      seen.expect(static_cast<std::size_t>(n));
      first.reserve(static_cast<std::size_t>(n));
    }
    if (at[i] == last || at[i] == NA_STRING) continue;
    last = at[i];
    if (!seen.add(key(last))) continue;
    first.push_back(static_cast<int>(i) + 1);
    const cetype_t encoding = Rf_getCharCE(last);
    if (encoding == CE_LATIN1 || encoding == CE_BYTES) other = true;
  }
  Rcpp::LogicalVector found(words.size());
  for (R_xlen_t i = 0; i < words.size(); ++i) found[i] = seen.has(key(STRING_ELT(words, i)));
  return Rcpp::List::create(Rcpp::Named("first") = Rcpp::wrap(first), Rcpp::Named("found") = found, Rcpp::Named("other") = other);
}

// Positions (from 1) of one text.
// [[Rcpp::export(rng = false)]]
Rcpp::IntegerVector kernel_text_positions(const Rcpp::CharacterVector& x, const Rcpp::CharacterVector& text) {
  const SEXP* at = STRING_PTR_RO(x);
  const SEXP sought = STRING_ELT(text, 0);
  std::vector<int> out;
  for (R_xlen_t i = 0; i < x.size(); ++i) if (at[i] == sought) out.push_back(static_cast<int>(i) + 1);
  return Rcpp::wrap(out);
}

namespace {

// Calls each(i, code) for every text: its position (from 1) among the levels, or NA_INTEGER. Told apart by address: the
// levels must be plain ASCII, which has one address each.
template <typename Each>
void each_code(const Rcpp::CharacterVector& x, const Rcpp::CharacterVector& levels, Each each) {
  std::unordered_map<SEXP, int> code;
  for (R_xlen_t i = 0; i < levels.size(); ++i) code.emplace(STRING_ELT(levels, i), static_cast<int>(i) + 1);
  const SEXP* at = STRING_PTR_RO(x);
  SEXP last = NA_STRING;
  int last_code = NA_INTEGER;
  for (R_xlen_t i = 0; i < x.size(); ++i) {
    if (at[i] != last) {
      last = at[i];
      const auto found = last == NA_STRING ? code.end() : code.find(last);
      last_code = found == code.end() ? NA_INTEGER : found->second;
    }
    each(i, last_code);
  }
}

}  // namespace

// [[Rcpp::export(rng = false)]]
Rcpp::IntegerVector kernel_text_codes(const Rcpp::CharacterVector& x, const Rcpp::CharacterVector& levels) {
  Rcpp::IntegerVector out(Rcpp::no_init(x.size()));
  each_code(x, levels, [&](R_xlen_t i, int code) { out[i] = code; });
  return out;
}

// [[Rcpp::export(rng = false)]]
Rcpp::IntegerVector kernel_text_counts(const Rcpp::CharacterVector& x, const Rcpp::CharacterVector& levels) {
  Rcpp::IntegerVector out(levels.size());
  each_code(x, levels, [&](R_xlen_t, int code) { if (code != NA_INTEGER) ++out[code - 1]; });
  return out;
}

// The rows (from 1) that a rule marks, or those that it does not; counted first, so that no more than they is held.
template <class Rule>
Rcpp::IntegerVector positions(R_xlen_t n, bool marked, Rule rule) {
  R_xlen_t found = 0;
  for (R_xlen_t i = 0; i < n; ++i) found += rule(i) == marked;
  Rcpp::IntegerVector out(Rcpp::no_init(found));
  int* put = out.begin();
  for (R_xlen_t i = 0; i < n; ++i) {
    if (rule(i) == marked) *put++ = static_cast<int>(i) + 1;
  }
  return out;
}

// Positions (from 1) of numbers below `low` or above `high`; missing ones are neither.
// [[Rcpp::export(rng = false)]]
Rcpp::IntegerVector kernel_beyond(SEXP x, double low, double high) {
  std::vector<int> out;
  const bool real = TYPEOF(x) == REALSXP;
  const double* wide = real ? REAL(x) : nullptr;
  const int* whole = real ? nullptr : INTEGER(x);
  for (R_xlen_t i = 0; i < Rf_xlength(x); ++i) {
    if (!real && whole[i] == NA_INTEGER) continue;
    const double v = real ? wide[i] : whole[i];
    if (v < low || v > high) out.push_back(static_cast<int>(i) + 1);
  }
  return Rcpp::wrap(out);
}

// Positions (from 1) of the missing values of a plain vector, or of the others.
// [[Rcpp::export(rng = false)]]
Rcpp::IntegerVector kernel_missing(SEXP x, bool missing) {
  const R_xlen_t n = Rf_xlength(x);
  if (TYPEOF(x) == STRSXP) {
    const SEXP* at = STRING_PTR(x);
    return positions(n, missing, [at](R_xlen_t i) { return at[i] == NA_STRING; });
  }
  if (TYPEOF(x) == REALSXP) {
    const double* at = REAL(x);
    return positions(n, missing, [at](R_xlen_t i) { return at[i] != at[i]; });
  }
  const int* at = TYPEOF(x) == LGLSXP ? LOGICAL(x) : INTEGER(x);
  return positions(n, missing, [at](R_xlen_t i) { return at[i] == NA_INTEGER; });
}
