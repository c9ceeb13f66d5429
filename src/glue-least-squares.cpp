#include <RcppEigen.h>
#include "least-squares.h"

namespace {
const double* weights_of(Rcpp::Nullable<Rcpp::NumericVector> w, Rcpp::NumericVector& hold) {
  if (w.isNull()) return nullptr;
  hold = Rcpp::NumericVector(w.get());
  return hold.begin();
}
}  // namespace

// [[Rcpp::export(rng = false)]]
Rcpp::NumericMatrix kernel_triangle(const Rcpp::NumericMatrix& x, Rcpp::Nullable<Rcpp::NumericVector> w, int threads) {
  Rcpp::NumericVector hold;
  const double* weight = weights_of(w, hold);
  return Rcpp::wrap(quill::triangle(x.begin(), x.nrow(), x.ncol(), weight, threads));
}

// [[Rcpp::export(rng = false)]]
Rcpp::List kernel_solve_precisely(const Rcpp::NumericMatrix& x, const Rcpp::NumericVector& y,
                                  Rcpp::Nullable<Rcpp::NumericVector> w) {
  Rcpp::NumericVector hold, beta(x.ncol());
  const double* weight = weights_of(w, hold);
  const Eigen::MatrixXd r = quill::solve_precisely(x.begin(), y.begin(), x.nrow(), x.ncol(), weight, beta.begin());
  return Rcpp::List::create(Rcpp::_["beta"] = beta, Rcpp::_["r"] = Rcpp::wrap(r));
}

// [[Rcpp::export(rng = false)]]
Rcpp::NumericVector kernel_leverages(const Rcpp::NumericMatrix& x, const Rcpp::NumericMatrix& r,
                                     const Rcpp::IntegerVector& keep, Rcpp::Nullable<Rcpp::NumericVector> w) {
  Rcpp::NumericVector hold, h(x.nrow());
  const double* weight = weights_of(w, hold);
  quill::leverages(x.begin(), x.nrow(), Rcpp::as<Eigen::MatrixXd>(r), keep.begin(), weight, h.begin());
  return h;
}
