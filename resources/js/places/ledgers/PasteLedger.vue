<script setup lang="ts">
import { refDebounced } from '@vueuse/core'
import Dialog from 'primevue/dialog'
import { computed, ref, watch } from 'vue'
import { ledgers as api } from '@/api/ledgers'
import type { PastedLedger } from '@/api/types'
import { useLedgers } from '@/stores/ledgers'
import { useModel } from '@/stores/model'
import ChoiceField from '@/ui/ChoiceField.vue'
import { newId } from '@/ui/ids'
import SaidText from '@/ui/SaidText.vue'

/** A table out of a spreadsheet becomes a ledger: a preview tells what goes where, and what does not balance, before anything is kept. */
const { given } = defineProps<{ given: string }>()
const emit = defineEmits<{ done: [] }>()
const model = useModel()
const ledgers = useLedgers()
const id = newId()
const text = ref(given)
const party = ref('')
const sides = ref<(string | null)[]>([])
const told = ref<PastedLedger | null>(null)
const trouble = ref('')
const rested = refDebounced(text, 250)
const rename = refDebounced(party, 250)
/** Another table has other accounts. */
watch(rested, () => {
    sides.value = []
})
let asked = 0
watch(
    [rested, rename, sides],
    async () => {
        const ticket = ++asked
        if (!rested.value.trim()) {
            told.value = null
            trouble.value = ''
            return
        }
        try {
            const answer = await api.paste(model.id, {
                text: rested.value,
                id,
                ...(rename.value.trim() ? { party: rename.value.trim() } : {}),
                ...(sides.value.length ? { sides: Array.from(sides.value, (s) => s ?? null) } : {}),
            })
            if (ticket === asked) {
                told.value = answer
                trouble.value = ''
            }
        } catch (error) {
            if (ticket === asked) {
                told.value = null
                trouble.value = (error as Error).message
            }
        }
    },
    { immediate: true },
)
const SIDES = [
    { value: 'owns', words: 'owns' },
    { value: 'owes', words: 'owes' },
    { value: 'worth', words: 'is worth' },
]
function side(index: number, to: string | undefined) {
    const now = told.value?.accounts.map((a, i) => sides.value[i] ?? (a.side || null)) ?? []
    now[index] = to ?? null
    sides.value = now
}
const isUntold = computed(() => told.value?.accounts.some((a) => !a.side) ?? false)
const marked = computed(() => told.value?.rows.filter((r) => r.sentence).length ?? 0)
async function keep() {
    if (!told.value || isUntold.value) {
        return
    }
    const { edits, party: name } = told.value
    if (
        await model.together(
            edits.map((e) => ({ kind: 'put' as const, ...e })),
            `Pasted the ledger of ${name}`,
        )
    ) {
        ledgers.chosen = Object.values(model.model.parties ?? {}).find((p) => p.name === name)?.id ?? ''
        emit('done')
    }
}
</script>

<template>
    <Dialog
        :visible="true"
        modal
        header="A ledger from a table"
        :style="{ width: '900px', maxWidth: '94vw' }"
        @update:visible="$event || emit('done')"
    >
        <div class="paste">
            <label class="label" for="pasted-ledger"
                >Cells out of a spreadsheet: accounts across, transactions down, their names first</label
            >
            <Textarea
                id="pasted-ledger"
                v-model="text"
                class="cells"
                rows="5"
                autofocus
                spellcheck="false"
                placeholder="Paste here. A line that says owns, owes and is worth over the accounts helps; so does one “at the start”."
            />
            <p v-if="trouble" class="trouble" role="alert"><SaidText :text="trouble" /></p>
            <template v-if="told">
                <p class="whose">
                    <label for="pasted-party">Ledger of</label>
                    <InputText id="pasted-party" v-model="party" class="field" :placeholder="told.party" maxlength="80" />
                    <span v-if="!told.isNew" class="soft">goes into the ledger that is there already</span>
                </p>
                <div class="scroll" tabindex="0" role="region" aria-label="What it becomes">
                    <table>
                        <thead>
                            <tr>
                                <td></td>
                                <th v-for="(a, i) in told.accounts" :key="i" scope="col">
                                    <ChoiceField
                                        :model-value="a.side || undefined"
                                        :label="`Whether ${a.name} is owned or owed`"
                                        placeholder="owns or owes?"
                                        :choices="SIDES"
                                        @update:model-value="side(i, $event)"
                                    />
                                    <b>{{ a.name }}</b>
                                    <small v-if="a.known" class="soft">in the books already</small>
                                </th>
                            </tr>
                            <tr v-if="told.accounts.some((a) => a.opening)">
                                <th scope="row">at the start</th>
                                <td v-for="(a, i) in told.accounts" :key="i" class="number">{{ a.opening }}</td>
                            </tr>
                        </thead>
                        <tbody>
                            <template v-for="(r, i) in told.rows" :key="i">
                                <tr :class="{ wrong: r.sentence }">
                                    <th scope="row">
                                        {{ r.name }} <code>{{ r.formula }}</code>
                                    </th>
                                    <td v-for="(c, j) in r.cells" :key="j" class="number">{{ c }}</td>
                                </tr>
                                <tr v-if="r.sentence" class="wrong">
                                    <td :colspan="told.accounts.length + 1">
                                        <span aria-hidden="true">●</span> <SaidText :text="r.sentence" />
                                    </td>
                                </tr>
                            </template>
                        </tbody>
                    </table>
                </div>
                <ul v-if="told.remarks.length" class="remarks">
                    <li v-for="r in told.remarks" :key="r"><SaidText :text="r" /></li>
                </ul>
            </template>
            <footer>
                <p v-if="marked" class="soft">What does not balance comes along, marked, and stays out of the run until it does.</p>
                <Button class="button" @click="emit('done')">Cancel</Button>
                <Button class="button strong" :disabled="!told || isUntold" @click="keep"
                    >{{ told?.isNew === false ? 'Add to' : 'Make' }} the ledger of {{ told?.party ?? '…' }}</Button
                >
            </footer>
        </div>
    </Dialog>
</template>

<style scoped>
.paste {
    display: grid;
    gap: 10px;
}
.cells {
    width: 100%;
    padding: 7px 9px;
    border: 1px solid var(--line);
    border-radius: 6px;
    background: var(--paper);
    color: var(--ink);
    font: 12px/1.5 var(--mono);
    white-space: pre;
}
.whose {
    display: flex;
    align-items: center;
    gap: 8px;
    margin: 0;
}
.whose .field {
    width: 240px;
}
.scroll {
    max-height: 44vh;
    overflow: auto;
    border: 1px solid var(--line);
    border-radius: 6px;
}
table {
    width: 100%;
    border-collapse: collapse;
    font-size: 13px;
}
th,
td {
    padding: 4px 8px;
    border-bottom: 1px solid var(--hairline);
    text-align: right;
    font-weight: 400;
}
th[scope='row'],
.wrong td[colspan] {
    text-align: left;
}
thead th[scope='col'] {
    vertical-align: bottom;
}
thead b,
thead small {
    display: block;
}
code {
    font-size: 12px;
    color: var(--ink-soft);
}
.number {
    font-variant-numeric: tabular-nums;
}
.wrong td,
.wrong th {
    background: color-mix(in srgb, var(--brick) 5%, transparent);
}
.wrong td[colspan],
.remarks,
.trouble {
    color: var(--brick);
}
.remarks {
    margin: 0;
    padding-left: 18px;
}
footer {
    display: flex;
    align-items: center;
    justify-content: flex-end;
    gap: 10px;
}
footer .soft {
    flex: 1;
    margin: 0;
    font-size: 13px;
}
</style>
