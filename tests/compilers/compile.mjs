/**
 * Stands for javac, kotlinc and scalac in the tests: asks a server that keeps the compiler running, and starts it when there is
 * none. Whatever goes wrong, the compiler itself is run.
 */
import { spawn, spawnSync } from 'node:child_process';
import { existsSync, mkdirSync, readdirSync, realpathSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { connect } from 'node:net';
import { dirname, join, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';

const here = dirname(fileURLToPath(import.meta.url));
const [name, ...asked] = process.argv.slice(2);
const real = process.env.PATH.split(':')
  .map((folder) => join(folder, name))
  .find((path) => existsSync(path));

const home = dirname(dirname(realpathSync(real)));
// What the caller took from beside this program is beside the real one.
const given = asked.map((each) => each.replace(join(dirname(here), 'lib'), join(home, 'lib')));
// The compiler of Java is a part of its own runtime.
const jars = (name === 'javac' ? [] : readdirSync(join(home, 'lib')))
  .filter((file) => file.endsWith('.jar'))
  .map((file) => join(home, 'lib', file))
  .join(':');

/**
 * Two servers, for two compilations at a time. The path of a socket has an end, so it is named from its own folder, where
 * both sides stand.
 */
const folder = resolve(here, '../../node_modules/.cache/compilers');
const compilerServer = resolve(here, '../../src/languages/kit/support/CompilerServer.java');
const slot = process.pid % 2;
const socket = `${name}-${slot}.sock`;
const stood = process.cwd();
const own = given
  .filter((each) => !each.startsWith('-J'))
  .map((each, i, all) =>
    all[i - 1] === '-d' || (!each.startsWith('-') && existsSync(each)) ? resolve(each) : each,
  );

function ask(deadline) {
  return new Promise((done, fail) => {
    const client = connect(socket);
    const chunks = [];
    client.on('connect', () => {
      rmSync(`${socket}.starting`, { force: true });
      client.write(`${own.map((each) => Buffer.from(each).toString('base64')).join(' ')}\n`);
    });
    client.on('data', (chunk) => chunks.push(chunk));
    client.on('end', () => done(Buffer.concat(chunks).toString()));
    client.on('error', (error) => {
      if (Date.now() > deadline || !['ENOENT', 'ECONNREFUSED'].includes(error.code)) fail(error);
      else {
        if (!isStarted) start();
        setTimeout(() => ask(deadline).then(done, fail), 100);
      }
    });
  });
}

let isStarted = false;

/** Whether another has begun to start the server a while ago: one is enough. */
function isStarting() {
  const mark = `${socket}.starting`;
  try {
    writeFileSync(mark, '', { flag: 'wx' });
    return false;
  } catch {
    const age = Date.now() - (statSync(mark, { throwIfNoEntry: false })?.mtimeMs ?? 0);
    if (age < 15_000) return true;
    writeFileSync(mark, '');
    return false;
  }
}

function start() {
  if (isStarting()) return;
  isStarted = true;
  const jvm = ['-Xss16m', '-Xmx3g', '-XX:+UseSerialGC', '-XX:TieredStopAtLevel=1', '-noverify'];
  const java = name === 'javac' ? join(home, 'bin/java') : 'java';
  const program = [...jvm, ...(jars === '' ? [] : ['-cp', jars]), compilerServer, name];
  const server = spawn(process.execPath, [join(here, 'serve.mjs'), socket, java, ...program], {
    detached: true,
    stdio: 'ignore',
    cwd: folder,
  });
  server.unref();
}

function runReal() {
  const { status } = spawnSync(real, given, { stdio: 'inherit', cwd: stood });
  process.exit(status ?? 1);
}

// Whoever wants another memory wants another JVM, and a list of files is relative to where it is read.
if (given.length < 3 || given.some((each) => /^(-version|-J-Xmx|@)/.test(each))) runReal();
try {
  mkdirSync(folder, { recursive: true });
  process.chdir(folder);
  const answer = await ask(Date.now() + 20_000);
  const [, code, said] = /^(\d+) (.*)\n$/.exec(answer) ?? [];
  if (code === undefined) runReal();
  process.stdout.write(Buffer.from(said, 'base64'));
  process.exitCode = Number(code);
} catch {
  runReal();
}
