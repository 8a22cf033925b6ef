<script setup lang="ts">
import { CopyPlus } from '@lucide/vue'
import { useResizeObserver } from '@vueuse/core'
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

/** Opened by a link, whose key stands behind a mark and so is never sent in an address; or by a readable address, which has none. */
const { address = '', frame = '' } = defineProps<{
    address?: string
    /** The link whose page stands in one of somebody else. */ frame?: string
}>()
const key = address || useRoute().hash.slice(1)
const page = shallowRef<ShownPage | null>(null)
const gone = ref('')
const locked = ref(false)
/** Where the link leads to a study and not to a page of it. */
const whole = shallowRef<{ name: string; may: string } | null>(null)
const password = ref('')
const { wrong, busy, act } = useAct()

async function load() {
    try {
        page.value = await shown.page()
        locked.value = false
        document.title = page.value.title
    } catch (error) {
        if (error instanceof ProblemError && error.code === 'whole-study') {
            locked.value = false
            whole.value = error.details as { name: string; may: string }
        } else if (error instanceof ProblemError && error.code === 'locked') {
            locked.value = true
        } else if (error instanceof ProblemError && error.status === 404) {
            gone.value = 'This link leads nowhere any more, or was cut off on its way. Ask who sent it to you for another.'
        } else {
            gone.value = (error as Error).message
        }
    }
}
const visit = () =>
    act(async () => {
        window.location.assign(`/studies/${await shown.visit()}`)
    })
const unlock = () =>
    act(async () => {
        shown.come(key, await shown.pass(password.value))
        await load()
    })
onMounted(() => {
    shown.come(key)
    void load()
})

/** The page around it makes room for what it shows: see public/embed.js. */
const article = ref<HTMLElement>()
useResizeObserver(article, () => {
    if (frame && article.value) {
        // Whom it tells does not matter: how high a page is says nothing.
        window.parent.postMessage({ merryOrbit: frame, height: Math.ceil(article.value.getBoundingClientRect().height) }, '*')
    }
})

/** In somebody else’s page a copy opens beside it: the window is made at once, or the browser keeps it from opening. */
const copying = useAct()
function copy() {
    const beside = frame ? window.open('about:blank', '_blank') : null
    return copying.act(async () => {
        try {
            const { study, key: own } = await shown.copy()
            const to = study ? `/studies/${study}` : `/copy#${own ?? ''}`
            if (beside) {
                beside.location.href = `${window.location.origin}${to}`
            } else {
                window.location.assign(to)
            }
        } catch (error) {
            beside?.close()
            throw error
        }
    })
}
</script>

<template>
    <main v-if="page" ref="article" class="reader" :class="{ framed: frame }">
        <ReaderArticle :page="page" :ask="shown.results" />
        <section v-if="page.may === 'copy'" class="copy" aria-label="A copy of the model">
            <p>
                <strong>Look inside, and change it.</strong> A copy of the model behind this page is yours to take apart: every formula,
                every number. Nothing of it reaches the original.
            </p>
            <Button class="button" :disabled="copying.busy.value" @click="copy"
                ><CopyPlus :size="16" :stroke-width="1.6" />Take a copy</Button
            >
            <p v-if="copying.wrong.value" class="wrong" role="alert">{{ copying.wrong.value }}</p>
        </section>
        <footer><OrbitMark /> Made with Merry Orbit</footer>
    </main>
    <PaperPage v-else-if="whole" :title="whole.name" :home="false">
        <div class="form">
            <p>
                A study in Merry Orbit is shown to you: how a system works, as a picture that runs. You can look at everything and turn
                every dial; what you try changes nothing for others.
            </p>
            <p class="acts">
                <Button class="button strong" :disabled="busy" @click="visit">Open the study</Button>
                <Button v-if="whole.may === 'copy'" class="button" :disabled="copying.busy.value" @click="copy"
                    ><CopyPlus :size="16" :stroke-width="1.6" />Take a copy</Button
                >
            </p>
            <p v-if="wrong || copying.wrong.value" class="wrong" role="alert">{{ wrong || copying.wrong.value }}</p>
        </div>
    </PaperPage>
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
/* As high as what it shows: the page around it follows. */
.reader.framed {
    min-height: 0;
}
.copy {
    display: flex;
    flex-wrap: wrap;
    align-items: center;
    gap: 10px 24px;
    max-width: 1180px;
    margin: 0 auto;
    padding: 0 32px 28px;
}
.copy p {
    max-width: 62ch;
}
.copy .wrong {
    color: var(--brick);
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
    .copy {
        padding: 14px 18px;
    }
    footer {
        padding: 14px 18px 90px;
    }
}
</style>
