export default {
  printWidth: 120,
  semi: false,
  singleQuote: true,
  overrides: [
    {
      files: 'src/core/kernels/assembly/*.ts',
      options: { parser: 'assemblyscript', plugins: ['./bin/lib/assemblyFormat.mjs'] },
    },
  ],
}
