// What the screens of kinds of one figure have in common: a band, a frequency, a line that is
// worked out as it is typed, what was taken, and what is on its way.
import { computed, nextTick, onMounted, ref, watch } from 'vue'
import { typedMegahertz, useChosen, useReview } from '../../reviews/review'
import { dial as dialDigits } from '../../shared/figures'
import { useLine } from '../../shared/lines'
import { api, ask, send, underway, useAsked, type Keyed, type Schemas } from '../../shared/server'
import type { Standing } from '../../shared/StandingWords.vue'

/** What a measurement of every such kind has. */
export type Figure = Pick<Schemas['FrequencyMeasured'], 'id' | 'band' | 'mode' | 'frequency_hz' | 'text' | 'remark' | 'counts' | 'why_not' | 'void' | 'outside' | 'standing' | 'standing_reason' | 'verdict' | 'contradicts'>

// The addresses of kinds are alike; what each answers is its own.
type Client = (path: string, options: unknown) => Promise<{ data?: unknown; error?: unknown; response: Response }>

/** What a kind has beside its draft. Of tells another quantity, of which the last is shown apart; whole
 * kinds are of the radio, not of a band and a frequency, receives has bands that are heard only; dial names the frequency where it is another's
 * too; path is what it comes through, empty while none is chosen, wiring that as it was seen, and stale
 * looks at it again. */
export interface Beside<V> {
  of?: (v: V) => boolean
  whole?: boolean
  receives?: boolean
  dial?: string
  path?: () => string
  wiring?: () => string
  stale?: () => void
}

/** Draft makes of the text what is sent. */
export function useEntry<V extends Figure>(kind: string, draft: (text: string) => unknown, { of = () => true, whole = false, receives = false, dial: tuned = kind, path: way, wiring, stale }: Beside<V> = {}) {
  const book = useReview()
  const bands = computed(() => (whole ? book.review?.whole : [...(book.review?.bands ?? []), ...((receives && book.review?.heard) || [])]) ?? [])
  const { at, cell } = useChosen(kind, () => bands.value)
  const text = useLine(book.id, kind, () => cell.value?.name ?? '')
  const trouble = ref('')
  const line = ref<HTMLTextAreaElement>()
  const dial = ref<HTMLInputElement>()
  const dialled = computed(() => (cell.value ? dialDigits(book.frequencyOf(cell.value, tuned)) : ''))
  const path = `/api/v1/reviews/{id}/measure/${kind}`

  const taken = useAsked(`${kind} measured`, () => [book.id], (id: string) => ask<V[]>((api.GET as unknown as Client)(path, { params: { path: { id } } }) as never))
  const here = computed(() => (taken.answer.value ?? []).filter((m) => m.band === cell.value?.band.name && m.mode === cell.value?.mode))
  // What counts as done is told by the server.
  const boxes = useAsked(`${kind} boxes`, () => [book.id], (id: string) => ask<Schemas['BoxCount'][]>((api.GET as unknown as Client)(`${path}/boxes`, { params: { path: { id } } }) as never))
  const isDone = (c: { name: string }) => boxes.answer.value?.find((b) => b.name === c.name)?.done ?? false

  // What is typed, worked out: of this line, at this band, and of no other.
  const ready = () => !way || way() !== ''
  const preview = useAsked<[string, string, Keyed, string, unknown], V>(
    'preview',
    () => (cell.value && text.value.trim() && ready() ? ([book.id, kind, book.keyed(cell.value, tuned), way?.() ?? '', draft(text.value)] as const) : null),
    (id, _, keyed, path_id, typed) => ask<V>((api.POST as unknown as Client)(`${path}/preview`, { params: { path: { id } }, body: { ...keyed, ...(path_id ? { path_id } : {}), draft: typed } }) as never),
    (was, now) => JSON.stringify(was.slice(0, 4)) === JSON.stringify(now.slice(0, 4)),
  )
  const live = computed(() => preview.answer.value)
  const last = computed(() => here.value.filter((m) => (m.standing === 'in-force' || m.standing === 'explained') && of(m)).at(-1) ?? null)
  const shown = computed(() => live.value ?? last.value)
  const waiting = computed(() => underway(book.id, kind).filter((f) => f.line?.box === cell.value?.name))
  const said = computed(() => trouble.value || preview.trouble.value || taken.trouble.value)
  const outside = computed(() => (cell.value ? book.outside(cell.value, tuned) : ''))

  const toLine = () => void nextTick(() => line.value?.focus())
  onMounted(toLine)
  watch([text, at], () => (trouble.value = ''), { flush: 'sync' })

  function retune() {
    const hz = typedMegahertz(dial.value?.value ?? '')
    if (hz == null) trouble.value = 'Give the frequency in MHz, such as 145.500.'
    else if (cell.value) book.measureAt(cell.value, hz, tuned)
  }
  /** The keys that every line has: what a kind has beside them is given. */
  function command(e: KeyboardEvent, own: Record<string, () => void> = {}) {
    if (e.ctrlKey || e.metaKey || e.altKey) return
    if (!whole && e.key === 'Enter' && text.value.trim().toLowerCase() === 'f') {
      e.preventDefault()
      e.stopPropagation()
      text.value = ''
      dial.value?.select()
      return
    }
    if (e.key === 'Enter' && !e.shiftKey) {
      e.preventDefault()
      void log()
      return
    }
    if (text.value.trim() !== '') return
    const n = bands.value.length
    const act = { '=': () => (text.value = last.value?.text ?? ''), ArrowDown: () => (at.value = (at.value + 1) % n), ArrowUp: () => (at.value = (at.value + n - 1) % n), ...own }[e.key]
    if (!act) return
    e.preventDefault()
    act()
  }
  async function log() {
    const typed = text.value
    const c = cell.value
    if (!c || !typed.trim() || !ready()) return
    if (preview.refused.value) {
      trouble.value = preview.trouble.value
      return
    }
    const body = { ...book.keyed(c, tuned), ...(way ? { path_id: way(), wiring: wiring?.() ?? '' } : {}), draft: draft(typed) }
    const outcome = send<V>({
      what: kind, review: book.id, label: `${c.name} ${typed}`, path: `/api/v1/reviews/${book.id}/measure/${kind}`, stays: true, line: { kind, box: c.name, text: typed }, json: (id) => ({ id, ...body }),
    })
    text.value = ''
    toLine()
    const got = await outcome
    if (!got.ok && got.refusal.stale) stale?.()
  }
  async function say(target_id: string, standing: Standing, reason: string) {
    await send({ what: 'standing', review: book.id, label: `${standing}: ${reason}`, about: target_id, stays: true, path: `/api/v1/reviews/${book.id}/standings`, json: (id) => ({ id, target_id, standing, reason }) })
    toLine()
  }
  return { kind, whole, ready, book, bands, at, cell, text, line, dial, dialled, here, isDone, live, last, shown, waiting, said, outside, retune, command, log, say }
}
