import { LineChart } from 'echarts/charts'
import { GridComponent, MarkAreaComponent, MarkLineComponent } from 'echarts/components'
import { type EChartsType, init, use } from 'echarts/core'
import { CanvasRenderer } from 'echarts/renderers'

use([LineChart, GridComponent, MarkLineComponent, MarkAreaComponent, CanvasRenderer])

export const makeChart = (element: HTMLElement): EChartsType => init(element)
