/**
 * Runs command lines one after another, each by the program anew: the script is compiled once, what it keeps in its modules
 * is as at a start, and the folder, the environment, the streams and the listeners of the process are what a process of its
 * own would have. Requests and answers are lines of JSON over two pipes that have names.
 */
import { closeSync, openSync, readFileSync, readSync, writeSync } from 'node:fs';
import { createRequire } from 'node:module';
import { Console } from 'node:console';
import { Readable, Writable } from 'node:stream';
import { Script } from 'node:vm';
import { dirname } from 'node:path';

const [, , bundle, requests, answers] = process.argv;
// First, so that who waits at the other ends is told when the rest fails.
const input = openSync(requests, 'r');
const output = openSync(answers, 'w');
const script = new Script(
  `(function (require, module, exports, __filename, __dirname) {${readFileSync(bundle, 'utf8')}\n})`,
  { filename: bundle },
);

/** The next line of the pipe; undefined when nobody will write to it again. */
function nextLine() {
  const parts = [];
  const part = Buffer.alloc(1 << 16);
  for (;;) {
    const length = readSync(input, part);
    if (length === 0) return undefined;
    parts.push(Buffer.from(part.subarray(0, length)));
    if (part[length - 1] === 0x0a) return Buffer.concat(parts).toString();
  }
}

/** A stream in place of one of the process, that keeps what is written. */
function kept() {
  const parts = [];
  const stream = new Writable({
    decodeStrings: true,
    write(chunk, _encoding, done) {
      parts.push(chunk);
      done();
    },
  });
  return { stream, text: () => Buffer.concat(parts).toString() };
}

const usual = {
  argv: process.argv,
  cwd: process.cwd(),
  env: { ...process.env },
  exit: process.exit,
  console,
};
const streams = Object.fromEntries(
  ['stdin', 'stdout', 'stderr'].map((name) => [name, Object.getOwnPropertyDescriptor(process, name)]),
);
const listening = () =>
  new Map(process.eventNames().map((event) => [event, new Set(process.rawListeners(event))]));

function setEnvironment(wanted) {
  for (const name of Object.keys(process.env)) if (!(name in wanted)) delete process.env[name];
  Object.assign(process.env, wanted);
}

async function step({ args, cwd, env }) {
  const before = listening();
  const out = kept();
  const err = kept();
  const given = { stdin: Readable.from([]) };
  for (const [name, value] of Object.entries({ ...given, stdout: out.stream, stderr: err.stream }))
    Object.defineProperty(process, name, { value, configurable: true, enumerable: true });
  globalThis.console = new Console(out.stream, err.stream);
  process.chdir(cwd);
  setEnvironment(env);
  process.exitCode = undefined;
  process.argv = [process.execPath, 'dist/skevo.js', ...args];
  // What calls for the end of the process may go on here; nothing is asked of this one afterwards.
  let isSpent = false;
  const ended = new Promise((resolve) => {
    process.exit = (code) => {
      isSpent = true;
      process.exitCode = code ?? process.exitCode;
      resolve();
    };
  });
  const module = { exports: {} };
  script.runInThisContext()(createRequire(bundle), module, module.exports, bundle, dirname(bundle));
  await Promise.race([module.exports.main(args), ended]);
  await new Promise((resolve) => setImmediate(resolve));

  const code = Number(process.exitCode ?? 0);
  for (const event of process.eventNames())
    for (const listener of process.rawListeners(event)) {
      if (before.get(event)?.has(listener)) continue;
      if (event === 'exit') listener.call(process, code);
      process.removeListener(event, listener);
    }
  for (const [name, each] of Object.entries(streams)) Object.defineProperty(process, name, each);
  globalThis.console = usual.console;
  Object.assign(process, { argv: usual.argv, exit: usual.exit });
  process.chdir(usual.cwd);
  setEnvironment(usual.env);
  return { code, out: out.text(), err: err.text(), isSpent };
}

for (let line = nextLine(); line !== undefined; line = nextLine()) {
  const ran = await step(JSON.parse(line));
  const text = Buffer.from(`${JSON.stringify(ran)}\n`);
  for (let from = 0; from < text.length;) from += writeSync(output, text, from);
  if (ran.isSpent) break;
}
closeSync(output);
process.exit(0);
