import { rust } from './spelling.js';

/** How serde changes the case of names: of fields, which are written in snake case, and of variants. */
const rules: readonly (readonly [
  name: string,
  ofField: (name: string) => string,
  ofVariant: (name: string) => string,
])[] = [
  ['lowercase', (name) => name, lower],
  ['UPPERCASE', upper, upper],
  ['camelCase', (name) => uncapitalised(pascal(name)), uncapitalised],
  ['PascalCase', pascal, (name) => name],
  ['snake_case', (name) => name, snake],
  ['SCREAMING_SNAKE_CASE', upper, (name) => upper(snake(name))],
  ['kebab-case', kebab, (name) => kebab(snake(name))],
  ['SCREAMING-KEBAB-CASE', (name) => kebab(upper(name)), (name) => kebab(upper(snake(name)))],
];

/** serde knows the letters of ASCII alone. */
function lower(name: string): string {
  return name.replace(/[A-Z]/g, (letter) => letter.toLowerCase());
}

function upper(name: string): string {
  return name.replace(/[a-z]/g, (letter) => letter.toUpperCase());
}

function pascal(name: string): string {
  return name.replace(/(^|_+)([^_]|$)/g, (_, __, letter: string) => upper(letter));
}

function uncapitalised(name: string): string {
  return name.replace(/^[A-Z]/, lower);
}

function snake(name: string): string {
  return lower(name.replace(/(?!^)[A-Z]/g, '_$&'));
}

function kebab(name: string): string {
  return name.replace(/_/g, '-');
}

/** The rule that saves most renames, and what each name is by it; none where it saves no attribute. */
export function ruleFor(
  kind: 'field' | 'variant',
  names: readonly (readonly [name: string, key: string])[],
): { readonly rule: string | undefined; readonly by: (name: string) => string } {
  const renames = (by: (name: string) => string) =>
    names.filter(([name, key]) => by(bare(name)) !== key).length;
  const same = (name: string) => name;
  let best: ReturnType<typeof ruleFor> = { rule: undefined, by: same };
  // Its rules cut names at bytes.
  if (names.some(([name]) => !/^[\w#]*$/.test(name))) return best;
  let least = renames(same);
  for (const [rule, ofField, ofVariant] of rules) {
    const by = kind === 'field' ? ofField : ofVariant;
    const count = renames(by) + 1;
    if (count < least) [best, least] = [{ rule, by }, count];
  }
  return best;
}

/** What a key needs where its name does not say it. */
export function renamed(name: string, key: string, by: (name: string) => string): string[] {
  return by(bare(name)) === key ? [] : [`rename = ${rust(key)}`];
}

function bare(name: string): string {
  return name.replace(/^r#/, '');
}

/** Attributes whose arguments are longer are broken by the formatter. */
const longestAttribute = 70;

/** A serde attribute; nothing for no arguments. */
export function attribute(parts: readonly string[]): string {
  if (parts.length === 0) return '';
  const content = parts.join(', ');
  return content.length <= longestAttribute
    ? `#[serde(${content})]`
    : `#[serde(\n${parts.map((part) => `    ${part}`).join(',\n')}\n)]`;
}

/** An arm of a match, as the formatter breaks it. */
export function matchArm(pattern: string, body: string, indent: number): string {
  const line = `${pattern} => ${body},`;
  return line.length + indent <= 100 ? line : `${pattern} => {\n    ${body}\n}`;
}
