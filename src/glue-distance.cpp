#include <Rcpp.h>

#include "distance.h"

// [[Rcpp::export]]
Rcpp::NumericMatrix kernel_distance_sums(const Rcpp::NumericVector& x, const Rcpp::NumericVector& y, int threads) {
  Rcpp::NumericMatrix out(3, x.size());
  quill::distance_sums(x.begin(), y.begin(), x.size(), threads, out.begin());
  return out;
}
