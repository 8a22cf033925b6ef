<script setup lang="ts">
import { Play, Square, Trash2 } from '@lucide/vue'
import { computed } from 'vue'
import UnderlinedWord from '@/places/ask/UnderlinedWord.vue'
import SincePart from '@/places/try/SincePart.vue'
import { useModel } from '@/stores/model'
import { usePolicies } from '@/stores/policies'
import { useView } from '@/stores/view'
import { counted, literal } from '@/ui/numbers'
import { OVER } from './over'
import PolicyFound from './PolicyFound.vue'
import PolicyWish from './PolicyWish.vue'
import { useSought } from './sought'

/** What is looked for, as a sentence whose words can be changed, and what was found beside what there was. */
const policies = usePolicies()
const model = useModel()
const view = useView()
const { wordsOf } = useSought()
const policy = computed(() => policies.policy)
const found = computed(() => (policies.older ? null : policies.found))
const sought = computed(() => {
    const sum = policy.value?.sum ?? []
    return sum.length
        ? sum.map((s) => `${(s.weight ?? 1) === 1 ? '' : `${literal(s.weight ?? 1)} × `}${wordsOf(s)}`).join(' + ')
        : 'an outcome'
})
const limits = computed(() => (policy.value?.limits ?? []).length + (policy.value?.expect ?? []).length)
const measured = computed(() => (policy.value?.runs ? (OVER.find((o) => o.value === policy.value?.over)?.words ?? 'on average') : ''))
const canTake = computed(() => found.value !== null && found.value.value !== null && !policies.running && !policies.taken)
</script>

<template>
    <template v-if="policy">
        <header :class="{ alone: !view.outline }">
            <div class="line">
                <UnderlinedWord
                    class="name"
                    :value="policy.name"
                    label="Name of this policy"
                    @change="$event && policies.change({ name: $event })"
                />
                <Button
                    class="icon-button"
                    aria-label="Remove this policy"
                    title="Remove this policy"
                    :disabled="policies.running"
                    @click="model.attempt({ kind: 'drop', part: 'policies', id: policy.id })"
                    ><Trash2 :size="15" :stroke-width="1.6"
                /></Button>
            </div>
            <h2>
                Make <b>{{ sought }}</b> as {{ policy.small ? 'small' : 'large' }} as can be{{ measured ? ` ${measured}` : ''
                }}{{ limits ? `, within ${counted(limits, 'limit')}` : '' }}
            </h2>
            <div class="acts">
                <Button v-if="policies.running" class="button strong" @click="policies.stop"
                    ><Square :size="12" :stroke-width="1.8" />Stop</Button
                >
                <template v-else>
                    <Button v-if="policies.search?.stopped && !policies.older" class="button strong" @click="policies.goOn">Go on</Button>
                    <Button
                        class="button"
                        :class="{ strong: !canTake && !policies.search?.stopped }"
                        :disabled="policies.trouble !== ''"
                        @click="policies.begin"
                        ><Play :size="13" :stroke-width="1.8" />{{ policies.search ? 'Look anew' : 'Look for it' }}</Button
                    >
                    <Button v-if="canTake" class="button strong" title="The model gets these values, as one edit" @click="policies.takeOver"
                        >Take over</Button
                    >
                    <Button v-if="canTake" class="button" @click="policies.asScenario">As a scenario</Button>
                </template>
            </div>
        </header>
        <PolicyWish />
        <p v-if="policies.trouble" class="caution" role="alert">{{ policies.trouble }}</p>
        <p v-if="policies.search?.trouble" class="caution" role="alert">{{ policies.search.trouble }}</p>
        <p v-if="policies.older && !policies.running" class="caution" role="status">
            The model or what is looked for has changed since it was found.
            <SincePart :revision="policies.search?.revision ?? 0" />
            <Button v-if="!policies.trouble" class="link" @click="policies.begin">Look again</Button>
        </p>
        <PolicyFound v-if="!policies.older" />
    </template>
</template>

<style scoped>
@import '../try/many.css';
@import './head.css';

header .acts {
    margin-top: 8px;
}
</style>
