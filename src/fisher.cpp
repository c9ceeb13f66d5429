#include "fisher.h"
#include <algorithm>
#include <cmath>
#include <map>
#include <vector>

namespace quill {
namespace {

// Log factorials from a table.
class LogFactorial {
 public:
  explicit LogFactorial(int n) : table_(n + 1, 0.0) { for (int i = 2; i <= n; ++i) table_[i] = table_[i - 1] + std::log(static_cast<double>(i)); }
  double operator()(int i) const { return table_[i]; }
 private:
  std::vector<double> table_;
};

// Bounds of the log part that the columns still to come can add, and the log of the mass of all ways to fill them.
struct Outlook { double least, most, mass; };

// Smallest sum of log factorials of `parts` whole numbers that add up to `total`: as even as can be.
double even_split(int total, int parts, const LogFactorial& lf) {
  const int low = total / parts, more = total % parts;
  return (parts - more) * lf(low) + more * lf(low + 1);
}

Outlook look_ahead(const std::vector<int>& left, const std::vector<int>& columns_left, const LogFactorial& lf) {
  const int rows = static_cast<int>(left.size()), columns = static_cast<int>(columns_left.size());
  double row_whole = 0, row_even = 0, column_whole = 0, column_even = 0;
  int n = 0;
  for (const int r : left) { row_whole += lf(r); row_even += even_split(r, columns, lf); n += r; }
  for (const int c : columns_left) { column_whole += lf(c); column_even += even_split(c, rows, lf); }
  Outlook out;
  // a row kept in one cell has the largest log factorial, a row split evenly the smallest; columns likewise
  out.least = -std::min(row_whole, column_whole);
  out.most = -std::max(row_even, column_even);
  out.mass = lf(n) - row_whole - column_whole;
  return out;
}

// What is known of one set of row totals that are left: its outlook, and the ways that led to it (log part, mass).
struct Node { Outlook ahead; std::vector<std::pair<double, double>> pasts; };
using Level = std::map<std::vector<int>, Node>;

// What stays the same while one column is spread over the rows.
struct Step {
  const std::vector<int>& left;
  const std::vector<int>& columns_left;
  const LogFactorial& lf;
  double observed, constant, log_before, mass;
  Level& out;
  double& settled;
  std::size_t& stored;
};

// One column spread over the rows that are left; each way leads to a set of row totals (sorted: the order of rows does not
// matter). A way whose completions all count is settled at once, one of which none counts is dropped.
void spread(const Step& s, int row, int remaining, double log_part, std::vector<int>& rest) {
  const int rows = static_cast<int>(s.left.size());
  if (row == rows - 1) {
    if (remaining > s.left[row]) return;
    rest[row] = s.left[row] - remaining;
    std::vector<int> key(rest);
    std::sort(key.begin(), key.end());
    auto found = s.out.find(key);
    if (found == s.out.end()) found = s.out.emplace(key, Node{look_ahead(key, s.columns_left, s.lf), {}}).first;
    const double here = s.log_before + log_part - s.lf(remaining);
    const Outlook& ahead = found->second.ahead;
    if (here + ahead.most <= s.observed + 1e-7) s.settled += s.mass * std::exp(here + ahead.mass + s.constant);
    else if (here + ahead.least <= s.observed + 1e-7) { found->second.pasts.emplace_back(here, s.mass); ++s.stored; }
    return;
  }
  int beyond = 0;
  for (int i = row + 1; i < rows; ++i) beyond += s.left[i];
  for (int take = std::max(0, remaining - beyond); take <= std::min(s.left[row], remaining); ++take) {
    rest[row] = s.left[row] - take;
    spread(s, row + 1, remaining - take, log_part - s.lf(take), rest);
  }
}

// Ways to write `total` as a sum of `parts` whole numbers from zero: an upper bound of the work of one spread.
double compositions(int total, int parts) {
  double out = 1;
  for (int i = 1; i < parts; ++i) out *= static_cast<double>(total + i) / i;
  return out;
}

// Equal log parts become one entry.
void merge(std::vector<std::pair<double, double>>& pasts) {
  std::sort(pasts.begin(), pasts.end());
  std::size_t kept = 0;
  for (std::size_t i = 1; i < pasts.size(); ++i) {
    if (std::fabs(pasts[i].first - pasts[kept].first) <= 1e-11 * (1 + std::fabs(pasts[kept].first))) pasts[kept].second += pasts[i].second;
    else pasts[++kept] = pasts[i];
  }
  if (!pasts.empty()) pasts.resize(kept + 1);
}

}  // namespace

double fisher_p(const std::vector<int>& counts, int rows, int columns, std::size_t most) {
  std::vector<int> row_total(rows, 0), column_total(columns, 0);
  int n = 0;
  for (int j = 0; j < columns; ++j) for (int i = 0; i < rows; ++i) {
    const int c = counts[j * rows + i];
    row_total[i] += c; column_total[j] += c; n += c;
  }
  const LogFactorial lf(n);
  double constant = -lf(n), observed = 0;
  for (const int r : row_total) constant += lf(r);
  for (const int c : column_total) constant += lf(c);
  for (const int c : counts) observed -= lf(c);
  std::vector<int> order(columns);
  for (int j = 0; j < columns; ++j) order[j] = j;
  // large columns last: fewer states in between
  std::sort(order.begin(), order.end(), [&](int a, int b) { return column_total[a] < column_total[b]; });
  Level level;
  std::vector<int> start(row_total);
  std::sort(start.begin(), start.end());
  level[start].pasts = {{0.0, 1.0}};
  double settled = 0, work = 0;
  for (int step = 0; step < columns - 1; ++step) {
    std::vector<int> columns_left;
    for (int j = step + 1; j < columns; ++j) columns_left.push_back(column_total[order[j]]);
    std::size_t pasts = 0, stored = 0;
    for (const auto& node : level) pasts += node.second.pasts.size();
    work += static_cast<double>(pasts) * compositions(column_total[order[step]], rows);
    if (work > 400.0 * static_cast<double>(most)) return -1;
    Level next;
    for (const auto& node : level) for (const auto& past : node.second.pasts) {
      std::vector<int> rest(node.first);
      const Step one{node.first, columns_left, lf, observed, constant, past.first, past.second, next, settled, stored};
      spread(one, 0, column_total[order[step]], 0.0, rest);
      if (stored > 8 * most) return -1;
    }
    std::size_t states = 0;
    for (auto& entry : next) { merge(entry.second.pasts); states += entry.second.pasts.size(); }
    if (states > most) return -1;
    level.swap(next);
  }
  // the last column takes what is left of every row
  double total = settled;
  for (const auto& node : level) {
    double last = 0;
    for (const int r : node.first) last -= lf(r);
    for (const auto& past : node.second.pasts) {
      const double log_part = past.first + last;
      if (log_part <= observed + 1e-7) total += past.second * std::exp(log_part + constant);
    }
  }
  return std::min(1.0, total);
}

}  // namespace quill
