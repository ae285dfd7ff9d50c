import { type StepOfKind } from '@/core/steps/registry'
import { changeStep } from '@/document/edits'
import { act, preview, useBench } from '@/ui/store/bench'
import { StartRing } from './StartRing'
import { Grip } from '@/ui/canvas/Grip'
import { type HandlesProps } from '../finder'

/** Grips for more points than this would hide the picture: such outlines are moved as a whole by drawing anew. */
const MOST_GRIPS = 160

/** The outline, its points to move, its sides to put a new point on; while it is drawn, a ring at the start and a line to the pointer. */
export function OutlineHandles({
  step,
  home,
  toScreen,
  fromScreen,
  pointer,
}: HandlesProps<StepOfKind<'polygon' | 'edgeBand'>>) {
  const drawing = useBench((state) => state.drawing === step.id)
  const points = step.points.map(([x, y]) => toScreen(x, y))
  const line = points.map((p) => p.join(',')).join(' ')
  const put = (list: readonly (readonly [number, number])[]) => changeStep(home, step.id!, { points: list })
  const Shape = drawing ? 'polyline' : 'polygon'
  return (
    <g>
      <Shape points={line} fill="none" stroke="#fff" strokeWidth={3} opacity={0.8} pointerEvents="none" />
      <Shape points={line} fill="none" stroke="#1b1b1b" strokeWidth={1} pointerEvents="none" />
      {drawing && pointer && points.length > 0 && (
        <line
          x1={points.at(-1)![0]}
          y1={points.at(-1)![1]}
          x2={pointer[0]}
          y2={pointer[1]}
          stroke="#1b1b1b"
          strokeDasharray="4 3"
          pointerEvents="none"
        />
      )}
      {!drawing &&
        points.length <= MOST_GRIPS &&
        points.map(([x, y], i) => {
          const [nx, ny] = points[(i + 1) % points.length]
          return (
            <line
              key={`side ${i}`}
              x1={x}
              y1={y}
              x2={nx}
              y2={ny}
              stroke="transparent"
              strokeWidth={9}
              style={{ pointerEvents: 'stroke', cursor: 'copy' }}
              aria-label="Add a point here"
              onPointerDown={(event) => {
                event.stopPropagation()
                const box = event.currentTarget.ownerSVGElement!.getBoundingClientRect()
                act(
                  'Add point',
                  put(step.points.toSpliced(i + 1, 0, fromScreen(event.clientX - box.left, event.clientY - box.top))),
                )
              }}
            />
          )
        })}
      {!drawing &&
        points.length <= MOST_GRIPS &&
        points.map(([x, y], i) => (
          <g
            key={`point ${i}`}
            onDoubleClick={(event) => {
              event.stopPropagation()
              if (step.points.length > 3) act('Remove point', put(step.points.toSpliced(i, 1)))
            }}
          >
            <Grip
              label={`Point ${i + 1}`}
              cursor="move"
              x={x}
              y={y}
              shape="square"
              drag={(px, py) => preview(put(step.points.with(i, fromScreen(px, py))))}
            />
          </g>
        ))}
      {drawing && points.length > 0 && <StartRing at={points[0]} />}
    </g>
  )
}
