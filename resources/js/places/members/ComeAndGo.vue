<script setup lang="ts">
import { Plus, X } from '@lucide/vue'
import { computed, ref } from 'vue'
import type { RosterRecord } from '@/api/parts'
import VariableField from '@/find/VariableField.vue'
import { useMembers } from '@/stores/members'
import { useModel } from '@/stores/model'
import { useView } from '@/stores/view'
import { newId } from '@/ui/ids'
import OneOf from '@/ui/OneOf.vue'

/** By what members of a roster come and go: variables of the study that say how many, how likely, or when. */
type Entry = NonNullable<RosterRecord['entries']>[number]
type Exit = NonNullable<RosterRecord['exits']>[number]
const members = useMembers()
const model = useModel()
const view = useView()
const entries = computed<Entry[]>(() => members.roster?.entries ?? [])
const exits = computed<Exit[]>(() => members.roster?.exits ?? [])
const dimension = computed(() => members.roster?.of ?? '')
const over = (id: string) => {
    const thing = model.model.elements[id]
    return thing?.members ? [thing.members] : (thing?.along?.over ?? [])
}
const moving = computed(() => model.known.filter((t) => t.kind === 'auxiliary' || t.kind === 'flow' || t.kind === 'parameter'))
const single = computed(() => moving.value.filter((t) => !over(t.id).includes(dimension.value)))
const each = computed(() => moving.value.filter((t) => over(t.id).length === 1 && over(t.id)[0] === dimension.value))
const nameOf = (id: string) => model.model.elements[id]?.name ?? 'what is not there any more'
/** What is being added, until it is said by what. */
const adding = ref<'' | 'entry' | 'exit'>('')
const kind = ref<Exit['kind']>('when')
const words = ref('')
async function enter(of: string) {
    const entry: Entry = { id: newId(), words: words.value.trim() || 'new', of }
    if (await members.put({ entries: [...entries.value, entry] })) {
        stop()
    }
}
async function leave(of: string) {
    const exit: Exit = { id: newId(), words: words.value.trim() || 'gone', kind: kind.value, of }
    if (await members.put({ exits: [...exits.value, exit] })) {
        stop()
    }
}
function stop() {
    adding.value = ''
    words.value = ''
}
const dropEntry = (id: string) => void members.put({ entries: entries.value.filter((e) => e.id !== id) })
const dropExit = (id: string) => void members.put({ exits: exits.value.filter((e) => e.id !== id) })
function goTo(id: string) {
    view.go({ place: 'model', selection: [id] })
    view.goTo(id)
}
</script>

<template>
    <section class="rules" aria-label="How they come and go">
        <h3>They come</h3>
        <ul>
            <li v-for="e in entries" :key="e.id">
                <span>
                    <b>{{ e.words }}</b>, as many as
                    <Button class="link" @click="goTo(e.of)">{{ nameOf(e.of) }}</Button>
                </span>
                <Button
                    v-if="model.mayEdit"
                    class="icon-button"
                    :aria-label="`Take away that they come as “${e.words}”`"
                    title="Take away"
                    @click="dropEntry(e.id)"
                    ><X :size="14" :stroke-width="1.7"
                /></Button>
            </li>
            <li v-if="!entries.length && adding !== 'entry'" class="soft">Nobody comes while a run goes on.</li>
        </ul>
        <form v-if="adding === 'entry'" @submit.prevent>
            <InputText v-model="words" class="field" aria-label="How they come, in a word" placeholder="how: bought" maxlength="60" />
            <VariableField :only="single" label="How many come per time" placeholder="how many: a variable" @choose="enter" />
            <Button class="button" @click="stop">Cancel</Button>
        </form>
        <Button v-else-if="model.mayEdit" class="add" @click="((adding = 'entry'), (words = ''))"><Plus :size="14" /> A way to come</Button>
        <h3>They go</h3>
        <ul>
            <li v-for="e in exits" :key="e.id">
                <span>
                    <b>{{ e.words }}</b>, {{ e.kind === 'chance' ? 'by chance, as likely as' : 'when it holds:' }}
                    <Button class="link" @click="goTo(e.of)">{{ nameOf(e.of) }}</Button>
                </span>
                <Button
                    v-if="model.mayEdit"
                    class="icon-button"
                    :aria-label="`Take away that they go as “${e.words}”`"
                    title="Take away"
                    @click="dropExit(e.id)"
                    ><X :size="14" :stroke-width="1.7"
                /></Button>
            </li>
            <li v-if="!exits.length && adding !== 'exit'" class="soft">Nobody goes while a run goes on.</li>
        </ul>
        <form v-if="adding === 'exit'" @submit.prevent>
            <InputText v-model="words" class="field" aria-label="How they go, in a word" placeholder="how: sunk" maxlength="60" />
            <OneOf
                v-model="kind"
                label="By what they go"
                :choices="[
                    { value: 'when', words: 'when it holds' },
                    { value: 'chance', words: 'by chance' },
                ]"
            />
            <VariableField
                :only="each"
                :label="kind === 'chance' ? 'How likely in a time unit' : 'The condition'"
                placeholder="a variable of each of them"
                @choose="leave"
            />
            <p v-if="!each.length" class="soft">
                Nothing is different for each of them yet. Let a formula extend over {{ members.roster?.name }} first.
            </p>
            <Button class="button" @click="stop">Cancel</Button>
        </form>
        <Button v-else-if="model.mayEdit" class="add" @click="((adding = 'exit'), (words = ''))"><Plus :size="14" /> A way to go</Button>
    </section>
</template>

<style scoped src="./rules.css"></style>
