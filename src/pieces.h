// pieces: cuts rows into fixed pieces and runs them on one or more threads.
//
// The cut depends on the number of rows alone, never on the number of threads, so that results merged in the
// order of the pieces are identical for any number of threads.
#pragma once
#include <algorithm>
#include <atomic>
#include <cstddef>
#include <thread>
#include <vector>

namespace quill {

class Pieces {
 public:
  explicit Pieces(std::size_t rows, std::size_t at_least = 65536, std::size_t at_most = 64)
      : rows_(rows), count_(std::max<std::size_t>(1, std::min(at_most, rows / at_least))) {}
  std::size_t count() const { return count_; }
  std::size_t begin(std::size_t p) const { return rows_ / count_ * p + std::min(p, rows_ % count_); }
  std::size_t end(std::size_t p) const { return begin(p + 1); }

 private:
  std::size_t rows_, count_;
};

// work(p, from, to) for each piece p; pieces are handed out in order to `threads` workers.
template <typename Work>
void run_pieces(const Pieces& pieces, int threads, Work work) {
  const std::size_t count = pieces.count();
  const int workers = static_cast<int>(std::min<std::size_t>(count, std::max(1, threads)));
  if (workers == 1) {
    for (std::size_t p = 0; p < count; ++p) work(p, pieces.begin(p), pieces.end(p));
    return;
  }
  std::atomic<std::size_t> next(0);
  auto worker = [&]() {
    for (std::size_t p = next++; p < count; p = next++) work(p, pieces.begin(p), pieces.end(p));
  };
  std::vector<std::thread> pool;
  for (int t = 1; t < workers; ++t) pool.emplace_back(worker);
  worker();
  for (auto& thread : pool) thread.join();
}

}  // namespace quill
