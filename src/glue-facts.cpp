#include <Rcpp.h>
#include <cstdint>
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

// Positions (from 1) at which a string stands that no earlier position holds. Strings are told apart by their address in
// R's cache of strings, so the same text in two encodings counts twice.
// [[Rcpp::export(rng = false)]]
Rcpp::IntegerVector kernel_first_texts(const Rcpp::CharacterVector& x) {
  quill::KeySet seen;
  std::vector<int> first;
  const SEXP* at = STRING_PTR_RO(x);
  SEXP last = nullptr;
  for (R_xlen_t i = 0; i < x.size(); ++i) {
    if (at[i] == last) continue;
    last = at[i];
    if (seen.add(static_cast<std::uint64_t>(reinterpret_cast<std::uintptr_t>(last)))) first.push_back(static_cast<int>(i) + 1);
  }
  return Rcpp::wrap(first);
}
