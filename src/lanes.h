// lanes: four doubles worked on at once, with the same rounding on every machine.
//
// Sums run in a fixed number of lanes and no multiplication is joined with an addition, so that a machine with wide
// registers gives bit for bit what one without them gives; it only gets there sooner.
#pragma once
#include <cstddef>
#include <cstdint>
#include <vector>

#if defined(__GNUC__) && !defined(__clang__) && defined(__x86_64__) && defined(__linux__)
#define QUILL_WIDE __attribute__((target_clones("avx2", "default")))
#else
#define QUILL_WIDE
#endif

namespace quill {

typedef double Lane __attribute__((vector_size(32), may_alias));
typedef std::int64_t LaneMask __attribute__((vector_size(32), may_alias));
constexpr std::size_t lane_width = 4;

inline double total(const Lane& s) { return (s[0] + s[1]) + (s[2] + s[3]); }

// Room for columns of a block, each of `rows` doubles, aligned for lanes. Columns begin an odd number of cache lines
// apart: at a power of two they would all compete for the same few lines.
class Block {
 public:
  Block(std::size_t rows, std::size_t columns)
      : stride_((rows + 7) / 8 * 8 + ((rows + 7) / 8 % 2 ? 0 : 8)), hold_(stride_ * columns + lane_width, 0.0) {
    const std::size_t past = reinterpret_cast<std::uintptr_t>(hold_.data()) % sizeof(Lane) / sizeof(double);
    at_ = hold_.data() + (past ? lane_width - past : 0);
  }
  Block(const Block&) = delete;
  Block& operator=(const Block&) = delete;
  double* column(std::size_t j) { return at_ + j * stride_; }
  std::size_t stride() const { return stride_; }

 private:
  std::size_t stride_;
  std::vector<double> hold_;
  double* at_;
};

// Rows of a block: few enough for its columns to stay in the near cache, a whole number of lanes.
inline std::size_t block_rows(std::size_t columns) {
  const std::size_t fit = 24576 / sizeof(double) / (columns ? columns : 1) / 8 * 8;
  return fit < 64 ? 64 : fit > 512 ? 512 : fit;
}

}  // namespace quill
