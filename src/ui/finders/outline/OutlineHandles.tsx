import { type StepOfKind } from '@/core/steps/registry'
import { changeStep } from '@/document/edits'
import { act, preview, useBench } from '@/ui/store/bench'
import { StartRing } from './StartRing'
import { Grip } from '@/ui/canvas/Grip'
import { usePull } from '@/ui/canvas/pull'
import { type HandlesProps } from '../finder'

/** Grips for more points than this would hide the picture: such outlines are moved as a whole by drawing anew. */
const MOST_GRIPS = 160

type Outline = StepOfKind<'polygon' | 'edgeBand'>
/** Widths of a band go along with its points. */
const withPoint = (step: Outline, i: number, at: readonly [number, number]): object => {
  const widths = 'widths' in step ? step.widths : undefined,
    n = step.points.length
  return {
    points: step.points.toSpliced(i, 0, at),
    ...(widths ? { widths: widths.toSpliced(i, 0, (widths[i - 1] + widths[i % n]) / 2) } : {}),
  }
}
const withoutPoint = (step: Outline, i: number): object => ({
  points: step.points.toSpliced(i, 1),
  ...('widths' in step && step.widths ? { widths: step.widths.toSpliced(i, 1) } : {}),
})

/** The outline, its points to move, its sides to pull a new point out of; while it is drawn, a ring at the start and a line to the pointer. */
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
  const pull = usePull<Outline>()
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
              {...pull('Add point', step, (was, _, to) =>
                changeStep(home, step.id!, withPoint(was, i + 1, fromScreen(...to))),
              )}
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
              if (step.points.length > 3) act('Remove point', changeStep(home, step.id!, withoutPoint(step, i)))
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
