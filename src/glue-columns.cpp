// What R hands to the kernels that read columns: counts, facts, moments, orders, texts, patterns.
#include <Rcpp.h>
#include <cstdint>
#include <unordered_map>
#include <vector>
#include "counts.h"
#include "facts.h"
#include "keys.h"
#include "moments.h"
#include "order.h"
#include "patterns.h"
#include "pieces.h"
#include "text.h"

// [[Rcpp::export(rng = false)]]
Rcpp::NumericMatrix kernel_cross_counts(const Rcpp::IntegerVector& a, const Rcpp::IntegerVector& b, int levels_a,
                                        int levels_b, int threads) {
  const std::vector<double> counts = quill::cross_counts(a.begin(), b.begin(), a.size(), levels_a, levels_b, threads);
  Rcpp::NumericMatrix out(levels_a, levels_b);
  std::copy(counts.begin(), counts.end(), out.begin());
  return out;
}

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

namespace {

Rcpp::NumericMatrix as_matrix(const std::vector<quill::Moments>& states) {
  Rcpp::NumericMatrix out(states.size(), 8);
  for (std::size_t k = 0; k < states.size(); ++k) {
    const quill::Moments& m = states[k];
    const bool none = m.n == 0;
    out(k, 0) = m.n;
    out(k, 1) = m.missing;
    out(k, 2) = none ? NA_REAL : m.mean;
    out(k, 3) = m.m2;
    out(k, 4) = m.m3;
    out(k, 5) = m.m4;
    out(k, 6) = none ? NA_REAL : m.minimum;
    out(k, 7) = none ? NA_REAL : m.maximum;
  }
  Rcpp::colnames(out) = Rcpp::CharacterVector::create("n", "missing", "mean", "m2", "m3", "m4", "min", "max");
  return out;
}

}  // namespace

// [[Rcpp::export(rng = false)]]
Rcpp::NumericMatrix kernel_group_moments(SEXP x, Rcpp::Nullable<Rcpp::IntegerVector> code, int groups, int threads) {
  const R_xlen_t rows = Rf_xlength(x);
  const int* at = nullptr;
  Rcpp::IntegerVector codes;
  if (code.isNotNull()) { codes = Rcpp::IntegerVector(code.get()); at = codes.begin(); }
  if (TYPEOF(x) == INTSXP || TYPEOF(x) == LGLSXP) {
    const int* values = TYPEOF(x) == INTSXP ? INTEGER(x) : LOGICAL(x);
    return as_matrix(quill::group_moments(values, at, rows, groups, threads));
  }
  return as_matrix(quill::group_moments(REAL(x), at, rows, groups, threads));
}

// [[Rcpp::export(rng = false)]]
Rcpp::NumericVector kernel_weighted_moments(const Rcpp::NumericVector& x, const Rcpp::NumericVector& w) {
  Rcpp::NumericVector out(5);
  quill::weighted_moments(x.begin(), w.begin(), x.size(), out.begin());
  out.names() = Rcpp::CharacterVector::create("weight", "weight_squared", "mean", "ss", "n");
  return out;
}

// [[Rcpp::export(rng = false)]]
Rcpp::List kernel_midranks(const Rcpp::NumericVector& x) {
  Rcpp::NumericVector rank(Rcpp::no_init(x.size()));
  const double ties = quill::midranks(x.begin(), x.size(), rank.begin());
  return Rcpp::List::create(Rcpp::_["rank"] = rank, Rcpp::_["ties"] = ties);
}

// One row a group, one column a probability; rows with NaN or with a code outside 1..groups are left out.
// [[Rcpp::export(rng = false)]]
Rcpp::NumericMatrix kernel_group_quantiles(const Rcpp::NumericVector& x, Rcpp::Nullable<Rcpp::IntegerVector> code,
                                           int groups, const Rcpp::NumericVector& probs, int threads) {
  const std::size_t rows = x.size();
  const bool grouped = code.isNotNull();
  Rcpp::IntegerVector codes;
  const int* at = nullptr;
  if (grouped) { codes = Rcpp::IntegerVector(code.get()); at = codes.begin(); }
  const double* values = x.begin();
  auto group_of = [&](std::size_t i) { return grouped ? at[i] - 1 : 0; };
  std::vector<std::size_t> start(groups + 1, 0);
  for (std::size_t i = 0; i < rows; ++i) {
    const int k = group_of(i);
    if (k >= 0 && k < groups && !std::isnan(values[i])) ++start[k + 1];
  }
  for (int k = 0; k < groups; ++k) start[k + 1] += start[k];
  std::vector<double> sorted(start[groups]);
  std::vector<std::size_t> next(start.begin(), start.end() - 1);
  for (std::size_t i = 0; i < rows; ++i) {
    const int k = group_of(i);
    if (k >= 0 && k < groups && !std::isnan(values[i])) sorted[next[k]++] = values[i];
  }
  Rcpp::NumericMatrix out(groups, probs.size());
  std::vector<double> cells(static_cast<std::size_t>(groups) * probs.size());
  const std::size_t m = probs.size();
  const double* p = probs.begin();
  quill::run_pieces(quill::Pieces(groups, 1, 64), threads, [&](std::size_t, std::size_t from, std::size_t to) {
    for (std::size_t k = from; k < to; ++k)
      quill::quantiles(sorted.data() + start[k], start[k + 1] - start[k], p, m, cells.data() + k * m);
  });
  for (int k = 0; k < groups; ++k)
    for (std::size_t q = 0; q < m; ++q) out(k, q) = start[k + 1] == start[k] ? NA_REAL : cells[k * m + q];
  return out;
}

// state: continuation bytes still due, lowest and highest value of the next one, quotation marks in a row, the byte before
// them, was one doubled; returns it moved on, or -1 when invalid.
// [[Rcpp::export(rng = false)]]
Rcpp::IntegerVector kernel_utf8(const Rcpp::RawVector& bytes, const Rcpp::IntegerVector& state) {
  quill::Utf8State at;
  at.left = state[0];
  at.low = static_cast<unsigned char>(state[1]);
  at.high = static_cast<unsigned char>(state[2]);
  at.quotes = state[3];
  at.before = static_cast<unsigned char>(state[4]);
  at.doubled = state[5] != 0;
  if (!quill::utf8_valid(bytes.begin(), bytes.size(), at)) return Rcpp::IntegerVector::create(-1, 0, 0, 0, 0, 0);
  return Rcpp::IntegerVector::create(at.left, at.low, at.high, at.quotes, at.before, at.doubled);
}

// For each pattern the texts of which one must stand in whatever it matches.
// [[Rcpp::export(rng = false)]]
Rcpp::List kernel_words_needed(const Rcpp::CharacterVector& forms) {
  Rcpp::List out(forms.size());
  for (R_xlen_t i = 0; i < forms.size(); ++i) out[i] = Rcpp::wrap(quill::words_needed(Rcpp::as<std::string>(forms[i])));
  return out;
}
