<script setup lang="ts">
import { Eye, EyeOff, Hand, PanelLeftClose, Pencil, Plus, Trash2 } from '@lucide/vue'
import { computed, nextTick, ref } from 'vue'
import { lookOf } from '@/charts/lines'
import { LOOKS, useCourses } from '@/stores/courses'
import { useDrafts } from '@/stores/drafts'
import { useLook } from '@/stores/look'
import { useModel } from '@/stores/model'
import { useRuns } from '@/stores/runs'
import { useView } from '@/stores/view'
import type { Field } from '@/ui/controls'
import { newId } from '@/ui/ids'
import { placeBehind } from '@/ui/records'
import PresentDial from './PresentDial.vue'

const model = useModel()
const runs = useRuns()
const courses = useCourses()
const view = useView()
const look = useLook()
const drafts = useDrafts()
const FEW = 12

const sought = ref('')
/** With several variables on the stage the hue tells the variable and the dash the run; the list shows it so. */
const several = computed(() => {
    const plot = model.model.plots[view.plot] ?? model.model.tracks.find((t) => t.id === view.plot) ?? drafts.find(view.plot)
    return view.stage === 'plot' && (plot?.of.length ?? 0) > 1 && plot?.kind !== 'phase'
})
const hue = (look: number) => (several.value ? 'var(--ink)' : `var(--run-${look})`)
const parameters = computed(() => model.things.filter((t) => t.kind === 'parameter' && t.value !== null && t.value !== undefined))
const dials = computed(() => parameters.value.filter((t) => t.name.toLowerCase().includes(sought.value.trim().toLowerCase())).slice(0, 60))
const grips = computed(() =>
    Object.entries(runs.present.grips)
        .map(([id, grip]) => ({ id, grip, name: look.nameOf(id) }))
        .filter((g) => g.name),
)

// One name field for what is kept: a run or a scenario.
const naming = ref<'' | 'run' | 'scenario'>('')
const name = ref('')
const field = ref<Field>()
async function ask(what: 'run' | 'scenario') {
    naming.value = what
    const number = what === 'run' ? courses.kept.length + 1 : Object.keys(model.model.scenarios).length + 1
    name.value = what === 'run' ? `Run ${number}` : `Scenario ${number}`
    await nextTick()
    field.value?.$el.select()
}
async function keep() {
    const what = naming.value
    const text = name.value.trim()
    if (!what || !text) {
        return
    }
    if (what === 'run') {
        if (await courses.keep(text)) {
            naming.value = ''
        }
        return
    }
    const id = newId()
    if (
        await model.attempt({
            kind: 'scenario',
            id,
            name: text,
            note: '',
            on: [],
            setting: runs.setting,
            place: placeBehind(model.model.scenarios),
        })
    ) {
        naming.value = ''
        courses.toggleScenario(id)
    }
}

const renaming = ref('')
function rename(event: Event, id: string) {
    const text = (event.target as HTMLInputElement).value.trim()
    if (text) {
        void courses.change(id, { name: text })
    }
}
const pattern = (look: number) => {
    const { dash } = lookOf(look)
    return dash.length ? dash.join(' ') : undefined
}
</script>

