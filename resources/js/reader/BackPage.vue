<script setup lang="ts">
import { Check } from '@lucide/vue'
import { computed, onMounted, ref, shallowRef } from 'vue'
import { useRoute } from 'vue-router'
import { ProblemError } from '@/api/client'
import { shown, type Sent } from '@/api/shown'
import PaperPage from '@/people/PaperPage.vue'
import { useAct } from '@/people/useAct'
import { WINDOW } from '@/stores/waiting'
import ChangeSaid from '@/ui/ChangeSaid.vue'

/** A copy that was sent back: what was changed in it, in words, and single changes of it taken over into the study. */
const key = useRoute().hash.slice(1)
const sent = shallowRef<Sent | null>(null)
const gone = ref('')
const { wrong, busy, act } = useAct()
const left = computed(() => sent.value?.changes.filter((c) => !c.taken).length ?? 0)
onMounted(async () => {
    try {
        sent.value = await shown.sent(key)
    } catch (error) {
        gone.value =
            error instanceof ProblemError && error.status === 404
                ? 'This address leads nowhere any more, or shows a copy of a study that is not shared with you.'
                : (error as Error).message
    }
})
const take = (change: string) =>
    act(async () => {
        if (sent.value) {
            sent.value = await shown.takeOver(key, change, WINDOW, sent.value.revision)
        }
    })
</script>

<template>
    <PaperPage v-if="sent" title="A copy was sent back" wide>
        <p>
            Somebody changed a copy of <RouterLink class="quiet" :to="`/studies/${sent.study}`">{{ sent.name }}</RouterLink>.
            {{ sent.changes.length ? 'This is what they did.' : 'They have changed nothing yet.' }}
            <template v-if="sent.changes.length && sent.mayTake">What you take over is an edit of yours, and can be undone.</template>
        </p>
        <ul class="changes" aria-label="What they changed">
            <li v-for="c in sent.changes" :key="c.key" :class="{ taken: c.taken }">
                <ChangeSaid :change="c" />
                <span class="act">
                    <span v-if="c.taken" class="soft"><Check :size="15" /> taken over</span>
                    <Button
                        v-else-if="sent.mayTake"
                        class="button small"
                        :disabled="busy"
                        :aria-label="`Take over: ${c.name}`"
                        @click="take(c.key)"
                        >Take it over</Button
                    >
                    <small v-if="c.both" class="soft">changed here, too, since</small>
                </span>
            </li>
        </ul>
        <p v-if="wrong" class="wrong" role="alert">{{ wrong }}</p>
        <p v-if="sent.changes.length && !left" role="status">
            All of it is taken over. <RouterLink class="quiet" :to="`/studies/${sent.study}`">Open {{ sent.name }}</RouterLink>
        </p>
    </PaperPage>
    <PaperPage v-else-if="gone" title="There is nothing here">
        <p role="alert">{{ gone }}</p>
    </PaperPage>
</template>

<style scoped>
.changes {
    margin: 20px 0;
    padding: 0;
    list-style: none;
    border-top: 1px solid var(--hairline);
}
.changes li {
    display: flex;
    flex-wrap: wrap;
    align-items: start;
    gap: 6px 12px;
    padding: 12px 0;
    border-bottom: 1px solid var(--hairline);
}
.act {
    display: grid;
    justify-items: end;
    gap: 2px;
}
.act .soft {
    display: inline-flex;
    align-items: center;
    gap: 4px;
}
.wrong {
    color: var(--brick);
}
.quiet {
    color: var(--ink);
    text-underline-offset: 3px;
}
</style>
