/**
 * Keeps one compiler of the JVM running for all tests, by the program that keeps it running in a project. Who connects sends a line of
 * arguments and gets a line of answer. Ends when nobody has asked for two minutes.
 */
import { spawn } from 'node:child_process';
import { rmSync } from 'node:fs';
import { createServer } from 'node:net';
import { createInterface } from 'node:readline';

const [socket, file, ...given] = process.argv.slice(2);
const child = spawn(file, given, { stdio: ['pipe', 'pipe', 'ignore'] });
const waiting = [];
createInterface({ input: child.stdout }).on('line', (line) => waiting.shift().end(`${line}\n`));

function end() {
  rmSync(socket, { force: true });
  child.kill();
  process.exit();
}
child.on('close', end);
child.stdin.on('error', end);
let idle;
const rest = () => {
  clearTimeout(idle);
  idle = setTimeout(end, 120_000);
};
rest();

rmSync(socket, { force: true });
createServer((client) => {
  client.on('error', () => {});
  createInterface({ input: client }).on('line', (line) => {
    rest();
    waiting.push(client);
    child.stdin.write(`${line}\n`);
  });
}).listen(socket);
