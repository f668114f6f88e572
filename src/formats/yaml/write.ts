import { Document, Scalar, type ScalarTag } from 'yaml';
import type { JsonValue } from '../../core/json/value.js';

/** A number in its own digits, which the library's numbers would lose. */
class Digits {
  constructor(readonly text: string) {}
}

const digits: ScalarTag = {
  tag: 'tag:yaml.org,2002:float',
  default: true,
  identify: (value) => value instanceof Digits,
  resolve: (text) => new Digits(text),
  test: /^(?!)/,
  stringify: ({ value }: Scalar) => (value as Digits).text,
};

/** Values as the documents of a YAML 1.2 stream. */
export function writeYaml(values: readonly JsonValue[]): string {
  const texts = values.map((value) => {
    const document = new Document(plain(value), {
      version: '1.2',
      customTags: [digits],
      aliasDuplicateObjects: false,
    });
    return document.toString({ lineWidth: 0 });
  });
  return texts.join('---\n');
}

/** A key that is one, and no merge of what it leads to. */
function keyOf(key: string): string | Scalar {
  if (key !== '<<') return key;
  const quoted = new Scalar(key);
  quoted.type = Scalar.QUOTE_DOUBLE;
  return quoted;
}

function plain(value: JsonValue): unknown {
  switch (value.kind) {
    case 'null':
      return null;
    case 'boolean':
    case 'string':
      return value.value;
    case 'number':
      return new Digits(value.text);
    case 'list':
      return value.items.map(plain);
    case 'object':
      return new Map(value.members.map(({ key, value: each }) => [keyOf(key), plain(each)]));
  }
}
