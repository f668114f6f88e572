import { join } from 'node:path';
import { expect, test } from 'vitest';
import { jarsOfMaven } from '../../src/languages/kit/jackson.js';
import { workspace } from '../support.js';

const core = 'com/fasterxml/jackson/core';
const jar = (name: string, version: string) =>
  `${core}/jackson-${name}/${version}/jackson-${name}-${version}.jar`;

test('Jackson is taken from Maven in the newest version of which all is there', () => {
  const folder = workspace({
    ...Object.fromEntries(
      ['2.9.10', '2.15.2'].flatMap((version) =>
        ['annotations', 'core', 'databind'].map((name) => [jar(name, version), '']),
      ),
    ),
    // Of this one the build has fetched a part.
    [jar('core', '2.17.0')]: '',
  });
  expect(jarsOfMaven(folder)).toEqual(
    ['annotations', 'core', 'databind'].map((name) => join(folder, jar(name, '2.15.2'))),
  );
  expect(jarsOfMaven(join(folder, 'none'))).toBeUndefined();
});
