#include <Rcpp.h>
#include "moments.h"

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
