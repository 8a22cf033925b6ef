<script setup lang="ts">
import { ArrowDown, ArrowUp, RotateCcw, Trash2 } from '@lucide/vue'
import { computed } from 'vue'
import type { Finding, Plot } from '@/api/types'
import { useDrafts } from '@/stores/drafts'
import { useTrail, type NamedRun } from '@/places/try/useTrail'
import NoteField from '@/card/NoteField.vue'
import { useLook } from '@/stores/look'
import { useModel } from '@/stores/model'
import { useNotices } from '@/stores/notices'
import { useView } from '@/stores/view'
import FindingForm from './FindingForm.vue'
import FindingView from './FindingView.vue'
import TryTabs from './TryTabs.vue'

const model = useModel()
const view = useView()
const look = useLook()
const notices = useNotices()
const drafts = useDrafts()
const trail = useTrail()
interface TrailView {
    element: string
    run?: NamedRun
    base?: NamedRun
    towards?: 'causes' | 'effects'
    over?: 'moment' | 'time'
    steps: { path: string[] }[]
    stopAtStocks?: boolean
}
const findings = computed(() => Object.values(model.model.findings).sort((a, b) => a.place - b.place))

function put(f: Finding, change: Partial<Finding>) {
    return model.attempt({ kind: 'finding', ...f, ...change })
}
function move(i: number, by: number) {
    const here = findings.value[i]
    const there = findings.value[i + by]
    if (here && there) {
        void model.together(
            [
                { kind: 'finding', ...here, place: there.place },
                { kind: 'finding', ...there, place: here.place === there.place ? here.place - by : here.place },
            ],
            `Moved the finding “${here.title}”`,
        )
    }
}
async function remove(f: Finding) {
    if (await model.attempt({ kind: 'discard', what: 'finding', id: f.id })) {
        notices.say(`Removed the finding “${f.title}”.`, {
            words: 'Undo',
            run: () => {
                void model.step('undo')
            },
        })
    }
}
/** To where it was found. */
function show(f: Finding) {
    if (typeof f.view.playhead === 'number') {
        view.playhead = Math.min(model.model.time.end, Math.max(model.model.time.start, f.view.playhead))
    }
    // What was looked at along dimensions belongs to what was found.
    if (f.view.look && typeof f.view.look === 'object') {
        view.look = { ...(f.view.look as Record<string, string>) }
    }
    if (f.view.kind === 'trail') {
        const { element, run, base, towards, over, steps, stopAtStocks } = f.view as unknown as TrailView
        view.trail = look.ownerOf(element)
        Object.assign(trail, {
            brought: { ...(run ? { run } : {}), ...(base ? { base } : {}) },
            towards: towards ?? 'causes',
            over: over ?? 'moment',
            stopAtStocks: stopAtStocks === true,
        })
        view.run = run ? 'kept-run' : 'shown'
        view.against = base ? 'kept-base' : ''
        trail.open = new Set(steps.map((s) => s.path.join('>')))
        if (typeof f.view.time === 'number') {
            view.playhead = f.view.time
        }
        view.go({ place: 'try', stage: 'trail' })
    } else if (['spread', 'nudge', 'candidates'].includes(f.view.kind)) {
        view.go({ place: 'try', stage: f.view.kind })
    } else if (f.view.kind === 'comparison') {
        view.go({ place: 'try', stage: 'scenarios' })
    } else if (f.view.kind === 'sheet') {
        view.go({
            place: 'model',
            stage: 'sheet',
            sheet: String(f.view.sheet),
            selection: (f.view.selection as string[] | undefined) ?? [],
        })
    } else {
        const plot = f.view.plot as Plot
        view.plot = drafts.make(plot)
        view.asKept = f.id
        view.go({ place: 'try', stage: 'plot', selection: plot.of.slice(0, 1) })
    }
}
const sheet = () => ({ kind: 'sheet' as const, sheet: view.sheet, selection: view.selection })
</script>

<template>
    <section class="leaf" aria-label="Findings">
        <TryTabs><FindingForm :view="sheet" :title="model.model.sheets.find((s) => s.id === view.sheet)?.name ?? 'Sheet'" /></TryTabs>
        <div class="scroll" tabindex="0">
            <p v-if="!findings.length" class="empty soft">
                A finding is a plot, a table or a trail with your words: choose <b>Save as finding</b> where you see something worth
                telling. In their order they later make the report.
            </p>
            <article v-for="(f, i) in findings" :key="f.id" :aria-label="f.title">
                <header>
                    <InputText
                        class="title"
                        :model-value="f.title"
                        :aria-label="`Title of finding ${i + 1}`"
                        maxlength="120"
                        @change="put(f, { title: ($event.target as HTMLInputElement).value })"
                        @keydown.enter="($event.target as HTMLElement).blur()"
                    />
                    <Button class="icon-button" :disabled="i === 0" :aria-label="`Move ${f.title} up`" @click="move(i, -1)"
                        ><ArrowUp :size="15" :stroke-width="1.6"
                    /></Button>
                    <Button
                        class="icon-button"
                        :disabled="i === findings.length - 1"
                        :aria-label="`Move ${f.title} down`"
                        @click="move(i, 1)"
                        ><ArrowDown :size="15" :stroke-width="1.6"
                    /></Button>
                    <Button
                        class="icon-button"
                        :aria-label="`Go to where ${f.title} was found`"
                        title="Go to where it was found"
                        @click="show(f)"
                        ><RotateCcw :size="15" :stroke-width="1.6"
                    /></Button>
                    <Button class="icon-button" :aria-label="`Remove ${f.title}`" title="Remove" @click="remove(f)"
                        ><Trash2 :size="15" :stroke-width="1.6"
                    /></Button>
                </header>
                <FindingView :finding="f" />
                <NoteField :note="f.words" :label="`Words of ${f.title}`" hint="Say what it shows" @keep="put(f, { words: $event })" />
            </article>
        </div>
    </section>
</template>

<style scoped>
.scroll {
    overflow: auto;
    padding: 14px 20px 40px;
}
.empty {
    max-width: 480px;
    padding: 20px 0;
}
article {
    max-width: 860px;
    padding: 10px 16px 14px;
    margin-bottom: 16px;
    border: 1px solid var(--hairline);
    border-radius: 12px;
}
header {
    display: flex;
    align-items: center;
    gap: 2px;
}
.title {
    flex: 1;
    min-width: 0;
    padding: 3px 6px;
    margin-left: -6px;
    border: 1px solid transparent;
    border-radius: 6px;
    background: none;
    font-size: 17px;
    font-weight: 700;
}
.title:hover {
    border-color: var(--hairline);
}
</style>
