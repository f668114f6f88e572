import type { Argv } from 'yargs';
export const options = (argv: Argv) => argv;
export async function run(_given: object): Promise<void> {}
