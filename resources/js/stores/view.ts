import { defineStore } from 'pinia'
import { computed, ref, watchEffect } from 'vue'
import type { Kind } from '@/api/types'

export type Theme = 'light' | 'dark'

/** What is looked at, and how: nothing of it is part of the model. */
export const useView = defineStore('view', () => {
    const selection = ref<string[]>([])
    const playhead = ref(0)
    const playing = ref(false)
    const speed = ref(1)
    /** The thing whose name is being typed on the sheet. */
    const naming = ref('')
    /** Letters typed between adding a thing and its name field being there. */
    const typedAhead = ref('')
    const adding = ref(false)
    /** A kind of thing that was asked for outside the sheet. */
    const wanted = ref<Kind | ''>('')
    /** The thing whose formula is open on the sheet. */
    const saying = ref('')
    // Where the columns lie over the sheet as drawers, they begin closed.
    const roomy = window.innerWidth >= 1100
    const outline = ref(roomy)
    const card = ref(roomy)
    const tracks = ref(true)
    const stored = localStorage.getItem('merry-orbit:theme')
    const theme = ref<Theme>(stored === 'light' || stored === 'dark' ? stored : window.matchMedia('(prefers-color-scheme: dark)').matches ? 'dark' : 'light')

    watchEffect(() => { document.documentElement.dataset.theme = theme.value })

    function changeTheme() {
        theme.value = theme.value === 'dark' ? 'light' : 'dark'
        localStorage.setItem('merry-orbit:theme', theme.value)
    }

    const selected = computed(() => selection.value.length === 1 ? selection.value[0] : undefined)

    function select(...ids: string[]) {
        selection.value = ids
        if (!ids.includes(saying.value)) {
            saying.value = ''
        }
    }

    return { selection, selected, select, playhead, playing, speed, naming, typedAhead, adding, wanted, saying, outline, card, tracks, theme, changeTheme }
})
