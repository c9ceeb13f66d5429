# The look of every figure.

#' Colours told apart in grey print and by colour-blind readers, darkest first
#' @noRd
quill_colours <- function(n = 8) {
  all <- c("#1B4F72", "#C8691C", "#2E8B6F", "#8C5AA8", "#B03A48", "#6B7A3A", "#5B6770", "#D9A520")
  rep_len(all, n)
}

quill_ink <- function() "#22303C"
quill_soft <- function() "#8A97A3"

quill_theme <- function(size = 12) {
  ggplot2::theme_minimal(base_size = size) +
    ggplot2::theme(
      text = ggplot2::element_text(colour = quill_ink()), axis.text = ggplot2::element_text(colour = quill_ink()),
      plot.title = ggplot2::element_text(face = "bold", size = size + 2), plot.title.position = "plot",
      plot.caption.position = "plot",
      plot.subtitle = ggplot2::element_text(colour = "#4A5A68", margin = ggplot2::margin(b = 8)),
      plot.caption = ggplot2::element_text(colour = "#5B6770", size = size - 3, hjust = 0,
                                           margin = ggplot2::margin(t = 8)),
      panel.grid.minor = ggplot2::element_blank(), panel.grid.major.x = ggplot2::element_blank(),
      panel.grid.major.y = ggplot2::element_line(colour = "#E3E8EC", linewidth = 0.4),
      axis.line.x = ggplot2::element_line(colour = "#5B6770", linewidth = 0.4),
      axis.ticks.x = ggplot2::element_line(colour = "#5B6770", linewidth = 0.4),
      plot.margin = ggplot2::margin(14, 16, 10, 14), plot.background = ggplot2::element_rect(fill = "white",
          colour = NA), legend.position = "bottom")
}

#' Axis label of a column: its title and its unit
#' @noRd
axis_label <- function(col) {
  title <- capital(strip_unit(column_title(col), col))
  # "Days to settle" says its unit itself
  if (is.null(col$unit) || startsWith(tolower(title), paste0(col$unit, " "))) title else sprintf("%s (%s)", title, col$unit)
}

#' Columns as an axis names them: by their labels, with the name beside it where two labels are alike
#' @noRd
column_labels <- function(columns, names) {
  each <- unique(names)
  title <- vapply(columns[each], function(col) capital(strip_unit(column_title(col), col)), "")
  twice <- title %in% title[duplicated(title)]
  title[twice] <- sprintf("%s (%s)", title[twice], each[twice])
  wrap_level(title, 40)[match(names, each)]
}

#' Titles wrapped so that they never run off the page
#' @noRd
wrap_text <- function(text, width = 78) paste(strwrap(text, width), collapse = "\n")

#' Long level names on two lines; many levels turn the chart on its side (see draw_groups())
#' @noRd
wrap_level <- function(x, width = 16) vapply(x, function(s) paste(strwrap(s, width), collapse = "\n"), "",
                                             USE.NAMES = FALSE)

figure_caption <- function(ctx) {
  f <- ctx$frame
  conditions <- vapply(ctx$reading$filters, plain_filter, "")
  paste0("n = ", formatC(f$used, format = "d", big.mark = ","),
         if (length(conditions)) paste0("; rows where ", paste(conditions, collapse = " and ")),
         ". Source: ", ctx$source_file, ".")
}

#' Where a figure looks for the scales that it is not given: axes whose large numbers are written out ("5,000,000", not 5e+06)
#' @noRd
plain_scales <- function() {
  env <- new.env(parent = globalenv())
  env$scale_x_continuous <- function(...) ggplot2::scale_x_continuous(..., labels = plain_axis)
  env$scale_y_continuous <- function(...) ggplot2::scale_y_continuous(..., labels = plain_axis)
  env
}

#' Numbers at an axis, from ten thousand on with their thousands marked
#' @noRd
plain_axis <- function(v) {
  large <- any(abs(v[is.finite(v)]) >= 1e4)
  ifelse(is.finite(v), if (large) format(v, big.mark = ",", scientific = FALSE, trim = TRUE) else format(v, trim = TRUE), NA)
}

finish_figure <- function(plot, spec, ctx) {
  own <- plot$theme
  plot$plot_env <- plain_scales()
  plot <- plot + ggplot2::labs(title = wrap_text(spec$title, 74),
                       subtitle = if (!is.null(spec$subtitle)) wrap_text(spec$subtitle, 92),
                       caption = wrap_text(figure_caption(ctx), 110), alt = spec$alt) +
    quill_theme()
  # what a figure sets for itself (axes in two colours) stands above the common look
  if (length(own)) plot <- plot + do.call(ggplot2::theme, unclass(own))
  if (identical(spec$kind, "pie")) plot <- plot + pie_theme()
  if (is.null(spec$look)) plot else apply_look(plot, spec$look)
}

#' Half the interval of each mean in a table of groups
#' @param t Data frame with n and se.
#' @noRd
half_interval <- function(t, conf_level) stats::qt(1 - (1 - conf_level) / 2, pmax(t$n - 1, 1)) * t$se
