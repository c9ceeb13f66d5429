# Time of a cold `quill ask` to its text, of a reading, and of opening the demo data.   Rscript bench/startup.R
library(upbeatquill)
median_time <- function(code, times = 5) {
  code <- substitute(code)
  where <- parent.frame()
  stats::median(vapply(seq_len(times), function(i) system.time(eval(code, where))[["elapsed"]], 1))
}
demo <- system.file("extdata", "hive_trial.csv", package = "upbeatquill")
question <- "Does the honey yield differ between syrup and control?"
command <- system.file("exec", "quill", package = "upbeatquill")
cold <- median_time(system2("Rscript", c(shQuote(command), "ask", shQuote(demo), shQuote(question)), stdout = FALSE))
study <- open_study(demo)
wide <- as.data.frame(matrix(stats::rnorm(2000 * 20), 20))
names(wide) <- paste0(rep(c("height", "yield", "score", "income", "speed"), length.out = 2000), "_", seq_len(2000))
wide_study <- open_study(wide)
wide_study$vocabulary <- upbeatquill:::build_vocabulary(wide_study)
study$vocabulary <- upbeatquill:::build_vocabulary(study)
cat(sprintf("quill ask, cold:            %.2f s (target below 1)\n", cold))
cat(sprintf("open the demo trial:        %.0f ms\n", 1000 * median_time(open_study(demo))))
cat(sprintf("read a question, 15 columns:   %.0f ms (target below 30 at 50)\n", 1000 * median_time(upbeatquill:::read_question(study, question), 20)))
cat(sprintf("read a question, 2000 columns: %.0f ms (target below 150)\n",
            1000 * median_time(upbeatquill:::read_question(wide_study, "Is height_1 related to income_44?"), 5)))
names(wide) <- paste0("answer_to_question_", seq_len(2000))
alike <- open_study(wide)
cat(sprintf("words of 2000 names alike:     %.0f ms\n", 1000 * median_time(upbeatquill:::build_vocabulary(alike), 3)))
cat(sprintf("ask and answer, warm:       %.0f ms\n", 1000 * median_time(ask(study, question), 5)))
