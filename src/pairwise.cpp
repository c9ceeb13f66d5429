#include "pairwise.h"
#include "lanes.h"
#include "pieces.h"
#include <algorithm>
#include <cmath>
#include <cstring>

namespace quill {

namespace {

constexpr std::size_t step = 512, words = step / 64;

// sums[0..width-1]: of the listed rows of a block whose rows lie one after another; then as many sums of their squares.
// width: a whole number of four lanes.
QUILL_WIDE void listed_sums(const double* block, std::size_t width, const std::uint16_t* list, std::size_t n,
                            double* sums) {
  for (std::size_t at = 0; at < width; at += 4 * lane_width) {
    Lane s0 = {}, s1 = {}, s2 = {}, s3 = {}, q0 = {}, q1 = {}, q2 = {}, q3 = {};
    for (std::size_t i = 0; i < n; ++i) {
      const Lane* row = reinterpret_cast<const Lane*>(block + list[i] * width + at);
      s0 += row[0]; s1 += row[1]; s2 += row[2]; s3 += row[3];
      q0 += row[0] * row[0]; q1 += row[1] * row[1]; q2 += row[2] * row[2]; q3 += row[3] * row[3];
    }
    Lane *out = reinterpret_cast<Lane*>(sums + at), *squares = reinterpret_cast<Lane*>(sums + width + at);
    out[0] = s0; out[1] = s1; out[2] = s2; out[3] = s3;
    squares[0] = q0; squares[1] = q1; squares[2] = q2; squares[3] = q3;
  }
}

// products[k] and products[4 + k]: column a and the one after it with four columns b.
QUILL_WIDE void products_of(const double* a, const double* b, std::size_t stride, double* products) {
  const Lane *x = reinterpret_cast<const Lane*>(a), *y = reinterpret_cast<const Lane*>(a + stride);
  const Lane *b0 = reinterpret_cast<const Lane*>(b), *b1 = reinterpret_cast<const Lane*>(b + stride),
             *b2 = reinterpret_cast<const Lane*>(b + 2 * stride), *b3 = reinterpret_cast<const Lane*>(b + 3 * stride);
  Lane s0 = {}, s1 = {}, s2 = {}, s3 = {}, t0 = {}, t1 = {}, t2 = {}, t3 = {};
  for (std::size_t i = 0; i < step / lane_width; ++i) {
    s0 += x[i] * b0[i]; s1 += x[i] * b1[i]; s2 += x[i] * b2[i]; s3 += x[i] * b3[i];
    t0 += y[i] * b0[i]; t1 += y[i] * b1[i]; t2 += y[i] * b2[i]; t3 += y[i] * b3[i];
  }
  products[0] = total(s0); products[1] = total(s1); products[2] = total(s2); products[3] = total(s3);
  products[4] = total(t0); products[5] = total(t1); products[6] = total(t2); products[7] = total(t3);
}

// Values about their shift, 0 where missing; returns how many are there. The same column's next block is called for
// while this one is worked on: the reader of memory loses its place between so many columns.
QUILL_WIDE std::size_t split(const double* from, double shift, double* x, std::uint64_t* bits) {
  const Lane middle = {shift, shift, shift, shift};
  std::size_t all = 0;
  const char* ahead = reinterpret_cast<const char*>(from);
  for (std::size_t w = 0; w < words; ++w) {
    for (std::size_t line = 0; line < 8; ++line) {
      __builtin_prefetch(ahead + (step + w * 64) * sizeof(double) + line * 64, 0, 2);
    }
    LaneMask bit = {1, 2, 4, 8}, found = {};
    for (std::size_t i = 0; i < 64; i += lane_width, bit <<= lane_width) {
      Lane v;
      std::memcpy(&v, from + w * 64 + i, sizeof v);
      const LaneMask there = v == v;
      *reinterpret_cast<Lane*>(x + w * 64 + i) = (Lane)((LaneMask)(v - middle) & there);
      found |= there & bit;
    }
    bits[w] = static_cast<std::uint64_t>((found[0] | found[1]) | (found[2] | found[3]));
    all += __builtin_popcountll(bits[w]);
  }
  return all;
}

// Rows of a block one after another; wide columns, a whole number of lanes. Four rows of four columns are turned at a
// time: rows is rounded up to a whole number of lanes, for which there is room.
QUILL_WIDE void put_by_row(const double* x, std::size_t stride, std::size_t rows, std::size_t wide, double* to,
                           std::size_t width) {
  for (std::size_t i = 0; i < rows; i += lane_width) {
    for (std::size_t j = 0; j < wide; j += lane_width) {
      const double* from = x + j * stride + i;
      const Lane a = *reinterpret_cast<const Lane*>(from), b = *reinterpret_cast<const Lane*>(from + stride),
                 c = *reinterpret_cast<const Lane*>(from + 2 * stride), d = *reinterpret_cast<const Lane*>(from + 3 * stride);
      const Lane ab = {a[0], b[0], a[2], b[2]}, odd_ab = {a[1], b[1], a[3], b[3]}, cd = {c[0], d[0], c[2], d[2]},
                 odd_cd = {c[1], d[1], c[3], d[3]};
      const Lane row[lane_width] = {{ab[0], ab[1], cd[0], cd[1]}, {odd_ab[0], odd_ab[1], odd_cd[0], odd_cd[1]},
                                    {ab[2], ab[3], cd[2], cd[3]}, {odd_ab[2], odd_ab[3], odd_cd[2], odd_cd[3]}};
      for (std::size_t k = 0; k < lane_width; ++k) *reinterpret_cast<Lane*>(to + (i + k) * width + j) = row[k];
    }
  }
}

// part becomes all less part, over values and then as many squares; false where of some sum of squares hardly a
// hundredth is left, so that its rounding would stay.
QUILL_WIDE bool left_over(const double* all, double* part, std::size_t width) {
  const Lane little = {0.01, 0.01, 0.01, 0.01};
  LaneMask lost = {};
  for (std::size_t i = 0; i < 2 * width; i += lane_width) {
    const Lane a = *reinterpret_cast<const Lane*>(all + i);
    Lane* left = reinterpret_cast<Lane*>(part + i);
    *left = a - *left;
    if (i >= width) lost |= *left < little * a;
  }
  return !(lost[0] | lost[1] | lost[2] | lost[3]);
}

QUILL_WIDE void add_lanes(double* to, const double* from, std::size_t n) {
  for (std::size_t i = 0; i < n; i += lane_width) {
    *reinterpret_cast<Lane*>(to + i) += *reinterpret_cast<const Lane*>(from + i);
  }
}

// The rows of a word list whose bits are set (or, turned, are not) among the first n.
std::size_t list_rows(const std::uint64_t* bits, bool turned, std::size_t n, std::uint16_t* list) {
  std::size_t put = 0;
  for (std::size_t w = 0; w * 64 < n; ++w) {
    std::uint64_t word = turned ? ~bits[w] : bits[w];
    if (n - w * 64 < 64) word &= (std::uint64_t{1} << (n - w * 64)) - 1;
    for (; word; word &= word - 1) list[put++] = static_cast<std::uint16_t>(w * 64 + __builtin_ctzll(word));
  }
  return put;
}

// rows[i + j p]: one more for every bit that columns i and j share.
QUILL_WIDE void count_both(const std::uint64_t* bits, std::size_t p, double* rows) {
  for (std::size_t j = 0; j < p; ++j) {
    for (std::size_t i = 0; i <= j; ++i) {
      int n = 0;
      for (std::size_t w = 0; w < words; ++w) n += __builtin_popcountll(bits[i * words + w] & bits[j * words + w]);
      rows[i + j * p] += n;
    }
  }
}

// A block of rows: values about their shifts, by column and by row, and which are there.
class Gathered {
 public:
  explicit Gathered(std::size_t p)
      : p_(p), wide_((p + 3) / 4 * 4), width_((p + 15) / 16 * 16), x_(step, wide_), last_(step, 1),
        by_row_(width_ * step, 1), all_(2 * width_, 1), part_(2 * width_, 1), beside_(2 * width_, p), bits_(p * words), there_(p), list_(step) {}

