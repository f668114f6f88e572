import { existsSync, readdirSync } from 'node:fs';
import { homedir } from 'node:os';
import { join } from 'node:path';
import { acceptsNull, type RecordField, type Type } from '../../core/model/types.js';
import type { BenchCommand, Library, PackageRule, Tool, Way } from '../language.js';

const modules = ['annotations', 'core', 'databind'];

/** Jackson's jars where distributions put them, or in the local repository of Maven. */
function jars(): string[] | undefined {
  const distribution = modules.map((name) => `/usr/share/java/jackson-${name}.jar`);
  if (distribution.every((path) => existsSync(path))) return distribution;
  return jarsOfMaven(join(homedir(), '.m2', 'repository'));
}

/** Jackson's jars of the newest version of which a repository of Maven has all. */
export function jarsOfMaven(repository: string): string[] | undefined {
  const folder = join(repository, 'com/fasterxml/jackson/core');
  const core = join(folder, 'jackson-core');
  const versions = existsSync(core) ? readdirSync(core) : [];
  const inOrder = versions.sort((a, b) => b.localeCompare(a, 'en', { numeric: true }));
  return inOrder
    .map((version) =>
      modules.map((name) => join(folder, `jackson-${name}`, version, `jackson-${name}-${version}.jar`)),
    )
    .find((found) => found.every((path) => existsSync(path)));
}

/** The library's plain call, and one under settings that are common. */
export const plainMapper: Way = {
  name: 'ObjectMapper',
  summary: 'readValue and writeValueAsString of a plain ObjectMapper',
};

export const sparingMapper: Way = {
  name: 'settings',
  summary: 'an ObjectMapper without nulls and with names in snake case',
  limits: [{ says: 'a nullable field does not say that its null is written', ours: true, kinds: ['lost'] }],
};

export const jackson: Library = {
  name: 'Jackson',
  files: jars,
  install: 'apt-get install libjackson2-databind-java',
};

/** The runtime. @param minimum the oldest that runs what the language's compiler makes */
export function javaRuntime(minimum: string): Tool {
  return {
    name: 'java',
    programs: ['java'],
    variable: 'SKEVO_JAVA',
    versionArguments: ['-version'],
    versionPattern: /version "(\d+(?:\.\d+)*)/,
    minimum,
    install: 'apt-get install openjdk-17-jre-headless',
  };
}

/** How packages are called where a JVM loads them. */
export function jvmPackage(reserved: ReadonlySet<string>): PackageRule {
  return { pattern: /^[a-z]\w*(\.[a-z]\w*)*$/, example: 'saltmere.sailings', reserved };
}

/** Options for a compiler that runs in a JVM: it is done before a better compilation of itself would pay. */
export const shortLivedCompiler = ['-J-XX:TieredStopAtLevel=1', '-J-XX:+UseSerialGC'];

/** The class path of libraries. */
export function classPath(libraries: readonly Library[]): string {
  return libraries.flatMap((library) => library.files() ?? []).join(':');
}

/** Runs a class from the folder `build`. */
export function runClass(name: string, path: string): BenchCommand {
  return {
    tool: 'java',
    arguments: ['-XX:+UseSerialGC', '-XX:TieredStopAtLevel=1', '-Xshare:auto', '-cp', `build:${path}`, name],
  };
}

/**
 * What `@JsonSetter` says of a field. Jackson takes an absent key for null in a creator, so that null cannot be
 * refused where absence is allowed.
 */
export function nullRules(field: RecordField): string[] {
  const { type, required } = field;
  const isContainer = type.kind === 'list' || type.kind === 'map';
  return [
    ...(!required || acceptsNull(field) ? ['nulls = Nulls.SET'] : []),
    ...(isContainer && !holdsNulls(type) ? ['contentNulls = Nulls.FAIL'] : []),
  ];
}

/** Whether null may stand in the lists or maps of a type. */
function holdsNulls(type: Type): boolean {
  const inner = type.kind === 'list' ? type.items : type.kind === 'map' ? type.values : undefined;
  if (inner === undefined) return false;
  return inner.kind === 'nullable' || inner.kind === 'null' || inner.kind === 'anything' || holdsNulls(inner);
}

/** The type of a form of text as Java calls it, what makes one, and where it is. */
export const jvmViews = {
  'date-time': ['OffsetDateTime', 'OffsetDateTime.parse', 'java.time.OffsetDateTime'],
  date: ['LocalDate', 'LocalDate.parse', 'java.time.LocalDate'],
  uuid: ['UUID', 'UUID.fromString', 'java.util.UUID'],
  base64: ['byte[]', 'Base64.getDecoder().decode', 'java.util.Base64'],
} as const;

/** A library by the coordinates of its jars (`group:name:version`), in the local repository of Maven. */
export function mavenLibrary(name: string, coordinates: readonly string[]): Library {
  return {
    name,
    files: () => {
      const repository = join(homedir(), '.m2', 'repository');
      const found = coordinates.map((each) => {
        const [group, artifact, version] = each.split(':') as [string, string, string];
        return join(repository, ...group.split('.'), artifact, version, `${artifact}-${version}.jar`);
      });
      return found.every((path) => existsSync(path)) ? found : undefined;
    },
    install: coordinates.map((each) => `mvn dependency:get -Dartifact=${each}`).join(' && '),
  };
}
