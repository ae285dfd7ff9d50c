import { LineChart } from 'echarts/charts'
import { GridComponent, MarkAreaComponent, MarkLineComponent } from 'echarts/components'
import { type EChartsType, init, use as withParts } from 'echarts/core'
import { CanvasRenderer } from 'echarts/renderers'

withParts([LineChart, GridComponent, MarkLineComponent, MarkAreaComponent, CanvasRenderer])

export const makeChart = (element: HTMLElement): EChartsType => init(element)
