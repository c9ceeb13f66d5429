# Installs the packages that DESCRIPTION names and this machine lacks: prebuilt ones where Debian has them and we may
# install them, else from CRAN into the project's own library.   Rscript tools/setup.R run|developer
args <- commandArgs(TRUE)
library_of_project <- file.path(getwd(), ".rlibrary")
dir.create(library_of_project, showWarnings = FALSE)
.libPaths(c(library_of_project, .libPaths()))

named_in <- function(fields) {
  text <- read.dcf("DESCRIPTION", fields = fields)
  names <- trimws(sub("[(].*$", "", unlist(strsplit(text[!is.na(text)], ","))))
  setdiff(names[nzchar(names)], c("R", rownames(installed.packages(priority = "base"))))
}

lacking <- function(packages) packages[!nzchar(vapply(packages, function(p) system.file(package = p), ""))]

run <- function(...) system2(..., stdout = ".stamps/setup.log", stderr = ".stamps/setup.log") == 0

can_install <- function() Sys.info()[["effective_user"]] == "root" && nzchar(Sys.which("apt-get"))

# Programs with which the tests read documents again: a test goes without one that cannot be had.
install_readers <- function() {
  programs <- c(pdftotext = "poppler-utils")
  missing <- programs[!nzchar(Sys.which(names(programs)))]
  if (!length(missing) || !can_install()) return(invisible())
  Sys.setenv(DEBIAN_FRONTEND = "noninteractive")
  message("Installing ", paste(missing, collapse = ", "), " ...")
  run("apt-get", c("update", "-qq"))
  run("apt-get", c("install", "-y", "-qq", "--no-install-recommends", missing))
}

install_prebuilt <- function(packages) {
  if (!can_install()) return(invisible())
  Sys.setenv(DEBIAN_FRONTEND = "noninteractive")
  message("Looking for prebuilt packages ...")
  run("apt-get", c("update", "-qq"))
  known <- suppressWarnings(system2("apt-cache", c("pkgnames", "r-cran-"), stdout = TRUE, stderr = FALSE))
  wanted <- intersect(paste0("r-cran-", tolower(packages)), known)
  if (length(wanted)) {
    message("Installing ", paste(wanted, collapse = ", "), " ...")
    run("apt-get", c("install", "-y", "-qq", "--no-install-recommends", wanted))
  }
}

install_from_cran <- function(packages) {
  repos <- getOption("repos")
  if (identical(unname(repos["CRAN"]), "@CRAN@")) chooseCRANmirror(graphics = FALSE, ind = 1)
  message("Installing ", paste(packages, collapse = ", "), " from CRAN ...")
  Sys.setenv(MAKEFLAGS = "-j2")
  install.packages(packages, lib = library_of_project, Ncpus = 2, quiet = TRUE)
}

dir.create(".stamps", showWarnings = FALSE)
if ("developer" %in% args) {
  needed <- c("roxygen2", "lintr", "ggplot2", "ragg")
} else {
  needed <- named_in(c("Imports", "LinkingTo", "Suggests"))
}
if (!"developer" %in% args) install_readers()
missing <- lacking(needed)
if (length(missing)) {
  install_prebuilt(missing)
  missing <- lacking(missing)
  if (length(missing)) install_from_cran(missing)
}
required <- lacking(if ("developer" %in% args) needed else named_in(c("Imports", "LinkingTo")))
if (length(required)) {
  message("These packages could not be installed: ", paste(required, collapse = ", "), ". See .stamps/setup.log.")
  quit(status = 1)
}
