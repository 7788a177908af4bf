import prettier from 'eslint-config-prettier';
import vue from 'eslint-plugin-vue';
import globals from 'globals';
import ts from 'typescript-eslint';
import assertions from './tools/src/assertions.mjs';

/** Imports run one way: web → records, core; server → records, core; instruments → records, core; records → core; core → nothing of ours. */
const FORBIDDEN = {
  core: ['@alluvium/*', 'vue', 'zod', 'node:*', 'd3-*'],
  records: ['@alluvium/web', '@alluvium/server', '@alluvium/demo', '@alluvium/tools', 'vue', 'node:*'],
  server: ['@alluvium/web', '@alluvium/demo', '@alluvium/tools', '@alluvium/instruments', 'vue'],
  instruments: ['@alluvium/web', '@alluvium/demo', '@alluvium/tools', '@alluvium/server', 'vue'],
  web: ['@alluvium/server', '@alluvium/instruments', '@alluvium/demo', '@alluvium/tools', 'node:*'],
  demo: ['@alluvium/web', '@alluvium/server', '@alluvium/tools', 'vue'],
  tools: ['@alluvium/web', 'vue'],
  e2e: ['@alluvium/web', '@alluvium/demo', '@alluvium/tools', 'vue'],
};
/** What Node and a page both have, and a pure function may use. */
const EVERYWHERE = new Set(['TextDecoder', 'TextEncoder', 'URL', 'structuredClone', 'crypto', 'atob', 'btoa']);
const across = Object.keys(FORBIDDEN).map((name) => ({
  files: [name === 'e2e' ? 'e2e/**/*.ts' : `${name}/src/**/*.{ts,vue}`],
  ignores: [`${name}/src/**/*.test.ts`],
  rules: {
    'no-restricted-imports': [
      'error',
      {
        patterns: [
          {
            group: [
              ...FORBIDDEN[name],
              ...Object.keys(FORBIDDEN)
                .filter((o) => o !== name)
                .map((o) => `**/${o}/src/**`),
            ],
            message: 'Imports run one way: see ARCHITECTURE.md.',
          },
        ],
      },
    ],
  },
}));

export default ts.config(
  { ignores: ['**/dist/**', '**/node_modules/**', 'reports/**', 'data/**', 'test-results/**', '**/*.generated.d.ts'] },
  ...ts.configs.recommended,
  ...vue.configs['flat/recommended'],
  { files: ['**/*.vue'], languageOptions: { parserOptions: { parser: ts.parser }, globals: globals.browser } },
  { files: ['**/*.{mjs,js}'], languageOptions: { globals: globals.node } },
  {
    rules: {
      '@typescript-eslint/no-non-null-assertion': 'off',
      '@typescript-eslint/consistent-type-imports': 'error',
      // A member left out by taking it apart carries an underscore.
      '@typescript-eslint/no-unused-vars': ['error', { varsIgnorePattern: '^_', argsIgnorePattern: '^_' }],
      'no-undef': 'off',
      'vue/require-default-prop': 'off',
      'vue/multi-word-component-names': 'error',
      // A tag that names nothing is drawn as nothing.
      'vue/no-undef-components': ['error', { ignorePatterns: ['^[Ee]l-?', '^Router(View|Link)$'] }],
      eqeqeq: ['error', 'always', { null: 'ignore' }],
    },
  },
  // Core and records run anywhere: they know neither Node nor a page, nor what day it is.
  {
    files: ['{core,records}/src/**/*.ts'],
    ignores: ['**/*.test.ts'],
    rules: {
      'no-restricted-globals': [
        'error',
        ...[...new Set([...Object.keys(globals.browser), ...Object.keys(globals.node)])]
          .filter((name) => !EVERYWHERE.has(name))
          .map((name) => ({ name, message: 'Core and records use nothing of Node or a page.' })),
      ],
      // What they refuse has a code; its sentence stands in a table (refusal.ts, sentences.ts).
      'no-restricted-syntax': [
        'error',
        {
          selector: 'ThrowStatement > NewExpression[callee.name=/Error$/]',
          message: 'Throw a refusal: its code and sentence stand in sentences.ts.',
        },
        {
          selector:
            "ObjectExpression:has(> Property[key.name='code'][value.value='custom']) > Property[key.name='message'][value.type=/Literal/]",
          message: 'Use issue(): its code and sentence stand in sentences.ts.',
        },
      ],
    },
  },
  // Every change goes through web/src/data, which says when it fails; nothing else sends to the server or holds its answers.
  {
    files: ['web/src/**/*.{ts,vue}'],
    ignores: ['web/src/data/**', 'web/src/main.ts', 'web/src/**/*.test.ts', 'web/src/test/**'],
    rules: {
      'no-restricted-globals': ['error', { name: 'fetch', message: 'Ask and send through web/src/data.' }],
      '@typescript-eslint/no-restricted-imports': [
        'error',
        {
          paths: [{ name: '@tanstack/vue-query', message: 'Queries and their keys stand in web/src/data.' }],
          patterns: [
            {
              group: ['**/data/client.js'],
              allowImportNames: ['addPhoto', 'makeChecklist', 'importBundle', 'readInstrument', 'fileAt', 'reportPdf'],
              message: 'Change through useChange, ask through queries.',
            },
          ],
        },
      ],
    },
  },
  // Controls are Element Plus's, or the shared parts made where it has none that fits.
  {
    files: ['web/src/**/*.vue'],
    ignores: ['web/src/parts/**'],
    rules: {
      'vue/no-restricted-html-elements': [
        'error',
        ...['button', 'select', 'input', 'textarea', 'dialog'].map((element) => ({
          element,
          message: `No <${element}> of the browser's here: an el- component, or a part of web/src/parts.`,
        })),
      ],
    },
  },
  // A value is taken for there only where a comment says why it is.
  {
    files: ['{web,records,server,instruments}/src/**/*.{ts,vue}'],
    ignores: ['**/*.test.ts', '**/test/**'],
    plugins: { alluvium: { rules: { assertions } } },
    rules: { 'alluvium/assertions': 'error' },
  },
  {
    files: ['core/src/**/*.ts'],
    ignores: ['**/*.test.ts'],
    plugins: { alluvium: { rules: { assertions } } },
    rules: { 'alluvium/assertions': ['error', { indexes: 'free' }] },
  },
  // Tests read the server's answers as they come.
  { files: ['**/*.test.ts', '**/test/**', 'e2e/**'], rules: { '@typescript-eslint/no-explicit-any': 'off' } },
  ...across,
  prettier,
);
