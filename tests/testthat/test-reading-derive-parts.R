counted_votes <- function() {
  with_seed(41, {
    d <- data.frame(district = paste("District", 1:40), region = rep(c("Coast", "Hills"), 20), registered_voters = sample(2000:30000, 40))
    d$votes_cast <- round(d$registered_voters * runif(40, 0.45, 0.8)); d$green_votes <- round(d$votes_cast * runif(40, 0.2, 0.4))
    d$blue_votes <- round(d$votes_cast * runif(40, 0.2, 0.5)); d$median_age <- round(rnorm(40, 44, 4), 1)
    d
  })
}

test_that("turnout is the total of votes over that of those registered, or of each row where it is set against something", {
  d <- counted_votes()
  s <- open_study(local_data(d))
  a <- ask(s, "what was the overall turnout")
  expect_equal(value_of(a, "estimate"), sum(d$votes_cast) / sum(d$registered_voters))
  b <- ask(s, "is turnout related to median age")
  expect_equal(value_of(b, "estimate"), cor(d$votes_cast / d$registered_voters, d$median_age), tolerance = 1e-10)
  c <- ask(s, "which district had the highest turnout")
  expect_match(as.list(c)$sentences$headline, d$district[which.max(d$votes_cast / d$registered_voters)], fixed = TRUE)
  for (x in list(a, b, c)) expect_retraces(x)
})

test_that("the share of a part is of the whole that it is counted in", {
  d <- counted_votes()
  s <- open_study(local_data(d))
  a <- ask(s, "green share in the hills")
  hills <- d[d$region == "Hills", ]
  expect_equal(value_of(a, "estimate"), sum(hills$green_votes) / sum(hills$votes_cast))
  b <- ask(s, "is the green share related to median age?")
  expect_equal(value_of(b, "estimate"), cor(d$green_votes / d$votes_cast, d$median_age), tolerance = 1e-10)
  c <- ask(s, "correlation of green share and blue share")
  expect_equal(value_of(c, "estimate"), cor(d$green_votes / d$votes_cast, d$blue_votes / d$votes_cast), tolerance = 1e-10)
  for (x in list(a, b, c)) expect_retraces(x)
})
