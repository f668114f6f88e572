import { SkevoError } from '../core/error.js';
import type { JsonValue } from '../core/json/value.js';
import { writeJson } from '../core/json/write.js';
import type { FormatName } from './format.js';

/**
 * Values in a format: one text for each, or one text for all where the format has a way to say so.
 * @throws SkevoError with the place of the first part that the format cannot hold
 */
export async function writeAs(format: FormatName, values: readonly JsonValue[]): Promise<string> {
  switch (format) {
    case 'json':
      return `${values.map((value) => writeJson(value)).join('\n')}\n`;
    case 'yaml':
      return (await import('./yaml/write.js')).writeYaml(values);
    case 'csv':
    case 'tsv':
      return (await import('./csv/write.js')).writeCsv(values, format === 'csv' ? ',' : '\t');
    case 'xml': {
      const [only, ...others] = values;
      if (only === undefined || others.length > 0)
        throw new SkevoError(
          'an XML document holds one payload',
          'Write each to a file of its own with --out FOLDER.',
        );
      return (await import('./xml/write.js')).writeXml(only);
    }
  }
}
