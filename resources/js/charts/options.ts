import type { EChartsCoreOption } from 'echarts/core'
import type { Plot, Thing } from '@/api/types'
import type { Course } from '@/stores/courses'
import type { PlotFrame } from './plotParts'
import { over, multiples } from './overTimePlot'
import { phase } from './phasePlot'
import { bars, histogram } from './barPlots'

/** A plot for ECharts. */
export function optionsOf(plot: Plot, courses: Course[], elements: Record<string, Thing>, setting: PlotFrame): EChartsCoreOption {
    switch (plot.kind) {
        case 'phase':
            return phase(plot, courses, elements, setting)
        case 'bars':
            return bars(plot, courses, elements, setting)
        case 'histogram':
            return histogram(plot, courses, elements, setting)
        case 'multiples':
            return multiples(plot, courses, elements, setting)
        default:
            return over(plot, courses, elements, setting)
    }
}
