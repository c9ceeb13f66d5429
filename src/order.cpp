#include "order.h"
#include <algorithm>
#include <cmath>
#include <cstring>
#include <limits>
#include <numeric>
#include <vector>

namespace quill {

namespace {

constexpr int digit_bits = 11;
constexpr std::size_t digits = std::size_t(1) << digit_bits;
constexpr int passes = 6;  // 6 x 11 bits cover 64

// Bits of a double as an unsigned number of the same order; -0 becomes +0 so that the two tie.
inline std::uint64_t ordered_bits(double v) {
  v += 0.0;
  std::uint64_t bits;
  std::memcpy(&bits, &v, sizeof bits);
  return bits ^ ((bits >> 63) ? ~std::uint64_t(0) : std::uint64_t(1) << 63);
}

struct Item { std::uint64_t key; std::uint32_t at; };

void radix_sort(std::vector<Item>& items) {
  const std::size_t n = items.size();
  std::vector<std::size_t> count(passes * digits, 0);
  for (const Item& item : items)
    for (int p = 0; p < passes; ++p) ++count[p * digits + ((item.key >> (p * digit_bits)) & (digits - 1))];
  std::vector<Item> other(n);
  for (int p = 0; p < passes; ++p) {
    std::size_t* c = &count[p * digits];
    if (c[(items[0].key >> (p * digit_bits)) & (digits - 1)] == n) continue;  // all share this digit
    std::size_t sum = 0;
    for (std::size_t d = 0; d < digits; ++d) { const std::size_t here = c[d]; c[d] = sum; sum += here; }
    for (const Item& item : items) other[c[(item.key >> (p * digit_bits)) & (digits - 1)]++] = item;
    items.swap(other);
  }
}

std::vector<Item> sorted_items(const double* x, std::size_t n) {
  std::vector<Item> items(n);
  for (std::size_t i = 0; i < n; ++i) items[i] = {ordered_bits(x[i]), static_cast<std::uint32_t>(i)};
  if (n > 2048) radix_sort(items);
  else std::stable_sort(items.begin(), items.end(), [](const Item& a, const Item& b) { return a.key < b.key; });
  return items;
}

}  // namespace

void order_doubles(const double* x, std::size_t n, std::uint32_t* order) {
  if (n == 0) return;
  const std::vector<Item> items = sorted_items(x, n);
  for (std::size_t i = 0; i < n; ++i) order[i] = items[i].at;
}

double midranks(const double* x, std::size_t n, double* rank) {
  if (n == 0) return 0;
  const std::vector<Item> items = sorted_items(x, n);
  double ties = 0;
  for (std::size_t i = 0; i < n;) {
    std::size_t j = i + 1;
    while (j < n && items[j].key == items[i].key) ++j;
    const double t = static_cast<double>(j - i), shared = 0.5 * (static_cast<double>(i + 1) + static_cast<double>(j));
    for (std::size_t k = i; k < j; ++k) rank[items[k].at] = shared;
    ties += t * t * t - t;
    i = j;
  }
  return ties;
}

void quantiles(double* x, std::size_t n, const double* probs, std::size_t m, double* out) {
  std::size_t done = 0;  // everything before `done` is already in its sorted place
  for (std::size_t q = 0; q < m; ++q) {
    if (n == 0) { out[q] = std::numeric_limits<double>::quiet_NaN(); continue; }
    const double h = (static_cast<double>(n) - 1) * probs[q];
    const std::size_t low = static_cast<std::size_t>(std::floor(h + 4e-16 * static_cast<double>(n)));
    const double part = std::max(0.0, h - static_cast<double>(low));
    if (low >= done) { std::nth_element(x + done, x + low, x + n); done = low; }
    const double a = x[low];
    if (part <= 0 || low + 1 >= n) { out[q] = a; continue; }
    const double b = *std::min_element(x + low + 1, x + n);
    out[q] = a + part * (b - a);
  }
}

}  // namespace quill
