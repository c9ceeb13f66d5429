#include <Rcpp.h>
#include <vector>
#include "order.h"
#include "pieces.h"

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
