import { IsArray, IsBoolean, IsString } from 'class-validator';
import type { Argv } from 'yargs';
import { json } from '../../core/json/value.js';
import { writeJson } from '../../core/json/write.js';
import { languages } from '../../languages/index.js';
import { table } from '../../report/table.js';
import { cacheFolder, clearCache } from '../../workbench/cache.js';
import { findToolchain, type Toolchain } from '../../workbench/toolchain.js';
import { toolsOption } from '../languages.js';
import { validated } from '../options.js';
import { toolOption } from '../shared-options.js';
import { out, print, say, talk } from '../print.js';
import { sayToolchains } from '../toolchains.js';

class LanguagesOptions {
  @IsBoolean()
  json = false;

  @IsArray()
  @IsString({ each: true })
  tool: string[] = [];

  @IsBoolean()
  verbose = false;

  @IsBoolean()
  'clear-cache' = false;
}

export const options = (argv: Argv) =>
  argv
    .option('json', { type: 'boolean', default: false, describe: 'one JSON document on stdout' })
    .option('tool', toolOption)
    .option('verbose', {
      type: 'boolean',
      default: false,
      describe: 'say where the programs and libraries are',
    })
    .option('clear-cache', {
      type: 'boolean',
      default: false,
      describe: 'remove the builds that are kept between checks',
    });

/** The languages, their styles, and which can be run here. */
export async function run(given: object): Promise<void> {
  const chosen = validated(LanguagesOptions, given);
  if (chosen['clear-cache']) {
    const megabytes = (clearCache() / 1e6).toFixed(1);
    say(`removed ${megabytes} MB of kept builds from ${talk.colours.name(cacheFolder())}`);
    return;
  }
  const named = toolsOption(chosen.tool);
  const found = await Promise.all(
    languages.map(async (language) => ({
      language,
      toolchain: await findToolchain(language, named),
      styles: await Promise.all(
        language.styles.map(async (style) => ({
          style,
          own:
            (style.tools ?? style.libraries) === undefined
              ? undefined
              : await findToolchain(language, named, style),
        })),
      ),
    })),
  );
  if (chosen.json) {
    const entries = found.map(({ language, toolchain, styles }) =>
      json.object([
        ['language', json.string(language.name)],
        [
          'styles',
          json.list(
            styles.map(({ style: { name, summary }, own }) =>
              json.object([
                ['style', json.string(name)],
                ['summary', json.string(summary)],
                ['state', own && json.string(own.state)],
                ['reason', own?.state === 'missing' ? json.string(own.reason) : undefined],
                ['install', own?.state === 'missing' ? json.string(own.install) : undefined],
              ]),
            ),
          ),
        ],
        ['state', json.string(toolchain.state)],
        [
          'tools',
          toolchain.state === 'ready'
            ? json.list(
                [...toolchain.tools].map(([name, { file, prefix, version }]) =>
                  json.object([
                    ['tool', json.string(name)],
                    ['version', json.string(version)],
                    ['program', json.string([file, ...prefix].at(-1)!)],
                  ]),
                ),
              )
            : undefined,
        ],
        [
          'libraries',
          toolchain.state === 'ready'
            ? json.list(
                [...toolchain.libraries].map(([name, files]) =>
                  json.object([
                    ['library', json.string(name)],
                    ['files', json.list(files.map((each) => json.string(each)))],
                  ]),
                ),
              )
            : undefined,
        ],
        ['reason', toolchain.state === 'missing' ? json.string(toolchain.reason) : undefined],
        ['install', toolchain.state === 'missing' ? json.string(toolchain.install) : undefined],
      ]),
    );
    print(writeJson(json.object([['languages', json.list(entries)]]), 2));
    return;
  }
  const { colours } = out;
  const stateOf = (toolchain: Toolchain) =>
    toolchain.state === 'ready'
      ? `${colours.good('ready')}  ${colours.faint([...toolchain.tools].map(([name, { version }]) => `${name} ${version}`).join(', '))}`
      : `${colours.warn('not here')}  ${toolchain.reason}; get it with: ${toolchain.install}`;
  const rows = found.flatMap(({ language, toolchain, styles }) =>
    styles.map(({ style, own }, i) => [
      i === 0 ? colours.name(language.name) : '',
      style.name,
      style.summary,
      i === 0 ? stateOf(toolchain) : own === undefined ? '' : stateOf(own),
    ]),
  );
  print(
    table(
      [
        { title: 'language' },
        { title: 'style' },
        { title: 'what is written', spare: 1 },
        { title: 'here', least: 30 },
      ],
      rows,
      out.width,
      colours.strong,
    ),
  );
  if (chosen.verbose)
    await sayToolchains(
      languages.map((language) => ({ language })),
      named,
    );
}
