import { defineStore } from 'pinia'
import { computed, reactive, ref } from 'vue'
import { decimal } from '../shared/numbers'
import { api, ask, NoAnswer, questions, useAsked, type Bench, type Mode, type Schemas } from '../shared/server'

export type Kit = Schemas['KitView']
export type KeptPath = Schemas['PathView']
export type Part = Schemas['RecordPathPart']
export type Stairs = Schemas['WiringStaircase']
export type Cure = Schemas['AdviseCure']

/** What is keyed into a path on the bench, as the API asks for it. */
export interface BenchKeyed {
  frequency_hz: number
  levels: { w: number }[]
  mode: Mode
  rule_book: string
}

/** The bench, in step with every write and every other window. */
export const useBench = defineStore('bench', () => {
  // The bench of a practice review while one is in it, else the real one.
  const practice = ref('')
  const asked = useAsked('bench', () => [practice.value] as const, (practice: string) => ask(api.GET('/api/v1/bench', { params: { query: { practice } } })))
  const kindsAsked = useAsked('kit kinds', () => [] as const, () => ask(api.GET('/api/v1/bench/kinds')))
  const booksAsked = useAsked('rule books', () => [] as const, () => ask(api.GET('/api/v1/rule-books')))
  const bench = asked.answer
  const books = computed(() => booksAsked.answer.value ?? [])

  const owned = computed(() => bench.value?.kit.filter((k) => !k.retired_at) ?? [])
  const paths = computed(() => bench.value?.paths.filter((p) => !p.retired_at) ?? [])
  const byId = computed(() => new Map(bench.value?.kit.map((k) => [k.id, k]) ?? []))
  const meters = computed(() => owned.value.filter((k) => k.spec.meter != null))

  function put<T extends { id: string; version: number }>(list: T[], row: T): T[] {
    const at = list.findIndex((x) => x.id === row.id)
    if (at < 0) return [...list, row]
    return list.map((x, i) => (i === at && x.version <= row.version ? row : x))
  }
  const change = (by: (b: Bench) => Bench) => questions.setQueryData<Bench>(['bench', practice.value], (b) => (b ? by(b) : b))
  const keepKit = (k: Kit) => change((b) => ({ ...b, kit: put(b.kit, k) }))
  const keepPath = (p: KeptPath) => change((b) => ({ ...b, paths: put(b.paths, p) }))
  const dropKit = (id: string) => change((b) => ({ ...b, kit: b.kit.filter((k) => k.id !== id) }))

  /** Writes a path and keeps the answer. */
  async function writePath(p: KeptPath, changes: Partial<KeptPath> & { retired?: boolean } = {}): Promise<KeptPath> {
    const { id, version, name, socket, parts, supply, applied_offset_db } = { ...p, ...changes }
    const body = { version, name, socket, parts, supply: supply ?? undefined, applied_offset_db, retired: changes.retired ?? p.retired_at != null }
    const kept = await untilAnswered(() => ask(api.PUT('/api/v1/paths/{id}', { params: { path: { id } }, body })))
    keepPath(kept)
    return kept
  }

  // What is keyed on the bench, outside any review.
  const keyed = reactive({ mhz: '146.52', watts: '5', mode: 'FM' as Exclude<Mode, ''>, book: 'us-amateur' })
  const askedOf = computed<BenchKeyed | null>(() => {
    const frequency_hz = Math.round(decimal(keyed.mhz) * 1e6)
    const powers = keyed.watts.split('/').map(decimal)
    if (!(frequency_hz > 0) || powers.some((w) => !(w > 0))) return null
    return { frequency_hz, levels: powers.map((w) => ({ w })), mode: keyed.mode, rule_book: keyed.book }
  })

  return { practice, bench, kinds: kindsAsked.answer, books, trouble: asked.trouble, owned, paths, byId, meters, keyed, asked: askedOf, keepKit, keepPath, dropKit, writePath }
})

/** Sends a write that may safely be sent again, until it is answered. */
export async function untilAnswered<T>(send: () => Promise<T>): Promise<T> {
  for (let tries = 0; ; tries++) {
    try {
      return await send()
    } catch (e) {
      if (!(e instanceof NoAnswer) || tries >= 8) throw e
      await new Promise((go) => setTimeout(go, Math.min(4000, 500 * 2 ** tries)))
    }
  }
}

/** The parts after a cure: each step counts on the parts as the step before left them. */
export function cured(parts: Part[], cure: Cure): Part[] {
  const out = parts.map((p) => ({ ...p }))
  for (const s of cure.steps) {
    if (s.do === 'measure') continue // done on the bench, not on the path
    const part = { kit_id: s.kit_id, setting: s.setting }
    if (s.do === 'replace') out.splice(s.at, 1, part)
    else out.splice(s.do === 'insert' ? s.at : out.length, 0, part)
  }
  return out
}
