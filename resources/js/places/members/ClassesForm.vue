<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { useMembers } from '@/stores/members'
import { useModel } from '@/stores/model'
import ChoiceField from '@/ui/ChoiceField.vue'

/** By what members are taken together in classes: since when one is there, how wide a class is, and how many there are. */
const members = useMembers()
const model = useModel()
const each = computed(() => (members.muster?.columns ?? []).filter((c) => c.steady).map((c) => ({ value: c.key, words: c.name })))
const since = ref('')
const width = ref('1')
const count = ref('10')
watch(
    () => members.roster?.classes,
    (classes) => {
        since.value = classes?.since ?? ''
        width.value = String(classes?.width ?? 1)
        count.value = String(classes?.count ?? 10)
    },
    { immediate: true },
)
const given = computed(() => ({ since: since.value, width: Number(width.value), count: Number(count.value) }))
const isSound = computed(() => since.value !== '' && given.value.width > 0 && given.value.count >= 1 && given.value.count <= 200)
const isOther = computed(() => {
    const now = members.roster?.classes
    return isSound.value && (now?.since !== since.value || now.width !== given.value.width || now.count !== given.value.count)
})
const keep = () => void members.put({ classes: given.value })
</script>

<template>
    <form v-if="model.mayEdit && each.length" class="classes" @submit.prevent="keep">
        <h3>Classes</h3>
        <p class="row">
            <span>by the time since</span>
            <ChoiceField v-model="since" label="Since when one is there" placeholder="a number of each" :choices="each" />
        </p>
        <p class="row">
            <InputText v-model="count" class="field few" inputmode="numeric" aria-label="How many classes" />
            <span>of</span>
            <InputText v-model="width" class="field few" inputmode="decimal" aria-label="How wide a class is" />
            <span>{{ model.model.time.unit }}s each</span>
        </p>
        <Button class="button" type="submit" :disabled="!isOther">Take them together so</Button>
    </form>
</template>

<style scoped>
.classes {
    display: grid;
    gap: 6px;
    justify-items: start;
    padding-top: 8px;
    border-top: 1px solid var(--hairline);
}
h3 {
    font-size: 13px;
}
.row {
    display: flex;
    flex-wrap: wrap;
    align-items: center;
    gap: 6px;
}
.few {
    width: 56px;
}
</style>
