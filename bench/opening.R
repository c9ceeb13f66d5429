# Opening a large CSV with kinds and findings, against reading it alone; and a table of 3,000 columns.   Rscript bench/opening.R
library(upbeatquill)
set.seed(1)
n <- 1e6
pick <- function(values) sample(values, n, TRUE)
data <- data.table::data.table(
  id = seq_len(n), site = pick(sprintf("site%02d", 1:40)), arm = pick(c("control", "syrup")), age = pick(18:90),
  score = round(rnorm(n, 50, 10), 2), weight_kg = rnorm(n, 70, 12), items = rpois(n, 3), yes = pick(0:1),
  day = as.Date("2020-01-01") + pick(0:1500), rating = pick(1:5), remark = pick(c("good", "bad", NA)), code = sprintf("K%07d", sample(n)))
file <- tempfile(fileext = ".csv")
data.table::fwrite(data, file)
rm(data); invisible(gc())
timed <- function(code) system.time(code)[["elapsed"]]
peak <- function(code) { gc(reset = TRUE); force(code); sum(gc()[, 6]) }
# each in a process of its own, as an analyst opens a file: a heap that has grown before would favour one of them
fresh <- function(code) as.numeric(system2(file.path(R.home("bin"), "Rscript"), c("-e", shQuote(sprintf(
  "suppressPackageStartupMessages({library(data.table); library(upbeatquill)}); cat(system.time(%s)[[3]])",
  sprintf(code, dQuote(file, FALSE))))), stdout = TRUE))
times <- replicate(3, c(alone = fresh("fread(%s, showProgress = FALSE)"), ours = fresh("as.list(open_study(%s))")))
fastest <- apply(times, 1, min)
cat(sprintf("1,000,000 x 12 CSV: fread %.2f s, opened with kinds and findings %.2f s, ratio %.1f (target 2)\n", fastest["alone"], fastest["ours"],
            fastest["ours"] / fastest["alone"]))
memory <- c(peak(data.table::fread(file, showProgress = FALSE)), peak(as.list(open_study(file))))
cat(sprintf("peak memory: fread %.0f MB, opened %.0f MB, ratio %.1f (target 1.5)\n", memory[1], memory[2], memory[2] / memory[1]))
wide <- as.data.frame(matrix(round(rnorm(3000 * 200), 3), 200))
names(wide) <- sprintf("measure_%04d", 1:3000)
utils::write.csv(wide, file, row.names = FALSE)
cat(sprintf("200 x 3,000 CSV: opened in %.2f s, looked at in %.2f s\n", timed(study <- open_study(file)), timed(look(study))))
cat(sprintf("first question there: %.2f s\n", timed(ask(study, "correlation between measure_0007 and measure_2999"))))
