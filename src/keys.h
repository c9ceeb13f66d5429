// keys: a set of 64-bit keys.
#pragma once
#include <cstddef>
#include <cstdint>
#include <vector>

namespace quill {

// A set of 64-bit keys that only counts. Key 0 marks an empty slot and is kept apart.
class KeySet {
 public:
  KeySet() : slots_(1024, 0) {}
  // Room for the keys expected, so that a large set need not grow step by step.
  void expect(std::size_t keys) {
    std::size_t size = slots_.size();
    while (size < 2 * keys) size *= 2;
    if (size > slots_.size()) resize(size);
  }
  bool has(std::uint64_t key) const {
    if (key == 0) return zero_;
    std::size_t at = hash(key) & (slots_.size() - 1);
    while (slots_[at] != 0) {
      if (slots_[at] == key) return true;
      at = (at + 1) & (slots_.size() - 1);
    }
    return false;
  }
  // True when the key was not there before.
  bool add(std::uint64_t key) {
    if (key == 0) { const bool first = !zero_; zero_ = true; return first; }
    std::size_t at = hash(key) & (slots_.size() - 1);
    while (slots_[at] != 0) {
      if (slots_[at] == key) return false;
      at = (at + 1) & (slots_.size() - 1);
    }
    slots_[at] = key;
    if (++used_ * 2 > slots_.size()) resize(slots_.size() * 4);
    return true;
  }
  std::size_t size() const { return used_ + (zero_ ? 1 : 0); }

 private:
  static std::size_t hash(std::uint64_t k) {
    k ^= k >> 32;
    k *= 0x9e3779b97f4a7c15ULL;
    return static_cast<std::size_t>(k ^ (k >> 29));
  }
  void resize(std::size_t size) {
    std::vector<std::uint64_t> old(size, 0);
    old.swap(slots_);
    for (const std::uint64_t key : old) if (key != 0) {
      std::size_t at = hash(key) & (slots_.size() - 1);
      while (slots_[at] != 0) at = (at + 1) & (slots_.size() - 1);
      slots_[at] = key;
    }
  }
  std::vector<std::uint64_t> slots_;
  std::size_t used_ = 0;
  bool zero_ = false;
};

}  // namespace quill
