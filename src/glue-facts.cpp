#include <Rcpp.h>
#include "facts.h"

// [[Rcpp::export(rng = false)]]
Rcpp::List kernel_number_facts(SEXP x) {
  const quill::NumberFacts f = TYPEOF(x) == REALSXP ? quill::number_facts(REAL(x), Rf_xlength(x))
                                                    : quill::number_facts(INTEGER(x), Rf_xlength(x));
  return Rcpp::List::create(Rcpp::Named("count") = static_cast<double>(f.count),
                            Rcpp::Named("distinct") = static_cast<int>(f.distinct),
                            Rcpp::Named("below_zero") = static_cast<double>(f.below_zero),
                            Rcpp::Named("min") = f.min, Rcpp::Named("max") = f.max, Rcpp::Named("whole") = f.whole,
                            Rcpp::Named("stepping") = f.stepping);
}
