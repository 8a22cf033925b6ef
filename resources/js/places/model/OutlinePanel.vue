<script setup lang="ts">
import { PanelLeftClose, Plus, Search } from '@lucide/vue'
import { useVirtualizer } from '@tanstack/vue-virtual'
import Menu from 'primevue/menu'
import { computed, nextTick, ref, watch } from 'vue'
import type { DimensionView, Kind, Thing } from '@/api/types'
import { useDimensions } from '@/stores/dimensions'
import { elementsOf, useLook } from '@/stores/look'
import { useModel } from '@/stores/model'
import { useRuns } from '@/stores/runs'
import { useView } from '@/stores/view'
import BeadString from '@/ui/BeadString.vue'
import KindIcon from '@/ui/KindIcon.vue'
import { KINDS } from '@/ui/kinds'
import { short } from '@/ui/numbers'
import OneOf from '@/ui/OneOf.vue'

const model = useModel()
const runs = useRuns()
const view = useView()
const look = useLook()
const own = useDimensions()
const wanted = ref('')
const adder = ref<InstanceType<typeof Menu>>()

const GROUPS: [Kind, string][] = [
    ['stock', 'Stocks'],
    ['flow', 'Flows'],
    ['auxiliary', 'Auxiliaries'],
    ['parameter', 'Parameters'],
    ['curve', 'Curves'],
    ['series', 'Series'],
]
const LEDGERS = [
    ['claims', 'Claims of the ledgers'],
    ['transactions', 'Rows of the ledgers'],
    ['parties', 'Net worths'],
] as const
const kinds = KINDS.map((kind) => ({
    label: `New ${kind}`,
    kind,
    command: () => {
        view.wanted = kind
    },
}))
const additions = computed(() => [
    ...kinds,
    {
        label: 'New dimension',
        kind: 'dimension' as const,
        command: () => {
            void own.add().then((id) => {
                if (id) {
                    pickDimension(id)
                }
            })
        },
    },
])
const by = ref<'kind' | 'sheet'>('kind')
const found = computed(() => {
    const text = wanted.value.trim().toLowerCase()
    return text ? model.known.filter((t) => t.name.toLowerCase().includes(text)) : model.known
})
const drawn = computed(() => found.value.filter((t) => !t.made))
const groups = computed(() =>
    [
        ...(by.value === 'kind'
            ? GROUPS.map(([kind, title]) => ({ key: kind as string, title, things: drawn.value.filter((t) => t.kind === kind) }))
            : model.model.sheets.map((s) => ({
                  key: s.id,
                  title: s.name,
                  things: drawn.value.filter((t) => model.sheetOf(t.id) === s.id),
              }))),
        ...LEDGERS.map(([part, title]) => ({ key: part, title, things: found.value.filter((t) => t.made?.part === part) })),
    ].filter((g) => g.things.length),
)
type Row = { key: string; title: string; count: number } | { key: string; thing: Thing } | { key: string; dimension: DimensionView }
const dimensions = computed(() => {
    const text = wanted.value.trim().toLowerCase()
    return model.model.dimensions.filter((d) => !d.shared && d.name.toLowerCase().includes(text))
})
const rows = computed<Row[]>(() => [
    ...(dimensions.value.length ? [{ key: 'head:dimensions', title: 'Dimensions', count: dimensions.value.length }] : []),
    ...dimensions.value.map((dimension) => ({ key: `dimension:${dimension.id}`, dimension })),
    ...groups.value.flatMap(({ key, title, things }) => [
        { key: `head:${key}`, title, count: things.length },
        ...things.map((thing) => ({ key: thing.id, thing })),
    ]),
])
const place = computed(() => new Map(rows.value.map((row, i) => [row.key, i])))

/** Only rows in sight and some around them are there: a long list would slow every edit down. */
const lists = ref<HTMLElement>()
const AROUND = 60
const [ROW, HEAD] = [27, 32]
const list = useVirtualizer(
    computed(() => ({
        count: rows.value.length,
        getScrollElement: () => lists.value ?? null,
        estimateSize: (i: number) => ('title' in (rows.value[i] ?? {}) ? HEAD : ROW),
        getItemKey: (i: number) => rows.value[i]?.key ?? i,
        overscan: AROUND,
    })),
)
const problem = (thing: Thing) => model.problemOf.get(thing.id)
const selected = computed(() => new Set(view.selectedThings))

/** Whoever jumps to a thing finds it here too. */
watch(
    () => view.selected,
    async (id) => {
        const index = place.value.get(id ?? '')
        await nextTick()
        if (index !== undefined) {
            list.value.scrollToIndex(index, { align: 'auto' })
        }
    },
    { immediate: true },
)

