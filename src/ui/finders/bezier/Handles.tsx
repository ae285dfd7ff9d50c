import { type StepOfKind } from '@/core/steps/registry'
import { pathData, subpathsOf } from '@/core/vector/path'
import { changeStep } from '@/document/edits'
import { act, preview, set, useBench } from '@/ui/store/bench'
import { Grip } from '@/ui/canvas/Grip'
import { usePull } from '@/ui/canvas/pull'
import { screenPath } from '@/ui/canvas/PathShown'
import { type HandlesProps } from '../finder'
import { StartRing } from '../outline/StartRing'
import { converted, inserted, movedHandle, movedNode, nearestPlace, openEnd, type Subpaths } from './nodes'

/** Grips for more points than this would hide the picture. */
const MOST_GRIPS = 240
/** A press that moves less (CSS px) leaves the curve as it was. */
const STILL_PX = 3

/** The path, its points to move (double click converts one), handles of the chosen point and its neighbours, and the path itself to put a point on. */
export function Handles({ step, home, toScreen, fromScreen, pointer }: HandlesProps<StepOfKind<'path'>>) {
  const drawing = useBench((state) => state.drawing === step.id),
    chosen = useBench((state) => state.node)
  const path = subpathsOf(step.d),
    shown = screenPath(step.d, toScreen)
  const pull = usePull<Subpaths>()
  const put = (next: Subpaths) => changeStep(home, step.id!, { d: pathData(next) })
  const count = path.reduce((sum, { nodes }) => sum + nodes.length, 0)
  const end = openEnd(path),
    first = end?.nodes[0],
    last = end?.nodes.at(-1)
  const near = (s: number, i: number, length: number) =>
    chosen?.subpath === s && (Math.abs(chosen.index - i) <= 1 || Math.abs(chosen.index - i) === length - 1)
  return (
    <g>
      <path d={shown} fill="none" stroke="#fff" strokeWidth={3} opacity={0.8} pointerEvents="none" />
      <path d={shown} fill="none" stroke="#1b1b1b" strokeWidth={1} pointerEvents="none" />
      {!drawing && (
        <path
          d={shown}
          fill="none"
          stroke="transparent"
          strokeWidth={9}
          style={{ pointerEvents: 'stroke', cursor: 'copy' }}
          aria-label="Add a point here"
          data-path
          {...pull('Add point', path, (was, from, to) => {
            const place = nearestPlace(was, fromScreen(...from))
            if (!place) return null
            const { subpath, index, t } = place,
              next = inserted(was, subpath, index, t),
              still = Math.hypot(to[0] - from[0], to[1] - from[1]) < STILL_PX
            set({ node: { subpath, index: index + 1 } })
            return put(still ? next : movedNode(next, subpath, index + 1, fromScreen(...to)))
          })}
        />
      )}
      {drawing && pointer && last && (
        <line
          x1={toScreen(last.at[0], last.at[1])[0]}
          y1={toScreen(last.at[0], last.at[1])[1]}
          x2={pointer[0]}
          y2={pointer[1]}
          stroke="#1b1b1b"
          strokeDasharray="4 3"
          pointerEvents="none"
        />
      )}
      {count <= MOST_GRIPS &&
        path.map(({ nodes }, s) =>
          nodes.map((node, i) => {
            const [x, y] = toScreen(node.at[0], node.at[1]),
              isChosen = chosen?.subpath === s && chosen.index === i
            const handles = drawing ? node === last : near(s, i, nodes.length)
            return (
              <g key={`${s} ${i}`} pointerEvents={drawing ? 'none' : undefined}>
                {handles &&
                  (['into', 'out'] as const).map((which) => {
                    const handle = node[which]
                    if (!handle) return null
                    const [hx, hy] = toScreen(handle[0], handle[1])
                    return (
                      <g key={which}>
                        <line
                          x1={x}
                          y1={y}
                          x2={hx}
                          y2={hy}
                          stroke="#fff"
                          strokeWidth={2.5}
                          opacity={0.8}
                          pointerEvents="none"
                        />
                        <line x1={x} y1={y} x2={hx} y2={hy} stroke="#1b1b1b" strokeWidth={1} pointerEvents="none" />
                        {!drawing && (
                          <HandleGrip
                            label={`Handle ${which === 'into' ? 'before' : 'after'} point ${i + 1}`}
                            x={hx}
                            y={hy}
                            drag={(px, py, alone) =>
                              preview(put(movedHandle(path, s, i, which, fromScreen(px, py), alone)))
                            }
                          />
                        )}
                      </g>
                    )
                  })}
                {drawing ? (
                  <rect x={x - 3} y={y - 3} width={6} height={6} fill="#fff" stroke="#1b1b1b" />
                ) : (
                  <g
                    onDoubleClick={(event) => {
                      event.stopPropagation()
                      act('Convert point', put(converted(path, s, i)))
                    }}
                  >
                    <Grip
                      label={`Point ${i + 1}${path.length > 1 ? ` of part ${s + 1}` : ''}`}
                      cursor="move"
                      x={x}
                      y={y}
                      shape={node.into || node.out ? 'round' : 'square'}
                      fill={isChosen ? '#1b1b1b' : '#fff'}
                      press={() => set({ node: { subpath: s, index: i } })}
                      drag={(px, py) => preview(put(movedNode(path, s, i, fromScreen(px, py))))}
                    />
                  </g>
                )}
              </g>
            )
          }),
        )}
      {drawing && first && <StartRing at={toScreen(first.at[0], first.at[1])} />}
    </g>
  )
}

function HandleGrip({
  label,
  x,
  y,
  drag,
}: {
  label: string
  x: number
  y: number
  drag: (x: number, y: number, alone: boolean) => void
}) {
  return (
    <Grip
      label={label}
      cursor="move"
      x={x}
      y={y}
      shape="round"
      small
      drag={(px, py, event) => drag(px, py, event.altKey)}
    />
  )
}
