import type { Language } from '../languages/language.js';
import { cacheTrouble } from '../workbench/cache.js';
import { findToolchain } from '../workbench/toolchain.js';
import { say, talk } from './print.js';

/** Says which programs and libraries each language has been given. */
export async function sayToolchains(
  targets: readonly { readonly language: Language }[],
  named: ReadonlyMap<string, string>,
): Promise<void> {
  for (const language of new Set(targets.map((target) => target.language))) {
    const toolchain = await findToolchain(language, named);
    if (toolchain.state === 'missing') continue;
    for (const [name, { file, prefix, version }] of toolchain.tools)
      say(`${talk.colours.name(language.name)}: ${name} ${version} is ${[file, ...prefix].at(-1)!}`);
    for (const [name, files] of toolchain.libraries)
      say(`${talk.colours.name(language.name)}: ${name} is ${files.join(', ')}`);
  }
}

/** Says, once, why builds are not kept. */
export function sayCacheTrouble(quiet: boolean): void {
  const trouble = cacheTrouble();
  if (trouble === undefined || quiet || isSaid) return;
  isSaid = true;
  say(`${talk.colours.warn('note:')} ${trouble}; SKEVO_CACHE names another place`);
}

let isSaid = false;
