import type { Field } from './observation.js';

/** The keys of an object in their order, as a path from the shape without keys. */
export class Shape {
  /** Objects that had exactly these keys. */
  count = 0;
  private steps: Map<Field, Shape> | undefined = undefined;
  /** The step taken last. For the scanner. */
  lastField: Field | undefined = undefined;
  lastStep: Shape | undefined = undefined;

  constructor(
    readonly around: Shape | undefined,
    readonly field: Field | undefined,
    /** The how manieth of its place it is, from 1. */
    readonly serial: number,
  ) {}

  /** The shape with one key more; undefined when it is not known yet. */
  with(field: Field): Shape | undefined {
    if (this.lastField === field) return this.lastStep;
    const known = this.steps?.get(field);
    if (known !== undefined) {
      this.lastField = field;
      this.lastStep = known;
    }
    return known;
  }

  add(field: Field, serial: number): Shape {
    const shape = new Shape(this, field, serial);
    (this.steps ??= new Map()).set(field, shape);
    this.lastField = field;
    this.lastStep = shape;
    return shape;
  }

  /** Whether the objects have a key. */
  has(field: Field): boolean {
    for (let shape = this as Shape | undefined; shape?.field !== undefined; shape = shape.around)
      if (shape.field === field) return true;
    return false;
  }

  /** Fields in the order of the object. */
  fields(): Field[] {
    const found: Field[] = [];
    let { field, around } = this as Shape;
    while (field !== undefined) {
      found.push(field);
      ({ field, around } = around!);
    }
    return found.reverse();
  }

  /** The same in an order that depends on nothing but the keys. */
  *inOrder(): Generator<Shape> {
    const pending: Shape[] = [this];
    for (let shape = pending.pop(); shape !== undefined; shape = pending.pop()) {
      yield shape;
      if (shape.steps === undefined) continue;
      // The last is taken first.
      pending.push(...[...shape.steps.values()].sort((a, b) => (a.field!.key < b.field!.key ? 1 : -1)));
    }
  }

  /** This shape and all with more keys. */
  *all(): Generator<Shape> {
    const pending: Shape[] = [this];
    for (let shape = pending.pop(); shape !== undefined; shape = pending.pop()) {
      yield shape;
      if (shape.steps !== undefined) pending.push(...shape.steps.values());
    }
  }
}

/** A place with more shapes than these holds no union worth telling apart, and they are forgotten. */
export const mostShapes = 4096;
