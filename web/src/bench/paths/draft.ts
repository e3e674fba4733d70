// A path while it is drawn: every change is seen at once, kept shortly after, and
// can be taken back.
import { computed, ref, watch } from 'vue'
import { api, ask, copy, keep, useAsked, type Kept, type Sort } from '../../shared/server'
import { useBench, type KeptPath, type Part } from '../bench'

export type Draft = { name: string; socket: string; parts: Part[]; supply: KeptPath['supply']; applied_offset_db: number; retired: boolean }

const contentOf = (p: KeptPath) => ({
  version: p.version,
  content: { name: p.name, socket: p.socket, parts: p.parts, supply: p.supply ?? null, applied_offset_db: p.applied_offset_db, retired: p.retired_at != null } as Draft,
})

export const sort: Sort<Draft> = {
  what: 'path',
  read: async (id) => {
    const b = await ask(api.GET('/api/v1/bench'))
    const p = b.paths.find((x) => x.id === id)
    if (!p) throw new Error('this path is not kept any more')
    return contentOf(p)
  },
  write: async (id, version, d) => {
    const got = await ask(api.PUT('/api/v1/paths/{id}', { params: { path: { id } }, body: { ...d, version, supply: d.supply ?? undefined } }))
    useBench().keepPath(got)
    return contentOf(got)
  },
}

export const keepPath = (p: KeptPath): Kept<Draft> => keep(sort, p.id, contentOf(p))

export function usePathDraft(kept: () => KeptPath | undefined) {
  const bench = useBench()
  const typed = computed<Kept<Draft> | null>(() => { const p = kept(); return p ? keepPath(p) : null })
  const draft = computed<Draft | null>(() => typed.value?.now ?? null)
  const past = ref<Draft[]>([])
  watch(() => kept()?.id, () => (past.value = []))

  // The staircase follows every change, and is of this drawing alone.
  const asked = useAsked(
    'staircase',
    () => {
      const d = draft.value
      const p = kept()
      if (!d || !p || !bench.asked) return null
      return [{ path_id: p.id, draft: { name: d.name || 'a path', socket: d.socket, parts: d.parts, supply: d.supply ?? undefined, applied_offset_db: d.applied_offset_db }, ...bench.asked }]
    },
    (body: { path_id: string }) => ask(api.POST('/api/v1/staircase', { body: body as never })),
    (was, now) => was[0].path_id === now[0].path_id,
  )

  /** Changes the draft; what it was can be had back. */
  function change(by: (d: Draft) => void, remember = true) {
    if (!typed.value) return
    if (remember) past.value.push(copy(typed.value.now))
    const next = copy(typed.value.now)
    by(next)
    typed.value.change(next)
  }
  function undo() {
    const before = past.value.pop()
    if (before) typed.value?.change(before)
  }

  const parts = computed<Part[]>(() => draft.value?.parts ?? [])
  return { draft, typed, parts, stairs: asked.answer, trouble: asked.trouble, past, change, undo }
}
