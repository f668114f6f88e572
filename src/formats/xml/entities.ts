/** What all entities of a document may come to: few lines can stand for gigabytes. */
const mostText = 1 << 20;

const predefined: Readonly<Record<string, string>> = { lt: '<', gt: '>', amp: '&', apos: "'", quot: '"' };

/**
 * The entities that a document type declares and that stand for plain text (XML 1.0, section 4.2.1). External ones are never
 * fetched; those that hold elements, or too much, are left out.
 * @param declared what stands between `<!DOCTYPE` and `>`
 * @returns whether there was nothing else that a document may rely on: defaults of attributes, external parts
 */
export function entitiesIn(declared: string): { entities: Record<string, string>; isWhole: boolean } {
  const written = new Map<string, string>();
  let isWhole = !/<!ATTLIST|\b(?:SYSTEM|PUBLIC)\s/.test(declared);
  for (const [, name = '', double, single] of declared.matchAll(
    /<!ENTITY\s+([^\s%"'<>&]+)\s+(?:"([^"]*)"|'([^']*)')\s*>/g,
  ))
    if (!written.has(name)) written.set(name, double ?? single ?? '');
  let length = 0;
  const known = new Map<string, string | undefined>();
  /** The text that an entity stands for; undefined when it is not plain, not known, or its own. */
  const textOf = (name: string): string | undefined => {
    if (predefined[name] !== undefined) return predefined[name];
    if (known.has(name)) return known.get(name);
    const value = written.get(name);
    known.set(name, undefined);
    if (value === undefined) return undefined;
    let isPlain = !value.includes('<');
    const text = value.replace(
      /&(?:#x([0-9a-fA-F]+)|#(\d+)|([^;\s&]+));/g,
      (_, hex?: string, decimal?: string, other?: string) => {
        const code = hex === undefined ? Number(decimal) : parseInt(hex, 16);
        const part =
          other === undefined
            ? code <= 0x10ffff
              ? String.fromCodePoint(code)
              : undefined
            : length > mostText
              ? undefined
              : textOf(other);
        if (part === undefined || part === '<' || part === '&') isPlain = false;
        return part ?? '';
      },
    );
    length += text.length;
    if (!isPlain || length > mostText) return undefined;
    known.set(name, text);
    return text;
  };
  const entities: Record<string, string> = {};
  for (const name of written.keys()) {
    const text = textOf(name);
    if (text === undefined) isWhole = false;
    else entities[name] = text;
  }
  return { entities, isWhole };
}
