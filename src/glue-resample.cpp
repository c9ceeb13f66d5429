#include <Rcpp.h>
#include "resample.h"

// seed: six whole numbers, the state of the generator. Returns the sums of the values drawn.
// [[Rcpp::export(rng = false)]]
Rcpp::NumericVector kernel_permuted_sums(const Rcpp::NumericVector& x, double take, double resamples,
                                         const Rcpp::NumericVector& seed, int threads) {
  std::array<std::uint64_t, 6> state;
  for (int i = 0; i < 6; ++i) state[i] = static_cast<std::uint64_t>(seed[i]);
  Rcpp::NumericVector sums(static_cast<R_xlen_t>(resamples));
  quill::permuted_sums(x.begin(), x.size(), static_cast<std::size_t>(take), static_cast<std::size_t>(resamples), state,
                       threads, sums.begin());
  return sums;
}
