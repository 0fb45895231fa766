import js from '@eslint/js';
import a11y from 'eslint-plugin-jsx-a11y-x';
import hooks from 'eslint-plugin-react-hooks';
import tseslint from 'typescript-eslint';

export default tseslint.config(
  { ignores: ['src/api/generated'] },
  js.configs.recommended,
  ...tseslint.configs.recommendedTypeChecked,
  { languageOptions: { parserOptions: { projectService: true, tsconfigRootDir: import.meta.dirname } } },
  hooks.configs.flat.recommended,
  a11y.configs.recommended,
  {
    rules: {
      'max-lines': ['error', 350],
      'max-lines-per-function': ['error', 60],
      '@typescript-eslint/no-non-null-assertion': 'error',
      // What is asked for as a promise may be known at once.
      '@typescript-eslint/require-await': 'off',
      // Handlers may be asynchronous: what they do says its own faults.
      '@typescript-eslint/no-misused-promises': ['error', { checksVoidReturn: false }],
    },
  },
  // What describes a subject is no function.
  { files: ['**/*.test.ts'], rules: { 'max-lines-per-function': 'off' } },
);
