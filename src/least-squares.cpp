#include "least-squares.h"
#include "lanes.h"
#include "pieces.h"
#include <algorithm>
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

// Takes the reflected column v (n rows, a whole number of lanes) out of the columns after it, four at a time:
// column j loses s v, the triangle's own entry head[j] loses s first, with s = tau (first head[j] + v . column j).
QUILL_WIDE void reflect(const double* v, double first, double tau, std::size_t n, double* next, std::size_t stride,
                        std::size_t columns, double* head, std::size_t head_stride) {
  const Lane* a = reinterpret_cast<const Lane*>(v);
  const std::size_t m = n / lane_width;
  std::size_t j = 0;
  for (; j + 4 <= columns; j += 4) {
    Lane* b0 = reinterpret_cast<Lane*>(next + j * stride);
    Lane* b1 = reinterpret_cast<Lane*>(next + (j + 1) * stride);
    Lane* b2 = reinterpret_cast<Lane*>(next + (j + 2) * stride);
    Lane* b3 = reinterpret_cast<Lane*>(next + (j + 3) * stride);
    Lane s0 = {}, s1 = {}, s2 = {}, s3 = {};
    for (std::size_t i = 0; i < m; ++i) {
      s0 += a[i] * b0[i]; s1 += a[i] * b1[i]; s2 += a[i] * b2[i]; s3 += a[i] * b3[i];
    }
    const double d0 = tau * (first * head[j * head_stride] + total(s0));
    const double d1 = tau * (first * head[(j + 1) * head_stride] + total(s1));
    const double d2 = tau * (first * head[(j + 2) * head_stride] + total(s2));
    const double d3 = tau * (first * head[(j + 3) * head_stride] + total(s3));
    head[j * head_stride] -= d0 * first; head[(j + 1) * head_stride] -= d1 * first;
    head[(j + 2) * head_stride] -= d2 * first; head[(j + 3) * head_stride] -= d3 * first;
    const Lane w0 = {d0, d0, d0, d0}, w1 = {d1, d1, d1, d1}, w2 = {d2, d2, d2, d2}, w3 = {d3, d3, d3, d3};
    for (std::size_t i = 0; i < m; ++i) {
      b0[i] -= a[i] * w0; b1[i] -= a[i] * w1; b2[i] -= a[i] * w2; b3[i] -= a[i] * w3;
    }
  }
  for (; j < columns; ++j) {
    Lane* b = reinterpret_cast<Lane*>(next + j * stride);
    Lane s = {};
    for (std::size_t i = 0; i < m; ++i) s += a[i] * b[i];
    const double d = tau * (first * head[j * head_stride] + total(s));
    head[j * head_stride] -= d * first;
    const Lane w = {d, d, d, d};
    for (std::size_t i = 0; i < m; ++i) b[i] -= a[i] * w;
  }
}

QUILL_WIDE double squared_length(const double* v, std::size_t n) {
  const Lane* a = reinterpret_cast<const Lane*>(v);
  const std::size_t m = n / lane_width;
  Lane s = {}, t = {};
  std::size_t i = 0;
  for (; i + 2 <= m; i += 2) { s += a[i] * a[i]; t += a[i + 1] * a[i + 1]; }
  if (i < m) s += a[i] * a[i];
  s += t;
  return total(s);
}

// The triangle r (p x p, column-major) of all rows so far, with the rows of the block added. The reflections leave
// the rows of r below each column's own alone, since those hold zeros.
void add_rows(Block& block, std::size_t n, std::size_t p, double* r) {
  for (std::size_t k = 0; k < p; ++k) {
    double* v = block.column(k);
    const double below = squared_length(v, n);
    if (!(below > 0)) continue;
    double& corner = r[k * p + k];
    const double length = std::sqrt(corner * corner + below);
    const double turned = corner > 0 ? -length : length;
    const double first = corner - turned;
    corner = turned;
    if (k + 1 < p) {
      reflect(v, first, 2 / (first * first + below), n, block.column(k + 1), block.stride(), p - k - 1,
              r + (k + 1) * p + k, p);
    }
  }
}

