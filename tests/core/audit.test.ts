import { spawnSync } from 'node:child_process';
import { expect, test } from 'vitest';

/** Where inference is known to decide otherwise than people did; a line less is progress. */
const known = [
  'bookings /data/*/metadata: judged map, decided record, one record, never null, named Metadata',
  'features /ferry/__compat/support/*/added: judged text, decided choice, no format, never null',
  'features /ferry: judged named Feature, decided record, one record, map, never null, named PayloadItem',
  'features /harbour: judged named Feature, decided record, one record, map, never null, named PayloadItem',
  'manifests /license: judged choice, decided text, no format, never null',
  'manifests /maintainers/*: judged named Person, decided record, one record, never null, named Maintainer',
];

test('inference decides as people did, but for what is known, and no schema refuses what it was inferred from', () => {
  const { status, stdout } = spawnSync(process.execPath, ['scripts/audit-inference.mjs', '--quick'], {
    encoding: 'utf8',
  });
  expect(status).toBe(0);
  const [others, , refused] = stdout.split('\n\n');
  expect(others!.trim().split('\n').sort()).toEqual(known);
  const unsound = refused!
    .trim()
    .split('\n')
    .slice(2)
    .map((row) => row.split('|')[3]!.trim());
  expect(unsound).toEqual(Array.from({ length: 8 }, () => '0'));
});
