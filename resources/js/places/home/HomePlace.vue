<script setup lang="ts">
import { FileUp, Moon, Plus, Sun } from '@lucide/vue'
import Dialog from 'primevue/dialog'
import FileUpload from 'primevue/fileupload'
import InputText from 'primevue/inputtext'
import { computed, onMounted, ref, shallowRef, watch } from 'vue'
import { useRouter } from 'vue-router'
import { api, ProblemError } from '@/api/client'
import { people } from '@/api/people'
import type { LogLine, Study } from '@/api/types'
import PersonMenu from '@/people/PersonMenu.vue'
import { dayWords } from '@/people/when'
import { useMe } from '@/stores/me'
import OrbitMark from '@/ui/OrbitMark.vue'
import { useNotices } from '@/stores/notices'
import { usePage } from '@/stores/page'
import { gradeWords } from '@/ui/grades'
import SaidText from '@/ui/SaidText.vue'
import StudyCard from './StudyCard.vue'

const router = useRouter()
const notices = useNotices()
const page = usePage()
const here = useMe()
const studies = shallowRef<Study[] | null>(null)
/** What a file may be is for the engine to say: the page only offers these first. */
const CHOOSER = {
    input: {
        accept: '.json,.xmile,.xml,.zip,application/json,application/xml,application/zip',
        'aria-label': 'Model file',
        class: 'visually-hidden',
        tabindex: -1,
    },
    content: { style: 'display: none' },
}
const chooser = ref<{ clear: () => void }>()
const dragging = ref(false)
const imported = shallowRef<{ study: Study; log: LogLine[] } | null>(null)

/** So many are found at a glance; among more one searches. */
const MANY = 12
const wanted = ref('')
const shown = computed(() => {
    const words = wanted.value.toLowerCase().split(/\s+/)
    return studies.value?.filter((s) => words.every((w) => s.name.toLowerCase().includes(w))) ?? []
})

/** The first can be opened at once; the others follow as the browser finds time. */
const FIRST = 12
const drawn = ref(FIRST)
function drawMore() {
    if (drawn.value < shown.value.length) {
        drawn.value += FIRST
        // Not every browser tells when it has nothing to do.
        window.setTimeout(() => (window.requestIdleCallback ?? window.setTimeout)(drawMore), 50)
    }
}
watch(shown, () => {
    window.setTimeout(drawMore, 500)
})

/** What is said to somebody who is not signed in. */
const turnedAway = ref('')
async function load() {
    try {
        studies.value = await api.studies()
        turnedAway.value = ''
    } catch (error) {
        if (!(error instanceof ProblemError && error.status === 401)) {
            throw error
        }
        turnedAway.value = error.message
    }
}

onMounted(() => {
    document.title = 'Merry Orbit'
    void said(load())
})

async function said<T>(work: Promise<T>): Promise<T | undefined> {
    try {
        return await work
    } catch (error) {
        notices.trouble((error as Error).message)
        return undefined
    }
}

function open(study: Study, thing?: string | null) {
    void router.push({ path: `/studies/${study.id}`, query: thing ? { thing } : {} })
}

/** Quick hands press twice and mean once. */
const busy = ref(false)
async function once(work: () => Promise<void>) {
    if (!busy.value) {
        busy.value = true
        await work()
        busy.value = false
    }
}
const make = () =>
    once(async () => {
        const study = await said(api.newStudy(''))
        if (study) {
            open(study)
        }
    })

async function take(file: File | undefined) {
    dragging.value = false
    chooser.value?.clear()
    if (!file) {
        return
    }
    const result = await said(api.importStudy(file))
    if (!result) {
        return
    }
    if (result.log.length) {
        imported.value = result
        await said(load())
    } else {
        open(result.study)
    }
}

const duplicate = (study: Study) =>
    once(async () => {
        if (await said(api.duplicateStudy(study.id))) {
            await said(load())
        }
    })

async function leave(study: Study) {
    await said(people.giveBack(study.id))
    await said(load())
}

async function remove(study: Study) {
    await said(api.deleteStudy(study.id))
    studies.value = studies.value?.filter((s) => s.id !== study.id) ?? null
    notices.say(`Deleted “${study.name}”.`, {
        words: 'Undo',
        run: () => {
            void said(api.restoreStudy(study.id).then(load))
        },
    })
}
</script>