<template>
    <nav class="try" aria-label="What is tried">
        <section>
            <header>
                <h2>Runs</h2>
                <Button class="icon-button" aria-label="Hide this column" title="Hide this column" @click="view.outline = false"
                    ><PanelLeftClose :size="15" :stroke-width="1.6"
                /></Button>
            </header>
            <div class="row">
                <svg width="22" height="8" aria-hidden="true">
                    <line x1="0" x2="22" y1="4" y2="4" stroke="var(--ink)" stroke-width="2" />
                </svg>
                <span class="who">{{ runs.tried ? 'present' : 'baseline' }}</span>
            </div>
            <div v-if="runs.tried" class="row">
                <svg width="22" height="8" aria-hidden="true">
                    <line x1="0" x2="22" y1="4" y2="4" stroke="var(--line)" stroke-width="1.4" stroke-dasharray="4 4" />
                </svg>
                <span class="who">baseline</span>
            </div>
            <div v-for="k in courses.kept" :key="k.id" class="row" :class="{ off: k.hidden }">
                <svg width="22" height="8" aria-hidden="true">
                    <line x1="0" x2="22" y1="4" y2="4" :stroke="hue(k.colour)" stroke-width="2" :stroke-dasharray="pattern(k.colour)" />
                </svg>
                <div v-if="renaming === k.id" class="details" @keydown.escape="renaming = ''">
                    <InputText
                        class="field"
                        :model-value="k.name"
                        :aria-label="`Name of ${k.name}`"
                        maxlength="120"
                        @change="rename($event, k.id)"
                        @vue:mounted="({ el }) => (el as HTMLInputElement).select()"
                    />
                    <Textarea
                        class="field"
                        rows="2"
                        :model-value="k.note"
                        :aria-label="`Note of ${k.name}`"
                        placeholder="Note"
                        maxlength="4000"
                        @change="courses.change(k.id, { note: ($event.target as HTMLTextAreaElement).value })"
                    />
                    <span class="hues" role="radiogroup" :aria-label="`Line style of ${k.name}`"
                        ><Button
                            v-for="one in LOOKS"
                            :key="one"
                            role="radio"
                            :aria-checked="k.colour === one - 1"
                            :aria-label="`Line style ${one}`"
                            @click="courses.change(k.id, { colour: one - 1 })"
                            ><svg width="22" height="24" aria-hidden="true">
                                <line
                                    x1="1"
                                    x2="21"
                                    y1="12"
                                    y2="12"
                                    :stroke="`var(--run-${one - 1})`"
                                    stroke-width="3"
                                    :stroke-dasharray="pattern(one - 1)"
                                /></svg></Button
                    ></span>
                    <span class="keep"
                        ><Button
                            class="button"
                            title="Put dials and hands as they were in it, with the model of today"
                            @click="runs.put(k.setting)"
                            >Run it again</Button
                        ><Button class="button" @click="renaming = ''">Done</Button></span
                    >
                </div>
                <template v-else>
                    <span class="who" :title="`${k.name}${k.note ? ` – ${k.note}` : ''}`">{{ k.name }}</span>
                    <span v-if="courses.isBaseline(k)" class="same" title="Its numbers are those of the baseline">= baseline</span>
                    <Button
                        v-else-if="courses.isOlder(k)"
                        class="older"
                        title="The model gives other numbers since: show what changed"
                        @click="
                            () => {
                                view.go({ place: 'try', stage: 'logbook' })
                                view.compared = [`kept:${k.id}`, 'shown']
                            }
                        "
                        >older model</Button
                    >
                    <Button
                        class="icon-button"
                        :aria-label="`Name, note and line style of ${k.name}`"
                        title="Name, note and line style"
                        @click="renaming = k.id"
                        ><Pencil :size="13" :stroke-width="1.6"
                    /></Button>
                    <Button
                        class="icon-button"
                        :aria-label="`${k.hidden ? 'Show' : 'Hide'} ${k.name}`"
                        :aria-pressed="!k.hidden"
                        :title="k.hidden ? 'Show' : 'Hide'"
                        @click="courses.change(k.id, { hidden: !k.hidden })"
                        ><EyeOff v-if="k.hidden" :size="14" :stroke-width="1.6" /><Eye v-else :size="14" :stroke-width="1.6"
                    /></Button>
                    <Button class="icon-button" :aria-label="`Remove ${k.name}`" title="Remove" @click="courses.drop(k.id)"
                        ><Trash2 :size="13" :stroke-width="1.6"
                    /></Button>
                </template>
            </div>
            <div v-for="o in courses.others.filter((c) => !c.key.startsWith('kept:'))" :key="o.key" class="row">
                <svg width="22" height="8" aria-hidden="true">
                    <line x1="0" x2="22" y1="4" y2="4" :stroke="hue(o.look)" stroke-width="2" :stroke-dasharray="pattern(o.look)" />
                </svg>
                <span class="who" :title="o.name">{{ o.name }}</span>
                <Button
                    class="icon-button"
                    :aria-label="`Hide ${o.name}`"
                    title="Hide"
                    @click="o.key.startsWith('scenario:') ? courses.toggleScenario(o.key.slice(9)) : courses.call(o.key, o.name, o.ref)"
                    ><Eye :size="14" :stroke-width="1.6"
                /></Button>
            </div>
            <p v-if="several" class="soft">Here the dash tells the run, and the hue the variable.</p>
            <form v-if="naming" class="name" @submit.prevent="keep">
                <InputText
                    ref="field"
                    v-model="name"
                    class="field"
                    :aria-label="naming === 'run' ? 'Name of the run' : 'Name of the scenario'"
                    maxlength="120"
                    @keydown.escape="naming = ''"
                />
                <Button type="submit" class="button">Keep</Button>
            </form>
            <div v-else class="keep">
                <Button class="button" @click="ask('run')"><Plus :size="14" :stroke-width="1.8" />Keep this run</Button>
                <Button v-if="runs.tried" class="button" title="Makes the present dials and hands permanent" @click="ask('scenario')"
                    ><Plus :size="14" :stroke-width="1.8" />Keep as scenario</Button
                >
            </div>
        </section>
        <section>
            <header><h2>Taken by hand</h2></header>
            <div v-for="g in grips" :key="g.id" class="row">
                <Hand :size="14" :stroke-width="1.6" class="plum" />
                <Button
                    class="who"
                    :title="`${g.name}: ${g.grip.signal}`"
                    @click="
                        () => {
                            view.select(look.ownerOf(g.id))
                            view.card = true
                        }
                    "
                    >{{ g.name }} <span class="soft">{{ g.grip.signal }}{{ g.grip.on === false ? ', off' : '' }}</span></Button
                >
                <Button class="link" :aria-label="`Release ${g.name}`" @click="runs.grip(g.id, undefined)">release</Button>
            </div>
            <p v-if="!grips.length" class="soft">
                Nothing. Select something and choose <b>Take by hand</b> on its card to give it a course of your own.
            </p>
        </section>
        <section>
            <header>
                <h2>Dials</h2>
                <Button v-if="runs.tried" class="link" @click="runs.put()">Reset to the model’s values</Button>
            </header>
            <InputText
                v-if="parameters.length > FEW"
                v-model="sought"
                class="field"
                type="search"
                placeholder="Search dials"
                aria-label="Search dials"
            />
            <PresentDial v-for="t in dials" :key="t.id" :thing="t" />
            <p v-if="!parameters.length" class="soft">Dials belong to parameters. This model has none yet.</p>
        </section>
    </nav>
