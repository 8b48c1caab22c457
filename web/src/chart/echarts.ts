import { LineChart } from 'echarts/charts'
import { GridComponent, MarkAreaComponent } from 'echarts/components'
import { init, use, type EChartsCoreOption, type EChartsType } from 'echarts/core'
import { LabelLayout } from 'echarts/features'
import { CanvasRenderer } from 'echarts/renderers'

use([LineChart, GridComponent, MarkAreaComponent, LabelLayout, CanvasRenderer])

export { init, type EChartsCoreOption, type EChartsType }
