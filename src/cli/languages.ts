import { SkevoError } from '../core/error.js';
import { nearest } from '../core/nearest.js';
import { languages } from '../languages/index.js';
import type { Language, Style } from '../languages/language.js';

export interface Chosen {
  readonly language: Language;
  readonly style: Style;
  /** Whether the user named it, rather than asking for all. */
  readonly named: boolean;
}

/**
 * The languages and styles of `--language`: names separated by commas, each with `:style` when it is not the
 * default one; `all` for every language.
 * @throws SkevoError for a name that is not known, with the nearest
 */
export function chooseLanguages(list: string): Chosen[] {
  const chosen = new Map<string, Chosen>();
  for (const item of list.split(',').map((each) => each.trim())) {
    if (item === 'all') {
      for (const language of languages) add(chosen, { language, style: language.styles[0], named: false });
      continue;
    }
    const [name = '', styleName] = item.split(':') as [string, string?];
    const language = languages.find((each) => each.name === name);
    if (language === undefined)
      throw unknown('language', name, [...languages.map((each) => each.name), 'all']);
    const style =
      styleName === undefined ? language.styles[0] : language.styles.find((each) => each.name === styleName);
    if (style === undefined)
      throw unknown(
        `style of ${name}`,
        styleName!,
        language.styles.map((each) => each.name),
      );
    add(chosen, { language, style, named: true });
  }
  return [...chosen.values()];
}

function add(chosen: Map<string, Chosen>, choice: Chosen): void {
  const key = `${choice.language.name}:${choice.style.name}`;
  if (!chosen.has(key) || choice.named) chosen.set(key, choice);
}

function unknown(what: string, name: string, known: readonly string[]): SkevoError {
  const near = nearest(name, known);
  return new SkevoError(
    `${JSON.stringify(name)} is not a ${what} that Skevo knows`,
    near === undefined
      ? `There are ${known.join(', ')}.`
      : `Did you mean ${near}? There are ${known.join(', ')}.`,
  );
}

/**
 * The programs of `--tool`, by the names that `skevo languages` prints.
 * @throws SkevoError when one is not NAME=PROGRAM, or no language needs such a program
 */
export function toolsOption(given: readonly string[]): ReadonlyMap<string, string> {
  const names = [...new Set(languages.flatMap(({ tools }) => tools.map(({ name }) => name)))];
  return new Map(
    given.map((each) => {
      const [, name, program] = /^([^=]+)=(.+)$/.exec(each) ?? [];
      if (name === undefined || program === undefined)
        throw new SkevoError(
          `--tool ${JSON.stringify(each)} does not name a program`,
          'Write it as NAME=PROGRAM, such as go=/opt/go/bin/go.',
        );
      if (!names.includes(name))
        throw new SkevoError(
          `no language needs a program ${JSON.stringify(name)}`,
          `There are ${names.join(', ')}.`,
        );
      return [name, program];
    }),
  );
}
