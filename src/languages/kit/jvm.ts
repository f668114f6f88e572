import { existsSync } from 'node:fs';
import { homedir } from 'node:os';
import { join } from 'node:path';
import type { BenchCommand, Library, PackageRule, Resident, Tool } from '../language.js';
import compilerServer from './support/CompilerServer.java';

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

/** Keeps a compiler running. @param java the runtime for it, and its jars where it does not have them itself */
export function residentCompiler(
  name: 'javac' | 'kotlinc' | 'scalac',
  { java, jars }: { readonly java: string; readonly jars?: string },
): Resident {
  const server = 'CompilerServer.java';
  return {
    file: java,
    arguments: [
      '-Xss16m',
      '-XX:+UseSerialGC',
      '-XX:TieredStopAtLevel=1',
      ...(jars === undefined ? [] : ['-cp', jars]),
      server,
      name,
    ],
    files: [{ path: server, text: compilerServer }],
  };
}

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
