<script setup lang="ts">
import { watchDebounced } from '@vueuse/core'
import { computed, nextTick, ref, shallowRef } from 'vue'
import { api } from '@/api/client'
import type { Foreseen } from '@/api/types'
import { useModel } from '@/stores/model'
import type { Field } from '@/ui/controls'
import { counted } from '@/ui/numbers'
import SaidText from '@/ui/SaidText.vue'
import { markOf } from './mark'
import MarkShape from './MarkShape.vue'
import { offered, readEffect } from './typed'
import { useMap } from './useMap'

/** One line to type into: a cause, how it acts, an effect. */
const map = useMap()
const model = useModel()
const cause = ref('')
const effect = ref('')
const sign = ref<'+' | '-' | '?'>('+')
const late = ref(false)
const causeField = ref<Field>()
const effectField = ref<Field>()
const at = ref<'' | 'cause' | 'effect'>('')
/** The effect of what was said last: a chain is told from there on. */
const last = ref('')
const done = ref('')

const names = computed(() => map.factors.map((t) => t.name))
const others = computed(() => model.things.map((t) => t.name))
const offer = computed(() => {
    const text = at.value === 'effect' ? effect.value : cause.value
    return at.value ? (offered(text, names.value) ?? offered(text, others.value)) : undefined
})
const rest = computed(() => (offer.value ?? '').slice((at.value === 'effect' ? effect.value : cause.value).length))
const isNew = (name: string) => {
    const key = name.trim().toLowerCase()
    return key !== '' && !model.all.some((t) => t.name.toLowerCase() === key)
}
const WORDS = { '+': 'more', '-': 'less', '?': 'open' } as const
const NEXT = { '+': '-', '-': '?', '?': '+' } as const
const nothing = { width: -10, height: -10, lines: [] }
const mark = computed(() =>
    markOf({ at: { x: 2, y: 11 }, hull: nothing, level: 0 }, { at: { x: 88, y: 11 }, hull: nothing, level: 0 }, 0, {
        sign: sign.value,
        late: late.value,
        standing: 'agreed',
    }),
)

function typed(event: Event) {
    const field = event.target as HTMLInputElement
    const read = readEffect(field.value)
    if (read) {
        // A sign before the effect is no part of its name.
        sign.value = read.sign ?? sign.value
        late.value = read.late ?? late.value
        effect.value = read.rest
        void nextTick(() => {
            field.value = read.rest
        })
    }
}
/** A sign that is typed behind the cause leads on to the effect. */
function typedCause() {
    const found = /^(.*\S)\s+([+−?~]|-)\s$/u.exec(cause.value)
    if (found?.[1]) {
        cause.value = found[1]
        if (found[2] === '~') {
            late.value = true
        } else {
            sign.value = found[2] === '+' ? '+' : found[2] === '?' ? '?' : '-'
        }
        onward()
    }
}
function onward() {
    void nextTick(() => effectField.value?.$el.focus())
}
function take() {
    if (offer.value) {
        if (at.value === 'effect') {
            effect.value = offer.value
        } else {
            cause.value = offer.value
        }
    }
}
function causeKey(event: KeyboardEvent) {
    if ((event.key === 'Tab' && !event.shiftKey && cause.value.trim()) || (event.key === 'ArrowRight' && atEnd(event) && rest.value)) {
        take()
        event.preventDefault()
        if (event.key === 'Tab') {
            onward()
        }
    } else if (event.key === 'Enter' && cause.value.trim()) {
        event.preventDefault()
        onward()
    } else if (event.key === 'ArrowUp' && !cause.value && last.value) {
        event.preventDefault()
        cause.value = last.value
        onward()
    } else {
        common(event)
    }
}
function effectKey(event: KeyboardEvent) {
    if (((event.key === 'Tab' && !event.shiftKey) || (event.key === 'ArrowRight' && atEnd(event))) && rest.value) {
        take()
        event.preventDefault()
    } else if (event.key === 'Enter') {
        event.preventDefault()
        say()
    } else if (event.key === 'Backspace' && !effect.value) {
        event.preventDefault()
        causeField.value?.$el.focus()
    } else {
        common(event)
    }
}
const atEnd = (event: KeyboardEvent) => {
    const field = event.target as HTMLInputElement
    return field.selectionStart === field.value.length
}
function common(event: KeyboardEvent) {
    const empty = !cause.value && !effect.value
    if (event.key === 'Escape') {
        event.preventDefault()
        if (empty) {
            emit('leave')
        } else {
            clear()
        }
    } else if (empty && (event.ctrlKey || event.metaKey) && event.key.toLowerCase() === 'z') {
        // There is nothing of the text's own to take back.
        event.preventDefault()
        void model.step(event.shiftKey ? 'redo' : 'undo')
    }
}
function clear() {
    cause.value = ''
    effect.value = ''
    sign.value = '+'
    late.value = false
    causeField.value?.$el.focus()
}
function say() {
    const [from, to] = [cause.value.trim(), effect.value.trim()]
    if (!from) {
        causeField.value?.$el.focus()
        return
    }
    void map.say(from, to, { sign: sign.value, ...(late.value ? { late: true } : {}) })
    done.value = to ? `Said: ${from}, ${WORDS[sign.value]} ${to}.` : `Put down: ${from}.`
    last.value = to || from
    clear()
}

