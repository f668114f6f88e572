/** A piece of generated code that stands beside the types where something uses it. */
export interface Helper {
  readonly text: string;
  /** Other helpers that it calls. */
  readonly needs?: readonly string[];
  /** What it imports, as the language writes it. */
  readonly imports?: readonly string[];
}

/** The helpers that generated code uses, with all that these use. */
export class HelperSet {
  readonly imports = new Set<string>();
  private readonly used = new Set<string>();

  constructor(private readonly known: Readonly<Record<string, Helper>>) {}

  /** Notes that a helper is needed; returns its name. */
  use(name: string): string {
    if (this.used.has(name)) return name;
    this.used.add(name);
    const helper = this.known[name];
    if (helper === undefined) throw new Error(`there is no helper ${name}`);
    helper.imports?.forEach((each) => this.imports.add(each));
    helper.needs?.forEach((each) => this.use(each));
    return name;
  }

  has(name: string): boolean {
    return this.used.has(name);
  }

  /** The texts of all that are used, in the order in which they are declared. */
  texts(): string[] {
    return Object.keys(this.known)
      .filter((name) => this.used.has(name))
      .map((name) => this.known[name]!.text.trimEnd());
  }
}
