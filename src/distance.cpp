#include "distance.h"

#include <cmath>

#include "pieces.h"

namespace quill {

void distance_sums(const double* x, const double* y, std::size_t n, int threads, double* rows) {
  run_pieces(Pieces(n, 64, 256), threads, [&](std::size_t, std::size_t from, std::size_t to) {
    for (std::size_t i = from; i < to; ++i) {
      double a = 0, b = 0, ab = 0;
      const double xi = x[i], yi = y[i];
      for (std::size_t j = 0; j < n; ++j) {
        const double dx = std::fabs(xi - x[j]), dy = std::fabs(yi - y[j]);
        a += dx; b += dy; ab += dx * dy;
      }
      rows[3 * i] = a; rows[3 * i + 1] = b; rows[3 * i + 2] = ab;
    }
  });
}

}  // namespace quill
