import { describe, expect, test } from 'vitest';
import { buildModel } from '../../src/core/model/build.js';
import { go } from '../../src/languages/go/index.js';
import { changedWay, type Style } from '../../src/languages/language.js';
import { checkStyle } from '../../src/workbench/check.js';
import { chunks, infer, isBeyond, languagesHere, patient, payloadsOf } from '../support.js';
import { unlessBrief } from '../effort.js';
import { asOne, cases, isLarge } from './cases.js';

const isHere = (await languagesHere()).some(({ name }) => name === 'go');

/** The next engine of the library, which the toolchain holds behind a build tag. */
const tags = ['-tags', 'goexperiment.jsonv2'];

const program = `package main

import "encoding/json/v2"

func init() { ways = append(ways, next) }

func next(text []byte) ([]byte, error) {
	var value payload
	if err := json.Unmarshal(text, &value); err != nil {
		return nil, err
	}
	return json.Marshal(value)
}
`;

/** A style whose programs are built with that engine, and also call its own package. */
function withNext(style: Style): Style {
  return {
    ...style,
    ways: [
      ...style.ways!.filter(({ name }) => name !== changedWay),
      { name: 'json/v2', summary: 'json.Unmarshal and json.Marshal of encoding/json/v2' },
      ...style.ways!.filter(({ name }) => name === changedWay),
    ],
    bench: (model, options) => {
      const bench = style.bench(model, options);
      return {
        ...bench,
        files: [...bench.files, { path: 'next.go', text: program }],
        build: bench.build.map(({ tool, arguments: [verb, ...given] }) => ({
          tool,
          arguments: [verb!, ...tags, ...given],
        })),
      };
    },
  };
}

describe.runIf(isHere)('the next engine of encoding/json', () => {
  for (const style of go.styles) {
    // Single keys are told by those of all together.
    const all = cases.filter(({ name, payloads, beyond }) => {
      if (name.startsWith('the key ')) return false;
      const keys = buildModel(infer(payloads).schema).records.flatMap(({ fields }) =>
        fields.map(({ key }) => key),
      );
      return !beyond?.includes('go') && !payloads.some((text) => isBeyond(go, style, text, keys));
    });
    const alone = all.filter((each, i) => isLarge(each) || i % 9 === 0);
    const some = [
      ...alone,
      ...chunks(
        all.filter((each) => !alone.includes(each)),
        12,
      ).map(asOne),
    ];
    test.for(unlessBrief(some))(`${style.name} loses nothing of $name`, async ({ payloads }) => {
      const result = await checkStyle(
        go,
        withNext(style),
        buildModel(infer(payloads).schema),
        's.json',
        payloadsOf(payloads),
        { strict: false, limits: patient },
      );
      expect(result.reason).toBeUndefined();
      expect(
        result.findings
          .filter(({ severity }) => severity === 'loss')
          .map(({ way = '', kind, pointer, cause }) => `${way} ${kind} ${pointer} ${cause}`),
      ).toEqual([]);
      expect(result.returned).toBe(payloads.length);
    });
  }
});
