// distance: sums over all pairs of rows of the distances in two columns.
#pragma once
#include <cstddef>
#include <vector>

namespace quill {

// For each row: sums over all other rows of |x_i - x_j|, |y_i - y_j| and their product (three values a row, in that order).
void distance_sums(const double* x, const double* y, std::size_t n, int threads, double* rows);

}  // namespace quill
