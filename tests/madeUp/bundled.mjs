/** The made-up edits and numbers, bundled for where they run. */
import { join } from 'node:path'
import { build } from 'esbuild'
import { root } from '../journeys/application.mjs'

const textOf = async (file, format) =>
  (
    await build({
      entryPoints: [join(root, 'tests/madeUp', file)],
      bundle: true,
      format,
      platform: format === 'esm' ? 'node' : 'browser',
      write: false,
      tsconfig: join(root, 'tsconfig.json'),
    })
  ).outputFiles[0].text
/** As a module here. */
export const bundled = async (file) =>
  import(`data:text/javascript;base64,${Buffer.from(await textOf(file, 'esm')).toString('base64')}`)
/** As a script for a page: draws edits and makes them through the page's handle. */
export const scriptForPages = () => textOf('inPage.ts', 'iife')
