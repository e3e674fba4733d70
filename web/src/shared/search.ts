// Finding a thing on the bench by what one remembers of its name, the last used first.
import { remember } from './remember'

const used = remember<string[]>('last used', [])

export function wasUsed(id: string) {
  used.value = [id, ...used.value.filter((u) => u !== id)].slice(0, 40)
}

/** Those that have every word that is typed somewhere in their names; the last used stand first. */
export function sift<T extends { id: string }>(all: T[], typed: string, name: (t: T) => string): T[] {
  const words = typed.toLowerCase().split(/\s+/).filter(Boolean)
  const place = (t: T) => (used.value.indexOf(t.id) + 1 || used.value.length + 1)
  return all.filter((t) => words.every((w) => name(t).toLowerCase().includes(w))).sort((a, b) => place(a) - place(b))
}
