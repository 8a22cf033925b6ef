<script setup lang="ts">
import { ArrowDown, ArrowUp, Download, Hand } from '@lucide/vue'
import { computed, nextTick, ref } from 'vue'
import { useMembers } from '@/stores/members'
import { useModel } from '@/stores/model'
import { useRuns } from '@/stores/runs'
import { useView } from '@/stores/view'
import ChoiceField from '@/ui/ChoiceField.vue'
import { asCsv, download } from '@/ui/download'
import { literal, plainly, short, shownUnit } from '@/ui/numbers'
import { sorted } from './lives'

/** Who is there at the playhead: sorted by a column, of one place or of all; and what the one that is looked at has. */
const members = useMembers()
const model = useModel()
const runs = useRuns()
const view = useView()
const by = ref('')
const down = ref(false)
const place = ref('')
const body = ref<HTMLElement>()
const mapping = computed(() => members.muster?.belongs[0])
const places = computed(() => [...new Set(members.rows.map((r) => r.belongs[mapping.value?.id ?? ''] ?? ''))].filter(Boolean).sort())
const key = computed(() => members.column?.key ?? '')
const order = computed(() => by.value || key.value)
const shown = computed(() =>
    sorted(
        members.rows.filter((r) => !place.value || r.belongs[mapping.value?.id ?? ''] === place.value),
        order.value,
        down.value,
    ),
)
const heads = computed(() => [
    { key: 'name', words: 'name', number: false },
    ...(members.column ? [{ key: key.value, words: members.column.name, number: true }] : []),
    ...(mapping.value ? [{ key: mapping.value.id, words: mapping.value.name, number: false }] : []),
])
function sort(head: string) {
    down.value = order.value === head ? !down.value : false
    by.value = head
}
const sign = (head: string) => (order.value !== head ? 'none' : down.value ? 'descending' : 'ascending')
const row = computed(() => members.rows.find((r) => r.number === members.chosen))
const moment = computed(() => (Number.isFinite(members.time) ? model.moment(members.time) : ''))
const states = computed(() => {
    const m = members.member
    if (!m) {
        return ''
    }
    const came = m.from === null ? 'there from the beginning' : `${m.how || 'came'} ${model.moment(m.from)}`
    return m.to === null ? came : `${came}, ${m.why} ${model.moment(m.to)}`
})
async function step(by_: number) {
    const at = shown.value.findIndex((r) => r.number === members.chosen)
    const next = shown.value[Math.min(shown.value.length - 1, Math.max(0, at + by_))]
    if (next) {
        members.chosen = next.number
        await nextTick()
        body.value?.querySelector<HTMLElement>('[aria-selected="true"] button')?.focus()
    }
}
function save() {
    const columns = members.muster?.columns ?? []
    const belongs = members.muster?.belongs ?? []
    download(
        `${model.model.name}, ${members.muster?.name ?? 'members'} at ${moment.value}.csv`,
        asCsv([
            ['member', ...belongs.map((b) => b.name), ...columns.map((c) => (c.unit ? `${c.name} [${c.unit}]` : c.name))],
            ...shown.value.map((r) => [r.name, ...belongs.map((b) => r.belongs[b.id] ?? ''), ...columns.map((c) => r.values[c.key] ?? '')]),
        ]),
        'text/csv',
    )
}
/** A moment is told as moments are: 2007.13, not 2,007. */
const told = (value: number | null | undefined, unit: string) =>
    typeof value === 'number' && unit === model.model.time.unit && Math.abs(value) >= 1000
        ? literal(Number(value.toPrecision(6)))
        : plainly(value, unit)
/** What one member has is held where it stands, and let go again. */
const held = (of: string) => `${of}[${members.member?.id ?? ''}]`
const isHeld = (of: string) => runs.present.grips[held(of)] !== undefined
function hold(of: string, value: number) {
    const now = Number(value.toPrecision(4))
    runs.grip(held(of), isHeld(of) ? undefined : { signal: 'constant', values: { value: now } })
}
/** Where it is defined. */
function goTo(id: string) {
    view.go({ place: 'model', selection: [id] })
    view.goTo(id)
}
</script>

