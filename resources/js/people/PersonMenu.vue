<script setup lang="ts">
import Menu from 'primevue/menu'
import { computed, onMounted, ref } from 'vue'
import { useRouter } from 'vue-router'
import { useMe } from '@/stores/me'
import { initials } from './initials'
import { dayWords } from './when'

/** Who is here, and what they can do about it. */
const here = useMe()
const router = useRouter()
const menu = ref<InstanceType<typeof Menu>>()
onMounted(() => {
    if (!here.me) {
        // Whoever asks for studies hears why there are none.
        void here.load().catch(() => null)
    }
})
const items = computed(() => {
    const { me } = here
    if (!me) {
        return []
    }
    const go = (to: string) => () => {
        void router.push(to)
    }
    return [
        {
            label: me.guest ? `A guest: the copy is kept until ${dayWords(me.guest)}` : me.demo ? `${me.name}, in demo mode` : me.name,
            items: [
                ...(me.guest ? [] : [{ label: 'Your account', command: go('/account') }]),
                ...(me.letters ? [{ label: 'The post office', command: go('/letters') }] : []),
                ...(me.demo ? [] : [{ label: me.guest ? 'Leave' : 'Sign out', command: () => void here.signOut() }]),
            ],
        },
        ...(me.others.length
            ? [
                  {
                      label: 'Be somebody else of the demo',
                      items: me.others.map((o) => ({ label: o.name, command: () => void here.be(o.email) })),
                  },
              ]
            : []),
    ]
})
</script>

<template>
    <template v-if="here.me">
        <Button
            class="person"
            aria-haspopup="menu"
            :aria-label="`You are ${here.me.name}`"
            :title="here.me.name"
            @click="menu?.toggle($event)"
            >{{ initials(here.me.name) }}</Button
        >
        <Menu ref="menu" :model="items" popup />
    </template>
</template>

<style scoped>
.person {
    flex: none;
    display: inline-grid;
    place-items: center;
    width: 28px;
    height: 28px;
    margin: 0 2px;
    border: 1.5px solid var(--ink);
    border-radius: 50%;
    font-size: 11.5px;
    font-weight: 700;
}
.person:hover {
    background: var(--hover);
}
</style>