  void take(const std::vector<const double*>& columns, const double* shift, std::size_t at, std::size_t here) {
    here_ = here;
    for (std::size_t j = 0; j < p_; ++j) {
      const double* from = columns[j] + at;
      if (here < step) {
        std::copy(from, from + here, last_.column(0));
        std::fill(last_.column(0) + here, last_.column(0) + step, std::nan(""));
        from = last_.column(0);
      }
      there_[j] = split(from, shift[j], x_.column(j), &bits_[j * words]);
    }
    turn();
  }

  void add_to(PairSums& out) {
    count_both(bits_.data(), p_, out.rows.data());
    for (std::size_t j = 0; j < p_; ++j) add_lanes(beside_.column(j), sums_beside(j), 2 * width_);
    for (std::size_t j = 0; j < p_; j += 2) {
      for (std::size_t i = 0; i <= j + 1; i += 4) {
        double products[8];
        products_of(x_.column(j), x_.column(i), x_.stride(), products);
        for (std::size_t k = 0; k < 8; ++k) {
          const std::size_t row = i + k % 4, column = j + k / 4;
          if (row <= column && column < p_) out.product[row + column * p_] += products[k];
        }
      }
    }
  }

  // The sums beside each column, of all blocks that were taken.
  void put_sums(PairSums& out) {
    for (std::size_t j = 0; j < p_; ++j) {
      const double* sums = beside_.column(j);
      std::copy(sums, sums + p_, &out.sum[j * p_]);
      std::copy(sums + width_, sums + width_ + p_, &out.square[j * p_]);
    }
  }

