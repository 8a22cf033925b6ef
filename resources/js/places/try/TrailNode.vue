<script setup lang="ts">
import { ChevronDown, ChevronRight, MapPin, RefreshCw } from '@lucide/vue'
import { computed, inject, onMounted, ref, watch } from 'vue'
import { api } from '@/api/client'
import type { TrailAnswer } from '@/api/types'
import SmallLines from '@/charts/SmallLines.vue'
import { useLook } from '@/stores/look'
import { useModel } from '@/stores/model'
import { useView } from '@/stores/view'
import SaidText from '@/ui/SaidText.vue'
import { full, short, shownUnit, signed, withUnit } from '@/ui/numbers'
import { asTrail, CAUSES, LITTLE } from './trailWords'

/** One variable on a trail, and what lies behind it. */
const {
    element,
    path,
    change = undefined,
    share = 0,
    unit = '',
    of = '',
    through = [],
} = defineProps<{
    element: string
    path: string[]
    change?: number
    /** Of what moves the one before it. */ share?: number
    /** Of the change, as the engine knows it. */ unit?: string
    of?: string
    /** Names of the changed things that act through it. */ through?: string[]
}>()
const model = useModel()
const look = useLook()
const view = useView()
const trail = inject(
    asTrail,
    () => {
        throw new Error('A node stands on a trail.')
    },
    true,
)

const thing = computed(() => thingOf(element))
/** Members that come and go have no course of their own in the run. */
const isOneMember = computed(() => thing.value?.members !== undefined && element !== thing.value.id)
/** What each member has is told of all of them together. */
const name = computed(() =>
    thing.value?.members && element === thing.value.id
        ? `${thing.value.name}, of all together`
        : (look.nameOf(element) ?? CAUSES[element] ?? element),
)
const loop = computed(() => path.includes(element))
const leaf = computed(
    () =>
        !thing.value ||
        loop.value ||
        thing.value.kind === 'parameter' ||
        (trail.stopAtStocks.value && thing.value.kind === 'stock' && path.length > 0),
)
const key = computed(() => [...path, element].join('>'))
const open = computed(() => trail.open.value.has(key.value))
const answer = ref<TrailAnswer>()
const trouble = ref('')
const every = computed<{ cause: string; change: number; share?: number }[]>(
    () => answer.value?.causes ?? answer.value?.effects?.map((e) => ({ cause: e.effect, change: e.change, share: e.share })) ?? [],
)
/** What is no more than rounding beside the rest is left out, and counted. */
const largest = computed(() =>
    Math.max(0, ...every.value.map((c) => Math.abs(c.change)), Math.abs(answer.value?.rate ?? 0), Math.abs(answer.value?.difference ?? 0)),
)
const causes = computed(() => every.value.filter((c) => trail.towards.value === 'effects' || Math.abs(c.change) > LITTLE * largest.value))
const still = computed(
    () =>
        trail.towards.value === 'causes' &&
        !trail.base.value &&
        answer.value !== undefined &&
        Math.abs(answer.value.rate) <=
            (LITTLE * Math.max(Math.abs(answer.value.value), largest.value)) /
                Math.max(1e-9, model.model.time.end - model.model.time.start),
)
const all = computed(() => causes.value.reduce((sum, c) => sum + Math.abs(c.change), 0))

