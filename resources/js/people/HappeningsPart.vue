<script setup lang="ts">
import { onMounted, shallowRef } from 'vue'
import { people, type Happening } from '@/api/people'
import { momentWords } from './when'

/** What happened to the account, so that what was not oneself is noticed. */
const FEW = 12
const all = shallowRef<Happening[]>([])
onMounted(async () => {
    all.value = await people.happenings().catch(() => [])
})
</script>

<template>
    <section v-if="all.length" aria-labelledby="happenings">
        <h2 id="happenings">What happened lately</h2>
        <p>If something here was not you, change your password: all other sign-ins end with it.</p>
        <ul>
            <li v-for="(one, i) in all.slice(0, FEW)" :key="i" :class="{ refused: one.kind === 'refused' }">
                <time :datetime="one.at">{{ momentWords(one.at) }}</time> you {{ one.words }}
                <span class="soft">from {{ one.address }}</span>
            </li>
        </ul>
    </section>
</template>

<style scoped>
ul {
    margin: 0;
    padding: 0;
    list-style: none;
}
li {
    padding: 4px 0;
}
time {
    display: inline-block;
    min-width: 150px;
    color: var(--ink-soft);
}
.refused {
    color: var(--brick);
}
</style>
