// resample: seeded permutation of group labels.
//
// The generator is MRG32k3a, the same that R offers under the name "L'Ecuyer-CMRG", so a script in base R can draw
// the very same permutations. Resamples are cut into blocks; block b uses the b-th stream (2^127 steps apart), so
// the result is the same for any number of threads.
// Source: L'Ecuyer, P. (1999). Operations Research 47, 159-164; L'Ecuyer, Simard, Chen and Kelton (2002).
// Operations Research 50, 1073-1075.
#pragma once
#include <array>
#include <cstddef>
#include <cstdint>
#include <vector>

namespace quill {

class Mrg32k3a {
 public:
  explicit Mrg32k3a(const std::array<std::uint64_t, 6>& seed) : s_(seed) {}
  double uniform();      // in (0, 1)
  void next_stream();    // jumps 2^127 steps ahead of the seed it was made with or last jumped to
  const std::array<std::uint64_t, 6>& state() const { return s_; }

 private:
  std::array<std::uint64_t, 6> s_;
};

constexpr std::size_t resamples_a_block = 500;

// sums[0..resamples-1]: sum of `take` of the values x[0..n-1] drawn without replacement (partial Fisher-Yates).
void permuted_sums(const double* x, std::size_t n, std::size_t take, std::size_t resamples,
                   const std::array<std::uint64_t, 6>& seed, int threads, double* sums);

enum class Statistic { mean, sd, quantile, trimmed_mean, correlation };

// values[0..resamples-1]: the statistic of n rows drawn with replacement. `share` is the probability of the quantile (definition 7 of Hyndman
// and Fan) or the share trimmed from each end; y is used by the correlation only.
void bootstrap(const double* x, const double* y, std::size_t n, Statistic statistic, double share, std::size_t resamples,
               const std::array<std::uint64_t, 6>& seed, int threads, double* values);

}  // namespace quill
