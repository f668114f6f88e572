package client

import kotlinx.serialization.SerializationException
import kotlinx.serialization.json.Json
import kotlinx.serialization.json.encodeToJsonElement
import kotlinx.serialization.json.jsonObject
import saltmere.sailings.AudienceListOrText
import saltmere.sailings.ClosureNotice
import saltmere.sailings.Comment
import saltmere.sailings.DelayNotice
import saltmere.sailings.Field
import saltmere.sailings.Notice
import saltmere.sailings.SailingPage
import saltmere.sailings.WeatherNotice
import java.io.File
import java.time.OffsetDateTime
import java.time.format.DateTimeFormatter

/** An application over the payloads of the ferries, with the library's own calls. */
public fun main(arguments: Array<String>) {
    val demo = arguments[0]
    sailings(demo)
    notices(demo)
    built()
    refused("seq", """{"page":1,"pages":1,"next":null,"results":[{"id":1}]}""")
    refused("pages", """{"page":1,"pages":"one","next":null,"results":[]}""")
    refused("next", """{"page":1,"pages":1,"results":[]}""")
    refused("page", """{"page":1,"pages":1,"next":null,""")
}

private fun sailings(demo: String) {
    val page = Json.decodeFromString<SailingPage>(File("$demo/sailings/page-1.json").readText())
    println("page ${page.page} of ${page.pages}")
    for (sailing in page.results) {
        val minutes = sailing.delayMinutes.value
        val delay =
            when {
                minutes != null -> "$minutes minutes late"
                sailing.delayMinutes.isSet -> "some time"
                else -> "on time"
            }
        val gates = sailing.legs.mapNotNull { it.gate.value }.joinToString(" ")
        println("${sailing.code} $delay, gates $gates")
    }
    val first = page.results.first().copy(delayMinutes = Field.Present(3), remarks = null)
    val changed = Json.encodeToJsonElement(first).jsonObject
    println("${changed["delay_minutes"]} ${changed["remarks"]}")
    val cleared = first.copy(delayMinutes = Field.Absent)
    println("delay_minutes" in Json.encodeToJsonElement(cleared).jsonObject)
    println(Json.decodeFromString<SailingPage>(Json.encodeToString(page)) == page)
    println("${page.results.associateBy { it.vessel }.size} vessels")
}

private fun notices(demo: String) {
    for (number in 1..4) {
        val notice = Json.decodeFromString<Notice>(File("$demo/notices/notice-$number.json").readText())
        println("${notice.title}: ${about(notice)}, ${notice.comments.size} comments")
    }
}

private fun about(notice: Notice): String =
    when (notice) {
        is ClosureNotice -> {
            val until = notice.until?.let { " until ${DateTimeFormatter.ISO_OFFSET_DATE_TIME.format(it)}" }
            "${notice.berth} is closed${until.orEmpty()}"
        }

        is DelayNotice -> "${notice.sailing} is ${notice.minutes} late"

        is WeatherNotice -> "wind ${notice.wind.from} of ${notice.wind.force}"
    }

private fun built() {
    val issued = OffsetDateTime.parse("2031-05-01T07:30:00+01:00")
    val notice: Notice =
        ClosureNotice(
            id = 1,
            issued = issued,
            title = "Berth N2",
            berth = "N2",
            until = null,
            comments = listOf(Comment("clerk a", issued.plusMinutes(30), "Seen.", emptyList())),
            audience = AudienceListOrText.Text("crew"),
        )
    val value = Json.encodeToJsonElement(notice).jsonObject
    println("${value["kind"]} ${value["until"]} ${value["audience"]}")
    val again = Json.decodeFromString<Notice>(Json.encodeToString(notice))
    println("${again == notice} ${setOf(notice, again).size}")
}

private fun refused(
    what: String,
    text: String,
) {
    val said =
        try {
            Json.decodeFromString<SailingPage>(text)
            "decoded"
        } catch (error: SerializationException) {
            if (error.message.isNullOrEmpty()) "silent" else "refused"
        }
    println("$what: $said")
}
