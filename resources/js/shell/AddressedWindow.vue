<script setup lang="ts">
import { watch } from 'vue'
import { useRouter } from 'vue-router'
import { useModel } from '@/stores/model'
import StudyWindow from './StudyWindow.vue'
import { useAddress } from './useAddress'

/** The window that has the page’s address and title. */
const { study } = defineProps<{ study: string }>()
const router = useRouter()
const model = useModel()
const address = useAddress(study)
watch(
    () => model.model.name,
    (name) => {
        document.title = name ? `${name} – Merry Orbit` : 'Merry Orbit'
    },
)
</script>

<template>
    <StudyWindow :study="study" @opened="address.begin" @gone="router.push('/')" />
</template>
