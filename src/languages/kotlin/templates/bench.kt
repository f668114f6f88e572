import __package__.__Root__
import kotlinx.serialization.ExperimentalSerializationApi
import kotlinx.serialization.Serializable
import kotlinx.serialization.json.Json
import java.io.IOException
import java.io.PrintStream

/** Halves of surrogate pairs, which UTF-8 cannot carry unless they are escaped. */
private val halves = Regex("\\p{Cs}")

private const val SEPARATOR = "\u001e"

private fun decoded(line: String): __Root__ = Json.decodeFromString<__Root__>(line)

private fun plain(line: String): String = Json.encodeToString(decoded(line))

@Serializable
private class Host(
    val before: Int,
    val payload: __Root__,
    val after: Int,
)

private const val BEFORE = "{\"before\":1,\"payload\":"
private const val AFTER = ",\"after\":2}"

private fun inField(line: String): String {
    val host = Json.decodeFromString<Host>(BEFORE + line + AFTER)
    if (host.before != 1 || host.after != 2) throw IOException("the fields beside the payload are lost")
    val text = Json.encodeToString(host)
    return text.substring(BEFORE.length, text.length - AFTER.length)
}

private fun elements(line: String): String {
    val list = Json.decodeFromString<List<__Root__>>("[$line]")
    val byName = Json.decodeFromString<Map<String, __Root__>>("{\"only\":$line}")
    if (list[0] != byName["only"]) throw IOException("an element of a list and one of a map differ")
    return Json.encodeToString(list).drop(1).dropLast(1)
}

/** Settings that are common. */
@OptIn(ExperimentalSerializationApi::class)
private val sparing =
    Json {
        ignoreUnknownKeys = true
        encodeDefaults = true
        explicitNulls = false
        coerceInputValues = true
    }

private fun underSettings(line: String): String =
    sparing.encodeToString(sparing.decodeFromString<__Root__>(line))

private fun built(line: String): String {
    //: if record
    val value = decoded(line)
    val again =
        __Root__(
            //: each members
            __name__ = value.__name____comma__
            //: end
        )
    if (again != value || again.hashCode() != value.hashCode()) {
        throw IOException("what was built is not equal to what was decoded")
    }
    return Json.encodeToString<__Root__>(again)
    //: else
    return plain(line)
    //: end
}

//: if setters
private fun changed(
    field: String,
    line: String,
    from: String,
): String {
    val value = decoded(line)
    val other = decoded(from)
    val changed =
        when (field) {
            //: each setters
            "__i__" -> value.copy(__name__ = other.__name__)
            //: end
            else -> throw IOException("there is no such field")
        }
    return Json.encodeToString<__Root__>(changed)
}

//: end
private val ways: List<(String) -> String> = listOf(::plain, ::inField, ::elements, ::underSettings, ::built)

private fun said(make: () -> String): String =
    try {
        halves.replace(make()) { half -> "\\u" + half.value[0].code.toString(16).padStart(4, '0') }
    } catch (error: IOException) {
        refused(error)
    } catch (error: IllegalArgumentException) {
        refused(error)
    }

private fun refused(error: Exception): String = "!" + error.message.orEmpty().replace(Regex("[\\s\u001e]+"), " ")

private fun answer(line: String): String {
    //: if setters
    val parts = line.split(SEPARATOR)
    if (parts.size == 4) return said { changed(parts[1], parts[2], parts[3]) }
    //: end
    val answers = ways.map { way -> said { way(line) } }
    return answers.mapIndexed { i, own -> if (i > 0 && own == answers[0]) "=" else own }.joinToString(SEPARATOR)
}

public fun main() {
    val input = System.`in`.bufferedReader(Charsets.UTF_8)
    val output = PrintStream(System.out, false, "UTF-8")
    while (true) {
        val line = input.readLine() ?: break
        output.print(answer(line) + "\n")
        output.flush()
    }
}
