/** A page of the manual. */
export interface Page {
  readonly name: string;
  readonly title: string;
  readonly prose: string;
  /** What parameters are; the first of a name counts. */
  readonly items: { readonly key: string; readonly says: string }[];
  readonly usages: { readonly name: string; readonly parameters: readonly string[] }[];
}

/** The manual of a package. @param origin what its files say of where they came from */
export function manual(pages: readonly Page[], origin: string): { path: string; text: string }[] {
  const writer: Page = {
    name: 'to_json',
    title: 'JSON text of a record, of a list of records, or of a list that has them',
    prose: 'Records are checked before they are written.',
    items: [{ key: 'x', says: 'What a constructor or a reader gave, and what you made of it.' }],
    usages: [{ name: 'to_json', parameters: ['x'] }],
  };
  return [...pages, writer].map((page) => ({
    path: `man/${page.name}.Rd`,
    text: `% ${origin}\n${pageText(page)}`,
  }));
}

function pageText({ name, title, prose, items, usages }: Page): string {
  // What is not plain cannot be shown as code there.
  const shown = usages.filter(({ parameters }) => parameters.every(isPlain));
  const used = new Set(shown.flatMap(({ parameters }) => parameters.map((each) => each.split(' = ')[0]!)));
  const known = new Map([...items].reverse().map(({ key, says }) => [key, says]));
  const listed = [...used].map((key) => [key, known.get(key) || 'As in the payload.'] as const);
  return [
    `\\name{${name}}`,
    ...usages.map((each) => `\\alias{${each.name}}`),
    ...(usages.some((each) => each.name === name) ? [] : [`\\alias{${name}}`]),
    `\\title{${rd(title)}}`,
    ...(shown.length === 0
      ? []
      : ['\\usage{', shown.map((each) => usage(each.name, each.parameters)).join('\n\n'), '}']),
    ...(listed.length === 0
      ? []
      : [
          '\\arguments{',
          ...listed.map(([key, says]) => `\\item{${key === '...' ? '\\dots' : rd(key)}}{${rd(says)}}`),
          '}',
        ]),
    `\\description{${rd(prose || title)}}`,
  ].join('\n');
}

function usage(name: string, parameters: readonly string[]): string {
  const flat = `${name}(${parameters.join(', ')})`;
  return flat.length <= 88 ? flat : `${name}(\n  ${parameters.join(',\n  ')}\n)`;
}

function isPlain(parameter: string): boolean {
  return /^(?:\.\.\.|[A-Za-z.][\w.]*|`[\w .:-]+`)(?: = (?:NULL|""))?$/.test(parameter);
}

function rd(text: string): string {
  return text.replace(/[\\{}%]/g, '\\$&');
}
