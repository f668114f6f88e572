import {
  IsArray,
  IsIn,
  IsInt,
  IsNumber,
  IsOptional,
  IsPositive,
  IsString,
  Min,
  IsBoolean,
} from 'class-validator';
import { join, relative, resolve } from 'node:path';
import type { Argv } from 'yargs';
import { capture, type CaptureOptions } from '../../capture/capture.js';
import { keepEndpoint, readHar, secretNotes } from '../../capture/har.js';
import { usualRequestLimits, type Wanted } from '../../capture/request.js';
import { isSecret, isSecretHeader, Secrets, withoutSecrets } from '../../capture/secrets.js';
import { SkevoError } from '../../core/error.js';
import { parseJson } from '../../core/json/parse.js';
import { parsePointer } from '../../core/json/pointer.js';
import { findProject, readProject, type Project } from '../../project/file.js';
import { readSource } from '../../formats/source.js';
import { validated } from '../options.js';
import { print, out, say, talk } from '../print.js';

class CaptureCommandOptions {
  @IsArray()
  @IsString({ each: true })
  url: string[] = [];

  @IsOptional()
  @IsString({ message: '--out is given more than once' })
  out?: string;

  @IsOptional()
  @IsString({ message: '--project is given more than once' })
  project?: string;

  @IsIn(['GET', 'POST'], { message: '--method must be GET or POST' })
  method: 'GET' | 'POST' = 'GET';

  @IsOptional()
  @IsString({ message: '--body is given more than once' })
  body?: string;

  @IsOptional()
  @IsString({ message: '--body-from is given more than once' })
  'body-from'?: string;

  @IsArray()
  @IsString({ each: true })
  header: string[] = [];

  @IsArray()
  @IsString({ each: true })
  'header-from': string[] = [];

  @IsArray()
  @IsString({ each: true })
  query: string[] = [];

  @IsArray()
  @IsString({ each: true })
  secret: string[] = [];

  @IsArray()
  @IsString({ each: true })
  host: string[] = [];

  @IsNumber({}, { message: '--timeout must be a number of seconds' })
  @IsPositive({ message: '--timeout must be more than 0 seconds' })
  timeout = usualRequestLimits.seconds;

  @IsNumber({}, { message: '--limit must be a number of megabytes' })
  @IsPositive({ message: '--limit must be more than 0 megabytes' })
  limit = usualRequestLimits.bytes / (1 << 20);

  @IsInt({ message: '--retries must be a whole number' })
  @Min(0, { message: '--retries must be 0 or more' })
  retries = usualRequestLimits.retries;

  @IsInt({ message: '--pages must be a whole number' })
  @Min(1, { message: '--pages must be 1 or more' })
  pages = 1;

  @IsOptional()
  @IsString({ message: '--next is given more than once' })
  next?: string;

  @IsBoolean()
  quiet = false;
}

const text = { type: 'string' } as const;
const list = { type: 'string', array: true, nargs: 1, default: [] as string[] } as const;

export const options = (argv: Argv) =>
  argv
    .positional('url', {
      type: 'string',
      array: true,
      describe: 'URLs, .har files, or contracts of the project; all contracts when not given',
    })
    .option('out', { ...text, describe: 'the folder of the samples' })
    .option('project', { ...text, describe: 'the project file' })
    .option('method', { ...text, default: 'GET', describe: 'GET or POST' })
    .option('body', { ...text, describe: 'JSON to send; makes it a POST' })
    .option('body-from', { ...text, describe: 'a file of JSON to send; makes it a POST' })
    .option('header', { ...list, describe: 'a header that is no secret, as NAME=VALUE (repeatable)' })
    .option('header-from', {
      ...list,
      describe: 'a header whose value is in an environment variable, as NAME=VARIABLE (repeatable)',
    })
    .option('query', { ...list, describe: 'a query value, as NAME=VALUE (repeatable)' })
    .option('secret', { ...list, describe: 'a query value that is never written down, by name (repeatable)' })
    .option('host', {
      ...list,
      describe: 'a host of this machine that an answer from elsewhere may lead to (repeatable)',
    })
    .option('timeout', {
      type: 'number',
      default: usualRequestLimits.seconds,
      describe: 'seconds that an answer may take',
    })
    .option('limit', {
      type: 'number',
      default: usualRequestLimits.bytes / (1 << 20),
      describe: 'megabytes that an answer may have',
    })
    .option('retries', {
      type: 'number',
      default: usualRequestLimits.retries,
      describe: 'further attempts when the server is busy or broken',
    })
    .option('pages', {
      type: 'number',
      default: 1,
      describe: 'pages to follow by Link: rel=next, or by --next',
    })
    .option('next', { ...text, describe: 'where the URL of the next page is in the body, such as /next' })
    .option('quiet', { type: 'boolean', default: false, describe: 'no notes' });

