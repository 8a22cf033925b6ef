<script setup lang="ts">
import { ChevronLeft, ChevronRight } from '@lucide/vue'
import { computed, ref, watch } from 'vue'
import type { Shown, ShownPage, Wish } from '@/api/shown'
import type { Arranging } from './arranging'
import ReaderStep from './ReaderStep.vue'
import ReaderText from './ReaderText.vue'
import { literal } from '@/ui/numbers'

/** A page for readers: a well-set article that answers. */
const {
    page,
    ask,
    arranging = undefined,
} = defineProps<{
    page: ShownPage
    ask: (wish: Wish) => Promise<Shown>
    /** Of who writes the page. */ arranging?: Arranging
}>()
const at = ref(0)
const top = ref<HTMLElement>()
watch(
    () => page.steps.length,
    (count) => {
        at.value = Math.min(at.value, Math.max(0, count - 1))
    },
)
const turned = computed(() => page.turned && page.steps.length > 1)
const shown = computed(() => (turned.value ? page.steps.slice(at.value, at.value + 1) : page.steps))
const before = computed(() => page.steps[at.value - 1])
const next = computed(() => page.steps[at.value + 1])
const span = computed(
    () => `${literal(page.time.end - page.time.start)} ${page.time.unit}${page.time.end - page.time.start === 1 ? '' : 's'}`,
)
/** Dots on an arc, as a pendulum passes. */
const dots = computed(() =>
    page.steps.map((s, i) => {
        const share = page.steps.length === 1 ? 0.5 : i / (page.steps.length - 1)
        return { id: s.id, title: s.title, left: 8 + 118 * share, top: 15 - 9 * Math.sin(Math.PI * share) }
    }),
)
function turn(to: number) {
    at.value = to
    top.value?.scrollIntoView({ block: 'start' })
}
</script>

<template>
    <article class="article">
        <header>
            <p class="from">
                From the study <strong>{{ page.study }}</strong>
            </p>
            <h1>{{ page.title }}</h1>
            <ReaderText v-if="page.lead" class="lead" :words="page.lead" large />
        </header>
        <div ref="top" />
        <ReaderStep
            v-for="step in shown"
            :key="step.id"
            :page="page"
            :step="step"
            :at="turned ? `${at + 1} of ${page.steps.length}` : ''"
            :ask="ask"
            :arranging="arranging"
        />
        <p class="source soft">
            Source: the model <strong>{{ page.study }}</strong>, version {{ page.version }}, {{ span }}, {{ page.time.method }}, step
            {{ literal(page.time.step) }}. What it shows is computed from the model as you look.
        </p>
        <nav v-if="turned" aria-label="Steps">
            <Button v-if="before" class="way" @click="turn(at - 1)"
                ><ChevronLeft :size="18" :stroke-width="1.6" />{{ before.title }}</Button
            >
            <span v-else />
            <span class="arc">
                <svg width="134" height="24" aria-hidden="true"><path d="M2 19Q67 -3 132 19" fill="none" stroke="var(--line)" /></svg>
                <Button
                    v-for="(dot, i) in dots"
                    :key="dot.id"
                    class="dot"
                    :class="{ here: i === at }"
                    :style="{ left: `${dot.left}px`, top: `${dot.top}px` }"
                    :aria-label="`${i + 1}: ${dot.title}`"
                    :aria-current="i === at ? 'step' : undefined"
                    :title="dot.title"
                    @click="turn(i)"
                />
            </span>
            <Button v-if="next" class="way on" @click="turn(at + 1)"
                >{{ next.title }}<ChevronRight :size="18" :stroke-width="1.6"
            /></Button>
            <span v-else />
        </nav>
    </article>
</template>

<style scoped>
.article {
    container-type: inline-size;
    max-width: 1180px;
    margin: 0 auto;
    padding: 26px 32px 24px;
}
.from {
    color: var(--ink-soft);
    margin-bottom: 26px;
}
h1 {
    max-width: 18ch;
    font-size: 46px;
    line-height: 1.08;
    letter-spacing: -0.01em;
    text-wrap: balance;
}
.lead {
    margin: 16px 0 34px;
    max-width: 52ch !important;
}
.step + .step {
    margin-top: 56px;
}
.source {
    margin-top: 30px;
    max-width: 80ch;
    font-size: 13px;
}
nav {
    display: grid;
    grid-template-columns: 1fr auto 1fr;
    align-items: center;
    gap: 12px;
    margin-top: 22px;
    padding-top: 14px;
    border-top: 1px solid var(--hairline);
}
.way {
    display: flex;
    align-items: center;
    gap: 8px;
    min-height: 40px;
    text-align: left;
}
.way.on {
    justify-self: end;
    text-align: right;
    font-weight: 700;
}
.way:hover {
    text-decoration: underline;
    text-underline-offset: 4px;
}
.arc {
    position: relative;
    width: 134px;
    height: 24px;
}
.dot {
    position: absolute;
    width: 24px;
    height: 24px;
    margin: -12px 0 0 -12px;
    border-radius: 50%;
}
.dot::after {
    content: '';
    position: absolute;
    inset: 7px;
    border: 1.5px solid var(--ink);
    border-radius: 50%;
    background: var(--paper);
}
.dot.here::after {
    border-color: var(--ember);
    background: var(--ember);
}
@container (width < 760px) {
    h1 {
        font-size: 30px;
    }
    .lead {
        margin: 10px 0 22px;
    }
    .from {
        margin-bottom: 14px;
    }
    nav {
        position: sticky;
        bottom: 0;
        background: var(--paper);
        padding-bottom: 10px;
    }
    .way {
        font-size: 13px;
    }
}
@media (width < 760px) {
    .article {
        padding: 16px 18px 0;
    }
}
</style>
