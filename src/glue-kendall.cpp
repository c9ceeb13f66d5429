#include <Rcpp.h>
#include "kendall.h"

// [[Rcpp::export(rng = false)]]
Rcpp::NumericVector kernel_kendall(const Rcpp::NumericVector& x, const Rcpp::NumericVector& y) {
  const quill::PairCounts c = quill::pair_counts(x.begin(), y.begin(), x.size());
  return Rcpp::NumericVector::create(Rcpp::_["concordant"] = c.concordant, Rcpp::_["discordant"] = c.discordant,
                                     Rcpp::_["ties_x"] = c.ties_x, Rcpp::_["ties_y"] = c.ties_y);
}
