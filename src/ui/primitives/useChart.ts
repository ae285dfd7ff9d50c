import { type EChartsType } from 'echarts/core'
import { useEffect, useRef, useState } from 'react'
import { loadLater } from './later'

const loadChart = loadLater(() => import('./chart'))

/** A chart in an element, once its code is there. */
export function useChart(): { holder: React.RefObject<HTMLDivElement | null>; chart: EChartsType | null } {
  const holder = useRef<HTMLDivElement>(null)
  const [chart, setChart] = useState<EChartsType | null>(null)
  useEffect(() => {
    let made: EChartsType | null = null,
      gone = false
    void loadChart().then(({ makeChart }) => {
      if (!gone && holder.current) setChart((made = makeChart(holder.current)))
    })
    return () => {
      gone = true
      made?.dispose()
      setChart(null)
    }
  }, [])
  return { holder, chart }
}

/** The theme's colours, as charts take them. */
export function chartColours(): { ink: string; accent: string; blue: string; muted: string } {
  const probe = document.createElement('span')
  document.body.append(probe)
  const of = (name: string) => {
    probe.style.color = `var(${name})`
    return getComputedStyle(probe).color
  }
  const colours = { ink: of('--ink'), accent: of('--accent-text'), blue: of('--keep'), muted: of('--muted') }
  probe.remove()
  return colours
}
