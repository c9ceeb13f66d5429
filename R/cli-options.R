# Options, words and help of every command.

command_specs <- function() {
  list(
    look = list(run = cli_look, takes = "FILE...",
                does = "Show what data files hold: rows, kinds of columns, missing values, findings.",
                options = list(json_option(), amend_option()),
                examples = c("quill look hive_trial.csv", "quill look trial_folder --json",
                             "quill look hive_trial.csv --amend \"leave out the south; swarmed is a category\"")),
    ask = list(run = cli_ask, takes = "FILE... \"question\" [\"follow-up\" ...]",
               does = "Answer a question in plain English; each further text follows up on the answer before it.",
               options = ask_options(), examples = c(
                 "quill ask hive_trial.csv \"Does the honey yield differ between syrup and control?\"",
                 "quill ask hive_trial.csv \"honey yield by arm\" \"only in the north\" \"use a rank test\"",
                 "quill ask hive_trial.csv \"mites before against mites after\" --figure mites.png --script mites.R")),
    ideas = list(run = cli_ideas, takes = "FILE...", does = "List questions that this data can answer.",
                 options = list(json_option(), amend_option()), examples = "quill ideas hive_trial.csv"),
    codebook = list(run = cli_codebook, takes = "FILE...",
                    does = "Write the codebook: one row a column, with the reason for its kind.",
                    options = list(output_option("write the codebook to this file (.csv, DDI .xml, Table Schema .json) instead of showing it"),
                                   amend_option()),
                    examples = c("quill codebook keeper_survey.csv",
                                 "quill codebook keeper_survey.csv -o codebook.csv")),
    report = list(run = cli_report, takes = "FILE...",
                  does = "Answer every question of a text file and write one report: a page, document, slides, PDF or notebook.",
                  options = report_options(),
                  examples = c("quill report hive_trial.csv --questions questions.txt -o findings.html",
                               "quill report hive_trial.csv --questions questions.txt -o findings.pptx --yes",
                               "quill report hive_trial.csv --questions questions.txt --plan")),
    retrace = list(run = cli_retrace, takes = "SCRIPT|LOGBOOK...",
                   does = "Run an answer's script, or replay a logbook, and compare every number.",
                   options = list(json_option()), examples = c("quill retrace mites.R", "quill retrace study.jsonl")),
    desk = list(run = cli_desk, takes = "FILE...", does = "Open a page on this machine in which to look, ask and read.",
                options = desk_options(), examples = "quill desk hive_trial.csv apiaries.csv"),
    demo = list(run = cli_demo, takes = "",
                does = "A guided run over made-up data; figures, scripts and a report go to a folder.",
                options = list(output_option("the folder to write to (default: quill-demo)")),
                examples = c("quill demo", "quill demo -o tour")))
}

report_options <- function() {
  option <- optparse::make_option
  list(output_option("the report to write (.html, .docx, .pptx, .pdf, .ipynb, .qmd, .Rmd, or .zip with everything behind it)"), questions_option(),
       option("--title", type = "character", default = "Findings", metavar = "TEXT", help = "title of the report (default: Findings)"),
       option("--plan", action = "store_true", default = FALSE, help = "show how each question would be read, and write nothing"),
       option(c("-y", "--yes"), action = "store_true", default = FALSE, help = "do not ask before the work starts"), amend_option())
}

json_option <- function() optparse::make_option("--json", action = "store_true", default = FALSE,
                                                help = "print one JSON document and nothing else")
output_option <- function(help) optparse::make_option(c("-o", "--output"), type = "character", metavar = "FILE",
                                                      help = help)
amend_option <- function() {
  optparse::make_option("--amend", type = "character", metavar = "TEXT",
                        help = "amend the data first, in plain sentences divided by semicolons: \"treat -99 as missing; leave out hive H017\"")
}
questions_option <- function() {
  optparse::make_option("--questions", type = "character", metavar = "FILE",
                        help = paste0("text file with one question a line; a line that starts with > follows up on the one before (default: ",
                            "the most promising questions)"))
}

ask_options <- function() {
  option <- optparse::make_option
  list(json_option(), amend_option(),
       option("--figure", type = "character", metavar = "FILE", help = "save the figure (.png, .svg or .pdf)"),
       option("--table", type = "character", metavar = "FILE", help = "save the main table (.csv, .xlsx, .html or .docx)"),
       option("--script", type = "character", metavar = "FILE",
              help = "save the R script that computes every number again"),
       option("--full", action = "store_true", default = FALSE,
              help = "add the write-up and the explanation to the answer"),
       option("--level", type = "double", metavar = "NUMBER",
              help = "confidence level between 0 and 1 (default: 0.95)"),
       option("--seed", type = "integer", metavar = "NUMBER", help = "whole number from which anything random starts"),
       option("--logbook", type = "character", metavar = "FILE",
              help = "append question, reading and numbers to this JSON Lines file"))
}

desk_options <- function() {
  list(amend_option(), optparse::make_option("--port", type = "integer", metavar = "NUMBER",
                             help = "port on this machine (default: a free one)"),
       optparse::make_option("--no-browser", action = "store_true", default = FALSE, dest = "quiet",
                             help = "do not open a browser"))
}

command_parser <- function(name, spec) {
  help <- optparse::make_option(c("-h", "--help"), action = "store_true", default = FALSE,
                                help = "show this help and leave")
  optparse::OptionParser(usage = sprintf("quill %s %s [options]", name, spec$takes), add_help_option = FALSE,
                         option_list = c(spec$options, list(help)))
}

#' Options and words of a command line; a wrong option is a mistake of usage
#' @noRd
parse_options <- function(name, spec, args) {
  parsed <- tryCatch(
    optparse::parse_args(command_parser(name, spec), args = args, positional_arguments = TRUE,
                         print_help_and_exit = FALSE,
                         convert_hyphens_to_underscores = TRUE),
    error = function(e) stop_usage(sprintf("quill %s: %s", name, first_line(conditionMessage(e))),
                                   todo = sprintf("See quill %s --help.", name)),
    warning = function(w) stop_usage(sprintf("quill %s: %s", name, first_line(conditionMessage(w))),
                                     todo = sprintf("See quill %s --help.", name)))
  list(options = parsed$options, words = parsed$args)
}

command_help <- function(name, spec) {
  shown <- utils::capture.output(optparse::print_help(command_parser(name, spec)))
  c(shown[shown != "" | cumsum(shown != "") > 0], spec$does, "", "Examples:", paste0("  ", spec$examples))
}

general_help <- function() {
  specs <- command_specs()
  c("quill: ask statistical questions of a data file in plain English. Everything stays on this machine.", "",
    "Commands:",
    sprintf("  %-9s %s", names(specs), vapply(specs, `[[`, "", "does")), "",
    "Examples:", "  quill demo", "  quill look hive_trial.csv",
    "  quill ask hive_trial.csv \"Does the honey yield differ between syrup and control?\"", "",
    "Exit status: 0 answered, 1 failed, 2 wrong usage, 3 needs a choice, 4 cannot be answered.",
    "quill COMMAND --help says more about one command.")
}
