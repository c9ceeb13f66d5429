#include "matched.h"

#include <algorithm>
#include <cmath>

namespace quill {
namespace {

// Sums over all choices of k rows of a set, k from 0 to the events, of the product of their risks, with the first and
// second derivatives of these sums.
class ChoiceSums {
 public:
  ChoiceSums(std::size_t events, std::size_t p)
      : p_(p), sum_(events + 1, 0.0), first_((events + 1) * p, 0.0), second_((events + 1) * p * p, 0.0) {
    sum_[0] = 1.0;
  }

  void add(const std::vector<double>& x, double risk) {
    for (std::size_t k = sum_.size() - 1; k > 0; --k) {
      const double* d1 = &first_[(k - 1) * p_];
      const double* d2 = &second_[(k - 1) * p_ * p_];
      for (std::size_t a = 0; a < p_; ++a)
        for (std::size_t b = 0; b <= a; ++b)
          second_[(k * p_ + a) * p_ + b] += risk * (d2[a * p_ + b] + x[a] * d1[b] + x[b] * d1[a] + x[a] * x[b] * sum_[k - 1]);
      for (std::size_t a = 0; a < p_; ++a) first_[k * p_ + a] += risk * (d1[a] + x[a] * sum_[k - 1]);
      sum_[k] += risk * sum_[k - 1];
    }
  }

  double total() const { return sum_.back(); }
  double first(std::size_t a) const { return first_[(sum_.size() - 1) * p_ + a]; }
  double second(std::size_t a, std::size_t b) const { return second_[((sum_.size() - 1) * p_ + a) * p_ + b]; }

 private:
  std::size_t p_;
  std::vector<double> sum_, first_, second_;
};

}  // namespace

MatchedSums matched_sums(const int* event, const int* set, const double* x, std::size_t rows, std::size_t columns, const double* beta) {
  MatchedSums out{0.0, std::vector<double>(columns, 0.0), std::vector<double>(columns * columns, 0.0)};
  std::vector<double> eta(rows, 0.0), row(columns);
  for (std::size_t a = 0; a < columns; ++a)
    for (std::size_t i = 0; i < rows; ++i) eta[i] += beta[a] * x[a * rows + i];
  for (std::size_t first = 0, last; first < rows; first = last) {
    last = first;
    std::size_t events = 0;
    while (last < rows && set[last] == set[first]) events += static_cast<std::size_t>(event[last++]);
    if (events == 0 || events == last - first) continue;  // nothing to choose
    // (the largest risk of a set is put to 1, so that the sums stay in range)
    const double top = *std::max_element(&eta[first], &eta[first] + (last - first));
    ChoiceSums sums(events, columns);
    for (std::size_t i = first; i < last; ++i) {
      for (std::size_t a = 0; a < columns; ++a) row[a] = x[a * rows + i];
      sums.add(row, std::exp(eta[i] - top));
      if (!event[i]) continue;
      out.log_likelihood += eta[i] - top;
      for (std::size_t a = 0; a < columns; ++a) out.score[a] += row[a];
    }
    out.log_likelihood -= std::log(sums.total());
    for (std::size_t a = 0; a < columns; ++a) {
      const double mean = sums.first(a) / sums.total();
      out.score[a] -= mean;
      for (std::size_t b = 0; b <= a; ++b)
        out.information[a * columns + b] += sums.second(a, b) / sums.total() - mean * (sums.first(b) / sums.total());
    }
  }
  for (std::size_t a = 0; a < columns; ++a)
    for (std::size_t b = 0; b < a; ++b) out.information[b * columns + a] = out.information[a * columns + b];
  return out;
}

}  // namespace quill
