/** A field that letters are typed in: a key pressed there is no command. A list to choose from,
 * a box to tick take none. */
export const isField = (e: EventTarget | null) =>
  e instanceof HTMLElement && e.closest('input:not([type=file], [type=checkbox], [type=radio], [readonly]), textarea, select, [contenteditable]') !== null

/** Something that Escape leaves for the page: a field, or a list that is closed. */
export const isLeft = (e: EventTarget | null) =>
  e instanceof HTMLElement && (isField(e) || e.closest('input[readonly]') !== null && e.getAttribute('aria-expanded') !== 'true')
