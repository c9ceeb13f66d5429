# Colours, direction, points and text of a finished figure, as the look asks for them.

#' A finished plot in the shape that the look asks for; before its words and scales, which depend on which way it lies
#' @noRd
apply_shape <- function(plot, look) {
  if (!is.null(look$turn)) plot <- turn_plot(plot, look$turn)
  if (!is.null(look$palette)) plot <- recolour(plot, look$palette)
  if (identical(look$points, FALSE)) plot <- without_points(plot)
  if (identical(look$points, TRUE)) plot <- with_points(plot)
  if (!is.null(look$text_size)) plot <- plot + resize_text(look$text_size)
  plot
}

#' @param way "sideways" (groups along the upright axis), "upright", or "other" (the other way than it lies).
#' @noRd
turn_plot <- function(plot, way) {
  if (inherits(plot$coordinates, "CoordPolar")) return(plot)
  lies <- inherits(plot$coordinates, "CoordFlip")
  wanted <- switch(way, sideways = TRUE, upright = FALSE, !lies)
  if (wanted == lies) plot else suppressMessages(plot + if (wanted) ggplot2::coord_flip() else ggplot2::coord_cartesian())
}

#' The colours of a plot replaced: those of its groups where it has some, else the one it is drawn in
#' @noRd
recolour <- function(plot, colours) {
  shown <- vapply(c("colour", "fill"), function(aes) !is.null(plot$mapping[[aes]]) ||
    any(vapply(plot$layers, function(l) !is.null(l$mapping[[aes]]), NA)), NA)
  if (any(shown)) {
    built <- ggplot2::ggplot_build(plot)$plot$scales
    for (aes in names(shown)[shown]) {
      scale <- built$get_scales(aes)
      if (is.null(scale)) next
      new <- if (inherits(scale, "ScaleDiscrete")) ggplot2::discrete_scale(aes, "asked", palette = function(n) spread_colours(colours, n),
          guide = scale$guide)
        else if (length(colours) > 1) ggplot2::continuous_scale(aes, "asked", palette = gradient_of(colours), guide = "colourbar")
        else ggplot2::continuous_scale(aes, "asked", palette = gradient_of(c("grey90", colours)), guide = "colourbar")
      plot <- suppressMessages(plot + new)
    }
    return(plot)
  }
  own <- c(quill_colours(1), "grey35")
  plot$layers <- lapply(plot$layers, function(l) {
    new <- ggplot2::ggproto(NULL, l)
    for (aes in c("colour", "fill")) if (isTRUE(new$aes_params[[aes]] %in% own)) new$aes_params[[aes]] <- colours[1]
    new
  })
  plot
}

gradient_of <- function(colours) {
  ramp <- grDevices::colorRamp(colours)
  function(x) { out <- rep(NA_character_, length(x)); ok <- !is.na(x); m <- ramp(x[ok]); out[ok] <- grDevices::rgb(m[, 1], m[, 2], m[, 3],
      maxColorValue = 255); out }
}

#' As many colours as there are groups: those asked for, then lighter ones of them
#' @noRd
spread_colours <- function(colours, n) {
  lighter <- function(by) { m <- grDevices::col2rgb(colours) / 255; grDevices::rgb(t(m + (1 - m) * by)) }
  rep_len(c(lighter(0), lighter(0.35), lighter(0.6)), n)
}

#' The points of single rows taken off; means and other marks stay
#' @noRd
without_points <- function(plot) {
  rows <- vapply(plot$layers, function(l) inherits(l$geom, "GeomPoint") && !isTRUE(l$aes_params$shape %in% 21:25) && !inherits(l$stat,
      "StatSummary"), NA)
  if (all(rows)) return(plot)
  plot$layers <- plot$layers[!rows]
  boxes <- vapply(plot$layers, function(l) inherits(l$geom, "GeomBoxplot"), NA)
  text <- plot$labels$subtitle
  if (any(rows) && is.character(text)) plot$labels$subtitle <- sub("^Points are rows, boxes", if (any(boxes)) "Boxes:" else "", text)
  plot
}

#' The rows as points on a box or violin plot that has none
#' @noRd
with_points <- function(plot) {
  has <- any(vapply(plot$layers, function(l) inherits(l$geom, "GeomPoint"), NA))
  kinds <- any(vapply(plot$layers, function(l) inherits(l$geom, c("GeomBoxplot", "GeomViolin")), NA))
  if (has || !kinds || !all(c("x", "y") %in% names(plot$mapping))) return(plot)
  plot + ggplot2::geom_point(position = ggplot2::position_jitter(width = 0.12, height = 0, seed = 1), colour = quill_ink(), alpha = 0.35, size = 1.3)
}

resize_text <- function(size) {
  by <- size / 12
  ggplot2::theme(text = ggplot2::element_text(size = size), plot.title = ggplot2::element_text(size = size + 2),
                 plot.caption = ggplot2::element_text(size = max(6, size - 3)), axis.text = ggplot2::element_text(size = ggplot2::rel(0.9)),
                 legend.key.size = ggplot2::unit(1.2 * by, "lines"))
}

#' A line or a curve through the points of a scatter plot
#' @noRd
smooth_layer <- function(how, one, grouped) {
  form <- if (how == "line") y ~ x else y ~ splines::ns(x, 4)
  if (grouped) return(ggplot2::geom_smooth(ggplot2::aes(colour = .data$group, fill = .data$group), method = "lm", formula = form, alpha = 0.15,
      linewidth = 0.9))
  ggplot2::geom_smooth(method = "lm", formula = form, colour = "#C8691C", fill = "#C8691C", alpha = 0.18, linewidth = 1.1)
}

#' Names at the points; those that would lie on others are left out
#' @noRd
names_layer <- function() ggplot2::geom_text(ggplot2::aes(label = .data$name), check_overlap = TRUE, size = 2.9, vjust = -0.8, colour = quill_ink())

#' Script lines for the shape of a figure
#' @noRd
shape_script <- function(look) {
  c(if (!is.null(look$palette)) sprintf("plot <- plot + scale_colour_manual(values = rep_len(c(%1$s), 40)) + scale_fill_manual(values = rep_len(c(%1$s), 40))",  # nolint: line_length_linter.
                                        paste(vapply(look$palette, as_r_string, ""), collapse = ", ")),
    if (!is.null(look$turn) && look$turn != "upright") "plot <- plot + coord_flip()",
    if (!is.null(look$text_size)) sprintf("plot <- plot + theme(text = element_text(size = %s))", format_plain(look$text_size)))
}
