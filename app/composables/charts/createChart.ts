import { LineChart, ScatterChart } from 'echarts/charts'
import {
  AriaComponent,
  DataZoomComponent,
  GridComponent,
  MarkAreaComponent,
  MarkLineComponent,
  PolarComponent,
  ToolboxComponent,
  TooltipComponent,
} from 'echarts/components'
import { init, use, type EChartsType } from 'echarts/core'
import { CanvasRenderer } from 'echarts/renderers'

use([
  LineChart,
  ScatterChart,
  GridComponent,
  TooltipComponent,
  DataZoomComponent,
  ToolboxComponent,
  MarkLineComponent,
  MarkAreaComponent,
  PolarComponent,
  AriaComponent,
  CanvasRenderer,
])

/** The chart library is loaded only where a chart is. */
export const createChart = (el: HTMLElement): EChartsType => init(el, undefined, { renderer: 'canvas' })
