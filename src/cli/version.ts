/** Put in place when the command is built. */
declare const SKEVO_VERSION: string;

export const version: string = SKEVO_VERSION;
