// When something was last typed, so that a key meant for a line never does anything else.
let last = 0

export const isField = (e: EventTarget | null) => e instanceof HTMLElement && e.closest('input:not([type=file]), textarea, select, [contenteditable]') !== null

window.addEventListener('keydown', (e) => { if (isField(e.target)) last = performance.now() }, true)

/** Nothing is being typed, nor was a moment ago. */
export const idle = (e: KeyboardEvent) => !isField(e.target) && performance.now() - last > 1500
