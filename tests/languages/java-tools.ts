/** What the compiler hides from checkers that run in it. */
export const compilerOpened = [
  ...['api', 'code', 'comp', 'file', 'main', 'model', 'parser', 'processing', 'tree', 'util'].map(
    (name) => `--add-exports=jdk.compiler/com.sun.tools.javac.${name}=ALL-UNNAMED`,
  ),
  ...['code', 'comp'].map((name) => `--add-opens=jdk.compiler/com.sun.tools.javac.${name}=ALL-UNNAMED`),
];
