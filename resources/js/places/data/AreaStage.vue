<script setup lang="ts">
import Menu from 'primevue/menu'
import { computed, ref } from 'vue'
import { useModel } from '@/stores/model'
import { useNotices } from '@/stores/notices'
import { useView } from '@/stores/view'
import ChoiceField from '@/ui/ChoiceField.vue'
import { asPng, download } from '@/ui/download'
import { counted, short, shownUnit } from '@/ui/numbers'
import AreaCoursePlot from './AreaCoursePlot.vue'
import AreaPicture from './AreaPicture.vue'
import { asGeoJson, valueAt } from './areas'
import { MEASURED, useAreas } from './useAreas'
import { useTableDrop } from './useTableDrop'

/** The island: areas coloured by a variable at the moment of the playhead, of one run or of two beside each other. */
const areas = useAreas()
const model = useModel()
const view = useView()
const notices = useNotices()
const { over, onto, choose } = useTableDrop()
const picture = ref<InstanceType<typeof AreaPicture>>()
const menu = ref<{ toggle: (event: Event) => void }>()

const unit = computed(() => areas.thing?.unit ?? '')
const moment = computed(() => model.moment(view.playhead))
const things = computed(() => areas.things.map((t) => ({ value: t.id, words: t.unit ? `${t.name} (${shownUnit(t.unit)})` : t.name })))
const panels = computed(() =>
    areas.panels.map((p) => ({
        key: p.key,
        title: `${areas.words} by ${dimension.value}, ${p.name}`,
        moment: moment.value,
        values: areas.valuesOf(p),
    })),
)
const join = computed(() => areas.joinOf(areas.dimension))
const properties = computed(() => (areas.read?.properties ?? []).map((p) => ({ value: p, words: p })))
const elements = computed(() => [
    { value: '', words: 'none of them' },
    ...(model.model.dimensions.find((d) => d.id === areas.dimension)?.elements ?? []).map((e) => ({ value: e.id, words: e.name })),
])
const dimension = computed(() => model.model.dimensions.find((d) => d.id === areas.dimension)?.name ?? '')
const DASHES = ['', '6 4']
const course = computed(() => {
    const element = areas.picked === null ? null : areas.elementOf(areas.picked)
    return areas.picked === null || element === null
        ? null
        : {
              name: areas.nameOf(areas.picked),
              title: `${areas.words}, ${areas.elementName(areas.picked)}`,
              lines: areas.panels.flatMap((p, i) => {
                  const line = p.courses.get(element)
                  return line ? [{ name: p.name, course: line, measured: p.key === MEASURED, dash: DASHES[i] ?? '' }] : []
              }),
          }
})
const rows = computed(() =>
    (areas.read?.areas ?? []).flatMap((_, i) => {
        const element = areas.elementOf(i)
        return element === null ? [] : [{ i, name: areas.nameOf(i), values: panels.value.map((p) => p.values[i] ?? null) }]
    }),
)
const file = computed(() => `${areas.words}, ${moment.value}`.replace(/[\\/:*?"<>|]/g, ' '))
function geojson(times: number[]) {
    const read = areas.read
    if (!read) {
        return
    }
    const columns = areas.panels.flatMap((p) =>
        times.map((t) => ({
            name: `${areas.words} (${unit.value || '1'}), ${p.name}, ${model.moment(t)}`,
            value: (element: string) => valueAt(p.courses.get(element), t),
        })),
    )
    download(`${areas.words}.geojson`, asGeoJson(read, areas.elementOf, columns), 'application/geo+json')
}
/** Eleven times from start to end. */
const times = computed(() => {
    const { start, end } = model.model.time
    return Array.from({ length: 11 }, (_, i) => start + (i / 10) * (end - start))
})
const exports = computed(() => [
    { label: 'Drawing (SVG)', command: () => picture.value && download(`${file.value}.svg`, picture.value.drawing(), 'image/svg+xml') },
    {
        label: 'Picture (PNG)',
        command: async () => {
            try {
                download(`${file.value}.png`, await asPng(picture.value?.drawing() ?? ''))
            } catch (error) {
                notices.trouble((error as Error).message)
            }
        },
    },
    { label: `Areas with values at ${moment.value} (GeoJSON)`, command: () => geojson([view.playhead]) },
    { label: 'Areas with values at eleven times (GeoJSON)', command: () => geojson(times.value) },
])
</script>

<template>
    <div class="area-stage" :class="{ over, beside: !view.outline }" v-on="onto">
        <p v-if="areas.refusal" class="refusal" role="alert">{{ areas.refusal }}</p>
        <template v-if="areas.map && areas.read">
            <header>
                <h2>{{ areas.map.name }}</h2>
                <Button class="button" @click="view.go({ place: 'data', stage: 'data', selection: [] })">To the tables</Button>
                <Button class="button" aria-haspopup="menu" @click="menu?.toggle($event)">Export</Button>
                <Menu ref="menu" :model="exports" popup />
            </header>
            <div v-if="areas.thing" class="facts" role="group" aria-label="What is shown">
                <ChoiceField
                    :model-value="areas.thing.id"
                    label="Coloured by"
                    :choices="things"
                    @update:model-value="areas.set({ of: $event })"
                />
                <ChoiceField v-model="areas.left" label="In which run" :choices="areas.choices" />
                <ChoiceField
                    v-model="areas.right"
                    label="Beside which run"
                    :choices="[{ value: '', words: 'alone' }, ...areas.choices.filter((c) => c.value !== areas.left)]"
                />
                <label class="steps"
                    ><Checkbox :model-value="areas.map.steps ?? false" binary @update:model-value="areas.set({ steps: $event })" /> in
                    steps</label
                >
            </div>
            <p v-if="!areas.thing" class="refusal">
                Nothing of this map is an element of a dimension: its areas are told by
                {{ areas.read.properties.slice(0, 6).join(', ') || 'nothing' }}. Give the model a dimension whose elements are called so,
                and something that extends along it.
            </p>
            <AreaPicture
                v-else
                ref="picture"
                v-model:picked="areas.picked"
                class="picture"
                :read="areas.read"
                :panels="panels"
                :scale="areas.scale"
                :unit="unit"
                :name-of="areas.nameOf"
                :element-of="areas.elementOf"
                :element-name="areas.elementName"
            />
            <section v-if="course?.lines.length" class="course">
                <h3>
                    {{ course.title }} <span class="soft">{{ shownUnit(unit) }}</span>
                </h3>
                <AreaCoursePlot :name="course.title" :unit="unit" :lines="course.lines" />
            </section>
            <p v-else-if="areas.thing" class="soft hint">
                {{ course ? `${course.name} is not there in what is shown.` : 'Click an area to see its course.' }}
            </p>
            <div v-if="areas.thing" class="more">
                <details>
                    <summary>Which area is which {{ dimension }}</summary>
                    <p>
                        By the property
                        <ChoiceField
                            :model-value="join?.property ?? ''"
                            label="By the property"
                            :choices="properties"
                            @update:model-value="areas.join(areas.dimension, { property: $event })"
                        />
                    </p>
                    <p v-if="join?.missing.length">Without an area: {{ join.missing.join(', ') }}.</p>
                    <p v-for="s in join?.strange ?? []" :key="s" class="strange">
                        <b>{{ s }}</b> is
                        <ChoiceField
                            model-value=""
                            :label="`What ${s} is`"
                            :choices="elements"
                            @update:model-value="areas.join(areas.dimension, { pair: [s, $event ?? ''] })"
                        />
                    </p>
                    <p v-if="!join?.missing.length && !join?.strange.length" class="soft">Every one has found its own.</p>
                    <p v-for="r in areas.read.remarks" :key="r" class="soft">{{ r }}</p>
                </details>
                <details>
                    <summary>Table of {{ counted(rows.length, 'area') }}</summary>
                    <table>
                        <thead>
                            <tr>
                                <th scope="col">area</th>
                                <th v-for="p in areas.panels" :key="p.key" scope="col">{{ p.name }}</th>
                            </tr>
                        </thead>
                        <tbody>
                            <tr v-for="r in rows" :key="r.i">
                                <th scope="row">
                                    <Button class="pick" :aria-pressed="areas.picked === r.i" @click="areas.picked = r.i">{{
                                        r.name
                                    }}</Button>
                                </th>
                                <td v-for="(v, k) in r.values" :key="k">{{ v === null ? 'no data' : short(v, { unit }) }}</td>
                            </tr>
                        </tbody>
                    </table>
                </details>
            </div>
        </template>
        <div v-else-if="!areas.refusal" class="empty">
            <h2>An area map</h2>
            <p>Drop a GeoJSON file here. Its areas are coloured by what the model has for each of them, at any moment of the run.</p>
            <p><Button class="button strong" @click="choose()">Choose a file</Button></p>
        </div>
    </div>
</template>

<style scoped>
.area-stage {
    display: flex;
    flex-direction: column;
    height: 100%;
    min-height: 0;
    overflow-y: auto;
    background: var(--paper);
}
.over {
    box-shadow: inset 0 0 0 3px var(--ember);
}
header {
    display: flex;
    align-items: center;
    gap: 12px;
    padding: 8px 18px;
    border-bottom: 1px solid var(--hairline);
}
.beside header {
    padding-left: 54px;
}
header h2 {
    flex: 1;
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
}
.facts {
    display: flex;
    flex-wrap: wrap;
    align-items: center;
    gap: 8px;
    padding: 8px 18px 4px;
}
.steps {
    display: flex;
    align-items: center;
    gap: 6px;
}
.picture {
    flex: 1;
    min-height: 210px;
    margin: 0 4px;
}
.course,
.hint {
    flex: none;
    margin: 0;
    padding: 2px 18px 4px;
}
.more {
    display: flex;
    flex-wrap: wrap;
    gap: 4px 26px;
    padding: 2px 18px 10px;
}
h3 {
    font-size: 14px;
}
h3 .soft {
    font-weight: 400;
}
summary {
    cursor: pointer;
    font-weight: 700;
}
details p {
    display: flex;
    flex-wrap: wrap;
    align-items: center;
    gap: 8px;
    margin: 6px 0;
}
table {
    margin-top: 6px;
    border-collapse: collapse;
}
th,
td {
    padding: 2px 14px 2px 0;
    text-align: left;
    font-weight: 400;
}
td {
    text-align: right;
    font-variant-numeric: tabular-nums;
}
.pick {
    text-decoration: underline dotted;
    text-underline-offset: 3px;
}
.refusal {
    margin: 8px 18px;
    padding: 8px 12px;
    border-left: 4px solid var(--brick);
    background: var(--card);
}
.empty {
    margin: auto;
    width: min(440px, 84%);
    text-align: center;
    font-size: 16px;
    line-height: 1.5;
}
</style>
