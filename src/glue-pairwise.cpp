#include <Rcpp.h>
#include "pairwise.h"

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
