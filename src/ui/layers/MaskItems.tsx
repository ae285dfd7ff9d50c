'use client'
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
import { MenuItem, MenuLine, SubMenu } from '@/ui/primitives/Menu'

function Item({ name, run, why }: { name: string; run: () => void; why?: string }) {
  return (
    <MenuItem disabled={why !== undefined} title={why} onSelect={run}>
      {name}
    </MenuItem>
  )
}
function Sub({ name, children }: { name: string; children: ReactNode }) {
  return <SubMenu name={name}>{children}</SubMenu>
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
      <MenuLine />
      <Item
        name={mask.enabled ? 'Switch the mask off' : 'Switch the mask on'}
        run={() => editMask(layer, mask.enabled ? 'Mask off' : 'Mask on', { enabled: !mask.enabled })}
      />
      <Item
        name={mask.unlinked ? 'Link to the picture' : 'Unlink from the picture'}
        run={() => editMask(layer, mask.unlinked ? 'Link mask' : 'Unlink mask', { unlinked: !mask.unlinked })}
      />
      <MenuLine />
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
      <MenuLine />
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
