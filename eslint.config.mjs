import hooks from 'eslint-plugin-react-hooks'
import typescript from 'typescript-eslint'

const TYPED = ['src/**/*.ts', 'src/**/*.tsx']

export default typescript.config(
  {
    ignores: [
      'node_modules',
      '.next',
      'dist',
      '.data',
      'next-env.d.ts',
      'src/server/database/migrations',
      'src/core/kernels/assembly',
    ],
  },
  ...typescript.configs.recommended,
  // With types, where there are any.
  ...typescript.configs.recommendedTypeCheckedOnly.map((config) => ({ ...config, files: TYPED })),
  { files: TYPED, languageOptions: { parserOptions: { projectService: true } } },
  {
    plugins: { 'react-hooks': hooks },
    rules: {
      'react-hooks/rules-of-hooks': 'error',
      'react-hooks/exhaustive-deps': 'error',
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', destructuredArrayIgnorePattern: '^_' }],
      '@typescript-eslint/consistent-type-imports': ['error', { fixStyle: 'inline-type-imports' }],
      'no-console': ['error', { allow: ['error', 'log'] }],
      eqeqeq: 'error',
      'max-lines': ['error', 300],
    },
  },
  {
    files: TYPED,
    rules: {
      // Handlers of requests and of other threads' questions answer with promises, whether they wait for anything or not.
      '@typescript-eslint/require-await': 'off',
      // Listeners may take their time; each tells what went wrong itself.
      '@typescript-eslint/no-misused-promises': ['error', { checksVoidReturn: false }],
    },
  },
  // Checks look into what they were given, which has no type yet.
  {
    files: ['src/**/*.test.ts'],
    rules: {
      '@typescript-eslint/no-unsafe-assignment': 'off',
      '@typescript-eslint/no-unsafe-member-access': 'off',
      '@typescript-eslint/no-unsafe-call': 'off',
      '@typescript-eslint/no-unsafe-argument': 'off',
      '@typescript-eslint/no-unsafe-return': 'off',
    },
  },
)
