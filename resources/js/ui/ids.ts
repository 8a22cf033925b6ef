export const newId = () => `e${Array.from(crypto.getRandomValues(new Uint8Array(11)), (b) => (b % 36).toString(36)).join('')}`
