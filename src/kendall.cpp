#include "kendall.h"
#include <algorithm>
#include <numeric>
#include <vector>

namespace quill {

namespace {

double pairs_of(double t) { return t * (t - 1) / 2; }

// exchanges needed to sort v; v comes out sorted
double sort_and_count(std::vector<double>& v, std::vector<double>& spare, std::size_t from, std::size_t to) {
  if (to - from < 2) return 0;
  const std::size_t middle = from + (to - from) / 2;
  double count = sort_and_count(v, spare, from, middle) + sort_and_count(v, spare, middle, to);
  std::size_t i = from, j = middle, k = from;
  while (i < middle && j < to) {
    if (v[j] < v[i]) {
      count += static_cast<double>(middle - i);
      spare[k++] = v[j++];
    } else {
      spare[k++] = v[i++];
    }
  }
  std::copy(v.begin() + i, v.begin() + middle, spare.begin() + k);
  std::copy(v.begin() + j, v.begin() + to, spare.begin() + k + (middle - i));
  std::copy(spare.begin() + from, spare.begin() + to, v.begin() + from);
  return count;
}

}  // namespace

PairCounts pair_counts(const double* x, const double* y, std::size_t n) {
  std::vector<std::size_t> order(n);
  std::iota(order.begin(), order.end(), std::size_t(0));
  std::sort(order.begin(), order.end(), [&](std::size_t a, std::size_t b) { return x[a] < x[b] || (x[a] == x[b] && y[a] < y[b]); });
  PairCounts out;
  double both = 0, run_x = 1, run_both = 1;
  std::vector<double> sorted(n), spare(n);
  for (std::size_t i = 0; i < n; ++i) sorted[i] = y[order[i]];
  for (std::size_t i = 1; i <= n; ++i) {
    const bool same_x = i < n && x[order[i]] == x[order[i - 1]];
    const bool same_both = same_x && sorted[i] == sorted[i - 1];
    if (same_x) ++run_x; else { out.ties_x += pairs_of(run_x); run_x = 1; }
    if (same_both) ++run_both; else { both += pairs_of(run_both); run_both = 1; }
  }
  out.discordant = sort_and_count(sorted, spare, 0, n);
  double run_y = 1;
  for (std::size_t i = 1; i <= n; ++i) {
    if (i < n && sorted[i] == sorted[i - 1]) ++run_y; else { out.ties_y += pairs_of(run_y); run_y = 1; }
  }
  out.concordant = pairs_of(static_cast<double>(n)) - out.ties_x - out.ties_y + both - out.discordant;
  return out;
}

}  // namespace quill
