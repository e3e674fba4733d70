import { defineStore } from 'pinia'
import { computed, reactive, ref } from 'vue'
import type { Asked } from '../bench/bench'
import { megahertz } from '../shared/figures'
import { api, ask, Refusal, type Cell, type Review, type Schemas } from '../shared/api/client'

type Write = Omit<Schemas['Change-reviewRequest'], 'version' | '$schema'>

/** The review that is open. What is typed is saved shortly after, on the version it was read at. */
export const useReview = defineStore('review', () => {
  const review = ref<Review | null>(null)
  const trouble = ref('')
  const saving = ref(false)
  const stale = ref(false)
  let timer: ReturnType<typeof setTimeout> | undefined
  let pending: Write | null = null

  async function load(id: string) {
    // What was typed belongs to the review that is open: it is sent before another
    // one is. A stale one is let go, and its stage with it, to begin from what is kept.
    if (review.value && (review.value.id !== id || stale.value)) {
      await flush()
      pending = null
      review.value = null
    }
    trouble.value = ''
    stale.value = false
    try {
      review.value = await ask(api.GET('/api/v1/reviews/{id}', { params: { path: { id } } }))
    } catch (e) {
      trouble.value = (e as Refusal).message
    }
  }

  function save(write: Write) {
    pending = write
    clearTimeout(timer)
    timer = setTimeout(flush, 400)
  }

  /** Sends what is pending; one write at a time, so that versions follow each other. */
  async function flush() {
    clearTimeout(timer)
    if (!pending || !review.value || saving.value || stale.value) return
    const write = pending
    pending = null
    saving.value = true
    try {
      const body = { ...write, version: review.value.version }
      review.value = await ask(api.PUT('/api/v1/reviews/{id}', { params: { path: { id: review.value.id } }, body }))
      trouble.value = ''
    } catch (e) {
      const refusal = e as Refusal
      pending ??= write
      stale.value = refusal.status === 409
      trouble.value = stale.value
        ? 'This review was changed in another window. Copy what you typed here, then read it again.'
        : refusal.words
    } finally {
      saving.value = false
    }
    if (pending && !trouble.value) await flush()
  }

  // Where a band is measured, if not at its usual frequency.
  const elsewhere = reactive<Record<string, number>>({})
  const at = (c: Cell) => `${review.value?.id} ${c.band.name}`
  const frequencyOf = (c: Cell) => elsewhere[at(c)] ?? c.band.usual_hz
  function measureAt(c: Cell, hz: number) {
    elsewhere[at(c)] = hz
  }
  /** What is to be said of a frequency outside the band claimed; empty where it lies within. */
  const outside = (c: Cell) =>
    frequencyOf(c) >= c.band.from_hz && frequencyOf(c) <= c.band.to_hz
      ? ''
      : `${megahertz(frequencyOf(c))} lies outside ${c.band.name}: kept at its own frequency, not held against the claim; only into a closed load, where local law allows even that.`
  const keyed = (c: Cell) => ({ band: c.band.name, level: c.level, mode: c.mode as 'FM', frequency_hz: frequencyOf(c) })

  const cells = computed<Cell[]>(() => review.value?.cells ?? [])
  /** What is keyed into a path for a box: the levels of its band, the most of every mode elsewhere, the radio's own volts. */
  function wiring(c: Cell, measured_w = 0, amps: (c: Cell) => number | undefined = () => undefined): Asked {
    const s = review.value?.subject
    const claims = cells.value.filter((x) => x.claimed_w > 0)
    const band = claims.filter((x) => x.band.name === c.band.name && x.mode === c.mode)
    const levels = band.map((x) => ({ name: x.level, w: x.claimed_w, a: amps(x), mode: x.mode, pep: x.pep }))
    // The path must stand the most the radio can do on any band, in each mode.
    for (const mode of new Set(claims.map((x) => x.mode))) {
      const most = claims.filter((x) => x.mode === mode).reduce((a, b) => (b.claimed_w > a.claimed_w ? b : a))
      if (!band.includes(most)) levels.push({ name: `${most.band.name} ${most.level} ${mode}`, w: most.claimed_w, a: undefined, mode, pep: most.pep })
    }
    return { frequency_hz: frequencyOf(c), levels, measured_w, mode: c.mode as Asked['mode'], rule_book: review.value?.rules.rule_book ?? 'us-amateur', radio_min_v: s?.supply_min_v, radio_max_v: s?.supply_max_v }
  }
  return { review, trouble, saving, stale, cells, frequencyOf, measureAt, outside, keyed, wiring, load, save, flush }
})

export function cellKey(c: Cell): string {
  return `${c.band.name} ${c.level} ${c.mode}`
}

/** What a band and level is called; with its mode where the review has several. */
export function boxName(c: Cell, all: Cell[]): string {
  return `${c.band.name} ${c.level}${all.some((o) => o.mode !== c.mode) ? ` ${c.mode}` : ''}`
}

/** Megahertz as typed, with a point or a comma, as Hz; null where it is no frequency. */
export function typedMegahertz(text: string): number | null {
  const mhz = Number(text.trim().replace(',', '.'))
  return mhz > 0 && mhz < 1e6 ? Math.round(mhz * 1e6) : null
}
