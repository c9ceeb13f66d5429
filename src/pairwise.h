// pairwise: sums over the rows that two columns both have, for all pairs of many columns in one pass.
//
// The sums of two sets of rows add up to those of all rows, so that pieces and threads merge.
// Source: Chan, T. F., Golub, G. H. and LeVeque, R. J. (1983). The American Statistician 37, 242-247 (shifted sums).
#pragma once
#include <cstddef>
#include <vector>

namespace quill {

// Each p x p, column-major. At [i + j p], over the rows where columns i and j are both there: how many they are, the
// sum of column i less its shift, the sum of its square, and the sum of the products of both.
struct PairSums {
  std::vector<double> rows, sum, square, product;
};

// columns[0..p-1] point to `rows` doubles each, NaN where missing; shift[j], a middle value of column j, is taken from
// every value first so that no digits are lost to a large mean. The same for any number of threads.
PairSums pair_sums(const std::vector<const double*>& columns, const double* shift, std::size_t rows, int threads);

}  // namespace quill
