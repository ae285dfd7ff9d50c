/** The command line. Exit 0 done, 2 unusable input (one line on stderr). All but tidy need no database. A command is a file beside this one and a row here. */
import '@/core/network/withAllWeights'
import { parseArgs } from 'node:util'
import { NoSuchPicture } from '@/core/select/image'
import { NoSuchLayer } from '@/core/select/layer'
import { NoSuchSelection } from '@/core/select/saved'
import { PictureError } from '@/server/pictures/read'
import { batch, type BatchOptions } from './batch'
import { needsEnding, Unusable } from './files'
import { measurePhoto } from './measure'
import { replaceSkyOf, type ReplaceSkyOptions } from './replaceSky'
import { score } from './score'
import { tidy } from './tidy'
import { cutout, type CutoutOptions, select, type SelectOptions } from './select'

const USAGE = `usage:
  wily select <photo> --recipe <recipe.json> --out <matte.png> [--report <report.json>]
  wily cutout <photo> --recipe <recipe.json> --out <cutout.png> [--backdrop "#rrggbb" | <picture>] [--fringe 0-1] [--rim <px>]
  wily measure <photo> [--recipe <recipe.json>]
  wily replaceSky <photo> --sky <picture> --out <picture.png | .jpg> [--recipe <recipe.json>] [--water <recipe.json>] [--values <values.json>] [--report <report.json>]
  wily batch <folder> --recipe <plan.json> --out <folder> [--workers <number>] [--report <report.json>]
  wily tidy [--dry-run]   (takes away what no project uses any more; DATABASE_URL and WILY_DATA say where)
  wily score <matte> <truth> [--trimap <trimap>]
Recipes and plans are described in docs/recipe.md.`

/** Options without a value. */
const SWITCHES = new Set(['dry-run'])

type Options = Readonly<Record<string, string>>
interface Command {
  readonly options: readonly string[]
  readonly needs: readonly string[]
  /** How --out may end. */ readonly endings?: readonly string[]
  /** How many files it takes; absent: one. */ readonly takes?: number
  run(files: readonly string[], options: never): Promise<void>
}
const COMMANDS: Readonly<Record<string, Command>> = {
  select: {
    options: ['recipe', 'out', 'report'],
    needs: ['recipe', 'out'],
    endings: ['.png'],
    run: ([photo], options: SelectOptions) => select(photo, options),
  },
  cutout: {
    options: ['recipe', 'out', 'backdrop', 'fringe', 'rim'],
    needs: ['recipe', 'out'],
    endings: ['.png'],
    run: ([photo], options: CutoutOptions) => cutout(photo, options),
  },
  measure: {
    options: ['recipe'],
    needs: [],
    run: ([photo], { recipe }: { recipe?: string }) => measurePhoto(photo, recipe),
  },
  replaceSky: {
    options: ['sky', 'out', 'recipe', 'water', 'values', 'report'],
    needs: ['sky', 'out'],
    endings: ['.png', '.jpg', '.jpeg'],
    run: ([photo], options: ReplaceSkyOptions) => replaceSkyOf(photo, options),
  },
  batch: {
    options: ['recipe', 'out', 'workers', 'report'],
    needs: ['recipe', 'out'],
    run: ([folder], options: BatchOptions) => batch(folder, options),
  },
  tidy: {
    options: ['dry-run'],
    needs: [],
    takes: 0,
    run: (_, options: { 'dry-run'?: boolean }) => tidy(options['dry-run'] ?? false),
  },
  score: { options: ['trimap'], needs: [], run: (files, { trimap }: { trimap?: string }) => score(files, trimap) },
}

async function main([name, ...rest]: string[]): Promise<void> {
  const names = Object.keys(COMMANDS)
  if (name === undefined || name === '--help') throw new Unusable(USAGE)
  if (!Object.hasOwn(COMMANDS, name))
    throw new Unusable(`“${name}” is not a command: there are ${names.slice(0, -1).join(', ')} and ${names.at(-1)}.`)
  const command = COMMANDS[name]
  let parsed
  try {
    parsed = parseArgs({
      args: rest,
      allowPositionals: true,
      options: Object.fromEntries(
        command.options.map((option) => [
          option,
          { type: SWITCHES.has(option) ? ('boolean' as const) : ('string' as const) },
        ]),
      ),
    })
  } catch (error) {
    throw new Unusable((error as Error).message.split('\n')[0])
  }
  const { values, positionals } = parsed,
    options = values as Options
  // How many files there are is told first.
  const takes = command.takes ?? 1
  if (name !== 'score' && positionals.length !== takes)
    throw new Unusable(
      takes
        ? `${name} takes one ${name === 'batch' ? 'folder' : 'photo'}, not ${positionals.length}.`
        : `${name} takes no file.`,
    )
  for (const option of command.needs) if (!options[option]) throw new Unusable(`${name} needs --${option}.`)
  if (command.endings) needsEnding('--out', options.out, command.endings)
  await command.run(positionals, options as never)
}

main(process.argv.slice(2)).catch((error: unknown) => {
  if (
    error instanceof Unusable ||
    error instanceof PictureError ||
    error instanceof NoSuchSelection ||
    error instanceof NoSuchLayer ||
    error instanceof NoSuchPicture
  ) {
    process.stderr.write(`${error.message}\n`)
    process.exitCode = 2
  } else {
    process.stderr.write(`${error instanceof Error ? error.stack : String(error)}\n`)
    process.exitCode = 1
  }
})
