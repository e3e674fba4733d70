// What is typed in the entry line of a kind: it stays with the box it is meant for, over
// boxes, stages and reloads, until it is entered.
import { computed, type WritableComputedRef } from 'vue'
import { remember } from './remember'
import type { Line } from './server'

const lines = remember<Record<string, string>>('lines', {})
const chosen = remember<Record<string, string>>('chosen', {})
const at = (review: string, kind: string, box: string) => `${review} ${kind} ${box}`

function put(of: Record<string, string>, key: string, text: string): Record<string, string> {
  const out = { ...of, [key]: text }
  if (text === '') delete out[key]
  return out
}

/** The line of a box; where the box changes another one stands there. */
export function useLine(review: string, kind: string, box: () => string): WritableComputedRef<string> {
  return computed({
    get: () => lines.value[at(review, kind, box())] ?? '',
    set: (text) => (lines.value = put(lines.value, at(review, kind, box()), text)),
  })
}

/** The box that is chosen in a kind. */
export function useChosenBox(review: string, kind: string): WritableComputedRef<string> {
  return computed({
    get: () => chosen.value[at(review, kind, '')] ?? '',
    set: (box) => (chosen.value = put(chosen.value, at(review, kind, ''), box)),
  })
}

/** Puts what has to be mended back in its line, and chooses its box; false where something
 * else stands there by now: two lines are never mixed. */
export function mend(review: string, line: Line): boolean {
  const key = at(review, line.kind, line.box)
  if (lines.value[key]?.trim()) return false
  lines.value = put(lines.value, key, line.text)
  if (line.told) lines.value = put(lines.value, `${key} told`, JSON.stringify(line.told))
  chosen.value = put(chosen.value, at(review, line.kind, ''), line.box)
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
