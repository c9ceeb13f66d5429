#include <Rcpp.h>
#include "generalised.h"

// [[Rcpp::export(rng = false)]]
Rcpp::List kernel_step_rows(bool binomial, const Rcpp::NumericMatrix& x, const Rcpp::NumericVector& y,
                            const Rcpp::NumericVector& offset, const Rcpp::IntegerVector& keep,
                            const Rcpp::NumericVector& beta, int threads) {
  const R_xlen_t n = x.nrow();
  Rcpp::NumericVector mean(Rcpp::no_init(n)), weight(Rcpp::no_init(n)), response(Rcpp::no_init(n));
  const double deviance = quill::step_rows(
      binomial ? quill::Family::binomial : quill::Family::poisson, x.begin(), y.begin(),
      offset.size() == n ? offset.begin() : nullptr, n, keep.begin(), keep.size(), beta.begin(),
      {mean.begin(), weight.begin(), response.begin()}, threads);
  return Rcpp::List::create(Rcpp::_["mean"] = mean, Rcpp::_["weight"] = weight, Rcpp::_["response"] = response,
                            Rcpp::_["deviance"] = deviance);
}
