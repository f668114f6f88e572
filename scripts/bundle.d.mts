import type { BuildOptions } from 'esbuild';

export const bundled: BuildOptions;
