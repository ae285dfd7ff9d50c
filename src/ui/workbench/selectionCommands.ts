/** Commands of finders and the selection. */
import { toast } from 'sonner'
import { addStep, clearSteps, picksBackground, recipeAt, removeStep, switchBackground } from '@/document/edits'
import { runLayerAction } from '@/ui/layers/layerActions'
import { parseStep } from '@/core/formats/recipe'
import { FINDER_PAGES, finderPage, GROUPS } from '@/ui/finders/registry'
import { takeTool } from '@/ui/finders/takeTool'
import { act, abandon, closeStep, get, giveUpDrawing, set, shownProject, shownSteps } from '@/ui/store/bench'
import { type BenchState } from '@/ui/store/benchState'
import { stepName } from '@/ui/modifiers/registry'
import { focusOf } from '@/ui/store/focus'
import { removed } from '@/ui/store/removed'
import { makeMaskNow, maskProblem, saveProblem, saveSelectionNow } from '@/ui/store/makeOf'
import { bringBackLast, chooseGroup, marks, removeNode, stepInMiddle } from './commandWork'
import { type Command } from './command'
import { stepsClipboard } from './FromOutside'

export const SELECTION_COMMANDS: readonly Command[] = [
  ...GROUPS.map(({ group, name, key }): Command => ({
    id: `group ${group}`,
    name: `Tool ${name.toLowerCase()}, next; in Compose: its tool ${key}`,
    keys: [key],
    section: 'Finders',
    run: () => chooseGroup(group),
  })),
  ...FINDER_PAGES.map((page): Command => ({
    id: `finder ${page.id}`,
    name: `Finder: ${page.name}`,
    section: 'Finders',
    run: () => takeTool(page.id),
  })),
  {
    id: 'background',
    name: 'Invert: what I picked is the background',
    keys: ['i'],
    section: 'Selection',
    run: () => {
      const { home } = get(),
        project = shownProject(get())
      if (!project || !shownSteps(get()).length) {
        toast('Nothing is selected yet.')
        return
      }
      const on = !picksBackground(recipeAt(project, home))
      act(on ? 'The background was picked' : 'The subject was picked', switchBackground(home, on, crypto.randomUUID()))
    },
  },
  {
    id: 'clear',
    name: 'Select nothing (remove all steps)',
    keys: ['Ctrl+Shift+a'],
    section: 'Selection',
    run: () => {
      act('Remove all steps', clearSteps(get().home))
      closeStep()
    },
  },
  {
    id: 'removeStep',
    name: 'Remove what is worked on: a point, a step, a layer',
    keys: ['Delete', 'Backspace'],
    section: 'Selection',
    run: () => {
      const { drawing, finder } = get(),
        project = shownProject(get())
      if (!project) return
      if (drawing) {
        finderPage(finder).takeBack?.()
        return
      }
      const focus = focusOf(get(), project)
      if (focus.kind === 'layer') runLayerAction('remove')
      else if (focus.kind === 'step' && !removeNode()) {
        const name = stepName(focus.step)
        removed(`Remove ${name}`, name, removeStep(focus.home, focus.step.id!))
        closeStep()
      }
    },
  },
  ...(
    [
      ['[', 'Smaller brush', (b) => ({ size: Math.max(1, Math.round(b.size / 1.15 - 0.5)) })],
      [']', 'Larger brush', (b) => ({ size: Math.min(2000, Math.round(b.size * 1.15 + 0.5)) })],
      ['Shift+[', 'Softer brush', (b) => ({ hardness: Math.max(0, Math.round(b.hardness * 10 - 1) / 10) })],
      ['Shift+]', 'Harder brush', (b) => ({ hardness: Math.min(1, Math.round(b.hardness * 10 + 1) / 10) })],
    ] as [string, string, (brush: BenchState['brush']) => Partial<BenchState['brush']>][]
  ).map(([key, name, change]): Command => ({
    id: name,
    name,
    keys: [key],
    section: 'Finders',
    run: () =>
      set((state) =>
        marks(state)
          ? {
              marker: {
                ...state.marker,
                size: change({ ...state.brush, size: state.marker.size }).size ?? state.marker.size,
              },
            }
          : { brush: { ...state.brush, ...change(state.brush) } },
      ),
  })),
  {
    id: 'all',
    name: 'Select all',
    keys: ['Ctrl+a'],
    section: 'Selection',
    run: () => {
      const id = crypto.randomUUID()
      act('All', addStep(get().home, parseStep({ kind: 'all', id })))
      set({ openStep: id })
    },
  },
  { id: 'last', name: 'Bring back the last selection', keys: ['Shift+l'], section: 'Selection', run: bringBackLast },
  {
    id: 'copySteps',
    name: 'Copy the steps',
    keys: ['Ctrl+c'],
    section: 'Selection',
    run: () => {
      void stepsClipboard().then(({ copySteps }) => copySteps())
    },
  },
  {
    id: 'pasteSteps',
    name: 'Paste steps: copy them on another photo, then press Ctrl+V here',
    section: 'Selection',
    run: () => {
      void stepsClipboard().then(({ pasteFromClipboard }) => pasteFromClipboard())
    },
  },
  {
    id: 'mask',
    name: 'Make mask',
    keys: ['m'],
    section: 'Selection',
    run: () => {
      const problem = maskProblem()
      if (problem) toast(problem)
      else makeMaskNow()
    },
  },
  {
    id: 'saveSelection',
    name: 'Save the selection',
    keys: ['k'],
    section: 'Selection',
    run: () => {
      const problem = saveProblem()
      if (problem) toast(problem)
      else saveSelectionNow()
    },
  },
  {
    id: 'finish',
    name: 'Finish the outline; else a step in the middle',
    keys: ['Enter'],
    section: 'Selection',
    run: () => {
      if (get().drawing) finderPage(get().finder).finish?.()
      else stepInMiddle()
    },
  },
  {
    id: 'cancel',
    name: 'Cancel what is under way; close the open step',
    keys: ['Escape'],
    section: 'Selection',
    run: () => {
      if (get().drawing) giveUpDrawing()
      else if (get().live) abandon()
      else if (get().bare) set({ bare: false })
      else closeStep()
    },
  },
]
