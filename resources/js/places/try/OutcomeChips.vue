<script setup lang="ts">
import { Plus, X } from '@lucide/vue'
import Popover from 'primevue/popover'
import { computed, ref } from 'vue'
import type { WantedOutcome } from '@/api/types'
import VariableField from '@/find/VariableField.vue'
import { keyOf } from '@/stores/ensembles'
import { useLook } from '@/stores/look'
import { useModel } from '@/stores/model'
import { useView } from '@/stores/view'
import ChoiceField from '@/ui/ChoiceField.vue'
import { newId } from '@/ui/ids'
import { KINDS, outcomeWords } from './outcomes'

/** The numbers of a run that are looked at, of which one is chosen. */
const { outcomes } = defineProps<{
    /** As the last answer had them; the usual ones where the study names none. */ outcomes: WantedOutcome[]
}>()
const chosen = defineModel<string>({ required: true })
const model = useModel()
const look = useLook()
const view = useView()

const own = computed(() => Object.values(model.model.outcomes ?? {}).sort((a, b) => (a.place ?? 0) - (b.place ?? 0)))
const chips = computed(() =>
    own.value.length
        ? own.value.map((o) => ({
              id: o.id,
              mine: true,
              ...outcomeWords({ key: keyOf(o), kind: o.kind ?? 'last', time: o.time ?? 0 }, model, look),
          }))
        : outcomes.map((o) => ({ id: o.id, mine: false, ...outcomeWords(o, model, look) })),
)

const popover = ref<InstanceType<typeof Popover>>()
const of = ref('')
const part = ref('')
const kind = ref<WantedOutcome['kind']>('last')
const time = ref('0')
const parts = computed(() => look.extended[of.value]?.along?.parts ?? [])
function open(event: Event) {
    of.value = ''
    part.value = ''
    kind.value = 'last'
    time.value = String(Number(view.playhead.toPrecision(5)))
    popover.value?.show(event)
}
async function add() {
    const id = newId()
    const at = part.value ? part.value.slice(part.value.indexOf('[') + 1, -1).split(',') : []
    if (
        await model.attempt({
            kind: 'put',
            part: 'outcomes',
            id,
            fields: {
                of: of.value,
                kind: kind.value,
                ...(at.length ? { at } : {}),
                ...(kind.value === 'at' ? { time: Number(time.value) } : {}),
                place: Math.max(0, ...own.value.map((o) => o.place ?? 0)) + 1,
            },
        })
    ) {
        popover.value?.hide()
        chosen.value = id
    }
}
</script>

<template>
    <div class="outcomes" role="group" aria-label="Outcomes">
        <span v-for="c in chips" :key="c.id" class="one" :class="{ on: chosen === c.id }"
            ><Button class="pick" :aria-pressed="chosen === c.id" @click="chosen = c.id">{{ c.words }}</Button
            ><Button
                v-if="c.mine"
                class="icon-button"
                :aria-label="`Remove the outcome ${c.words}`"
                title="Remove"
                @click="model.attempt({ kind: 'drop', part: 'outcomes', id: c.id })"
                ><X :size="13" :stroke-width="1.8" /></Button
        ></span>
        <Button class="chip add" @click="open"><Plus :size="14" :stroke-width="1.8" />Outcome</Button>
        <Popover ref="popover" :pt="{ root: { 'aria-label': 'Add an outcome' } }">
            <form class="form" @submit.prevent="add">
                <p v-if="of" class="picked">
                    <b>{{ look.nameOf(of) }}</b><Button class="link" type="button" @click="of = ''">another</Button>
                </p>
                <VariableField v-else label="Variable of the outcome" placeholder="Which variable?" @choose="of = $event" />
                <ChoiceField
                    v-if="parts.length"
                    v-model="part"
                    :choices="parts.map((p) => ({ value: p.key, words: p.name }))"
                    label="Element"
                    placeholder="Which element?"
                />
                <ChoiceField v-model="kind" :choices="KINDS" label="What of it" />
                <label v-if="kind === 'at'" class="soft"
                    >{{ model.model.time.unit }}
                    <InputText v-model="time" class="field" inputmode="decimal" aria-label="Time of the outcome"
                /></label>
                <Button type="submit" class="button strong" :disabled="!of || (parts.length > 0 && !part)">Look at it</Button>
            </form>
        </Popover>
    </div>
</template>

<style scoped>
.outcomes {
    display: flex;
    flex-wrap: wrap;
    align-items: center;
    gap: 5px;
}
.one {
    display: inline-flex;
    align-items: center;
    border: 1px solid var(--hairline);
    border-radius: 8px;
    background: var(--card);
}
.one.on {
    border-color: var(--ink);
}
.pick {
    min-height: 26px;
    padding: 2px 9px;
    font-size: 13.5px;
}
.one.on .pick {
    font-weight: 700;
}
/* Beside the sign that takes it away. */
.pick:not(:last-child) {
    padding-right: 2px;
}
.one .icon-button {
    width: 26px;
    height: 26px;
    color: var(--ink-soft);
}
.add {
    display: inline-flex;
    align-items: center;
    gap: 4px;
    color: var(--ink-soft);
}
.form {
    display: grid;
    gap: 8px;
    width: 250px;
    padding: 4px;
}
.picked {
    display: flex;
    gap: 8px;
    align-items: baseline;
}
.link {
    font-size: 12.5px;
    text-decoration: underline;
    color: var(--ink-soft);
}
label {
    display: flex;
    gap: 8px;
    align-items: center;
}
.field {
    min-height: 28px;
    padding: 2px 7px;
    width: 90px;
}
</style>
