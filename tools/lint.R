# Style of every R file by .lintr; ends with status 1 when there is something to mend.
elsewhere <- list("R/RcppExports.R", ".rlibrary", "inst", "upbeatquill.Rcheck", "demo-output", "data-raw", "tests")
found <- lintr::lint_dir(".", pattern = "[.]R$", exclusions = elsewhere)
print(found)
cat(length(found), "to mend\n")
quit(status = if (length(found)) 1 else 0)
