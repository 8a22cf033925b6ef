import type { Band } from './marks'
import type { PlotFrame } from './plotParts'

/** Lines across and shaded times, which hang on the first line of a plot. */
export function across(setting: PlotFrame, bands: Band[], periods: { from: number; until: number; name?: string }[], playhead: boolean) {
    const { colour } = setting
    const label = (words: string) => ({
        show: Boolean(words),
        formatter: words,
        color: colour('--ink'),
        fontSize: 12,
        position: 'insideStartTop',
    })
    return {
        markLine: {
            symbol: 'none',
            silent: true,
            animation: false,
            z: 5,
            data: [
                ...(playhead
                    ? [
                          {
                              xAxis: setting.playhead,
                              label: { show: false },
                              lineStyle: { color: colour('--ember'), width: 1.5, type: 'solid' },
                          },
                      ]
                    : []),
                ...bands
                    .filter((b) => b.to === undefined)
                    .map((b) => ({ yAxis: b.at, label: label(b.name), lineStyle: { color: colour('--brick'), width: 1.3, type: [6, 4] } })),
            ],
        },
        markArea: {
            silent: true,
            animation: false,
            data: [
                ...bands
                    .filter((b) => b.to !== undefined)
                    .map((b) => [
                        {
                            yAxis: Math.min(b.at, b.to as number),
                            name: b.name,
                            itemStyle: { color: colour('--brick'), opacity: 0.1 },
                            label: { ...label(b.name), position: 'insideTopLeft' },
                        },
                        { yAxis: Math.max(b.at, b.to as number) },
                    ]),
                ...periods.map((p) => [
                    {
                        xAxis: p.from,
                        name: p.name ?? '',
                        itemStyle: { color: colour('--ink'), opacity: 0.07 },
                        label: { ...label(p.name ?? ''), position: 'insideTop' },
                    },
                    { xAxis: p.until },
                ]),
            ],
        },
    }
}
