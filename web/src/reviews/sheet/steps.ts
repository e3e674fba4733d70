// The steps of the run sheet, and the one a person is at: kept over stages and reloads.
import { computed } from 'vue'
import { useRouter } from 'vue-router'
import { useChosenBox } from '../../shared/lines'
import { remember } from '../../shared/remember'
import { api, ask, useAsked, type Mode, type Schemas } from '../../shared/server'
import { useReview } from '../review'

export type Step = Schemas['KeyingPlanStep']

export function useSteps() {
  const book = useReview()
  const router = useRouter()
  const asked = useAsked('run sheet', () => (book.id ? ([book.id] as const) : null), (id: string) => ask(api.GET('/api/v1/reviews/{id}/sheet', { params: { path: { id } } })))
  const key = remember(`step ${book.id}`, '')
  const plan = asked.answer
  const going = computed(() => plan.value?.steps.filter((s) => s.counts) ?? [])
  const now = computed(() => going.value.find((s) => s.key === key.value) ?? null)
  const place = computed(() => (now.value ? going.value.indexOf(now.value) : -1))

  const minutes = (s: number) => Math.round(s / 60)

  /** Sets what a step says, where its stage finds it: frequency, box and path. */
  function take(s: Step) {
    key.value = s.key
    const cell = book.cells.find((c) => c.band.name === s.band && c.level === s.level && c.mode === (s.mode as Mode))
    if (!cell) return
    book.measureAt(cell, s.frequency_hz)
    useChosenBox(book.id, s.kind).value = cell.name
    remember(`path ${s.kind} ${book.id}`, '').value = s.path_id
  }
  const open = (s: Step) => {
    take(s)
    return router.push(`/reviews/${book.id}/${s.kind}`)
  }
  const beside = (by: number): Step | null => (place.value < 0 ? null : (going.value[place.value + by] ?? null))
  const leave = () => (key.value = '')

  return { plan, trouble: asked.trouble, going, now, place, key, take, open, beside, leave, minutes }
}
