// What R hands to the kernels of models.
#include <RcppEigen.h>
#include "generalised.h"
#include "hazards.h"
#include "least-squares.h"
#include "matched.h"
#include "tree.h"

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

namespace {

std::vector<quill::TreeColumn> tree_columns(const Rcpp::List& x, const Rcpp::IntegerVector& levels) {
  std::vector<quill::TreeColumn> columns;
  for (R_xlen_t c = 0; c < x.size(); ++c) columns.push_back({REAL(x[c]), levels[c]});
  return columns;
}

}  // namespace

// x: list of double columns; levels: 0 for an ordered column, else the number of its codes; y: rows x outputs.
// [[Rcpp::export(rng = false)]]
Rcpp::List kernel_grow_tree(const Rcpp::List& x, const Rcpp::IntegerVector& levels, const Rcpp::NumericMatrix& y, double least_rows,
                            double least_split, int depth, int threads) {
  const quill::TreeLimits limits{static_cast<std::size_t>(least_rows), static_cast<std::size_t>(least_split), depth};
  const auto nodes = quill::grow_tree(tree_columns(x, levels), y.begin(), y.nrow(), y.ncol(), limits, threads);
  const int size = static_cast<int>(nodes.size());
  Rcpp::IntegerVector left(size), right(size), column(size), at_depth(size);
  Rcpp::NumericVector cut(size), rows(size), impurity(size);
  Rcpp::NumericMatrix means(size, y.ncol());
  Rcpp::List to_left(size);
  for (int i = 0; i < size; ++i) {
    const auto& node = nodes[i];
    left[i] = node.left + 1; right[i] = node.right + 1; column[i] = node.column + 1; at_depth[i] = node.depth;
    cut[i] = node.cut; rows[i] = static_cast<double>(node.rows); impurity[i] = node.impurity;
    to_left[i] = Rcpp::IntegerVector(node.to_left.begin(), node.to_left.end());
    for (int k = 0; k < y.ncol(); ++k) means(i, k) = node.means[k];
  }
  return Rcpp::List::create(Rcpp::_["left"] = left, Rcpp::_["right"] = right, Rcpp::_["column"] = column, Rcpp::_["depth"] = at_depth,
                            Rcpp::_["cut"] = cut, Rcpp::_["rows"] = rows, Rcpp::_["impurity"] = impurity, Rcpp::_["to_left"] = to_left,
                            Rcpp::_["means"] = means);
}

// The node (from 1) in which each row ends; closed nodes count as ends.
// [[Rcpp::export(rng = false)]]
Rcpp::IntegerVector kernel_place_rows(const Rcpp::List& tree, const Rcpp::LogicalVector& closed, const Rcpp::List& x,
                                      const Rcpp::IntegerVector& levels) {
  const Rcpp::IntegerVector left = tree["left"], right = tree["right"], column = tree["column"];
  const Rcpp::NumericVector cut = tree["cut"];
  const Rcpp::List to_left = tree["to_left"];
  std::vector<quill::TreeNode> nodes(left.size());
  for (R_xlen_t i = 0; i < left.size(); ++i) {
    nodes[i].left = left[i] - 1; nodes[i].right = right[i] - 1; nodes[i].column = column[i] - 1; nodes[i].cut = cut[i];
    const Rcpp::IntegerVector codes = to_left[i];
    nodes[i].to_left.assign(codes.begin(), codes.end());
  }
  const auto columns = tree_columns(x, levels);
  const std::size_t n = x.size() ? static_cast<std::size_t>(Rf_xlength(x[0])) : 0;
  Rcpp::IntegerVector end(n);
  quill::place_rows(nodes, std::vector<char>(closed.begin(), closed.end()), columns, n, end.begin());
  for (auto& node : end) node += 1;
  return end;
}

namespace {

quill::HazardRows hazard_rows(const Rcpp::NumericVector& time, const Rcpp::IntegerVector& event, const Rcpp::IntegerVector& stratum,
                              const Rcpp::NumericMatrix& x) {
  return {time.begin(), event.begin(), stratum.begin(), x.begin(), static_cast<std::size_t>(x.nrow()), static_cast<std::size_t>(x.ncol())};
}

}  // namespace

// [[Rcpp::export(rng = false)]]
Rcpp::List kernel_hazard_sums(const Rcpp::NumericVector& time, const Rcpp::IntegerVector& event, const Rcpp::IntegerVector& stratum,
                              const Rcpp::NumericMatrix& x, const Rcpp::NumericVector& beta) {
  const quill::HazardSums sums = quill::hazard_sums(hazard_rows(time, event, stratum, x), beta.begin());
  const int p = x.ncol();
  return Rcpp::List::create(Rcpp::_["log_likelihood"] = sums.log_likelihood, Rcpp::_["score"] = sums.score,
                            Rcpp::_["information"] = Rcpp::NumericMatrix(p, p, sums.information.begin()));
}

// [[Rcpp::export(rng = false)]]
Rcpp::List kernel_hazard_residuals(const Rcpp::NumericVector& time, const Rcpp::IntegerVector& event, const Rcpp::IntegerVector& stratum,
                                   const Rcpp::NumericMatrix& x, const Rcpp::NumericVector& beta) {
  Rcpp::NumericMatrix by_event(x.nrow(), x.ncol()), by_row(x.nrow(), x.ncol());
  quill::hazard_residuals(hazard_rows(time, event, stratum, x), beta.begin(), {by_event.begin(), by_row.begin()});
  return Rcpp::List::create(Rcpp::_["by_event"] = by_event, Rcpp::_["by_row"] = by_row);
}

// [[Rcpp::export(rng = false)]]
Rcpp::NumericVector kernel_hazard_pairs(const Rcpp::NumericVector& time, const Rcpp::IntegerVector& event, const Rcpp::IntegerVector& stratum,
                                        const Rcpp::IntegerVector& rank, int ranks) {
  const Rcpp::NumericMatrix none(time.size(), 0);
  const quill::HazardPairs pairs = quill::hazard_pairs(hazard_rows(time, event, stratum, none), rank.begin(), ranks);
  return Rcpp::NumericVector::create(pairs.agree, pairs.tied, pairs.all);
}

// [[Rcpp::export(rng = false)]]
Rcpp::List kernel_matched_sums(const Rcpp::IntegerVector& event, const Rcpp::IntegerVector& set, const Rcpp::NumericMatrix& x,
                               const Rcpp::NumericVector& beta) {
  const int p = x.ncol();
  const quill::MatchedSums sums = quill::matched_sums(event.begin(), set.begin(), x.begin(), x.nrow(), p, beta.begin());
  return Rcpp::List::create(Rcpp::_["log_likelihood"] = sums.log_likelihood, Rcpp::_["score"] = sums.score,
                            Rcpp::_["information"] = Rcpp::NumericMatrix(p, p, sums.information.begin()));
}
