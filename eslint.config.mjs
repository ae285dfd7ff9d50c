import hooks from 'eslint-plugin-react-hooks'
import typescript from 'typescript-eslint'

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
  {
    plugins: { 'react-hooks': hooks },
    rules: {
      'react-hooks/rules-of-hooks': 'error',
      'react-hooks/exhaustive-deps': 'error',
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', destructuredArrayIgnorePattern: '^_' }],
      '@typescript-eslint/consistent-type-imports': ['error', { fixStyle: 'inline-type-imports' }],
      'no-console': ['error', { allow: ['error', 'log'] }],
      eqeqeq: 'error',
    },
  },
)
