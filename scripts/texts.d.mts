import type { Plugin as BuildPlugin } from 'esbuild';
import type { Plugin } from 'vite';

export const textsForBuild: BuildPlugin;
export const textsForTests: Plugin;
