#include "facts.h"
#include "keys.h"
#include <climits>
#include <cmath>
#include <cstdint>
#include <cstring>
#include <vector>

namespace quill {
namespace {

inline bool missing(double v) { return std::isnan(v); }
inline bool missing(int v) { return v == INT_MIN; }
inline bool is_whole(double v) { return v == std::nearbyint(v); }
inline bool is_whole(int) { return true; }
inline std::uint64_t key_of(double v) {
  if (v == 0) return 0;
  std::uint64_t bits;
  std::memcpy(&bits, &v, 8);
  return bits;
}
inline std::uint64_t key_of(int v) { return static_cast<std::uint64_t>(static_cast<std::int64_t>(v)); }

template <typename T>
NumberFacts facts_of(const T* x, std::size_t n) {
  NumberFacts f;
  KeySet set;
  std::uint64_t last_key = 0;
  T last = 0;
  for (std::size_t i = 0; i < n; ++i) {
    const T v = x[i];
    if (missing(v)) { f.stepping = false; continue; }
    if (f.count == 0) { f.min = f.max = v; if (i > 0) f.stepping = false; }
    else if (f.stepping && static_cast<double>(v) != static_cast<double>(last) + 1) f.stepping = false;
    if (v < f.min) f.min = v;
    if (v > f.max) f.max = v;
    if (v < 0) ++f.below_zero;
    if (f.whole && !is_whole(v)) f.whole = false;
    const std::uint64_t key = key_of(v);
    // runs of one value are common and need no look-up
    if (f.count == 0 || key != last_key) set.add(key);
    last_key = key;
    last = v;
    ++f.count;
  }
  f.distinct = set.size();
  if (f.count == 0) f.stepping = false;
  return f;
}

}  // namespace

NumberFacts number_facts(const double* x, std::size_t n) { return facts_of(x, n); }
NumberFacts number_facts(const int* x, std::size_t n) { return facts_of(x, n); }

}  // namespace quill
