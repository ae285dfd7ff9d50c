/** Prettier for AssemblyScript: TypeScript but for `@inline` before functions and constants, which is printed as it stands. */
import * as estree from 'prettier/plugins/estree'
import * as typescript from 'prettier/plugins/typescript'

const HIDDEN = '@inline@'

export const parsers = {
  assemblyscript: {
    ...typescript.parsers.typescript,
    astFormat: 'assemblyscript',
    preprocess: (text) => text.replace(/@inline\b/g, `/*${HIDDEN}*/`),
  },
}

export const printers = {
  assemblyscript: {
    ...estree.printers.estree,
    printComment: (path, options) =>
      path.node.value === HIDDEN ? '@inline' : estree.printers.estree.printComment(path, options),
  },
}