/** Saves responses of an API as samples. */
export async function run(given: object): Promise<void> {
  const chosen = validated(CaptureCommandOptions, given);
  if (chosen.next !== undefined && parsePointer(chosen.next) === undefined)
    throw new SkevoError(
      `--next ${JSON.stringify(chosen.next)} is not a JSON Pointer`,
      'It begins with /, as /next.',
    );
  const urls = chosen.url.filter((each) => /^https?:\/\//i.test(each));
  const files = chosen.url.filter((each) => /\.har$/i.test(each) && !urls.includes(each));
  const names = chosen.url.filter((each) => !urls.includes(each) && !files.includes(each));
  if (urls.length + files.length > 0 && chosen.out === undefined)
    throw new SkevoError(
      'capture needs a folder for the samples',
      'Name it with --out, such as --out samples/sailings.',
    );
  for (const url of urls) {
    const wanted = wantedOf(url, chosen);
    const hidden = hiddenValues(wanted, pairs('header-from', chosen['header-from']), chosen.secret);
    await ask(wanted, chosen.out!, { ...optionsOf(chosen, []), hidden });
  }
  for (const file of files) await takeRecorded(file, chosen.out!, chosen);
  if (urls.length + files.length > 0 && names.length === 0) return;

  const address = names.find((each) => /[:/.]/.test(each));
  if (address !== undefined)
    throw new SkevoError(
      `${JSON.stringify(withoutSecrets(address, chosen.secret))} is not a URL`,
      'It begins with http:// or https://.',
    );
  const project = readProject(findProject(chosen.project));
  for (const [name, contract] of contractsNamed(project, names)) {
    if (contract.capture.length === 0) {
      if (names.length > 0)
        throw new SkevoError(
          `the contract ${name} says nothing of where its samples come from`,
          `Give it capture: with a url in ${project.path}, or name a URL.`,
        );
      continue;
    }
    const [folder] = contract.samples;
    if (/\.(json|ndjson|jsonl)(\.gz)?$|[*?[{]/.test(folder!))
      throw new SkevoError(
        `the first of the samples of ${name} is no folder: ${folder ?? 'it has none'}`,
        'What is captured goes there.',
      );
    for (const entry of contract.capture) {
      const { url, authorization } = withoutUser(entry.url);
      const wanted: Wanted = {
        url,
        method: entry.method ?? (entry.body === undefined ? 'GET' : 'POST'),
        headers: {
          ...authorization,
          ...(entry.body === undefined ? {} : { 'content-type': 'application/json' }),
          ...entry.headers,
          ...fromEnvironment(Object.entries(entry['headers-from'] ?? {})),
        },
        ...(entry.body === undefined ? {} : jsonBody(entry.body, `the body of ${name}`)),
      };
      const paging = { next: entry.next, pages: entry.pages ?? chosen.pages };
      await ask(wanted, join(project.folder, folder!), {
        ...optionsOf(chosen, project.secrets),
        hidden: hiddenValues(wanted, Object.entries(entry['headers-from'] ?? {}), project.secrets),
        ...paging,
      });
    }
  }
}

function contractsNamed(project: Project, names: readonly string[]) {
  if (names.length === 0) return [...project.contracts];
  return names.map((name) => {
    const contract = project.contracts.get(name);
    if (contract === undefined)
      throw new SkevoError(
        `${JSON.stringify(name)} is neither a URL, nor a .har file, nor a contract of ${project.path}`,
        `The contracts are ${[...project.contracts.keys()].join(', ')}.`,
      );
    return [name, contract] as const;
  });
}

async function ask(wanted: Wanted, folder: string, capturing: CaptureOptions): Promise<void> {
  const isMore = await capture(wanted, folder, capturing);
  if (isMore && capturing.pages > 1)
    say(`${talk.colours.warn('note:')} there are more pages; --pages says how many to read`);
}

/** What must not be written down: the values of headers from the environment, secret headers and query values. */
function hiddenValues(
  wanted: Wanted,
  fromVariables: readonly (readonly [string, string])[],
  secrets: readonly string[],
): Secrets {
  const headers = Object.entries(wanted.headers).filter(([name]) => isSecretHeader(name));
  const query = [...new URL(wanted.url).searchParams].filter(([name]) => isSecret(name, secrets));
  return new Secrets([
    ...fromVariables.map(([, variable]) => [variable, process.env[variable] ?? ''] as const),
    ...headers,
    ...query,
  ]);
}

/** A URL without the user name and password in it, and the header that says them. */
function withoutUser(address: string): {
  readonly url: string;
  readonly authorization: Record<string, string>;
} {
  const url = new URL(address);
  const spelledOut = (text: string): string => {
    try {
      return decodeURIComponent(text);
    } catch {
      return text;
    }
  };
  const who = `${spelledOut(url.username)}:${spelledOut(url.password)}`;
  url.username = '';
  url.password = '';
  const authorization: Record<string, string> =
    who === ':' ? {} : { authorization: `Basic ${Buffer.from(who, 'utf8').toString('base64')}` };
  return { url: url.href, authorization };
}

function optionsOf(
  chosen: CaptureCommandOptions,
  secrets: readonly string[],
): Omit<CaptureOptions, 'hidden'> {
  return {
    limits: { seconds: chosen.timeout, bytes: chosen.limit * (1 << 20), retries: chosen.retries },
    pages: chosen.pages,
    next: chosen.next,
    secrets: [...secrets, ...chosen.secret],
    hosts: chosen.host,
    kept: (name, { path, isNew }, bytes) => {
      const where = relative(process.cwd(), resolve(path));
      if (isNew) print(`${out.colours.name(where)}  ${out.colours.faint(`${size(bytes)} from ${name}`)}`);
      else if (!chosen.quiet) say(`${name} answers what ${where} already holds`);
    },
    waiting: (seconds, why) => {
      if (!chosen.quiet) say(`${talk.colours.warn('note:')} ${why}; again in ${seconds.toFixed(1)} s`);
    },
  };
}

function size(bytes: number): string {
  return bytes < 1000 ? `${bytes} bytes` : `${(bytes / 1000).toFixed(1)} kB`;
}

function wantedOf(address: string, chosen: CaptureCommandOptions): Wanted {
  if (!URL.canParse(address))
    throw new SkevoError(
      `${withoutSecrets(address, chosen.secret)} is not a URL`,
      'It begins with http:// or https://.',
    );
  const { url: own, authorization } = withoutUser(address);
  const url = new URL(own);
  for (const [name, value] of pairs('query', chosen.query)) url.searchParams.append(name, value);
  const body =
    chosen['body-from'] === undefined
      ? chosen.body === undefined
        ? {}
        : jsonBody(chosen.body, '--body')
      : jsonBody(new TextDecoder().decode(readSource(chosen['body-from']).bytes), chosen['body-from']);
  return {
    url: url.href,
    method: 'body' in body ? 'POST' : chosen.method,
    headers: {
      ...authorization,
      ...('body' in body ? { 'content-type': 'application/json' } : {}),
      ...Object.fromEntries(pairs('header', chosen.header)),
      ...fromEnvironment(pairs('header-from', chosen['header-from'])),
    },
    ...body,
  };
}

/** @throws SkevoError when it is no JSON */
function jsonBody(content: string, name: string): { readonly body: Uint8Array } {
  const bytes = new TextEncoder().encode(content);
  parseJson({ name, bytes, firstLine: 1 });
  return { body: bytes };
}

function pairs(option: string, values: readonly string[]): [string, string][] {
  return values.map((each) => {
    const [, name, value] = /^([^=]+)=([\s\S]*)$/.exec(each) ?? [];
    if (name === undefined || value === undefined)
      throw new SkevoError(`--${option} ${JSON.stringify(each)} has no =`, `Write it as NAME=VALUE.`);
    return [name, value];
  });
}

function fromEnvironment(variables: readonly (readonly [string, string])[]): Record<string, string> {
  return Object.fromEntries(
    variables.map(([name, variable]) => {
      const value = process.env[variable];
      if (value === undefined || value === '')
        throw new SkevoError(
          `the header ${name} is to be taken from ${variable}, which is not set`,
          `Set ${variable} in the environment.`,
        );
      return [name, value];
    }),
  );
}

async function takeRecorded(file: string, folder: string, chosen: CaptureCommandOptions): Promise<void> {
  const { endpoints, passedOver, secretive, secrets } = await readHar(readSource(file), chosen.secret);
  if (!chosen.quiet)
    for (const note of secretNotes({ secretive })) say(`${talk.colours.warn('note:')} ${note}`);
  if (endpoints.length === 0)
    throw new SkevoError(
      `${file} has no response with payloads${secretive.size > 0 ? ' without a secret in it' : ''}`,
      'Record again with the answers kept in the export.',
    );
  for (const endpoint of endpoints) {
    const target = join(folder, endpoint.stem);
    const { fresh } = await keepEndpoint(endpoint, target, chosen.secret, secrets);
    const about = `${fresh} new of ${endpoint.responses.length} from ${endpoint.name}`;
    print(`${out.colours.name(target)}  ${out.colours.faint(about)}`);
  }
  if (passedOver > 0 && !chosen.quiet)
    say(
      `${talk.colours.warn('note:')} ${passedOver === 1 ? '1 response is' : `${passedOver} responses are`} no success, or of no format that payloads come in, and ${passedOver === 1 ? 'was' : 'were'} passed over`,
    );
}
