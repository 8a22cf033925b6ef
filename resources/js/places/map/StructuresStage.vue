<script setup lang="ts">
import { Pause, Play } from '@lucide/vue'
import { computed, onMounted, reactive, ref, shallowRef, watch } from 'vue'
import { api } from '@/api/client'
import type { Edit, MapStructures } from '@/api/types'
import { useModel } from '@/stores/model'
import { useNotices } from '@/stores/notices'
import { useView } from '@/stores/view'
import { laterId, newId } from '@/ui/ids'
import { counted } from '@/ui/numbers'
import LoopSign from './LoopSign.vue'
import MapTabs from './MapTabs.vue'
import StructurePicture from './StructurePicture.vue'
import { heightAt } from './heights'
import { useMap } from './useMap'
import { useTurning } from './useTurning'

/** Common structures: how one knows each, what it does over time, what helps; each can be put on the map under other names. */
const map = useMap()
const model = useModel()
const view = useView()
const notices = useNotices()
const answer = shallowRef<MapStructures | null>(null)
const chosen = ref('')
const names = reactive<Record<string, string>>({})
const { beat, playing } = useTurning(() => times.value.at(-1) ?? 0)

onMounted(async () => {
    try {
        answer.value = await api.structures(model.id)
        chosen.value ||= answer.value.structures[0]?.id ?? ''
    } catch (error) {
        notices.trouble((error as Error).message)
    }
})
const structure = computed(() => answer.value?.structures.find((s) => s.id === chosen.value))
const placesOf = (id: string) => answer.value?.found[id]?.places ?? []
function countOf(id: string): string {
    const count = placesOf(id).length
    return `${answer.value?.found[id]?.complete === false ? 'at least ' : ''}${counted(count, 'place')}`
}
watch(structure, (now) => {
    for (const role of Object.keys(names)) {
        Reflect.deleteProperty(names, role)
    }
    Object.assign(names, now?.roles ?? {})
    beat.value = 0
    playing.value = true
})
const times = computed(() => structure.value?.times ?? [])
const levels = computed(() =>
    Object.fromEntries(
        Object.entries(structure.value?.heights ?? {}).map(([role, course]) => [role, heightAt(times.value, course, beat.value)]),
    ),
)
/** Two roles of one name would be one factor. */
const doubled = computed(() => {
    const all = Object.values(names).map((n) => n.trim().toLowerCase())
    return all.find((n, i) => all.indexOf(n) !== i)
})
const fits = computed(() => Object.values(names).every((n) => n.trim()) && !doubled.value)
const taken = computed(() => map.factors.map((t) => t.name))

async function put() {
    const s = structure.value
    if (!s || !fits.value) {
        return
    }
    const edits = s.links.map<Edit>((l) => ({
        kind: 'say',
        id: laterId(),
        from: names[l.from] ?? '',
        fromId: newId(),
        to: names[l.to] ?? '',
        toId: newId(),
        sign: l.sign,
        ...(l.late ? { late: true } : {}),
    }))
    const own = Object.values(names).map((n) => n.trim().toLowerCase())
    if (await model.together(edits, `Put “${s.title}” on the map`)) {
        const ids = map.factors.filter((t) => own.includes(t.name.toLowerCase())).map((t) => t.id)
        view.go({ place: 'map', stage: 'map', selection: ids })
    }
}
function show(roles: Record<string, string>) {
    view.go({ place: 'map', stage: 'map', selection: Object.values(roles) })
}
</script>

