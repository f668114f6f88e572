import __package__.__Root__
import com.github.plokhotnyuk.jsoniter_scala.core.*
import com.github.plokhotnyuk.jsoniter_scala.macros.JsonCodecMaker
import java.io.{BufferedReader, IOException, InputStreamReader, PrintStream}
import scala.util.control.NonFatal

final case class Host(before: Int, payload: __Root__, after: Int)

object Host:
  given JsonValueCodec[Host] = JsonCodecMaker.make

object Bench:
  private given JsonValueCodec[List[__Root__]] = JsonCodecMaker.make
  private given JsonValueCodec[Map[String, __Root__]] = JsonCodecMaker.make

  private val separator = "\u001e"

  private def decoded(line: String): __Root__ = readFromString[__Root__](line)

  private def plain(line: String): String = writeToString(decoded(line))

  private def inField(line: String): String =
    val start = "{\"before\":1,\"payload\":"
    val end = ",\"after\":2}"
    val host = readFromString[Host](start + line + end)
    if host.before != 1 || host.after != 2 then
      throw IOException("the fields beside the payload are lost")
    writeToString(host).drop(start.length).dropRight(end.length)

  private def elements(line: String): String =
    val list = readFromString[List[__Root__]](s"[$line]")
    val byName = readFromString[Map[String, __Root__]](s"{\"only\":$line}")
    if list.head != byName("only") then
      throw IOException("an element of a list and one of a map differ")
    writeToString(list).drop(1).dropRight(1)

  private def built(line: String): String =
    //: if record
    val value = decoded(line)
    val again = __Root__(
      //: each members
      __name__ = value.__name____comma__
      //: end
    )
    if again != value || again.hashCode != value.hashCode then
      throw IOException("what was built is not equal to what was decoded")
    writeToString(again)
    //: else
    plain(line)
    //: end

  //: if setters
  private def changed(field: String, line: String, from: String): String =
    val value = decoded(line)
    val other = decoded(from)
    writeToString(field match
      //: each setters
      case "__i__" => value.copy(__name__ = other.__name__)
      //: end
      case _ => throw IOException("there is no such field")
    )

  //: end
  private val ways: List[String => String] =
    List(plain, inField, elements, built)

  private def said(make: => String): String =
    try make
    catch
      case _: StackOverflowError => "!it is nested too deeply"
      case NonFatal(error) =>
        // The library adds a dump of the text around.
        s"!${String.valueOf(error.getMessage).linesIterator.next().stripSuffix(", buf:")}"

  private def answer(line: String): String =
    //: if setters
    val parts = line.split(separator)
    if parts.length == 4 then
      return said(changed(parts(1), parts(2), parts(3)))
    //: end
    val answers = ways.map(way => said(way(line)))
    answers.zipWithIndex
      .map((own, i) => if i > 0 && own == answers.head then "=" else own)
      .mkString(separator)

  def main(arguments: Array[String]): Unit =
    val input = BufferedReader(InputStreamReader(System.in, "UTF-8"))
    val output = PrintStream(System.out, false, "UTF-8")
    var line = input.readLine()
    while line != null do
      output.print(answer(line) + "\n")
      output.flush()
      line = input.readLine()
