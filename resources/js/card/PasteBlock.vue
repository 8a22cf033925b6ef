<script setup lang="ts">
import Dialog from 'primevue/dialog'
import { computed, ref, watch } from 'vue'
import type { DimensionView, Edit, Thing } from '@/api/types'
import { readableId, recordOf, useDimensions } from '@/stores/dimensions'
import { useLook } from '@/stores/look'
import { useModel } from '@/stores/model'
import { useTables } from '@/stores/tables'
import ChoiceField from '@/ui/ChoiceField.vue'
import { fieldText } from '@/ui/numbers'
import { cellsOf, readBlock, type Side } from './block'

/** A table out of a spreadsheet becomes values by element: a preview tells what goes where before anything is kept. */
const { thing, text } = defineProps<{ thing: Thing; text: string }>()
const emit = defineEmits<{ done: [] }>()
const model = useModel()
const look = useLook()
const tables = useTables()
const dimensions = useDimensions()

const typed = ref('')
watch(
    () => text,
    () => {
        typed.value = text
    },
    { immediate: true },
)
const over = computed(() =>
    (thing.along?.over ?? thing.says ?? []).map((id) => look.byId.get(id)).filter((d): d is DimensionView => d !== undefined),
)
const block = computed(() => (typed.value.trim() ? readBlock(cellsOf(typed.value), over.value) : undefined))
/** Heads that are no elements: left out, or made elements. */
const making = ref(true)
const canMake = (side: Side) =>
    side.unknown.length > 0 && side.dimension !== undefined && !side.dimension.counted && side.dimension.root === side.dimension.id
const makes = (side: Side) => making.value && canMake(side)

/** New elements by what was written, with the ids they will have. */
function newOnes(side: Side): Map<string, string> {
    const taken = new Set(side.dimension?.elements.map((e) => e.id))
    return new Map(
        (makes(side) ? side.unknown : []).map((name) => {
            const id = readableId(name, taken)
            taken.add(id)
            return [name, id]
        }),
    )
}
const made = computed(() => ({
    rows: block.value ? newOnes(block.value.rows) : new Map<string, string>(),
    columns: block.value ? newOnes(block.value.columns) : new Map<string, string>(),
}))
/** Dimensions that the block says nothing about: one element of each is chosen, or all. */
const rest = computed(() => over.value.filter((d) => d !== block.value?.rows.dimension && d !== block.value?.columns.dimension))
const chosen = ref<Record<string, string>>({})

const headOf = (side: Side, index: number, fresh: Map<string, string>) => {
    const head = side.heads[index]
    return head?.element ?? fresh.get(head?.written ?? '')
}
/** Values by place; what has no element is left out. */
const goes = computed(() => {
    const changes = new Map<string, number>()
    const now = block.value
    if (!now) {
        return changes
    }
    const [byRow, byColumn] = [now.rows.dimension, now.columns.dimension]
    let k = 0
    for (const [i] of now.rows.heads.entries()) {
        for (const [j] of now.columns.heads.entries()) {
            const value = grid.value[i]?.[j]
            if (value === undefined) {
                continue
            }
            const [row, column] = [headOf(now.rows, i, made.value.rows), headOf(now.columns, j, made.value.columns)]
            if ((byRow && row === undefined) || (byColumn && column === undefined)) {
                continue
            }
            let places: string[][] = [[]]
            for (const d of over.value) {
                const here =
                    d === byRow
                        ? [row ?? '']
                        : d === byColumn
                          ? [column ?? '']
                          : chosen.value[d.id]
                            ? [chosen.value[d.id] ?? '']
                            : d.elements.map((e) => e.id)
                places = places.flatMap((p) => here.map((e) => [...p, e]))
            }
            for (const place of places) {
                changes.set(place.join(','), value)
            }
            k++
        }
    }
    return k ? changes : new Map<string, number>()
})
/** The numbers as they stand in the block, undefined where there is none. */
const grid = computed<(number | undefined)[][]>(() => block.value?.grid ?? [])

async function keep() {
    const now = block.value
    if (!now) {
        return
    }
    const edits: Edit[] = []
    const wider = [
        [now.rows, made.value.rows],
        [now.columns, made.value.columns],
    ] as const
    if (wider.some(([, fresh]) => fresh.size)) {
        const all = dimensions.own().map((d) => {
            const more = wider.flatMap(([side, fresh]) =>
                side.dimension?.id === d.id ? [...fresh].map(([name, id]) => ({ id, name })) : [],
            )
            return more.length ? { ...recordOf(d), elements: [...d.elements, ...more] } : recordOf(d)
        })
        edits.push({ kind: 'dimensions', dimensions: all })
    }
    const edit = tables.editFor(thing, goes.value)
    if (edit) {
        edits.push(edit)
    }
    if (await model.together(edits, `Values of \`${thing.name}\` from a table`)) {
        emit('done')
    }
}
const sideWords = (side: Side) => (side.dimension ? side.dimension.name : 'no names')
</script>

