#include "patterns.h"
#include <algorithm>
#include <cctype>
#include <cstddef>
#include <limits>

namespace quill {

namespace {

using Words = std::vector<std::string>;

// One piece of a sequence: a letter, an escape, a class or a group.
struct Piece {
  std::string letter;  // the plain letter, if it is one
  Words needed;        // what a group needs
  bool wide = true;    // false where it takes up no text
};

class Reader {
 public:
  explicit Reader(const std::string& form) : form_(form) {}

  Words read() {
    Words out = choice();
    return failed_ || at_ < form_.size() ? Words() : out;
  }

 private:
  const std::string& form_;
  std::size_t at_ = 0;
  bool failed_ = false;

  char here(std::size_t ahead = 0) const { return at_ + ahead < form_.size() ? form_[at_ + ahead] : '\0'; }
  bool over() const { return failed_ || at_ >= form_.size(); }
  bool starts(const char* text) const { return form_.compare(at_, std::char_traits<char>::length(text), text) == 0; }

  // Of two sets of words the one whose shortest word is longer tells more.
  static std::size_t weight(const Words& words) {
    if (words.empty()) return 0;
    std::size_t least = std::numeric_limits<std::size_t>::max();
    for (const std::string& word : words) least = std::min(least, word.size());
    return least;
  }

  // Alternatives up to the closing bracket or the end.
  Words choice() {
    Words out;
    bool all = true;
    for (;;) {
      const Words one = sequence();
      all = all && !one.empty();
      out.insert(out.end(), one.begin(), one.end());
      if (over() || here() != '|') break;
      ++at_;
    }
    return all ? out : Words();
  }

  // Pieces up to a bar, a closing bracket or the end.
  Words sequence() {
    Words best;
    std::string run;
    const auto keep = [&best](const Words& words) { if (weight(words) > weight(best)) best = words; };
    const auto close = [&]() {
      if (run.size() >= 2) keep(Words{run});
      run.clear();
    };
    while (!over() && here() != '|' && here() != ')') {
      const Piece piece = next();
      const std::size_t before = at_;
      const bool must = at_least_once();
      // a letter that must come belongs to the run, and ends it where it may come again
      if (must) run += piece.letter;
      if (piece.wide && (piece.letter.empty() || at_ != before)) close();
      if (must) keep(piece.needed);
    }
    close();
    return best;
  }

  Piece next() {
    const unsigned char c = static_cast<unsigned char>(here());
    Piece out;
    if (c == '\\') return escape();
    if (c == '[') { skip_class(); return out; }
    if (c == '(') return group();
    ++at_;
    if (c == '^' || c == '$') out.wide = false;
    // beyond plain letters upper and lower case need not be one to one
    else if (c != '.' && c < 128) out.letter = std::string(1, static_cast<char>(std::tolower(c)));
    return out;
  }

  Piece escape() {
    Piece out;
    const unsigned char c = static_cast<unsigned char>(here(1));
    const bool named = (c == 'p' || c == 'P') && here(2) == '{';
    at_ += 2;
    if (at_ > form_.size()) failed_ = true;
    if (named) {
      at_ = std::min(form_.find('}', at_), form_.size() - 1) + 1;
    } else if (c == 'b' || c == 'B') {
      out.wide = false;
    } else if (c < 128 && !std::isalnum(c)) {
      out.letter = std::string(1, static_cast<char>(c));
    } else if (std::string("dDwWsShHvVR").find(static_cast<char>(c)) == std::string::npos) {
      failed_ = true;  // references to groups, quoted stretches, codes of letters
    }
    return out;
  }

  // A bracket that stands first in a class, or behind a backslash, does not close it; nor does one of a class such as [:alpha:].
  void skip_class() {
    ++at_;
    if (here() == '^') ++at_;
    if (here() == ']') ++at_;
    while (!over() && here() != ']') {
      if (here() == '[' && here(1) == ':') {
        const std::size_t end = form_.find(":]", at_ + 2);
        at_ = end == std::string::npos ? form_.size() : end + 2;
      } else at_ += here() == '\\' ? 2 : 1;
    }
    if (at_ >= form_.size()) failed_ = true;
    ++at_;
  }

  // What a group captures, only groups or looks at must stand there; what it denies need not.
  Piece group() {
    Piece out;
    ++at_;
    if (starts("?i)")) { at_ += 3; out.wide = false; return out; }
    const bool looks = starts("?=") || starts("?!") || starts("?<=") || starts("?<!");
    const bool denied = starts("?!") || starts("?<!");
    if (starts("?<=") || starts("?<!")) at_ += 3;
    else if (looks || starts("?:") || starts("?>")) at_ += 2;
    // settings within a pattern, named groups and the like are not followed
    else if (here() == '?' || here() == '*') { failed_ = true; return out; }
    const Words inner = choice();
    if (here() != ')') failed_ = true;
    ++at_;
    if (!denied) out.needed = inner;
    out.wide = !looks;
    return out;
  }

  // Must the piece before come? Reads how often it may.
  bool at_least_once() {
    bool must = true, counted = false;
    if (here() == '?' || here() == '*') { must = false; counted = true; ++at_; }
    else if (here() == '+') { counted = true; ++at_; }
    else if (here() == '{' && std::isdigit(static_cast<unsigned char>(here(1)))) {
      std::size_t to = at_ + 1;
      while (to < form_.size() && (std::isdigit(static_cast<unsigned char>(form_[to])) || form_[to] == ',')) ++to;
      if (to < form_.size() && form_[to] == '}') {
        // (a count that starts with a nought is none, or not understood)
        must = form_[at_ + 1] != '0';
        counted = true;
        at_ = to + 1;
      }
    }
    // lazy and possessive forms
    if (counted && (here() == '?' || here() == '+')) ++at_;
    return must;
  }
};

}  // namespace

std::vector<std::string> words_needed(const std::string& form) { return Reader(form).read(); }

}  // namespace quill
