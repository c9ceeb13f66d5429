// patterns: the words without which a regular expression cannot match.
#pragma once
#include <string>
#include <vector>

namespace quill {

// Lower-case texts of which one stands in whatever `form` matches without regard to case; empty where nothing is needed for sure.
//
// The expression is read as alternatives of sequences of pieces. A sequence needs each of its pieces, so its longest plain run of
// letters (two or more) speaks for it; of alternatives each must have one. What is not understood needs nothing.
std::vector<std::string> words_needed(const std::string& form);

}  // namespace quill
