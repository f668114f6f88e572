import type { PlainStep, ReachStep } from '../core/model/reach.js';
import type { TextForm, TypeModel } from '../core/model/types.js';
import type { FindingKind } from '../core/roundtrip/finding.js';

/** A program that a language's bench needs, and how to find it. */
export interface Tool {
  readonly name: string;
  /** Programs to look for in PATH, the best first. */
  readonly programs?: readonly string[];
  /** A program that comes with an npm package that Skevo depends on: the package and the path in it. */
  readonly bundled?: { readonly package: string; readonly path: string };
  /** An environment variable that names the program instead. */
  readonly variable: string;
  /** Arguments that make it print its version, and the version in what it prints. */
  readonly versionArguments: readonly string[];
  readonly versionPattern: RegExp;
  readonly minimum: string;
  /** What to type to get it. */
  readonly install: string;
  /** A program that does its work again and again, for many builds. @param home where its distribution is */
  readonly resident?: (home: string) => Resident;
}

/**
 * A program that keeps a compiler running: it reads a line for each build, with its arguments in base64 and a space between
 * them, and answers with a line of its exit code and what it said, in base64 too.
 */
export interface Resident {
  readonly file: string;
  readonly arguments: readonly string[];
  /** Files of the folder that it is started in. */
  readonly files: readonly GeneratedFile[];
}

export interface GeneratedFile {
  /** Relative, with forward slashes. */
  readonly path: string;
  readonly text: string;
}

/** What a type of the model became. */
export interface NamesOfType {
  readonly type: string;
  /** The field of each key; empty for a union. */
  readonly fields: ReadonlyMap<string, string>;
  /** For a union: the field that holds its alternative, empty where it is one, and what the alternatives are called. */
  readonly union?: {
    readonly heldBy: string;
    readonly arms: readonly string[];
    /** Keys whose fields stand beside that field, not in the alternatives. */
    readonly shared: ReadonlySet<string>;
    /** Set where an alternative is its fields, and no value with a type of its own. */
    readonly isFields?: true;
  };
}

/** Generated sources and what the names in them became. */
export interface Emitted {
  readonly files: readonly GeneratedFile[];
  /** By the name of a record in the model, and of a union where it says more than the type. */
  readonly names: ReadonlyMap<string, NamesOfType>;
}

/**
 * What generated code does with fields that the schema does not know: it carries them through, drops them, or
 * refuses the payload.
 */
export const unknownRules = ['keep', 'drop', 'reject'] as const;
export type UnknownRule = (typeof unknownRules)[number];

/** Whether large records have builders. */
export const buildersRules = ['on', 'off'] as const;
export type BuildersRule = (typeof buildersRules)[number];

export interface EmitOptions {
  /** Where the schema came from, for the header of the file. */
  readonly origin: string;
  /** The package, namespace or module of the types, where the language has one; the payload's name when not given. */
  readonly package?: string | undefined;
  /** `drop` when not given. */
  readonly unknown?: UnknownRule | undefined;
  /** Whether large records have builders, where the style knows them; `on` when not given. */
  readonly builders?: BuildersRule | undefined;
}

/**
 * One program call of a bench: the tool by its name, or the program Node itself. In the arguments of a build `{home}` is
 * where the distribution of the tool is, whose program is in its folder `bin`.
 */
export interface BenchCommand {
  readonly tool: string;
  readonly arguments: readonly string[];
}

/**
 * What turns generated sources into a program of the exchange protocol: one payload a line on stdin; for each,
 * one line on stdout, which is the payload encoded again, or `!` and a message when it was refused. Where the style has
 * several ways in, the line has an answer for each, with a record separator (U+001E) between; `=` is the first again.
 * A line of a separator, a number, a payload and another, with separators between, asks for the first payload with one
 * of its fields, by its number, set to what it is in the other.
 */
export interface Bench {
  /** Keys of the payload whose fields the program can set, in the order in which it counts them. */
  readonly changes?: readonly string[];
  readonly files: readonly GeneratedFile[];
  /** What takes long to build and does not depend on the schema: built once and kept. */
  readonly prepared?: Prepared;
  /** npm packages that must resolve from the bench folder. */
  readonly packages?: readonly string[];
  readonly build: readonly BenchCommand[];
  readonly run: BenchCommand | BuiltProgram;
}

/** `{prepared}` in the arguments of a bench's commands stands for the folder in which this was built. */
export interface Prepared {
  readonly files: readonly GeneratedFile[];
  readonly build: readonly BenchCommand[];
  /** What a tool says when packages cannot be had: then the language is not here, and has not failed. */
  readonly unavailable?: { readonly pattern: RegExp; readonly what: string; readonly install: string };
}

