#include <Rcpp.h>

#include "tree.h"

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