/** What stands on the stage is named by a click, while the line is being typed into. */
function name(text: string) {
    if (!cause.value.trim() || at.value === 'cause') {
        cause.value = text
        onward()
    } else {
        effect.value = text
        effectField.value?.$el.focus()
    }
}
function from(text: string) {
    cause.value = text
    effect.value = ''
    onward()
}
function type(letter: string) {
    causeField.value?.$el.focus()
    cause.value += letter
}
/** The empty line is left by Esc: where it stands, one knows what is worked on next. */
const emit = defineEmits<{ leave: [] }>()
defineExpose({ name, from, type, typing: computed(() => at.value !== '' && (cause.value !== '' || effect.value !== '')) })

const foreseen = shallowRef<Foreseen | null>(null)
watchDebounced(
    [cause, effect, sign, late] as const,
    async ([from, to]) => {
        const key = `${from}>${to}${sign.value}${late.value}`
        if (!from.trim() || !to.trim()) {
            foreseen.value = null
            return
        }
        const answer = await api.foresee(model.id, { from, to, sign: sign.value, late: late.value }).catch(() => null)
        if (key === `${cause.value}>${effect.value}${sign.value}${late.value}`) {
            foreseen.value = answer
        }
    },
    { debounce: 120 },
)
const closes = computed(() => {
    const count = foreseen.value?.closes ?? 0
    return count ? `It would close ${foreseen.value?.complete ? '' : 'at least '}${counted(count, 'more loop')}.` : ''
})
</script>

