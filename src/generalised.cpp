#include "generalised.h"
#include "lanes.h"
#include "pieces.h"
#include <algorithm>
#include <cmath>

namespace quill {

namespace {

constexpr double furthest = 34, least_weight = 1e-12;

QUILL_WIDE void add_column(const double* x, double beta, std::size_t n, double* eta) {
  for (std::size_t i = 0; i < n; ++i) eta[i] += beta * x[i];
}

double binomial_row(double y, double& eta, double& mean, double& weight) {
  eta = std::max(std::min(eta, furthest), -furthest);
  const double away = std::exp(-std::fabs(eta)), rare = away / (1 + away);  // the chance of the rarer outcome
  mean = eta < 0 ? rare : 1 / (1 + away);
  weight = std::max(rare * (1 - rare), least_weight);
  // minus the log of the chance of what happened: log(1 + e^-|eta|), and |eta| more where the rarer happened
  const bool rarer = (y == 1) == (eta < 0);
  return std::log1p(away) + (rarer ? std::fabs(eta) : 0);
}

double poisson_row(double y, double eta, double& mean, double& weight) {
  mean = std::exp(eta);
  weight = std::max(mean, least_weight);
  return (y > 0 ? y * (std::log(y) - eta) : 0) - (y - mean);
}

}  // namespace

double step_rows(Family family, const double* x, const double* y, const double* offset, std::size_t rows,
                 const int* keep, std::size_t kept, const double* beta, StepRows out, int threads) {
  const Pieces pieces(rows, 16384, 64);
  std::vector<double> part(pieces.count(), 0.0);
  run_pieces(pieces, threads, [&](std::size_t piece, std::size_t from, std::size_t to) {
    constexpr std::size_t step = 1024;
    std::vector<double> eta(step);
    for (std::size_t at = from; at < to; at += step) {
      const std::size_t here = std::min(step, to - at);
      std::fill(eta.begin(), eta.end(), 0.0);
      for (std::size_t j = 0; j < kept; ++j) {
        add_column(x + static_cast<std::size_t>(keep[j]) * rows + at, beta[j], here, eta.data());
      }
      double sum = 0;
      for (std::size_t i = 0; i < here; ++i) {
        const std::size_t row = at + i;
        const double shift = offset ? offset[row] : 0;
        double value = eta[i] + shift, mean, weight;
        sum += family == Family::binomial ? binomial_row(y[row], value, mean, weight)
                                          : poisson_row(y[row], value, mean, weight);
        out.mean[row] = mean;
        out.weight[row] = weight;
        out.response[row] = value - shift + (y[row] - mean) / weight;
      }
      part[piece] += 2 * sum;
    }
  });
  double deviance = 0;
  for (const double d : part) deviance += d;
  return deviance;
}

}  // namespace quill