let asked = 0
async function ask() {
    if (!open.value || leaf.value) {
        return
    }
    const mine = ++asked
    try {
        const found = await api.trail(model.id, {
            run: trail.run.value,
            ...(trail.base.value && trail.towards.value === 'causes' ? { base: trail.base.value, over: trail.over.value } : {}),
            element,
            time: trail.time.value,
            towards: trail.towards.value,
        })
        if (mine === asked) {
            answer.value = found
            trouble.value = ''
            trail.told(key.value, found)
        }
    } catch (error) {
        answer.value = undefined
        trouble.value = (error as Error).message
    }
}
onMounted(ask)
watch([open, trail.question], ask)
const apart = computed(() => trail.base.value !== undefined && trail.towards.value === 'causes')
const unitOf = computed(() => thing.value?.unit ?? '')
const perTime = (unit: string) => `${shownUnit(unit) ? `${shownUnit(unit)} ` : ''}per ${model.model.time.unit}`
/** The unit of what is told beside a cause; of what follows, each in its own. */
function unitBeside(cause: string): string {
    if (trail.towards.value === 'effects') {
        return perTime(thingOf(cause)?.unit ?? '')
    }
    return apart.value ? (gathered.value && answer.value?.isAmount ? amountUnit.value : shownUnit(unitOf.value)) : perTime(unitOf.value)
}
const gathered = computed(() => apart.value && trail.over.value === 'time')
/** A flow over a time is an amount: its unit without the time. */
const amountUnit = computed(() => {
    const unit = shownUnit(unitOf.value)
    const per = new RegExp(`\\s*(?:/|per )\\s*${model.model.time.unit}s?$`, 'i')
    return per.test(unit) ? unit.replace(per, '') : [unit, model.model.time.unit].filter(Boolean).join('·')
})
const thingOf = (id: string) => model.model.elements[look.ownerOf(id)]
const nothing = computed(() => {
    if (trail.towards.value === 'effects') {
        return 'Nothing follows from it.'
    }
    return apart.value ? 'Nothing behind it differs.' : 'Nothing moves it at this moment.'
})
const nameOf = (id: string) => look.nameOf(id) ?? id
const throughOf = (cause: string) => (path.length ? [] : (answer.value?.through?.[cause] ?? []).filter((id) => id !== cause).map(nameOf))
</script>

<template>
    <li class="node">
        <div class="line" :class="{ loop }">
            <Button
                v-if="!leaf"
                class="icon-button"
                :aria-expanded="open"
                :aria-label="`${open ? 'Close' : 'Open'} ${name}`"
                @click="trail.toggle(key)"
                ><ChevronDown v-if="open" :size="15" :stroke-width="1.8" /><ChevronRight v-else :size="15" :stroke-width="1.8"
            /></Button>
            <span v-else class="gap"><RefreshCw v-if="loop" :size="13" :stroke-width="1.8" aria-label="Closes a feedback loop" /></span>
            <span v-if="change !== undefined" class="bar" :title="`${full(change)} ${unit}`"
                ><i :class="{ down: change < 0 }" :style="{ width: `${Math.max(2, 50 * Math.min(1, share))}%` }"
            /></span>
            <Button v-if="thing" class="who" :title="name" @click="view.select(look.ownerOf(element))">{{ name }}</Button><span
                v-else
                class="who soft"
                >{{ name }}</span
            >
            <span v-if="change !== undefined" class="change" :title="`${full(change)} ${unit}`"
                ><b>{{ signed(change) }}</b> <span class="soft">{{ unit }}{{ of ? ` ${of}` : '' }}</span></span
            >
            <span v-if="trail.towards.value === 'effects' && change !== undefined" class="soft"
                >{{ short(share, { unit: '%', digits: 2 }) }} % of what moves it</span
            >
            <span v-if="through.length" class="soft tag" :title="`Changed between the two runs: ${through.join(', ')}`"
                >through {{ through.slice(0, 2).join(', ') }}{{ through.length > 2 ? ' …' : '' }}</span
            >
            <span v-if="loop" class="soft tag">closes a loop</span>
            <span v-else-if="trail.stopAtStocks.value && thing?.kind === 'stock' && path.length" class="soft tag">a stock</span>
            <SmallLines
                v-if="thing && thing.kind !== 'curve' && !isOneMember"
                :element="element"
                :measure="trail.parting.value ? 'difference' : 'value'"
            />
            <Button
                v-if="thing"
                class="icon-button"
                :aria-label="`Show ${name} on its sheet`"
                title="Show it on its sheet"
                @click="view.goTo(element)"
                ><MapPin :size="14" :stroke-width="1.6"
            /></Button>
        </div>
        <template v-if="open && !leaf">
            <p v-if="trouble" class="trouble"><SaidText :text="trouble" /></p>
            <template v-else-if="answer && !path.length">
                <section v-if="answer.changes?.length" class="changes">
                    <h3>What was changed</h3>
                    <ul class="plain">
                        <li v-for="(c, i) in answer.changes.slice(0, 12)" :key="i">
                            <Button v-if="c.element && thingOf(c.element)" class="link" @click="view.select(c.element)">{{
                                c.name
                            }}</Button><template v-else>{{ c.name }}</template
                            ><template v-for="f in c.fields" :key="f.field"
                                >, {{ f.field }}: <del v-if="f.was">{{ f.was }}</del> <b>{{ f.now || 'released' }}</b></template
                            >
                        </li>
                        <li v-if="answer.changes.length > 12" class="soft">and {{ answer.changes.length - 12 }} more</li>
                    </ul>
                </section>
                <p class="sum soft">
                    <template v-if="gathered"
                        >{{ answer.isAmount ? 'In all' : 'On average' }}, from {{ model.moment(answer.from ?? 0, false) }} to
                        {{ model.moment(answer.until ?? 0, false) }}: <b>{{ short(answer.value) }}</b> against {{ short(answer.base) }}
                        {{ unitBeside('') }}, {{ signed(answer.difference) }} of difference, shared out among its causes</template
                    >
                    <template v-else-if="apart"
                        >At {{ model.moment(answer.time) }}: <b>{{ short(answer.value, { unit: unitOf }) }}</b> against
                        {{ withUnit(answer.base, unitOf) }}, {{ signed(answer.difference, { unit: unitOf }) }} of difference, shared out
                        among its causes</template
                    >
                    <template v-else-if="trail.towards.value === 'causes'"
                        ><b>{{ withUnit(answer.value, unitOf) }}</b
                        >,
                        {{
                            still ? 'at rest' : `changing by ${signed(answer.rate)} ${perTime(unitOf)}; its causes add up to that`
                        }}</template
                    >
                    <template v-else
                        ><b>{{ withUnit(answer.value, unitOf) }}</b
                        >; what its own movement changes, each in its own unit. Bars show its part in what moves each of them: they do not
                        compare the changes with each other.</template
                    >
                </p>
            </template>
            <p v-for="h in answer?.holds ?? []" :key="h.sentence" class="hold"><SaidText :text="h.sentence" /></p>
            <ul v-if="causes.length && !(still && answer?.holds?.length)">
                <TrailNode
                    v-for="c in causes"
                    :key="c.cause"
                    :element="c.cause"
                    :path="[...path, element]"
                    :change="c.change"
                    :share="c.share ?? (all ? Math.abs(c.change) / all : 0)"
                    :unit="unitBeside(c.cause)"
                    :through="throughOf(c.cause)"
                />
                <li v-if="answer?.rest && Math.abs(answer.rest) > LITTLE * largest" class="soft rest">
                    rounding and second-order effects: {{ signed(answer.rest) }}
                </li>
            </ul>
            <p v-else-if="answer && !answer.holds?.length" class="sum soft">{{ nothing }}</p>
        </template>
    </li>