<template>
    <div class="line-part">
        <p class="foreseen" role="status">
            <template v-if="foreseen?.sentence">
                <span><SaidText :text="foreseen.sentence" /></span><b v-if="closes" class="closes">{{ closes }}</b>
            </template>
            <span v-else class="visually-hidden">{{ done }}</span>
        </p>
        <div class="line" :class="{ typing: at }">
            <span class="typed cause">
                <span class="ghost" aria-hidden="true"
                    ><i>{{ cause }}</i
                    >{{ at === 'cause' ? rest : '' }}</span
                >
                <InputText
                    ref="causeField"
                    v-model="cause"
                    class="bare"
                    aria-label="Cause"
                    placeholder="a cause …"
                    maxlength="120"
                    autocomplete="off"
                    spellcheck="false"
                    @focus="at = 'cause'"
                    @blur="at = ''"
                    @update:model-value="typedCause"
                    @keydown="causeKey"
                />
            </span>
            <Button
                class="sign"
                :aria-label="`How it acts: ${WORDS[sign]} of the effect${late ? ', late' : ''}`"
                title="How it acts: click to change; or type + − ? before the effect, ~ where it is late"
                tabindex="-1"
                @click="
                    () => {
                        sign = NEXT[sign]
                        onward()
                    }
                "
            >
                <svg width="90" height="22" viewBox="0 0 90 22" aria-hidden="true">
                    <MarkShape :mark="mark" />
                </svg>
                <span>{{ WORDS[sign] }}</span>
            </Button>
            <span class="typed effect">
                <span class="ghost" aria-hidden="true"
                    ><i>{{ effect }}</i
                    >{{ at === 'effect' ? rest : '' }}</span
                >
                <InputText
                    ref="effectField"
                    v-model="effect"
                    class="bare"
                    aria-label="Effect"
                    placeholder="… and what it acts on"
                    maxlength="120"
                    autocomplete="off"
                    spellcheck="false"
                    @focus="at = 'effect'"
                    @blur="at = ''"
                    @input="typed"
                    @keydown="effectKey"
                />
            </span>
            <span class="hints" aria-hidden="true">
                <template v-if="at">
                    <span v-if="rest"><kbd>Tab</kbd> take “{{ offer }}”</span>
                    <span v-if="at === 'cause' && cause.trim()"><kbd>Enter</kbd> {{ isNew(cause) ? `new factor` : 'go on' }}</span>
                    <span v-else-if="at === 'cause' && last"><kbd>↑</kbd> {{ last }}</span>
                    <span v-else-if="at === 'effect'"
                        ><kbd>Enter</kbd> {{ !effect.trim() ? 'only put it down' : isNew(effect) ? 'link to a new factor' : 'link' }}</span
                    >
                </template>
            </span>
        </div>
    </div>
</template>

<style scoped>
.line-part {
    padding: 0 14px 12px;
}
.foreseen {
    display: flex;
    justify-content: space-between;
    gap: 20px;
    min-height: 26px;
    margin: 0;
    padding: 0 16px 4px;
    font-size: 14px;
    color: var(--ink-soft);
}
.closes {
    white-space: nowrap;
    color: var(--ink);
}
.line {
    display: flex;
    align-items: center;
    gap: 10px;
    height: 50px;
    padding: 0 14px;
    border: 1px solid var(--line);
    border-radius: 12px;
    background: var(--card);
}
.line.typing {
    outline: 2px solid var(--ember);
    outline-offset: 2px;
}
.typed {
    position: relative;
    display: inline-grid;
    align-items: center;
    min-width: 104px;
    font-size: 17px;
}
.typed > * {
    grid-area: 1 / 1;
    font-size: 17px;
    line-height: 30px;
}
.ghost {
    min-height: 30px;
    padding: 0 3px 0 2px;
    white-space: pre;
    color: var(--line);
    pointer-events: none;
    overflow: hidden;
    max-width: 34vw;
}
.ghost i {
    visibility: hidden;
    font-style: normal;
}
.bare {
    position: absolute;
    inset: 0;
    width: 100%;
    min-width: 0;
    padding: 0 2px;
    border: 0;
    border-radius: 0;
    background: none;
    color: var(--ink);
    outline: none;
}
.typed.effect {
    flex: 1 1 210px;
}
.typed.cause {
    flex: 0 1 auto;
    border-bottom: 1px solid var(--line);
}
.sign {
    display: flex;
    align-items: center;
    gap: 10px;
    padding: 4px 6px;
    border-radius: 8px;
    font-size: 17px;
}
.sign:hover {
    background: var(--hover);
}
.sign svg {
    --stroke: var(--ink);
    --ground: var(--card);
}
.hints {
    display: flex;
    gap: 14px;
    margin-left: auto;
    font-size: 13px;
    color: var(--ink-soft);
    white-space: nowrap;
    overflow: hidden;
}
kbd {
    padding: 1px 7px;
    border: 1px solid var(--line);
    border-radius: 5px;
    font: 12.5px var(--sans);
    color: var(--ink);
}
</style>
