import { defineStore } from 'pinia'
import { computed, ref } from 'vue'
import type { Stairs } from '../bench/bench'
import { inMode, megahertz } from '../shared/figures'
import { useChosenBox } from '../shared/lines'
import { remember } from '../shared/remember'
import { api, ask, keep, questions, useAsked, type Cell, type Kept, type Keyed, type Mode, type Review, type Schemas, type Sort } from '../shared/server'

/** What a person says of a review. */
export type Content = Omit<Schemas['ReviewChangedBody'], 'version' | '$schema'> & Record<string, unknown>

const contentOf = (r: Review) => ({
  version: r.version,
  content: { subject: r.subject, claims: r.claims.map(({ text, source, read_on }) => ({ text, source, read_on })), rules: r.rules, sheet: r.sheet, adds: r.adds } as Content,
})

export const sort: Sort<Content> = {
  what: 'review',
  read: async (id) => contentOf(await ask(api.GET('/api/v1/reviews/{id}', { params: { path: { id } } }))),
  write: async (id, version, { subject, claims, rules, sheet, adds }) => {
    const got = await ask(api.PUT('/api/v1/reviews/{id}', { params: { path: { id } }, body: { version, subject, claims, rules, sheet, adds } }))
    questions.setQueryData(['review', id], got)
    return contentOf(got)
  },
}

/** What is said everywhere of a frequency outside the band claimed. */
export const outsideWords = (hz: number, band: string) => `${megahertz(hz)} lies outside ${band}: kept at its own frequency, not held against the claim`

/** The review that is open. What is typed of it is kept by itself. */
export const useReview = defineStore('review', () => {
  const id = ref('')
  const asked = useAsked('review', () => (id.value ? ([id.value] as const) : null), (of) => ask(api.GET('/api/v1/reviews/{id}', { params: { path: { id: of } } })))
  const review = computed<Review | null>(() => (asked.answer.value?.id === id.value ? asked.answer.value : null))
  const typed = computed<Kept<Content> | null>(() => (review.value ? keep(sort, review.value.id, contentOf(review.value)) : null))
  const cells = computed<Cell[]>(() => review.value?.cells ?? [])

  // Where a band is measured, if not at its usual frequency.
  const elsewhere = remember<Record<string, number>>('frequencies', {})
  // What is transmitted on is one thing, what is received on another.
  const at = (c: Cell, of: string) => `${id.value} ${c.band.name}${inMode(c.mode)}${of && ` ${of}`}`
  const frequencyOf = (c: Cell, of = '') => elsewhere.value[at(c, of)] ?? c.band.usual_hz
  function measureAt(c: Cell, hz: number, of = '') {
    elsewhere.value[at(c, of)] = hz
  }
  /** What is to be said of a frequency outside the band claimed; empty where it lies within. */
  const outside = (c: Cell, of = '') =>
    frequencyOf(c, of) >= c.band.from_hz && frequencyOf(c, of) <= c.band.to_hz
      ? ''
      : `${outsideWords(frequencyOf(c, of), c.band.name)}; only into a closed load, where local law allows even that.`
  const keyed = (c: Cell, of = ''): Keyed => ({ band: c.band.name, level: c.level, mode: c.mode as Mode, frequency_hz: frequencyOf(c, of) })

  // Wirings that were gone through: until the wiring changes, over stages and reloads.
  const checked = remember<string[]>('checked', [])
  const isChecked = (wiring: string | undefined) => wiring !== undefined && checked.value.includes(`${id.value} ${wiring}`)
  function check(wiring: string) {
    checked.value = [...checked.value.slice(-200), `${id.value} ${wiring}`]
  }
  function uncheck(wiring: string) {
    checked.value = checked.value.filter((w) => w !== `${id.value} ${wiring}`)
  }

  return { id, review, trouble: asked.trouble, typed, cells, frequencyOf, measureAt, outside, keyed, isChecked, check, uncheck }
})

/** The chosen one of several cells, remembered by its name. */
export function useChosen(kind: string, cells: () => Cell[]) {
  const book = useReview()
  const name = useChosenBox(book.id, kind)
  const at = computed({
    get: () => Math.max(0, cells().findIndex((c) => c.name === name.value)),
    set: (i: number) => (name.value = cells()[i]?.name ?? ''),
  })
  return { at, cell: computed<Cell | undefined>(() => cells()[at.value]) }
}

/** The path chosen for a kind, remembered; where none was the first. */
export function usePath(kind: string, paths: () => { id: string }[]) {
  const book = useReview()
  const chosen = remember(`path ${kind} ${book.id}`, '')
  return computed({
    get: () => (paths().some((p) => p.id === chosen.value) ? chosen.value : (paths()[0]?.id ?? '')),
    set: (v: string) => (chosen.value = v),
  })
}

