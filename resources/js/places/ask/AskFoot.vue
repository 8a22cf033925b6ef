<script setup lang="ts">
import { computed, ref } from 'vue'
import { numberIn } from '@/card/block'
import { useModel } from '@/stores/model'
import { useNotices } from '@/stores/notices'
import { useView } from '@/stores/view'
import TimeRuler from '@/tracks/TimeRuler.vue'
import { usePlayhead } from '@/tracks/usePlayhead'
import ChoiceField from '@/ui/ChoiceField.vue'
import { newId } from '@/ui/ids'
import { literal } from '@/ui/numbers'
import OneOf from '@/ui/OneOf.vue'
import ModeDrawing from './ModeDrawing.vue'
import { KINDS, merged, valueOf } from './modes'
import { useAsk } from './useAsk'

/** The reference mode: courses drawn on the time ruler’s own track, typed, or taken from a series. */
const ask = useAsk()
const model = useModel()
const view = useView()
const notices = useNotices()
usePlayhead()

const kind = ref<(typeof KINDS)[number]['value']>('hoped')
const way = ref<'draw' | 'type' | 'series'>('draw')
const typed = ref('')
/** The modes of what is followed; others stay where they are. */
const of = computed(() => ask.followed?.id ?? '')
const shown = computed(() => ask.modes.filter((m) => !of.value || !m.of || m.of === of.value))
const mine = computed(() => shown.value.find((m) => (m.kind ?? 'expected') === kind.value))
const top = ref<number>()
const greatest = computed(() => Math.max(0, ...shown.value.flatMap((m) => m.points.map((p) => p[1] ?? 0))))
const scale = computed(() => top.value ?? (greatest.value > 0 ? greatest.value * 1.15 : 10))
const unit = computed(() => ask.followed?.unit ?? '')

function draw(points: [number, number][]) {
    const known = mine.value
    void ask.keepMode(known?.id ?? newId(), {
        kind: kind.value,
        points: merged(known?.points ?? [], points),
        ...(of.value ? { of: of.value } : {}),
        ...(known ? {} : { unit: unit.value }),
    })
}
function type() {
    const points: [number, number][] = []
    const unread: string[] = []
    for (const line of typed.value.split('\n').filter((l) => l.trim())) {
        const [time, value] = line
            .trim()
            .split(/[\s;\t]+/)
            .map(numberIn)
        if (time === undefined || value === undefined || Number.isNaN(time) || Number.isNaN(value)) {
            unread.push(line.trim())
        } else {
            points.push([time, value])
        }
    }
    points.sort((a, b) => a[0] - b[0])
    if (unread.length) {
        notices.trouble(`“${unread[0]}” is no time and value: write them side by side, as in “${literal(model.model.time.start)} 7”.`)
    } else if (points.length) {
        draw(points)
        typed.value = ''
        way.value = 'draw'
    }
}
const series = computed(() =>
    model.things.filter((t) => t.kind === 'series' && (t.points?.length ?? 0) > 0).map((t) => ({ value: t.id, words: t.name })),
)
const taken = ref<string>()
function take() {
    const thing = model.model.elements[taken.value ?? '']
    if (thing?.points?.length) {
        kind.value = 'seen'
        draw(thing.points as [number, number][])
        way.value = 'draw'
    }
}
const WAYS = computed(() => [
    { value: 'draw' as const, words: 'draw' },
    { value: 'type' as const, words: 'type points' },
    ...(series.value.length ? [{ value: 'series' as const, words: 'take a series' }] : []),
])
function words(event: Event) {
    if (mine.value) {
        void ask.keepMode(mine.value.id, { words: (event.target as HTMLInputElement).value.trim() })
    }
}
</script>

<template>
    <section class="foot" aria-label="Reference mode">
        <TimeRuler />
        <div v-if="view.tracks" class="body" :style="{ height: `${Math.max(220, view.tracksHeight)}px` }">
            <div class="left">
                <h2>Reference mode</h2>
                <p class="soft">
                    <template v-if="ask.followed"
                        ><b>{{ ask.followed.name }}</b
                        >{{ unit ? ` in ${unit}` : '' }}</template
                    ><template v-else>of what is followed</template>
                </p>
                <dl v-if="shown.length">
                    <div v-for="m in shown" :key="m.id">
                        <dt>{{ m.kind ?? 'expected' }}</dt>
                        <dd>{{ valueOf(m.points, view.playhead) }}</dd>
                    </div>
                </dl>
                <OneOf v-model="kind" :choices="KINDS" label="What kind of course" />
                <OneOf v-model="way" :choices="WAYS" label="How it is given" />
                <template v-if="way === 'type'">
                    <Textarea
                        v-model="typed"
                        class="field"
                        rows="3"
                        aria-label="Times and values, a line each"
                        :placeholder="`${literal(model.model.time.start)} 7\n${literal(model.model.time.end)} 4`"
                    />
                    <Button class="button" :disabled="!typed.trim()" @click="type">Put them in</Button>
                </template>
                <template v-else-if="way === 'series'">
                    <ChoiceField v-model="taken" label="Which series" :choices="series" placeholder="which series …" />
                    <Button class="button" :disabled="!taken" @click="take">Take it as seen</Button>
                </template>
                <template v-if="mine && way === 'draw'">
                    <InputText
                        class="field"
                        :model-value="mine.words ?? ''"
                        :placeholder="`what makes it ${kind}`"
                        aria-label="In words"
                        maxlength="400"
                        @change="words"
                    />
                    <Button class="button" @click="ask.dropMode(mine.id)">Take away what is {{ kind }}</Button>
                </template>
                <p v-if="shown.length && of" class="soft">Runs are laid over these in Model and Try.</p>
            </div>
            <ModeDrawing :modes="shown" :kind="kind" :top="scale" :unit="unit" @draw="draw" @top="top = $event" />
        </div>
    </section>
</template>

<style scoped>
.foot {
    --label: 232px;
    background: var(--card);
}
.body {
    display: grid;
    grid-template-columns: var(--label) 1fr;
}
.left {
    display: grid;
    align-content: start;
    gap: 6px;
    padding: 10px 14px 10px 16px;
    overflow-y: auto;
    font-size: 13.5px;
}
h2 {
    font-size: 15px;
}
p {
    margin: 0;
}
dl {
    margin: 0;
}
dl div {
    display: flex;
    justify-content: space-between;
}
dd {
    margin: 0;
    font-weight: 700;
}
/* Chips of two choices lie above each other. */
.left :deep(.one-of) {
    display: flex;
    flex-wrap: wrap;
    gap: 4px;
}
.left :deep(.chip) {
    min-height: 24px;
    padding: 0 7px;
    font-size: 13px;
}
</style>
