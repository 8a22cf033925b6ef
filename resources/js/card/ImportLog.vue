<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { api } from '@/api/client'
import type { LogLine } from '@/api/types'
import { useModel } from '@/stores/model'
import { useNotices } from '@/stores/notices'
import { useView } from '@/stores/view'
import { GRADES } from '@/ui/grades'
import SaidText from '@/ui/SaidText.vue'

/** What was not carried over from the file that the study was made of, by how much it matters; each line can be ticked off. */
const model = useModel()
const view = useView()
const notices = useNotices()
const log = ref<LogLine[]>([])

watch(
    () => model.study,
    async (study) => {
        log.value = study ? await api.importLog(study).catch(() => []) : []
    },
    { immediate: true },
)
const groups = computed(() =>
    GRADES.map(([grade, words]) => ({
        grade,
        title: `${words.charAt(0).toUpperCase()}${words.slice(1)}`,
        lines: log.value.map((line, i) => ({ ...line, i })).filter((l) => l.grade === grade),
    })).filter((g) => g.lines.length),
)
const open = computed(() => log.value.filter((l) => !l.done).length)

async function tick(lines: number[], done: boolean) {
    try {
        log.value = await api.tickImportLog(model.study, lines, done)
    } catch (error) {
        notices.trouble((error as Error).message)
    }
}
</script>

<template>
    <details v-if="log.length" class="import-log" :open="groups.some((g) => g.grade === 'numbers' && g.lines.some((l) => !l.done))">
        <summary>
            <b>Import log</b> <span class="soft">{{ open ? `${open} of ${log.length} to check` : 'all checked' }}</span>
        </summary>
        <section v-for="g in groups" :key="g.grade">
            <h3>
                {{ g.title }}
                <Button
                    v-if="g.lines.some((l) => !l.done)"
                    class="all"
                    @click="
                        tick(
                            g.lines.map((l) => l.i),
                            true,
                        )
                    "
                    >tick all off</Button
                >
            </h3>
            <ul>
                <li v-for="line in g.lines" :key="line.i" :class="{ done: line.done }">
                    <Checkbox
                        binary
                        :input-id="`log-${line.i}`"
                        :model-value="line.done"
                        :aria-label="`Checked: ${line.where}: ${line.sentence}`"
                        @update:model-value="tick([line.i], $event)"
                    />
                    <span
                        ><Button v-if="line.element && model.model.elements[line.element]" class="where" @click="view.goTo(line.element)">{{
                            line.where
                        }}</Button
                        ><b v-else>{{ line.where }}</b> <SaidText :text="line.sentence"
                    /></span>
                </li>
            </ul>
        </section>
    </details>
</template>

<style scoped>
.import-log {
    border: 1px solid var(--hairline);
    border-radius: 10px;
    padding: 8px 12px;
}
summary {
    cursor: pointer;
}
h3 {
    display: flex;
    justify-content: space-between;
    margin-top: 10px;
    font-size: 13px;
}
.all,
.where {
    text-decoration: underline;
    text-underline-offset: 3px;
}
.all {
    font-size: 12.5px;
    font-weight: 400;
}
.where {
    font-weight: 700;
}
ul {
    margin: 4px 0 0;
    padding: 0;
    list-style: none;
    max-height: 260px;
    overflow-y: auto;
}
li {
    display: flex;
    gap: 8px;
    padding: 3px 0;
    font-size: 13px;
    overflow-wrap: anywhere;
}
li input {
    flex: none;
    margin-top: 3px;
}
.done {
    color: var(--ink-soft);
    text-decoration: line-through;
    text-decoration-color: var(--line);
}
</style>
