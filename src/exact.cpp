#include "exact.h"
#include <algorithm>
#include <cmath>
#include <cstdint>
#include <cstring>
#include <numeric>

namespace quill {

std::vector<double> subset_sums(const int* scores, std::size_t n, std::size_t choose) {
  std::vector<int> largest(scores, scores + n);
  std::sort(largest.begin(), largest.end(), std::greater<int>());
  const std::size_t top = std::accumulate(largest.begin(), largest.begin() + choose, std::size_t(0));
  // ways[c][s]: probability, over random subsets of the scores seen so far, of c chosen with sum s. Working with
  // probabilities instead of counts keeps choose(100, 50) from losing digits.
  std::vector<std::vector<double>> ways(choose + 1, std::vector<double>(top + 1, 0.0));
  ways[0][0] = 1;
  for (std::size_t i = 0; i < n; ++i) {
    // the i-th score is taken with probability (choose - c) / (n - i) given c taken before
    for (std::size_t c = std::min(choose, i + 1) + 1; c-- > 0;) {
      const std::size_t score = scores[i];
      const double left = static_cast<double>(n - i);
      const double skip = c <= i && left > 0 ? std::max(0.0, (left - static_cast<double>(choose - c)) / left) : 0.0;
      std::vector<double>& row = ways[c];
      for (double& w : row) w *= skip;
      if (c == 0) continue;
      const double take = static_cast<double>(choose - (c - 1)) / left;
      const std::vector<double>& before = ways[c - 1];
      for (std::size_t s = score; s <= top; ++s) row[s] += before[s - score] * take;
    }
  }
  return ways[choose];
}

std::vector<double> sign_sums(const int* scores, std::size_t n) {
  const std::size_t top = std::accumulate(scores, scores + n, std::size_t(0));
  std::vector<double> prob(top + 1, 0.0);
  prob[0] = 1;
  std::size_t reached = 0;
  for (std::size_t i = 0; i < n; ++i) {
    const std::size_t score = scores[i];
    reached += score;
    for (std::size_t s = reached + 1; s-- > 0;)
      prob[s] = 0.5 * (prob[s] + (s >= score ? prob[s - score] : 0.0));
  }
  return prob;
}

namespace {

std::uint64_t to_ordered(double v) {
  v += 0.0;
  std::uint64_t bits;
  std::memcpy(&bits, &v, sizeof bits);
  return bits ^ ((bits >> 63) ? ~std::uint64_t(0) : std::uint64_t(1) << 63);
}

double from_ordered(std::uint64_t key) {
  const std::uint64_t bits = key ^ ((key >> 63) ? std::uint64_t(1) << 63 : ~std::uint64_t(0));
  double v;
  std::memcpy(&v, &bits, sizeof v);
  return v;
}

// how many differences are <= t
double count_at_most(const double* x, std::size_t m, const double* y, std::size_t n, double t) {
  double count = 0;
  std::size_t j = 0;  // y[0..j-1] give x[i] - y > t
  for (std::size_t i = 0; i < m; ++i) {
    while (j < n && x[i] - y[j] > t) ++j;
    count += static_cast<double>(n - j);
  }
  return count;
}

}  // namespace

double kth_difference(const double* x, std::size_t m, const double* y, std::size_t n, double k) {
  std::uint64_t low = to_ordered(x[0] - y[n - 1]), high = to_ordered(x[m - 1] - y[0]);
  while (low < high) {
    const std::uint64_t middle = low + (high - low) / 2;
    if (count_at_most(x, m, y, n, from_ordered(middle)) >= k) high = middle;
    else low = middle + 1;
  }
  return from_ordered(low);
}

}  // namespace quill
