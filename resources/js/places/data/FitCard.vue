<script setup lang="ts">
import { computed } from 'vue'
import type { Fit } from '@/api/types'
import { useModel } from '@/stores/model'
import { useRuns } from '@/stores/runs'
import { useView } from '@/stores/view'
import { counted, short, shownUnit } from '@/ui/numbers'
import ErrorStalks from './ErrorStalks.vue'
import ErrorShares from './ErrorShares.vue'
import MeasuredError from './MeasuredError.vue'
import { useOtherFits } from './useOtherFits'
import { useData } from './useData'

/** How well the run of this moment fits what was measured. */
const data = useData()
const model = useModel()
const runs = useRuns()
const view = useView()
const { others } = useOtherFits()
const fits = computed(() =>
    data.evidence.map((e) => ({
        evidence: e,
        thing: model.model.elements[e.of],
        name: `${model.model.elements[e.of]?.name ?? ''}${e.at?.length ? `, ${e.at.map(elementName).join(', ')}` : ''}`,
        source: model.model.sources?.[e.source ?? '']?.name ?? '',
        fit: (runs.shown?.fits as Record<string, Fit> | undefined)?.[e.id],
    })),
)
const elementName = (id: string) => model.model.dimensions.flatMap((d) => d.elements).find((e) => e.id === id)?.name ?? id
const unit = (i: number) => fits.value[i]?.thing?.unit ?? ''
const told = (value: number | null | undefined, i: number) =>
    value === null || value === undefined ? '–' : short(value, { unit: unit(i) })
</script>

<template>
    <div class="fit-card" role="region" aria-label="How well the run fits">
        <section v-for="({ evidence, name, source, fit }, i) in fits" :key="evidence.id">
            <header>
                <h2>
                    <Button @click="view.goTo(evidence.of)">{{ name }}</Button>
                </h2>
                <span
                    v-if="fit?.r2 !== null && fit?.r2 !== undefined"
                    class="r2"
                    title="The share of the measured ups and downs that the run has, too"
                    >R² {{ short(fit.r2) }}</span
                >
            </header>
            <p class="soft from">
                the present run{{
                    evidence.over === 'mean' ? ', its mean over each period,' : evidence.over === 'sum' ? ', its sum over each period,' : ''
                }}
                against <b>{{ evidence.column }}</b> of {{ source }}<span v-if="fit"> · {{ counted(fit.n, 'point') }}</span>
            </p>
            <template v-if="fit && fit.n">
                <p v-if="fit.sentence" class="sentence">{{ fit.sentence }}</p>
                <p class="soft">
                    A point is missed by {{ told(fit.rmse, i) }} {{ shownUnit(unit(i)) }} as a rule (RMSE)<template v-if="fit.mape !== null"
                        >, by {{ short(fit.mape) }} % (MAPE{{
                            fit.zeros ? `, without ${counted(fit.zeros, 'measured zero')}` : ''
                        }})</template
                    >.
                </p>
                <ErrorShares v-if="fit.bias !== null" :fit="fit" />
                <ErrorStalks v-if="fit.errors.length" :fit="fit" :unit="unit(i)" />
                <table v-if="others.length" class="others">
                    <caption>
                        Beside other runs
                    </caption>
                    <thead>
                        <tr>
                            <th scope="col">run</th>
                            <th scope="col">R²</th>
                            <th scope="col">RMSE</th>
                            <th scope="col">mean error</th>
                        </tr>
                    </thead>
                    <tbody>
                        <tr
                            v-for="o in [
                                { key: 'shown', name: runs.tried ? 'present' : 'baseline', fits: { [evidence.id]: fit } },
                                ...others,
                            ]"
                            :key="o.key"
                        >
                            <th scope="row">{{ o.name }}</th>
                            <td>{{ told(o.fits?.[evidence.id]?.r2, -1) }}</td>
                            <td>{{ told(o.fits?.[evidence.id]?.rmse, i) }}</td>
                            <td>{{ told(o.fits?.[evidence.id]?.mean_error, i) }}</td>
                        </tr>
                    </tbody>
                </table>
                <dl>
                    <div>
                        <dt>mean error</dt>
                        <dd>{{ told(fit.mean_error, i) }}</dd>
                    </div>
                    <div>
                        <dt>mean size of errors (MAE)</dt>
                        <dd>{{ told(fit.mae, i) }}</dd>
                    </div>
                    <div>
                        <dt>correlation</dt>
                        <dd>{{ fit.correlation === null ? '–' : short(fit.correlation) }}</dd>
                    </div>
                    <div title="Near 1: an error is like the one before; then something is missing that lasts">
                        <dt>errors alike from point to point</dt>
                        <dd>{{ fit.autocorrelation === null ? '–' : short(fit.autocorrelation) }}</dd>
                    </div>
                </dl>
            </template>
            <p v-else-if="fit" class="soft">No point lies within the run.</p>

            <p v-else class="soft">{{ runs.shown ? 'The run tells nothing of it yet.' : 'There is no run yet.' }}</p>
            <MeasuredError :evidence="evidence" :unit="unit(i)" />
        </section>
        <section v-if="!fits.length">
            <h2>How well it fits</h2>
            <p class="soft">
                Once a series is kept, it lies as points over every plot of its variable, and here is told how far the run is from it, and
                in which way.
            </p>
        </section>
    </div>
</template>

<style scoped>
.fit-card {
    display: grid;
    align-content: start;
}
section {
    display: grid;
    gap: 8px;
    padding: 14px 18px 18px;
    border-bottom: 1px solid var(--hairline);
}
section > header {
    display: flex;
    align-items: baseline;
    justify-content: space-between;
    gap: 10px;
}
h2 button {
    font-weight: 700;
    text-align: left;
}
.r2 {
    font-weight: 700;
    white-space: nowrap;
}
p {
    margin: 0;
    line-height: 1.4;
}
.from {
    margin-top: -6px;
}
.sentence {
    font-size: 15px;
}
.others {
    border-collapse: collapse;
    font-size: 13px;
}
.others caption {
    text-align: left;
    font-weight: 700;
}
.others th,
.others td {
    padding: 2px 0 2px 8px;
    text-align: right;
    font-weight: 400;
    font-variant-numeric: tabular-nums;
}
.others th:first-child {
    padding-left: 0;
    text-align: left;
}
.others thead th {
    color: var(--ink-soft);
}
dl {
    display: grid;
    gap: 3px;
    margin: 0;
}
dl div {
    display: flex;
    justify-content: space-between;
    gap: 10px;
}
dt {
    color: var(--ink-soft);
}
dd {
    margin: 0;
    font-variant-numeric: tabular-nums;
}
</style>
