#include "resample.h"
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

void permuted_sums(const double* x, std::size_t n, std::size_t take, std::size_t resamples,
                   const std::array<std::uint64_t, 6>& seed, int threads, double* sums) {
  const std::size_t blocks = (resamples + resamples_a_block - 1) / resamples_a_block;
  std::vector<Mrg32k3a> streams;
  Mrg32k3a stream(seed);
  for (std::size_t b = 0; b < blocks; ++b) { streams.push_back(stream); stream.next_stream(); }
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
