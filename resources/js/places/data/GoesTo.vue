<script setup lang="ts">
import { computed } from 'vue'
import { useModel } from '@/stores/model'
import ChoiceField from '@/ui/ChoiceField.vue'
import { short, shownUnit } from '@/ui/numbers'
import { ERROR_OF, SERIES, useData, type Between, type Role } from './useData'

/** Which series becomes which variable's evidence, and what becomes of its unit. */
const data = useData()
const model = useModel()
const NONE = ''
const ROLES: { value: Role; words: string }[] = [
    { value: 'evidence', words: 'as evidence' },
    { value: 'drives', words: 'drives it; held before and after' },
    { value: 'drives within', words: 'drives it; else its formula' },
]
const WAYS: { value: Between; words: string }[] = [
    { value: 'straight', words: 'straight between points' },
    { value: 'stepped', words: 'each until the next' },
    { value: 'smooth', words: 'smooth through the points' },
]
const drives = (i: number) =>
    data.ties[i] === SERIES || (!(data.ties[i] ?? '').startsWith(ERROR_OF) && (data.roles[i] ?? 'evidence') !== 'evidence')
const variables = computed(() =>
    model.things
        .filter((t) => ['stock', 'flow', 'auxiliary', 'parameter'].includes(t.kind) && !t.along)
        .map((t) => ({ value: t.id, words: t.unit ? `${t.name} (${shownUnit(t.unit)})` : t.name }))
        .sort((a, b) => a.words.localeCompare(b.words)),
)
/** Series that are evidence: another column may say how exact they are. */
const tied = computed(() =>
    (data.table?.series ?? [])
        .map((series, i) => ({ series, i }))
        .filter(({ i }) => data.tied.some((t) => t.series === i && t.key !== SERIES)),
)
const rows = computed(() =>
    (data.table?.series ?? []).map((s, i) => {
        const key = data.ties[i] ?? NONE
        const made = data.made[i]
        const choices = [
            { value: NONE, words: 'nothing: leave it out' },
            { value: SERIES, words: 'a series of the model' },
            ...tied.value
                .filter((t) => t.i !== i && !t.series.label.startsWith('*'))
                .map((t) => ({ value: `${ERROR_OF}${t.i}`, words: `how exact ${t.series.label} is (standard deviation)` })),
            ...variables.value,
        ]
        const own = s.match?.key ?? key
        if (own && !choices.some((c) => c.value === own)) {
            choices.push({
                value: own,
                words: `${model.model.elements[s.match?.of ?? data.made[i]?.of ?? '']?.name ?? ''}: ${Object.values(s.elements).join(', ')}`,
            })
        }
        return {
            series: s,
            i,
            key,
            made,
            choices,
            isGuess: !data.source && key !== NONE && !s.match?.exact && key === s.match?.key,
        }
    }),
)
function tie(i: number, key: string | undefined) {
    data.ties = { ...data.ties, [i]: key ?? NONE }
}
</script>

<template>
    <section class="goes" aria-label="What goes to the model">
        <h3>Goes to the model as</h3>
        <div class="list">
            <div v-for="r in rows" :key="r.i" class="row">
                <span class="from"
                    ><b>{{ r.series.label }}</b
                    ><span class="soft">{{ r.series.count }} values{{ r.series.unit ? ` in ${r.series.unit}` : '' }}</span></span
                >
                <span aria-hidden="true">→</span>
                <ChoiceField
                    :model-value="r.key"
                    :label="`What ${r.series.label} is`"
                    :choices="r.choices"
                    @update:model-value="tie(r.i, $event)"
                />
                <ChoiceField
                    v-if="r.key && r.key !== SERIES && !r.key.startsWith(ERROR_OF)"
                    :model-value="data.roles[r.i] ?? 'evidence'"
                    :label="`What ${r.series.label} does`"
                    :choices="ROLES"
                    @update:model-value="data.roles = { ...data.roles, [r.i]: $event ?? 'evidence' }"
                />
                <span v-else />
                <ChoiceField
                    v-if="r.key && drives(r.i)"
                    class="way"
                    :model-value="data.wayOf(r.i)"
                    :label="`How ${r.series.label} runs between its points`"
                    :choices="WAYS"
                    @update:model-value="data.ways = { ...data.ways, [r.i]: $event ?? 'straight' }"
                />
                <span class="said soft" :class="{ beside: !r.key || !drives(r.i) }">
                    <template v-if="r.made">{{ r.made.said }}</template>
                    <Button v-if="r.made?.proposal" class="proposal" @click="data.addStep(r.made.proposal)">{{
                        r.made.proposal.do === 'rate'
                            ? `They are amounts: make rates per ${r.made.proposal.to}`
                            : `They are rates: make amounts of them`
                    }}</Button>
                    <b v-if="r.isGuess" class="guess"> a likely name: is it right?</b>
                    <template v-if="r.made?.since && (r.made.since.fresh || r.made.since.changed.length || r.made.since.gone.length)">
                        · {{ r.made.since.fresh }} new, {{ r.made.since.changed.length }} changed, {{ r.made.since.gone.length }} gone
                        <details v-if="r.made.since.changed.length || r.made.since.gone.length">
                            <summary>which</summary>
                            <span v-for="[t, was, is] in r.made.since.changed.slice(0, 30)" :key="t"
                                >{{ model.moment(t) }}: {{ short(was) }} is {{ short(is) }} now<br
                            /></span>
                            <span v-for="[t, v] in r.made.since.gone.slice(0, 30)" :key="t"
                                >{{ model.moment(t) }}: {{ short(v) }} is gone<br
                            /></span>
                        </details>
                    </template>
                </span>
            </div>
        </div>
    </section>
</template>

<style scoped>
.goes {
    display: grid;
    grid-template-rows: auto minmax(0, 1fr);
    gap: 6px;
    padding: 10px 18px 12px;
    border-top: 1px solid var(--hairline);
    max-height: 40%;
    min-height: 0;
}
h3 {
    font-size: 14px;
}
.list {
    display: grid;
    gap: 6px;
    overflow-y: auto;
    align-content: start;
}
.way {
    grid-column: 3;
}
.said:not(.beside) {
    grid-column: 4 / -1;
}
.row {
    display: grid;
    grid-template-columns: minmax(140px, 1.4fr) 18px minmax(120px, 1.3fr) minmax(110px, 1fr) minmax(80px, 1fr);
    gap: 10px;
    align-items: center;
}
.from {
    display: grid;
    line-height: 1.25;
    overflow: hidden;
}
.from b {
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
}
.said {
    font-size: 13px;
    line-height: 1.3;
}
.guess {
    color: var(--brick);
    font-weight: 400;
}
.proposal {
    display: block;
    text-align: left;
    color: var(--ink);
    text-decoration: underline;
    text-underline-offset: 3px;
}
summary {
    cursor: pointer;
}
</style>
