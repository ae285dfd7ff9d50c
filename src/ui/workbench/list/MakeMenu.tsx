'use client'
/** What can be made of what is selected: a menu beside the result, and where the picture is right-clicked. */
import { ADJUSTMENT_GROUPS, ADJUSTMENT_PAGES } from '@/ui/adjustments/registry'
import { addAdjustment } from '@/ui/layers/addLayers'
import { problemOfAction } from '@/ui/layers/layerActions'
import { set, shownProject, useBench } from '@/ui/store/bench'
import { COMMANDS } from '../commands'
import { runCommand } from '../commandKeys'
import { maskProblem, saveProblem } from '@/ui/store/makeOf'
import { keysOf, shownKey } from '@/ui/store/ownKeys'
import { Menu, MenuGroup, MenuItem, MenuLabel, MenuLine, MenuSheet, MenuTrigger, SubMenu } from '@/ui/primitives/Menu'

/** Commands, by their names in the table, and why each cannot be done now. */
const SECTIONS: readonly (readonly (readonly [command: string, why: () => string | undefined])[])[] = [
  [
    ['mask', maskProblem],
    ...['lift', 'cut', 'erase'].map((action) => [`layer ${action}`, () => problemOfAction(action)] as const),
  ],
  [
    ...['copySelected', 'newProject'].map((action) => [`layer ${action}`, () => problemOfAction(action)] as const),
    ['saveSelection', saveProblem],
  ],
]

/** Made when the menu opens: what cannot be done is asked then. */
function Items() {
  const selected = useBench((state) => Boolean(shownProject(state)?.selection.steps.length))
  return (
    <>
      {!selected && <MenuLabel>Nothing is selected yet.</MenuLabel>}
      {SECTIONS.map((section, n) => (
        <div key={section[0][0]}>
          {n === 1 && <AdjustSelected selected={selected} />}
          {n > 0 && <MenuLine />}
          {section.map(([id, problem]) => {
            const command = COMMANDS.find((each) => each.id === id)!,
              { name } = command,
              [key] = keysOf(command),
              why = problem()
            return (
              <MenuItem
                key={id}
                keys={key ? shownKey(key) : ''}
                disabled={why !== undefined}
                title={why}
                onSelect={() => runCommand(id)}
              >
                {name.replace(/^Layer: /, '')}
              </MenuItem>
            )
          })}
        </div>
      ))}
    </>
  )
}

/** An adjustment that is held to what is selected, worked on at once. */
const AdjustSelected = ({ selected }: { selected: boolean }) => (
  <SubMenu name="Adjust what is selected" disabled={!selected}>
    {ADJUSTMENT_GROUPS.map(([group, name]) => (
      <MenuGroup key={group}>
        <MenuLabel>{name}</MenuLabel>
        {ADJUSTMENT_PAGES.filter((page) => page.group === group).map((page) => (
          <MenuItem key={page.kind} onSelect={() => addAdjustment(page.kind)}>
            {page.name}
          </MenuItem>
        ))}
      </MenuGroup>
    ))}
  </SubMenu>
)

/** @param onPicture it was opened there: the keyboard goes back to the picture */
export const MakeMenu = ({ align, onPicture = false }: { align: 'start' | 'end'; onPicture?: boolean }) => (
  <MenuSheet
    align={align}
    aria-label="What to make of what is selected"
    onCloseAutoFocus={
      onPicture
        ? (event) => {
            event.preventDefault()
            document.querySelector<HTMLElement>('[data-canvas]')?.focus()
          }
        : undefined
    }
  >
    <Items />
  </MenuSheet>
)

/** Where the picture was right-clicked. */
export function MakeMenuHere() {
  const at = useBench((state) => state.makeAt)
  if (!at) return null
  return (
    <Menu
      open
      onOpenChange={(open) => {
        if (!open) set({ makeAt: null })
      }}
    >
      <MenuTrigger asChild>
        <span aria-hidden className="pointer-events-none fixed" style={{ left: at[0], top: at[1] }} />
      </MenuTrigger>
      <MakeMenu align="start" onPicture />
    </Menu>
  )
}
