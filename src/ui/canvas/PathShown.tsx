import { type PathNode, subpathsOf } from '@/core/vector/path'
import { useBench } from '@/ui/store/bench'

/** Path data drawn on the screen. */
export function screenPath(d: string, toScreen: (x: number, y: number) => [number, number]): string {
  const at = (point: readonly [number, number]) =>
    toScreen(point[0], point[1])
      .map((v) => v.toFixed(1))
      .join(' ')
  const piece = (from: PathNode, to: PathNode) => `C${at(from.out ?? from.at)} ${at(to.into ?? to.at)} ${at(to.at)}`
  return subpathsOf(d)
    .map(
      ({ nodes, closed }) =>
        `M${at(nodes[0].at)}${nodes
          .slice(1)
          .map((node, i) => piece(nodes[i], node))
          .join('')}${closed ? `${piece(nodes[nodes.length - 1], nodes[0])}Z` : ''}`,
    )
    .join('')
}

/** A path that is looked at before it is kept. */
export function PathShown({ toScreen }: { toScreen: (x: number, y: number) => [number, number] }) {
  const d = useBench((state) => state.pathShown)
  if (!d) return null
  const shown = screenPath(d, toScreen)
  return (
    <g pointerEvents="none" fill="none" data-path-shown>
      <path d={shown} stroke="#fff" strokeWidth={3} />
      <path d={shown} stroke="var(--accent)" strokeWidth={1.5} />
      {subpathsOf(d)
        .flatMap(({ nodes }) => nodes)
        .slice(0, 1500)
        .map(({ at }, i) => {
          const [x, y] = toScreen(at[0], at[1])
          return <rect key={i} x={x - 2.5} y={y - 2.5} width={5} height={5} fill="#fff" stroke="#1b1b1b" />
        })}
    </g>
  )
}
