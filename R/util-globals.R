# Names that ggplot2 finds in its own data mask.
utils::globalVariables(".data")
