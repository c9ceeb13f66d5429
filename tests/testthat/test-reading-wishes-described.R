# What a model expects of somebody or something described in passing.

test_that("every part of a description holds a column of the model", {
  rows <- with_seed(64, {
    n <- 200
    out <- data.frame(district = sample(c("Old Town", "Harbour"), n, TRUE), type = sample(c("flat", "terraced", "detached"), n, TRUE),
                      bedrooms = sample(1:5, n, TRUE), rating = sample(c("A", "B", "C"), n, TRUE))
    out$floor_area_m2 <- round(30 + 20 * out$bedrooms + rnorm(n, 0, 10))
    out$sale_price <- round(80000 + 2000 * out$floor_area_m2 + 30000 * (out$district == "Harbour") + rnorm(n, 0, 20000))
    out
  })
  s <- open_study(local_data(rows))
  a <- ask(s, "predict the sale price of a 3 bedroom terraced house of 95 m2 in Harbour")
  fit <- lm(sale_price ~ bedrooms + type + floor_area_m2 + district, rows)
  own <- predict(fit, data.frame(bedrooms = 3, type = "terraced", floor_area_m2 = 95, district = "Harbour"), interval = "confidence")
  expect_setequal(reading(a)$predictors, c("bedrooms", "type", "floor_area_m2", "district"))
  expect_match(as.list(a)$sentences$headline, format(round(own[1]), big.mark = ","), fixed = TRUE)
  # a word that names nothing in the data is not passed over
  b <- ask(s, "predict the sale price of a 3 bedroom bungalow of 95 m2")
  expect_false(status_of(b) == "answered" && length(reading(b)$predictors) == 1 && !length(as.list(b)$reading$assumed))
})

test_that("a level beside a number keeps its rows when a chance is asked for", {
  rows <- with_seed(65, data.frame(visitor = 1:400, device = sample(c("mobile", "desktop"), 400, TRUE), pages = rpois(400, 4) + 1))
  rows$converted <- with_seed(66, rbinom(400, 1, plogis(-2 + 0.15 * rows$pages + 0.5 * (rows$device == "desktop"))))
  a <- ask(open_study(local_data(rows)), "chance of converting for a mobile visitor with 8 pages")
  own <- predict(glm(converted ~ pages, binomial, rows[rows$device == "mobile", ]), data.frame(pages = 8), type = "response")
  expect_equal(filters_of(a), "device == mobile")
  expect_match(as.list(a)$sentences$headline, sprintf("%.1f %%", 100 * own), fixed = TRUE)
})
