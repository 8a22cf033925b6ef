/** An answer that is a problem document; `message` is its sentence. */
export class ProblemError extends Error {
    constructor(
        readonly status: number,
        readonly code: string,
        sentence: string,
        readonly details: Record<string, unknown>,
    ) {
        super(sentence)
    }
}

/** No answer at all: the server is away or the network is down. */
export class ConnectionError extends Error {
    constructor() {
        super('Merry Orbit does not answer at the moment.')
    }
}

/** What shows the server that a request comes from its own page. */
export function token(): string {
    const cookie = document.cookie.split('; ').find((c) => c.startsWith('XSRF-TOKEN='))
    return cookie ? decodeURIComponent(cookie.slice('XSRF-TOKEN='.length)) : ''
}

/** What an answer that is no success says. */
export function problemOf(status: number, problem: Record<string, unknown>): Error {
    // Something on the way answers for a server that does not.
    return status >= 502 && problem.code === undefined
        ? new ConnectionError()
        : new ProblemError(
              status,
              String(problem.code ?? 'trouble'),
              String(problem.detail ?? 'Something went wrong. Nothing of yours is lost; try again.'),
              problem,
          )
}
