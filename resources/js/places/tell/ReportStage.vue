<script setup lang="ts">
import { ArrowDown, ArrowUp, Download, Printer, RotateCcw } from '@lucide/vue'
import { computed, ref, shallowRef, watch } from 'vue'
import { shown } from '@/api/shown'
import { useModel } from '@/stores/model'
import { download } from '@/ui/download'
import OneOf from '@/ui/OneOf.vue'
import TellTabs from './TellTabs.vue'
import { SECTIONS, useReport } from './useReport'

/** The report of the study: what it tells at the left, the report itself beside it, made anew when it is asked for. */
const model = useModel()
const report = useReport()
const made = shallowRef<{ revision: number; of: string; html: string } | null>(null)
const trouble = ref('')
const busy = ref(false)
const frame = ref<HTMLIFrameElement>()
const PAPERS = [
    { value: 'a4', words: 'A4' },
    { value: 'letter', words: 'Letter' },
] as const
const paper = computed({ get: () => report.plan.paper ?? 'a4', set: (value) => void report.put({ paper: value }) })
const off = computed(() => SECTIONS.filter((s) => !report.sections.some((on) => on.kind === s.kind)))
const said = (kind: string) => SECTIONS.find((s) => s.kind === kind)
const isOld = computed(() => made.value !== null && made.value.revision !== model.revision)

async function tried(work: () => Promise<void>) {
    busy.value = true
    trouble.value = ''
    try {
        await work()
    } catch (error) {
        trouble.value = (error as Error).message
    }
    busy.value = false
}
const id = () => report.kept?.id ?? null
const make = () =>
    tried(async () => {
        made.value = await shown.report(model.id, id())
    })
// What is changed of the report itself is seen at once; what is changed of the model waits to be asked for.
watch(() => JSON.stringify(report.plan), make, { immediate: true })

const name = () => report.plan.title.replace(/[^\p{L}\p{N} -]+/gu, '').trim() || 'report'
function page() {
    if (made.value) {
        download(`${name()}.html`, made.value.html, 'text/html')
    }
}
const files = () =>
    tried(async () => {
        download(`${name()}.zip`, await shown.reportFiles(model.id, id()))
    })
const print = () => frame.value?.contentWindow?.print()
</script>

