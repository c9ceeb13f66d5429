test_that("values and numbers named in a question become conditions, each said in the reading", {
  study <- hive_study()
  cases <- list(
    list("mean honey yield in the north", "region == north"),
    list("mean honey yield without the coast", "region != coast"),
    list("mean honey yield except north and south", "region not_in north|south"),
    list("mean honey yield where queen age is over 12", "queen_age_months > 12"),
    list("mean honey yield for queen age of at least 16", "queen_age_months >= 16"),
    list("mean honey yield for strength before between 8 and 10", "strength_before between 8|10"),
    list("mean honey yield for mites before below 5", "mites_before < 5"))
  for (case in cases) {
    a <- ask(study, case[[1]])
    expect_equal(filters_of(a), case[[2]], info = case[[1]])
    expect_equal(reading(a)$outcome, "honey_yield_kg", info = case[[1]])
  }
})

test_that("two conditions both hold", {
  raw <- read.csv(demo_file())
  a <- ask(hive_study(), "mean honey yield in the north for queen age over 12")
  expect_equal(value_of(a, "estimate"), with(raw, mean(honey_yield_kg[region == "north" & queen_age_months > 12], na.rm = TRUE)), tolerance = 1e-12)
})

test_that("two named levels of three give the groups and the condition", {
  a <- ask(hive_study(), "Does the honey yield differ between syrup and control?")
  expect_equal(reading(a)$by, "arm")
  expect_equal(filters_of(a), "arm in syrup|control")
})

test_that("a level stated beside its column is that level, whatever everyday word it is", {
  d <- with_seed(2, data.frame(income = round(rnorm(120, 100, 20)), x = rnorm(120), girl = sample(c("yes", "no"), 120, TRUE),
                               region = sample(c("North", "South", "East"), 120, TRUE), status = sample(c("other", "none", "open"), 120, TRUE)))
  s <- open_study(d)
  girls <- c("mean income for girl = yes", "mean income where girl is yes", "mean income where girl=yes", "median income if girl == 'yes'",
             "income by region, girl = yes", "average income by region (girl = yes only)", "mean income for girl: yes", "mean income for girl = Yes",
             "regression of income on x for girl yes", "mean income by region for girl = yes")
  for (q in girls) {
    a <- ask(s, q)
    expect_equal(filters_of(a), "girl == yes", info = q)
    expect_equal(a$frame$used, sum(d$girl == "yes"), info = q)
    expect_false("girl" %in% c(a$reading$outcome, a$reading$by, a$reading$predictors), info = q)
  }
  expect_equal(filters_of(ask(s, "mean income if girl is not yes")), "girl != yes")
  expect_equal(filters_of(ask(s, "mean income without girl = no")), "girl != no")
  expect_equal(filters_of(ask(s, "does income differ by region when girl = no?")), "girl == no")
  expect_equal(filters_of(ask(s, "mean income for status = other")), "status == other")
  expect_equal(filters_of(ask(s, "mean income where status is none")), "status == none")
  expect_setequal(filters_of(ask(s, "mean income with girl = yes and region = North")), c("girl == yes", "region == North"))
  # what is shared out or compared is no condition
  share <- ask(s, "share of girl = yes by region")
  expect_length(filters_of(share), 0)
  expect_match(as.list(share)$sentences$headline, "Girl is yes in")
  expect_equal(ask(s, "mean income by girl")$reading$by, "girl")
})

test_that("rows named by their keys are left out where that is said, one after the other", {
  s <- hive_study()
  wanted <- c("mean honey yield without hive H019" = "hive_id != H019", "mean honey yield excluding H018 and H019" = "hive_id not_in H018|H019",
              "honey yield by arm except for hives H001, H002 and H003" = "hive_id not_in H001|H002|H003",
              "average honey yield not counting H001" = "hive_id != H001", "mean honey yield of hives H001 and H002" = "hive_id in H001|H002",
              "does honey yield differ by arm, leaving out hives H001 and H002" = "hive_id not_in H001|H002")
  for (q in names(wanted)) expect_equal(filters_of(ask(s, q)), wanted[[q]], info = q)
  rows <- read.csv(demo_file())
  a <- ask(s, "mean honey yield excluding H018 and H019")
  expect_equal(value_of(a, "estimate"), mean(rows$honey_yield_kg[!rows$hive_id %in% c("H018", "H019")], na.rm = TRUE), tolerance = 1e-12)
  b <- ask(ask(ask(s, "mean honey yield by arm"), "leave out hive H018"), "without H019")
  expect_equal(filters_of(b), "hive_id not_in H018|H019")
  c <- ask(ask(ask(s, "mean honey yield by arm"), "without the north"), "without the coast")
  expect_equal(filters_of(c), "region not_in north|coast")
  expect_equal(filters_of(ask(c, "only the south")), "region == south")
  d <- ask(ask(ask(s, "mean honey yield by region"), "only syrup"), "and also control")
  expect_setequal(strsplit(sub("arm in ", "", filters_of(d)), "|", fixed = TRUE)[[1]], c("syrup", "control"))
})
