<script setup lang="ts">
import AutoComplete from 'primevue/autocomplete'
import { computed, nextTick, ref } from 'vue'
import type { Thing } from '@/api/types'
import { useModel } from '@/stores/model'
import { useView } from '@/stores/view'
import KindIcon from '@/ui/KindIcon.vue'
import { shownUnit } from '@/ui/numbers'
import { matching } from './match'

/** One way to choose a variable, everywhere: the best match is taken with Enter. */
const {
    except = [],
    only = undefined,
    label = 'Add a variable',
    placeholder = '',
} = defineProps<{
    /** Ids that are not offered. */ except?: string[]
    /** What can be chosen; all but curves else. */ only?: Thing[]
    label?: string
    placeholder?: string
}>()
const emit = defineEmits<{ choose: [id: string] }>()
const model = useModel()
const view = useView()
const MOST = 60

const field = ref<{ hide: () => void }>()
const text = ref<string | Thing>('')
const found = ref<Thing[]>([])
const choices = computed(() => (only ?? model.known.filter((t) => t.kind !== 'curve')).filter((t) => !except.includes(t.id)))
const sheetOf = (thing: Thing) =>
    thing.made
        ? 'in the ledgers'
        : model.model.sheets.length > 1
          ? (model.model.sheets.find((s) => s.id === model.sheetOf(thing.id))?.name ?? '')
          : ''

/** What was typed before a choice may ask again just after it: that does not open the list anew over what comes next. */
const QUIET = 300
let quietUntil = 0
function search({ query }: { query: string }) {
    if (performance.now() < quietUntil) {
        found.value = []
        field.value?.hide()
        return
    }
    // What is in sight comes first as long as nothing is typed.
    found.value = query.trim()
        ? matching(choices.value, query).slice(0, MOST)
        : [...choices.value]
              .sort((a, b) => Number(view.selectedThings.includes(b.id)) - Number(view.selectedThings.includes(a.id)))
              .slice(0, MOST)
}
function choose(thing: Thing) {
    quietUntil = performance.now() + QUIET
    emit('choose', thing.id)
    void nextTick(() => {
        text.value = ''
        field.value?.hide()
    })
}
/** Quick hands press Enter before the list is there. */
function enter(event: KeyboardEvent) {
    // A form around it is not sent by choosing.
    event.preventDefault()
    const best = typeof text.value === 'string' && text.value.trim() ? matching(choices.value, text.value)[0] : undefined
    if (best) {
        choose(best)
    }
}
</script>

<template>
    <AutoComplete
        ref="field"
        v-model="text"
        :suggestions="found"
        option-label="name"
        :delay="80"
        :min-length="0"
        complete-on-focus
        auto-option-focus
        :placeholder="placeholder || label"
        :aria-label="label"
        :pt="{ pcInputText: { root: { 'aria-label': label, class: 'field variable-field' } } }"
        scroll-height="320px"
        @complete="search"
        @option-select="choose($event.value as Thing)"
        @keydown.enter="enter"
    >
        <template #option="{ option }">
            <span class="option"
                ><KindIcon :kind="(option as Thing).kind" :size="15" /><span class="name">{{ (option as Thing).name }}</span
                ><small class="soft">{{
                    [shownUnit((option as Thing).unit), sheetOf(option as Thing)].filter(Boolean).join(' · ')
                }}</small></span
            >
        </template>
        <template #empty
            ><span class="soft">{{
                typeof text === 'string' && text.trim() ? `No variable is called “${text.trim()}”.` : 'There is nothing more to choose.'
            }}</span></template
        >
    </AutoComplete>
</template>

<style scoped>
.option {
    display: flex;
    align-items: center;
    gap: 8px;
    min-width: 220px;
}
.name {
    flex: 1;
}
:deep(.variable-field) {
    width: 160px;
    min-height: 28px;
    padding: 2px 8px;
}
</style>
