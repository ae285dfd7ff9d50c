/** What can be exported: whether it can be done, and what file comes of it. How it is made stands in render.ts, under the same names. */
import { FORMATS } from '@/document/fileFormats'
import { plainName } from '../fileNames'
import { type ExportInput } from '../inputs'
import { type aboutProject } from '../projects'

type About = Awaited<ReturnType<typeof aboutProject>>
interface File {
  readonly extension: string
  readonly mediaType: string
}
export interface ExportKind {
  /** Why it cannot be done, if it cannot. */
  problem?(input: ExportInput, about: About): string | undefined
  file(input: ExportInput): File
  /** Without what it ends in. */
  name(about: About): string
}

const picture = ({ format }: ExportInput): File => FORMATS[format]
const PNG: File = FORMATS.png
const ofProject = ({ name }: About) => name
const ofMatte = ({ name, layer }: About) => `${layer?.name ?? name} ${layer ? 'mask' : 'selection'}`
const depthProblem = ({ depth, format, longest }: ExportInput): string | undefined => {
  if (depth !== 16) return undefined
  if (!FORMATS[format].deep) return `${FORMATS[format].name} has no 16 bits a channel: choose PNG or TIFF.`
  return longest === undefined ? undefined : 'With 16 bits a channel a picture goes out at its full size.'
}
const maskProblem = ({ layer }: ExportInput, about: About): string | undefined =>
  layer && !about.layer?.masked ? `${about.layer?.name ?? 'This layer'} has no mask.` : undefined

export const EXPORT_KINDS: Readonly<Record<ExportInput['what'], ExportKind>> = {
  composite: { problem: depthProblem, file: picture, name: ofProject },
  cutout: {
    problem: ({ format }, { layer }) => {
      if (!layer) return 'Choose the layer to cut out.'
      if (layer.kind !== 'picture') return `${layer.name} is no picture: only pictures can be cut out.`
      if (!FORMATS[format].alpha)
        return `A cut-out keeps its transparency, which ${FORMATS[format].name} cannot: choose another format.`
      return undefined
    },
    file: picture,
    name: ({ layer }) => `${layer?.name} cut-out`,
  },
  merge: {
    problem: ({ layers }) => (layers?.length ? undefined : 'Choose the layers to merge.'),
    file: () => PNG,
    name: ofProject,
  },
  matte: {
    problem: maskProblem,
    file: () => PNG,
    name: ofMatte,
  },
  outline: {
    problem: maskProblem,
    file: () => ({ extension: 'svg', mediaType: 'image/svg+xml' }),
    name: (about) => `${ofMatte(about)} outline`,
  },
  layers: { file: () => ({ extension: 'ora', mediaType: 'image/openraster' }), name: ofProject },
  project: { file: () => ({ extension: 'wily.zip', mediaType: 'application/zip' }), name: ofProject },
}
export const kindOfExport = ({ what }: ExportInput): ExportKind => EXPORT_KINDS[what]

export const nameOfExport = (input: ExportInput, about: About): string => {
  const kind = kindOfExport(input)
  return `${plainName(input.name ?? kind.name(about))}.${kind.file(input).extension}`
}
