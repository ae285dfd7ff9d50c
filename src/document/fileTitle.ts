import { keepable } from './limits'

/** What a picture is called after its file: without what the name ends in, words apart. */
export const fileTitle = (fileName: string): string =>
  keepable(
    fileName
      .replace(/\.[^.]+$/, '')
      .replace(/[-_]+/g, ' ')
      .trim(),
  ) || 'Picture'
