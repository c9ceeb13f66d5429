#include "text.h"
#include <cstdint>
#include <cstring>

namespace quill {

static bool ends_field(unsigned char b) { return b == ',' || b == ';' || b == '\t' || b == '|' || b == '\n' || b == '\r' || b == ' '; }

bool utf8_valid(const unsigned char* bytes, std::size_t n, Utf8State& state) {
  std::size_t i = 0;
  while (i < n) {
    if (state.left == 0) {
      // eight plain bytes at a time
      while (i + 8 <= n) {
        std::uint64_t eight;
        std::memcpy(&eight, bytes + i, 8);
        if (eight & 0x8080808080808080ULL) break;
        // a quotation mark among the eight makes one byte of the difference zero
        const std::uint64_t off = eight ^ 0x2222222222222222ULL;
        if ((off - 0x0101010101010101ULL) & ~off & 0x8080808080808080ULL) break;
        state.quotes = 0;
        i += 8;
        state.before = bytes[i - 1];
      }
      if (i == n) break;
      const unsigned char b = bytes[i++];
      if (b == '"') {
        ++state.quotes;
        if (state.quotes > 2 || (state.quotes == 2 && !ends_field(state.before))) state.doubled = true;
        continue;
      }
      state.quotes = 0;
      state.before = b;
      if (b < 0x80) continue;
      state.low = 0x80;
      state.high = 0xbf;
      if (b >= 0xc2 && b <= 0xdf) { state.left = 1; }
      else if (b >= 0xe0 && b <= 0xef) { state.left = 2; if (b == 0xe0) state.low = 0xa0; if (b == 0xed) state.high = 0x9f; }
      else if (b >= 0xf0 && b <= 0xf4) { state.left = 3; if (b == 0xf0) state.low = 0x90; if (b == 0xf4) state.high = 0x8f; }
      else return false;
      continue;
    }
    const unsigned char b = bytes[i++];
    if (b < state.low || b > state.high) return false;
    state.low = 0x80;
    state.high = 0xbf;
    --state.left;
  }
  return true;
}

}  // namespace quill
