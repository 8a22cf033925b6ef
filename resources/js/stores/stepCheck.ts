import { studyStore } from './studyStore'
import { computed, ref, shallowRef, watch } from 'vue'
import { api } from '@/api/client'
import type { Health } from '@/api/types'
import { useModel } from './model'
import { useRuns } from './runs'

/** Rest after a run before its step is checked. */
const REST = 2500

/** A run that took longer is checked only when that is asked for: the check takes three times as long. */
const BUDGET = 400

/** Whether the time step is short enough: looked at by itself when nothing else goes on, for every model that is quick enough. */
export const useStepCheck = studyStore('step-check', () => {
    const model = useModel()
    const runs = useRuns()
    const found = shallowRef<{ question: string; health: Health } | null>(null)
    const trouble = ref('')
    const checking = ref(false)
    let timer = 0

    const question = computed(() => `${model.id} ${model.model.meaning} ${JSON.stringify(runs.setting)}`)
    /** What was found holds for the model and the setting as they were. */
    const health = computed(() => (found.value?.question === question.value ? found.value.health : null))

    async function check() {
        const asked = question.value
        checking.value = true
        trouble.value = ''
        try {
            const answer = await api.health(model.id, runs.ref)
            found.value = { question: asked, health: answer }
        } catch (error) {
            trouble.value = (error as Error).message
        }
        checking.value = false
    }

    watch([() => runs.shown, question], () => {
        window.clearTimeout(timer)
        trouble.value = ''
        timer = window.setTimeout(() => {
            const run = runs.shown
            if (
                run &&
                !run.stopped &&
                !runs.held &&
                !runs.running &&
                !checking.value &&
                !health.value &&
                !model.blockers.length &&
                run.milliseconds <= BUDGET
            ) {
                void check().then(() => {
                    trouble.value = ''
                })
            }
        }, REST)
    })

    return { health, trouble, checking, check }
})
