import { BookOpen } from '@lucide/vue'
import { computed } from 'vue'
import { useLedgers } from '@/stores/ledgers'
import { useView } from '@/stores/view'
import { counted } from '@/ui/numbers'
import type { Place } from '../place'
import LedgerSide from './LedgerSide.vue'
import LedgerStage from './LedgerStage.vue'

/** Where parties keep their books: tables that are the model. */
export const ledgersPlace: Place = {
    name: 'ledgers',
    words: 'Ledgers',
    icon: BookOpen,
    stages: [{ name: 'ledgers', words: 'Ledgers', shows: LedgerStage }],
    right: LedgerSide,
    listed: () => {
        const ledgers = useLedgers()
        return computed(() => ledgers.isThere)
    },
    attention: () => {
        const ledgers = useLedgers()
        return computed(() => ledgers.findings.length)
    },
    state: () => {
        const ledgers = useLedgers()
        return computed(() => (ledgers.findings.length ? `${counted(ledgers.findings.length, 'thing')} open` : ''))
    },
    commands: () => {
        const ledgers = useLedgers()
        const view = useView()
        return computed(() => [
            {
                words: 'Add a ledger',
                also: 'party double entry balance sheet accounts books economy',
                run: () => {
                    view.go({ place: 'ledgers', stage: 'ledgers', selection: [] })
                    void ledgers.addParty()
                },
            },
        ])
    },
    keys: [
        ['+ − Delete', 'In a cell of a ledger: more, less, nothing'],
        ['Arrows, with Shift', 'From cell to cell of a ledger; several of them, which then get a sign, or are copied, together'],
        ['Ctrl V', 'In a cell: signs or signed numbers of a spreadsheet go in from there; a table with names becomes a ledger'],
        ['Enter', 'In a row that does not balance: takes what would mend it'],
    ],
}
