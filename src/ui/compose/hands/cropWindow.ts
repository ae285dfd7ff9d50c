/** The window that a crop starts from, and its ratio. */
import { type Project, type Window } from '@/document/records'
import { wholeWindow } from '@/document/window'

export const shown = (project: Project): Window => project.window ?? wholeWindow(project.canvas)
/** 0: free. */
export const ratioOf = (ratio: string, project: Project): number =>
  ratio === 'free' ? 0 : ratio === 'own' ? project.canvas.width / project.canvas.height : Number(ratio)
