/**
 * Stands for kotlinc and scalac in the tests: asks a server that keeps the compiler running, and starts it when there is
 * none. Whatever goes wrong, the compiler itself is run.
 */
import { spawn, spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readdirSync, realpathSync } from 'node:fs';
import { connect } from 'node:net';
import { tmpdir, userInfo } from 'node:os';
import { dirname, join, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';

const here = dirname(fileURLToPath(import.meta.url));
const [name, ...given] = process.argv.slice(2);
const real = process.env.PATH.split(':')
  .map((folder) => join(folder, name))
  .find((path) => existsSync(path));

/** The jars of the compiler, and what the JVM is told. */
function libraries() {
  const home = dirname(dirname(realpathSync(real)));
  const folder = ['lib', '../lib', '../share/scala-2.11/lib']
    .map((each) => join(home, each))
    .find(existsSync);
  const jars = readdirSync(folder)
    .filter((file) => file.endsWith('.jar'))
    .map((file) => join(folder, file));
  return name === 'kotlinc'
    ? jars.filter((jar) => /kotlin-(compiler|stdlib|reflect|script-runtime)|annotations-13|trove4j/.test(jar))
    : jars;
}

/** Two servers, for two compilations at a time. A path of a socket is short, and TMPDIR is another for each build. */
const own = createHash('md5').update(here).digest('hex').slice(0, 8);
const folder = existsSync('/tmp')
  ? `/tmp/skevo-compilers-${userInfo().uid}-${own}`
  : join(here, '../../node_modules/.cache/compilers');
const slot = process.pid % 2;
const socket = join(folder, `${name}-${slot}.sock`);

function ask(deadline) {
  const lines = given
    .filter((each) => !each.startsWith('-J'))
    .map((each) => (!each.startsWith('-') && existsSync(each) ? resolve(each) : each))
    .map((each, i, all) => (all[i - 1] === '-d' ? resolve(each) : each));
  const jars = libraries().join(':');
  const all = name === 'scalac' ? ['-bootclasspath', jars, ...lines] : lines;
  return new Promise((done, fail) => {
    const client = connect(socket);
    const chunks = [];
    client.on('connect', () => client.write(`${all.length}\n${all.join('\n')}\n`));
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

function start() {
  isStarted = true;
  mkdirSync(folder, { recursive: true, mode: 0o700 });
  const jvm = [
    '-Xss16m',
    '-Xmx3g',
    '-XX:+UseSerialGC',
    '-noverify',
    `-Dkotlin.home=${dirname(dirname(realpathSync(real)))}`,
  ];
  const jars = libraries().join(':');
  const scala = name === 'scalac' ? [`-Dscala.boot.class.path=${jars}`, '-Dscala.usejavacp=true'] : [];
  const server = spawn(
    'java',
    [...jvm, ...scala, '-cp', jars, join(here, 'CompilerServer.java'), socket, name],
    {
      detached: true,
      stdio: 'ignore',
      cwd: tmpdir(),
    },
  );
  server.unref();
}

function runReal() {
  const { status } = spawnSync(real, given, { stdio: 'inherit' });
  process.exit(status ?? 1);
}

// Whoever wants another memory wants another JVM.
if (given.length < 3 || given.some((each) => /^(-version|-J-Xmx)/.test(each))) runReal();
try {
  const answer = await ask(Date.now() + 20_000);
  const end = answer.indexOf('\n');
  const code = Number(answer.slice(0, end));
  if (end < 0 || Number.isNaN(code)) runReal();
  process.stdout.write(answer.slice(end + 1));
  process.exitCode = code;
} catch {
  runReal();
}