/** The keyboard goes to the next thing above or below, past heads. */
async function travel(from: Thing, by: 1 | -1) {
    let next = (place.value.get(from.id) ?? 0) + by
    let row = rows.value[next]
    while (row && !('thing' in row)) {
        next += by
        row = rows.value[next]
    }
    if (row) {
        list.value.scrollToIndex(next, { align: 'auto' })
        await nextTick()
        lists.value?.querySelector<HTMLElement>(`[data-thing="${row.thing.id}"]`)?.focus()
    }
}

const shown = computed(() =>
    list.value.getVirtualItems().flatMap(({ index, start }) => {
        const row = rows.value[index]
        return row ? [{ row, index, start }] : []
    }),
)
const valueOf = (t: Thing) =>
    t.along && look.keyOf(t.id) === undefined
        ? t.along.dimensions.join(' × ')
        : runs.known(t.id)
          ? short(runs.onSheet(t.id), { unit: t.unit, size: runs.size(t.id) })
          : ''
/** What a dimension is in a word: how many elements, or whose. */
function relation(dimension: DimensionView): string {
    const other = model.model.dimensions.find((d) => d.id === (dimension.partOf ?? dimension.sameAs))?.name
    const count = elementsOf(dimension).length
    return other ? `${count} of ${other}` : dimension.limitedTo ? `${count} of ${dimension.elements.length}` : String(count)
}
function pickDimension(id: string) {
    view.select()
    view.dimension = id
    view.card = true
}
const drag = (event: DragEvent, thing: Thing) => {
    event.dataTransfer?.setData('application/x-merry-orbit-thing', thing.id)
}

/** Beside what is shown with its kind, all that the sheet offers by keyboard. */
function pick(thing: Thing, event: MouseEvent) {
    if (event.shiftKey || event.ctrlKey || event.metaKey) {
        view.selection = view.selection.includes(thing.id) ? view.selection.filter((s) => s !== thing.id) : [...view.selection, thing.id]
    } else if (thing.made) {
        view.select(thing.id)
        view.card = true
    } else {
        view.goTo(thing.id)
    }
}

function key(event: KeyboardEvent, thing: Thing) {
    if (thing.made && event.key !== 'ArrowDown' && event.key !== 'ArrowUp') {
        return
    } else if (event.key === 'Delete' || event.key === 'Backspace') {
        view.select()
        void model.remove([thing.id])
    } else if (event.key === 'F2') {
        view.goTo(thing.id)
        view.naming = thing.id
    } else if (event.key === 'Enter' && selected.value.has(thing.id)) {
        view.goTo(thing.id)
        view.saying = thing.id
    } else if (event.key === 'ArrowDown' || event.key === 'ArrowUp') {
        void travel(thing, event.key === 'ArrowDown' ? 1 : -1)
    } else {
        return
    }
    event.preventDefault()
}
</script>

<template>
    <aside class="outline" aria-label="Outline">
        <header>
            <h2>Outline</h2>
            <Button class="icon-button add" aria-label="Add a thing" title="Add a thing" aria-haspopup="menu" @click="adder?.toggle($event)"
                ><Plus :size="17" :stroke-width="1.5"
            /></Button>
            <Menu ref="adder" :model="additions" popup>
                <template #item="{ item, props: p }"
                    ><a v-bind="p.action" class="kind"
                        ><BeadString v-if="item.kind === 'dimension'" :size="3" /><KindIcon v-else :kind="item.kind" />{{ item.label }}</a
                    ></template
                >
            </Menu>
            <Button class="icon-button" aria-label="Hide the outline" title="Hide the outline" @click="view.outline = false"
                ><PanelLeftClose :size="17" :stroke-width="1.5"
            /></Button>
        </header>
        <OneOf
            v-if="model.model.sheets.length > 1"
            v-model="by"
            class="by"
            look=""
            label="How the outline is ordered"
            :choices="[
                { value: 'kind', words: 'By kind' },
                { value: 'sheet', words: 'By sheet' },
            ]"
        />
        <label class="find"
            ><Search :size="15" :stroke-width="1.6" /><InputText
                v-model="wanted"
                placeholder="Filter by name"
                aria-label="Filter by name"
                @keydown.escape="wanted = ''"
        /></label>
        <div ref="lists" class="lists">
            <div v-if="rows.length" class="rows" role="list" :style="{ height: `${list.getTotalSize()}px` }">
                <div
                    v-for="{ row, index, start } in shown"
                    :key="row.key"
                    class="row"
                    role="listitem"
                    :aria-setsize="rows.length"
                    :aria-posinset="index + 1"
                    :style="{ transform: `translateY(${start}px)` }"
                >
                    <h3 v-if="'title' in row">
                        <span>{{ row.title }}</span><span>{{ row.count }}</span>
                    </h3>
                    <Button
                        v-else-if="'dimension' in row"
                        class="thing"
                        :class="{ selected: view.dimension === row.dimension.id }"
                        :aria-pressed="view.dimension === row.dimension.id"
                        @click="pickDimension(row.dimension.id)"
                    >
                        <BeadString :size="elementsOf(row.dimension).length" />
                        <span class="name" :title="row.dimension.name">{{ row.dimension.name }}</span>
                        <span class="value">{{ relation(row.dimension) }}</span>
                    </Button>
                    <Button
                        v-else
                        class="thing"
                        draggable="true"
                        :data-thing="row.thing.id"
                        :class="{ selected: selected.has(row.thing.id) }"
                        :aria-pressed="selected.has(row.thing.id)"
                        @dragstart="drag($event, row.thing)"
                        @click="pick(row.thing, $event)"
                        @keydown="key($event, row.thing)"
                    >
                        <KindIcon :kind="row.thing.kind" />
                        <span class="name" :title="row.thing.name">{{ row.thing.name }}</span>
                        <i v-if="runs.handsOn(row.thing.id).length" class="hand" title="Taken by hand" />
                        <i
                            v-if="problem(row.thing)"
                            class="mark"
                            :class="problem(row.thing)?.severity"
                            :title="problem(row.thing)?.sentence"
                        />
                        <span
                            v-else
                            class="value"
                            :class="{ wide: row.thing.along }"
                            :title="row.thing.along ? valueOf(row.thing) : undefined"
                            >{{ valueOf(row.thing) }}</span
                        >
                    </Button>
                </div>
            </div>
            <p v-if="!groups.length" class="soft none">
                {{ wanted ? `Nothing is called “${wanted}”.` : 'All that is in the model will be listed here.' }}
            </p>
        </div>
    </aside>