 private:
  void turn() {
    double* to = by_row_.column(0);
    put_by_row(x_.column(0), x_.stride(), here_, wide_, to, width_);
    for (std::size_t i = 0; i < here_; ++i) list_[i] = static_cast<std::uint16_t>(i);
    listed_sums(to, width_, list_.data(), here_, all_.column(0));
  }

  // Of every column and its square over the rows where column j is there: all rows less the few without it, or the few with it.
  // Where what is taken off is nearly all there was, its rounding would stay, so the rows are summed themselves.
  const double* sums_beside(std::size_t j) {
    if (there_[j] == here_) return all_.column(0);
    const std::uint64_t* bits = &bits_[j * words];
    double *part = part_.column(0), *all = all_.column(0);
    if (2 * there_[j] > here_) {
      listed_sums(by_row_.column(0), width_, list_.data(), list_rows(bits, true, here_, list_.data()), part);
      if (left_over(all, part, width_)) return part;
    }
    listed_sums(by_row_.column(0), width_, list_.data(), list_rows(bits, false, here_, list_.data()), part);
    return part;
  }

  std::size_t p_, wide_, width_, here_ = 0;
  Block x_, last_, by_row_, all_, part_, beside_;
  std::vector<std::uint64_t> bits_;
  std::vector<std::size_t> there_;
  std::vector<std::uint16_t> list_;
};

void merge(std::vector<double>& into, const std::vector<double>& from) {
  for (std::size_t k = 0; k < into.size(); ++k) into[k] += from[k];
}

}  // namespace

PairSums pair_sums(const std::vector<const double*>& columns, const double* shift, std::size_t rows, int threads) {
  const std::size_t p = columns.size();
  const std::vector<double> none(p * p, 0.0);
  const Pieces pieces(rows, 16384, 64);
  std::vector<PairSums> part(pieces.count(), {none, none, none, none});
  run_pieces(pieces, threads, [&](std::size_t k, std::size_t from, std::size_t to) {
    Gathered block(p);
    for (std::size_t at = from; at < to; at += step) {
      block.take(columns, shift, at, std::min(step, to - at));
      block.add_to(part[k]);
    }
    block.put_sums(part[k]);
  });
  PairSums out = part[0];
  for (std::size_t k = 1; k < part.size(); ++k) {
    merge(out.rows, part[k].rows); merge(out.sum, part[k].sum);
    merge(out.square, part[k].square); merge(out.product, part[k].product);
  }
  for (std::size_t j = 0; j < p; ++j) {
    for (std::size_t i = 0; i < j; ++i) {
      out.product[j + i * p] = out.product[i + j * p];
      out.rows[j + i * p] = out.rows[i + j * p];
    }
  }
  return out;
}

}  // namespace quill