</template>

<style scoped>
.node {
    list-style: none;
}
ul {
    margin-left: 13px;
    padding-left: 14px;
    border-left: 1px solid var(--hairline);
}
.line {
    display: flex;
    align-items: center;
    gap: 8px;
    min-height: 48px;
}
.gap {
    flex: none;
    display: grid;
    place-items: center;
    width: 30px;
    color: var(--ink-soft);
}
.bar {
    flex: none;
    position: relative;
    width: 84px;
    height: 12px;
    border-left: 1px solid var(--hairline);
    border-right: 1px solid var(--hairline);
    background: linear-gradient(var(--line), var(--line)) center / 1px 100% no-repeat;
}
.bar i {
    position: absolute;
    left: 50%;
    top: 2px;
    bottom: 2px;
    background: var(--ink);
}
.bar i.down {
    left: auto;
    right: 50%;
    background: repeating-linear-gradient(-45deg, var(--ink) 0 3px, transparent 3px 5px);
    border: 1px solid var(--ink);
}
.who {
    flex: none;
    max-width: 230px;
    text-align: left;
    font-weight: 700;
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
}
.who.soft {
    font-weight: 400;
}
.change {
    flex: none;
    font-variant-numeric: tabular-nums;
}
.tag {
    padding: 0 6px;
    border: 1px solid var(--hairline);
    border-radius: 6px;
    font-size: 12px;
}
.line :deep(.small) {
    margin-left: auto;
}
.changes,
.hold {
    margin: 4px 0 6px 38px;
    padding: 6px 10px;
    border-left: 2px solid var(--line);
    background: var(--paper);
}
.changes h3 {
    font-size: 13px;
}
.plain {
    margin: 2px 0 0;
    padding: 0;
    border: 0;
    list-style: none;
    overflow-wrap: anywhere;
}
.link {
    text-decoration: underline;
    text-underline-offset: 3px;
}
del {
    color: var(--ink-soft);
}
.sum {
    padding: 2px 0 4px 38px;
}
.rest {
    padding: 4px 38px;
    list-style: none;
}
.trouble {
    color: var(--brick);
    padding-left: 38px;
}
.loop .who {
    font-weight: 400;
}
</style>