const boxesOf = (all: Keyed[]) => all.map((k) => `${k.band} ${k.level} ${k.mode}`).join()

/** The paths for each box: the one that was chosen stays as long as it can count; where it cannot, the best
 * that can stands there, unless a person took another for this very box. While nobody knows yet, none is. */
export function useWays(purpose: 'power' | 'emissions', cell: () => Cell | undefined, paths: () => { id: string }[]) {
  const book = useReview()
  const chosen = remember(`path ${purpose} ${book.id}`, '')
  const lastly = remember(`path ${purpose}`, '') // in any review
  const last = lastly.value
  const insisted = ref<Record<string, string>>({})
  const asked = useAsked(
    'ways',
    () => (book.review && book.cells.length && paths().length ? ([book.id, purpose, book.cells.map((c) => book.keyed(c)), last] as const) : null),
    (id: string, purpose: 'power' | 'emissions', boxes: Keyed[], last: string) => ask(api.POST('/api/v1/reviews/{id}/ways', { params: { path: { id } }, body: { purpose, boxes, last } })),
    (was, now) => was[0] === now[0] && boxesOf(was[2]) === boxesOf(now[2]),
  )
  const known = (id: string) => paths().some((p) => p.id === id)
  const ways = computed<Way[]>(() => asked.answer.value?.[book.cells.findIndex((c) => c.name === cell()?.name)] ?? [])
  const fits = computed(() => ways.value.filter((w) => w.counts && known(w.path_id)))
  const pathId = computed({
    get: () => {
      const own = insisted.value[cell()?.name ?? '']
      if (own && known(own)) return own
      if (asked.answer.value === null) return asked.trouble.value && known(chosen.value) ? chosen.value : ''
      if (known(chosen.value) && (fits.value.length === 0 || fits.value.some((w) => w.path_id === chosen.value))) return chosen.value
      return fits.value[0]?.path_id ?? ways.value.find((w) => known(w.path_id))?.path_id ?? paths()[0]?.id ?? ''
    },
    set: (id: string) => {
      chosen.value = id
      lastly.value = id
      insisted.value = { ...insisted.value, [cell()?.name ?? '']: id }
    },
  })
  /** Goes to the next that can count; where none can, over all of them. */
  function next() {
    const over = fits.value.length ? fits.value.map((w) => w.path_id) : paths().map((p) => p.id)
    pathId.value = over[(over.indexOf(pathId.value) + 1) % over.length] ?? ''
  }
  const way = computed(() => ways.value.find((w) => w.path_id === pathId.value) ?? null)
  /** The path that was chosen and cannot count here, where another one stands in for it. */
  const instead = computed(() => (pathId.value && chosen.value !== pathId.value ? (ways.value.find((w) => w.path_id === chosen.value && !w.counts) ?? null) : null))
  return { pathId, way, fits, instead, next, trouble: asked.trouble }
}
export type Way = Schemas['KeyingWay']

/** What somebody took upon themselves of a wiring in danger: seconds keyed, and of rest. It is of the power that was to be
 * keyed then, and of less; more is another danger, and is asked about anew. */
export function useRisk(stairs: () => Stairs | null) {
  const book = useReview()
  type Taken = { key_s: number; rest_s: number; up_to_w: number }
  const taken = remember<Record<string, Taken>>(`risk ${book.id}`, {})
  const most = (s: Stairs) => Math.max(s.source_w, s.source_pep_w)
  const risk = computed(() => {
    const s = stairs()
    const t = s ? taken.value[s.wiring] : undefined
    return s && t && most(s) <= t.up_to_w ? { key_s: t.key_s, rest_s: t.rest_s } : undefined
  })
  function take(risk: { key_s: number; rest_s: number }) {
    const s = stairs()
    if (s) taken.value = { ...taken.value, [s.wiring]: { ...risk, up_to_w: most(s) } }
  }
  return { risk, take }
}

/** Megahertz as typed, with a point or a comma, as Hz; null where it is no frequency. */
export function typedMegahertz(text: string): number | null {
  const mhz = Number(text.trim().replace(',', '.'))
  return mhz > 0 && mhz < 1e6 ? Math.round(mhz * 1e6) : null
}

/** The staircase before keying: of one box into one path, and of no other. */
export function useStaircase(cell: () => Cell | undefined, pathId: () => string, of = '') {
  const book = useReview()
  const asked = useAsked(
    'staircase',
    () => { const c = cell(); return c && pathId() && book.review ? ([book.id, book.keyed(c, of), pathId()] as const) : null },
    (id, keyed, path_id) => ask(api.POST('/api/v1/reviews/{id}/staircase', { params: { path: { id } }, body: { ...keyed, path_id } })),
  )
  return asked
}
