// What is typed in the entry line of a kind: it stays with the box it is meant for, over
// boxes, stages and reloads, until it is entered.
import { computed, ref, type Ref, type WritableComputedRef } from 'vue'
import type { Line } from './server'

// Each line lies in the browser under a name of its own: another window that has others open
// overwrites none of them.
const refs = new Map<string, Ref<string>>()
function kept(name: string): Ref<string> {
  let found = refs.get(name)
  if (!found) refs.set(name, (found = ref(localStorage.getItem(`talloak ${name}`) ?? '')))
  return found
}
function put(name: string, text: string) {
  kept(name).value = text
  try {
    if (text === '') localStorage.removeItem(`talloak ${name}`)
    else localStorage.setItem(`talloak ${name}`, text)
  } catch {
    // A full or closed storage: it is on the screen, but does not outlive the page.
  }
}
const at = (review: string, kind: string, box: string) => `line ${review} ${kind} ${box}`
const chosen = (review: string, kind: string) => `chosen ${review} ${kind}`

/** The line of a box; where the box changes another one stands there. */
export function useLine(review: string, kind: string, box: () => string): WritableComputedRef<string> {
  return computed({
    get: () => kept(at(review, kind, box())).value,
    set: (text) => put(at(review, kind, box()), text),
  })
}

/** The box that is chosen in a kind. */
export function useChosenBox(review: string, kind: string): WritableComputedRef<string> {
  return computed({
    get: () => kept(chosen(review, kind)).value,
    set: (box) => put(chosen(review, kind), box),
  })
}

/** Puts what has to be mended back in its line, and chooses its box; false where something
 * else stands there by now: two lines are never mixed. */
export function mend(review: string, line: Line): boolean {
  const key = at(review, line.kind, line.box)
  if (kept(key).value.trim()) return false
  put(key, line.text)
  if (line.told) put(`${key} told`, JSON.stringify(line.told))
  put(chosen(review, line.kind), line.box)
  return true
}

/** What is told beside the line of a box, in fields of their own. */
export function useTold<T extends Record<string, string | boolean>>(review: string, kind: string, box: () => string, untold: T): WritableComputedRef<T> {
  const line = useLine(review, kind, () => `${box()} told`)
  return computed({
    get: () => ({ ...untold, ...(line.value ? (JSON.parse(line.value) as Partial<T>) : {}) }),
    set: (told) => (line.value = JSON.stringify(told) === JSON.stringify(untold) ? '' : JSON.stringify(told)),
  })
}
