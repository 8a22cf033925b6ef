<script setup lang="ts">
import { Smartphone } from '@lucide/vue'
import { toDataURL } from 'qrcode'
import { computed, ref, watch } from 'vue'
import { counted } from '@/ui/numbers'
import { useModel } from '@/stores/model'
import { usePhones } from './usePhones'

/** Lets people in the room take part by their phones: a short address, and the same as a picture that a phone reads. */
const { phones } = defineProps<{ phones: ReturnType<typeof usePhones> }>()
const model = useModel()
const shown = ref(false)
const picture = ref('')
const state = computed(() => phones.state.value)
const address = computed(() => phones.address.value)
const short = computed(() => address.value.replace(/^https?:\/\//, ''))
/** Phones do not reach this machine by the name it has for itself. */
const isAlone = ['127.0.0.1', 'localhost', '[::1]'].includes(window.location.hostname)
watch(
    [address, shown],
    async () => {
        picture.value = shown.value && state.value.open ? await toDataURL(address.value, { margin: 1, width: 640 }) : ''
    },
    { immediate: true },
)
async function turn() {
    shown.value = !shown.value
    if (shown.value && !state.value.open) {
        await phones.open()
    }
}
async function close() {
    await phones.close()
    shown.value = false
}
</script>

<template>
    <div v-if="model.mayEdit" class="door">
        <Button
            class="icon"
            :aria-expanded="shown"
            :aria-label="state.open ? `Phones: ${state.phones ?? 0}` : 'Let phones in'"
            @click="turn"
            ><Smartphone :size="26" :stroke-width="1.5" /><span>{{ state.open ? (state.phones ?? 0) : 'Phones' }}</span></Button
        >
        <section v-if="shown && state.open" class="poster" aria-label="How phones take part">
            <img v-if="picture" :src="picture" :alt="`A code that phones read: ${short}`" width="320" height="320" />
            <div class="told">
                <p class="address">{{ short }}</p>
                <p>Name factors, vote for pairs, agree or disagree with a link. No account, no app.</p>
                <p v-if="isAlone" class="hint">
                    Phones reach this only when Merry Orbit was started with <code>--host=0.0.0.0</code> and opened by the address that it
                    prints then.
                </p>
                <p class="hint" role="status">{{ counted(state.phones ?? 0, 'phone') }} in the room</p>
                <p class="acts">
                    <Button class="big" @click="shown = false">Hide this</Button>
                    <Button class="big" @click="close">Let nobody in any more</Button>
                </p>
            </div>
        </section>
    </div>
</template>

<style scoped>
.door {
    display: contents;
}
.icon {
    display: flex;
    align-items: center;
    gap: 8px;
    font-size: 24px;
}
.poster {
    position: absolute;
    z-index: 2;
    top: 6vw;
    right: 4.4vw;
    display: grid;
    grid-template-columns: auto minmax(280px, 520px);
    gap: 36px;
    padding: 32px;
    border: 2px solid var(--line);
    border-radius: 22px;
    background: var(--card);
}
img {
    border-radius: 10px;
    background: #fff;
}
.told {
    display: grid;
    align-content: start;
    gap: 14px;
}
.address {
    font-size: 1.35em;
    font-weight: 700;
    overflow-wrap: anywhere;
}
.acts {
    display: flex;
    flex-wrap: wrap;
    gap: 12px;
}
@media (width < 1100px) {
    .poster {
        grid-template-columns: minmax(0, 1fr);
    }
}
</style>
