import { changedWay, type Way } from '../language.js';

/** The ways in that most styles have. */
export const generated: Way = { name: 'generated', summary: 'the generated functions' };

export const built: Way = { name: 'built', summary: 'the constructor with the fields that were decoded' };

export const changed: Way = { name: changedWay, summary: 'one field set to its value in another payload' };
