<script setup lang="ts">
import { Plus, X } from '@lucide/vue'
import { computed, ref, watch } from 'vue'
import type { RosterRecord } from '@/api/parts'
import VariableField from '@/find/VariableField.vue'
import { useMembers } from '@/stores/members'
import { useModel } from '@/stores/model'
import { counted } from '@/ui/numbers'

/** How much is kept of each member during a run: some variables at every saved moment, all else at fewer. */
type Kept = NonNullable<RosterRecord['kept']>
const members = useMembers()
const model = useModel()
const kept = computed<Kept>(() => members.roster?.kept ?? {})
const closely = computed(() => kept.value.of ?? [])
const adding = ref(false)
const moments = ref('')
watch(kept, () => (moments.value = kept.value.moments ? String(kept.value.moments) : ''), { immediate: true })
const nameOf = (id: string) => model.model.elements[id]?.name ?? 'what is not there any more'
const each = computed(() => {
    const moving = (members.muster?.columns ?? []).filter((c) => !c.steady && !closely.value.includes(c.key)).map((c) => c.key)
    return model.known.filter((t) => moving.includes(t.id))
})
async function put(fields: Kept) {
    const next = { ...kept.value, ...fields }
    await members.put({ kept: { ...(next.of?.length ? { of: next.of } : {}), ...(next.moments ? { moments: next.moments } : {}) } })
}
async function add(of: string) {
    await put({ of: [...closely.value, of] })
    adding.value = false
}
const wanted = computed(() => Math.max(0, Math.round(Number(moments.value))))
const isOther = computed(() => !Number.isNaN(wanted.value) && wanted.value !== (kept.value.moments ?? 0))
const told = computed(() => {
    const { saved, whole } = members.muster?.kept ?? { saved: 0, whole: 0 }
    return whole >= saved
        ? `Everything that each has is kept at all ${counted(saved, 'saved moment')} of a run.`
        : `Everything that each has is kept at ${whole} of ${counted(saved, 'saved moment')} of a run; sums and means of all at every one.`
})
</script>

<template>
    <section class="rules" aria-label="What is kept of each">
        <h3>What is kept of each</h3>
        <p class="soft">{{ told }}</p>
        <ul>
            <li v-for="id in closely" :key="id">
                <span
                    ><b>{{ nameOf(id) }}</b> at every moment</span
                >
                <Button
                    v-if="model.mayEdit"
                    class="icon-button"
                    :aria-label="`Keep ${nameOf(id)} no closer than the rest`"
                    title="No closer than the rest"
                    @click="put({ of: closely.filter((o) => o !== id) })"
                    ><X :size="14" :stroke-width="1.7"
                /></Button>
            </li>
        </ul>
        <form v-if="adding" @submit.prevent>
            <VariableField :only="each" label="What is kept at every moment" placeholder="a number of each of them" @choose="add" />
            <Button class="button" @click="adding = false">Cancel</Button>
        </form>
        <Button v-else-if="model.mayEdit && each.length" class="add" @click="adding = true"><Plus :size="14" /> One at every moment</Button>
        <form v-if="model.mayEdit" @submit.prevent="put({ moments: wanted })">
            <p class="row">
                <span>All else at</span>
                <InputText
                    v-model="moments"
                    class="field few"
                    inputmode="numeric"
                    placeholder="any"
                    aria-label="At how many moments all else is kept, at most"
                />
                <span>moments</span>
                <Button v-if="isOther" class="button" type="submit">Keep so</Button>
            </p>
        </form>
    </section>
</template>

<style scoped src="./rules.css"></style>
<style scoped>
.row {
    display: flex;
    flex-wrap: wrap;
    align-items: center;
    gap: 6px;
}
.few {
    width: 64px;
}
</style>
