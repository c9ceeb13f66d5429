// matched: the likelihood of which rows of each set had the event, given how many did.
//
// Source: Breslow, N. E. and Day, N. E. (1980). Statistical Methods in Cancer Research, vol. I, ch. 7; sums over all
// choices by recursion: Gail, M. H., Lubin, J. H. and Rubinstein, L. V. (1981). Biometrika 68, 703-707.
#pragma once
#include <cstddef>
#include <vector>

namespace quill {

struct MatchedSums {
  double log_likelihood;            // not finite where a set is too large for its sums
  std::vector<double> score;        // columns
  std::vector<double> information;  // columns x columns, symmetric
};

// Rows sorted by set; event: 0/1; x: rows x columns, column-major. O(rows events-of-a-set columns^2).
MatchedSums matched_sums(const int* event, const int* set, const double* x, std::size_t rows, std::size_t columns, const double* beta);

}  // namespace quill
