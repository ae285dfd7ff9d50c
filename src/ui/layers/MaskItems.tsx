'use client'
import { DropdownMenu } from 'radix-ui'
import { type ReactNode } from 'react'
import { removeMask } from '@/document/masks'
import { type Layer, SELECTION } from '@/document/records'
import { act, set, shownProject, useBench } from '@/ui/store/bench'
import { makeMaskNow } from '@/ui/store/makeOf'
import {
  applyMask,
  chooseMaskPicture,
  chooseTrimap,
  copyMaskTo,
  editMask,
  maskBlack,
  maskFromLayer,
  maskGradient,
  maskWhite,
  openMask,
  saveMaskAsPng,
  selectMask,
} from './maskActions'
import { later } from '@/ui/primitives/later'

const Line = () => <DropdownMenu.Separator className="my-1 h-px bg-[var(--line)]" />
function Item({ name, run, why }: { name: string; run: () => void; why?: string }) {
  return (
    <DropdownMenu.Item className="menu-item" disabled={why !== undefined} title={why} onSelect={run}>
      {name}
    </DropdownMenu.Item>
  )
}
function Sub({ name, children }: { name: string; children: ReactNode }) {
  return (
    <DropdownMenu.Sub>
      <DropdownMenu.SubTrigger className="menu-item flex justify-between gap-4">
        {name}
        <span aria-hidden>›</span>
      </DropdownMenu.SubTrigger>
      <DropdownMenu.Portal>
        <DropdownMenu.SubContent
          className="menu max-h-[var(--radix-dropdown-menu-content-available-height)] overflow-y-auto"
          collisionPadding={8}
          sideOffset={4}
        >
          {children}
        </DropdownMenu.SubContent>
      </DropdownMenu.Portal>
    </DropdownMenu.Sub>
  )
}

const MaskLibraryItems = later(() => import('./MaskLibrary').then((module) => module.MaskLibraryItems))

/** Where a layer's mask can come from. */
export function AddMaskItems({ layer }: { layer: Layer }) {
  const project = useBench(shownProject)
  const others = [...(project?.layers ?? [])]
    .reverse()
    .filter((other) => other.id !== layer.id && other.kind !== 'adjust')
  return (
    <>
      <Item
        name="From the selection"
        why={project?.selection.steps.length ? undefined : 'Select something first.'}
        run={() => {
          set({ home: SELECTION, openStep: null })
          makeMaskNow()
        }}
      />
      <Item name="White: all shown; paint hides" run={() => maskWhite(layer)} />
      <Item name="Black: all hidden; paint shows" run={() => maskBlack(layer)} />
      <Item name="Gradient" run={() => maskGradient(layer)} />
      <Item name="From a picture file …" run={() => chooseMaskPicture(layer)} />
      <Item name="From a trimap file …" run={() => chooseTrimap(layer)} />
      <Sub name="From the library">
        <MaskLibraryItems layer={layer} />
      </Sub>
      {others.length > 0 && (
        <Sub name="From what another layer covers">
          {others.map((other) => (
            <Item key={other.id} name={other.name} run={() => maskFromLayer(layer, other, 'alpha')} />
          ))}
        </Sub>
      )}
      {others.length > 0 && (
        <Sub name="From another layer’s brightness">
          {others.map((other) => (
            <Item key={other.id} name={other.name} run={() => maskFromLayer(layer, other, 'luminance')} />
          ))}
        </Sub>
      )}
    </>
  )
}

/** What can be done with a layer's mask. */
export function MaskItems({ layer }: { layer: Layer }) {
  const mask = layer.mask!,
    layers = useBench(shownProject)?.layers ?? []
  return (
    <>
      <Item name="Edit the mask’s steps" run={() => openMask(layer.id)} />
      <Item
        name="Paint on the mask"
        run={() => {
          openMask(layer.id, 'paint')
          set({ nextOp: 'subtract' })
        }}
      />
      <Item
        name="See it alone"
        run={() => {
          openMask(layer.id)
          set({ view: 'matte' })
        }}
      />
      <Item
        name="See it as tint"
        run={() => {
          openMask(layer.id)
          set({ view: 'tint', tintHidden: true })
        }}
      />
      <Line />
      <Item
        name={mask.enabled ? 'Switch the mask off' : 'Switch the mask on'}
        run={() => editMask(layer, mask.enabled ? 'Mask off' : 'Mask on', { enabled: !mask.enabled })}
      />
      <Item
        name={mask.unlinked ? 'Link to the picture' : 'Unlink from the picture'}
        run={() => editMask(layer, mask.unlinked ? 'Link mask' : 'Unlink mask', { unlinked: !mask.unlinked })}
      />
      <Line />
      <Item name="Make a selection of it" run={() => selectMask(layer)} />
      <Sub name="Copy to another layer">
        {layers
          .filter((other) => other.id !== layer.id)
          .reverse()
          .map((other) => (
            <Item key={other.id} name={other.name} run={() => copyMaskTo(layer, other)} />
          ))}
      </Sub>
      <Sub name="Replace">
        <AddMaskItems layer={layer} />
      </Sub>
      <Item
        name="Save as a PNG file"
        run={() => {
          void saveMaskAsPng(layer)
        }}
      />
      <Item
        name="Save in the library"
        run={() => {
          void import('./MaskLibrary').then(({ keepInLibrary }) => keepInLibrary(layer))
        }}
      />
      <Line />
      <Item
        name="Apply for good"
        why={
          layer.kind === 'adjust'
            ? 'An adjustment has no pixels to apply it to.'
            : !layer.visible
              ? 'The layer is hidden: it would be lost.'
              : layer.locked
                ? `${layer.name} is locked.`
                : undefined
        }
        run={() => {
          void applyMask(layer)
        }}
      />
      <Item
        name="Remove the mask"
        run={() => {
          act('Remove mask', removeMask(layer.id))
        }}
      />
    </>
  )
}
