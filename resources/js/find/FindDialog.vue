<script setup lang="ts">
import Dialog from 'primevue/dialog'
import { computed, nextTick, ref, watch } from 'vue'
import { useModel } from '@/stores/model'
import { useRuns } from '@/stores/runs'
import { useView } from '@/stores/view'
import KindIcon from '@/ui/KindIcon.vue'
import type { Field as TextField } from '@/ui/controls'
import { literal } from '@/ui/numbers'
import OneOf from '@/ui/OneOf.vue'
import { replacements, search, type Field } from './search'

const MOST = 120

const model = useModel()
const runs = useRuns()
const view = useView()
const wanted = ref('')
const chosen = ref(0)
const only = ref<Field | 'all'>('all')
const what = ref<'name' | 'unit'>('name')
const by = ref('')
const left = ref(new Set<string>())
const field = ref<TextField>()
const FIELDS: { value: Field | 'all'; words: string }[] = [
    { value: 'all', words: 'Everywhere' },
    { value: 'name', words: 'Names' },
    { value: 'formula', words: 'Formulas' },
    { value: 'unit', words: 'Units' },
    { value: 'note', words: 'Notes' },
    { value: 'value', words: 'Values' },
]

const open = computed({
    get: () => view.over === 'find' || view.over === 'replace',
    set: (on) => {
        if (!on) view.over = ''
    },
})
const replacing = computed(() => view.over === 'replace')
const valueOf = (id: string) => {
    const value = runs.value(id)
    return value === undefined ? '' : literal(Number(value.toPrecision(6)))
}
const hits = computed(() =>
    search(model.all, wanted.value, only.value !== 'all' ? [only.value] : ['name', 'formula', 'unit', 'note', 'value'], valueOf),
)
const changes = computed(() => (replacing.value ? replacements(model.all, what.value, wanted.value, by.value) : []))
const taken = computed(() => changes.value.filter((c) => !left.value.has(c.id)))
/** Formulas that a rename will be seen in. */
const following = computed(() =>
    what.value === 'name' ? new Set(model.model.links.filter((l) => taken.value.some((c) => c.id === l.from)).map((l) => l.to)).size : 0,
)

watch([wanted, only], () => {
    chosen.value = 0
})
watch([wanted, what, by], () => {
    left.value = new Set()
})
watch(
    () => view.over,
    (over) => {
        if (over !== 'find' && over !== 'replace') {
            return
        }
        if (view.sought.text) {
            wanted.value = view.sought.text
            only.value = view.sought.field || 'all'
            view.sought = { text: '', field: '' }
        }
        void nextTick(() =>
            window.setTimeout(() => {
                field.value?.$el.select()
            }, 60),
        )
    },
)

function go(index: number) {
    const hit = hits.value[index]
    if (hit) {
        view.over = ''
        view.card = true
        view.goTo(hit.thing.id)
    }
}
function key(event: KeyboardEvent) {
    const by = event.key === 'ArrowDown' ? 1 : event.key === 'ArrowUp' ? -1 : 0
    if (by && !replacing.value) {
        chosen.value = Math.min(Math.max(0, chosen.value + by), Math.min(hits.value.length, MOST) - 1)
        void nextTick(() => {
            document.querySelector('.hit.chosen')?.scrollIntoView({ block: 'nearest' })
        })
        event.preventDefault()
    } else if (event.key === 'Enter' && !replacing.value) {
        go(chosen.value)
        event.preventDefault()
    }
}
function toggle(id: string) {
    const now = new Set(left.value)
    if (!now.delete(id)) {
        now.add(id)
    }
    left.value = now
}
async function replace() {
    const list = taken.value
    const words =
        what.value === 'name'
            ? `Replaced “${wanted.value.trim()}” by “${by.value}” in ${list.length} names`
            : `Replaced the unit ${wanted.value.trim()} by ${by.value || 'nothing'} in ${list.length} things`
    if (
        await model.together(
            list.map((c) => (what.value === 'name' ? { kind: 'rename', id: c.id, name: c.now } : { kind: 'unit', id: c.id, text: c.now })),
            words,
        )
    ) {
        view.over = ''
    }
}
</script>

