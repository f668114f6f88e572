import java.io.{BufferedReader, InputStreamReader, PrintStream}

object Bench {
  private val separator = "\u001e"

  /** Halves of surrogate pairs cannot be carried by UTF-8 unless they are escaped. */
  private def escaped(text: String): String = {
    val result = new StringBuilder
    for (i <- 0 until text.length) {
      val c = text.charAt(i)
      val paired =
        (c.isHighSurrogate && i + 1 < text.length && text.charAt(i + 1).isLowSurrogate) ||
          (c.isLowSurrogate && i > 0 && text.charAt(i - 1).isHighSurrogate)
      if (c.isSurrogate && !paired) result.append("\\" + "u%04x".format(c.toInt)) else result.append(c)
    }
    result.toString
  }

  private def generated(line: String): String = __facade__.encode(__facade__.decode(line))

  //: if record
  private def built(line: String): String = {
    val value = __facade__.decode(line)
    val again = value.copy()
    if (again != value) throw new Exception("what was built is not equal to what was decoded")
    __facade__.encode(again)
  }

  private def changed(field: String, line: String, from: String): String = {
    val value = __facade__.decode(line)
    val other = __facade__.decode(from)
    field match {
      //: each setters
      case "__i__" => __facade__.encode(value.copy(__Field__ = other.__Field__))
      //: end
      case _ => throw new Exception("there is no such field in " + value + " or " + other)
    }
  }

  private val ways: List[String => String] = List(generated _, built _)
  //: else
  private val ways: List[String => String] = List(generated _)
  //: end

  private def said(make: () => String): String =
    try escaped(make())
    catch {
      case error: Exception => "!" + String.valueOf(error.getMessage).replaceAll("[\\s\u001e]+", " ")
    }

  private def answer(line: String): String = {
    //: if record
    val parts = line.split(separator)
    if (parts.length == 4) return said(() => changed(parts(1), parts(2), parts(3)))
    //: end
    val answers = ways.map(way => said(() => way(line)))
    (answers.head :: answers.tail.map(own => if (own == answers.head) "=" else own)).mkString(separator)
  }

  def main(arguments: Array[String]): Unit = {
    val input = new BufferedReader(new InputStreamReader(System.in, "UTF-8"))
    val output = new PrintStream(System.out, false, "UTF-8")
    var line = input.readLine()
    while (line != null) {
      output.print(answer(line) + "\n")
      output.flush()
      line = input.readLine()
    }
  }
}
