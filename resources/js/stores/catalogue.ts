import { defineStore } from 'pinia'
import { ref } from 'vue'
import { api } from '@/api/client'
import type { Catalogue } from '@/api/types'

/** Functions, built-in quantities and methods, as the engine lists them. */
export const useCatalogue = defineStore('catalogue', () => {
    const content = ref<Catalogue>({ functions: [], quantities: [], methods: [] })

    async function load() {
        if (!content.value.functions.length) {
            content.value = await api.catalogue()
        }
    }

    return { content, load }
})
