#include "counts.h"
#include "pieces.h"

namespace quill {

std::vector<double> cross_counts(const int* a, const int* b, std::size_t rows, int levels_a, int levels_b, int threads) {
  const std::size_t cells = static_cast<std::size_t>(levels_a) * levels_b;
  const Pieces pieces(rows, 65536, 8);
  std::vector<std::vector<double>> part(pieces.count());
  run_pieces(pieces, threads, [&](std::size_t p, std::size_t from, std::size_t to) {
    part[p].assign(cells, 0.0);
    for (std::size_t i = from; i < to; ++i) {
      if (a[i] < 1 || a[i] > levels_a || b[i] < 1 || b[i] > levels_b) continue;
      part[p][(a[i] - 1) + static_cast<std::size_t>(b[i] - 1) * levels_a] += 1;
    }
  });
  std::vector<double> out(cells, 0.0);
  for (const auto& counts : part)
    for (std::size_t k = 0; k < cells; ++k) out[k] += counts[k];
  return out;
}

}  // namespace quill
