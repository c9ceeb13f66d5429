#include <Rcpp.h>
#include "exact.h"

// [[Rcpp::export(rng = false)]]
Rcpp::NumericVector kernel_subset_sums(const Rcpp::IntegerVector& scores, int choose) {
  return Rcpp::wrap(quill::subset_sums(scores.begin(), scores.size(), choose));
}

// [[Rcpp::export(rng = false)]]
Rcpp::NumericVector kernel_sign_sums(const Rcpp::IntegerVector& scores) {
  return Rcpp::wrap(quill::sign_sums(scores.begin(), scores.size()));
}

// [[Rcpp::export(rng = false)]]
Rcpp::NumericVector kernel_kth_difference(const Rcpp::NumericVector& x, const Rcpp::NumericVector& y,
                                          const Rcpp::NumericVector& k) {
  Rcpp::NumericVector out(k.size());
  for (R_xlen_t i = 0; i < k.size(); ++i)
    out[i] = quill::kth_difference(x.begin(), x.size(), y.begin(), y.size(), k[i]);
  return out;
}
