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

Eigen::MatrixXd triangle_of_rows(const double* x, std::size_t rows, std::size_t p, const double* w,
                                 std::size_t from, std::size_t to) {
  const std::size_t step = std::max<std::size_t>(512, 4 * p);
  Eigen::MatrixXd r = Eigen::MatrixXd::Zero(p, p);
  for (std::size_t at = from; at < to; at += step) {
    const std::size_t here = std::min(step, to - at);
    Eigen::MatrixXd stack(p + here, p);
    stack.topRows(p) = r;
    for (std::size_t j = 0; j < p; ++j) {
      const double* column = x + j * rows + at;
      if (w) for (std::size_t i = 0; i < here; ++i) stack(p + i, j) = column[i] * std::sqrt(w[at + i]);
      else for (std::size_t i = 0; i < here; ++i) stack(p + i, j) = column[i];
    }
    r = upper_of(stack);
  }
  return r;
}

}  // namespace

Eigen::MatrixXd triangle(const double* x, std::size_t rows, std::size_t columns, const double* w, int threads) {
  const Pieces pieces(rows, 16384, 64);
  std::vector<Eigen::MatrixXd> part(pieces.count());
  run_pieces(pieces, threads, [&](std::size_t k, std::size_t from, std::size_t to) {
    part[k] = triangle_of_rows(x, rows, columns, w, from, to);
  });
  Eigen::MatrixXd r = part[0];
  for (std::size_t k = 1; k < part.size(); ++k) {
    Eigen::MatrixXd stack(2 * columns, columns);
    stack << r, part[k];
    r = upper_of(stack);
  }
  return r;
}

void leverages(const double* x, std::size_t rows, const Eigen::MatrixXd& r, const int* keep, const double* w,
               double* h) {
  const Eigen::Index p = r.cols();
  Eigen::VectorXd row(p);
  for (std::size_t i = 0; i < rows; ++i) {
    for (Eigen::Index j = 0; j < p; ++j) row[j] = x[static_cast<std::size_t>(keep[j]) * rows + i];
    r.transpose().triangularView<Eigen::Lower>().solveInPlace(row);
    h[i] = row.squaredNorm() * (w ? w[i] : 1.0);
  }
}

}  // namespace quill
