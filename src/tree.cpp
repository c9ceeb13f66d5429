#include "tree.h"

#include <algorithm>
#include <cmath>
#include <numeric>
#include <thread>

#include "order.h"

namespace quill {
namespace {

constexpr double kSlack = 1e-10;  // share by which a later split must be better

struct Split {
  double gain = 0;
  double cut = 0;
  std::vector<int> to_left;
  bool better_than(double other) const { return gain > other * (1 + kSlack); }
};

// Rows of one node as seen by one column, and what its children must hold.
struct View {
  const std::uint32_t* rows;
  std::size_t n;
  const double* y;
  std::size_t all;
  std::size_t outputs;
  const double* totals;
  std::size_t least_rows;
};

double gain_of(const double* left, const double* totals, std::size_t outputs, double nl, double nr) {
  double gain = 0;
  for (std::size_t k = 0; k < outputs; ++k) {
    const double right = totals[k] - left[k];
    gain += left[k] * left[k] / nl + right * right / nr - totals[k] * totals[k] / (nl + nr);
  }
  return gain;
}

Split split_ordered(const View& v, const double* x) {
  Split best;
  std::vector<double> left(v.outputs, 0.0);
  for (std::size_t i = 0; i + 1 < v.n; ++i) {
    const std::uint32_t row = v.rows[i];
    for (std::size_t k = 0; k < v.outputs; ++k) left[k] += v.y[k * v.all + row];
    const double here = x[row], next = x[v.rows[i + 1]];
    if (here == next || i + 1 < v.least_rows || v.n - i - 1 < v.least_rows) continue;
    const double gain = gain_of(left.data(), v.totals, v.outputs, static_cast<double>(i + 1), static_cast<double>(v.n - i - 1));
    if (gain > best.gain * (1 + kSlack)) {
      best.gain = gain;
      best.cut = here + (next - here) / 2;
      if (!(best.cut > here)) best.cut = next;  // neighbours in floating point
    }
  }
  return best;
}

// Levels in the order of their mean of one output: for one number or two classes the best split is among the cuts of this order
// (Fisher, 1958); with more classes the orders by each class are tried.
Split split_levels(const View& v, const double* x, int levels) {
  Split best;
  std::vector<double> sums(static_cast<std::size_t>(levels) * v.outputs, 0.0);
  std::vector<double> counts(levels, 0.0);
  for (std::size_t i = 0; i < v.n; ++i) {
    const std::uint32_t row = v.rows[i];
    const std::size_t level = static_cast<std::size_t>(x[row]) - 1;
    counts[level] += 1;
    for (std::size_t k = 0; k < v.outputs; ++k) sums[level * v.outputs + k] += v.y[k * v.all + row];
  }
  std::vector<int> present;
  for (int l = 0; l < levels; ++l) if (counts[l] > 0) present.push_back(l);
  if (present.size() < 2) return best;
  const std::size_t orders = v.outputs == 2 ? 1 : v.outputs;
  for (std::size_t by = 0; by < orders; ++by) {
    std::vector<int> order = present;
    std::stable_sort(order.begin(), order.end(), [&](int a, int b) {
      return sums[a * v.outputs + by] / counts[a] < sums[b * v.outputs + by] / counts[b];
    });
    std::vector<double> left(v.outputs, 0.0);
    double nl = 0;
    for (std::size_t i = 0; i + 1 < order.size(); ++i) {
      nl += counts[order[i]];
      for (std::size_t k = 0; k < v.outputs; ++k) left[k] += sums[order[i] * v.outputs + k];
      const double nr = static_cast<double>(v.n) - nl;
      if (nl < static_cast<double>(v.least_rows) || nr < static_cast<double>(v.least_rows)) continue;
      const double gain = gain_of(left.data(), v.totals, v.outputs, nl, nr);
      if (gain > best.gain * (1 + kSlack)) {
        best.gain = gain;
        best.to_left.assign(order.begin(), order.begin() + i + 1);
      }
    }
  }
  for (int& code : best.to_left) code += 1;
  std::sort(best.to_left.begin(), best.to_left.end());
  return best;
}

// The columns' own orders of the rows; the rows of a node are one stretch of each.
class Grower {
 public:
  Grower(const std::vector<TreeColumn>& columns, const double* y, std::size_t n, std::size_t outputs, const TreeLimits& limits, int threads)
      : columns_(columns), y_(y), n_(n), outputs_(outputs), limits_(limits), threads_(std::max(1, threads)), order_(columns.size()),
        goes_left_(n), root_(0) {
    each_column([&](std::size_t c) {
      order_[c].resize(n_);
      if (columns_[c].levels > 0) std::iota(order_[c].begin(), order_[c].end(), 0u);
      else order_doubles(columns_[c].values, n_, order_[c].data());
    }, n_);
  }

  std::vector<TreeNode> grow() {
    open(0, n_, 0);
    return std::move(nodes_);
  }

