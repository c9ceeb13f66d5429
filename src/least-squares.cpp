#include "least-squares.h"
#include "pieces.h"
#include <cmath>

namespace quill {

namespace {

Eigen::MatrixXd upper_of(Eigen::MatrixXd& stack) {
  const Eigen::Index p = stack.cols();
  Eigen::HouseholderQR<Eigen::Ref<Eigen::MatrixXd>> qr(stack);
  Eigen::MatrixXd r = Eigen::MatrixXd::Zero(p, p);
  const Eigen::Index k = std::min(p, stack.rows());
  r.topRows(k) = stack.topRows(k).triangularView<Eigen::Upper>();
  return r;
}

Eigen::MatrixXd triangle_of_rows(const double* x, const double* y, std::size_t rows, std::size_t p, const double* w,
                                 std::size_t from, std::size_t to) {
  const std::size_t step = std::max<std::size_t>(512, 4 * p);
  Eigen::MatrixXd r = Eigen::MatrixXd::Zero(p, p);
  for (std::size_t at = from; at < to; at += step) {
    const std::size_t here = std::min(step, to - at);
    Eigen::MatrixXd stack(p + here, p);
    stack.topRows(p) = r;
    for (std::size_t j = 0; j < p; ++j) {
      const double* column = (y && j + 1 == p ? y : x + j * rows) + at;
      if (w) for (std::size_t i = 0; i < here; ++i) stack(p + i, j) = column[i] * std::sqrt(w[at + i]);
      else for (std::size_t i = 0; i < here; ++i) stack(p + i, j) = column[i];
    }
    r = upper_of(stack);
  }
  return r;
}

}  // namespace

Eigen::MatrixXd triangle(const double* x, const double* y, std::size_t rows, std::size_t columns, const double* w,
                         int threads) {
  if (y) ++columns;
  const Pieces pieces(rows, 16384, 64);
  std::vector<Eigen::MatrixXd> part(pieces.count());
  run_pieces(pieces, threads, [&](std::size_t k, std::size_t from, std::size_t to) {
    part[k] = triangle_of_rows(x, y, rows, columns, w, from, to);
  });
  Eigen::MatrixXd r = part[0];
  for (std::size_t k = 1; k < part.size(); ++k) {
    Eigen::MatrixXd stack(2 * columns, columns);
    stack << r, part[k];
    r = upper_of(stack);
  }
  return r;
}

namespace {
using Extended = Eigen::Matrix<long double, Eigen::Dynamic, Eigen::Dynamic>;
using ExtendedVector = Eigen::Matrix<long double, Eigen::Dynamic, 1>;

// Residuals need more digits than the solution has: they are what is left after nearly everything cancels.
#ifdef __SIZEOF_FLOAT128__
__extension__ typedef __float128 Wide;
#else
typedef long double Wide;
#endif

ExtendedVector residual_of(const Extended& a, const ExtendedVector& b, const ExtendedVector& solution) {
  ExtendedVector out(b.size());
  for (Eigen::Index i = 0; i < b.size(); ++i) {
    Wide left = b[i];
    for (Eigen::Index j = 0; j < a.cols(); ++j) left -= static_cast<Wide>(a(i, j)) * static_cast<Wide>(solution[j]);
    out[i] = static_cast<long double>(left);
  }
  return out;
}
}  // namespace

Eigen::MatrixXd solve_precisely(const double* x, const double* y, std::size_t rows, std::size_t columns,
                                const double* w, double* beta) {
  const Eigen::Index n = rows, p = columns;
  Extended a = Eigen::Map<const Eigen::MatrixXd>(x, n, p).cast<long double>();
  ExtendedVector b = Eigen::Map<const Eigen::VectorXd>(y, n).cast<long double>();
  if (w) {
    const ExtendedVector root = Eigen::Map<const Eigen::VectorXd>(w, n).cast<long double>().array().sqrt();
    a = root.asDiagonal() * a;
    b = root.asDiagonal() * b;
  }
  // scaled by powers of two, which changes no digit
  ExtendedVector scale = a.colwise().norm().transpose();
  for (Eigen::Index j = 0; j < p; ++j) scale[j] = std::exp2(std::floor(std::log2(scale[j])));
  a = a * scale.cwiseInverse().asDiagonal();
  const Eigen::HouseholderQR<Extended> qr(a);
  ExtendedVector solution = ExtendedVector::Zero(p);
  for (int round = 0; round < 4; ++round) solution += qr.solve(residual_of(a, b, solution));
  for (Eigen::Index j = 0; j < p; ++j) beta[j] = static_cast<double>(solution[j] / scale[j]);
  Extended r = qr.matrixQR().topRows(p).triangularView<Eigen::Upper>();
  return (r * scale.asDiagonal()).cast<double>();
}

void fit_rows(const double* x, const double* y, std::size_t rows, const Eigen::MatrixXd& r, const int* keep,
              const double* beta, const double* w, FittedRows out, int threads) {
  const Eigen::Index p = r.cols();
  const Eigen::Map<const Eigen::VectorXd> slope(beta, p);
  run_pieces(Pieces(rows, 16384, 64), threads, [&](std::size_t, std::size_t from, std::size_t to) {
    const std::size_t step = 512;
    Eigen::MatrixXd block(step, p);
    for (std::size_t at = from; at < to; at += step) {
      const Eigen::Index here = std::min(step, to - at);
      auto part = block.topRows(here);
      for (Eigen::Index j = 0; j < p; ++j) {
        part.col(j) = Eigen::Map<const Eigen::VectorXd>(x + static_cast<std::size_t>(keep[j]) * rows + at, here);
      }
      Eigen::Map<Eigen::VectorXd> fitted(out.fitted + at, here), residual(out.residuals + at, here);
      fitted.noalias() = part * slope;
      residual = Eigen::Map<const Eigen::VectorXd>(y + at, here) - fitted;
      r.triangularView<Eigen::Upper>().solveInPlace<Eigen::OnTheRight>(part);
      Eigen::Map<Eigen::VectorXd> h(out.leverage + at, here);
      h = part.rowwise().squaredNorm();
      if (w) h.array() *= Eigen::Map<const Eigen::ArrayXd>(w + at, here);
    }
  });
}

}  // namespace quill
