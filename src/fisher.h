// fisher: exact test of tables of counts with fixed margins.
#pragma once
#include <cstddef>
#include <vector>

namespace quill {

// Probability, under fixed margins, of all tables no more likely than the one observed; counts column by column, rows x columns.
// Work goes column by column over the row totals that are left; states with the same totals and the same probability so far are
// merged. Returns -1 when more than `most` states would be needed.
double fisher_p(const std::vector<int>& counts, int rows, int columns, std::size_t most);

}  // namespace quill
