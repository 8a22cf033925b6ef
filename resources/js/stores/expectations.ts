import { computed, ref, shallowRef, watch } from 'vue'
import { uncertain } from '@/api/uncertain'
import type { Expected } from '@/api/types'
import { useModel } from './model'
import { studyStore } from './studyStore'

/** Milliseconds of quiet before all are checked again. */
const REST = 600

/** What the study expects of its model, checked in the background whenever one of both changes. */
export const useExpectations = studyStore('expectations', () => {
    const model = useModel()
    const told = shallowRef<Record<string, Expected>>({})
    const checking = ref(false)
    const trouble = ref('')
    const all = computed(() => Object.values(model.model.expectations ?? {}).sort((a, b) => (a.place ?? 0) - (b.place ?? 0)))
    const watched = computed(() => all.value.filter((e) => !e.off))
    const failing = computed(() => watched.value.filter((e) => told.value[e.id] && told.value[e.id]?.holds !== true))
    /** What is drawn matters where one is expected of many runs. */
    const draws = computed(() => (watched.value.some((e) => e.runs) ? [model.model.uncertain, model.model.rankPairs] : null))
    let again = false

    async function check() {
        if (checking.value) {
            again = true
            return
        }
        checking.value = true
        do {
            again = false
            try {
                const answer = await uncertain.expectations(model.id)
                told.value = Object.fromEntries(answer.expectations.map((e) => [e.id, e]))
                trouble.value = ''
            } catch (error) {
                trouble.value = (error as Error).message
            }
        } while (again as boolean)
        checking.value = false
    }
    let timer = 0
    watch(
        () => (model.loaded && watched.value.length ? JSON.stringify([model.model.meaning, model.model.expectations, draws.value]) : ''),
        (now) => {
            window.clearTimeout(timer)
            if (!now) {
                told.value = {}
                return
            }
            timer = window.setTimeout(() => void check(), Object.keys(told.value).length ? REST : 0)
        },
        { immediate: true },
    )
    return { all, told, checking, trouble, failing, check }
})
