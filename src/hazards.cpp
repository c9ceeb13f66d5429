#include "hazards.h"

#include <algorithm>
#include <cmath>

namespace quill {
namespace {

// Sums over the rows at risk, and over those of them whose event comes now.
struct RiskSums {
  double total = 0.0;
  std::vector<double> first, second;  // weighed by risk: columns; lower triangle of columns x columns, row by row
  explicit RiskSums(std::size_t p, bool squares) : first(p, 0.0), second(squares ? p * (p + 1) / 2 : 0, 0.0) {}

  void clear() {
    total = 0.0;
    std::fill(first.begin(), first.end(), 0.0);
    std::fill(second.begin(), second.end(), 0.0);
  }

  void add(const HazardRows& data, std::size_t row, double risk) {
    total += risk;
    std::size_t k = 0;
    for (std::size_t a = 0; a < data.columns; ++a) {
      const double pull = data.x[a * data.rows + row] * risk;
      first[a] += pull;
      if (second.empty()) continue;
      for (std::size_t b = 0; b <= a; ++b) second[k++] += pull * data.x[b * data.rows + row];
    }
  }
};

std::vector<double> linear_part(const HazardRows& data, const double* beta) {
  std::vector<double> eta(data.rows, 0.0);
  for (std::size_t a = 0; a < data.columns; ++a)
    for (std::size_t i = 0; i < data.rows; ++i) eta[i] += beta[a] * data.x[a * data.rows + i];
  return eta;
}

// The rows that share the time and stratum of row last - 1: [returned, last).
std::size_t start_of_ties(const HazardRows& data, std::size_t last) {
  std::size_t first = last - 1;
  while (first > 0 && data.time[first - 1] == data.time[last - 1] && data.stratum[first - 1] == data.stratum[last - 1]) --first;
  return first;
}

// Walks the distinct times of each stratum from the last to the first, with the sums over all then at risk (`set`) and
// over the `events` rows from `first` whose event comes at that time (`now`).
template <class Visit>
void walk_back(const HazardRows& data, const std::vector<double>& eta, bool squares, Visit visit) {
  RiskSums set(data.columns, squares), now(data.columns, squares);
  for (std::size_t last = data.rows; last > 0;) {
    if (last == data.rows || data.stratum[last - 1] != data.stratum[last]) set.clear();
    const std::size_t first = start_of_ties(data, last);
    now.clear();
    std::size_t events = 0;
    for (std::size_t i = last; i-- > first;) {
      const double risk = std::exp(eta[i]);
      set.add(data, i, risk);
      if (data.event[i]) {
        now.add(data, i, risk);
        ++events;
      }
    }
    visit(first, last, events, set, now);
    last = first;
  }
}

}  // namespace

HazardSums hazard_sums(const HazardRows& data, const double* beta) {
  const std::size_t p = data.columns;
  HazardSums out{0.0, std::vector<double>(p, 0.0), std::vector<double>(p * p, 0.0)};
  const std::vector<double> eta = linear_part(data, beta);
  std::vector<double> mean(p);
  walk_back(data, eta, true, [&](std::size_t first, std::size_t, std::size_t events, const RiskSums& set, const RiskSums& now) {
    for (std::size_t i = first; i < first + events; ++i) {
      out.log_likelihood += eta[i];
      for (std::size_t a = 0; a < p; ++a) out.score[a] += data.x[a * data.rows + i];
    }
    for (std::size_t l = 0; l < events; ++l) {
      const double part = static_cast<double>(l) / static_cast<double>(events);
      const double total = set.total - part * now.total;
      out.log_likelihood -= std::log(total);
      std::size_t k = 0;
      for (std::size_t a = 0; a < p; ++a) {
        mean[a] = (set.first[a] - part * now.first[a]) / total;
        out.score[a] -= mean[a];
        for (std::size_t b = 0; b <= a; ++b, ++k)
          out.information[a * p + b] += (set.second[k] - part * now.second[k]) / total - mean[a] * mean[b];
      }
    }
  });
  for (std::size_t a = 0; a < p; ++a)
    for (std::size_t b = 0; b < a; ++b) out.information[b * p + a] = out.information[a * p + b];
  return out;
}

void hazard_residuals(const HazardRows& data, const double* beta, HazardResiduals out) {
  const std::size_t p = data.columns, n = data.rows;
  const std::vector<double> eta = linear_part(data, beta);
  // what each time adds to the expected events of a row at risk, and the same weighed by the means of its risk set;
  // rows whose own event comes then are at risk in part (Efron)
  std::vector<double> step(n, 0.0), step_own(n, 0.0), pull(n * p, 0.0), pull_own(n * p, 0.0);
  std::fill(out.by_event, out.by_event + n * p, 0.0);
  std::vector<double> means(p);
  walk_back(data, eta, false, [&](std::size_t first, std::size_t, std::size_t events, const RiskSums& set, const RiskSums& now) {
    std::fill(means.begin(), means.end(), 0.0);
    for (std::size_t l = 0; l < events; ++l) {
      const double part = static_cast<double>(l) / static_cast<double>(events);
      const double total = set.total - part * now.total;
      step[first] += 1.0 / total;
      step_own[first] += (1.0 - part) / total;
      for (std::size_t a = 0; a < p; ++a) {
        const double mean = (set.first[a] - part * now.first[a]) / total;
        pull[a * n + first] += mean / total;
        pull_own[a * n + first] += (1.0 - part) * mean / total;
        means[a] += mean / static_cast<double>(events);
      }
    }
    for (std::size_t a = 0; a < p; ++a)
      for (std::size_t i = first; i < first + events; ++i) out.by_event[a * n + i] = data.x[a * n + i] - means[a];
  });
  double hazard = 0.0;  // sums of step and pull over the times before
  std::vector<double> pulled(p, 0.0);
  for (std::size_t first = 0; first < n;) {
    if (first > 0 && data.stratum[first] != data.stratum[first - 1]) {
      hazard = 0.0;
      std::fill(pulled.begin(), pulled.end(), 0.0);
    }
    std::size_t last = first + 1;
    while (last < n && data.time[last] == data.time[first] && data.stratum[last] == data.stratum[first]) ++last;
    for (std::size_t i = first; i < last; ++i) {
      const double risk = std::exp(eta[i]);
      const double own = hazard + (data.event[i] ? step_own[first] : step[first]);
      for (std::size_t a = 0; a < p; ++a) {
        const double own_pull = pulled[a] + (data.event[i] ? pull_own : pull)[a * n + first];
        out.by_row[a * n + i] = out.by_event[a * n + i] - risk * (data.x[a * n + i] * own - own_pull);
      }
    }
    hazard += step[first];
    for (std::size_t a = 0; a < p; ++a) pulled[a] += pull[a * n + first];
    first = last;
  }
}

HazardPairs hazard_pairs(const HazardRows& data, const int* rank, int ranks) {
  HazardPairs out{0.0, 0.0, 0.0};
  std::vector<double> tree(static_cast<std::size_t>(ranks) + 1, 0.0);  // counts of ranks (Fenwick)
  const auto add = [&](int r, double by) {
    for (; r <= ranks; r += r & -r) tree[r] += by;
  };
  const auto up_to = [&](int r) {
    double sum = 0.0;
    for (; r > 0; r -= r & -r) sum += tree[r];
    return sum;
  };
  double later = 0.0;
  std::size_t end = data.rows;  // of the stratum: its rows leave the tree once it is done
  for (std::size_t last = data.rows; last > 0;) {
    if (last < data.rows && data.stratum[last - 1] != data.stratum[last]) {
      for (std::size_t i = last; i < end; ++i) add(rank[i], -1.0);
      later = 0.0;
      end = last;
    }
    const std::size_t first = start_of_ties(data, last);
    for (std::size_t i = first; i < last; ++i)
      if (!data.event[i]) {
        add(rank[i], 1.0);
        later += 1.0;
      }
    for (std::size_t i = first; i < last; ++i)
      if (data.event[i]) {
        const double below = up_to(rank[i] - 1);
        out.agree += below;
        out.tied += up_to(rank[i]) - below;
        out.all += later;
      }
    for (std::size_t i = first; i < last; ++i)
      if (data.event[i]) {
        add(rank[i], 1.0);
        later += 1.0;
      }
    last = first;
  }
  return out;
}

}  // namespace quill