<template>
    <Dialog
        v-model:visible="open"
        modal
        :header="replacing ? 'Replace in many things' : 'Find in the model'"
        dismissable-mask
        position="top"
        :style="{ width: '620px', marginTop: '60px' }"
        :pt="{ content: { style: 'padding-top: 5px' } }"
    >
        <div class="finder">
            <InputText
                ref="field"
                v-model="wanted"
                autofocus
                class="field big"
                :placeholder="
                    replacing ? (what === 'name' ? 'Part of a name' : 'A unit, such as person') : 'Name, formula, unit, note or value'
                "
                :aria-label="replacing ? 'What to replace' : 'What to find'"
                role="combobox"
                aria-expanded="true"
                aria-controls="hits"
                spellcheck="false"
                @keydown="key"
            />
            <div v-if="!replacing" class="where">
                <OneOf v-model="only" class="where" label="Where to look" :choices="FIELDS" />
                <Button class="link" @click="view.over = 'replace'">Replace…</Button>
            </div>
            <div v-else class="where">
                <OneOf
                    v-model="what"
                    class="where"
                    label="Where to replace"
                    :choices="[
                        { value: 'name', words: 'In names' },
                        { value: 'unit', words: 'In units' },
                    ]"
                />
                <InputText v-model="by" class="field by" placeholder="by" aria-label="Replace by" spellcheck="false" />
                <Button class="link" @click="view.over = 'find'">Find only</Button>
            </div>
            <ul v-if="!replacing" id="hits" role="listbox" aria-label="Found">
                <li
                    v-for="(hit, i) in hits.slice(0, MOST)"
                    :key="hit.thing.id"
                    role="option"
                    :aria-selected="i === chosen"
                    class="hit"
                    :class="{ chosen: i === chosen }"
                    @click="go(i)"
                    @pointermove="chosen = i"
                >
                    <KindIcon :kind="hit.thing.kind" />
                    <span class="name">{{ hit.thing.name }}</span>
                    <span class="text"
                        ><template v-if="hit.field !== 'name'"
                            >{{ hit.text.slice(Math.max(0, hit.from - 24), hit.from)
                            }}<mark>{{ hit.text.slice(hit.from, hit.from + hit.length) }}</mark
                            >{{ hit.text.slice(hit.from + hit.length, hit.from + 60) }}</template
                        ></span
                    >
                    <small class="soft">{{
                        model.model.sheets.length > 1
                            ? model.model.sheets.find((s) => s.id === model.sheetOf(hit.thing.id))?.name
                            : hit.field === 'name'
                              ? hit.thing.kind
                              : hit.field
                    }}</small>
                </li>
            </ul>
            <ul v-else aria-label="What would change">
                <li v-for="c in changes.slice(0, MOST)" :key="c.id" class="hit">
                    <label
                        ><Checkbox binary :model-value="!left.has(c.id)" @update:model-value="toggle(c.id)" /><span
                            v-if="what === 'unit'"
                            class="name"
                            >{{ c.name }}</span
                        ><s>{{ c.was }}</s
                        ><span>→</span><b>{{ c.now || 'no unit' }}</b></label
                    >
                </li>
            </ul>
            <p v-if="wanted.trim() && !(replacing ? changes : hits).length" class="soft none">
                {{ replacing ? 'This would change nothing.' : `Nothing has “${wanted.trim()}” in it.` }}
            </p>
            <p v-else-if="(replacing ? changes : hits).length > MOST" class="soft none">
                {{ (replacing ? changes : hits).length - MOST }} more.
            </p>
            <footer v-if="replacing && changes.length">
                <span class="soft">{{ following ? `${following} ${following === 1 ? 'formula follows' : 'formulas follow'}.` : '' }}</span>
                <Button class="button strong" :disabled="!taken.length" @click="replace">Replace in {{ taken.length }}</Button>
            </footer>
        </div>
    </Dialog>
</template>

<style scoped>
.big {
    min-height: 38px;
    font-size: 16px;
}
.where {
    display: flex;
    flex-wrap: wrap;
    align-items: center;
    gap: 6px;
    margin: 10px 0 6px;
}
.link {
    margin-left: auto;
    text-decoration: underline;
    text-underline-offset: 3px;
}
.by {
    width: 200px;
}
ul {
    max-height: 46vh;
    margin: 0;
    padding: 0;
    overflow-y: auto;
    list-style: none;
}
.hit {
    display: flex;
    align-items: center;
    gap: 10px;
    padding: 6px 8px;
    border-radius: 8px;
    cursor: pointer;
}
.hit.chosen {
    background: var(--hover);
}
.hit svg {
    flex: none;
}
.name {
    flex: none;
    max-width: 240px;
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
}
.text {
    flex: 1;
    min-width: 0;
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
    font: 12.5px var(--mono);
    color: var(--ink-soft);
}
mark {
    background: none;
    color: var(--ink);
    font-weight: 700;
    text-decoration: underline;
    text-underline-offset: 2px;
}
label {
    display: flex;
    align-items: center;
    gap: 9px;
    min-width: 0;
}
.none {
    padding: 12px 8px;
}
footer {
    display: flex;
    justify-content: space-between;
    align-items: center;
    margin-top: 12px;
}
</style>
