import { computed, ref, watch } from 'vue'
import { api } from '@/api/client'
import type { DimensionView, Plot, TableAnswer } from '@/api/types'
import { useCourses } from '@/stores/courses'
import { elementsOf, GATHERINGS, useLook, wordsOf } from '@/stores/look'
import { useModel } from '@/stores/model'
import { useRuns } from '@/stores/runs'
import { useView } from '@/stores/view'
import type { Cell } from '@/ui/download'
import { full, literal, rounded, short, shownUnit, shownValue } from '@/ui/numbers'
import { heads, placesAlong, usualTurn, type Field, type Place, type Turned } from './turning'

/** So many rows are the top and the bottom ones. */
export const FEW = 10

/** What stands in a table that is turned: its rows, columns and pages, the values at their places, and their order. */
export function useTurnTable(plot: () => Plot) {
    const model = useModel()
    const runs = useRuns()
    const courses = useCourses()
    const view = useView()
    const look = useLook()

    const MOST_ROWS = 2000
    const MOST_COLUMNS = 60
    /** Without chosen times so many of the saved moments stand in a table. */
    const SOME_TIMES = 61

    const things = computed(() =>
        plot()
            .of.map((id) => model.model.elements[id])
            .filter((t) => t !== undefined && t.kind !== 'curve'),
    )
    const dimensions = computed(() => {
        const ids = [...new Set(things.value.flatMap((t) => t?.along?.over ?? []))]
        return ids.map((id) => look.byId.get(id)).filter((d): d is DimensionView => d !== undefined)
    })
    const named = computed(() => courses.named)
    const times = computed(() => {
        const chosen = plot().options?.times
        if (chosen?.length) {
            return chosen
        }
        const saved = Array.from(runs.shown?.times ?? [])
        const stride = Math.max(1, Math.ceil(saved.length / SOME_TIMES))
        return saved.filter((_, i) => i % stride === 0 || i === saved.length - 1)
    })
    const fields = computed<Field[]>(() => [
        { id: 'variable', name: 'variable', items: things.value.map((t) => ({ id: t?.id ?? '', name: t?.name ?? '' })) },
        { id: 'run', name: 'run', items: named.value.map((n, i) => ({ id: String(i), name: n.name })) },
        {
            id: 'time',
            name: model.model.time.unit,
            items: times.value.map((t) => ({ id: String(t), name: literal(Number(t.toPrecision(6))) })),
        },
        ...dimensions.value.map((d) => ({ id: d.id, name: d.name, items: elementsOf(d), isDimension: true })),
    ])
    const turned = computed<Turned>(() => {
        const kept = plot().options?.turned
        const known = (list: string[]) => list.filter((id) => fields.value.some((f) => f.id === id))
        return kept
            ? { rows: known(kept.rows ?? []), columns: known(kept.columns ?? []), picks: (kept.picks ?? {}) as Record<string, string> }
            : usualTurn(fields.value)
    })
    const fieldsIn = (ids: string[]) => ids.map((id) => fields.value.find((f) => f.id === id)).filter((f): f is Field => f !== undefined)
    const down = computed(() => fieldsIn(turned.value.rows))
    const across = computed(() => fieldsIn(turned.value.columns))
    const pages = computed(() => fields.value.filter((f) => !turned.value.rows.includes(f.id) && !turned.value.columns.includes(f.id)))
    /** Rows in the order of a column’s values, and perhaps only the largest or the smallest of them. */
    const order = ref<{ column: number; falling: boolean } | null>(null)
    const extent = ref<'all' | 'top' | 'bottom'>('all')
    const sorted = computed(() => {
        const by = order.value
        const column = columnPlaces.value[by?.column ?? 0]
        const all = [...rowPlaces.value]
        if ((by || extent.value !== 'all') && column) {
            const value = (row: Place) =>
                valueAt(row, column) ?? (extent.value === 'bottom' || by?.falling === false ? Infinity : -Infinity)
            const falling = extent.value === 'top' || (extent.value === 'all' && by?.falling !== false)
            all.sort((a, b) => (falling ? value(b) - value(a) : value(a) - value(b)))
        }
        return extent.value === 'all' ? all : all.slice(0, FEW)
    })
    function sortBy(column: number) {
        order.value = order.value?.column !== column ? { column, falling: true } : order.value.falling ? { column, falling: false } : null
    }
    const sortWords = (column: number) => (order.value?.column !== column ? 'none' : order.value.falling ? 'descending' : 'ascending')
    const withTotals = computed(() => plot().options?.totals === true)

    /** What a page field stands at: a choice of its own, else where the window looks, else the first. */
    function pickOf(field: Field): string {
        const own = turned.value.picks[field.id]
        if (own !== undefined && (own.startsWith('*') || own === 'playhead' || field.items.some((i) => i.id === own))) {
            return own
        }
        return field.id === 'time' ? 'playhead' : field.isDimension ? look.at(field.id) || '*sum' : (field.items[0]?.id ?? '')
    }
    function choicesOf(field: Field) {
        const dimension = look.byId.get(field.id)
        return [
            ...(field.id === 'time' ? [{ value: 'playhead', words: `${model.moment(view.playhead)} (the playhead)` }] : []),
            ...(dimension ? GATHERINGS.map(([value]) => ({ value: value as string, words: wordsOf(dimension, value) })) : []),
            ...field.items.map((i) => ({ value: i.id, words: i.name })),
        ]
    }
    const rowPlaces = computed(() => placesAlong(down.value, MOST_ROWS))
    const columnPlaces = computed(() => placesAlong(across.value, MOST_COLUMNS))
    /** The field over which totals are told: the last dimension down, and across. */
    const totalDown = computed(() => (withTotals.value ? (down.value.at(-1)?.isDimension ? down.value.at(-1) : undefined) : undefined))
    const totalAcross = computed(() =>
        withTotals.value ? (across.value.at(-1)?.isDimension ? across.value.at(-1) : undefined) : undefined,
    )

    /** The whole place of a cell: what stands in its row, its column and on the page. */
    function whole(row: Place, column: Place): Place {
        return { ...Object.fromEntries(pages.value.map((f) => [f.id, pickOf(f)])), ...row, ...column }
    }
    function keyOf(place: Place): string {
        const thing = model.model.elements[place.variable ?? '']
        return thing?.along ? `${thing.id}[${thing.along.over.map((d) => place[d] ?? '*sum').join(',')}]` : (thing?.id ?? '')
    }
    const keys = computed(() => {
        const all = new Set<string>()
        const add = (row: Place, column: Place) => all.add(keyOf(whole(row, column)))
        for (const row of rowPlaces.value) {
            for (const column of columnPlaces.value) {
                add(row, column)
            }
            if (totalAcross.value) {
                add(row, { ...columnPlaces.value[0], [totalAcross.value.id]: '*sum' })
            }
        }
        if (totalDown.value && totalAcross.value) {
            add({ ...rowPlaces.value[0], [totalDown.value.id]: '*sum' }, { ...columnPlaces.value[0], [totalAcross.value.id]: '*sum' })
        }
        for (const column of totalDown.value ? columnPlaces.value : []) {
            add({ ...rowPlaces.value[0], [totalDown.value?.id ?? '']: '*sum' }, column)
        }
        return [...all].filter(Boolean).slice(0, MOST_ROWS)
    })
    const at = computed(() => {
        const time = pages.value.find((f) => f.id === 'time')
        const pick = time && pickOf(time)
        return pick === undefined ? times.value : [pick === 'playhead' ? view.playhead : Number(pick)]
    })

    const answer = ref<TableAnswer<(number | null)[]>>()
    const trouble = ref('')
    let asked = 0
    watch(
        [keys, at, named, () => runs.shown],
        async () => {
            const mine = ++asked
            if (runs.held || !keys.value.length) {
                return
            }
            try {
                const got = await api.values(
                    model.id,
                    named.value.map((c) => c.ref),
                    keys.value,
                    at.value,
                )
                if (mine === asked) {
                    answer.value = got
                    trouble.value = ''
                }
            } catch (error) {
                trouble.value = (error as Error).message
            }
        },
        { immediate: true },
    )
    const rowsByKey = computed(() => new Map((answer.value?.rows ?? []).map((r) => [r.element, r.cells])))
    const timeIndex = computed(() => new Map((answer.value?.times ?? []).map((t, i) => [String(t), i])))
    function valueAt(row: Place, column: Place): number | null | undefined {
        const place = whole(row, column)
        const cells = rowsByKey.value.get(keyOf(place))?.[Number(place.run ?? 0)]
        return cells?.[
            place.time === undefined || place.time === 'playhead' || at.value.length === 1 ? 0 : (timeIndex.value.get(place.time) ?? -1)
        ]
    }
    const unitAt = (row: Place, column: Place) => model.model.elements[whole(row, column).variable ?? '']?.unit ?? ''
    const digits = computed(() => plot().options?.digits ?? 3)
    function told(row: Place, column: Place): string {
        return short(valueAt(row, column), { unit: unitAt(row, column), digits: digits.value })
    }
    function titleAt(row: Place, column: Place): string {
        const value = valueAt(row, column)
        const why = answer.value?.untold?.[keyOf(whole(row, column))]
        return value === null || value === undefined
            ? (why ?? 'no value here')
            : `${full(value, unitAt(row, column))} ${shownUnit(unitAt(row, column))}`
    }
    const reasons = computed(() => [...new Set(Object.values(answer.value?.untold ?? {}))].slice(0, 3))
    const columnHeads = computed(() => heads(across.value, columnPlaces.value))
    const rowName = (field: Field, place: Place) => field.items.find((i) => i.id === place[field.id])?.name ?? ''
    /** A head that is the same as in the row above is not repeated. */
    function isAgain(level: number, index: number): boolean {
        const [now, before] = [sorted.value[index], sorted.value[index - 1]]
        return (
            before !== undefined &&
            level < down.value.length - 1 &&
            down.value.slice(0, level + 1).every((f) => now?.[f.id] === before[f.id])
        )
    }
    const units = computed(() => [...new Set(things.value.map((t) => shownUnit(t?.unit ?? '')).filter(Boolean))].join(' · '))

    /** What the table shows, for a file or the clipboard. */
    function cells(): Cell[][] {
        const shown = (row: Place, column: Place): Cell => {
            const value = valueAt(row, column)
            return value === null || value === undefined ? null : rounded(shownValue(value, unitAt(row, column)))
        }
        const top = across.value.map((f, level) => [
            ...down.value.map((d, i) => (level === across.value.length - 1 ? d.name : i === down.value.length - 1 ? f.name : '')),
            ...columnPlaces.value.map((p) => rowName(f, p)),
            ...(totalAcross.value ? [level === across.value.length - 1 ? 'sum' : ''] : []),
        ])
        const page = pages.value.map((f) => `${f.name}: ${choicesOf(f).find((c) => c.value === pickOf(f))?.words ?? ''}`).join(', ')
        return [
            [[page, units.value].filter(Boolean).join(' – ')],
            ...(top.length ? top : [[...down.value.map((d) => d.name), units.value]]),
            ...sorted.value.map((row) => [
                ...down.value.map((f) => rowName(f, row)),
                ...columnPlaces.value.map((column) => shown(row, column)),
                ...(totalAcross.value ? [shown(row, { ...columnPlaces.value[0], [totalAcross.value.id]: '*sum' })] : []),
            ]),
            ...(totalDown.value
                ? [
                      [
                          ...down.value.map((_, i) => (i === down.value.length - 1 ? 'sum' : '')),
                          ...columnPlaces.value.map((column) =>
                              shown({ ...rowPlaces.value[0], [totalDown.value?.id ?? '']: '*sum' }, column),
                          ),
                          ...(totalAcross.value
                              ? [
                                    shown(
                                        { ...rowPlaces.value[0], [totalDown.value.id]: '*sum' },
                                        { ...columnPlaces.value[0], [totalAcross.value.id]: '*sum' },
                                    ),
                                ]
                              : []),
                      ],
                  ]
                : []),
        ]
    }

    return {
        turned,
        down,
        across,
        pages,
        pickOf,
        choicesOf,
        rowPlaces,
        columnPlaces,
        totalDown,
        totalAcross,
        trouble,
        order,
        extent,
        sorted,
        sortBy,
        sortWords,
        told,
        titleAt,
        reasons,
        columnHeads,
        rowName,
        isAgain,
        units,
        cells,
    }
}
