<script setup lang="ts">
import { Moon, Sun } from '@lucide/vue'
import { onMounted } from 'vue'
import { usePage } from '@/stores/page'
import OrbitMark from '@/ui/OrbitMark.vue'

/** A page about people: narrow, with the way home above it. */
const { title, home = true } = defineProps<{ title: string; home?: boolean; wide?: boolean }>()
const page = usePage()
onMounted(() => {
    document.title = `${title} · Merry Orbit`
})
</script>

<template>
    <div class="paper">
        <header>
            <RouterLink v-if="home" to="/" class="home" aria-label="All studies" title="All studies"><OrbitMark /></RouterLink>
            <OrbitMark v-else />
            <span class="name">Merry Orbit</span>
            <slot name="head" />
            <Button class="icon-button" :aria-label="page.theme === 'dark' ? 'Light theme' : 'Dark theme'" @click="page.changeTheme">
                <Sun v-if="page.theme === 'dark'" :size="18" :stroke-width="1.5" /><Moon v-else :size="18" :stroke-width="1.5" />
            </Button>
        </header>
        <main :class="{ wide }">
            <h1>{{ title }}</h1>
            <slot />
        </main>
    </div>
</template>

<style scoped>
.paper {
    min-height: 100%;
}
header {
    display: flex;
    align-items: center;
    gap: 12px;
    height: 56px;
    padding: 0 32px;
    border-bottom: 1px solid var(--hairline);
    background: var(--card);
}
.home {
    color: var(--ink);
    line-height: 0;
    border-radius: 50%;
}
.name {
    flex: 1;
    font-size: 17px;
    font-weight: 700;
}
main {
    max-width: 460px;
    margin: 0 auto;
    padding: 48px 24px 80px;
}
main.wide {
    max-width: 820px;
}
h1 {
    font-size: 28px;
    line-height: 1.15;
    margin-bottom: 20px;
}
@media (width < 600px) {
    header {
        padding: 0 16px;
    }
    main {
        padding-top: 28px;
    }
}
</style>
