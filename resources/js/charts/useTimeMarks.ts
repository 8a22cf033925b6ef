import { ref, shallowRef, watch, type ComputedRef, type Ref } from 'vue'
import { api } from '@/api/client'
import { useModel } from '@/stores/model'
import { dateWords, type DateGrain } from '@/ui/dates'
import { niceStep, rounded, tickWords } from '@/ui/numbers'

/** A place on an axis of time. Short ones have no words. */
export interface TimeMark {
    time: number
    words: string
}

/** Pixels that a mark with its words takes. */
const ROOM = 90

/** Round times between two, so many that there is room for their words, and four short marks between each two. */
export function roundTimes(from: number, to: number, most: number): TimeMark[] {
    const step = niceStep((to - from) / Math.max(1, most))
    const fine = step / 5
    const first = Math.ceil(from / fine - 1e-9)
    const all = Array.from({ length: Math.min(1000, Math.floor(to / fine + 1e-9) - first + 1) }, (_, i) => first + i)
    const round = all.filter((i) => i % 5 === 0).map((i) => rounded(i * fine))
    // Numbers that can be years of a calendar are written as such: 1990, not 1,990.
    const areYears = step >= 1 && from >= 1000 && to < 10_000
    const words = areYears ? round.map((year) => String(Math.round(year))) : tickWords(round, 'year')
    let k = 0
    return all.map((i) => ({ time: rounded(i * fine), words: i % 5 === 0 ? (words[k++] ?? '') : '' }))
}

const known = new Map<string, { every: string; marks: { time: number; date: string }[] }>()

/** Marks on an axis of time: at places of the calendar where the study has one, else at round numbers. */
export function useTimeMarks(span: ComputedRef<readonly [number, number]>, width: Ref<number>) {
    const model = useModel()
    const marks = shallowRef<TimeMark[]>([])
    /** How finely dates are told between these marks. */
    const grain = ref<DateGrain>('')
    let asked = ''
    let timer = 0

    function put(answer: { every: string; marks: { time: number; date: string }[] }) {
        grain.value = answer.every as DateGrain
        marks.value = answer.marks.map((m) => ({ time: m.time, words: dateWords(new Date(`${m.date}:00Z`), grain.value) }))
    }
    async function ask(key: string, from: number, to: number, most: number) {
        const answer = await api.calendar(model.id, from, to, most).catch(() => undefined)
        if (answer?.marks.length) {
            known.set(key, answer)
            if (asked === key) {
                put(answer)
            }
        }
    }

    watch(
        [span, width, () => model.model.calendar],
        () => {
            const [from, to] = span.value
            const most = Math.max(1, Math.floor(width.value / ROOM))
            const calendar = model.model.calendar
            if (!calendar) {
                asked = ''
                grain.value = ''
                marks.value = roundTimes(from, to, most)
                return
            }
            const key = `${model.id} ${JSON.stringify([calendar[0], calendar.at(-1), calendar.length, from, to, most])}`
            asked = key
            const answer = known.get(key)
            if (answer) {
                put(answer)
                return
            }
            window.clearTimeout(timer)
            timer = window.setTimeout(() => {
                void ask(key, from, to, most)
            }, 60)
        },
        { immediate: true },
    )

    return { marks, grain }
}
