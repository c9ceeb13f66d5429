#include <Rcpp.h>
#include "counts.h"

// [[Rcpp::export(rng = false)]]
Rcpp::NumericMatrix kernel_cross_counts(const Rcpp::IntegerVector& a, const Rcpp::IntegerVector& b, int levels_a,
                                        int levels_b, int threads) {
  const std::vector<double> counts = quill::cross_counts(a.begin(), b.begin(), a.size(), levels_a, levels_b, threads);
  Rcpp::NumericMatrix out(levels_a, levels_b);
  std::copy(counts.begin(), counts.end(), out.begin());
  return out;
}