<template>
    <div
        class="home"
        :class="{ dragging }"
        @dragover.prevent="dragging = true"
        @dragleave.self="dragging = false"
        @drop.prevent="take($event.dataTransfer?.files[0])"
    >
        <header>
            <OrbitMark />
            <h1>Merry Orbit</h1>
            <Button class="icon-button" :aria-label="page.theme === 'dark' ? 'Light theme' : 'Dark theme'" @click="page.changeTheme">
                <Sun v-if="page.theme === 'dark'" :size="18" :stroke-width="1.5" /><Moon v-else :size="18" :stroke-width="1.5" />
            </Button>
            <PersonMenu />
        </header>
        <main>
            <div class="line">
                <div v-if="here.me?.guest">
                    <h2>Your copy</h2>
                    <p class="soft">
                        You have no account: it is kept until {{ dayWords(here.me.guest) }} under the address by which you came.
                    </p>
                </div>
                <div v-else>
                    <h2>Your studies</h2>
                    <p class="soft">Each asks one question of a system: draw it, say how it works, and watch it behave.</p>
                </div>
                <div v-if="!turnedAway && !here.me?.guest" class="actions">
                    <InputText
                        v-if="(studies?.length ?? 0) > MANY"
                        v-model="wanted"
                        type="search"
                        class="find"
                        placeholder="Find a study"
                        aria-label="Find a study by its name"
                    />
                    <FileUpload ref="chooser" custom-upload unstyled :pt="CHOOSER" @select="take($event.files.at(-1))">
                        <template #header="{ chooseCallback }">
                            <Button class="button" @click="chooseCallback"><FileUp :size="16" :stroke-width="1.5" />Import a file</Button>
                        </template>
                        <template #content />
                    </FileUpload>
                    <Button class="button strong" @click="make"><Plus :size="16" :stroke-width="1.8" />New study</Button>
                </div>
            </div>
            <p v-if="turnedAway" class="none" role="alert">{{ turnedAway }}</p>
            <ul v-else-if="studies?.length" class="studies" :aria-busy="drawn < shown.length">
                <li v-for="study in shown.slice(0, drawn)" :key="study.id">
                    <StudyCard :study="study" @duplicate="duplicate(study)" @leave="leave(study)" @remove="remove(study)" />
                </li>
            </ul>
            <p v-if="studies?.length && !shown.length" class="soft none">No study is called like “{{ wanted }}”.</p>
            <div v-else-if="studies && !studies.length" class="none">
                <p><strong>No study here.</strong> Make a new one, or drop a model file on this page.</p>
            </div>
        </main>
        <Dialog
            :visible="imported !== null"
            modal
            :header="`Imported “${imported?.study.name}”`"
            :style="{ width: '540px' }"
            @update:visible="imported = null"
        >
            <p class="soft">Everything came over but for this. The list stays with the study, beside its time settings.</p>
            <ul class="log">
                <li v-for="(line, i) in imported?.log" :key="i" :class="line.grade">
                    <em>{{ gradeWords(line.grade) }}</em>
                    {{ ' ' }}
                    <Button v-if="line.element" class="where" @click="imported && open(imported.study, line.element)">{{
                        line.where
                    }}</Button><strong v-else>{{ line.where }}</strong> <SaidText :text="line.sentence" />
                </li>
            </ul>
            <template #footer>
                <Button class="button strong" @click="imported && open(imported.study)">Open the study</Button>
            </template>
        </Dialog>
    </div>
</template>

<style scoped>
.home {
    min-height: 100%;
}
.home.dragging {
    box-shadow: inset 0 0 0 3px var(--ink);
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
header h1 {
    flex: 1;
    font-size: 17px;
}
main {
    max-width: 1180px;
    margin: 0 auto;
    padding: 36px 32px 60px;
}
.line {
    display: flex;
    align-items: end;
    justify-content: space-between;
    gap: 20px;
    flex-wrap: wrap;
    margin-bottom: 24px;
}
h2 {
    font-size: 24px;
    margin-bottom: 4px;
}
.actions {
    display: flex;
    gap: 10px;
}
.studies {
    display: grid;
    grid-template-columns: repeat(auto-fill, minmax(300px, 1fr));
    gap: 20px;
    margin: 0;
    padding: 0;
    list-style: none;
}
.studies li {
    /* What is far out of sight is not laid out. */
    content-visibility: auto;
    contain-intrinsic-size: auto 240px;
}
.find {
    width: 200px;
}
.none {
    padding: 80px 20px;
    border: 1px dashed var(--line);
    border-radius: 14px;
    text-align: center;
}
.where {
    font-weight: 700;
    text-decoration: underline;
    text-underline-offset: 3px;
}
.log em {
    font-style: normal;
    font-size: 12.5px;
    color: var(--ink-soft);
}
.log .numbers em {
    color: var(--brick);
}
.log {
    display: grid;
    gap: 6px;
    padding-left: 18px;
    max-height: 300px;
    overflow: auto;
}
</style>
