library(testthat)
library(upbeatquill)
test_check("upbeatquill")
