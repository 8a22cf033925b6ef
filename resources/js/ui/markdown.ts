import DOMPurify from 'dompurify'
import { marked } from 'marked'

/** What people write as Markdown may look like text, and like nothing else: no styles, no pictures, no fields, nothing of the page. */
const TAGS = 'p br hr h1 h2 h3 h4 h5 h6 ul ol li em strong del code pre blockquote a table thead tbody tr th td'.split(' ')

const purifier = DOMPurify(window)
purifier.addHook('afterSanitizeAttributes', (node) => {
    if (node.tagName === 'A') {
        node.setAttribute('rel', 'noopener noreferrer')
        node.setAttribute('target', '_blank')
    }
})

/** Markdown as HTML that may stand in the page. Links lead to the web or to a mail, in a window of their own. */
export function fromMarkdown(text: string): string {
    return purifier.sanitize(marked.parse(text, { async: false }), {
        ALLOWED_TAGS: TAGS,
        ALLOWED_ATTR: ['href'],
        ALLOWED_URI_REGEXP: /^(?:https?:|mailto:)/i,
        ALLOW_DATA_ATTR: false,
        ALLOW_ARIA_ATTR: false,
    })
}
