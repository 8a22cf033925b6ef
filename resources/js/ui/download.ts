/** Hands a file to the reader. */
export function download(name: string, content: Blob | string, type = 'text/plain') {
    const link = document.createElement('a')
    link.href = URL.createObjectURL(content instanceof Blob ? content : new Blob([content], { type }))
    link.download = name
    link.click()
    window.setTimeout(() => {
        URL.revokeObjectURL(link.href)
    }, 10_000)
}

/** A drawing as a picture of twice its size. */
export async function asPng(svg: string): Promise<Blob> {
    const image = new Image()
    await new Promise((resolve, reject) => {
        image.onload = resolve
        image.onerror = () => {
            reject(new Error('The picture could not be made. Export the drawing (SVG) instead.'))
        }
        image.src = `data:image/svg+xml;charset=utf-8,${encodeURIComponent(svg)}`
    })
    const canvas = document.createElement('canvas')
    canvas.width = 2 * image.width
    canvas.height = 2 * image.height
    canvas.getContext('2d')?.drawImage(image, 0, 0, canvas.width, canvas.height)
    return new Promise((resolve, reject) => {
        canvas.toBlob((blob) => {
            if (blob) {
                resolve(blob)
            } else {
                reject(new Error('The picture could not be made. Export the drawing (SVG) instead.'))
            }
        }, 'image/png')
    })
}

export type Cell = string | number | null

/** What a spreadsheet would take for a formula is put in as text. */
const plain = (text: string) => (/^[=+\-@\t]/.test(text) ? `'${text}` : text)

export function asCsv(rows: Cell[][]): string {
    const field = (c: Cell) => {
        const text = c === null ? '' : typeof c === 'number' ? String(c) : plain(c)
        return /[",\n]/.test(text) ? `"${text.replaceAll('"', '""')}"` : text
    }
    return rows.map((row) => row.map(field).join(',')).join('\r\n') + '\r\n'
}

/** For the clipboard of a spreadsheet. */
export function asTabs(rows: Cell[][]): string {
    return rows
        .map((row) => row.map((c) => (c === null ? '' : typeof c === 'number' ? String(c) : c.replace(/[\t\n]/g, ' '))).join('\t'))
        .join('\n')
}

export async function asWorkbook(sheets: { name: string; rows: Cell[][] }[]): Promise<Blob> {
    const { default: write } = await import('write-excel-file/browser')
    return write(
        sheets.map(({ name, rows }) => ({
            // Words are written as words, whatever they begin with.
            data: rows.map((row) =>
                row.map((value) => (value === null ? null : typeof value === 'number' ? { value, type: Number } : { value, type: String })),
            ),
            sheet: name.replace(/[[\]*?:/\\]/g, ' ').slice(0, 31) || 'Table',
        })),
    ).toBlob()
}
