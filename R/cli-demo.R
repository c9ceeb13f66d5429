# A guided run over the made-up Fernmoor data.

demo_steps <- function() {
  list(
    list(say = "The trial's question: three arms, hives allocated at random within each apiary.",
         data = "trial", ask = "Does the honey yield differ between syrup and control?", name = "1-honey-yield"),
    list(say = "A follow-up keeps what was asked and changes what it names.", data = "follow",
         ask = "only in the north", name = "2-honey-yield-north"),
    list(say = "Two yes/no or category columns: counts, risk difference, risk ratio, odds ratio.",
         data = "trial", ask = "Is winter survival related to swarming?", name = "3-winter-survival"),
    list(say = "Two measured columns: the correlation, its line, and whether one hive carries it.",
         data = "trial", ask = "How is honey yield related to the strength before?", name = "4-yield-and-strength"),
    list(say = "A regression, with what is held constant.",
         data = "trial", ask = paste0("How does honey yield depend on strength before, adjusting for queen age and ",
                                      "mites before?"), name = "5-yield-adjusted"),
    list(say = "An ordered answer of the keepers: ranks first. The codebook beside the file gave labels and missing codes.",
         data = "survey", ask = "Is feed more affordable in the south than in the north?", name = "6-feed-affordable"),
    list(say = "Who is in the arms: a table of characteristics with standardised differences, no p values.",
         data = "trial", ask = "baseline characteristics by arm", name = "7-characteristics"),
    list(say = "Which kinds of hives do well: rules that also hold on rows held back.",
         data = "trial", ask = "Which kinds of hives have the highest honey yield?", name = "8-kinds-of-hives"),
    list(say = "A word that names nothing in the data is not answered with something else.",
         data = "trial", ask = "Does the wing length differ between the arms?", name = NULL))
}

cli_demo <- function(options, words) {
  folder <- options$output %||% "quill-demo"
  made <- copy_demo_data(folder)
  paint <- painter(wants_colour())
  trial <- open_study(made[c("hive_trial.csv", "apiaries.csv")])
  trial <- design(trial, unit = "hive_id", treatment = "arm", randomised = TRUE, control = "control",
                  outcome = "honey_yield_kg")
  survey <- open_study(made[c("keeper_survey.csv", "keeper_survey_codebook.csv")])
  show_lines(c(paint$bold("The made-up Fernmoor Hive Network: a feeding trial"), "",
               look(trial, width = terminal_width(), colour = wants_colour())))
  answers <- list()
  for (step in demo_steps()) {
    from <- switch(step$data, trial = trial, survey = survey, follow = last_of(answers))
    answer <- ask(from, step$ask)
    show_lines(c("", strrep("=", terminal_width()), paint$bold(step$say), "", answer_lines(answer, FALSE)))
    if (!is.null(step$name)) show_lines(demo_files(answer, folder, step$name))
    answers[[length(answers) + 1L]] <- answer
  }
  show_lines(c("", strrep("=", terminal_width()), demo_end(answers, folder)))
  exit_status()[["answered"]]
}

copy_demo_data <- function(folder) {
  dir.create(folder, showWarnings = FALSE, recursive = TRUE)
  from <- list.files(system.file("extdata", package = "upbeatquill"), pattern = "[.]csv$", full.names = TRUE)
  to <- file.path(folder, basename(from))
  if (!all(file.copy(from, to, overwrite = TRUE))) {
    stop_input(sprintf("The demo could not write to %s.", quoted(folder)), todo = "Name another folder with -o.",
               class = "not_written")
  }
  stats::setNames(to, basename(to))
}

#' Write the figure and the script of one answer, and run the script again
#' @noRd
demo_files <- function(answer, folder, name) {
  script_file <- file.path(folder, paste0(name, ".R"))
  script(answer, script_file)
  trace <- retrace(script_file)
  drawn <- !is.null(answer$figure) && requireNamespace("ggplot2", quietly = TRUE)
  if (drawn) figure(answer, file.path(folder, paste0(name, ".png")))
  c("", format(trace), sprintf("Written: %s%s", script_file,
                               if (drawn) sprintf(" and %s", file.path(folder, paste0(name, ".png"))) else ""))
}

demo_end <- function(answers, folder) {
  out <- file.path(folder, "findings.html")
  written <- requireNamespace("htmltools", quietly = TRUE)
  if (written) report(answers, out, title = "The feeding trial and the keepers' survey")
  c(sprintf("Everything is in the folder %s: the data, a script and a figure for each answer.", quoted(folder)),
    sprintf("Ask your own question: quill ask %s \"your question\"", file.path(folder, "hive_trial.csv")),
    if (written) sprintf("The finished report: %s (open it in a browser; it works offline)", out))
}
