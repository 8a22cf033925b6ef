<script setup lang="ts">
import { PanelLeftClose, Plus, X } from '@lucide/vue'
import { computed, ref } from 'vue'
import type { Thing } from '@/api/types'
import LawCurve from '@/card/LawCurve.vue'
import LawField from '@/card/LawField.vue'
import { makeUncertain } from '@/card/uncertainEdits'
import VariableField from '@/find/VariableField.vue'
import { keyOf, useEnsembles } from '@/stores/ensembles'
import { useLook } from '@/stores/look'
import { useModel } from '@/stores/model'
import { useView } from '@/stores/view'
import RankPairs from './RankPairs.vue'

/** What is uncertain, each with its distribution, and which go together. */
const model = useModel()
const look = useLook()
const view = useView()
const ensembles = useEnsembles()
const open = ref('')
const adding = ref(false)
const inputs = computed(() =>
    Object.values(model.model.uncertain ?? {}).flatMap((u) => {
        const thing = model.model.elements[u.of]
        return thing ? [{ ...u, thing, name: look.nameOf(keyOf(u)) ?? thing.name }] : []
    }),
)
const parameters = computed(() => model.things.filter((t) => t.kind === 'parameter'))
const taken = computed(() => inputs.value.filter((u) => !u.at?.length).map((u) => u.of))
async function add(id: string) {
    const thing = model.model.elements[id] as Thing | undefined
    adding.value = false
    const made = thing && (await makeUncertain(model, thing))
    if (made) {
        open.value = made
    }
}
/** One line below the name: 0.9 ± 0.06. */
function brief(law: string): string {
    const [, family = '', numbers = '', limits = ''] = /^([a-z]+)\((.*?)\)(.*)$/.exec(law) ?? []
    const list = numbers.split(',').map((n) => n.trim())
    const words =
        family === 'normal' || family === 'lognormal'
            ? `${list[0] ?? ''} ± ${list[1] ?? ''}`
            : family === 'uniform'
              ? `${list[0] ?? ''} to ${list[1] ?? ''}`
              : family === 'triangular'
                ? list.join(' – ')
                : family === 'empirical'
                  ? `${list.length} values seen`
                  : `${family} ${numbers}`
    return `${words}${limits.trim() ? `, ${limits.trim().replace('..', ' to ')}` : ''}`
}
</script>

<template>
    <nav class="panel" aria-label="Uncertain inputs">
        <section>
            <header>
                <h2>Uncertain inputs</h2>
                <span class="soft">{{ ensembles.inputs.length }} of {{ parameters.length }}</span>
                <Button class="icon-button" aria-label="Add an uncertain input" title="Add an uncertain input" @click="adding = !adding"
                    ><Plus :size="16" :stroke-width="1.7"
                /></Button>
                <Button class="icon-button" aria-label="Hide this column" title="Hide this column" @click="view.outline = false"
                    ><PanelLeftClose :size="15" :stroke-width="1.6"
                /></Button>
            </header>
            <VariableField
                v-if="adding || !inputs.length"
                label="Which parameter is uncertain?"
                placeholder="Which parameter?"
                :only="parameters"
                :except="taken"
                @choose="add"
            />
            <div v-for="u in inputs" :key="u.id" class="input" :class="{ off: u.off }">
                <Button class="head" :aria-expanded="open === u.id" @click="open = open === u.id ? '' : u.id"
                    ><span class="words"
                        ><b>{{ u.name }}</b
                        ><small :title="u.law">{{ u.off ? 'not drawn' : brief(u.law) }}</small></span
                    ><LawCurve :law="u.law"
                /></Button>
                <div v-if="open === u.id" class="body">
                    <LawField :thing="u.thing" :input="u" />
                    <div class="acts">
                        <label class="soft"
                            ><Checkbox
                                :model-value="!u.off"
                                binary
                                @update:model-value="
                                    model.attempt({ kind: 'put', part: 'uncertain', id: u.id, fields: { off: $event ? null : true } })
                                "
                            />
                            drawn</label
                        >
                        <Button
                            class="icon-button"
                            :aria-label="`${u.name} is certain: remove it here`"
                            title="It is certain: remove it here"
                            @click="model.attempt({ kind: 'drop', part: 'uncertain', id: u.id })"
                            ><X :size="14" :stroke-width="1.7"
                        /></Button>
                    </div>
                </div>
            </div>
            <p v-if="!inputs.length" class="soft">A parameter of which you know how likely its values are, rather than the value.</p>
        </section>
        <RankPairs
            v-if="inputs.filter((u) => !u.off && !u.at?.length).length > 1"
            :inputs="inputs.filter((u) => !u.off && !u.at?.length)"
        />
    </nav>
</template>

<style scoped>
.panel {
    overflow-y: auto;
    border-right: 1px solid var(--hairline);
    background: var(--card);
    padding-bottom: 20px;
    container-type: inline-size;
}
section {
    padding: 8px 12px 10px 14px;
    border-bottom: 1px solid var(--hairline);
}
header {
    display: flex;
    align-items: center;
    gap: 6px;
    min-height: 28px;
}
h2 {
    flex: 1;
    font-size: 14px;
    font-weight: 700;
    white-space: nowrap;
}
header .soft {
    white-space: nowrap;
    font-size: 12.5px;
}
@container (width < 215px) {
    header .soft {
        display: none;
    }
}
header .icon-button {
    width: 26px;
    height: 26px;
}
.head {
    display: flex;
    align-items: center;
    gap: 8px;
    width: 100%;
    padding: 4px 0;
    text-align: left;
}
.words {
    flex: 1;
    display: grid;
    min-width: 0;
}
.words b {
    font-weight: 500;
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
}
.words small {
    font-size: 12.5px;
    color: var(--ink-soft);
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
}
.head[aria-expanded='true'] b {
    font-weight: 700;
}
.off .head {
    opacity: 0.55;
}
.body {
    padding: 2px 0 10px;
}
.acts {
    display: flex;
    justify-content: space-between;
    align-items: center;
    margin-top: 6px;
    font-size: 13px;
}
.soft {
    font-size: 13px;
}
</style>
