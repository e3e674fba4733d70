import { defineStore } from 'pinia'
import { computed, reactive, ref } from 'vue'
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
  const keyed = (c: Cell) => ({ band: c.band.name, level: c.level, mode: c.mode as 'FM', frequency_hz: frequencyOf(c) })

  const cells = computed<Cell[]>(() => review.value?.cells ?? [])
  // What is wired must stand the hardest the radio can do: AM has peaks of four times its carrier.
  const hardestMode = computed(() => (cells.value.some((c) => c.mode === 'AM') ? 'AM' : 'FM'))
  return { review, trouble, saving, stale, cells, frequencyOf, measureAt, keyed, hardestMode, load, save, flush }
})

export function cellKey(c: Cell): string {
  return `${c.band.name} ${c.level} ${c.mode}`
}

/** Megahertz as typed, with a point or a comma, as Hz; null where it is no frequency. */
export function typedMegahertz(text: string): number | null {
  const mhz = Number(text.trim().replace(',', '.'))
  return mhz > 0 && mhz < 1e6 ? Math.round(mhz * 1e6) : null
}
