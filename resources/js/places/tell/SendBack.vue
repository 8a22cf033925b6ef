<script setup lang="ts">
import { Check, Copy } from '@lucide/vue'
import { ref } from 'vue'
import { shown } from '@/api/shown'
import { useAct } from '@/people/useAct'

/** A copy is sent back to who owns what it was made of, as an address. */
const { study, origin } = defineProps<{ study: string; origin: { name: string; revision: number } }>()
const { wrong, busy, act } = useAct()
const address = ref('')
const copied = ref(false)
const make = () =>
    act(async () => {
        address.value = `${window.location.origin}/back#${await shown.sendBack(study)}`
        copied.value = false
    })
async function copy() {
    await navigator.clipboard.writeText(address.value)
    copied.value = true
}
</script>

<template>
    <section class="back" aria-label="The original">
        <p>
            This is a copy of <strong>{{ origin.name }}</strong>, version {{ origin.revision }}. What you change here changes nothing there.
            Whoever works on the original can see what you changed, and take over what they like.
        </p>
        <template v-if="address">
            <p class="address">{{ address }}</p>
            <p class="soft">Send this address to who owns {{ origin.name }}. It shows your copy as it is when they look.</p>
            <Button class="button" @click="copy"
                ><Check v-if="copied" :size="15" /><Copy v-else :size="15" />{{ copied ? 'Copied' : 'Copy it' }}</Button
            >
        </template>
        <Button v-else class="button" :disabled="busy" @click="make">Send it back…</Button>
        <p v-if="wrong" class="wrong" role="alert">{{ wrong }}</p>
    </section>
</template>

<style scoped>
.back {
    display: grid;
    gap: 10px;
    justify-items: start;
    margin-bottom: 28px;
    padding: 14px 16px;
    border: 1px solid var(--hairline);
    border-radius: 12px;
    background: var(--card);
}
.address {
    font-family: var(--mono);
    font-size: 13px;
    overflow-wrap: anywhere;
}
.wrong {
    color: var(--brick);
}
</style>
