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

// Distinct values. A column that only rises needs no set: every change is a new value.
template <typename T>
std::size_t distinct_of(const T* x, std::size_t n) {
  std::size_t rises = 0, i = 0;
  bool any = false;
  T last = 0;
  for (; i < n; ++i) {
    const T v = x[i];
    if (missing(v)) continue;
    if (any && v < last) break;
    if (!any || v > last) ++rises;
    any = true;
    last = v;
  }
  if (i == n) return rises;
  KeySet set;
  if (rises > 65536) set.expect(n);
  std::uint64_t last_key = 0;
  any = false;
  for (i = 0; i < n; ++i) {
    if (missing(x[i])) continue;
    const std::uint64_t key = key_of(x[i]);
    // runs of one value are common and need no look-up
    if (!any || key != last_key) set.add(key);
    any = true;
    last_key = key;
  }
  return set.size();
}

template <typename T>
NumberFacts facts_of(const T* x, std::size_t n) {
  NumberFacts f;
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
    last = v;
    ++f.count;
  }
  f.distinct = distinct_of(x, n);
  if (f.count == 0) f.stepping = false;
  return f;
}

}  // namespace

NumberFacts number_facts(const double* x, std::size_t n) { return facts_of(x, n); }
NumberFacts number_facts(const int* x, std::size_t n) { return facts_of(x, n); }

}  // namespace quill
