import tseslint from 'typescript-eslint';

/** Everything that would let the core touch the world outside its arguments. */
const outside = [
  'node:*',
  'fs',
  'path',
  'child_process',
  'yargs',
  'yargs/*',
  'execa',
  'picocolors',
  'class-validator',
];

/** The folders, in the direction that imports may point: each may import those listed, and itself. */
const arrows = {
  core: [],
  formats: ['core'],
  languages: ['core'],
  workbench: ['core', 'formats', 'languages'],
  standin: [],
  capture: ['core', 'formats', 'languages'],
  project: ['core', 'formats', 'languages', 'workbench'],
  report: ['core', 'languages', 'workbench', 'project'],
  cli: ['core', 'formats', 'languages', 'workbench', 'standin', 'capture', 'project', 'report'],
};

const oneWay = Object.entries(arrows).map(([folder, allowed]) => {
  const forbidden = Object.keys(arrows).filter((other) => other !== folder && !allowed.includes(other));
  return {
    files: [`src/${folder}/**/*.ts`],
    rules: {
      'no-restricted-imports': [
        'error',
        {
          patterns: [
            ...(folder === 'core' ? [{ group: outside, message: 'core computes and nothing else' }] : []),
            ...(forbidden.length > 0
              ? [
                  {
                    group: forbidden.map((other) => `**/${other}/**`),
                    message: `${folder} may not import this folder`,
                  },
                ]
              : []),
          ],
        },
      ],
    },
  };
});

export default tseslint.config(
  {
    ignores: [
      'tests/.tools/',
      'dist/',
      'coverage/',
      'saltmere/',
      'demo/',
      'tests/golden/',
      'tests/clients/typescript*/',
      '.mutation/',
      '.walkthrough-*',
    ],
  },
  ...tseslint.configs.recommended,
  {
    files: ['src/**/*.ts', 'tests/**/*.ts'],
    languageOptions: { parserOptions: { projectService: true } },
    rules: {
      '@typescript-eslint/no-floating-promises': 'error',
      '@typescript-eslint/switch-exhaustiveness-check': [
        'error',
        { considerDefaultExhaustiveForUnions: true },
      ],
      '@typescript-eslint/consistent-type-imports': 'error',
      'no-console': 'error',
      '@typescript-eslint/no-unused-vars': ['error', { varsIgnorePattern: '^_', argsIgnorePattern: '^_' }],
    },
  },
  {
    files: ['src/core/**/*.ts'],
    rules: {
      'no-restricted-globals': ['error', 'process', 'console', 'Buffer', 'fetch', 'setTimeout', 'Date'],
    },
  },
  {
    // What is printed passes through one place, which takes out what could take over a terminal.
    files: ['src/**/*.ts'],
    ignores: ['src/cli/print.ts', 'src/cli/progress.ts'],
    rules: {
      'no-restricted-properties': [
        'error',
        ...['stdout', 'stderr'].map((property) => ({
          object: 'process',
          property,
          message: 'print and say of cli/print.ts write to it',
        })),
      ],
    },
  },
  {
    // Classes are made once, and handed on to whoever writes, proves or shows them.
    files: ['src/**/*.ts'],
    ignores: ['src/languages/**'],
    rules: {
      'no-restricted-syntax': [
        'error',
        ...['emit', 'bench'].map((name) => ({
          selector: `CallExpression[callee.property.name='${name}'][arguments.length=2]`,
          message: 'make of languages/make.ts calls it',
        })),
      ],
    },
  },
  ...oneWay,
);
