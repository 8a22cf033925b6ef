<script setup lang="ts">
import { Shapes } from '@lucide/vue'
import { computed, ref } from 'vue'
import { useMembers } from '@/stores/members'
import { useView } from '@/stores/view'
import { useModel } from '@/stores/model'
import { useRuns } from '@/stores/runs'
import ChoiceField from '@/ui/ChoiceField.vue'
import { shownUnit } from '@/ui/numbers'
import LivesPicture from './LivesPicture.vue'
import { isCondition } from './lives'
import MembersTabs from './MembersTabs.vue'
import RosterDialog from './RosterDialog.vue'
import SpansPicture from './SpansPicture.vue'

/** Single members of a roster: how one variable of each goes, who came and who left. */
const members = useMembers()
const view = useView()
const model = useModel()
const runs = useRuns()
const making = ref(false)
const choices = computed(() =>
    (members.muster?.columns ?? []).map((c) => ({ value: c.key, words: shownUnit(c.unit) ? `${c.name}, ${shownUnit(c.unit)}` : c.name })),
)
const of = computed({
    get: () => members.muster?.of ?? '',
    set: (key: string) => {
        members.of = key
    },
})
/** Of very many not all have a line; percentiles and counts are of all. */
const lines = computed(() => {
    const [drawn, all] = [members.muster?.lives.length ?? 0, members.muster?.members.length ?? 0]
    return drawn < all ? `lines of the first ${drawn} of ${all}` : 'one line each'
})
const whose = computed(() => (runs.tried ? 'what is tried now' : 'this run'))
</script>

<template>
    <section class="leaf members" aria-label="Members">
        <RosterDialog v-if="making" @done="making = false" />
        <div v-if="!members.isThere" class="empty">
            <Shapes :size="30" :stroke-width="1.3" />
            <p>
                Here single things live: boats, households, works. Each has the same small model with numbers of its own; they come and go,
                and what they do together goes back into the rest of the study.
            </p>
            <p><Button class="button strong" :disabled="!model.loaded" @click="making = true">Make a roster of a table</Button></p>
        </div>
        <template v-else>
            <header :class="{ beside: !view.outline }">
                <MembersTabs />
                <h2>
                    <ChoiceField v-if="choices.length" v-model="of" class="which" label="What is drawn of each" :choices="choices" />
                    <span
                        >of each {{ members.roster?.name }} <small class="soft">{{ lines }} · {{ whose }}</small></span
                    >
                </h2>
            </header>
            <p v-if="members.refusal" class="refusal" role="alert">{{ members.refusal }}</p>
            <p v-if="members.muster && !members.muster.columns.length" class="none soft">
                A {{ members.roster?.name }} has nothing yet. In Model, let a stock or a formula extend over it: its card says “over”.
            </p>
            <SpansPicture v-else-if="members.muster && isCondition(members.muster)" />
            <LivesPicture v-else />
        </template>
    </section>
</template>

<style scoped>
.members {
    display: flex;
    flex-direction: column;
    height: 100%;
    min-height: 0;
}
header {
    display: flex;
    flex-wrap: wrap;
    align-items: center;
    gap: 6px 16px;
    padding: 8px 16px 4px;
}
h2 {
    display: flex;
    flex-wrap: wrap;
    align-items: baseline;
    gap: 4px 10px;
    font-size: 15px;
}
.which {
    min-width: 190px;
}
small {
    margin-left: 6px;
    font-size: 13px;
    font-weight: 400;
}
.soft {
    color: var(--ink-soft);
}
.refusal {
    margin: 4px 16px;
    color: var(--brick);
}
.none {
    padding: 16px;
}
.beside {
    padding-left: 54px;
}
</style>
