import { shallowRef, watch } from 'vue'
import { api } from '@/api/client'
import type { Fit, RunRef } from '@/api/types'
import { useCourses } from '@/stores/courses'
import { useModel } from '@/stores/model'
import { useRuns } from '@/stores/runs'

/** How well other runs fit than that of this moment: the baseline, while something is tried, and those that are shown. */
export function useOtherFits() {
    const model = useModel()
    const runs = useRuns()
    const courses = useCourses()
    const others = shallowRef<{ key: string; name: string; fits?: Record<string, Fit> }[]>([])
    let turns = 0
    watch(
        () => [courses.others, runs.tried, model.model.evidence, model.model.meaning] as const,
        async () => {
            const turn = ++turns
            const list: { key: string; name: string; ref: RunRef }[] = [
                ...(runs.tried ? [{ key: 'baseline', name: 'baseline', ref: {} }] : []),
                ...courses.others,
            ]
            const some = Object.values(model.model.evidence ?? {})[0]?.of
            const found = await Promise.all(
                some === undefined
                    ? []
                    : list.map(async ({ key, name, ref: run }) => {
                          // Fits come with any columns of a run.
                          const got = await api.run(model.id, { run, only: [some], points: 2 }).catch(() => undefined)
                          return { key, name, fits: got?.fits as Record<string, Fit> | undefined }
                      }),
            )
            if (turn === turns) {
                others.value = found
            }
        },
        { immediate: true },
    )
    return { others }
}
