// hazards: sums over risk sets for a regression of the hazard, ties by Efron's rule.
//
// Source: Cox, D. R. (1972). JRSS B 34, 187-220; Efron, B. (1977). JASA 72, 557-565.
#pragma once
#include <cstddef>
#include <vector>

namespace quill {

// Rows sorted by stratum, within it by time, within it events first. x: rows x columns, column-major.
struct HazardRows {
  const double* time;
  const int* event;    // 1 where the event came at that time, else 0
  const int* stratum;  // risk sets hold rows of one stratum only
  const double* x;
  std::size_t rows;
  std::size_t columns;
};

struct HazardSums {
  double log_likelihood;
  std::vector<double> score;        // columns
  std::vector<double> information;  // columns x columns, symmetric
};

// Log partial likelihood at beta with its first and negative second derivatives. One pass, O(rows columns^2).
HazardSums hazard_sums(const HazardRows& data, const double* beta);

// Residuals of the score at beta, rows x columns each, column-major, no NaN.
struct HazardResiduals {
  double* by_event;  // an event's predictors less the mean of its risk set (Schoenfeld); 0 for other rows
  double* by_row;    // the sum of these over a row's time at risk, weighed by its expected events; columns sum to the score
};
void hazard_residuals(const HazardRows& data, const double* beta, HazardResiduals out);

// Pairs of one stratum in which it is known whose event came first: those where the higher risk had it, those of equal
// risk, all. rank: dense ranks of the risks, from 1. O(rows log ranks).
struct HazardPairs {
  double agree, tied, all;
};
HazardPairs hazard_pairs(const HazardRows& data, const int* rank, int ranks);

}  // namespace quill
