// moments: mergeable central moments of numbers, whole or by group.
//
// A state holds the count, mean, second to fourth central sums, minimum and maximum. States of parts of the
// rows merge into the state of the whole, so the same code serves threads and pieces of a large file.
// Sums are kept about a pivot close to the mean and re-centred every few thousand values, which keeps a mean
// of 1e12 with a spread of 0.1 right to the last digits.
// Source: Pebay, P. (2008). Formulas for robust, one-pass parallel computation of covariances and
// arbitrary-order statistical moments. Sandia report SAND2008-6212.
#pragma once
#include <cstddef>
#include <cstdint>
#include <vector>

namespace quill {

struct Moments {
  double n = 0, mean = 0, m2 = 0, m3 = 0, m4 = 0;
  double minimum, maximum;
  double missing = 0;
  Moments();
  void merge(const Moments& other);
};

// x[0..rows-1]: values, NaN counts as missing. code[0..rows-1]: group of each row, 1..groups, anything else
// is left out of every group (not even counted as missing); code may be null (one group).
// threads: how many to use; the result does not depend on it, because rows are cut into fixed pieces.
std::vector<Moments> group_moments(const double* x, const int* code, std::size_t rows, int groups, int threads);

// The same with whole numbers as values; INT_MIN counts as missing.
std::vector<Moments> group_moments(const int* x, const int* code, std::size_t rows, int groups, int threads);

// Weighted mean and weighted sum of squares about it: out = {sum of weights, sum of squared weights, mean, sum
// of squares, n}. Rows with NaN in x or w are skipped.
void weighted_moments(const double* x, const double* w, std::size_t rows, double* out);

}  // namespace quill
