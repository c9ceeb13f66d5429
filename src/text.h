// text: checks on bytes.
#pragma once
#include <cstddef>

namespace quill {

// Where a check of UTF-8 stands between two pieces of a file.
struct Utf8State { int left = 0; unsigned char low = 0x80, high = 0xbf; int quotes = 0; unsigned char before = '\n'; bool doubled = false; };

// True while bytes[0..n-1], following on from `state`, are valid UTF-8; the state is moved on. At the end of a file
// state.left must be 0, and doubled tells whether two quotation marks stood
// next to each other other than as an empty field (quotes: marks in a row up to here, before: the byte in front of them). Source: The Unicode Standard 15, table 3-7 (well-formed byte sequences).
bool utf8_valid(const unsigned char* bytes, std::size_t n, Utf8State& state);

}  // namespace quill
