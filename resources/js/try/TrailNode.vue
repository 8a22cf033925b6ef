<script setup lang="ts">
import { ChevronDown, ChevronRight, MapPin, RefreshCw } from '@lucide/vue'
import { computed, inject, onMounted, ref, watch } from 'vue'
import { api } from '@/api/client'
import type { TrailAnswer } from '@/api/types'
import SmallLines from '@/charts/SmallLines.vue'
import { useModel } from '@/stores/model'
import { useView } from '@/stores/view'
import { full, short, shownUnit } from '@/ui/numbers'
import { asTrail, CAUSES } from './trail'

/** One variable on a trail, and what lies behind it. */
const { element, path, change = undefined, share = 0, unit = '', of = '' } = defineProps<{ element: string, path: string[], change?: number, /** Of what moves the one before it. */ share?: number, unit?: string, of?: string }>()
const model = useModel()
const view = useView()
const trail = inject(asTrail, () => { throw new Error('A node stands on a trail.') }, true)

const thing = computed(() => model.model.elements[element])
const name = computed(() => thing.value?.name ?? CAUSES[element] ?? element)
const loop = computed(() => path.includes(element))
const leaf = computed(() => !thing.value || loop.value || thing.value.kind === 'parameter' || (trail.stopAtStocks.value && thing.value.kind === 'stock' && path.length > 0))
const key = computed(() => [...path, element].join('>'))
const open = computed(() => trail.open.value.has(key.value))
const answer = ref<TrailAnswer>()
const trouble = ref('')
const causes = computed(() => (answer.value?.causes ?? answer.value?.effects?.map((e) => ({ cause: e.effect, change: e.change, share: e.share })) ?? []).filter((c) => Math.abs(c.change) > 1e-12 || trail.towards.value === 'effects'))
const all = computed(() => causes.value.reduce((sum, c) => sum + Math.abs(c.change), 0))

let asked = 0
async function ask() {
    if (!open.value || leaf.value) {
        return
    }
    const mine = ++asked
    try {
        const found = await api.trail(model.id, { run: trail.run.value, ...(trail.base.value && trail.towards.value === 'causes' ? { base: trail.base.value } : {}), element, time: trail.time.value, towards: trail.towards.value })
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
const unitOf = computed(() => (thing.value && thing.value.unit !== '1' ? shownUnit(thing.value.unit) : ''))
</script>

<template>
    <li class="node">
        <div class="line" :class="{ loop }">
            <button v-if="!leaf" type="button" class="icon-button" :aria-expanded="open" :aria-label="`${open ? 'Close' : 'Open'} ${name}`" @click="trail.toggle(key)"><ChevronDown v-if="open" :size="15" :stroke-width="1.8" /><ChevronRight v-else :size="15" :stroke-width="1.8" /></button>
            <span v-else class="gap"><RefreshCw v-if="loop" :size="13" :stroke-width="1.8" aria-label="Closes a feedback loop" /></span>
            <span v-if="change !== undefined" class="bar" :title="`${full(change)} ${unit}`"><i :class="{ down: change < 0 }" :style="{ width: `${Math.max(2, 50 * Math.min(1, share))}%` }" /></span>
            <button v-if="thing" type="button" class="who" @click="view.select(element)">{{ name }}</button><span v-else class="who soft">{{ name }}</span>
            <span v-if="change !== undefined" class="change"><b>{{ change > 0 ? '+' : '' }}{{ short(change) }}</b> <span class="soft">{{ unit }}{{ of ? ` ${of}` : '' }}</span></span>
            <span v-if="loop" class="soft tag">closes a loop</span>
            <span v-else-if="trail.stopAtStocks.value && thing?.kind === 'stock' && path.length" class="soft tag">a stock</span>
            <SmallLines v-if="thing && thing.kind !== 'curve'" :element="element" :measure="trail.parting.value ? 'difference' : 'value'" />
            <button v-if="thing" type="button" class="icon-button" :aria-label="`Show ${name} on its sheet`" title="Show it on its sheet" @click="view.goTo(element)"><MapPin :size="14" :stroke-width="1.6" /></button>
        </div>
        <template v-if="open && !leaf">
            <p v-if="trouble" class="trouble">{{ trouble }}</p>
            <p v-else-if="answer && !path.length" class="sum soft">
                <template v-if="apart"><b>{{ short(answer.value) }}</b> against {{ short(answer.base) }}{{ unitOf ? ` ${unitOf}` : '' }}: {{ (answer.difference ?? 0) > 0 ? '+' : '' }}{{ short(answer.difference) }}, shared out among its causes</template>
                <template v-else-if="trail.towards.value === 'causes'"><b>{{ short(answer.value) }} {{ unitOf }}</b>, changing by {{ (answer.rate ?? 0) > 0 ? '+' : '' }}{{ short(answer.rate) }} per {{ model.model.time.unit }}; its causes add up to that</template>
                <template v-else><b>{{ short(answer.value) }} {{ unitOf }}</b>; what its own movement changes</template>
            </p>
            <ul v-if="causes.length">
                <TrailNode v-for="c in causes" :key="c.cause" :element="c.cause" :path="[...path, element]" :change="c.change" :share="'share' in c ? (c.share as number) : all ? Math.abs(c.change) / all : 0" :unit="apart ? unitOf : `${unitOf} per ${model.model.time.unit}`" />
                <li v-if="answer?.rest && Math.abs(answer.rest) > 1e-6 * all" class="soft rest">and {{ short(answer.rest) }} that cannot be told apart</li>
            </ul>
            <p v-else-if="answer" class="sum soft">Nothing {{ trail.towards.value === 'causes' ? (apart ? 'differs behind it' : 'moves it at this moment') : 'follows from it' }}.</p>
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
button.who:hover {
    text-decoration: underline;
    text-underline-offset: 3px;
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
