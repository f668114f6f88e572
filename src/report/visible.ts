/** What could move the cursor, turn a line around or hide text; what joins letters and signs of one script stays. */
const hidden = /(?![\u200c\u200d])[\p{Cc}\p{Cf}\p{Cs}\p{Zl}\p{Zp}]/gu;

function escaped(character: string): string {
  return Array.from(
    { length: character.length },
    (_, i) => `\\u${character.charCodeAt(i).toString(16).padStart(4, '0')}`,
  ).join('');
}

/** Text without anything that could move the cursor or turn the line around. */
export function visible(text: string): string {
  return text.replace(hidden, escaped);
}

/** The codes of the colours that Skevo itself prints. */

const colour = /(\x1b\[(?:0|1|2|22|31|32|33|36|39)m)/;

/**
 * Lines as a stream may show them: what `visible` takes out, save for the ends of lines and tabs. In JSON text the
 * escapes say the same as what they stand for.
 * @param isColoured whether colours of this program may be among them
 */
export function showable(text: string, isColoured: boolean): string {
  const shown = (part: string): string =>
    part.replace(hidden, (character) => (/[\n\t]/.test(character) ? character : escaped(character)));
  // Every second part is what the pattern caught.
  return isColoured
    ? text
        .split(colour)
        .map((part, i) => (i % 2 === 1 ? part : shown(part)))
        .join('')
    : shown(text);
}
