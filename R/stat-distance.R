# Distances on the Earth.

#' Great-circle distance
#'
#' @param lon1,lat1,lon2,lat2 Degrees, vectors of one length or single numbers.
#' @section Shape: kilometres on a sphere of radius 6371.
#' @section Source: Sinnott, R. W. (1984). Virtues of the haversine. Sky and Telescope 68, 159.
#' @noRd
stat_distance_km <- function(lon1, lat1, lon2, lat2) {
  r <- pi / 180
  h <- sin((lat2 - lat1) * r / 2)^2 + cos(lat1 * r) * cos(lat2 * r) * sin((lon2 - lon1) * r / 2)^2
  2 * 6371 * asin(sqrt(pmin(1, h)))
}