</template>

<style scoped>
.try {
    overflow-y: auto;
    border-right: 1px solid var(--hairline);
    background: var(--card);
    padding-bottom: 20px;
}
section {
    padding: 8px 12px 10px 14px;
    border-bottom: 1px solid var(--hairline);
}
header {
    display: flex;
    align-items: center;
    gap: 8px;
    min-height: 28px;
}
h2 {
    flex: 1;
    font-size: 14px;
    font-weight: 700;
}
.link {
    font-size: 12.5px;
    color: var(--ink-soft);
    text-decoration: underline;
    text-underline-offset: 3px;
}
.row {
    display: flex;
    align-items: center;
    gap: 6px;
    min-height: 28px;
}
.row svg {
    flex: none;
}
.who {
    flex: 1;
    min-width: 0;
    text-align: left;
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
}
.off .who {
    color: var(--ink-soft);
}
.row .icon-button {
    width: 24px;
    height: 24px;
}
.row:not(:hover, :focus-within) .icon-button:not([aria-pressed='false']) {
    opacity: 0.45;
}
.details {
    flex: 1;
    display: grid;
    gap: 5px;
    min-width: 0;
    padding: 6px 0;
}
.hues {
    display: flex;
    flex-wrap: wrap;
    gap: 2px;
}
.hues button {
    padding: 0 2px;
    border: 1px solid transparent;
    border-radius: 6px;
}
.hues button[aria-checked='true'] {
    border-color: var(--ink);
}
.same {
    flex: none;
    font-size: 12px;
    color: var(--ink-soft);
}
.older {
    flex: none;
    padding: 0 5px;
    border: 1px solid var(--ochre);
    border-radius: 5px;
    color: var(--ochre);
    font-size: 11.5px;
}
.plum {
    flex: none;
    color: var(--plum);
}
.soft {
    font-size: 13px;
}
.field {
    min-height: 28px;
    padding: 2px 7px;
    min-width: 0;
}
.name {
    display: flex;
    gap: 6px;
    margin-top: 6px;
}
.keep {
    display: flex;
    flex-wrap: wrap;
    gap: 6px;
    margin-top: 6px;
}
.keep .button {
    padding: 0 9px;
    font-size: 13px;
}
</style>
