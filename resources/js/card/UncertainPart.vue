<script setup lang="ts">
import { Dices } from '@lucide/vue'
import { computed } from 'vue'
import type { Thing } from '@/api/types'
import { useModel } from '@/stores/model'
import LawField from './LawField.vue'
import { makeUncertain } from './uncertainEdits'

/** Of a parameter: whether its value is known, or only how likely values are. */
const { thing } = defineProps<{ thing: Thing }>()
const model = useModel()
const own = computed(() => Object.values(model.model.uncertain ?? {}).filter((u) => u.of === thing.id))
const where = (at?: string[]) => (at?.length ? `of ${at.join(', ')}` : '')
</script>

<template>
    <section class="uncertain" aria-label="Uncertainty">
        <header v-if="own.length">
            <h3 class="label">Uncertain</h3>
        </header>
        <div v-for="u in own" :key="u.id" class="one">
            <span v-if="u.at?.length" class="soft">{{ where(u.at) }}</span>
            <LawField :thing="thing" :input="u" />
            <div class="acts">
                <label class="soft"
                    ><Checkbox
                        :model-value="!u.off"
                        binary
                        @update:model-value="
                            model.attempt({ kind: 'put', part: 'uncertain', id: u.id, fields: { off: $event ? null : true } })
                        "
                    />
                    drawn in many runs</label
                >
                <Button class="link" @click="model.attempt({ kind: 'drop', part: 'uncertain', id: u.id })">It is certain</Button>
            </div>
        </div>
        <Button v-if="!own.length" class="button" @click="makeUncertain(model, thing)"
            ><Dices :size="15" :stroke-width="1.6" />Its value is uncertain …</Button
        >
    </section>
</template>

<style scoped>
.uncertain {
    display: grid;
    gap: 8px;
    margin: 4px 0 10px;
}
.acts {
    display: flex;
    justify-content: space-between;
    gap: 8px;
    font-size: 13px;
    margin-top: 6px;
}
.link {
    font-size: 12.5px;
    color: var(--ink-soft);
    text-decoration: underline;
    text-underline-offset: 3px;
}
.button {
    justify-self: start;
}
</style>
