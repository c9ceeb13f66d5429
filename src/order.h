// order: sorting, midranks and quantiles of doubles.
#pragma once
#include <cstddef>
#include <cstdint>

namespace quill {

// order[0..n-1]: positions (from 0) that put x in rising order, stable; x holds no NaN and is not changed.
// Radix sort on the bits of the double, least significant digit first.
void order_doubles(const double* x, std::size_t n, std::uint32_t* order);

// rank[0..n-1]: ranks of x, ties share their mean. Returns the tie sum, sum over ties of (t^3 - t).
double midranks(const double* x, std::size_t n, double* rank);

// Quantiles of x[0..n-1] (reordered in place), definition 7 of Hyndman and Fan (1996): probs[0..m-1] in rising
// order, one value each into out; NaN where n is 0.
void quantiles(double* x, std::size_t n, const double* probs, std::size_t m, double* out);

}  // namespace quill
