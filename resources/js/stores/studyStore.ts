import { defineStore, getActivePinia } from 'pinia'
import { hasInjectionContext, inject, provide, type InjectionKey } from 'vue'

const STUDY: InjectionKey<string> = Symbol('study')

/** Whose stores are being set up: one store asks for another while it is made. */
let making: string | undefined
const closers = new Set<(study: string) => void>()

/** From here on down, stores are those of this study. */
export function provideStudy(study: string) {
    provide(STUDY, study)
}

/** The stores of a study go with the last window that showed it. */
export function forgetStudy(study: string) {
    closers.forEach((close) => {
        close(study)
    })
}

/**
 * A store of which there is one per open study, not one per page: windows of two studies in one page know nothing of each
 * other. It is asked for while a component or another store is set up; outside any study (in tests) there is one more.
 */
export function studyStore<T>(name: string, setup: () => T) {
    const define = (study: string) =>
        defineStore(study ? `${study}/${name}` : name, () => {
            const before = making
            making = study
            try {
                return setup()
            } finally {
                making = before
            }
        })
    const defined = new Map<string, ReturnType<typeof define>>()
    closers.add((study) => {
        const store = defined.get(study)?.()
        const kept = getActivePinia()?.state.value
        store?.$dispose()
        if (store && kept) {
            // What was left here would be put into a store of the same name that is made later.
            Reflect.deleteProperty(kept, store.$id)
        }
        defined.delete(study)
    })

    return () => {
        const study = making ?? (hasInjectionContext() ? inject(STUDY, '') : '')
        const use = defined.get(study) ?? define(study)
        defined.set(study, use)
        return use()
    }
}
