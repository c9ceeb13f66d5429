// What R hands to the kernels of tests and of association.
#include <Rcpp.h>
#include "distance.h"
#include "exact.h"
#include "fisher.h"
#include "kendall.h"
#include "pairwise.h"
#include "resample.h"

// [[Rcpp::export]]
Rcpp::NumericMatrix kernel_distance_sums(const Rcpp::NumericVector& x, const Rcpp::NumericVector& y, int threads) {
  Rcpp::NumericMatrix out(3, x.size());
  quill::distance_sums(x.begin(), y.begin(), x.size(), threads, out.begin());
  return out;
}

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

// [[Rcpp::export(rng = false)]]
double kernel_fisher(const Rcpp::IntegerMatrix& counts, double most) {
  return quill::fisher_p(std::vector<int>(counts.begin(), counts.end()), counts.nrow(), counts.ncol(), static_cast<std::size_t>(most));
}

// [[Rcpp::export(rng = false)]]
Rcpp::NumericVector kernel_kendall(const Rcpp::NumericVector& x, const Rcpp::NumericVector& y) {
  const quill::PairCounts c = quill::pair_counts(x.begin(), y.begin(), x.size());
  return Rcpp::NumericVector::create(Rcpp::_["concordant"] = c.concordant, Rcpp::_["discordant"] = c.discordant,
                                     Rcpp::_["ties_x"] = c.ties_x, Rcpp::_["ties_y"] = c.ties_y);
}

// [[Rcpp::export(rng = false)]]
Rcpp::List kernel_pair_sums(const Rcpp::List& columns, const Rcpp::NumericVector& shift, int threads) {
  std::vector<Rcpp::NumericVector> hold;
  std::vector<const double*> at;
  for (R_xlen_t j = 0; j < columns.size(); ++j) {
    hold.push_back(columns[j]);
    at.push_back(hold.back().begin());
  }
  const int p = static_cast<int>(at.size());
  const quill::PairSums s = quill::pair_sums(at, shift.begin(), p ? hold[0].size() : 0, threads);
  auto square = [p](const std::vector<double>& v) { return Rcpp::NumericMatrix(p, p, v.begin()); };
  return Rcpp::List::create(Rcpp::_["rows"] = square(s.rows), Rcpp::_["sum"] = square(s.sum),
                            Rcpp::_["square"] = square(s.square), Rcpp::_["product"] = square(s.product));
}

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
