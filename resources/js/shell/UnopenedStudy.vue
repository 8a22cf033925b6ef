<script setup lang="ts">
import { api, type ProblemError } from '@/api/client'
import { useNotices } from '@/stores/notices'
import { WINDOW } from '@/stores/waiting'
import { download as save } from '@/ui/download'
import SaidText from '@/ui/SaidText.vue'

/** A study whose newest version cannot be shown: what can be done with it all the same. */
const { study, problem } = defineProps<{ study: string; problem: ProblemError }>()
const emit = defineEmits<{ mended: [] }>()
const notices = useNotices()
const told = problem.details as { id: string; revision: number; user: number; undo: string | null }

async function undo() {
    try {
        await api.step(told.id, 'undo', { base: told.revision, window: WINDOW, user: told.user }, crypto.randomUUID())
        emit('mended')
    } catch (error) {
        notices.trouble((error as Error).message)
    }
}

async function download() {
    try {
        const { name, content } = await api.studyFile(study, 'native')
        save(name, content)
    } catch (error) {
        notices.trouble((error as Error).message)
    }
}
</script>

<template>
    <div class="unopened" role="alert">
        <h1>This version cannot be shown</h1>
        <p><SaidText :text="problem.message" /></p>
        <p v-if="told.undo">The last edit: <SaidText :text="told.undo" /></p>
        <p class="acts">
            <Button v-if="told.undo" class="button" @click="undo">Undo it</Button>
            <Button class="button" @click="download">Download as a file</Button>
            <RouterLink class="button" to="/">All studies</RouterLink>
        </p>
    </div>
</template>

<style scoped>
.unopened {
    max-width: 520px;
    margin: 12vh auto 0;
    padding: 0 24px;
}
h1 {
    margin-bottom: 8px;
    font-size: 20px;
}
p {
    margin-bottom: 8px;
}
.acts {
    display: flex;
    flex-wrap: wrap;
    gap: 8px;
    margin-top: 16px;
}
</style>