<template>
    <div class="structures-place">
        <MapTabs><span class="soft">Patterns of loops that are met in many places</span></MapTabs>
        <div v-if="answer" class="page">
            <ul class="list" aria-label="Common structures">
                <li v-for="s in answer.structures" :key="s.id">
                    <Button class="pick" :aria-pressed="s.id === chosen" @click="chosen = s.id"
                        ><b>{{ s.title }}</b
                        ><span v-if="placesOf(s.id).length" class="soft">looks like this map in {{ countOf(s.id) }}</span></Button
                    >
                </li>
            </ul>
            <article v-if="structure" :aria-label="structure.title">
                <h2>{{ structure.title }}</h2>
                <p>{{ structure.recognise }}</p>
                <div class="shown">
                    <StructurePicture :structure="structure" :names="names" :levels="levels" />
                    <div class="course">
                        <p class="head">
                            <Button class="icon-button" :aria-label="playing ? 'Pause' : 'Play'" @click="playing = !playing"
                                ><Pause v-if="playing" :size="17" :stroke-width="1.5" /><Play v-else :size="17" :stroke-width="1.5"
                            /></Button>
                            beat <b>{{ Math.round(beat) }}</b> <span class="soft">of {{ times.at(-1) }} · a sketch, not measured</span>
                        </p>
                        <svg
                            v-for="(course, role) in structure.heights"
                            :key="role"
                            viewBox="0 0 400 44"
                            preserveAspectRatio="none"
                            role="img"
                            :aria-label="`Course of ${names[role] ?? role}`"
                        >
                            <path d="M0 22H400" class="usual" vector-effect="non-scaling-stroke" />
                            <path
                                :d="
                                    'M' +
                                    course
                                        .map((h, i) => `${((400 * i) / (course.length - 1)).toFixed(1)} ${(22 - 20 * h).toFixed(1)}`)
                                        .join('L')
                                "
                                class="line"
                                vector-effect="non-scaling-stroke"
                            />
                            <path :d="`M${(400 * beat) / (times.at(-1) ?? 1)} 0V44`" class="now" vector-effect="non-scaling-stroke" />
                            <text x="4" y="10">{{ names[role] ?? role }}</text>
                        </svg>
                        <p class="soft">{{ structure.course }}</p>
                    </div>
                </div>
                <p class="loops">
                    <span v-for="l in structure.loops" :key="l.name"
                        ><LoopSign :sign="l.polarity" /> {{ l.name }}: {{ l.path.map((r) => names[r] ?? r).join(' → ') }}</span
                    >
                </p>
                <h3>What helps</h3>
                <p>{{ structure.helps }}</p>
                <div v-if="placesOf(structure.id).length">
                    <h3>On this map</h3>
                    <p class="chips">
                        <Button v-for="(f, i) in placesOf(structure.id)" :key="i" class="chip" @click="show(f)">{{
                            Object.values(f).map(map.nameOf).join(', ')
                        }}</Button>
                    </p>
                </div>
                <h3>Put it on the map</h3>
                <p class="soft">Give each part its name here; a name that is on the map already ties it to that factor.</p>
                <form @submit.prevent="put">
                    <label v-for="(usual, role) in structure.roles" :key="role"
                        ><span class="soft">{{ usual }}</span
                        ><InputText v-model="names[role]" class="field" list="factor-names" maxlength="120" autocomplete="off"
                    /></label>
                    <datalist id="factor-names"><option v-for="n in taken" :key="n" :value="n" /></datalist>
                    <p v-if="doubled" class="trouble" role="alert">Two parts are called “{{ doubled }}”. Give each a name of its own.</p>
                    <Button class="button strong" type="submit" :disabled="!fits">Put it on the map</Button>
                </form>
            </article>
        </div>
    </div>
</template>

<style scoped>
.structures-place {
    display: grid;
    grid-template-rows: auto minmax(0, 1fr);
    height: 100%;
    background: var(--paper);
}
.page {
    display: grid;
    grid-template-columns: 250px minmax(0, 1fr);
    min-height: 0;
}
.list {
    margin: 0;
    padding: 6px 10px 20px;
    list-style: none;
    overflow-y: auto;
}
.pick {
    display: grid;
    width: 100%;
    padding: 8px 10px;
    border-radius: 10px;
    text-align: left;
}
.pick:hover {
    background: var(--hover);
}
.pick[aria-pressed='true'] {
    background: var(--card);
    box-shadow: inset 0 0 0 1px var(--hairline);
}
.pick b {
    font-weight: 400;
}
.pick[aria-pressed='true'] b {
    font-weight: 700;
}
.pick .soft {
    font-size: 13px;
}
article {
    padding: 8px 30px 30px 18px;
    overflow-y: auto;
}
article > * {
    max-width: 860px;
}
h2 {
    font-size: 24px;
}
h3 {
    margin: 14px 0 2px;
    font-size: 15px;
}
article p {
    margin: 4px 0;
}
.shown {
    display: grid;
    grid-template-columns: minmax(0, 1.2fr) minmax(0, 1fr);
    gap: 24px;
    align-items: center;
    margin: 10px 0;
}
.course {
    display: grid;
    gap: 4px;
}
.head {
    display: flex;
    align-items: center;
    gap: 6px;
}
.head b {
    color: var(--ember);
}
.course > svg {
    width: 100%;
    height: 44px;
}
.line {
    fill: none;
    stroke: var(--ink);
    stroke-width: 1.7;
}
.usual {
    stroke: var(--line);
    stroke-dasharray: 1.5 4;
}
.now {
    stroke: var(--ember);
    stroke-width: 1.5;
}
.course text {
    font-size: 11px;
    fill: var(--ink-soft);
}
.loops {
    display: grid;
    gap: 3px;
    font-size: 14px;
}
form {
    display: grid;
    grid-template-columns: repeat(auto-fill, minmax(190px, 1fr));
    gap: 8px 14px;
    align-items: end;
    margin-top: 6px;
}
form label {
    display: grid;
    gap: 2px;
    font-size: 13px;
}
.trouble {
    grid-column: 1 / -1;
}
.chips {
    display: flex;
    flex-wrap: wrap;
    gap: 6px;
}
</style>
