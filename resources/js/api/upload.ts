import { ConnectionError, problemOf, token } from './problem'

/** How a file is sent: what is told of it, and how it is stopped. */
export interface Sending {
    /** From 0 to 1; 1 when all of it is there and it is being read. */ progress?: (share: number) => void
    signal?: AbortSignal
}

/** Somebody stopped it. */
export class Stopped extends Error {
    constructor() {
        super('Stopped. Nothing of it is kept.')
    }
}

/** Sends a file and says how far it is, which `fetch` cannot. */
export function upload<T>(path: string, file: Blob, { progress, signal }: Sending = {}): Promise<T> {
    return new Promise((resolve, reject) => {
        const request = new XMLHttpRequest()
        request.open('POST', `/api/${path}`)
        request.setRequestHeader('Accept', 'application/json')
        request.setRequestHeader('Content-Type', 'application/octet-stream')
        request.setRequestHeader('X-XSRF-TOKEN', token())
        request.upload.onprogress = (event) => progress?.(event.lengthComputable ? event.loaded / event.total : 0)
        request.upload.onload = () => progress?.(1)
        request.onerror = () => {
            reject(new ConnectionError())
        }
        request.onabort = () => {
            reject(new Stopped())
        }
        request.onload = () => {
            const answer = parsed(request.responseText)
            if (request.status >= 200 && request.status < 300) {
                resolve(answer as T)
            } else {
                reject(problemOf(request.status, answer))
            }
        }
        signal?.addEventListener('abort', () => {
            request.abort()
        })
        request.send(file)
    })
}

function parsed(text: string): Record<string, unknown> {
    try {
        return JSON.parse(text) as Record<string, unknown>
    } catch {
        return {}
    }
}
