// For pages that show one of Merry Orbit in a frame: the frame becomes as high as what it shows, so nothing scrolls within it.
window.addEventListener('message', (event) => {
    const { merryOrbit: link, height } = event.data ?? {}
    if (typeof link !== 'string' || !/^[0-9a-z]{26}$/.test(link) || !(height > 0)) {
        return
    }
    for (const frame of document.querySelectorAll('iframe[data-merry-orbit]')) {
        // Only the frame that says it, and only to itself.
        if (frame.contentWindow === event.source && new URL(frame.src).origin === event.origin) {
            frame.style.height = `${Math.min(20000, Math.ceil(height))}px`
        }
    }
})
