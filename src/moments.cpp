#include "moments.h"
#include "pieces.h"
#include <climits>
#include <cmath>
#include <limits>

namespace quill {

Moments::Moments()
    : minimum(std::numeric_limits<double>::infinity()), maximum(-std::numeric_limits<double>::infinity()) {}

void Moments::merge(const Moments& b) {
  missing += b.missing;
  if (b.n == 0) return;
  if (b.minimum < minimum) minimum = b.minimum;
  if (b.maximum > maximum) maximum = b.maximum;
  if (n == 0) {
    n = b.n; mean = b.mean; m2 = b.m2; m3 = b.m3; m4 = b.m4;
    return;
  }
  const double na = n, nb = b.n, total = na + nb, d = b.mean - mean;
  const double d_n = d / total, d2 = d * d_n * na * nb;  // d2 = d^2 na nb / total
  const double m4_new = m4 + b.m4 + d2 * d_n * d_n * (na * na - na * nb + nb * nb) +
                        6 * d_n * d_n * (na * na * b.m2 + nb * nb * m2) + 4 * d_n * (na * b.m3 - nb * m3);
  const double m3_new = m3 + b.m3 + d2 * d_n * (na - nb) + 3 * d_n * (na * b.m2 - nb * m2);
  m2 += b.m2 + d2;
  m3 = m3_new;
  m4 = m4_new;
  mean += d_n * nb;
  n = total;
}

namespace {

constexpr int flush_every = 4096;

// Raw sums about a pivot for one group, turned into a Moments state now and then.
struct Gather {
  double pivot = 0, s1 = 0, s2 = 0, s3 = 0, s4 = 0;
  int count = 0;
  bool started = false;
};

void flush(Gather& g, Moments& m) {
  if (g.count == 0) return;
  const double n = g.count, d = g.s1 / n;
  Moments part;
  part.n = n;
  part.mean = g.pivot + d;
  part.m2 = g.s2 - n * d * d;
  part.m3 = g.s3 - 3 * d * g.s2 + 2 * n * d * d * d;
  part.m4 = g.s4 - 4 * d * g.s3 + 6 * d * d * g.s2 - 3 * n * d * d * d * d;
  if (part.m2 < 0) part.m2 = 0;
  if (part.m4 < 0) part.m4 = 0;
  m.merge(part);
  g.pivot = m.mean;
  g.s1 = g.s2 = g.s3 = g.s4 = 0;
  g.count = 0;
}

inline bool is_missing(double v) { return std::isnan(v); }
inline bool is_missing(int v) { return v == INT_MIN; }

template <typename T>
void gather_rows(const T* x, const int* code, std::size_t from, std::size_t to, int groups, Moments* out) {
  std::vector<Gather> gather(groups);
  for (std::size_t i = from; i < to; ++i) {
    int k = 0;
    if (code) {
      k = code[i] - 1;
      if (k < 0 || k >= groups) continue;
    }
    if (is_missing(x[i])) { out[k].missing += 1; continue; }
    const double v = static_cast<double>(x[i]);
    Gather& g = gather[k];
    if (!g.started) { g.pivot = v; g.started = true; }
    Moments& m = out[k];
    if (v < m.minimum) m.minimum = v;
    if (v > m.maximum) m.maximum = v;
    const double d = v - g.pivot, d2 = d * d;
    g.s1 += d; g.s2 += d2; g.s3 += d2 * d; g.s4 += d2 * d2;
    if (++g.count == flush_every) flush(g, m);
  }
  for (int k = 0; k < groups; ++k) flush(gather[k], out[k]);
}

template <typename T>
std::vector<Moments> by_pieces(const T* x, const int* code, std::size_t rows, int groups, int threads) {
  const Pieces pieces(rows);
  std::vector<std::vector<Moments>> part(pieces.count(), std::vector<Moments>(groups));
  run_pieces(pieces, threads, [&](std::size_t p, std::size_t from, std::size_t to) {
    gather_rows(x, code, from, to, groups, part[p].data());
  });
  std::vector<Moments> out(groups);
  for (auto& states : part)
    for (int k = 0; k < groups; ++k) out[k].merge(states[k]);
  return out;
}

}  // namespace

std::vector<Moments> group_moments(const double* x, const int* code, std::size_t rows, int groups, int threads) {
  return by_pieces(x, code, rows, groups, threads);
}

std::vector<Moments> group_moments(const int* x, const int* code, std::size_t rows, int groups, int threads) {
  return by_pieces(x, code, rows, groups, threads);
}

void weighted_moments(const double* x, const double* w, std::size_t rows, double* out) {
  double sum_w = 0, sum_w2 = 0, mean = 0, ss = 0, n = 0;
  for (std::size_t i = 0; i < rows; ++i) {
    if (std::isnan(x[i]) || std::isnan(w[i]) || w[i] == 0) continue;
    n += 1;
    sum_w += w[i];
    sum_w2 += w[i] * w[i];
    const double d = x[i] - mean;
    mean += d * (w[i] / sum_w);
    ss += w[i] * d * (x[i] - mean);
  }
  out[0] = sum_w; out[1] = sum_w2; out[2] = mean; out[3] = ss; out[4] = n;
}

}  // namespace quill
