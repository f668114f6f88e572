import com.fasterxml.jackson.annotation.JsonInclude
import com.fasterxml.jackson.annotation.JsonProperty
import com.fasterxml.jackson.databind.DeserializationFeature
import com.fasterxml.jackson.databind.ObjectMapper
import com.fasterxml.jackson.databind.PropertyNamingStrategies
import java.io.IOException
import java.io.PrintStream

/** Halves of surrogate pairs, which UTF-8 cannot carry unless they are escaped. */
private val halves = Regex("\\p{Cs}")

private const val separator = "\u001e"

private fun generated(line: String): String = __facade__.encode(__facade__.decode(line))

//: if named
private val plain = ObjectMapper()

private fun library(line: String): String =
    plain.writeValueAsString(plain.readValue(line, __package__.__Root__::class.java))

class Host(
    @param:JsonProperty("before") @get:JsonProperty("before") val before: Int,
    @param:JsonProperty("payload") @get:JsonProperty("payload") val payload: __package__.__Root__,
    @param:JsonProperty("after") @get:JsonProperty("after") val after: Int
)

private const val before = "{\"before\":1,\"payload\":"
private const val after = ",\"after\":2}"

private fun inField(line: String): String {
    val host = __facade__.mapper.readValue(before + line + after, Host::class.java)
    if (host.before != 1 || host.after != 2) throw IOException("the fields beside the payload are lost")
    val text = __facade__.mapper.writeValueAsString(host)
    return text.substring(before.length, text.length - after.length)
}

/** Settings that are common: no nulls, names in snake case, what is unknown left out. */
private val sparing = ObjectMapper()
    .setSerializationInclusion(JsonInclude.Include.NON_NULL)
    .setPropertyNamingStrategy(PropertyNamingStrategies.SNAKE_CASE)
    .disable(DeserializationFeature.FAIL_ON_UNKNOWN_PROPERTIES)

private fun underSettings(line: String): String =
    sparing.writeValueAsString(sparing.readValue(line, __package__.__Root__::class.java))

//: end
//: if record
private fun built(line: String): String {
    val value = __facade__.decode(line)
    val again = __package__.__Root__(
        //: each fields
        __Field__ = value.__Field____comma__
        //: end
    )
    if (again != value) throw IOException("what was built is not equal to what was decoded")
    return __facade__.encode(again)
}

private fun changed(field: String, line: String, from: String): String {
    val value = __facade__.decode(line)
    val other = __facade__.decode(from)
    return when (field) {
        //: each setters
        "__i__" -> __facade__.encode(value.copy(__Field__ = other.__Field__))
        //: end
        else -> throw IOException("there is no such field in $value or $other")
    }
}

//: end
private val ways: List<(String) -> String> = listOf(
    //: if named
    ::generated,
    ::library,
    ::inField,
    //: if record
    ::underSettings,
    ::built
    //: else
    ::underSettings
    //: end
    //: else
    ::generated
    //: end
)

private fun said(make: () -> String): String =
    try {
        halves.replace(make()) { half -> "\\u" + half.value[0].toInt().toString(16).padStart(4, '0') }
    } catch (error: Exception) {
        "!" + (error.message ?: "").replace(Regex("[\\s\u001e]+"), " ")
    }

private fun answer(line: String): String {
    //: if record
    val parts = line.split(separator)
    if (parts.size == 4) return said { changed(parts[1], parts[2], parts[3]) }
    //: end
    val answers = ways.map { way -> said { way(line) } }
    return answers.mapIndexed { i, own -> if (i > 0 && own == answers[0]) "=" else own }.joinToString(separator)
}

fun main() {
    val input = System.`in`.bufferedReader(Charsets.UTF_8)
    val output = PrintStream(System.out, false, "UTF-8")
    while (true) {
        val line = input.readLine() ?: break
        output.print(answer(line) + "\n")
        output.flush()
    }
}
