invisible(Sys.setlocale("LC_ALL", "C.UTF-8"))
options(warn = 2)
for (file in c(__sources__)) source(file.path("classes/R", file), encoding = "UTF-8")

separator <- "\x1e"

decoded <- function(text) __reader__(text)

inside <- function(text) {
  host <- to_json(list(before = 1L, payload = decoded(text)))
  substr(host, nchar('{"before":1,"payload":') + 1L, nchar(host) - 1L)
}

ways <- list(
  function(text) to_json(decoded(text)),
  function(text) to_json(__validator__(jsonlite::parse_json(text))),
  inside
)
#: if listed
ways <- c(ways, function(text) {
  one <- __list__(list(decoded(text)))
  again <- __list__(as.data.frame(one))
  if (!identical(again, one)) {
    stop("what came back from the data frame is not identical")
  }
  to_json(again[[1L]])
})
#: end
#: if built
keys <- c(__keys__)

ways <- c(ways, function(text) {
  value <- decoded(text)
  again <- do.call(__builder__, unclass(value))
  if (!identical(again[order(names(again))], value[order(names(value))])) {
    stop("what was built is not identical to what was decoded")
  }
  to_json(again)
})

changed <- function(field, text, from) {
  value <- decoded(text)
  key <- keys[[as.integer(field) + 1L]]
  value[[key]] <- .subset2(decoded(from), key)
  to_json(value)
}
#: end

said <- function(expression) {
  tryCatch(
    as.character(expression),
    error = function(e) paste0("!", gsub("[[:space:]\x1e]+", " ", conditionMessage(e)))
  )
}

answer <- function(line) {
  #: if built
  parts <- strsplit(line, separator, fixed = TRUE)[[1L]]
  if (length(parts) == 4L) {
    return(said(changed(parts[[2L]], parts[[3L]], parts[[4L]])))
  }
  #: end
  answers <- vapply(ways, function(way) said(way(line)), "")
  paste(c(answers[[1L]], ifelse(answers[-1L] == answers[[1L]], "=", answers[-1L])), collapse = separator)
}

input <- file("stdin", "r", encoding = "UTF-8", blocking = TRUE)
output <- stdout()
while (length(line <- readLines(input, 1L, warn = FALSE))) {
  writeLines(answer(line), output, useBytes = TRUE)
  flush(output)
}
