// exact: exact null distributions of rank statistics, ties included.
#pragma once
#include <cstddef>
#include <vector>

namespace quill {

// Number of ways, as doubles, to choose `choose` of the n scores so that they sum to s, for s = 0..total; the
// scores are whole numbers >= 0 (twice the midranks). Counts are scaled by `choose(n, choose)`: the result is a
// probability distribution. Shift algorithm: Streitberg, B. and Roehmel, J. (1986). Statistical Software
// Newsletter 12, 10-18.
std::vector<double> subset_sums(const int* scores, std::size_t n, std::size_t choose);

// Distribution of the sum of the scores with a positive sign, each sign equally likely, for s = 0..total.
std::vector<double> sign_sums(const int* scores, std::size_t n);

// Median-type order statistics of the differences x[i] - y[j]: the k-th smallest (k from 1) of all m*n of them.
// x and y in rising order. Bisection on the value with a two-pointer count: O(m + n) a step, no table of pairs.
double kth_difference(const double* x, std::size_t m, const double* y, std::size_t n, double k);

}  // namespace quill
