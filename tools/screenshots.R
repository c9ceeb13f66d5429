# Pictures of the main outputs on the demo data, for the README.   Rscript tools/screenshots.R [NAME ...]
# Terminal views are set as pages and photographed by headless Chromium; figures are drawn by figure().
library(upbeatquill)
out <- file.path("docs", "screenshots")
dir.create(out, showWarnings = FALSE, recursive = TRUE)
wanted <- commandArgs(TRUE)
wants <- function(name) !length(wanted) || name %in% wanted
work <- tempfile("shots-")
dir.create(work)
invisible(file.copy(list.files(system.file("extdata", package = "upbeatquill"), full.names = TRUE), work))
chromium <- Sys.which(c("chromium", "chromium-browser", "google-chrome"))
chromium <- chromium[nzchar(chromium)][1]

photograph <- function(url, file, width = 1280, height = 800, wait = 0) {
  if (is.na(chromium)) stop("Chromium is needed for the pictures of pages: apt-get install chromium")
  flags <- c("--headless", "--no-sandbox", "--disable-gpu", "--disable-quic", "--no-first-run", "--disable-background-networking",
             "--disable-component-update", "--disable-sync", "--hide-scrollbars", paste0("--user-data-dir=", tempfile("profile-")),
             sprintf("--window-size=%d,%d", width, height), if (wait > 0) sprintf("--virtual-time-budget=%d", wait),
             paste0("--screenshot=", file.path(getwd(), file)), url)
  system2(chromium, shQuote(flags), stdout = FALSE, stderr = FALSE)
  message(file)
}

terminal <- function(command, lines, file, height = 800) {
  options(cli.num_colors = 256L)
  body <- cli::ansi_html(paste(c(paste0("$ ", command), "", lines), collapse = "\n"), csi = "drop")
  page <- file.path(work, "terminal.html")
  writeLines(c("<meta charset='utf-8'><style>body{margin:0;background:#FCFCFA;color:#22303C;padding:22px 28px}",
               "pre{font:15px/1.38 'DejaVu Sans Mono',monospace;margin:0}.ansi-color-8,.ansi-color-7{color:#5B6770}.ansi-bold{font-weight:bold}",
               ".ansi-color-2{color:#1E6B52}.ansi-color-3{color:#8A4B08}.ansi-color-1{color:#9A2333}</style><pre>", body, "</pre>"), page)
  photograph(paste0("file://", page), file, height = height)
}

opened <- function(...) open_study(file.path(work, c(...)))
trial <- opened("hive_trial.csv", "apiaries.csv")
trial <- design(trial, unit = "hive_id", treatment = "arm", randomised = TRUE, control = "control", outcome = "honey_yield_kg")
survey <- opened("keeper_survey.csv", "keeper_survey_codebook.csv")
question <- "Does the honey yield differ between syrup and control?"
answer <- ask(trial, question)
colour <- function(x) { options(cli.num_colors = 256L); format(x, width = 100, colour = TRUE) }

if (wants("look")) terminal("quill look hive_trial.csv apiaries.csv",
                            unclass(look(trial, width = 100, colour = TRUE)), file.path(out, "look.png"), 1060)
if (wants("answer")) terminal(sprintf("quill ask hive_trial.csv \"%s\"", question), colour(answer), file.path(out, "answer.png"), 900)
if (wants("choice")) terminal("quill ask hive_trial.csv \"How does strength relate to honey yield?\"",
                              colour(ask(trial, "How does strength relate to honey yield?")), file.path(out, "choice.png"), 300)
figures <- list(
  "figure-groups" = answer,
  "figure-scatter" = ask(trial, "How is honey yield related to the strength before?"),
  "figure-shares" = ask(trial, "Is winter survival related to swarming?"),
  "figure-conditions" = ask(trial, "compare mites before and after"),
  "figure-odds" = ask(trial, "logistic regression of winter survival on strength after, mites after and arm"),
  "figure-residuals" = ask(trial, "check the residuals of a regression of honey yield on arm and strength before"),
  "figure-survival" = ask(trial, "survival without swarming at 60 days by arm"),
  "figure-forest" = ask(opened("earlier_trials.csv"), "Pool the earlier trials"),
  "figure-rules" = ask(trial, "Which kinds of hives have the highest honey yield?"),
  "figure-balance" = ask(trial, "baseline characteristics by arm"),
  "figure-items" = ask(survey, "How were the items answered?"),
  "figure-forecast" = ask(opened("hive_weights.csv"), "Forecast the weight for the next month"))
for (name in names(figures)) if (wants(name)) {
  figure(figures[[name]], file.path(out, paste0(name, ".png")), width = 8, height = 5, dpi = 120)
  message(file.path(out, paste0(name, ".png")))
}
if (wants("report")) {
  page <- file.path(work, "findings.html")
  report(unname(figures[1:3]), page, title = "Feeding trial: findings")
  photograph(paste0("file://", page), file.path(out, "report.png"))
}
# a slide and a page of the document, rendered by LibreOffice and pdftoppm where they are installed
office <- Sys.which("soffice")
rendered <- function(extension, page, name, size) {
  if (!nzchar(office) || !nzchar(Sys.which("pdftoppm"))) { message("LibreOffice and pdftoppm are needed for ", name); return(invisible()) }
  file <- file.path(work, paste0("findings.", extension))
  report(unname(figures[1:3]), file, title = "Feeding trial: findings")
  # the R front end sets a library path that is not meant for other programs
  system2("env", shQuote(c("-u", "LD_LIBRARY_PATH", office, "--headless", paste0("-env:UserInstallation=file://", work, "/office"), "--convert-to",
    "pdf", "--outdir", work, file)), stdout = FALSE, stderr = FALSE)
  system2("pdftoppm", shQuote(c("-png", "-r", size, "-f", page, "-l", page, "-singlefile", file.path(work, "findings.pdf"), file.path(work, name))))
  file.copy(file.path(work, paste0(name, ".png")), file.path(out, paste0(name, ".png")), overwrite = TRUE)
  message(file.path(out, paste0(name, ".png")))
}
if (wants("slide")) rendered("pptx", 4, "slide", 96)
if (wants("document")) rendered("docx", 3, "document", 80)
if (wants("desk")) {
  script <- file.path(work, "desk.R")
  writeLines(c("library(upbeatquill)", sprintf("study <- open_study(%s)", deparse(file.path(work, "hive_trial.csv"))),
               sprintf("desk(ask(study, %s), port = 4817, browser = FALSE)", deparse(question))), script)
  server <- callr::r_bg(function(script) source(script), args = list(script = script), libpath = .libPaths())
  Sys.sleep(8)
  # the page fills itself over a socket that the browser's virtual clock does not wait for: try until it is filled
  for (wait in rep(c(5000, 4000, 6000, 7000), 4)) {
    photograph("http://127.0.0.1:4817", file.path(out, "desk.png"), wait = wait)
    if (file.size(file.path(out, "desk.png")) > 60000) break
  }
  invisible(server$kill())
}
