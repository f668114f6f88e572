import type { UnknownRule } from '../language.js';

/** What the generated Scala stands on: how values are read from Jackson's tree and written to it. */
export const codec = (unknown: UnknownRule): string => `/** A payload does not have the declared shape. */
final class DecodeError(val path: String, val expected: String, val found: String)
    extends RuntimeException("at " + (if (path.isEmpty) "the top" else path) + ": expected " + expected + ", found " + found) {

  /** The same error, seen from the object or list around it. */
  def within(step: String): DecodeError =
    new DecodeError("/" + step.replace("~", "~0").replace("/", "~1") + path, expected, found)
}

/** How a type is read from JSON and written to it. */
trait Codec[T] {
  def read(node: JsonNode): T
  def write(value: T): JsonNode
}

object Codec {
  private val nodes = JsonNodeFactory.withExactBigDecimals(true)

  def mismatch(expected: String, found: JsonNode): DecodeError = {
    val text = if (found.isObject) "an object" else if (found.isArray) "a list" else found.toString
    new DecodeError("", expected, if (text.length > 40) text.take(39) + "…" else text)
  }

  def within[T](step: String)(work: => T): T =
    try work
    catch { case error: DecodeError => throw error.within(step) }

  private def of[T](expected: String, is: JsonNode => Boolean, from: JsonNode => T, to: T => JsonNode): Codec[T] =
    new Codec[T] {
      def read(node: JsonNode): T = if (is(node)) from(node) else throw mismatch(expected, node)
      def write(value: T): JsonNode = to(value)
    }

  val anything: Codec[JsonNode] = of("anything", _ => true, identity[JsonNode], identity[JsonNode])
  val nothing: Codec[JsonNode] = of("null", _.isNull, identity[JsonNode], identity[JsonNode])
  val boolean: Codec[Boolean] = of("true or false", _.isBoolean, _.booleanValue, nodes.booleanNode(_))
  val string: Codec[String] = of("a string", _.isTextual, _.textValue, nodes.textNode(_))
  val int: Codec[Int] = of("an integer of 32 bits", n => n.isIntegralNumber && n.canConvertToInt, _.intValue, nodes.numberNode(_: Int))
  val long: Codec[Long] =
    of("an integer of 64 bits", n => n.isIntegralNumber && n.canConvertToLong, _.longValue, nodes.numberNode(_: Long))
  val bigInt: Codec[BigInt] =
    of("an integer", _.isIntegralNumber, n => BigInt(n.bigIntegerValue), value => nodes.numberNode(value.bigInteger))
  val double: Codec[Double] = of("a number", _.isNumber, _.doubleValue, nodes.numberNode(_: Double))
  val decimal: Codec[java.math.BigDecimal] = of("a number", _.isNumber, _.decimalValue, nodes.numberNode(_: java.math.BigDecimal))

  def literal(word: String): Codec[String] =
    of("\\"" + word + "\\"", node => node.isTextual && node.textValue == word, _.textValue, nodes.textNode(_))

  def nullable[T](inner: Codec[T]): Codec[Option[T]] = new Codec[Option[T]] {
    def read(node: JsonNode): Option[T] = if (node.isNull) None else Some(inner.read(node))
    def write(value: Option[T]): JsonNode = value.fold[JsonNode](nodes.nullNode)(inner.write)
  }

  def list[T](inner: Codec[T]): Codec[List[T]] = new Codec[List[T]] {
    def read(node: JsonNode): List[T] = {
      if (!node.isArray) throw mismatch("a list", node)
      List.tabulate(node.size)(i => within(i.toString)(inner.read(node.get(i))))
    }
    def write(value: List[T]): JsonNode = items(value.map(inner.write))
  }

  def map[T](inner: Codec[T]): Codec[Map[String, T]] = new Codec[Map[String, T]] {
    def read(node: JsonNode): Map[String, T] = {
      val names = new Fields(node).names
      names.map(name => name -> within(name)(inner.read(node.get(name)))).toMap
    }
    def write(value: Map[String, T]): JsonNode = {
      val result = nodes.objectNode
      value.foreach { case (key, each) => result.set[JsonNode](key, inner.write(each)) }
      result
    }
  }

  def elements(node: JsonNode, size: Int): JsonNode =
    if (node.isArray && node.size == size) node else throw mismatch("a list of " + size, node)

  def items(all: Seq[JsonNode]): JsonNode = all.foldLeft(nodes.arrayNode)(_.add(_))

  /** The fields of an object. */
  final class Fields(node: JsonNode) {
    if (!node.isObject) throw mismatch("an object", node)

    def names: List[String] = {
      val all = node.fieldNames
      Iterator.continually(all).takeWhile(_.hasNext).map(_.next()).toList
    }
    def required[T](key: String, codec: Codec[T]): T = within(key) {
      if (node.has(key)) codec.read(node.get(key)) else throw new DecodeError("", "a value", "nothing")
    }
    def optional[T](key: String, codec: Codec[T]): Option[T] = if (node.has(key)) Some(required(key, codec)) else None${
      {
        drop: '',
        keep: `

    /** Those whose names are not known. */
    def others(known: String*): Map[String, JsonNode] =
      names.filterNot(known.contains).map(name => name -> node.get(name)).toMap`,
        reject: `

    /** The same, which has no others than those that are known. */
    def only(known: String*): Fields = {
      names.filterNot(known.contains).foreach(name => within(name)(throw mismatch("no such field", node.get(name))))
      this
    }`,
      }[unknown]
    }
  }

  /** An object in the making. */
  final class Writer {
    val node: ObjectNode = nodes.objectNode

    def add[T](key: String, codec: Codec[T], value: T): Writer = {
      node.set[JsonNode](key, codec.write(value))
      this
    }
    def add[T](key: String, codec: Codec[T], value: Option[T], mayLack: Boolean): Writer =
      if (mayLack && value.isEmpty) this else add(key, codec, value.get)
${
  unknown === 'keep'
    ? `    def addAll(fields: Map[String, JsonNode]): Writer = {
      fields.foreach { case (key, value) => node.set[JsonNode](key, value) }
      this
    }
`
    : ''
}  }
}`;

/** A list of fixed length. */
export function tuple(size: number): string {
  const letters = 'ABCDEFGH'.slice(0, size).split('');
  const types = letters.join(', ');
  const lower = (letter: string) => letter.toLowerCase();
  return `object Tuple${size}Codec {
  def apply[${types}](${letters.map((each) => `${lower(each)}: Codec[${each}]`).join(', ')}): Codec[(${types})] = new Codec[(${types})] {
    def read(node: JsonNode): (${types}) = {
      val items = Codec.elements(node, ${size})
      (${letters.map((each, i) => `Codec.within("${i}")(${lower(each)}.read(items.get(${i})))`).join(', ')})
    }
    def write(value: (${types})): JsonNode =
      Codec.items(Seq(${letters.map((each, i) => `${lower(each)}.write(value._${i + 1})`).join(', ')}))
  }
}`;
}
