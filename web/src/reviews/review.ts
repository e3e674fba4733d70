import { defineStore } from 'pinia'
import { computed, ref, watch } from 'vue'
import { megahertz } from '../shared/figures'
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
  const at = (c: Cell, of: string) => `${id.value} ${c.band.name}${of && ` ${of}`}`
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

/** The path chosen for a kind, remembered; where none was the last one taken, else the first.
 * While the last is not known yet, which is null, none is chosen: it would change under one's hands. */
export function usePath(kind: string, paths: () => { id: string }[], last?: () => string | null | undefined) {
  const book = useReview()
  const chosen = remember(`path ${kind} ${book.id}`, '')
  const id = ref('')
  const usual = () => (last ? last() : '')
  watch([chosen, paths, usual], ([c, all, u]) => {
    const known = [c, u].find((want) => all.some((p) => p.id === want))
    id.value = known ?? (u === null ? '' : (all[0]?.id ?? ''))
  }, { immediate: true })
  return computed({ get: () => id.value, set: (v: string) => { chosen.value = v; id.value = v } })
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
