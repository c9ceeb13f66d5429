#include <Rcpp.h>
#include "fisher.h"

// [[Rcpp::export(rng = false)]]
double kernel_fisher(const Rcpp::IntegerMatrix& counts, double most) {
  return quill::fisher_p(std::vector<int>(counts.begin(), counts.end()), counts.nrow(), counts.ncol(), static_cast<std::size_t>(most));
}
