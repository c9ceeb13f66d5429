// kendall: concordant and discordant pairs of two columns.
#pragma once
#include <cstddef>

namespace quill {

struct PairCounts { double concordant = 0, discordant = 0, ties_x = 0, ties_y = 0; };

// x[0..n-1], y[0..n-1] without NaN. ties_x counts pairs tied in x, those tied in both included; the same for ties_y.
// Sort by x, count the exchanges of a merge sort by y. Source: Knight, W. R. (1966). JASA 61, 436-439.
PairCounts pair_counts(const double* x, const double* y, std::size_t n);

}  // namespace quill
