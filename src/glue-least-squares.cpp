#include <RcppEigen.h>
#include "least-squares.h"

namespace {
const double* vector_of(Rcpp::Nullable<Rcpp::NumericVector> v, Rcpp::NumericVector& hold) {
  if (v.isNull()) return nullptr;
  hold = Rcpp::NumericVector(v.get());
  return hold.begin();
}
}  // namespace

// [[Rcpp::export(rng = false)]]
Rcpp::NumericMatrix kernel_triangle(const Rcpp::NumericMatrix& x, Rcpp::Nullable<Rcpp::NumericVector> y,
                                    Rcpp::Nullable<Rcpp::NumericVector> w, int threads) {
  Rcpp::NumericVector hold, hold_y;
  const double* weight = vector_of(w, hold);
  const double* last = vector_of(y, hold_y);
  return Rcpp::wrap(quill::triangle(x.begin(), last, x.nrow(), x.ncol(), weight, threads));
}

// [[Rcpp::export(rng = false)]]
Rcpp::List kernel_solve_precisely(const Rcpp::NumericMatrix& x, const Rcpp::NumericVector& y,
                                  Rcpp::Nullable<Rcpp::NumericVector> w) {
  Rcpp::NumericVector hold, beta(x.ncol());
  const double* weight = vector_of(w, hold);
  const Eigen::MatrixXd r = quill::solve_precisely(x.begin(), y.begin(), x.nrow(), x.ncol(), weight, beta.begin());
  return Rcpp::List::create(Rcpp::_["beta"] = beta, Rcpp::_["r"] = Rcpp::wrap(r));
}

// [[Rcpp::export(rng = false)]]
Rcpp::List kernel_fit_rows(const Rcpp::NumericMatrix& x, const Rcpp::NumericVector& y, const Rcpp::NumericMatrix& r,
                           const Rcpp::IntegerVector& keep, const Rcpp::NumericVector& beta,
                           Rcpp::Nullable<Rcpp::NumericVector> w, int threads) {
  Rcpp::NumericVector hold, fitted(Rcpp::no_init(x.nrow())), residuals(Rcpp::no_init(x.nrow())),
      leverage(Rcpp::no_init(x.nrow()));
  const double* weight = vector_of(w, hold);
  quill::fit_rows(x.begin(), y.begin(), x.nrow(), Rcpp::as<Eigen::MatrixXd>(r), keep.begin(), beta.begin(), weight,
                  {fitted.begin(), residuals.begin(), leverage.begin()}, threads);
  return Rcpp::List::create(Rcpp::_["fitted"] = fitted, Rcpp::_["residuals"] = residuals,
                            Rcpp::_["leverage"] = leverage);
}
