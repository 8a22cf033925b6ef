import { computed, ref } from 'vue'
import { api } from '@/api/client'
import { useModel } from '@/stores/model'
import { studyStore } from '@/stores/studyStore'
import { useData } from './useData'

/** Measuring stations that can be listened to, and what those tell that are listened to. */
export const useStations = studyStore('stations', () => {
    const model = useModel()
    const data = useData()
    const all = ref<string[]>([])
    void api
        .stations()
        .then((list) => {
            all.value = list
        })
        .catch(() => undefined)
    const unheard = computed(() => all.value.filter((one) => !data.sources.some((s) => s.station === one)))

    /** What each told last, by the source that is kept of it. */
    const told = ref<Record<string, { content: string; most: number }>>({})
    async function hear() {
        for (const s of data.sources.filter((one) => one.station)) {
            try {
                const now = await api.listen(model.id, s.station ?? '', true)
                told.value = { ...told.value, [s.id]: { content: now.content, most: Math.max(0, ...now.series.map((one) => one.count)) } }
            } catch {
                // It is asked again.
            }
        }
    }
    /** How many readings are new since a source was kept. */
    function news(id: string): number {
        const now = told.value[id]
        const kept = data.sources.find((s) => s.id === id)
        const most = Math.max(0, ...data.of(id).map((e) => e.points.length))
        return now && kept && now.content !== kept.content ? Math.max(0, now.most - most) : 0
    }
    return { unheard, hear, news }
})
