import js from '@eslint/js';
import hooks from 'eslint-plugin-react-hooks';
import ts from 'typescript-eslint';

export default ts.config(
  { ignores: ['**/dist/**', '**/*.gen.ts', 'node_modules'] },
  js.configs.recommended,
  ...ts.configs.recommended,
  // React is in the console alone, and not in what every user loads. Its rules compile what they read: that is most of the time linting takes.
  { ...hooks.configs.flat.recommended, files: ['console/src/**'], ignores: ['console/src/runtime/**', 'console/src/api/**'] },
  {
    rules: { '@typescript-eslint/consistent-type-imports': 'error', 'no-restricted-globals': ['error', 'event', 'name'] },
  },
  {
    // How much one can take in at once. The formatter breaks lines; a text or a comment is broken by hand.
    files: ['**/*.{ts,tsx}'],
    rules: {
      'max-len': ['error', { code: 140, ignoreUrls: true }],
      'max-lines': ['error', { max: 330, skipBlankLines: true, skipComments: true }],
    },
  },
  {
    // A group of tests is no function one reads as one.
    files: ['*/src/**/*.{ts,tsx}', '*/build/**/*.ts'],
    rules: { 'max-lines-per-function': ['error', { max: 66, skipBlankLines: true, skipComments: true }] },
  },
  {
    // The layout package is functions over trees.
    files: ['layout/src/**'],
    rules: { 'no-restricted-globals': ['error', 'document', 'window', 'fetch', 'localStorage', 'sessionStorage', 'navigator', 'location'] },
  },
  {
    // The form package knows nothing of the console, and brings no library into the pages that run forms.
    files: ['form/**'],
    rules: {
      'no-restricted-imports': [
        'error',
        {
          patterns: [
            '**/console/**',
            '@bright-tier/console*',
            '@atlaskit/*',
            'react',
            'react/*',
            'react-dom',
            'react-dom/*',
            'react-aria-components',
          ],
        },
      ],
    },
  },
  {
    // What every user loads draws itself: components are asked for through what it is given, and fetched when they are.
    files: ['console/src/runtime/**'],
    rules: {
      'no-restricted-imports': [
        'error',
        {
          patterns: [
            '@atlaskit/*',
            'react',
            'react/*',
            'react-dom',
            'react-dom/*',
            'react-aria-components',
            '@tanstack/*',
            '**/*.tsx',
            '**/hooks.ts',
          ],
        },
      ],
    },
  },
  {
    // Running stays small: only the designer may load what designing needs.
    files: ['console/src/**'],
    ignores: ['console/src/features/designer/**', 'console/src/runtime/**'],
    rules: { 'no-restricted-imports': ['error', { patterns: ['@atlaskit/*', 'react-aria-components'] }] },
  },
);
