<script setup lang="ts">
import { ArrowLeft, ArrowRight, ArrowUpRight, X } from '@lucide/vue'
import { computed, nextTick, reactive, ref } from 'vue'
import { useModel } from '@/stores/model'
import { useView } from '@/stores/view'
import KindIcon from '@/ui/KindIcon.vue'
import { useAsk, type Side } from './useAsk'

/** What is inside, what is taken as given from outside, what is left out: two arcs that are crossed. */
const ask = useAsk()
const model = useModel()
const view = useView()
const SIDES: { side: Side; words: string; means: string }[] = [
    { side: 'inside', words: 'Inside', means: 'it acts and is acted upon' },
    { side: 'given', words: 'Given from outside', means: 'it acts, nothing here acts on it' },
    { side: 'left', words: 'Left out', means: 'and why' },
]
const drafts = reactive<Record<Side, string>>({ inside: '', given: '', left: '' })
const root = ref<HTMLElement>()
const columns = computed(() => SIDES.map((s) => ({ ...s, lines: ask.lines.filter((l) => l.side === s.side) })))
const names = computed(() => model.all.map((t) => t.name))

async function add(side: Side) {
    const name = (drafts[side] ?? '').trim()
    if (name) {
        drafts[side] = ''
        await ask.add(side, name)
    }
}
const sideOf = (side: Side, by: number) => SIDES[SIDES.findIndex((s) => s.side === side) + by]?.side
/** Who crosses by keyboard goes along. */
async function cross(id: string, side: Side, by: number) {
    const to = sideOf(side, by)
    if (to) {
        await ask.move(id, to)
        await nextTick()
        const line = root.value?.querySelector(`[data-line="${id}"]`)
        line?.querySelector<HTMLElement>(by > 0 ? '.on' : '.back')?.focus()
        if (!line?.contains(document.activeElement)) {
            line?.querySelector<HTMLElement>('button')?.focus()
        }
    }
}
function drop(event: DragEvent, side: Side) {
    const id = event.dataTransfer?.getData('application/x-merry-orbit-boundary')
    const line = ask.lines.find((l) => l.id === id)
    if (line && line.side !== side) {
        void ask.move(line.id, side)
    }
}
function change(id: string, field: 'name' | 'why', was: string, event: Event) {
    const words = (event.target as HTMLInputElement).value.trim()
    if (words !== was && (words || field === 'why')) {
        void ask.put(id, { [field]: words })
    }
}
</script>

<template>
    <section ref="root" class="arcs" aria-label="Boundary">
        <div v-for="(c, i) in columns" :key="c.side" class="column" :class="c.side" @dragover.prevent @drop.prevent="drop($event, c.side)">
            <svg v-if="i" class="arc" viewBox="0 0 24 200" preserveAspectRatio="none" aria-hidden="true">
                <path d="M4 0C22 60 22 140 4 200" vector-effect="non-scaling-stroke" />
            </svg>
            <h2>{{ c.words }}</h2>
            <p class="soft means">{{ c.means }}</p>
            <ul :aria-label="c.words">
                <li
                    v-for="l in c.lines"
                    :key="l.id"
                    :data-line="l.id"
                    draggable="true"
                    @dragstart="$event.dataTransfer?.setData('application/x-merry-orbit-boundary', l.id)"
                >
                    <KindIcon v-if="l.thing" :kind="l.thing.kind" :size="15" class="mark" /><i v-else class="dot" aria-hidden="true" />
                    <span class="words">
                        <InputText
                            class="bare"
                            :class="{ there: l.thing && l.thing.kind !== 'factor' }"
                            :model-value="l.name"
                            :title="l.name"
                            aria-label="Name"
                            maxlength="120"
                            @change="change(l.id, 'name', l.name, $event)"
                        />
                        <InputText
                            v-if="c.side !== 'inside'"
                            class="bare why"
                            :model-value="l.why"
                            :placeholder="c.side === 'left' ? 'why it is left out' : 'from where it is known'"
                            :aria-label="`Why ${l.name} stands there`"
                            maxlength="400"
                            @change="change(l.id, 'why', l.why, $event)"
                        />
                    </span>
                    <span class="acts">
                        <Button
                            v-if="i"
                            class="icon-button back"
                            :aria-label="`${l.name}: to “${columns[i - 1]?.words}”`"
                            :title="`To “${columns[i - 1]?.words}”`"
                            @click="cross(l.id, c.side, -1)"
                            ><ArrowLeft :size="14" :stroke-width="1.7"
                        /></Button>
                        <Button
                            v-if="i < 2"
                            class="icon-button on"
                            :aria-label="`${l.name}: to “${columns[i + 1]?.words}”`"
                            :title="`To “${columns[i + 1]?.words}”`"
                            @click="cross(l.id, c.side, 1)"
                            ><ArrowRight :size="14" :stroke-width="1.7"
                        /></Button>
                        <Button
                            v-if="l.thing"
                            class="icon-button"
                            :aria-label="`Show ${l.name} ${l.thing.kind === 'factor' ? 'on the map' : 'in the model'}`"
                            :title="l.thing.kind === 'factor' ? 'Show it on the map' : 'Show it in the model'"
                            @click="view.goTo(l.thing.id)"
                            ><ArrowUpRight :size="14" :stroke-width="1.7"
                        /></Button>
                        <Button
                            class="icon-button"
                            :aria-label="`Take ${l.name} off the list`"
                            title="Take it off the list"
                            @click="ask.drop(l.id)"
                            ><X :size="14" :stroke-width="1.7"
                        /></Button>
                    </span>
                </li>
                <li class="new">
                    <i class="dot" aria-hidden="true" />
                    <InputText
                        v-model="drafts[c.side]"
                        class="bare"
                        :placeholder="c.lines.length ? 'and …' : c.side === 'left' ? 'what plays no part' : 'what plays a part'"
                        :aria-label="`Add to “${c.words}”`"
                        list="boundary-names"
                        maxlength="120"
                        autocomplete="off"
                        @keydown.enter="add(c.side)"
                        @blur="add(c.side)"
                    />
                </li>
            </ul>
            <p v-if="c.side === 'inside' && ask.unplaced.length" class="soft">
                {{ ask.unplaced.length }} more in the map or model.
                <Button class="link-words" @click="ask.placeAll">Put all of them inside</Button>
            </p>
        </div>
        <datalist id="boundary-names"><option v-for="n in names" :key="n" :value="n" /></datalist>
    </section>
