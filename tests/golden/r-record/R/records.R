# Records, and lists of them, which are data frames too; used by all types.
#
# A record is a list with the names of the payload, of its own class, "record" and "list".

# The types of the package, by their classes.
types <- new.env()

record_type <- function(class, plural, fields, others = NULL) {
  type <- list(class = class, plural = plural, fields = fields, others = others)
  assign(class[[1L]], type, types)
  assign(plural, type, types)
  type
}

# A type of several, told by the word under a key.
tagged_type <- function(class, plural, key, words, arms) {
  keys <- unique(unlist(lapply(arms, function(arm) names(arm$fields))))
  fields <- lapply(stats::setNames(keys, keys), function(key) {
    kinds <- lapply(arms, function(arm) arm$fields[[key]])
    kinds <- kinds[!vapply(kinds, is.null, NA)]
    kind <- kinds[[1L]]
    attr(kind, "optional") <- length(kinds) < length(arms) || any(vapply(kinds, is_optional, NA))
    attr(kind, "nullable") <- any(vapply(kinds, is_nullable, NA))
    kind
  })
  arms <- stats::setNames(arms, words)
  type <- list(class = class, plural = plural, key = key, word = one_of(words), arms = arms, fields = fields)
  assign(class, type, types)
  assign(plural, type, types)
  type
}

type_of <- function(x) get(class(x)[[1L]], types)

# Checks the fields of a record; what has no field stays as it is, after the others.
as_record <- function(x, type, path) {
  if (!is.null(type$arms)) {
    check_object(x, path)
    word <- type$word(x[[type$key]], step(path, type$key))
    type <- type$arms[[match(word, names(type$arms))]]
  }
  check_object(x, path)
  at <- match(names(type$fields), names(x))
  given <- !is.na(at)
  for (key in names(type$fields)[!given]) {
    if (!is_optional(type$fields[[key]])) fail(step(path, key), "is missing")
  }
  others <- which(!seq_along(x) %in% at)
  record <- unclass(x)[c(at[given], others)]
  kinds <- type$fields[given]
  for (i in seq_along(kinds)) {
    record[[i]] <- kinds[[i]](.subset2(record, i), step(path, names(record)[[i]]))
  }
  other <- if (is.null(type$others)) anything else type$others
  for (i in length(kinds) + seq_along(others)) {
    record[[i]] <- other(.subset2(record, i), step(path, names(record)[[i]]))
  }
  class(record) <- c(type$class, "record", "list")
  record
}

as_records <- function(x, type, path = "") {
  if (is.data.frame(x)) {
    x <- from_frame(x, type$fields)
  }
  records_of(type$plural, function(x, path) as_record(x, type, path))(x, path)
}

# The arguments of a constructor as a list, without those that are NULL.
present <- function(...) {
  given <- list(...)
  given <- given[!vapply(given, is.null, NA)]
  if (length(given)) given else stats::setNames(given, character())
}

# A list of the caller's own, with the records in it checked.
checked <- function(x) {
  if (inherits(x, "record")) {
    as_record(x, type_of(x), "")
  } else if (inherits(x, "records")) {
    as_records(x, type_of(x))
  } else if (is.list(x)) {
    lapply(x, checked)
  } else {
    x
  }
}

#' @export
to_json.record <- function(x) write_payload(checked(x))

#' @export
to_json.records <- function(x) write_payload(checked(x))

# A field by its whole name: `$` of a list takes the beginning of one too.
#' @export
`$.record` <- function(x, name) .subset2(x, name)

#' @export
print.record <- function(x, ...) {
  cat("<", class(x)[[1L]], ">\n", sep = "")
  utils::str(unclass(x), give.head = FALSE, no.list = TRUE, give.attr = FALSE)
  invisible(x)
}

#' @export
`[.records` <- function(x, i) structure(unclass(x)[i], class = class(x))

#' @export
print.records <- function(x, ...) {
  cat("<", class(x)[[1L]], "> ", length(x), "\n", sep = "")
  invisible(x)
}

#' @export
as.data.frame.records <- function(x, ...) as_frame(x, type_of(x)$fields)

is_value <- function(x) is.atomic(x) && length(x) == 1L && !is.object(x)

as_column <- function(values) {
  if (!length(values)) {
    return(logical())
  }
  values[vapply(values, is.null, NA)] <- list(NA)
  if (any(vapply(values, inherits, NA, "integer64")) &&
        all(vapply(values, function(x) inherits(x, "integer64") || is_null(x), NA))) {
    return(structure(unlist(lapply(values, bit64::as.integer64)), class = "integer64"))
  }
  plain <- all(vapply(values, is_value, NA))
  if (plain && length(unique(vapply(values[!is.na(values)], mode, ""))) < 2L) unlist(values) else values
}

given_name <- function(key) paste0(key, "_given")

# A row a record. Null and absent are NA; where a field may be both, `<field>_given` tells them apart.
as_frame <- function(records, fields) {
  columns <- list()
  for (key in union(names(fields), unlist(lapply(records, names)))) {
    given <- vapply(records, function(record) key %in% names(record), NA)
    columns[[key]] <- as_column(lapply(records, function(record) .subset2(record, key)))
    kind <- fields[[key]]
    if (if (is.null(kind)) !all(given) else is_optional(kind) && is_nullable(kind)) {
      columns[[given_name(key)]] <- given
    }
  }
  structure(columns, class = "data.frame", row.names = .set_row_names(length(records)))
}

from_frame <- function(frame, fields) {
  keys <- setdiff(names(frame), given_name(names(frame)))
  columns <- lapply(keys, function(key) {
    values <- lapply(seq_len(nrow(frame)), function(row) frame[[key]][[row]])
    kind <- fields[[key]]
    given <- if (given_name(key) %in% names(frame)) {
      frame[[given_name(key)]]
    } else {
      is.null(kind) || !is_optional(kind)
    }
    values[vapply(values, is_null, NA) & !given] <- list(NULL)
    values
  })
  lapply(seq_len(nrow(frame)), function(row) {
    cells <- stats::setNames(lapply(columns, `[[`, row), keys)
    cells[!vapply(cells, is.null, NA)]
  })
}
