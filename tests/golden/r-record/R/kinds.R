# Kinds of values, used by all types: each takes what was parsed, or what a caller gave, and returns the value or fails.
#
# NULL is an absent field (`x$note <- NULL`), NA is null. A list in JSON is a list, or an atomic vector of another
# length than one; a single value is of length one.

fail <- function(path, ...) {
  message <- paste0("at ", if (nzchar(path)) path else "the top", ": ", ...)
  stop(errorCondition(message, class = "payload_error", path = path))
}

mismatch <- function(expected, found, path) {
  kind <- if (is_null(found)) {
    "null"
  } else if (is.list(found)) {
    if (is.null(names(found))) "a list" else "an object"
  } else {
    toString(if (is.character(found)) dQuote(found, FALSE) else format(found))
  }
  fail(path, "expected ", expected, ", found ", substr(kind, 1L, 80L))
}

step <- function(path, key) paste0(path, "/", gsub("/", "~1", gsub("~", "~0", key, fixed = TRUE), fixed = TRUE))

is_null <- function(x) is.null(x) || (is.atomic(x) && length(x) == 1L && is.na(x))

is_text <- function(x) is.character(x) && length(x) == 1L && !is.na(x) && !is.object(x)

is_number <- function(x) {
  is_digits <- inherits(x, "json") || (is.numeric(x) && !is.object(x))
  is_digits && length(x) == 1L && is.finite(as.numeric(x))
}

is_whole <- function(x, bound) {
  is_number(x) && abs(as.numeric(x)) < bound && as.numeric(x) == trunc(as.numeric(x))
}

text <- function(x, path) if (is_text(x)) x else mismatch("a string", x, path)

flag <- function(x, path) if (isTRUE(x) || isFALSE(x)) x else mismatch("true or false", x, path)

number <- function(x, path) if (is_number(x)) as.numeric(x) else mismatch("a number", x, path)

# The one value of 32 bits that R has no integer for stays a double.
int32 <- function(x, path) {
  if (is_whole(x, 2^31)) {
    as.integer(x)
  } else if (is_whole(x, 2^31 + 1) && as.numeric(x) < 0) {
    as.numeric(x)
  } else {
    mismatch("an integer of 32 bits", x, path)
  }
}

# A whole number that a double holds exactly.
int53 <- function(x, path) if (is_whole(x, 2^53)) as.numeric(x) else mismatch("an integer of 53 bits", x, path)

# A whole number of 64 bits, kept in every digit by bit64; the least of all, which it has not, keeps its digits.
int64 <- function(x, path) {
  value <- x
  if (is_whole(x, 2^53)) {
    value <- bit64::as.integer64(as.numeric(x))
  } else if (inherits(x, "json")) {
    value <- suppressWarnings(bit64::as.integer64(unclass(x)))
    value <- if (identical(as.character(value), as.character(unclass(x)))) value
  }
  if (bit64::is.integer64(value) && length(value) == 1L && !is.na(value)) {
    value
  } else if (inherits(x, "json") && x == "-9223372036854775808") {
    x
  } else {
    mismatch("an integer of 64 bits", x, path)
  }
}

null <- structure(function(x, path) if (is_null(x)) NA else mismatch("null", x, path), nullable = TRUE)

anything <- structure(function(x, path) if (is.null(x)) NA else x, nullable = TRUE)

one_of <- function(...) {
  words <- c(...)
  function(x, path) {
    if (is_text(x) && x %in% words) x else mismatch(paste0('"', words, '"', collapse = " or "), x, path)
  }
}

is_listed <- function(x) if (is.list(x)) is.null(names(x)) else is.atomic(x) && length(x) != 1L && !is.null(x)

# Loops and not lapply(), which leaves the C stack room for half the depth.
list_of <- function(kind) {
  force(kind)
  function(x, path) {
    if (!is_listed(unclass(x))) {
      mismatch("a list", x, path)
    }
    values <- vector("list", length(x))
    for (i in seq_along(x)) {
      values[[i]] <- kind(x[[i]], paste0(path, "/", i - 1L))
    }
    values
  }
}

records_of <- function(plural, kind) {
  all <- list_of(kind)
  function(x, path) structure(all(x, path), class = c(plural, "records", "list"))
}

check_object <- function(x, path) {
  if (!is.list(x) || is.null(names(x))) {
    mismatch("an object", x, path)
  }
  if (anyDuplicated(names(x))) {
    fail(path, "the key \"", names(x)[anyDuplicated(names(x))], "\" twice")
  }
}

json_kind <- function(x) {
  if (is.list(x) || length(x) != 1L) {
    if (is.null(names(x))) "list" else "object"
  } else if (is_text(x)) {
    "text"
  } else if (is.logical(x)) {
    "flag"
  } else {
    "number"
  }
}

# One of several kinds, told by what JSON has: flag, text, number, list, object.
any_of <- function(...) {
  kinds <- list(...)
  function(x, path) {
    kind <- kinds[[json_kind(x)]]
    if (is.null(kind) || is.null(x)) {
      mismatch(paste("a", names(kinds), collapse = " or "), x, path)
    }
    kind(x, path)
  }
}

nullable <- function(kind, na) {
  force(kind)
  structure(function(x, path) if (is_null(x)) na else kind(x, path), nullable = TRUE)
}

optional <- function(kind) structure(kind, optional = TRUE)

is_nullable <- function(kind) isTRUE(attr(kind, "nullable"))

is_optional <- function(kind) isTRUE(attr(kind, "optional"))