<template>
    <div class="leaf">
        <TellTabs />
        <div class="both">
            <aside class="parts" aria-label="What the report tells">
                <label class="label" for="report-title">Title</label>
                <InputText
                    id="report-title"
                    class="field"
                    :model-value="report.plan.title"
                    maxlength="200"
                    :disabled="!model.mayEdit"
                    @change="report.put({ title: ($event.target as HTMLInputElement).value || model.model.name })"
                />
                <label class="label" for="report-words">What stands first</label>
                <Textarea
                    id="report-words"
                    class="field"
                    :model-value="report.plan.words ?? ''"
                    rows="3"
                    auto-resize
                    maxlength="20000"
                    placeholder="For whom it is, and what they should take along"
                    :disabled="!model.mayEdit"
                    @change="report.put({ words: ($event.target as HTMLTextAreaElement).value })"
                />
                <h3>Sections</h3>
                <ol class="sections">
                    <li v-for="(s, i) in report.sections" :key="s.kind">
                        <span class="line">
                            <label class="tick"
                                ><Checkbox
                                    :model-value="true"
                                    binary
                                    :disabled="!model.mayEdit"
                                    @update:model-value="report.turn(s.kind, false)"
                                />
                                <span
                                    ><strong>{{ said(s.kind)?.words }}</strong
                                    ><small class="soft">{{ said(s.kind)?.hint }}</small></span
                                ></label
                            >
                            <span v-if="model.mayEdit" class="moves">
                                <Button
                                    class="icon-button"
                                    :disabled="i === 0"
                                    :aria-label="`${said(s.kind)?.words}: earlier`"
                                    title="Earlier"
                                    @click="report.move(s.kind, -1)"
                                    ><ArrowUp :size="15" :stroke-width="1.6"
                                /></Button>
                                <Button
                                    class="icon-button"
                                    :disabled="i === report.sections.length - 1"
                                    :aria-label="`${said(s.kind)?.words}: later`"
                                    title="Later"
                                    @click="report.move(s.kind, 1)"
                                    ><ArrowDown :size="15" :stroke-width="1.6"
                                /></Button>
                            </span>
                        </span>
                        <Textarea
                            v-if="model.mayEdit || s.words"
                            class="field own"
                            :model-value="s.words ?? ''"
                            rows="1"
                            auto-resize
                            maxlength="20000"
                            placeholder="Own words before it"
                            :aria-label="`Own words before: ${said(s.kind)?.words}`"
                            :disabled="!model.mayEdit"
                            @change="report.change(s.kind, { words: ($event.target as HTMLTextAreaElement).value })"
                        />
                    </li>
                    <li v-for="s in off" :key="s.kind">
                        <label class="tick"
                            ><Checkbox
                                :model-value="false"
                                binary
                                :disabled="!model.mayEdit"
                                @update:model-value="report.turn(s.kind, true)"
                            />
                            <span
                                >{{ s.words }}<small class="soft">{{ s.hint }}</small></span
                            ></label
                        >
                    </li>
                </ol>
                <p class="soft">A section of which the study says nothing is left out by itself.</p>
            </aside>
            <div class="preview">
                <div class="bar">
                    <p class="of" role="status">
                        <template v-if="made">{{ made.of }}</template>
                        <template v-if="busy"> Being made…</template>
                        <Button v-else-if="isOld" class="button small" @click="make"
                            ><RotateCcw :size="15" :stroke-width="1.6" />The model has changed since: make it anew</Button
                        >
                    </p>
                    <OneOf v-if="model.mayEdit" v-model="paper" :choices="PAPERS" label="Paper" />
                    <Button class="button" :disabled="!made" @click="print"><Printer :size="15" :stroke-width="1.6" />Print</Button>
                    <Button class="button" :disabled="!made" @click="page"><Download :size="15" :stroke-width="1.6" />HTML</Button>
                    <Button class="button" :disabled="!made || busy" @click="files"
                        ><Download :size="15" :stroke-width="1.6" />Markdown</Button
                    >
                </div>
                <p v-if="trouble" class="trouble" role="alert">{{ trouble }}</p>
                <iframe
                    v-if="made"
                    ref="frame"
                    class="paper"
                    title="The report"
                    sandbox="allow-same-origin allow-modals"
                    :srcdoc="made.html"
                />
            </div>
        </div>
    </div>
</template>

<style scoped>
.leaf {
    background: var(--paper);
}
.both {
    display: grid;
    grid-template-columns: 372px minmax(0, 1fr);
    min-height: 0;
}
.parts {
    display: grid;
    align-content: start;
    gap: 8px;
    overflow: auto;
    padding: 16px 18px 40px;
    border-right: 1px solid var(--hairline);
    background: var(--card);
}
.parts > * {
    min-width: 0;
}
.field {
    width: 100%;
    padding: 6px 9px;
    border: 1px solid var(--line);
    border-radius: 8px;
    background: var(--paper);
    resize: none;
}
.label {
    font-size: 13px;
    color: var(--ink-soft);
}
h3 {
    margin-top: 12px;
    font-size: 15px;
}
.sections {
    display: grid;
    gap: 2px;
    margin: 0;
    padding: 0;
    list-style: none;
}
.sections li {
    padding: 6px 0;
    border-bottom: 1px solid var(--hairline);
}
.line {
    display: flex;
    align-items: start;
    justify-content: space-between;
}
.tick {
    display: flex;
    align-items: start;
    gap: 9px;
}
.tick > span {
    display: grid;
}
.moves {
    display: flex;
    flex: none;
}
.own {
    margin: 5px 0 2px;
    min-height: 30px;
    font-size: 13px;
}
.preview {
    display: grid;
    grid-template-rows: auto auto minmax(0, 1fr);
    min-width: 0;
    min-height: 0;
}
.bar {
    display: flex;
    flex-wrap: wrap;
    align-items: center;
    gap: 8px;
    padding: 10px 18px;
    border-bottom: 1px solid var(--hairline);
}
.of {
    flex: 1 1 240px;
    color: var(--ink-soft);
    font-size: 13px;
}
.trouble {
    padding: 12px 18px;
    color: var(--brick);
}
.paper {
    grid-row: 3;
    width: 100%;
    height: 100%;
    border: 0;
    background: #fff;
}
@media (width < 1000px) {
    .both {
        grid-template-columns: minmax(0, 1fr);
        overflow: auto;
    }
    .preview {
        min-height: 80vh;
    }
}
</style>
