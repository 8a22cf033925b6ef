import { defineStore } from 'pinia'
import { ref } from 'vue'

export interface Notice {
    id: number
    words: string
    tone: 'plain' | 'trouble'
    action?: { words: string; run: () => void }
}

/** Short messages that come and go by themselves; what they offer is also to be had elsewhere. */
export const useNotices = defineStore('notices', () => {
    const all = ref<Notice[]>([])
    let next = 1

    function dismiss(id: number) {
        all.value = all.value.filter((n) => n.id !== id)
    }

    function say(words: string, action?: Notice['action'], tone: Notice['tone'] = 'plain') {
        const id = next++
        all.value = [...all.value.slice(-2), { id, words, tone, action }]
        window.setTimeout(() => {
            dismiss(id)
        }, 10_000)
    }

    return {
        all,
        say,
        dismiss,
        trouble: (words: string) => {
            say(words, undefined, 'trouble')
        },
    }
})
