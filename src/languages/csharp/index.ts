import type { TypeModel } from '../../core/model/types.js';
import { fileLibrary } from '../kit/library.js';
import type { Bench, BenchOptions, Language, Limit } from '../language.js';
import { emitCsharp, facadeName, namespaceName, othersOf } from './emit.js';
import { reservedTypes } from './spelling.js';
import { plainCsharp, reachCsharp } from './reach.js';
import { benchScope, recordOf } from '../kit/bench.js';
import { fill } from '../kit/template.js';
import benchTemplate from './templates/bench.cs';
import { changed, generated } from '../kit/ways.js';

const newtonsoft = fileLibrary('Newtonsoft.Json', 'apt-get install libnewtonsoft-json5.0-cil', [
  '/usr/lib/cli/Newtonsoft.Json-5.0/Newtonsoft.Json.dll',
  '/usr/lib/mono/gac/Newtonsoft.Json/6.0.0.0__b9a188c8922137c6/Newtonsoft.Json.dll',
]);

/** What the library makes of a number before any code of a type sees it. */
const rounding: Limit = {
  says: "Newtonsoft's reader rounds or refuses what is no long, double or decimal of 28 digits",
  kinds: ['refused', 'altered'],
};

/** C#: classes for Newtonsoft.Json, run with Mono. */
export const csharp: Language = {
  name: 'csharp',
  title: 'C#',
  // Newtonsoft.Json replaces halves of surrogate pairs.
  text: 'utf-8',
  // Mono reads some doubles of 16 digits, or far from 1, one unit in the last place off.
  lossyNumbers: /^(?=.*[.eE]).*(?:\d[\d.]{15}|[eE][-+]?\d{2,})/,
  package: {
    pattern: /^[A-Z]\w*(\.[A-Z]\w*)*$/,
    example: 'Saltmere.Sailings',
    reserved: reservedTypes,
  },
  tools: [
    {
      name: 'mcs',
      programs: ['mcs'],
      variable: 'SKEVO_MCS',
      versionArguments: ['--version'],
      versionPattern: /version (\d+\.\d+\.\d+)/,
      minimum: '5.0',
      install: 'apt-get install mono-mcs',
    },
    {
      name: 'mono',
      programs: ['mono'],
      variable: 'SKEVO_MONO',
      versionArguments: ['--version'],
      versionPattern: /version (\d+\.\d+\.\d+)/,
      minimum: '5.0',
      install: 'apt-get install mono-runtime',
    },
  ],
  libraries: [newtonsoft],
  styles: [
    {
      name: 'class',
      summary: 'classes for Newtonsoft.Json',
      typesOthers: true,
      ways: [
        generated,
        {
          name: 'JsonConvert',
          summary: 'JsonConvert.DeserializeObject and SerializeObject',
          limits: [rounding],
        },
        { name: 'field', summary: "a property of the caller's own class", limits: [rounding] },
        {
          name: 'settings',
          summary: 'JsonConvert under DefaultSettings without nulls and with names in camel case',
          limits: [rounding],
        },
        { name: 'built', summary: 'an initialiser of the properties that were decoded' },
        changed,
      ],
      natives: ['date-time', 'date', 'uuid', 'base64'],
      emit: emitCsharp,
      reach: reachCsharp,
      plain: plainCsharp,
      bench,
    },
  ],
};

function bench(model: TypeModel, options: BenchOptions): Bench {
  const { pedantic } = options;
  const facade = `${namespaceName(model, options)}.${facadeName(model.roots[options.root ?? 0]!)}`;
  const { scope, changes } = benchScope(model, options, true);
  const record = recordOf(model, options.root ?? 0);
  const others = record === undefined ? undefined : othersOf(model, record, options.unknown);
  const members = [...scope.fields.map(({ Field }) => Field), ...(others === undefined ? [] : [others])];
  const program = `${fill(benchTemplate, { ...scope, members: members.map((Member) => ({ Member })), namespace: namespaceName(model, options), facade })}\n`;
  const [dll = ''] = newtonsoft.files() ?? [];
  return {
    changes,
    files: [{ path: 'Bench.cs', text: program }],
    build: [
      {
        tool: 'mcs',
        arguments: [
          '-codepage:utf8',
          ...(pedantic ? ['-warn:4', '-warnaserror+'] : ['-warn:0']),
          '-optimize+',
          '-out:bench.exe',
          `-r:${dll}`,
          '-recurse:classes/*.cs',
          'Bench.cs',
        ],
      },
    ],
    run: { tool: 'mono', arguments: ['bench.exe'] },
  };
}
