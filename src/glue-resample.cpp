#include <Rcpp.h>
#include "resample.h"

namespace {

std::array<std::uint64_t, 6> generator_state(const Rcpp::NumericVector& seed) {
  std::array<std::uint64_t, 6> state;
  for (int i = 0; i < 6; ++i) state[i] = static_cast<std::uint64_t>(seed[i]);
  return state;
}

}  // namespace

// seed: six whole numbers, the state of the generator. Returns the sums of the values drawn.
// [[Rcpp::export(rng = false)]]
Rcpp::NumericVector kernel_permuted_sums(const Rcpp::NumericVector& x, double take, double resamples,
                                         const Rcpp::NumericVector& seed, int threads) {
  Rcpp::NumericVector sums(static_cast<R_xlen_t>(resamples));
  quill::permuted_sums(x.begin(), x.size(), static_cast<std::size_t>(take), static_cast<std::size_t>(resamples), generator_state(seed),
                       threads, sums.begin());
  return sums;
}

// statistic: 0 mean, 1 standard deviation, 2 quantile, 3 trimmed mean, 4 correlation with y.
// [[Rcpp::export(rng = false)]]
Rcpp::NumericVector kernel_bootstrap(const Rcpp::NumericVector& x, const Rcpp::NumericVector& y, int statistic, double share, double resamples,
                                     const Rcpp::NumericVector& seed, int threads) {
  Rcpp::NumericVector values(static_cast<R_xlen_t>(resamples));
  quill::bootstrap(x.begin(), y.begin(), x.size(), static_cast<quill::Statistic>(statistic), share, static_cast<std::size_t>(resamples),
                   generator_state(seed), threads, values.begin());
  return values;
}
