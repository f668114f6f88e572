# An application over the payloads of the ferries: read, change, write back, build from nothing.

library(saltmere)

options(warn = 2)

late <- function(sailing) {
  if (is.null(sailing$delay_minutes)) {
    "on time"
  } else if (is.na(sailing$delay_minutes)) {
    "some time"
  } else {
    paste(sailing$delay_minutes, "minutes late")
  }
}

about <- function(notice) UseMethod("about")

about.closure_notice <- function(notice) {
  paste0(notice$berth, " is closed", if (!is.na(notice$until)) paste(" until", notice$until))
}

about.delay_notice <- function(notice) paste(notice$sailing, "is", notice$minutes, "late")

about.weather_notice <- function(notice) paste("wind", notice$wind$from, "of", notice$wind$force)

refused <- function(what, json) {
  said <- tryCatch({
    sailing_page_from_json(json)
    "decoded"
  }, error = function(e) if (nzchar(conditionMessage(e))) "refused" else "silent")
  cat(what, ": ", said, "\n", sep = "")
}

demo <- commandArgs(trailingOnly = TRUE)[[1L]]
read <- function(...) paste(readLines(file.path(demo, ...), encoding = "UTF-8"), collapse = "\n")

page <- sailing_page_from_json(read("sailings", "page-1.json"))
cat("page ", page$page, " of ", page$pages, "\n", sep = "")
for (sailing in page$results) {
  gates <- unlist(lapply(sailing$legs, function(leg) leg$gate))
  cat(sailing$code, " ", late(sailing), ", gates ", paste(gates[!is.na(gates)], collapse = " "), "\n", sep = "")
}
again <- sailing_page_from_json(to_json(page))
first <- page$results[[1L]]
first$delay_minutes <- 3
first$remarks <- NA
changed <- jsonlite::parse_json(to_json(list(first = first)))$first
cat(changed$delay_minutes, " ", if (is.null(changed$remarks)) "null" else changed$remarks, "\n", sep = "")
first$delay_minutes <- NULL
cat(tolower("delay_minutes" %in% names(first)), "\n", sep = "")
cat(tolower(identical(again, page)), "\n", sep = "")
frame <- as.data.frame(page$results)
stopifnot(identical(as_sailing_page_items(frame), page$results), is.numeric(frame$load))
cat(length(unique(frame$vessel)), "vessels\n")

for (number in 1:4) {
  notice <- notice_from_json(read("notices", paste0("notice-", number, ".json")))
  cat(notice$title, ": ", about(notice), ", ", length(notice$comments), " comments\n", sep = "")
}

seen <- new_comment(by = "clerk a", at = "2031-05-01T08:00:00+01:00", text = "Seen.", replies = list())
notice <- new_closure_notice(
  id = 1, issued = "2031-05-01T07:30:00+01:00", title = "Berth N2", berth = "N2", until = NA,
  comments = list(seen), audience = "crew"
)
json <- to_json(notice)
value <- jsonlite::parse_json(json)
cat('"', value$kind, '" ', if (is.null(value$until)) "null", ' "', value$audience, '"\n', sep = "")
again <- notice_from_json(json)
cat(tolower(identical(again, notice)), " ", length(unique(list(again, notice))), "\n", sep = "")

refused("seq", '{"page":1,"pages":1,"next":null,"results":[{"id":1}]}')
refused("pages", '{"page":1,"pages":"one","next":null,"results":[]}')
refused("next", '{"page":1,"pages":1,"results":[]}')
refused("page", '{"page":1,"pages":1,"next":null,')
