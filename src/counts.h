// counts: contingency tables of integer codes.
#pragma once
#include <cstddef>
#include <vector>

namespace quill {

// table[(a - 1) + (b - 1) * rows_a]: rows with code a in a[] and b in b[]; codes outside 1..levels are left out.
std::vector<double> cross_counts(const int* a, const int* b, std::size_t rows, int levels_a, int levels_b, int threads);

}  // namespace quill