<template>
    <Dialog
        :visible="true"
        modal
        :header="`Values of ${thing.name} from a table`"
        :style="{ width: '760px', maxWidth: '94vw' }"
        @update:visible="$event || emit('done')"
    >
        <Textarea
            v-model="typed"
            class="field text"
            rows="5"
            aria-label="The table, as it is copied out of a spreadsheet"
            placeholder="Paste cells with the names of rows and columns, as they are copied out of a spreadsheet"
            spellcheck="false"
        />
        <template v-if="block">
            <p class="soft">
                Rows are <b>{{ sideWords(block.rows) }}</b>, columns are <b>{{ sideWords(block.columns) }}</b>.
                {{ goes.size === 1 ? 'One value goes' : `${goes.size} values go` }} into <b>{{ thing.name }}</b>{{
                    block.unread.length
                        ? `; no number in ${block.unread.slice(0, 4).join(', ')}${block.unread.length > 4 ? ' …' : ''}`
                        : ''
                }}.
            </p>
            <div v-for="d in rest" :key="d.id" class="rest">
                <span class="soft">The table says nothing of {{ d.name }}: for</span>
                <ChoiceField
                    :label="`For which ${d.name}`"
                    :model-value="chosen[d.id] ?? ''"
                    :choices="[{ value: '', words: `each ${d.name}` }, ...d.elements.map((e) => ({ value: e.id, words: e.name }))]"
                    @update:model-value="chosen = { ...chosen, [d.id]: $event as string }"
                />
            </div>
            <div class="preview">
                <table aria-label="What goes where">
                    <thead>
                        <tr>
                            <th></th>
                            <th
                                v-for="(h, j) in block.columns.heads"
                                :key="j"
                                scope="col"
                                :class="{ unknown: h.written && !h.element, fresh: made.columns.has(h.written) }"
                            >
                                {{ h.written }}
                            </th>
                        </tr>
                    </thead>
                    <tbody>
                        <tr v-for="(h, i) in block.rows.heads.slice(0, 60)" :key="i">
                            <th scope="row" :class="{ unknown: h.written && !h.element, fresh: made.rows.has(h.written) }">
                                {{ h.written }}
                            </th>
                            <td v-for="(_, j) in block.columns.heads" :key="j" :class="{ none: grid[i]?.[j] === undefined }">
                                {{ grid[i]?.[j] === undefined ? '' : fieldText(grid[i]![j]!, thing.unit) }}
                            </td>
                        </tr>
                    </tbody>
                </table>
            </div>
            <template v-for="side in [block.rows, block.columns]" :key="sideWords(side)">
                <p v-if="side.unknown.length" class="unknowns">
                    <b
                        >{{ side.unknown.slice(0, 6).join(', ')
                        }}{{ side.unknown.length > 6 ? ` and ${side.unknown.length - 6} more` : '' }}</b
                    >
                    {{ side.unknown.length === 1 ? 'is no element' : 'are no elements' }} of {{ side.dimension?.name }}
                    <template v-if="!canMake(side)">and will be left out.</template>
                </p>
            </template>
            <label v-if="canMake(block.rows) || canMake(block.columns)" class="tick"
                ><Checkbox v-model="making" binary />Add them as new elements; else they are left out</label
            >
        </template>
        <footer>
            <Button class="button" @click="emit('done')">Leave it</Button>
            <Button class="button primary" :disabled="!goes.size" @click="keep">Keep {{ goes.size || '' }} values</Button>
        </footer>
    </Dialog>
</template>

<style scoped>
.text {
    width: 100%;
    font-family: var(--mono);
    font-size: 13px;
}
.preview {
    overflow: auto;
    max-height: 260px;
    margin: 8px 0;
    border: 1px solid var(--hairline);
    border-radius: 8px;
}
table {
    border-collapse: collapse;
    font-size: 13px;
}
th,
td {
    padding: 3px 10px;
    border-bottom: 1px solid var(--hairline);
    white-space: nowrap;
}
th {
    font-weight: 400;
    text-align: left;
    background: var(--paper);
}
td {
    text-align: right;
    font: 13px var(--mono);
}
.unknown {
    color: var(--brick);
    text-decoration: line-through;
}
.unknown.fresh {
    color: var(--ink);
    text-decoration: none;
    font-weight: 700;
    background: var(--basin-tint);
}
.none {
    background: var(--hover);
}
.rest,
.tick {
    display: flex;
    align-items: center;
    gap: 8px;
    margin: 6px 0;
}
.unknowns {
    margin-top: 4px;
}
footer {
    display: flex;
    justify-content: end;
    gap: 8px;
    margin-top: 12px;
}
</style>
