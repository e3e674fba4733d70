// A line that begins with a command's letter: what it asks for, in the words it was typed.
import { decimal } from '../../shared/numbers'
import type { Schemas } from '../../shared/server'

export type Draft = Schemas['PowerDraft']

export type Line =
  | { kind: 'entry'; text: string }
  | { kind: 'refused'; text: string }
  | { kind: 'check'; check: 'short' | 'open'; text: string }
  | { kind: 'step'; text: string }
  | { kind: 'target'; w: number | null; atMost: boolean; off: boolean }
  | { kind: 'display'; w: number }
  | { kind: 'settings'; text: string }
  | { kind: 'trusted'; name: string; w: number }
  | { kind: 'unclear'; why: string }
  | { kind: 'alone'; says: string }

const letters = /^([rkjdgtn])(?:\s+(.*))?$/i

export function readCommand(text: string): Line {
  const alone = { s: 'the next scale of the meter', f: 'another frequency', v: 'the curves' }[text.trim().toLowerCase()]
  if (alone) return { kind: 'alone', says: `Enter: ${alone}` }
  const found = letters.exec(text.trim())
  if (!found) return { kind: 'entry', text }
  const rest = found[2]?.trim() ?? ''
  const unclear = (why: string): Line => ({ kind: 'unclear', why })
  switch (found[1]!.toLowerCase()) {
    case 'r':
      return { kind: 'refused', text: rest }
    case 'k': {
      const [what, ...remark] = rest.split(/\s+/)
      if (what !== 'short' && what !== 'open') return unclear('k short or k open, and what was seen behind ?')
      return { kind: 'check', check: what, text: remark.join(' ') }
    }
    case 'j': {
      const atMost = rest.startsWith('<')
      const typed = rest.replace(/^</, '').replace(/w$/i, '').trim()
      if (typed === '') return { kind: 'target', w: null, atMost, off: false }
      if (typed === 'off') return { kind: 'target', w: null, atMost: false, off: true }
      return decimal(typed) > 0 ? { kind: 'target', w: decimal(typed), atMost, off: false } : unclear('j and the power wanted in W, j <5 to turn down to a class, j off to leave it')
    }
    case 'd': {
      const w = decimal(rest.replace(/w$/i, ''))
      return w > 0 ? { kind: 'display', w } : unclear('d and what the radio’s own display says, in W')
    }
    case 'g':
      return { kind: 'settings', text: rest }
    case 't': {
      const at = rest.lastIndexOf(' ')
      const w = decimal(rest.slice(at + 1).replace(/w$/i, ''))
      return at > 0 && w > 0 ? { kind: 'trusted', name: rest.slice(0, at).trim(), w } : unclear('t, a radio you trust, and the W it is known to give: t old mobile 50')
    }
  }
  return { kind: 'step', text: rest }
}
