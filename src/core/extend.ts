/** Adds items to a list. A call can be given but some ten thousands of them at a time, so that `push(...items)` may fail. */
export function extend<T>(list: T[], items: Iterable<T>): void {
  for (const item of items) list.push(item);
}
