# Rows that each stand for several of something counted.

reef_rows <- function() with_seed(3, {
  out <- expand.grid(transect = 1:12, season = c("spring", "autumn"), species = c("Cod", "Wrasse", "Goby"), stringsAsFactors = FALSE)
  out$reef <- ifelse(out$transect <= 6, "protected", "fished")
  out$count <- rnbinom(nrow(out), mu = ifelse(out$reef == "protected", 9, 5), size = 2)
  out$biomass_g <- round(out$count * rgamma(nrow(out), 3, 0.02))
  out
})

test_that("what a count column counts is added up", {
  rows <- reef_rows(); s <- open_study(local_data(rows))
  expect_equal(value_of(ask(s, "how many fish in total"), "estimate"), sum(rows$count))
  expect_equal(value_of(ask(s, "how many cod were counted in spring?"), "estimate"), sum(rows$count[rows$species == "Cod" & rows$season == "spring"]))
  totals <- table_of(ask(s, "total fish by reef"), "groups")
  expect_equal(totals$sum[match(c("fished", "protected"), totals[[1]])], as.vector(tapply(rows$count, rows$reef, sum)))
  rate <- ask(s, "biomass per fish by species")
  expect_equal(reading(rate)$predictors, "count")
  expect_equal(value_of(rate, "estimate"), sum(rows$biomass_g) / sum(rows$count), tolerance = 1e-12)
  most <- ask(s, "which transect has the most fish?")
  expect_equal(value_of(most, "estimate"), max(tapply(rows$count, rows$transect, sum)))
  more <- ask(s, "are there more fish in protected reefs?")
  expect_equal(abs(value_of(more, "statistic")), abs(unname(t.test(count ~ reef, rows)$statistic)), tolerance = 1e-10)
})

test_that("a thing is no level whose name is made of its verb", {
  rows <- reef_rows(); s <- open_study(local_data(rows))
  for (q in c("biomass per fish by species", "which transect has the most fish?", "how many fish in total")) expect_equal(length(filters_of(ask(s, q))), 0L, info = q)
  expect_equal(filters_of(ask(s, "average biomass on fished reefs")), "reef == fished")
})