</template>

<style scoped>
.arcs {
    display: grid;
    grid-template-columns: 1.35fr 1.15fr 1fr;
    min-width: 0;
}
.column {
    position: relative;
    min-width: 0;
    padding: 0 14px 8px 34px;
}
.column:first-child {
    padding-left: 0;
}
.arc {
    position: absolute;
    left: 0;
    top: 0;
    width: 24px;
    height: 100%;
    min-height: 150px;
}
.arc path {
    fill: none;
    stroke: var(--ink);
    stroke-width: 2;
}
.left .arc path {
    stroke: var(--line);
    stroke-width: 1.5;
    stroke-dasharray: 2 4;
}
h2 {
    font-size: 15px;
}
.means {
    margin: 0 0 8px;
    font-size: 13px;
}
ul {
    margin: 0;
    padding: 0;
    list-style: none;
}
.inside ul {
    columns: 2;
    column-gap: 16px;
}
li {
    position: relative;
    display: grid;
    grid-template-columns: 20px minmax(0, 1fr);
    align-items: start;
    min-height: 27px;
    break-inside: avoid;
    border-radius: 7px;
    cursor: grab;
}
li.new {
    cursor: default;
}
.mark,
.dot {
    margin-top: 5px;
}
.dot {
    width: 6px;
    height: 6px;
    margin: 10px 0 0 4px;
    border: 1.3px solid var(--line);
    border-radius: 50%;
}
.words {
    display: grid;
}
.bare {
    width: 100%;
    min-width: 0;
    min-height: 26px;
    padding: 2px 4px;
    border: 0;
    border-radius: 6px;
    background: none;
    color: var(--ink);
    text-overflow: ellipsis;
}
.bare.there {
    text-decoration: underline dotted var(--line);
    text-underline-offset: 4px;
}
.bare:hover,
.bare:focus {
    background: var(--card);
}
.bare::placeholder {
    color: var(--ink-soft);
}
.why {
    padding-top: 0;
    font-size: 13px;
    color: var(--ink-soft);
}
.acts {
    position: absolute;
    right: 0;
    top: 0;
    display: flex;
    opacity: 0;
    pointer-events: none;
    border-radius: 7px;
    background: var(--paper);
}
li:hover .acts,
li:focus-within .acts {
    opacity: 1;
    pointer-events: auto;
}
.acts .icon-button {
    width: 25px;
    height: 25px;
}
.link-words {
    text-decoration: underline;
    text-underline-offset: 3px;
    color: var(--ink);
}
</style>
