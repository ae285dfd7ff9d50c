/** Everything that can be called by a key or by name. Keys, the command list and the help are made from this one table. */
import { toast } from 'sonner'
import { HANDS } from '@/ui/compose/hands/registry'
import { LAYER_ACTIONS, runLayerAction } from '@/ui/layers/layerActions'
import { get, goToStage, redoAct, set, shownProject, undoAct } from '@/ui/store/bench'
import { choosePictures } from '@/ui/store/addPictures'
import { nudge } from './commandWork'
import { type Command } from './command'
import { VIEW_COMMANDS } from './viewCommands'
import { SELECTION_COMMANDS } from './selectionCommands'

const LAYER_KEYS: Record<string, readonly string[]> = {
  up: ['Alt+ArrowUp'],
  down: ['Alt+ArrowDown'],
  group: ['Ctrl+g'],
  ungroup: ['Ctrl+Shift+g'],
  duplicate: ['Ctrl+d'],
  lift: ['l'],
  cut: ['Shift+x'],
}

const arrows: [string, number, number][] = [
  ['ArrowLeft', -1, 0],
  ['ArrowRight', 1, 0],
  ['ArrowUp', 0, -1],
  ['ArrowDown', 0, 1],
]
const words: Record<string, string> = { ArrowLeft: 'left', ArrowRight: 'right', ArrowUp: 'up', ArrowDown: 'down' }

export const COMMANDS: readonly Command[] = [
  {
    id: 'undo',
    name: 'Undo',
    keys: ['Ctrl+z'],
    section: 'Project',
    run: () => {
      if (!undoAct()) toast('Nothing to undo.')
    },
  },
  {
    id: 'redo',
    name: 'Redo',
    keys: ['Ctrl+Shift+z', 'Ctrl+y'],
    section: 'Project',
    run: () => {
      if (!redoAct()) toast('Nothing to redo.')
    },
  },
  {
    id: 'save',
    name: 'Save: every change is saved by itself',
    keys: ['Ctrl+s'],
    section: 'Project',
    run: () => {
      const { saving } = get()
      toast(saving.state === 'saved' ? 'Saved already.' : `Being saved: ${saving.unsent} to go.`, { id: 'save' })
    },
  },
  {
    id: 'commands',
    name: 'All commands, by name',
    keys: ['Ctrl+k'],
    section: 'Project',
    run: () => set({ dialog: 'commands' }),
  },
  {
    id: 'help',
    name: 'Keys and gestures',
    keys: ['?', 'Shift+?'],
    section: 'Project',
    run: () => set({ dialog: 'help' }),
  },
  ...VIEW_COMMANDS,
  ...SELECTION_COMMANDS,
  ...HANDS.map((hand): Command => ({
    id: `hand ${hand.id}`,
    name: `Compose: ${hand.name}`,
    section: 'Layers',
    run: () => {
      goToStage('compose')
      set({ hand: hand.id })
    },
  })),
  {
    id: 'swap',
    name: 'Swap the colours; on a mask: paint what shows, or what hides',
    keys: ['x'],
    section: 'Layers',
    run: () =>
      set((state) =>
        state.stage === 'compose'
          ? { colour: state.otherColour, otherColour: state.colour }
          : { nextOp: state.nextOp === 'subtract' ? 'add' : 'subtract' },
      ),
  },
  ...LAYER_ACTIONS.map((action): Command => ({
    id: `layer ${action.id}`,
    name: `Layer: ${action.name}`,
    keys: LAYER_KEYS[action.id],
    section: 'Layers',
    run: () => runLayerAction(action.id),
  })),
  {
    id: 'addBelow',
    name: 'Add pictures below the active layer …',
    section: 'Layers',
    run: () => choosePictures(shownProject(get())?.activeLayer ?? null),
  },
  { id: 'addTop', name: 'Add pictures on top …', section: 'Layers', run: () => choosePictures(null) },
  ...arrows.map(([key, dx, dy]): Command => ({
    id: `nudge ${key}`,
    name: `Move ${words[key]} by 1 px`,
    keys: [key],
    section: 'Layers',
    run: () => nudge(dx, dy),
  })),
  ...arrows.map(([key, dx, dy]): Command => ({
    id: `nudge10 ${key}`,
    name: `Move ${words[key]} by 10 px`,
    keys: [`Shift+${key}`],
    section: 'Layers',
    run: () => nudge(10 * dx, 10 * dy),
  })),
]

/** In the order in which they are listed. */
export const SECTIONS = ['Project', 'View', 'Stages', 'Finders', 'Selection', 'Layers'] as const
