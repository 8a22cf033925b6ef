<script setup lang="ts">
import { computed } from 'vue'
import { useEffects } from '@/stores/effects'
import { useLook } from '@/stores/look'
import { useModel } from '@/stores/model'
import { useRuns } from '@/stores/runs'
import { useView } from '@/stores/view'
import TalkPart from '@/talk/TalkPart.vue'
import { withUnit } from '@/ui/numbers'

const model = useModel()
const view = useView()
const effects = useEffects()
const runs = useRuns()
const look = useLook()

const ends = computed(() => view.link.split('>').map((id) => model.model.elements[id]))
const link = computed(() => model.model.links.find((l) => `${l.from}>${l.to}` === view.link))
const sign = computed(() => effects.signOf(view.link, link.value?.sign))
const at = computed(() => effects.at[view.link])
const words = computed(() => {
    const [from, to] = ends.value
    switch (sign.value) {
        case '+':
            return `More ${from?.name} makes more ${to?.name}, all else equal.`
        case '-':
            return `More ${from?.name} makes less ${to?.name}, all else equal.`
        case '±':
            return `At times more ${from?.name} makes more ${to?.name}, at times less: the sign changed during the last run.`
        default:
            return 'Which way it acts cannot be told from the formula or from the last run.'
    }
})
/** Along which the affected thing is not looked at one by one: then nothing is told. */
const open = computed(() => (ends.value[1] ? look.openOf(ends.value[1])[0] : undefined))
const looked = computed(() => look.nameOf(look.subjectOf(ends.value[1]?.id ?? '')) ?? ends.value[1]?.name)
const settled = computed(() => link.value?.sign !== null && link.value?.sign !== undefined)
function say(id: string) {
    view.select(id)
    view.saying = id
}
</script>

<template>
    <section v-if="link && ends[0] && ends[1]" class="link-card" aria-label="Card of a link">
        <header>
            <h2>Link</h2>
            <p class="soft">
                {{
                    link.kind === 'start'
                        ? 'used for the initial value'
                        : link.kind === 'unused'
                          ? 'drawn, not used yet'
                          : link.late
                            ? 'acts late'
                            : 'acts at once'
                }}
            </p>
        </header>
        <p class="chips">
            <Button class="chip" @click="view.select(link.from)">{{ ends[0].name }}</Button> →
            <Button class="chip" @click="view.select(link.to)">{{ ends[1].name }}</Button>
        </p>
        <template v-if="link.kind !== 'unused'">
            <p>
                <b class="sign">{{ sign.replace('-', '−') || '·' }}</b> {{ words }}
                <span v-if="sign" class="soft">{{ settled ? 'The formula says so.' : 'Seen in the last run.' }}</span>
            </p>
            <p v-if="view.strengths && at" class="soft">
                At {{ model.moment(view.playhead) }} one {{ ends[0].unit || 'unit' }} more of {{ ends[0].name }} changes {{ looked }} by
                {{ withUnit(at.effect, ends[1].unit, { size: runs.size(ends[1].id) }) }}; it makes {{ Math.round(100 * at.share) }} % of
                what the causes do together.
            </p>
            <p v-else-if="view.strengths && open" class="soft">
                It acts otherwise on each {{ open.name }}. Choose one of them above, and it is told how strongly it acts there.
            </p>
            <Button v-else class="button" @click="view.strengths = true">How strongly does it act?</Button>
        </template>
        <div class="acts">
            <Button
                v-if="link.kind === 'unused'"
                class="button"
                @click="model.attempt({ kind: 'disconnect', from: link.from, to: link.to })"
                >Remove it</Button
            >
            <Button v-else class="button" @click="say(link.to)">Open the formula</Button>
            <Button
                v-if="model.model.bends[view.link]"
                class="button"
                @click="model.attempt({ kind: 'bend', from: link.from, to: link.to, by: null })"
                >Straighten</Button
            >
        </div>
        <p class="soft small">Drag the handle in its middle to bend it; the arrow keys do the same.</p>
        <TalkPart :key="view.link" about="link" :subject="view.link" />
    </section>
</template>

<style scoped>
.link-card {
    display: grid;
    gap: 14px;
    padding: 14px 18px 24px;
}
h2 {
    font-size: 17px;
}
.sign {
    display: inline-grid;
    place-items: center;
    width: 20px;
    height: 20px;
    border: 1px solid var(--line);
    border-radius: 50%;
}
.acts {
    display: flex;
    flex-wrap: wrap;
    gap: 8px;
}
.chips {
    display: flex;
    flex-wrap: wrap;
    align-items: center;
    gap: 6px;
}
.small {
    font-size: 13px;
}
</style>
