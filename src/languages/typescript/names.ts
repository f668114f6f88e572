import type { TypeModel } from '../../core/model/types.js';
import { identifier, kebabCase } from '../kit/names.js';

/** The file of the types: `sailing-page.ts`. */
export function fileOf({ name }: Pick<TypeModel, 'name'>): string {
  return `${identifier(name, kebabCase)}.ts`;
}