 private:
  template <typename F> void each_column(F f, std::size_t rows) {
    const std::size_t p = columns_.size();
    if (threads_ < 2 || rows * p < 40000) { for (std::size_t c = 0; c < p; ++c) f(c); return; }
    std::vector<std::thread> team;
    for (int t = 0; t < threads_; ++t) team.emplace_back([&, t] { for (std::size_t c = t; c < p; c += threads_) f(c); });
    for (auto& member : team) member.join();
  }

  TreeNode describe(std::size_t begin, std::size_t n, int depth, std::vector<double>& totals) const {
    TreeNode node;
    node.rows = n; node.depth = depth; node.means.assign(outputs_, 0.0);
    totals.assign(outputs_, 0.0);
    const std::uint32_t* rows = order_[0].data() + begin;
    for (std::size_t k = 0; k < outputs_; ++k) {
      const double* y = y_ + k * n_;
      double sum = 0, squares = 0;
      for (std::size_t i = 0; i < n; ++i) sum += y[rows[i]];
      const double mean = sum / static_cast<double>(n);
      for (std::size_t i = 0; i < n; ++i) squares += (y[rows[i]] - mean) * (y[rows[i]] - mean);
      node.means[k] = mean; node.impurity += squares; totals[k] = sum;
    }
    return node;
  }

  int open(std::size_t begin, std::size_t n, int depth) {
    std::vector<double> totals;
    const int at = static_cast<int>(nodes_.size());
    nodes_.push_back(describe(begin, n, depth, totals));
    if (at == 0) root_ = nodes_[0].impurity;
    if (depth >= limits_.depth || n < limits_.least_split || n < 2 * limits_.least_rows) return at;
    std::vector<Split> splits(columns_.size());
    each_column([&](std::size_t c) {
      const View view{order_[c].data() + begin, n, y_, n_, outputs_, totals.data(), limits_.least_rows};
      splits[c] = columns_[c].levels > 0 ? split_levels(view, columns_[c].values, columns_[c].levels) : split_ordered(view, columns_[c].values);
    }, n);
    int chosen = -1;
    for (std::size_t c = 0; c < splits.size(); ++c) {
      if (splits[c].gain > 1e-10 * root_ && splits[c].better_than(chosen < 0 ? 0.0 : splits[chosen].gain)) chosen = static_cast<int>(c);
    }
    if (chosen < 0) return at;
    const std::size_t left_rows = divide(begin, n, chosen, splits[chosen]);
    nodes_[at].column = chosen; nodes_[at].cut = splits[chosen].cut; nodes_[at].to_left = splits[chosen].to_left;
    const int left = open(begin, left_rows, depth + 1);
    nodes_[at].left = left;
    const int right = open(begin + left_rows, n - left_rows, depth + 1);
    nodes_[at].right = right;
    return at;
  }

  std::size_t divide(std::size_t begin, std::size_t n, int column, const Split& split) {
    const double* x = columns_[column].values;
    std::vector<char> left_level(static_cast<std::size_t>(columns_[column].levels) + 1, 0);
    for (int code : split.to_left) left_level[code] = 1;
    const std::uint32_t* rows = order_[column].data() + begin;
    std::size_t left = 0;
    for (std::size_t i = 0; i < n; ++i) {
      const bool goes = columns_[column].levels > 0 ? left_level[static_cast<std::size_t>(x[rows[i]])] : x[rows[i]] < split.cut;
      goes_left_[rows[i]] = goes;
      left += goes;
    }
    each_column([&](std::size_t c) {
      std::uint32_t* own = order_[c].data() + begin;
      std::vector<std::uint32_t> right;
      right.reserve(n - left);
      std::size_t put = 0;
      for (std::size_t i = 0; i < n; ++i) {
        if (goes_left_[own[i]]) own[put++] = own[i]; else right.push_back(own[i]);
      }
      std::copy(right.begin(), right.end(), own + put);
    }, n);
    return left;
  }

  const std::vector<TreeColumn>& columns_;
  const double* y_;
  std::size_t n_, outputs_;
  TreeLimits limits_;
  int threads_;
  std::vector<std::vector<std::uint32_t>> order_;
  std::vector<char> goes_left_;
  double root_;
  std::vector<TreeNode> nodes_;
};

}  // namespace

std::vector<TreeNode> grow_tree(const std::vector<TreeColumn>& columns, const double* y, std::size_t n, std::size_t outputs,
                                const TreeLimits& limits, int threads) {
  if (columns.empty() || n == 0) return {};
  return Grower(columns, y, n, outputs, limits, threads).grow();
}

void place_rows(const std::vector<TreeNode>& nodes, const std::vector<char>& closed, const std::vector<TreeColumn>& columns, std::size_t n,
                int* end) {
  for (std::size_t i = 0; i < n; ++i) {
    int at = 0;
    while (nodes[at].left >= 0 && !closed[at]) {
      const TreeNode& node = nodes[at];
      const double x = columns[node.column].values[i];
      const bool left = columns[node.column].levels > 0
          ? std::binary_search(node.to_left.begin(), node.to_left.end(), static_cast<int>(x)) : x < node.cut;
      at = left ? node.left : node.right;
    }
    end[i] = at;
  }
}

}  // namespace quill