/** A program that the build made, by its path in the bench folder. */
export interface BuiltProgram {
  readonly program: string;
  readonly arguments: readonly string[];
}

export interface BenchOptions {
  /** Whether warnings of the compiler and of the language's usual checker end the build. */
  readonly pedantic: boolean;
  /** What `emit` called the types. */
  readonly names: Emitted['names'];
  /** The paths of what it wrote. */
  readonly paths: readonly string[];
  /** The package of the types, as for `emit`. */
  readonly package?: string | undefined;
  /** As for `emit`. */
  readonly unknown?: UnknownRule | undefined;
  readonly builders?: BuildersRule | undefined;
  /** The payload, by its position among those of the model; the first when not given. */
  readonly root?: number;
}

/** What cannot come back through a way in, though it does through others. */
export interface Limit {
  /** Why, in one line, for people. */
  readonly says: string;
  /** Kinds of finding that it accounts for; all when not given. */
  readonly kinds?: readonly FindingKind[];
  /** What the cause of such a finding says; any when not given. */
  readonly causes?: RegExp;
}

/** The way in that sets one field at a time, which the bench is asked for by itself. */
export const changedWay = 'changed';

/** How programs decode and encode with the types of a style. */
export interface Way {
  readonly name: string;
  readonly summary: string;
  readonly limits?: readonly Limit[];
}

/** One way of writing a language's classes. */
export interface Style {
  readonly name: string;
  readonly summary: string;
  /** In the order in which the program of its bench tries them; the generated functions alone when not given. */
  readonly ways?: readonly Way[];
  /** Set where it has typed maps for keys that a schema does not name, but types. */
  readonly typesOthers?: true;
  /** What can be done with what a schema does not know; all when not given. */
  readonly unknown?: readonly UnknownRule[];
  /** Set where values keep what a schema does not name even where that is to be dropped. */
  readonly carriesUnknown?: true;
  /** The style whose text it has, laid out in other files. */
  readonly variantOf?: string;
  /** Set where what contradicts the schema is refused just where the library does. */
  readonly isUnchecked?: true;
  /** Set where large records have builders, unless they are not wanted. */
  readonly hasBuilders?: true;
  /** What its language has types for, which fields then have. */
  readonly natives?: readonly TextForm[];
  /** Keys that its library cannot bind, where those of the language can be. */
  readonly unboundKeys?: RegExp;
  /** What its library's strings hold, which numbers it has not, and how deep it reads, where it is not as in the language. */
  readonly text?: 'utf-8';
  readonly lossyNumbers?: RegExp;
  readonly deepest?: number;
  /** What its bench needs beside the tools of the language. */
  readonly tools?: readonly Tool[];
  readonly libraries?: readonly Library[];
  emit(model: TypeModel, options: EmitOptions): Emitted;
  bench(model: TypeModel, options: BenchOptions): Bench;
  /** Lines of code that reach a place from a variable called after the payload, lists as loops. */
  reach(root: string, steps: readonly ReachStep[], names: Emitted['names']): string;
  /** The same through plain parsed JSON. */
  plain(root: string, steps: readonly PlainStep[]): string;
}

/** A library that generated code uses. */
export interface Library {
  readonly name: string;
  /** Where it is here; undefined when it is not. */
  files(): readonly string[] | undefined;
  /** What to type to get it. */
  readonly install: string;
}

/** How the packages, namespaces or modules of a language may be called. */
export interface PackageRule {
  readonly pattern: RegExp;
  readonly example: string;
  /** What no part of the name may be; in lower case where capitals make no difference. */
  readonly reserved: ReadonlySet<string>;
  readonly caseless?: true;
  /** Set where it is the name of the one file of the types, whatever payloads they are of. */
  readonly isFile?: true;
}

/** A language; the first style is the default. */
export interface Language {
  readonly name: string;
  readonly title: string;
  /**
   * What its strings hold. Those of UTF-8 cannot hold half a surrogate pair, which JSON can: a payload with one is
   * refused or changed.
   */
  readonly text: 'utf-8' | 'utf-16';
  /** Set where its strings end at NUL: a payload with one is refused. */
  readonly hasNul?: false;
  /** Levels of nesting that its library decodes; missing when it has no limit that matters. */
  readonly deepest?: number;
  /** Numbers, as JSON writes them, that its library refuses or that its runtime rounds. */
  readonly lossyNumbers?: RegExp;
  /** Keys that its library cannot bind: a payload with one is refused or changed. */
  readonly unboundKeys?: RegExp;
  /** How the package, namespace or module of the types may be called; missing where the language has none. */
  readonly package?: PackageRule;
  readonly tools: readonly Tool[];
  /** What the bench needs beside programs. */
  readonly libraries?: readonly Library[];
  readonly styles: readonly [Style, ...Style[]];
}
