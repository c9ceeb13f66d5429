test_that("a question on the desk is answered with the document's own numbers, and a follow-up goes on", {
  study <- hive_study()
  study$vocabulary <- internal("study_vocabulary")(study)
  shiny::testServer(function(input, output, session) internal("desk_server")(study, input, output, session), {
    session$setInputs(question = "Does the honey yield differ between syrup and control?", fresh = FALSE, go = 1)
    expect_match(output$answers$html, "95 % CI 0.73 to 5.09", fixed = TRUE)
    session$setInputs(question = "only in the north", go = 2)
    expect_match(output$answers$html, "region is north", fixed = TRUE)
    session$setInputs(question = "mean wing length", fresh = TRUE, go = 3)
    expect_match(output$answers$html, "Nothing in this data is called", fixed = TRUE)
    expect_match(output$held$html, "mites_after", fixed = TRUE)
  })
})

test_that("the page is served to this machine only", {
  expect_match(paste(deparse(desk), collapse = " "), "127.0.0.1", fixed = TRUE)
})