</template>

<style scoped>
.outline {
    display: flex;
    flex-direction: column;
    min-height: 0;
    contain: strict;
    border-right: 1px solid var(--hairline);
    background: var(--card);
}
header {
    display: flex;
    align-items: center;
    gap: 2px;
    padding: 8px 8px 4px 16px;
}
header h2 {
    flex: 1;
}
.kind {
    display: flex;
    align-items: center;
    gap: 10px;
    padding: 7px 12px;
}
h2 {
    font-size: 14px;
}
.find {
    display: flex;
    align-items: center;
    gap: 8px;
    margin: 0 12px 6px;
    padding: 0 9px;
    height: 30px;
    border: 1px solid var(--line);
    border-radius: 9px;
    color: var(--ink-soft);
    background: var(--paper);
}
.find:focus-within {
    outline: 2px solid var(--ember);
    outline-offset: 2px;
}
.find input {
    flex: 1;
    min-width: 0;
    border: 0;
    background: none;
    outline: none;
    color: var(--ink);
}
.by {
    margin: 0 12px 8px;
}
.by :deep(button) {
    flex: 1;
    padding: 3px 0;
    border-radius: 12px;
    font-size: 13px;
}
.by :deep(button[aria-pressed='true']) {
    background: var(--ink);
    color: var(--paper);
    font-weight: 700;
}
.rows {
    position: relative;
}
.row {
    position: absolute;
    inset: 0 0 auto;
}
.lists {
    flex: 1;
    overflow-y: auto;
    padding-bottom: 12px;
}
h3 {
    display: flex;
    justify-content: space-between;
    height: 32px;
    padding: 9px 16px 3px;
    font-size: 13px;
    color: var(--ink-soft);
}
.thing {
    position: relative;
    display: flex;
    align-items: center;
    gap: 9px;
    width: 100%;
    height: 27px;
    padding: 0 16px;
    text-align: left;
}
.thing:focus-visible {
    outline-offset: -2px;
}
.thing:hover {
    background: var(--hover);
}
.thing.selected {
    background: var(--hover);
    box-shadow: inset 3px 0 var(--ember);
}
.thing svg {
    flex: none;
}
.name {
    flex: 1;
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
}
.value {
    flex: none;
    width: 62px;
    contain: strict;
    height: 19px;
    text-align: right;
    color: var(--ink-soft);
    font-size: 13px;
}
.value.wide {
    width: auto;
    max-width: 96px;
    contain: none;
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
}
.mark {
    flex: none;
    width: 10px;
    height: 10px;
    border-radius: 50%;
    background: var(--brick);
}
.mark.remark {
    border-radius: 0;
    background: var(--ochre);
    clip-path: polygon(50% 0, 100% 100%, 0 100%);
}
.none {
    padding: 12px 16px;
}
.hand {
    flex: none;
    width: 12px;
    height: 3px;
    border-radius: 2px;
    background: var(--plum);
}
</style>
