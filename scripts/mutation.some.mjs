import { declareValuePlugin, PluginKind } from '@stryker-mutator/api/plugin';
import { createHash } from 'node:crypto';

/** One of so many functions is changed. */
const oneIn = Number(process.env['SKEVO_ONE_IN'] ?? 1);

/** Functions and methods that stand in no other; all else of a file is changed. */
const isWhole = (path) =>
  (path.isFunction() || path.isClassMethod()) && path.findParent((each) => each.isFunction()) === null;

/** By what a function says, so that the same functions are changed in every run. */
const isPassedOver = (path) =>
  createHash('sha256').update(path.toString()).digest().readUInt32BE() % oneIn !== 0;

export const strykerPlugins = [
  declareValuePlugin(PluginKind.Ignore, 'some', {
    shouldIgnore: (path) =>
      oneIn > 1 && isWhole(path) && isPassedOver(path) ? 'not of the sample' : undefined,
  }),
];
