import { defineStore } from 'pinia'
import { computed, reactive, ref } from 'vue'
import { api, ask, type Bench, type Refusal, type Schemas } from '../shared/api/client'

export type Kit = Schemas['KitView']
export type KeptPath = Schemas['PathView']
export type Part = Schemas['StorePathPart']
export type Stairs = Schemas['DossierStaircase']
export type Cure = Schemas['AdviseCure']
type Mode = 'FM' | 'AM' | 'SSB' | 'CW' | 'DIGITAL'

/** A power claimed at a level, and the current read at it, where it was. */
export interface Level {
  name: string
  w: number
  a?: number
  mode?: string
  pep?: boolean
}

/** What is keyed into a path, as the API asks for it. */
export interface Asked {
  frequency_hz: number
  levels: Level[]
  measured_w?: number
  mode: Mode
  rule_book: string
  radio_min_v?: number
  radio_max_v?: number
}

/** The bench, read once and kept in step with every write. */
export const useBench = defineStore('bench', () => {
  const bench = ref<Bench | null>(null)
  const kinds = ref<Schemas['KindsView'] | null>(null)
  const books = ref<Schemas['RulebookBook'][]>([])
  const trouble = ref('')

  async function load() {
    try {
      bench.value = await ask(api.GET('/api/v1/bench'))
      trouble.value = ''
    } catch (e) {
      trouble.value = (e as Refusal).message
    }
  }

  async function loadKinds() {
    if (kinds.value) return
    kinds.value = await ask(api.GET('/api/v1/bench/kinds'))
    books.value = await ask(api.GET('/api/v1/rule-books'))
  }

  const owned = computed(() => bench.value?.kit.filter((k) => !k.retired_at) ?? [])
  const paths = computed(() => bench.value?.paths.filter((p) => !p.retired_at) ?? [])
  const byId = computed(() => new Map(bench.value?.kit.map((k) => [k.id, k]) ?? []))
  const meters = computed(() => owned.value.filter((k) => k.spec.meter != null))

  function put<T extends { id: string }>(list: T[] | undefined, row: T) {
    if (!list) return
    const at = list.findIndex((x) => x.id === row.id)
    if (at < 0) list.push(row)
    else list[at] = row
  }
  const keepKit = (k: Kit) => put(bench.value?.kit, k)
  const keepPath = (p: KeptPath) => put(bench.value?.paths, p)
  function dropKit(id: string) {
    if (bench.value) bench.value.kit = bench.value.kit.filter((k) => k.id !== id)
  }

  /** Writes a path and keeps the answer. */
  async function writePath(p: KeptPath, change: Partial<KeptPath> & { retired?: boolean } = {}): Promise<KeptPath> {
    const { id, version, name, socket, parts, supply, applied_offset_db } = { ...p, ...change }
    const body = { version, name, socket, parts, supply: supply ?? undefined, applied_offset_db, retired: change.retired ?? p.retired_at != null }
    const kept = await ask(api.PUT('/api/v1/paths/{id}', { params: { path: { id } }, body }))
    keepPath(kept)
    return kept
  }

  // What is keyed on the bench, outside any review.
  const keyed = reactive({ mhz: '146.52', watts: '5', mode: 'FM' as Mode, book: 'us-amateur' })
  const asked = computed<Asked | null>(() => {
    const frequency_hz = Math.round(decimal(keyed.mhz) * 1e6)
    const powers = keyed.watts.split('/').map(decimal)
    if (!(frequency_hz > 0) || powers.some((w) => !(w > 0))) return null
    return { frequency_hz, levels: powers.map((w, i) => ({ name: levelNames(powers.length)[i]!, w })), mode: keyed.mode, rule_book: keyed.book }
  })

  return { bench, kinds, books, trouble, owned, paths, byId, meters, keyed, asked, load, loadKinds, keepKit, keepPath, dropKit, writePath }
})

/** The kinds a path ends in: nothing can lie behind them. */
export const ending = ['load', 'analyzer', 'terminating-meter', 'service-monitor', 'antenna']

/** A number as typed, with a point or a comma; NaN where it is none. */
export function decimal(text: string): number {
  const t = text.trim().replace(',', '.').replace('\u2212', '-')
  return t === '' ? NaN : Number(t)
}

function levelNames(n: number): string[] {
  if (n === 1) return ['High']
  return n === 2 ? ['High', 'Low'] : n === 3 ? ['High', 'Mid', 'Low'] : Array.from({ length: n }, (_, i) => `level ${i + 1}`)
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