<template>
    <aside class="column" aria-label="Members at the playhead">
        <header v-if="members.muster">
            <h2>
                {{ shown.length }} {{ members.muster.name }}{{ shown.length === 1 ? '' : 's' }} <em>at {{ moment }}</em>
            </h2>
            <ChoiceField
                v-if="places.length"
                v-model="place"
                label="Which of them"
                :choices="[{ value: '', words: 'all' }, ...places.map((p) => ({ value: p, words: p }))]"
            />
            <Button class="icon-button" aria-label="Save this table as CSV" title="Save this table as CSV" @click="save"
                ><Download :size="15" :stroke-width="1.6"
            /></Button>
        </header>
        <div v-if="members.muster" class="scroll" tabindex="0" aria-label="Who is there">
            <table>
                <thead>
                    <tr>
                        <th v-for="h in heads" :key="h.key" :class="{ number: h.number }" :aria-sort="sign(h.key)" scope="col">
                            <Button class="head" @click="sort(h.key)"
                                >{{ h.words
                                }}<component
                                    :is="down ? ArrowDown : ArrowUp"
                                    v-if="order === h.key"
                                    :size="12"
                                    :stroke-width="1.8"
                                    aria-hidden="true"
                            /></Button>
                        </th>
                    </tr>
                </thead>
                <tbody ref="body" @keydown.down.prevent="step(1)" @keydown.up.prevent="step(-1)">
                    <tr
                        v-for="r in shown"
                        :key="r.number"
                        :class="{ chosen: r.number === members.chosen }"
                        :aria-selected="r.number === members.chosen"
                        @click="members.chosen = r.number"
                    >
                        <td>
                            <Button class="name" @click.stop="members.chosen = r.number">{{ r.name }}</Button>
                        </td>
                        <td v-if="members.column" class="number">{{ short(r.values[key], { unit: members.column.unit }) }}</td>
                        <td v-if="mapping" class="soft">{{ r.belongs[mapping.id] }}</td>
                    </tr>
                </tbody>
            </table>
            <p v-if="!shown.length" class="soft none">Nobody is there{{ place ? ` in ${place}` : '' }} at this moment.</p>
        </div>
        <section v-if="members.member" class="one" :aria-label="members.member.name">
            <h3>{{ members.member.name }}</h3>
            <p class="soft">{{ states }}</p>
            <dl v-if="row">
                <template v-for="b in members.muster?.belongs" :key="b.id">
                    <dt>{{ b.name }}</dt>
                    <dd>{{ row.belongs[b.id] }}</dd>
                </template>
                <template v-for="c in members.muster?.columns" :key="c.key">
                    <dt>
                        <Button class="link" :title="`Where ${c.name} is defined`" @click="goTo(c.key)">{{ c.name }}</Button>
                    </dt>
                    <dd :class="{ held: isHeld(c.key) }">
                        {{ told(row.values[c.key], c.unit) }} <small class="soft">{{ shownUnit(c.unit) }}</small>
                        <Button
                            v-if="typeof row.values[c.key] === 'number'"
                            class="icon-button hand"
                            :aria-pressed="isHeld(c.key)"
                            :aria-label="`Hold ${c.name} of ${members.member.name} by hand`"
                            :title="isHeld(c.key) ? 'Let it go' : `Hold it at this value, of ${members.member.name} alone`"
                            @click="hold(c.key, row.values[c.key] as number)"
                            ><Hand :size="13" :stroke-width="1.6"
                        /></Button>
                    </dd>
                </template>
            </dl>
            <p v-else class="soft">It is not there at this moment.</p>
        </section>
        <p v-else-if="members.muster" class="soft none">Press a line or a name to look at one {{ members.muster.name }}.</p>
    </aside>
</template>

<style scoped>
.column {
    display: flex;
    height: 100%;
    flex-direction: column;
    min-height: 0;
    overflow: hidden;
    border-left: 1px solid var(--hairline);
    background: var(--card);
}
header {
    display: flex;
    align-items: center;
    gap: 6px;
    padding: 8px 8px 6px 14px;
}
h2 {
    flex: 1;
    font-size: 15px;
}
h2 em {
    font-style: normal;
    color: var(--ember);
}
.scroll {
    flex: 1 1 0;
    min-height: 120px;
    overflow: auto;
}
table {
    width: 100%;
    border-collapse: collapse;
    font-size: 13px;
}
th {
    position: sticky;
    top: 0;
    z-index: 1;
    padding: 0 6px;
    text-align: left;
    background: var(--card);
    border-bottom: 1px solid var(--line);
}
th:first-child,
td:first-child {
    padding-left: 11px;
}
.head {
    display: inline-flex;
    align-items: center;
    gap: 3px;
    min-height: 26px;
    padding: 0 3px;
    color: var(--ink-soft);
    white-space: nowrap;
}
th[aria-sort='ascending'] .head,
th[aria-sort='descending'] .head {
    font-weight: 700;
    color: var(--ink);
}
td {
    padding: 0 9px;
    height: 26px;
}
td:first-child {
    padding-left: 11px;
}
.number {
    text-align: right;
}
tr {
    cursor: pointer;
}
tbody tr:hover {
    background: var(--hover);
}
.chosen {
    background: var(--hover);
    box-shadow: inset 3px 0 0 var(--ember);
    font-weight: 700;
}
.name {
    min-height: 24px;
    padding: 1px 3px;
    text-align: left;
    font-weight: inherit;
}
.one {
    flex: 0 0 auto;
    max-height: 52%;
    overflow: auto;
    padding: 10px 14px 14px;
    border-top: 1px solid var(--hairline);
}
h3 {
    font-size: 15px;
}
dl {
    display: grid;
    grid-template-columns: 1fr auto;
    align-items: center;
    gap: 0 12px;
    margin: 8px 0 0;
    font-size: 13px;
}
dd {
    display: flex;
    align-items: center;
    justify-content: flex-end;
    gap: 4px;
    margin: 0;
}
.link {
    min-height: 24px;
    padding: 0;
    text-align: left;
    text-decoration: underline dotted var(--line);
    text-underline-offset: 3px;
}
.soft {
    color: var(--ink-soft);
}
.none {
    padding: 10px 14px;
}
.hand {
    align-self: center;
    width: 24px;
    height: 24px;
    color: var(--ink-soft);
}
.held,
.held .hand {
    color: var(--plum);
}
.held {
    font-weight: 700;
}
</style>
