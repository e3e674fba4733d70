// A path while it is drawn: every change is seen at once, kept shortly after, and
// can be taken back.
import { useDebounceFn } from '@vueuse/core'
import { computed, ref, watch } from 'vue'
import { api, ask, type Refusal } from '../../shared/api/client'
import { useBench, type KeptPath, type Part, type Stairs } from '../bench'

export type Draft = Pick<KeptPath, 'name' | 'socket' | 'parts' | 'supply' | 'applied_offset_db'>

const copy = (p: Draft): Draft => ({ name: p.name, socket: p.socket, parts: p.parts.map((x) => ({ ...x })), supply: p.supply ? { ...p.supply } : (null as unknown as Draft['supply']), applied_offset_db: p.applied_offset_db })

export function usePathDraft(kept: () => KeptPath | undefined) {
  const bench = useBench()
  const draft = ref<Draft | null>(null)
  const stairs = ref<Stairs | null>(null)
  const trouble = ref('')
  const state = ref<'kept' | 'keeping' | 'refused'>('kept')
  const past = ref<Draft[]>([])
  let id = ''
  let asking = 0
  let writing = false

  watch(
    () => kept()?.id,
    async () => {
      await flush()
      const p = kept()
      id = p?.id ?? ''
      draft.value = p ? copy(p) : null
      past.value = []
      trouble.value = ''
      state.value = 'kept'
    },
    { immediate: true },
  )

  // The staircase follows every change; an answer that was overtaken is dropped.
  watch(
    [draft, () => bench.asked, () => bench.bench?.kit.map((k) => `${k.id} ${k.version}`).join()],
    async () => {
      const turn = ++asking
      if (!draft.value || !bench.asked) {
        stairs.value = null
        return
      }
      const d = draft.value
      const body = { path_id: id, draft: { ...d, name: d.name || 'a path', supply: d.supply ?? undefined }, ...bench.asked }
      try {
        const got = await ask(api.POST('/api/v1/staircase', { body }))
        if (turn === asking) [stairs.value, trouble.value] = [got, '']
      } catch (e) {
        if (turn === asking) [stairs.value, trouble.value] = [null, (e as Refusal).words]
      }
    },
    { immediate: true, deep: true },
  )

  /** Changes the draft; what it was can be had back. */
  function change(by: (d: Draft) => void, remember = true) {
    if (!draft.value) return
    if (remember) past.value.push(copy(draft.value))
    const next = copy(draft.value)
    by(next)
    draft.value = next
    state.value = 'keeping'
    void keep()
  }
  function undo() {
    const before = past.value.pop()
    if (!before) return
    draft.value = before
    state.value = 'keeping'
    void keep()
  }

  async function flush() {
    const d = draft.value
    const p = bench.bench?.paths.find((x) => x.id === id)
    if (!d || !p || state.value !== 'keeping' || writing) return
    writing = true
    try {
      const sent = JSON.stringify(d)
      await bench.writePath(p, d)
      state.value = JSON.stringify(draft.value) === sent ? 'kept' : 'keeping'
    } catch (e) {
      const refusal = e as Refusal
      trouble.value = refusal.status === 409 ? 'This path was changed in another window. Copy what you drew, then open the place again.' : refusal.words
      state.value = 'refused'
    } finally {
      writing = false
    }
    if (state.value === 'keeping') await flush()
  }
  const keep = useDebounceFn(flush, 400)

  /** Begins again from what is kept, which was changed beside the draft. */
  function reread() {
    const p = kept()
    if (p) draft.value = copy(p)
    past.value = []
  }

  const parts = computed<Part[]>(() => draft.value?.parts ?? [])
  return { draft, parts, stairs, trouble, state, past, change, undo, reread }
}
