<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { useModel } from '@/stores/model'

const { ids } = defineProps<{ ids: string[] }>()
const model = useModel()
const TINTS = ['moss', 'sky', 'clay', 'heather', 'sand', 'slate'] as const
const name = ref('')

const groups = computed(() => [...new Set(ids.map((id) => model.groupOf.get(id)))])
/** The group of all of them, if it is one. */
const group = computed(() => (groups.value.length === 1 ? groups.value[0] : undefined))
watch(
    [() => ids.join(), () => group.value?.name],
    () => {
        name.value = group.value?.name ?? ''
    },
    { immediate: true },
)

function keep(tint: '' | (typeof TINTS)[number] = '') {
    if (name.value.trim() !== (group.value?.name ?? '') || tint) {
        void model.attempt({ kind: 'group', ids, name: name.value.trim() || (tint ? `Group ${model.model.groups.length + 1}` : ''), tint })
    }
}
</script>

<template>
    <div>
        <label class="label" :for="`group-${ids[0]}`">Group</label>
        <InputText
            :id="`group-${ids[0]}`"
            v-model="name"
            class="field"
            list="groups"
            placeholder="none"
            maxlength="120"
            @change="keep()"
            @keydown.enter="($event.target as HTMLElement).blur()"
        />
        <datalist id="groups"><option v-for="g in model.model.groups" :key="g.name" :value="g.name" /></datalist>
        <div class="tints" role="group" aria-label="Colour of the group">
            <Button
                v-for="t in TINTS"
                :key="t"
                :aria-label="t"
                :title="t"
                :aria-pressed="group?.tint === t"
                :style="{ background: `var(--${t})` }"
                @click="keep(t)"
            />
        </div>
    </div>
</template>

<style scoped>
.field {
    margin-top: 4px;
}
.tints {
    display: flex;
    gap: 7px;
    margin-top: 8px;
}
.tints button {
    width: 26px;
    height: 24px;
    border: 1px solid var(--line);
    border-radius: 7px;
}
.tints button[aria-pressed='true'] {
    box-shadow: inset 0 0 0 2px var(--ink);
}
</style>
