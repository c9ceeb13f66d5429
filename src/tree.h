// tree: binary trees of rows, grown by the split that lowers the sum of squares most.
#pragma once
#include <cstddef>
#include <cstdint>
#include <vector>

namespace quill {

// A predictor: doubles in rising meaning, or (levels > 0) codes 1..levels without an order. No NaN.
struct TreeColumn {
  const double* values;
  int levels;
};

struct TreeNode {
  int left = -1, right = -1;       // positions in the vector of nodes; -1 at an end
  int column = -1;                 // column that splits, from 0
  double cut = 0;                  // ordered column: rows with a value below go left
  std::vector<int> to_left;        // unordered column: codes that go left
  std::size_t rows = 0;
  int depth = 0;
  double impurity = 0;             // sum of squares about the means of the outputs
  std::vector<double> means;       // one an output
};

struct TreeLimits {
  std::size_t least_rows;   // in an end
  std::size_t least_split;  // in a node that is split
  int depth;                // of the deepest end; the root has depth 0
};

// y: outputs one after another, n rows each (one column of numbers, or one 0/1 column a class).
// A later column or cut replaces an earlier one only if it is better by more than rounding, so the result does not hang on noise.
// threads changes the speed, never the tree.
std::vector<TreeNode> grow_tree(const std::vector<TreeColumn>& columns, const double* y, std::size_t n, std::size_t outputs,
                                const TreeLimits& limits, int threads);

// end[i]: the node in which row i ends; nodes marked in `closed` count as ends.
void place_rows(const std::vector<TreeNode>& nodes, const std::vector<char>& closed, const std::vector<TreeColumn>& columns, std::size_t n,
                int* end);

}  // namespace quill
