#include <Rcpp.h>
#include "text.h"

// state: continuation bytes still due, lowest and highest value of the next one, quotation marks in a row, the byte before
// them, was one doubled; returns it moved on, or -1 when invalid.
// [[Rcpp::export(rng = false)]]
Rcpp::IntegerVector kernel_utf8(const Rcpp::RawVector& bytes, const Rcpp::IntegerVector& state) {
  quill::Utf8State at;
  at.left = state[0];
  at.low = static_cast<unsigned char>(state[1]);
  at.high = static_cast<unsigned char>(state[2]);
  at.quotes = state[3];
  at.before = static_cast<unsigned char>(state[4]);
  at.doubled = state[5] != 0;
  if (!quill::utf8_valid(bytes.begin(), bytes.size(), at)) return Rcpp::IntegerVector::create(-1, 0, 0, 0, 0, 0);
  return Rcpp::IntegerVector::create(at.left, at.low, at.high, at.quotes, at.before, at.doubled);
}
