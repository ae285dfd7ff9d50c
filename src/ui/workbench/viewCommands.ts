/** Commands of the view and the stages. */
import { toast } from 'sonner'
import { clearGuides } from '@/document/edits'
import { act, get, goToStage, set, shownProject } from '@/ui/store/bench'
import { guideAt } from './commandWork'
import { STAGES, VIEWS, type Command } from './command'
import { setPanKey } from './keys'

export const VIEW_COMMANDS: readonly Command[] = [
  { id: 'fit', name: 'Fit the picture', keys: ['0'], section: 'View', run: (viewer) => viewer.fit() },
  {
    id: 'actual',
    name: 'One to one',
    keys: ['Shift+0'],
    section: 'View',
    run: (viewer) => viewer.zoomTo(1),
  },
  { id: 'zoomIn', name: 'Zoom in', keys: ['+', '=', 'Shift++'], section: 'View', run: (viewer) => viewer.zoomBy(1.4) },
  { id: 'zoomOut', name: 'Zoom out', keys: ['-'], section: 'View', run: (viewer) => viewer.zoomBy(1 / 1.4) },
  {
    id: 'bare',
    name: 'Picture only, panels away',
    keys: ['f'],
    section: 'View',
    run: () => set((state) => ({ bare: !state.bare })),
  },
  ...VIEWS.map(([view, name]): Command => ({
    id: `view ${view}`,
    name: `View: ${name}`,
    section: 'View',
    run: () => set({ view }),
  })),
  {
    id: 'nextView',
    name: 'Next view',
    keys: ['v'],
    section: 'View',
    run: () => set((state) => ({ view: VIEWS[(VIEWS.findIndex(([v]) => v === state.view) + 1) % VIEWS.length][0] })),
  },
  {
    id: 'pan',
    name: 'Move the view by dragging, while held',
    keys: [' '],
    section: 'View',
    run: () => setPanKey(true),
    release: () => setPanKey(false),
  },
  {
    id: 'before',
    name: 'Before, while held: no masks, nothing over the picture',
    keys: ['b'],
    section: 'View',
    run: () => set({ before: true }),
    release: () => set({ before: false }),
  },
  {
    id: 'bareMarks',
    name: 'Hide marks, outlines and handles, while held',
    keys: ['h'],
    section: 'View',
    run: () => set({ marksHidden: true }),
    release: () => set({ marksHidden: false }),
  },
  ...STAGES.map(([stage, name], i): Command => ({
    id: `stage ${stage}`,
    name: `Go to ${name}`,
    keys: [`Shift+${i + 1}`],
    section: 'Stages',
    run: () => goToStage(stage),
  })),
  {
    id: 'divider',
    name: 'Before and after, side by side',
    keys: ['d'],
    section: 'View',
    run: () => {
      const width = shownProject(get())?.canvas.width ?? 0
      set((state) => ({ divider: state.divider === null ? width / 2 : null }))
    },
  },
  ...(
    [
      ['.', 'Next doubtful spot of the edge', 1],
      [',', 'Previous doubtful spot of the edge', -1],
    ] as const
  ).map(([key, name, by]): Command => ({
    id: name,
    name,
    keys: [key],
    section: 'View',
    run: () => {
      if (get().stage !== 'edge') toast('Doubtful spots are shown in Edge, under the ribbon.')
      else set({ ribbon: true, doubtAsked: { by } })
    },
  })),
  {
    id: 'crosshair',
    name: 'Precise cross-hair pointer, on and off',
    keys: ['c'],
    section: 'View',
    run: () => set((state) => ({ crosshair: !state.crosshair })),
  },
  {
    id: 'rulers',
    name: 'Rulers, on and off: guides are dragged out of them',
    keys: ['r'],
    section: 'View',
    run: () => set((state) => ({ rulers: !state.rulers })),
  },
  {
    id: 'overview',
    name: 'The whole picture while zoomed in, on and off',
    section: 'View',
    run: () => set((state) => ({ overview: !state.overview })),
  },
  { id: 'guideDown', name: 'Guide down through the pointer', keys: ['g'], section: 'View', run: () => guideAt('x') },
  {
    id: 'guideAcross',
    name: 'Guide across through the pointer',
    keys: ['Shift+g'],
    section: 'View',
    run: () => guideAt('y'),
  },
  {
    id: 'noGuides',
    name: 'Remove all guides',
    section: 'View',
    run: () => {
      if (!act('Remove all guides', clearGuides())) toast('There are no guides.')
    },
  },
]
