# JSON text, used by all types. jsonlite reads it; numbers that a double cannot hold pass through it as marked strings.

long <- "-?[0-9][0-9.]{15,}(?:[eE][-+]?[0-9]+)?|-?[0-9][0-9.]*[eE][-+]?[0-9]{3,}"

unheld <- "\\\\u0000|\\\\u[dD][89a-fA-F]"

parse_payload <- function(json) {
  json <- paste(json, collapse = "\n")
  if (grepl(unheld, json, perl = TRUE)) {
    whole_pairs <- "\\\\\\\\|\\\\u[dD][89abAB]..\\\\u[dD][c-fC-F].."
    if (grepl(unheld, gsub(whole_pairs, "", json, perl = TRUE), perl = TRUE)) {
      fail("", "expected text that R can hold, found \\u0000 or half a surrogate pair")
    }
  }
  marked <- grepl(long, json, perl = TRUE)
  if (marked) {
    marker <- basename(tempfile("digits-"))
    outside_strings <- paste0('"(?>[^"\\\\]++|\\\\.)*+"(*SKIP)(*F)|(', long, ")")
    json <- gsub(outside_strings, paste0('"', marker, '\\1"'), json, perl = TRUE)
  }
  payload <- jsonlite::parse_json(json)
  if (marked) unmark(payload, marker) else payload
}

unmark <- function(x, marker) {
  if (is.list(x)) {
    for (i in seq_along(x)) {
      if (!is.null(x[[i]])) {
        x[[i]] <- unmark(x[[i]], marker)
      }
    }
  } else if (is.character(x) && startsWith(x, marker)) {
    digits <- substring(x, nchar(marker) + 1L)
    x <- if (is_double(digits)) as.numeric(digits) else structure(digits, class = "json")
  }
  x
}

# Whether a double holds all digits of a number, and no other number is meant by them.
is_double <- function(digits) {
  value <- as.numeric(digits)
  is.finite(value) && abs(value) < 2^53 && significant(digits) == significant(json_number(value))
}

significant <- function(digits) {
  gsub("^0+|0+$", "", gsub(".", "", sub("[eE].*", "", sub("^-", "", digits)), fixed = TRUE))
}

# Not by jsonlite's toJSON(), which keeps 15 digits of a number.
json_string <- function(x) {
  x <- enc2utf8(x)
  special <- grepl("[\"\\\\\\x01-\\x1f\\x7f]", x, perl = TRUE)
  if (any(special)) {
    quoted <- function(text) gsub('^"|"$', "", jsonlite::toJSON(text, auto_unbox = TRUE))
    x[special] <- vapply(x[special], quoted, "")
  }
  paste0("\"", x, "\"", recycle0 = TRUE)
}

json_number <- function(x) {
  if (!is.finite(x)) {
    stop("JSON has no number for ", x)
  }
  for (digits in 15:17) {
    text <- sprintf("%.*g", digits, x)
    if (as.numeric(text) == x) {
      return(text)
    }
  }
  text
}

json_items <- function(x) {
  items <- character(length(x))
  texts <- vapply(x, is_text, NA)
  items[texts] <- json_string(as.character(x[texts]))
  for (i in which(!texts)) {
    items[[i]] <- json_text(x[[i]])
  }
  items
}

json_text <- function(x) {
  if (is.null(x)) {
    "null"
  } else if (!is.null(names(x)) && is.list(x)) {
    paste0("{", paste(json_string(names(x)), json_items(x), sep = ":", collapse = ","), "}")
  } else if (is.list(x) || length(x) != 1L) {
    paste0("[", paste(json_items(x), collapse = ","), "]")
  } else if (is.na(x)) {
    "null"
  } else if (inherits(x, c("json", "integer64"))) {
    as.character(x)
  } else if (is.object(x) || is.character(x)) {
    json_string(as.character(x))
  } else if (is.logical(x)) {
    if (x) "true" else "false"
  } else {
    json_number(x)
  }
}

write_payload <- function(x) structure(json_text(x), class = "json")

#' JSON text of a record, of a list of records, or of a list that has them
#'
#' @param x What a constructor or a `..._from_json()` function gave, and what you made of it.
#' @return Text of class `json`.
#' @export
to_json <- function(x) UseMethod("to_json")

#' @export
#: if records
to_json.default <- function(x) write_payload(checked(x))
#: else
to_json.default <- function(x) write_payload(x)
#: end
