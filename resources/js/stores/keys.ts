import { useStorage } from '@vueuse/core'
import { defineStore } from 'pinia'
import { computed } from 'vue'

export interface KeyAct {
    name: string
    words: string
    usual: string
}

/** What single keys do and can be changed: by themselves they act only where no text is typed. */
export const KEY_ACTS = [
    { name: 'stock', words: 'add a stock', usual: 's' },
    { name: 'auxiliary', words: 'add an auxiliary', usual: 'a' },
    { name: 'parameter', words: 'add a parameter', usual: 'p' },
    { name: 'curve', words: 'add a curve', usual: 'c' },
    { name: 'series', words: 'add a series', usual: 'd' },
    { name: 'echo', words: 'echo: the same thing once more', usual: 'e' },
    { name: 'track', words: 'show or hide the track of what is selected', usual: 't' },
    { name: 'link', words: 'pick one link after the other; arrows then bend it', usual: 'l' },
    { name: 'rename', words: 'rename', usual: 'F2' },
    { name: 'fit', words: 'fit the sheet', usual: '0' },
    { name: 'selection', words: 'fit the selection', usual: '9' },
    { name: 'back', words: 'back to where you were', usual: '[' },
    { name: 'ahead', words: 'forward again', usual: ']' },
    { name: 'play', words: 'play and pause', usual: ' ' },
    { name: 'find', words: 'find anywhere in the model', usual: '/' },
    { name: 'keys', words: 'list the keys', usual: '?' },
] as const satisfies readonly KeyAct[]

export type KeyName = (typeof KEY_ACTS)[number]['name']

const USUAL = Object.fromEntries(KEY_ACTS.map((a) => [a.name, a.usual])) as Record<KeyName, string>

/** Keys that mean the same everywhere and stay what they are. */
const FIXED = ['Enter', 'Escape', 'Tab', 'Delete', 'Backspace', 'Home', 'End', 'PageUp', 'PageDown', 'ContextMenu']

/** The key of an event as it is kept: a letter is small, a longer name as the browser gives it. */
export const keyOf = (event: { key: string }) => (event.key.length === 1 ? event.key.toLowerCase() : event.key)

/** As it stands on the keyboard. */
export function keyWord(key: string): string {
    return key === ' ' ? 'Space' : key.length === 1 ? key.toUpperCase() : key
}

/** Which single key does what, for this person in this browser. An act without a key has an empty one. */
export const useKeys = defineStore('keys', () => {
    const kept = useStorage<Record<string, unknown> | null>('merry-orbit:keys', {}, undefined, { onError: () => {} })
    const changed = computed<Partial<Record<KeyName, string>>>(() => {
        const known = kept.value ?? {}
        return Object.fromEntries(KEY_ACTS.flatMap(({ name }) => (typeof known[name] === 'string' ? [[name, known[name]]] : [])))
    })
    const keys = computed<Record<KeyName, string>>(() => ({ ...USUAL, ...changed.value }))
    const byKey = computed(() => new Map(KEY_ACTS.flatMap((a) => (keys.value[a.name] ? [[keys.value[a.name], a.name] as const] : []))))

    function put(now: Record<KeyName, string>) {
        kept.value = Object.fromEntries(KEY_ACTS.filter((a) => now[a.name] !== a.usual).map((a) => [a.name, now[a.name]]))
    }

    /** What an event asks for, if it is one of these keys alone. */
    function actOf(event: KeyboardEvent): KeyName | undefined {
        return event.ctrlKey || event.metaKey || event.altKey ? undefined : byKey.value.get(keyOf(event))
    }

    /** Gives an act another key, or none; who had that key takes the one that comes free. Says what happened, or why it cannot be. */
    function change(name: KeyName, key: string): { changed: boolean; sentence: string } {
        const act = KEY_ACTS.find((a) => a.name === name) as KeyAct
        if (FIXED.includes(key) || key.startsWith('Arrow')) {
            return { changed: false, sentence: `${keyWord(key)} means the same everywhere and stays what it is. Press another key.` }
        }
        const other = key === '' ? undefined : byKey.value.get(key)
        if (other === name) {
            return { changed: false, sentence: `${keyWord(key)} it is.` }
        }
        const free = keys.value[name]
        put({ ...keys.value, [name]: key, ...(other ? { [other]: free } : {}) })
        const rest = other
            ? ` “${KEY_ACTS.find((a) => a.name === other)?.words}” ${free ? `takes ${keyWord(free)}` : 'has no key now'}.`
            : ''
        return { changed: true, sentence: `${key ? `${keyWord(key)}: ${act.words}.` : `No key: ${act.words}.`}${rest}` }
    }

    function reset() {
        put(USUAL)
    }

    return {
        keys,
        actOf,
        change,
        reset,
        isUsual: computed(() => Object.keys(changed.value).length === 0),
        word: (name: KeyName) => keyWord(keys.value[name]),
    }
})
