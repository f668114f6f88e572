import type { Language } from '../language.js';

/** Why types cannot stand in a package of a name, and what to do; undefined when they can. */
export function packageTrouble(
  { title, package: rule }: Pick<Language, 'title' | 'package'>,
  name: string,
): { readonly message: string; readonly remedy: string } | undefined {
  const quoted = JSON.stringify(name);
  if (rule === undefined) return { message: `${title} has no package to be named`, remedy: 'Leave it out.' };
  if (!rule.pattern.test(name))
    return {
      message: `package ${quoted} is not what ${title} writes`,
      remedy: `Write it as in ${rule.example}.`,
    };
  const part = name.split(/\W+/).find((each) => rule.reserved.has(rule.caseless ? each.toLowerCase() : each));
  if (part === undefined) return undefined;
  const whose = part === name ? quoted : `${JSON.stringify(part)} in ${quoted}`;
  return {
    message: `package ${quoted} cannot be: ${title} keeps ${whose} for itself`,
    remedy: `Choose another name, as in ${rule.example}.`,
  };
}
