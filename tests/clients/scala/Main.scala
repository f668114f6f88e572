package client

import com.github.plokhotnyuk.jsoniter_scala.core.*
import java.nio.file.{Files, Path}
import java.time.OffsetDateTime
import java.time.format.DateTimeFormatter.ISO_OFFSET_DATE_TIME
import saltmere.sailings.*

/** An application over the payloads of the ferries, with the library's own
  * calls.
  */
object Main:
  def main(arguments: Array[String]): Unit =
    val demo = arguments(0)
    sailings(demo)
    notices(demo)
    built()
    refused(
      "seq",
      """{"page":1,"pages":1,"next":null,"results":[{"id":1}]}"""
    )
    refused("pages", """{"page":1,"pages":"one","next":null,"results":[]}""")
    refused("next", """{"page":1,"pages":1,"results":[]}""")
    refused("page", """{"page":1,"pages":1,"next":null,""")

  private def read[A: JsonValueCodec](path: String): A =
    readFromArray[A](Files.readAllBytes(Path.of(path)))

  private def sailings(demo: String): Unit =
    val page = read[SailingPage](s"$demo/sailings/page-1.json")
    println(s"page ${page.page} of ${page.pages}")
    for sailing <- page.results do
      val delay = sailing.delayMinutes match
        case Field.Value(minutes) => s"$minutes minutes late"
        case Field.Null           => "some time"
        case Field.Absent         => "on time"
      val gates = sailing.legs.flatMap(_.gate.toOption).mkString(" ")
      println(s"${sailing.code} $delay, gates $gates")
    val first =
      page.results.head.copy(delayMinutes = Field.Value(3), remarks = Field.Null)
    val text = writeToString(first)
    println(s"${fieldOf(text, "delay_minutes")} ${fieldOf(text, "remarks")}")
    val cleared = writeToString(first.copy(delayMinutes = Field.Absent))
    println(cleared.contains("delay_minutes"))
    println(readFromString[SailingPage](writeToString(page)) == page)
    println(s"${page.results.map(_.vessel).distinct.size} vessels")

  /** What a text has under a key, where it is a scalar. */
  private def fieldOf(text: String, key: String): String =
    s""""$key":([^,}]*)""".r.findFirstMatchIn(text).fold("")(_.group(1))

  private def notices(demo: String): Unit =
    for number <- 1 to 4 do
      val notice = read[Notice](s"$demo/notices/notice-$number.json")
      val about = notice match
        case closure: ClosureNotice =>
          val until = closure.until.toOption.map(ISO_OFFSET_DATE_TIME.format)
          s"${closure.berth} is closed${until.fold("")(" until " + _)}"
        case delay: DelayNotice => s"${delay.sailing} is ${delay.minutes} late"
        case weather: WeatherNotice =>
          s"wind ${weather.wind.from} of ${weather.wind.force}"
      println(s"${notice.title}: $about, ${notice.comments.size} comments")

  private def built(): Unit =
    val issued = OffsetDateTime.parse("2031-05-01T07:30:00+01:00")
    val notice: Notice = ClosureNotice(
      id = 1,
      issued = issued,
      title = "Berth N2",
      berth = "N2",
      until = Field.Null,
      comments = List(Comment("clerk a", issued.plusMinutes(30), "Seen.", Nil)),
      audience = AudienceListOrText.Text("crew")
    )
    val text = writeToString(notice)
    println(List("kind", "until", "audience").map(fieldOf(text, _)).mkString(" "))
    val again = readFromString[Notice](text)
    println(s"${again == notice} ${Set(notice, again).size}")

  private def refused(what: String, text: String): Unit =
    val said =
      try
        readFromString[SailingPage](text)
        "decoded"
      catch
        case error: JsonReaderException =>
          if error.getMessage.isEmpty then "silent" else "refused"
    println(s"$what: $said")
