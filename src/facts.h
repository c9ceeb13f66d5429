// facts: what one pass over a column tells.
#pragma once
#include <cstddef>

namespace quill {

// Counts and bounds of the values that are not missing; min and max are 0 when there are none.
struct NumberFacts {
  std::size_t count = 0, distinct = 0, below_zero = 0;
  double min = 0, max = 0;
  bool whole = true;     // every value is a whole number
  bool stepping = true;  // every value is the one before it plus 1, none missing
};

// Missing are NaN (double) or the lowest int. Distinct values are counted by open addressing over their bits, with
// +0 and -0 the same.
NumberFacts number_facts(const double* x, std::size_t n);
NumberFacts number_facts(const int* x, std::size_t n);

}  // namespace quill
