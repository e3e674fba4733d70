// A practice bench: how it is seen, and what hands do on it.
import { useIntervalFn } from '@vueuse/core'
import { computed, ref, type Ref } from 'vue'
import { api, ask, NoAnswer, questions, useAsked, wordsOf, type Schemas } from '../shared/server'

export type Practice = Schemas['PracticeView']
export type Hand = Omit<Schemas['Hand'], '$schema'>

export function usePractice(id: () => string) {
  const asked = useAsked('practice', () => (id() ? ([id()] as const) : null), (of: string) => ask(api.GET('/api/v1/reviews/{id}/practice', { params: { path: { id: of } } })))
  const trouble = ref('')
  const busy = ref('')
  const now = asked.answer as Ref<Practice | null>
  const put = (v: Practice) => questions.setQueryData(['practice', id()], v)
  /** Does something with a hand, and is what an instrument answered. */
  async function hand(h: Hand): Promise<string> {
    trouble.value = ''
    busy.value = h.kind ?? 'hand'
    try {
      const got = await ask(api.POST('/api/v1/reviews/{id}/practice/hand', { params: { path: { id: id() } }, body: h }))
      put(got.view)
      return got.answer
    } catch (e) {
      trouble.value = e instanceof NoAnswer ? 'The server does not answer: whether the bench heard that is not known. Look at it before you go on.' : wordsOf(e)
      return ''
    } finally {
      busy.value = ''
    }
  }
  const say = (kind: NonNullable<Hand['kind']>, line: string) => hand({ kind, line })
  // A meter bounces while the key is down.
  useIntervalFn(() => { if (now.value?.seen.keyed && !busy.value) void asked.again() }, 900)
  const band = computed(() => now.value?.bands.find((b) => Math.abs(b.tuned_hz - (now.value?.seen.tuned_hz ?? 0)) < 1e3)?.band ?? '')
  return { now, hand, say, put, trouble: computed(() => trouble.value || asked.trouble.value), busy, band }
}
