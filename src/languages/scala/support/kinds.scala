private def isText(in: JsonReader): Boolean = next(in, "\"")

private def isNumber(in: JsonReader): Boolean = next(in, "-0123456789")

private def isFlag(in: JsonReader): Boolean = next(in, "tf")

private def isList(in: JsonReader): Boolean = next(in, "[")

private def isObject(in: JsonReader): Boolean = next(in, "{")

/** Whether what comes next begins with one of some characters. */
private def next(in: JsonReader, starts: String): Boolean =
  val token = in.nextToken()
  in.rollbackToken()
  starts.indexOf(token) >= 0

/** Whether an object comes next that has a key. */
private def has(in: JsonReader, key: String): Boolean =
  in.setMark()
  val found = in.isNextToken('{') && in.skipToKey(key)
  in.rollbackToMark()
  found

/** Whether an object comes next that has one of some words under a key. */
private def says(in: JsonReader, key: String, words: String*): Boolean =
  in.setMark()
  val found =
    in.isNextToken('{') && in.skipToKey(key) && in.isNextToken('"') && {
      in.rollbackToken()
      words.contains(in.readString(null))
    }
  in.rollbackToMark()
  found
