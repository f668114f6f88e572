import { SkevoError } from '../../core/error.js';
import type { RecordType } from '../../core/model/types.js';

/** Slots that a method of the JVM has for its parameters (JVM specification, 4.3.3), the object itself among them. */
export const jvmSlots = 255;

/** How many of them values of some types take: `long` and `double` take two. */
export function slotsOf(types: readonly string[]): number {
  return types.reduce((sum, type) => sum + (/^(long|double)$/i.test(type) ? 2 : 1), 0);
}

/**
 * @param slots what the constructor takes, the object itself among them
 * @param most what its values may take, as far as whoever calls it can
 * @throws SkevoError for a record with more fields than a constructor of the JVM can be given
 */
export function refuseWide(
  title: string,
  { name, fields }: RecordType,
  slots: number,
  most = jvmSlots - 1,
): void {
  if (slots > most + 1)
    throw new SkevoError(
      `the type ${name} has ${fields.length} fields, and a constructor of ${title} takes no more than ${most}, long and double counted twice`,
      'Group fields in objects of their own, make it a map, or leave that language out.',
    );
}