Eigen::MatrixXd triangle_of_rows(const double* x, const double* y, std::size_t rows, std::size_t p, const double* w,
                                 std::size_t from, std::size_t to) {
  const std::size_t step = block_rows(p);
  Eigen::MatrixXd r = Eigen::MatrixXd::Zero(p, p);
  Block block(step, p);
  std::vector<double> root(w ? step : 0);
  for (std::size_t at = from; at < to; at += step) {
    const std::size_t here = std::min(step, to - at), padded = (here + lane_width - 1) / lane_width * lane_width;
    if (w) for (std::size_t i = 0; i < here; ++i) root[i] = std::sqrt(w[at + i]);
    for (std::size_t j = 0; j < p; ++j) {
      const double* column = (y && j + 1 == p ? y : x + j * rows) + at;
      double* put = block.column(j);
      if (w) for (std::size_t i = 0; i < here; ++i) put[i] = column[i] * root[i];
      else std::copy(column, column + here, put);
      std::fill(put + here, put + padded, 0.0);
    }
    add_rows(block, padded, p, r.data());
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

namespace {

// Squared lengths of the rows of block u, u the inverse of a p x p triangle (column-major); out[0..n-1], n a whole
// number of lanes.
QUILL_WIDE void row_lengths(const double* block, std::size_t stride, std::size_t n, std::size_t p, const double* u,
                            double* out) {
  for (std::size_t at = 0; at < n; at += 2 * lane_width) {
    Lane total0 = {}, total1 = {};
    std::size_t k = 0;
    for (; k + 2 <= p; k += 2) {
      Lane a0 = {}, a1 = {}, b0 = {}, b1 = {};
      for (std::size_t j = 0; j <= k + 1; ++j) {
        const Lane* v = reinterpret_cast<const Lane*>(block + j * stride + at);
        const double ua = u[k * p + j], ub = u[(k + 1) * p + j];
        const Lane wa = {ua, ua, ua, ua}, wb = {ub, ub, ub, ub};
        a0 += v[0] * wa; a1 += v[1] * wa; b0 += v[0] * wb; b1 += v[1] * wb;
      }
      total0 += a0 * a0 + b0 * b0; total1 += a1 * a1 + b1 * b1;
    }
    if (k < p) {
      Lane a0 = {}, a1 = {};
      for (std::size_t j = 0; j <= k; ++j) {
        const Lane* v = reinterpret_cast<const Lane*>(block + j * stride + at);
        const double ua = u[k * p + j];
        const Lane wa = {ua, ua, ua, ua};
        a0 += v[0] * wa; a1 += v[1] * wa;
      }
      total0 += a0 * a0; total1 += a1 * a1;
    }
    reinterpret_cast<Lane*>(out + at)[0] = total0;
    reinterpret_cast<Lane*>(out + at)[1] = total1;
  }
}

QUILL_WIDE void row_products(const double* block, std::size_t stride, std::size_t n, std::size_t p, const double* beta,
                             double* out) {
  for (std::size_t at = 0; at < n; at += 2 * lane_width) {
    Lane a0 = {}, a1 = {};
    for (std::size_t j = 0; j < p; ++j) {
      const Lane* v = reinterpret_cast<const Lane*>(block + j * stride + at);
      const Lane w = {beta[j], beta[j], beta[j], beta[j]};
      a0 += v[0] * w; a1 += v[1] * w;
    }
    reinterpret_cast<Lane*>(out + at)[0] = a0;
    reinterpret_cast<Lane*>(out + at)[1] = a1;
  }
}

}  // namespace

void fit_rows(const double* x, const double* y, std::size_t rows, const Eigen::MatrixXd& r, const int* keep,
              const double* beta, const double* w, FittedRows out, int threads) {
  const std::size_t p = r.cols();
  const Eigen::MatrixXd inverse =
      r.triangularView<Eigen::Upper>().solve(Eigen::MatrixXd::Identity(r.rows(), r.cols()));
  run_pieces(Pieces(rows, 16384, 64), threads, [&](std::size_t, std::size_t from, std::size_t to) {
    const std::size_t step = block_rows(p + 2);
    Block block(step, p + 2);
    double* fitted = block.column(p);
    double* length = block.column(p + 1);
    for (std::size_t at = from; at < to; at += step) {
      const std::size_t here = std::min(step, to - at), padded = (here + 2 * lane_width - 1) / (2 * lane_width) * 2 * lane_width;
      for (std::size_t j = 0; j < p; ++j) {
        const double* column = x + static_cast<std::size_t>(keep[j]) * rows + at;
        std::copy(column, column + here, block.column(j));
      }
      row_products(block.column(0), block.stride(), padded, p, beta, fitted);
      row_lengths(block.column(0), block.stride(), padded, p, inverse.data(), length);
      for (std::size_t i = 0; i < here; ++i) {
        out.fitted[at + i] = fitted[i];
        out.residuals[at + i] = y[at + i] - fitted[i];
        out.leverage[at + i] = w ? length[i] * w[at + i] : length[i];
      }
    }
  });
}

}  // namespace quill
