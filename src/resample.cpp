#include "resample.h"
#include <algorithm>
#include <cmath>

#include "pieces.h"

namespace quill {

namespace {

constexpr std::int64_t m1 = 4294967087LL, m2 = 4294944443LL;
constexpr double norm = 2.328306549295727688e-10;

using Matrix = std::array<std::array<std::uint64_t, 3>, 3>;

// The transition matrices raised to 2^127, from the 2002 paper.
const Matrix jump1 = {{{2427906178ULL, 3580155704ULL, 949770784ULL},
                       {226153695ULL, 1230515664ULL, 3580155704ULL},
                       {1988835001ULL, 986791581ULL, 1230515664ULL}}};
const Matrix jump2 = {{{1464411153ULL, 277697599ULL, 1610723613ULL},
                       {32183930ULL, 1464411153ULL, 1022607788ULL},
                       {2824425944ULL, 32183930ULL, 2093834863ULL}}};

void apply(const Matrix& a, std::uint64_t* s, std::uint64_t m) {
  std::uint64_t out[3];
  for (int i = 0; i < 3; ++i) {
    std::uint64_t sum = 0;
    for (int j = 0; j < 3; ++j) sum = (sum + a[i][j] * s[j] % m) % m;
    out[i] = sum;
  }
  for (int i = 0; i < 3; ++i) s[i] = out[i];
}

}  // namespace

double Mrg32k3a::uniform() {
  std::int64_t p1 = (1403580LL * static_cast<std::int64_t>(s_[1]) - 810728LL * static_cast<std::int64_t>(s_[0])) % m1;
  if (p1 < 0) p1 += m1;
  s_[0] = s_[1]; s_[1] = s_[2]; s_[2] = static_cast<std::uint64_t>(p1);
  std::int64_t p2 = (527612LL * static_cast<std::int64_t>(s_[5]) - 1370589LL * static_cast<std::int64_t>(s_[3])) % m2;
  if (p2 < 0) p2 += m2;
  s_[3] = s_[4]; s_[4] = s_[5]; s_[5] = static_cast<std::uint64_t>(p2);
  return static_cast<double>(p1 > p2 ? p1 - p2 : p1 - p2 + m1) * norm;
}

void Mrg32k3a::next_stream() {
  apply(jump1, s_.data(), m1);
  apply(jump2, s_.data() + 3, m2);
}

namespace {

double mean_of(const std::vector<double>& v) {
  double sum = 0;
  for (double value : v) sum += value;
  return sum / static_cast<double>(v.size());
}

double quantile_of(std::vector<double>& v, double share) {
  const double at = share * static_cast<double>(v.size() - 1);
  const std::size_t low = static_cast<std::size_t>(at);
  std::nth_element(v.begin(), v.begin() + low, v.end());
  const double below = v[low];
  if (low + 1 >= v.size() || at == static_cast<double>(low)) return below;
  const double above = *std::min_element(v.begin() + low + 1, v.end());
  return below + (at - static_cast<double>(low)) * (above - below);
}

double trimmed_of(std::vector<double>& v, double share) {
  const std::size_t n = v.size(), cut = static_cast<std::size_t>(share * static_cast<double>(n));
  std::sort(v.begin(), v.end());
  double sum = 0;
  for (std::size_t i = cut; i < n - cut; ++i) sum += v[i];
  return sum / static_cast<double>(n - 2 * cut);
}

double spread_of(const std::vector<double>& v) {
  const double m = mean_of(v);
  double sum = 0;
  for (double value : v) sum += (value - m) * (value - m);
  return std::sqrt(sum / static_cast<double>(v.size() - 1));
}

double correlation_of(const std::vector<double>& x, const std::vector<double>& y) {
  const double mx = mean_of(x), my = mean_of(y);
  double xx = 0, yy = 0, xy = 0;
  for (std::size_t i = 0; i < x.size(); ++i) {
    xx += (x[i] - mx) * (x[i] - mx); yy += (y[i] - my) * (y[i] - my); xy += (x[i] - mx) * (y[i] - my);
  }
  return xy / std::sqrt(xx * yy);
}

double statistic_of(std::vector<double>& x, const std::vector<double>& y, Statistic statistic, double share) {
  switch (statistic) {
    case Statistic::mean: return mean_of(x);
    case Statistic::sd: return spread_of(x);
    case Statistic::quantile: return quantile_of(x, share);
    case Statistic::trimmed_mean: return trimmed_of(x, share);
    default: return correlation_of(x, y);
  }
}

// One stream for each block of resamples.
std::vector<Mrg32k3a> streams_of(const std::array<std::uint64_t, 6>& seed, std::size_t blocks) {
  std::vector<Mrg32k3a> streams;
  Mrg32k3a stream(seed);
  for (std::size_t b = 0; b < blocks; ++b) { streams.push_back(stream); stream.next_stream(); }
  return streams;
}

}  // namespace

void bootstrap(const double* x, const double* y, std::size_t n, Statistic statistic, double share, std::size_t resamples,
               const std::array<std::uint64_t, 6>& seed, int threads, double* values) {
  const std::size_t blocks = (resamples + resamples_a_block - 1) / resamples_a_block;
  const std::vector<Mrg32k3a> streams = streams_of(seed, blocks);
  const bool pairs = statistic == Statistic::correlation;
  run_pieces(Pieces(blocks, 1, blocks), threads, [&](std::size_t b, std::size_t, std::size_t) {
    Mrg32k3a draw = streams[b];
    std::vector<double> drawn(n), beside(pairs ? n : 0);
    const std::size_t from = b * resamples_a_block, to = std::min(resamples, from + resamples_a_block);
    for (std::size_t r = from; r < to; ++r) {
      for (std::size_t i = 0; i < n; ++i) {
        const std::size_t j = static_cast<std::size_t>(draw.uniform() * static_cast<double>(n));
        drawn[i] = x[j];
        if (pairs) beside[i] = y[j];
      }
      values[r] = statistic_of(drawn, beside, statistic, share);
    }
  });
}

void permuted_sums(const double* x, std::size_t n, std::size_t take, std::size_t resamples,
                   const std::array<std::uint64_t, 6>& seed, int threads, double* sums) {
  const std::size_t blocks = (resamples + resamples_a_block - 1) / resamples_a_block;
  const std::vector<Mrg32k3a> streams = streams_of(seed, blocks);
  run_pieces(Pieces(blocks, 1, blocks), threads, [&](std::size_t b, std::size_t, std::size_t) {
    Mrg32k3a draw = streams[b];
    std::vector<double> deck(x, x + n);
    const std::size_t from = b * resamples_a_block, to = std::min(resamples, from + resamples_a_block);
    for (std::size_t r = from; r < to; ++r) {
      double sum = 0;
      for (std::size_t i = 0; i < take; ++i) {
        const std::size_t j = i + static_cast<std::size_t>(draw.uniform() * static_cast<double>(n - i));
        std::swap(deck[i], deck[j]);
        sum += deck[i];
      }
      sums[r] = sum;
    }
  });
}

}  // namespace quill
