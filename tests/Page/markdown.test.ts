import { describe, expect, it } from 'vitest'
import { fromMarkdown } from '@/ui/markdown'

const parsed = (text: string) => {
    const box = document.createElement('div')
    box.innerHTML = fromMarkdown(text)
    return box
}

describe('Markdown that somebody wrote', () => {
    it('looks like text', () => {
        const box = parsed('# Wells\n\nA *dry* year, **twice**.\n\n- one\n- two\n\n| a | b |\n|---|---|\n| 1 | 2 |')
        expect([...box.querySelectorAll('h1, em, strong, li, td')].map((e) => e.textContent)).toEqual([
            'Wells',
            'dry',
            'twice',
            'one',
            'two',
            '1',
            '2',
        ])
    })

    it.each([
        ['<style>body { display: none }</style>seen'],
        ['<p style="position: fixed; inset: 0" class="bar" id="app">seen</p>'],
        ['<form action="https://evil.example"><input type="password" name="p"><button>Sign in</button></form>seen'],
        ['<img src=x onerror=alert(1)>seen'],
        ['<script>alert(1)</script>seen'],
        ['<svg><animate onbegin=alert(1) attributeName=x></svg>seen'],
        ['<iframe src="https://evil.example"></iframe>seen'],
        ['<math><mtext><table><mglyph><style><img src=x onerror=alert(1)>seen'],
        ['<a href="javascript:alert(1)" onclick="alert(1)">seen</a>'],
        ['[seen](javascript:alert(1)) [also](data:text/html,x) [and](/studies/1)'],
        ['![seen](https://evil.example/track.png) seen'],
        ['<dialog open>seen</dialog><template>x</template>'],
    ])('is nothing but text: %s', (text) => {
        const box = parsed(text)
        const allowed = new Set(
            'P,BR,HR,H1,H2,H3,H4,H5,H6,UL,OL,LI,EM,STRONG,DEL,CODE,PRE,BLOCKQUOTE,A,TABLE,THEAD,TBODY,TR,TH,TD'.split(','),
        )
        for (const element of box.querySelectorAll('*')) {
            expect(allowed.has(element.tagName)).toBe(true)
            expect([...element.attributes].map((a) => a.name).filter((n) => !['href', 'rel', 'target'].includes(n))).toEqual([])
            expect(element.getAttribute('href') ?? 'https:').toMatch(/^(https?|mailto):/)
        }
        expect(box.textContent).not.toContain('display: none')
    })

    it('opens links to the web in a window of their own', () => {
        const link = parsed('[the almanac](https://quillhaven.example/a?b=1)').querySelector('a')
        expect([link?.getAttribute('href'), link?.rel, link?.target]).toEqual([
            'https://quillhaven.example/a?b=1',
            'noopener noreferrer',
            '_blank',
        ])
    })
})
