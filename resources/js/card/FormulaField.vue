<script setup lang="ts">
import type { EditorView } from '@codemirror/view'
import { computed, onBeforeUnmount, onMounted, ref, watch } from 'vue'
import { api } from '@/api/client'
import type { Problem, Thing } from '@/api/types'
import { useCatalogue } from '@/stores/catalogue'
import { mendsOf, useMends } from '@/stores/mends'
import { useModel } from '@/stores/model'
import { useView } from '@/stores/view'
import SaidText from '@/ui/SaidText.vue'
import { formulaEditor } from './formulaEditor'
import { useTyped } from './useTyped'

const { thing, autofocus = false } = defineProps<{ thing: Thing; autofocus?: boolean }>()
const emit = defineEmits<{ done: [] }>()

const model = useModel()
const mends = useMends()
const view = useView()
const catalogue = useCatalogue()
const drafts = useTyped()
const host = ref<HTMLElement>()
const text = ref('')
const said = ref<Problem[] | null>(null)
const refused = ref('')
let editor: EditorView | undefined
/** The text that is on its way to the engine. */
let sent: string | null = null

const label = computed(() => (thing.kind === 'stock' ? 'Starts at' : thing.kind === 'parameter' ? 'Value' : 'Formula'))
const hint = computed(() =>
    thing.kind === 'stock'
        ? 'a number or a formula'
        : thing.kind === 'parameter'
          ? 'a number, such as 0.5 or 5%'
          : 'such as births * share',
)
const changed = computed(() => text.value.trim() !== thing.formula.trim())
/** While typing, what the engine says of the text; else what it says of the model. */
const sentence = computed(
    () =>
        refused.value ||
        (changed.value
            ? said.value?.[0]?.sentence
            : model.model.problems.find(
                  (p) =>
                      p.element === thing.id &&
                      p.field === 'formula' &&
                      !p.code.startsWith('unit.') &&
                      (p.severity !== 'missing' || !autofocus),
              )?.sentence) ||
        '',
)
/** A name that nothing has yet, to be added with one click. */
const unknown = computed(() => {
    const problem = changed.value ? said.value?.[0] : model.model.problems.find((p) => p.element === thing.id && p.field === 'formula')
    return problem?.code === 'name.unknown' && problem.from !== null && problem.length !== null
        ? [...text.value]
              .slice(problem.from, problem.from + problem.length)
              .join('')
              .replace(/^"|"$/g, '')
              .replaceAll('""', '"')
        : ''
})
const ownMends = computed(() => {
    const told =
        changed.value || refused.value
            ? undefined
            : model.model.problems.find((p) => p.element === thing.id && p.field === 'formula' && p.sentence === sentence.value)
    return told ? mendsOf(told) : []
})
const tone = computed(() =>
    refused.value || changed.value
        ? 'wrong'
        : (model.model.problems.find((p) => p.element === thing.id && p.field === 'formula')?.severity ?? 'wrong'),
)

function show(value: string) {
    if (editor && editor.state.doc.toString() !== value) {
        editor.dispatch({ changes: { from: 0, to: editor.state.doc.length, insert: value } })
    }
    text.value = value
}

async function commit() {
    refused.value = ''
    if (changed.value) {
        const given = text.value
        sent = given
        try {
            await model.edit({ kind: 'formula', id: thing.id, text: given })
            drafts.drop(thing.id)
        } catch (error) {
            refused.value = (error as Error).message
            sent = null
            return
        }
    }
    emit('done')
}

/** Takes the formula over as it is and adds what it misses as a parameter beside it. */
async function addMissing() {
    const name = unknown.value
    if (changed.value && !(await model.attempt({ kind: 'formula', id: thing.id, text: text.value }))) {
        return
    }
    drafts.drop(thing.id)
    // The engine knows where there is room beside it.
    const remedy = model.model.problems
        .filter((p) => p.element === thing.id && p.code === 'name.unknown')
        .flatMap((p) => [p.remedy, p.other])
        .find((r) => r?.edits[0]?.kind === 'add' && r.edits[0].name === name)
    emit('done')
    if (remedy) {
        await mends.mend(remedy)
    }
}

