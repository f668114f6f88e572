import { SkevoError } from '../core/error.js';
import type { Note, Notes } from '../core/note.js';
import { fewestColumns, terminalOf, widened, type Terminal } from '../report/terminal.js';
import { showable, visible } from '../report/visible.js';

export let out: Terminal = terminalOf(process.stdout);
export let talk: Terminal = terminalOf(process.stderr);

/**
 * Lays out what is printed from now on for so many columns.
 * @throws SkevoError for what is no width
 */
export function fillColumns(width: number): void {
  if (!Number.isInteger(width) || width < fewestColumns)
    throw new SkevoError(
      `--width takes columns, ${fewestColumns} or more`,
      'Leave it out to take those of the terminal, or 200 in a pipe.',
    );
  out = widened(out, width);
  talk = widened(talk, width);
}

/** Results: to the standard output, ending in a line feed. All that is printed goes through here or through `say`. */
export function print(text: string): void {
  process.stdout.write(showable(text.endsWith('\n') ? text : `${text}\n`, out.isColoured));
}

/**
 * Payloads in a format: to the standard output.
 * @throws SkevoError for bytes that a terminal cannot show
 */
export function give(content: string | Uint8Array, format: string): void {
  if (typeof content === 'string') print(content);
  else if (process.stdout.isTTY)
    throw new SkevoError(`${format} is no text for a terminal`, 'Write it to a file, by --out or by >.');
  else process.stdout.write(content);
}

/**
 * Payloads in a format, as they come: to the standard output.
 * @throws SkevoError for bytes that a terminal cannot show
 */
export async function giveAll(
  parts: AsyncIterable<Uint8Array>,
  isText: boolean,
  format: string,
): Promise<void> {
  const { stdout } = process;
  if (stdout.isTTY && !isText)
    throw new SkevoError(`${format} is no text for a terminal`, 'Write it to a file, by --out or by >.');
  const decoder = new TextDecoder('utf-8', { ignoreBOM: true });
  for await (const part of parts) {
    const shown = stdout.isTTY ? showable(decoder.decode(part, { stream: true }), out.isColoured) : part;
    if (!stdout.write(shown)) await new Promise((resolve) => stdout.once('drain', resolve));
  }
}

/** Tells of a standard output that takes no more: a pipe that was closed, or a full disk. */
export function whenOutputFails(tell: (error: NodeJS.ErrnoException) => void): void {
  process.stdout.on('error', tell);
  // Nobody is left to be told.
  process.stderr.on('error', () => {});
}

/** Talk: to the standard error. */
export function say(text: string): void {
  process.stderr.write(showable(`${text}\n`, talk.isColoured));
}

const notesShown = 20;

/** Takes notes and says the first of them at once; `finish` says how many were left out. */
export function noteTaker(quiet: boolean): { notes: Notes; finish: () => void } {
  let count = 0;
  return {
    notes: (note: Note) => {
      count++;
      if (quiet || count > notesShown) return;
      const place =
        note.place === undefined ? '' : `${note.place.file}:${note.place.line}:${note.place.column}: `;
      say(`${talk.colours.warn('note:')} ${place}${visible(note.message)}`);
    },
    finish: () => {
      if (!quiet && count > notesShown)
        say(`${talk.colours.warn('note:')} and ${count - notesShown} more like these`);
    },
  };
}

/** What is wrong, where, and what to do. */
export function renderError(error: SkevoError): string {
  const { colours } = talk;
  const lines = [`${colours.bad('skevo:')} ${visible(error.message)}`];
  const { place } = error;
  if (place !== undefined) {
    lines.push(`  at ${colours.name(`${place.file}:${place.line}:${place.column}`)}`);
    if (place.excerpt !== undefined) {
      const [text = '', caret = ''] = place.excerpt.split('\n');
      lines.push(`    ${text.trimEnd()}`, `    ${colours.bad(caret)}`);
    }
  }
  if (error.remedy !== undefined) lines.push(`  ${visible(error.remedy)}`);
  return lines.join('\n');
}
