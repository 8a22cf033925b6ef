import { useStorage } from '@vueuse/core'
import { defineStore } from 'pinia'
import { watchEffect } from 'vue'

export type Theme = 'light' | 'dark'

/** How the page looks, whatever study is open. */
export const usePage = defineStore('page', () => {
    const dark = window.matchMedia('(prefers-color-scheme: dark)').matches
    const theme = useStorage<Theme>('merry-orbit:theme', dark ? 'dark' : 'light', undefined, { writeDefaults: false })

    watchEffect(() => {
        document.documentElement.dataset.theme = theme.value
    })

    function changeTheme() {
        theme.value = theme.value === 'dark' ? 'light' : 'dark'
    }

    return { theme, changeTheme }
})
