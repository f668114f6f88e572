import type { TypeModel } from '../../core/model/types.js';
import type { Bench, BenchOptions, Language } from '../language.js';
import { fill } from '../kit/template.js';
import { built, changed } from '../kit/ways.js';
import { emitR, rootOfR } from './emit.js';
import { plainR, reachR } from './reach.js';
import { r, reservedPackages, symbol } from './spelling.js';
import benchTemplate from './templates/bench.R';

/** R: records over named lists with jsonlite, and with bit64 where a schema passes 2^53. */
export const rLanguage: Language = {
  name: 'r',
  title: 'R',
  text: 'utf-8',
  hasNul: false,
  // The parts of a list have no empty name.
  unboundKeys: /^$|\0/,
  deepest: 60,
  package: {
    pattern: /^[A-Za-z][A-Za-z0-9.]*[A-Za-z0-9]$/,
    example: 'saltmere',
    reserved: reservedPackages,
    caseless: true,
  },
  tools: [
    {
      name: 'r',
      programs: ['Rscript'],
      variable: 'SKEVO_RSCRIPT',
      versionArguments: [
        '-e',
        'cat("R", format(getRversion()), "\\n"); invisible(lapply(c("jsonlite", "bit64"), packageVersion))',
      ],
      versionPattern: /R (\d+\.\d+\.\d+)/,
      minimum: '4.1',
      install: 'apt-get install r-base-core r-cran-jsonlite r-cran-bit64',
    },
  ],
  styles: [
    {
      name: 'record',
      summary: 'S3 records over named lists, and data frames, with jsonlite',
      ways: [
        { name: 'from_json', summary: '..._from_json() and to_json()' },
        {
          name: 'parsed',
          summary: 'validate_...() of what parse_json() of jsonlite made',
          limits: [
            {
              says: 'parse_json() rounds numbers beyond a double, which from_json does not',
              kinds: ['altered', 'refused'],
            },
          ],
        },
        { name: 'inside', summary: "to_json() of the caller's own list" },
        { name: 'frame', summary: 'a data frame of it, and back' },
        built,
        changed,
      ],
      typesOthers: true,
      carriesUnknown: true,
      emit: emitR,
      reach: reachR,
      plain: plainR,
      bench,
    },
  ],
};

function bench(model: TypeModel, options: BenchOptions): Bench {
  const { reader, validator, list, builder, keys } = rootOfR(model, options, options.root ?? 0);
  const sources = ['json.R', 'kinds.R', ...(model.records.length > 0 ? ['records.R'] : []), 'types.R'];
  const program = fill(
    benchTemplate,
    {
      sources: sources.map(r).join(', '),
      reader,
      validator,
      listed: list !== undefined,
      list: list ?? '',
      built: builder !== undefined,
      builder: builder === undefined ? '' : symbol(builder),
      keys: keys.map(r).join(', '),
    },
    '#',
  );
  return {
    changes: builder === undefined ? [] : keys,
    files: [{ path: 'bench.R', text: `${program}\n` }],
    build: [],
    run: { tool: 'r', arguments: ['--vanilla', 'bench.R'] },
  };
}
