// generalised: one step over the rows of a generalised linear model.
//
// Source: McCullagh, P. and Nelder, J. A. (1989). Generalized Linear Models, 2nd ed., section 2.5.
#pragma once
#include <cstddef>

namespace quill {

enum class Family { binomial, poisson };  // logit link; log link

// Where step_rows() writes, each of length rows: fitted means, weights, and the response that the next weighted least
// squares takes (without the offset).
struct StepRows {
  double* mean;
  double* weight;
  double* response;
};

// x: rows x columns, column-major; keep[0..kept-1] (from 0) its columns with coefficients beta; offset[0..rows-1] or
// null; y: 0/1 (binomial) or counts (poisson), no NaN. Linear predictors of a binomial model stop at 34 either way,
// beyond which a chance is 0 or 1 to a double. Returns the deviance, the same for any number of threads.
double step_rows(Family family, const double* x, const double* y, const double* offset, std::size_t rows,
                 const int* keep, std::size_t kept, const double* beta, StepRows out, int threads);

}  // namespace quill
