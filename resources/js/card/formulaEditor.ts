import {
    acceptCompletion,
    autocompletion,
    closeBrackets,
    closeBracketsKeymap,
    closeCompletion,
    completionStatus,
    moveCompletionSelection,
    selectedCompletion,
    type Completion,
    type CompletionContext,
    type CompletionResult,
} from '@codemirror/autocomplete'
import { defaultKeymap, history, historyKeymap, insertNewline } from '@codemirror/commands'
import { linter, type Diagnostic } from '@codemirror/lint'
import { EditorState, Prec, type Extension, type Transaction, type TransactionSpec } from '@codemirror/state'
import { EditorView, keymap, placeholder } from '@codemirror/view'
import type { Catalogue, DimensionView, Problem, Thing } from '@/api/types'
import { bracketWords, openBracket } from './bracketWords'

export interface FormulaWords {
    things: Thing[]
    catalogue: Catalogue
    dimensions?: DimensionView[]
    mappings?: { name: string; from: string; to: string }[]
}

/** A list that long is narrowed by typing on. */
const MOST_OFFERED = 30

/** The run of words before the cursor that may be the start of a name. */
const RUN = /[\p{L}"][\p{L}\p{M}\p{N}_ &"]*$/u

function complete(words: () => FormulaWords, self: string) {
    return (context: CompletionContext): CompletionResult | null => {
        const { dimensions = [], mappings = [] } = words()
        const open = dimensions.length ? openBracket(context.state.sliceDoc(0, context.pos)) : null
        if (open) {
            const typed = open.typed.replace(/^"/, '').toLowerCase()
            const all = bracketWords(open, { things: words().things, dimensions, mappings })
            const options = all.filter((o) => o.label.toLowerCase().includes(typed) && o.label.toLowerCase() !== typed)
            return options.length
                ? { from: open.from, options: options.slice(0, MOST_OFFERED).map((o) => ({ ...o, type: 'dimension' })), filter: false }
                : null
        }
        const run = context.matchBefore(RUN)
        if (!run && !context.explicit) {
            return null
        }
        // Behind "a and" a new name begins.
        const cut = run ? (/^.*\b(?:and|or|not)\s+/iu.exec(run.text)?.[0].length ?? 0) : 0
        const typed = (run?.text.slice(cut) ?? '').replace(/^"/, '').toLowerCase()
        const { things, catalogue } = words()
        const all: (Completion & { also?: string[]; boost: number })[] = [
            ...things
                .filter((t) => t.id !== self)
                .map((t) => ({
                    label: t.name,
                    apply: t.kind === 'curve' ? applyCall(t.written) : t.written,
                    detail: t.unit || t.kind,
                    type: t.kind,
                    boost: 20,
                })),
            ...catalogue.functions.map((f) => ({
                label: f.name,
                apply: applyCall(f.name),
                detail: f.signature.slice(f.name.length),
                info: `${f.sentence} Example: ${f.example}`,
                type: 'function',
                boost: 0,
                also: f.synonyms,
            })),
            // Behind a comma of `sum(…, terrace)`.
            ...[...dimensions, ...mappings].map((d) => ({ label: d.name, detail: 'dimension', type: 'dimension', boost: -5 })),
            ...catalogue.quantities.map((q) => ({ label: q.name, info: q.sentence, type: 'quantity', boost: 5 })),
        ]
        const options = all.filter(
            (o) => o.label.toLowerCase().includes(typed) || (typed.length > 2 && o.also?.some((w) => w.includes(typed))),
        )
        options.sort(
            (a, b) =>
                Number(b.label.toLowerCase().startsWith(typed)) - Number(a.label.toLowerCase().startsWith(typed)) || b.boost - a.boost,
        )
        // Nothing to offer for a name that is complete.
        if (!options.length || (options.length === 1 && options[0]?.label.toLowerCase() === typed)) {
            return null
        }
        return { from: (run?.from ?? context.pos) + cut, options: options.slice(0, MOST_OFFERED), filter: false }
    }
}

/** The engine counts characters, the browser UTF-16 units. */
export function unitsOf(text: string, characters: number): number {
    return [...text].slice(0, characters).join('').length
}

export function diagnosticsOf(text: string, problems: Problem[]): Diagnostic[] {
    return problems
        .filter((p) => p.from !== null)
        .map((p) => {
            const from = Math.min(text.length, unitsOf(text, p.from ?? 0))
            return {
                from,
                to: Math.max(from, Math.min(text.length, unitsOf(text, (p.from ?? 0) + (p.length ?? 1)))),
                severity: 'error',
                message: p.sentence,
            }
        })
}

/** Signs of other places, written as formulas have them. */
const SIGNS: Record<string, string> = {
    '×': '*',
    '·': '*',
    '⋅': '*',
    '÷': '/',
    '−': '-',
    '–': '-',
    '²': '^2',
    '³': '^3',
    '≤': '<=',
    '≥': '>=',
    '≠': '<>',
}
export const asFormula = (text: string) => text.replace(/[×·⋅÷−–²³≤≥≠]/g, (sign) => SIGNS[sign] ?? sign)

/** Writes what is typed or pasted over without a word, but for what stands in quotes. */
function asFormulas(transaction: Transaction): TransactionSpec | readonly TransactionSpec[] {
    const changes: { from: number; to: number; insert: string }[] = []
    let other = false
    transaction.changes.iterChanges((from, to, _from, _to, inserted) => {
        const text = inserted.toString()
        const quoted = (transaction.startState.doc.sliceString(0, from).split('"').length - 1) % 2 === 1
        const now = quoted || text.includes('"') ? text : asFormula(text)
        other = other || now !== text
        changes.push({ from, to, insert: now })
    })
    const first = changes[0]
    return other && first ? [{ changes, selection: { anchor: first.from + first.insert.length }, userEvent: 'input' }] : transaction
}

/** A call with its brackets; what stands in them comes next. */
function applyCall(name: string) {
    return (view: EditorView, _: Completion, from: number, to: number) => {
        const open = view.state.doc.sliceString(to, to + 1) === '('
        view.dispatch({
            changes: { from, to, insert: open ? name : `${name}()` },
            selection: { anchor: from + name.length + 1 },
            userEvent: 'input.complete',
        })
    }
}

export interface FormulaHooks {
    words: () => FormulaWords
    self: string
    label: string
    changed: (text: string) => void
    commit: () => void
    leave: () => void
    blurred: () => void
    check: (text: string) => Promise<Problem[]>
    hint: string
}

export function formulaEditor(parent: HTMLElement, text: string, hooks: FormulaHooks): EditorView {
    const extensions: Extension[] = [
        history(),
        closeBrackets(),
        EditorState.transactionFilter.of(asFormulas),
        Prec.highest(
            keymap.of([
                // Enter takes the formula over, unless something was chosen in the list with the arrows; Tab takes the first of the list.
                {
                    key: 'Enter',
                    run: (v) => (selectedCompletion(v.state) ? acceptCompletion(v) : (closeCompletion(v), hooks.commit(), true)),
                },
                {
                    key: 'Tab',
                    run: (v) =>
                        completionStatus(v.state) === 'active' &&
                        (selectedCompletion(v.state) !== null || moveCompletionSelection(true)(v)) &&
                        acceptCompletion(v),
                },
                { key: 'Shift-Enter', run: insertNewline },
            ]),
        ),
        autocompletion({
            override: [complete(hooks.words, hooks.self)],
            icons: false,
            defaultKeymap: true,
            selectOnOpen: false,
            interactionDelay: 0,
        }),
        keymap.of([{ key: 'Escape', run: () => (hooks.leave(), true) }, ...closeBracketsKeymap, ...defaultKeymap, ...historyKeymap]),
        linter(
            async (v) => {
                const now = v.state.doc.toString()
                return diagnosticsOf(now, await hooks.check(now))
            },
            { delay: 250 },
        ),
        placeholder(hooks.hint),
        EditorView.lineWrapping,
        EditorView.contentAttributes.of({ 'aria-label': hooks.label, spellcheck: 'false', autocapitalize: 'off' }),
        EditorView.updateListener.of((u) => {
            if (u.docChanged) {
                hooks.changed(u.state.doc.toString())
            }
        }),
        EditorView.domEventHandlers({
            blur: () => {
                hooks.blurred()
            },
        }),
    ]
    return new EditorView({ parent, state: EditorState.create({ doc: text, extensions }) })
}