/** A new field may be measured before it is shown, and cannot take the focus until then. */
function takeFocus(tries = 30) {
    editor?.focus()
    if (editor && !editor.hasFocus && tries) {
        requestAnimationFrame(() => {
            takeFocus(tries - 1)
        })
        return
    }
    mends.waiting = false
    // What was typed before the field was there is meant for it.
    const ahead = view.takeAhead()
    view.typedAhead = ''
    if (editor && ahead.text) {
        editor.dispatch({ changes: { from: 0, to: editor.state.doc.length, insert: ahead.text }, selection: { anchor: ahead.text.length } })
        if (ahead.ended) {
            void commit()
        }
    }
}

function leave() {
    emit('done')
    if (!autofocus) {
        ;(document.activeElement as HTMLElement | null)?.blur()
    }
}

onMounted(() => {
    text.value = drafts.of(thing.id) ?? thing.formula
    if (!host.value) {
        return
    }
    editor = formulaEditor(host.value, text.value, {
        words: () => ({
            things: model.known,
            catalogue: catalogue.content,
            dimensions: model.model.dimensions.filter((d) => !d.shared),
            mappings: Object.values(model.model.mappings ?? {}),
        }),
        self: thing.id,
        label: `${label.value} of ${thing.name}`,
        hint: hint.value,
        changed: (now) => {
            text.value = now
            refused.value = ''
            drafts.keep(thing.id, now, thing.formula)
        },
        commit: () => {
            void commit()
        },
        leave,
        blurred: () => {
            if (!autofocus && changed.value && said.value?.length === 0) void commit()
        },
        check: async (now) => {
            // What was taken over is judged with the model.
            if (now === sent || now.trim() === thing.formula.trim()) {
                return []
            }
            const problems = await api.formula(model.id, thing.id, now).catch(() => [])
            said.value = problems
            return problems
        },
    })
    if (autofocus) {
        editor.dispatch({ selection: { anchor: 0, head: editor.state.doc.length } })
        takeFocus()
    }
})
onBeforeUnmount(() => {
    editor?.destroy()
})
watch(
    () => thing.formula,
    (now, was) => {
        // A change from elsewhere shows, unless something else is being typed here.
        if (text.value.trim() === was.trim()) {
            show(now)
        }
    },
)
defineExpose({
    focus: () => {
        editor?.focus()
    },
})
</script>

<template>
    <div class="formula">
        <span class="label">{{ label }}</span>
        <div ref="host" class="host" :class="{ wrong: sentence && tone !== 'remark' }" />
        <p v-if="sentence" class="sentence" :class="tone" role="status"><SaidText :text="sentence" /></p>
        <Button
            v-for="m in ownMends"
            :key="m.words"
            class="button add"
            @mousedown.prevent
            @click="
                () => {
                    emit('done')
                    mends.mend(m)
                }
            "
            >{{ m.words }}</Button
        >
        <Button v-if="unknown && changed" class="button add" @mousedown.prevent @click="addMissing"
            >Add {{ unknown }} as a parameter</Button
        >
        <p v-if="!sentence && changed" class="sentence soft">
            Not applied · press Enter
            <Button
                class="back"
                @click="
                    () => {
                        show(thing.formula)
                        drafts.drop(thing.id)
                    }
                "
                >put back</Button
            >
        </p>
    </div>
</template>

<style scoped src="./formula.css"></style>
<style scoped>
.host {
    margin-top: 4px;
    border: 1px solid var(--line);
    border-radius: 8px;
    background: var(--paper);
}
.host:focus-within {
    border-color: var(--ink);
    box-shadow: 0 0 0 1px var(--ink);
}
.host.wrong {
    border-color: var(--brick);
}
.host :deep(.cm-editor) {
    outline: none;
    font: 13px/1.5 var(--mono);
    max-height: 180px;
}
.host :deep(.cm-scroller) {
    font: inherit;
}
.host :deep(.cm-content) {
    padding: 5px 0;
    caret-color: var(--ink);
}
.host :deep(.cm-line) {
    padding: 0 9px;
}
.sentence {
    margin-top: 5px;
    font-size: 13px;
    overflow-wrap: anywhere;
}
.sentence.wrong,
.sentence.missing {
    color: var(--brick);
}
.sentence.remark {
    color: var(--ochre);
}
.add {
    max-width: 100%;
    margin-top: 6px;
    overflow: hidden;
    text-overflow: ellipsis;
}
.back {
    text-decoration: underline;
    text-underline-offset: 2px;
}
</style>
