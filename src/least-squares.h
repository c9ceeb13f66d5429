// least-squares: triangular factors of tall matrices by Householder reflections, piece by piece.
//
// The factor R of a set of rows is a mergeable state: the factor of [R1; R2] is the factor of all rows.
// Source: Golub, G. H. and Van Loan, C. F. (2013). Matrix Computations, 4th ed., ch. 5; Demmel, J. et al. (2012).
// SIAM Journal on Scientific Computing 34, A206-A239 (tall-skinny QR).
#pragma once
#include <Eigen/Dense>
#include <cstddef>

namespace quill {

// Upper triangle (columns x columns) of the factor of the rows x columns matrix x, column-major, rows multiplied by
// the square root of w[] when w is not null. With y[0..rows-1] not null it stands as one more column at the right.
// x and y are not changed and hold no NaN.
Eigen::MatrixXd triangle(const double* x, const double* y, std::size_t rows, std::size_t columns, const double* w,
                         int threads);

// Where fit_rows() writes: each of length rows.
struct FittedRows {
  double* fitted;
  double* residuals;
  double* leverage;
};

// For the columns listed in keep (from 0), whose triangle is r and whose coefficients are beta: fitted values,
// residuals, and leverages |R^-T x_i|^2 w_i, in one pass over the rows.
void fit_rows(const double* x, const double* y, std::size_t rows, const Eigen::MatrixXd& r, const int* keep,
              const double* beta, const double* w, FittedRows out, int threads);

// The same problem solved in extended precision with two rounds of refinement, for nearly collinear columns.
// x: rows x columns column-major, all columns kept and independent; y[0..rows-1]; w as above. beta[0..columns-1]
// out; returns the triangle of x. Some thousand times slower a row than triangle(): for when digits are at stake.
// Source: Bjorck, A. (1967). BIT 7, 257-278 (iterative refinement of least squares).
Eigen::MatrixXd solve_precisely(const double* x, const double* y, std::size_t rows, std::size_t columns,
                                const double* w, double* beta);

}  // namespace quill
