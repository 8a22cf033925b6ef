<script setup lang="ts">
import { onMounted, ref, shallowRef } from 'vue'
import { useRoute } from 'vue-router'
import { ProblemError } from '@/api/client'
import { shown, type ShownPage } from '@/api/shown'
import '@/people/form.css'
import PaperPage from '@/people/PaperPage.vue'
import PasswordField from '@/people/PasswordField.vue'
import { useAct } from '@/people/useAct'
import OrbitMark from '@/ui/OrbitMark.vue'
import ReaderArticle from './ReaderArticle.vue'

/** Opened by a link, whose key stands behind a mark and so is never sent in an address. */
const key = useRoute().hash.slice(1)
const page = shallowRef<ShownPage | null>(null)
const gone = ref('')
const locked = ref(false)
const password = ref('')
const { wrong, busy, act } = useAct()

async function load() {
    try {
        page.value = await shown.page()
        locked.value = false
        document.title = page.value.title
    } catch (error) {
        if (error instanceof ProblemError && error.code === 'locked') {
            locked.value = true
        } else if (error instanceof ProblemError && error.status === 404) {
            gone.value = 'This link leads nowhere any more, or was cut off on its way. Ask who sent it to you for another.'
        } else {
            gone.value = (error as Error).message
        }
    }
}
const unlock = () =>
    act(async () => {
        shown.come(key, await shown.pass(password.value))
        await load()
    })
onMounted(() => {
    shown.come(key)
    void load()
})
</script>

<template>
    <main v-if="page" class="reader">
        <ReaderArticle :page="page" :ask="shown.results" />
        <footer><OrbitMark /> Made with Merry Orbit</footer>
    </main>
    <PaperPage v-else-if="locked" title="A page with a password" :home="false">
        <form class="form" @submit.prevent="unlock">
            <p>The password came with the link, or apart from it.</p>
            <PasswordField v-model="password" label="Password" complete="current-password" />
            <p v-if="wrong" class="wrong" role="alert">{{ wrong }}</p>
            <Button type="submit" class="button strong" :disabled="busy">Open the page</Button>
        </form>
    </PaperPage>
    <PaperPage v-else-if="gone" title="There is nothing here" :home="false">
        <p role="alert">{{ gone }}</p>
    </PaperPage>
</template>

<style scoped>
.reader {
    min-height: 100%;
}
footer {
    display: flex;
    align-items: center;
    gap: 8px;
    max-width: 1180px;
    margin: 0 auto;
    padding: 0 32px 32px;
    color: var(--ink-soft);
    font-size: 13px;
}
@media (width < 760px) {
    footer {
        padding: 14px 18px 90px;
    }
}
</style>
