# Where the rows lie: positions drawn true to scale, coloured by a column.

#' @noRd
method_position_map <- function() {
  new_method(
    id = "position_map", name = "Map of positions", tasks = "figure",
    fits = function(shape) if (isTRUE(shape$placed)) new_fit(99, "The question asks where the rows lie."),
    compute = compute_position_map, figure = figure_position_map, sentences = say_position_map, script = script_position_map,
    references = "Sinnott, R. W. (1984). Virtues of the haversine. Sky and Telescope, 68, 159.",
    next_steps = function(ctx, res) character())
}

compute_position_map <- function(ctx) {
  if (length(ctx$reading$predictors) < 2) {
    stop_data("No two columns hold latitude and longitude, so there is nothing to map.",
              todo = "Amend their roles if two do: degrees north under a name like latitude, degrees east under one like longitude.",
                  class = "no_method")
  }
  lon <- as_plain_number(ctx$frame$data[[ctx$reading$predictors[1]]]); lat <- as_plain_number(ctx$frame$data[[ctx$reading$predictors[2]]])
  if (!length(lon)) stop_data("No row has a position.", class = "no_rows")
  if (any(abs(lat) > 90) || any(lon < -180 | lon > 360)) {
    stop_data("Some positions lie beyond 90 degrees of latitude or outside -180 to 360 of longitude.",
        todo = "Check whether the two columns are swapped.",
              class = "unfit_data")
  }
  middle <- c(mean(range(lon)), mean(range(lat)))
  tall <- stat_distance_km(middle[1], min(lat), middle[1], max(lat)); wide <- stat_distance_km(min(lon), middle[2], max(lon), middle[2])
  shown <- utils::head(c(ctx$reading$outcome, ctx$reading$by, ctx$reading$extra$look$colour), 1)
  table <- data.frame(longitude = lon, latitude = lat)
  measured <- length(shown) && is_numeric_kind(ctx$columns[[shown]]$kind)
  if (length(shown)) table[[shown]] <- if (measured) as_plain_number(ctx$frame$data[[shown]]) else as.character(as_group(ctx$frame$data[[shown]]))
  numbers <- list(new_number("n", "positions", length(lon)), new_number("places", "different positions", nrow(unique(table[1:2]))),
                  new_number("north_south_km", "from north to south, km", tall), new_number("east_west_km", "from east to west, km", wide))
  result(numbers, list(new_table("positions", "Positions", utils::head(table, 500))), points = table, shown = shown, measured = measured)
}

say_position_map <- function(ctx, res) {
  n <- res$number
  of <- if (n$places < n$n) sprintf(" at %s different places", say_number(n$places)) else ""
  text <- sprintf("%s%s: %s km from north to south, %s km from east to west.", capital(count_of(n$n, "position")), of,
                  say_number(n$north_south_km), say_number(n$east_west_km))
  list(headline = text,
      details = c("Distances are along the surface of a sphere of 6,371 km radius. Nothing is fetched: the map shows positions only.",
                                    say_rows(ctx)), write_up = text)
}

figure_position_map <- function(ctx, res) {
  place <- ctx$reading$predictors
  key <- position_names(ctx)
  title <- sprintf("Positions%s", if (length(res$shown)) sprintf(", coloured by %s", say_column(ctx$columns[[res$shown]])) else "")
  colour <- if (length(res$shown)) sprintf(", colour = rows[[%s]]", as_r_string(res$shown)) else ""
  new_figure("positions", title, "map", subtitle = "True to scale at the middle of the map; north is up.",
    alt = sprintf("%s: a point for each row by longitude and latitude.", title),
    draw = function() draw_positions(res$points, if (length(res$shown)) ctx$columns[[res$shown]], res$shown, key),
    script = c(sprintf("plot <- ggplot(rows, aes(rows[[%s]], rows[[%s]]%s)) + geom_point(size = 3) +", as_r_string(place[1]), as_r_string(place[2]),
        colour),
               "  coord_fixed(1 / cos(mean(range(lat)) * pi / 180)) +",
               sprintf("  labs(x = \"Longitude\", y = \"Latitude\", title = %s) + theme_minimal()", as_r_string(title))))
}

#' Names for few points: the key of the rows
#' @noRd
position_names <- function(ctx) {
  if (length(ctx$frame$rows) > 40) return(NULL)
  labels <- ctx$row_labels(ctx$frame$rows)
  if (length(labels)) labels[[1]]
}

draw_positions <- function(d, col, shown, key) {
  names(d)[1:2] <- c("x", "y")
  fixed <- ggplot2::coord_fixed(1 / cos(mean(range(d$y)) * pi / 180), clip = "off")
  # many points on top of each other are seen through
  alpha <- if (nrow(d) > 2000) 0.3 else 0.9
  plot <- if (is.null(col)) ggplot2::ggplot(d, ggplot2::aes(.data$x, .data$y)) +
      ggplot2::geom_point(colour = quill_colours(1), size = if (nrow(d) > 300) 1.3 else 3, alpha = alpha)
    else ggplot2::ggplot(d, ggplot2::aes(.data$x, .data$y, colour = .data[[shown]])) +
      ggplot2::geom_point(size = if (nrow(d) > 300) 1.3 else 3.4, alpha = alpha)
  if (!is.null(col)) plot <- plot + if (is.numeric(d[[shown]])) ggplot2::scale_colour_viridis_c(name = wrap_level(axis_label(col), 18), end = 0.9)
    else ggplot2::scale_colour_manual(values = quill_colours(length(unique(d[[shown]]))), name = wrap_level(axis_label(col), 18))
  if (!is.null(key)) plot <- plot + ggplot2::geom_text(data = data.frame(d, key = key), ggplot2::aes(label = .data$key), size = 2.9, vjust = -1.1,
                                                       colour = quill_ink(), check_overlap = TRUE)
  plot + fixed + ggplot2::scale_x_continuous(expand = ggplot2::expansion(mult = 0.12)) +
    ggplot2::scale_y_continuous(expand = ggplot2::expansion(mult = 0.1)) + ggplot2::labs(x = "Longitude", y = "Latitude")
}

script_position_map <- function(ctx, res) {
  place <- ctx$reading$predictors
  c(sprintf("lon <- %s; lat <- %s", script_value(place[1]), script_value(place[2])),
    "km <- function(lon1, lat1, lon2, lat2) { r <- pi / 180",
    "  h <- sin((lat2 - lat1) * r / 2)^2 + cos(lat1 * r) * cos(lat2 * r) * sin((lon2 - lon1) * r / 2)^2; 2 * 6371 * asin(sqrt(h)) }",
    "mid <- c(mean(range(lon)), mean(range(lat)))",
    "numbers <- list(n = length(lon), places = nrow(unique(data.frame(lon, lat))), north_south_km = km(mid[1], min(lat), mid[1], max(lat)),",
    "  east_west_km = km(min(lon), mid[2], max(lon), mid[2]))",
    sprintf("tables <- list(positions = head(data.frame(longitude = lon, latitude = lat%s), 500))",
            if (!length(res$shown)) "" else sprintf(", value = %s", if (res$measured) script_value(res$shown) else
              sprintf("as.character(rows[[%s]])", as_r_string(res$shown)))),
    if (length(res$shown)) sprintf("names(tables$positions)[3] <- %s", as_r_string(res$shown)))
}
