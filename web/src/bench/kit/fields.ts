// Which fields an item of each kind has, and how they are typed and shown.
import type { Schemas } from '../../shared/server'
import { decimal } from '../../shared/numbers'

export type Spec = Schemas['KitSpec']

export const kindNames: Record<string, string> = {
  adapter: 'adapter', cable: 'coax', 'through-meter': 'through-meter', 'terminating-meter': 'terminating meter', load: 'load', attenuator: 'pad',
  'switched-attenuator': 'switched pad', tap: 'tap', coupler: 'coupler', sampler: 'sampler', analyzer: 'analyzer', 'service-monitor': 'service monitor',
  supply: 'supply', 'signal-generator': 'signal generator', 'antenna-analyzer': 'antenna analyzer', antenna: 'antenna', counter: 'counter',
}

export interface Field {
  path: string
  label: string
  unit?: string
  /** What is shown times this is what is kept: 1e6 for MHz. */
  times?: number
  as?: 'number' | 'text' | 'date' | 'loss' | 'points' | 'scales' | 'positions' | 'ranges' | 'flag' | 'cable' | 'preamp'
  hint?: string
}

/** Fields of one subject, under its word. */
export interface Group {
  title: string
  fields: Field[]
}

const MHz = 1e6
const group = (title: string, ...fields: Field[]): Group => ({ title, fields })

const range: Field[] = [
  { path: 'element.from_hz', label: 'from', unit: 'MHz', times: MHz },
  { path: 'element.to_hz', label: 'to', unit: 'MHz', times: MHz },
]
const swr: Field = { path: 'element.swr', label: 'SWR', hint: 'or drop an .s1p file' }
const made = group('made for', ...range, swr)
const rating: Field = { path: 'element.max_w', label: 'all the time', unit: 'W' }
const takes = group('takes', rating, { path: 'element.short_max_w', label: 'for a short time', unit: 'W' }, { path: 'element.short_s', label: 'that is at most', unit: 's' })
const tolerance: Field = { path: 'element.tolerance_db', label: 'within', unit: '± dB' }
const certificate: Field[] = [
  { path: 'element.expanded_db', label: 'and by a certificate', unit: '± dB' },
  { path: 'element.coverage_factor', label: 'its k', hint: '2 unless it says another' },
]
const loss: Field = { path: 'element.loss', label: 'dB', as: 'loss', hint: 'one figure; or a line a frequency, MHz and dB; or drop an .s2p file' }
const mainLoad: Field = { path: 'element.main_load_w', label: 'its main arm’s load', unit: 'W' }
const coupling: Field[] = [
  { path: 'element.coupling_db', label: 'flat', unit: 'dB' },
  { ...loss, label: 'or over frequency' },
  { path: 'element.coupling_unknown', label: 'not known', as: 'flag' },
  { path: 'element.flat_within_db', label: 'then vouched flat within', unit: '± dB', hint: 'between any two frequencies looked at: levels below the carrier are ruled on, no absolute ones' },
  { path: 'element.least_coupling_db', label: 'and taking at least', unit: 'dB', hint: 'for what is safe behind it' },
  tolerance,
  ...certificate,
]
const reads = group(
  'reads',
  { path: 'meter.from_hz', label: 'from', unit: 'MHz', times: MHz },
  { path: 'meter.to_hz', label: 'to', unit: 'MHz', times: MHz },
  { path: 'scales_w', label: 'scales', unit: 'W', as: 'scales', hint: 'several, with spaces: 5 20 200' },
  { path: 'meter.scale_w', label: 'or its one scale ends at', unit: 'W' },
  { path: 'meter.digit_w', label: 'last digit, or division', unit: 'W', hint: 'of the largest scale, where it has several' },
  { path: 'divisions_w', label: 'division on each scale', unit: 'W', as: 'scales', hint: 'as many as scales, in their order' },
  { path: 'meter.needle', label: 'a needle', as: 'flag' },
  { path: 'meter.needle_w', label: 'read to, standard', unit: '± W', hint: 'a fifth of a division unless given' },
  { path: 'meter.swr', label: 'SWR as a load' },
)
const accurate = group(
  'true within',
  { path: 'meter.pct_reading', label: 'of reading', unit: '± %' },
  { path: 'meter.pct_full_scale', label: 'and of full scale', unit: '± %' },
  { path: 'meter.db', label: 'and', unit: '± dB' },
  { path: 'meter.repeatability_pct', label: 'one reading scatters by', unit: '± %', hint: 'standard deviation of readings of the same power' },
)
const certified = group(
  'by a certificate',
  { path: 'meter.expanded_pct', label: 'of reading', unit: '± %' },
  { path: 'meter.expanded_db', label: 'or', unit: '± dB' },
  { path: 'meter.coverage_factor', label: 'its k', hint: '2 unless it says another' },
)
const meter = [reads, accurate, certified]
const kept = group('notes', { path: 'checked_on', label: 'last checked', as: 'date' }, { path: 'serial', label: 'serial', as: 'text' }, { path: 'certificate', label: 'certificate', as: 'text', hint: 'its number, and who gave it' }, { path: 'note', label: 'note', as: 'text' })
const accuracy: Field = { path: 'accuracy_db', label: 'levels within', unit: '± dB' }

export function fieldsOf(kind: string): Group[] {
  switch (kind) {
    case 'adapter':
      return [group('loss', loss, tolerance), made, group('takes', rating), kept]
    case 'cable':
      return [
        group('coax', { path: 'element.cable', label: 'type', as: 'cable' }, { path: 'element.length_m', label: 'length', unit: 'm' }, { path: 'element.points', label: 'or its data', as: 'points', hint: 'a line a frequency: MHz and dB per 100 m' }),
        group('loss', { ...loss, label: 'dB, where the whole was measured' }, tolerance), made, group('takes', rating), kept,
      ]
    case 'through-meter':
      return [made, takes, group('loss', loss, tolerance), ...meter, kept]
    case 'terminating-meter':
    case 'service-monitor':
      return [made, takes, ...meter, kept]
    case 'load':
      return [made, takes, kept]
    case 'attenuator':
      return [group('loss', loss, tolerance, ...certificate), made, takes, kept]
    case 'switched-attenuator':
      return [group('loss', { path: 'positions', label: 'positions', as: 'positions', hint: 'a line a position: name = dB' }, tolerance), made, takes, kept]
    case 'tap':
    case 'coupler':
      return [group('coupling', ...coupling), made, group('takes', ...takes.fields, mainLoad), kept]
    case 'sampler':
      return [
        group('coupling', { path: 'positions', label: 'knob', as: 'positions', hint: 'a line a position: name = dB, or name = ? where it was never measured' },
          { path: 'element.flat_within_db', label: 'where never measured, vouched flat within', unit: '± dB', hint: 'between any two frequencies looked at: levels below the carrier are ruled on, no absolute ones' },
          { path: 'element.least_coupling_db', label: 'and taking at least', unit: 'dB', hint: 'for what is safe behind it' }, tolerance),
        group('made for', ...range), group('takes', ...takes.fields, mainLoad), kept,
      ]
    case 'analyzer':
      return [
        group('inputs', { path: 'element.ranges', label: 'inputs and ranges', as: 'ranges' }),
        group('in use', { path: 'element.input_attenuation_db', label: 'input attenuation', unit: 'dB' }, { path: 'pre_amplifier', label: 'pre-amplifier', as: 'preamp' }, swr),
        group(
          'shows', accuracy, { path: 'accuracy_k', label: 'by a certificate, its k', hint: 'empty: a maker’s limit' },
          { path: 'element.shi_dbm', label: 'SHI', unit: 'dBm', hint: 'second harmonic intercept, empty if unknown' },
          { path: 'element.toi_dbm', label: 'TOI', unit: 'dBm', hint: 'third order intercept, empty if unknown' },
        ),
        kept,
      ]
    case 'supply':
      return [
        group('gives', { path: 'supply.from_v', label: 'from', unit: 'V' }, { path: 'supply.to_v', label: 'to', unit: 'V' }, { path: 'supply.limit_a', label: 'at most', unit: 'A' }, { path: 'supply.lead_ohm', label: 'its leads, both ways', unit: 'Ω' }), kept,
      ]
    case 'signal-generator':
      return [group('made for', ...range), group('gives', { path: 'levels.from_dbm', label: 'from', unit: 'dBm' }, { path: 'levels.to_dbm', label: 'to', unit: 'dBm' }, accuracy), kept]
    case 'counter':
      return [group('made for', ...range), kept]
    case 'antenna':
      return [group('made for', ...range, { ...swr, hint: 'drop its .s1p file' }), kept]
    default:
      return [group('made for', ...range), group('reads', { ...accuracy, label: 'within' }), kept]
  }
}

type Tree = Record<string, unknown>

export function get(spec: Spec, path: string): unknown {
  return path.split('.').reduce<unknown>((v, key) => (v as Tree | undefined)?.[key], spec)
}

/** A copy of the spec with one field changed; undefined takes it out. */
export function put(spec: Spec, path: string, value: unknown): Spec {
  const out = JSON.parse(JSON.stringify(spec)) as Tree
  const keys = path.split('.')
  let at = out
  for (const key of keys.slice(0, -1)) at = (at[key] ??= {}) as Tree
  const last = keys.at(-1)!
  if (value === undefined) delete at[last]
  else at[last] = value
  const typical = (out.typical as string[] | undefined)?.filter((t) => t !== path && !t.startsWith(`${path}.`) && !path.startsWith(`${t}.`))
  if (typical) out.typical = typical
  return out as unknown as Spec
}

const figure = (v: number) => String(Number(v.toPrecision(12)))

/** How a field is written where it is typed. */
export function show(spec: Spec, f: Field): string {
  const v = get(spec, f.path)
  if (v == null) return ''
  switch (f.as) {
    case 'loss': {
      const l = v as Schemas['PathLoss']
      if (l.touchstone != null) return ''
      return l.table ? l.table.map((p) => `${figure(p.frequency_hz / MHz)} ${figure(p.db)}`).join('\n') : figure(l.flat_db ?? 0)
    }
    case 'points':
      return (v as Schemas['RfCablePoint'][]).map((p) => `${figure(p.frequency_hz / MHz)} ${figure(p.db_per_100m)}`).join('\n')
    case 'scales':
      return (v as number[]).map(figure).join(' ')
    case 'positions':
      return (v as Schemas['KitPosition'][]).map((p) => `${p.name} = ${p.unknown ? '?' : p.db != null ? figure(p.db) : (p.loss?.table ?? []).map((t) => `${figure(t.frequency_hz / MHz)}:${figure(t.db)}`).join(' ')}`).join('\n')
    case undefined:
    case 'number':
      return figure((v as number) / (f.times ?? 1))
    default:
      return String(v)
  }
}

/** What was typed, as it is kept; undefined takes the field out. Throws words where it cannot be read. */
export function read(text: string, f: Field): unknown {
  const t = text.trim()
  if (t === '') return undefined
  switch (f.as) {
    case 'text':
    case 'date':
    case 'cable':
    case 'preamp':
      return t
    case 'loss': {
      if (!/[\s;]/.test(t)) return { flat_db: number(t) }
      return { table: pairs(t).map(([a, b]) => ({ frequency_hz: a * MHz, db: b })) }
    }
    case 'points':
      return pairs(t).map(([a, b]) => ({ frequency_hz: a * MHz, db_per_100m: b }))
    case 'scales':
      return t.split(/[\s;]+/).map(number)
    case 'positions':
      return t.split('\n').filter((l) => l.trim()).map(position)
    default:
      return number(t) * (f.times ?? 1)
  }
}

function number(t: string): number {
  const v = decimal(t)
  if (Number.isNaN(v)) throw new Error(`“${t}” is no number`)
  return v
}
function pairs(t: string): [number, number][] {
  return t.split('\n').filter((l) => l.trim()).map((l) => {
    const [a, b, ...rest] = l.trim().split(/[\s;]+/)
    if (b === undefined || rest.length) throw new Error(`“${l.trim()}”: give MHz and dB, with a space between`)
    return [number(a!), number(b)]
  })
}
function position(line: string): Schemas['KitPosition'] {
  const at = line.indexOf('=')
  if (at < 0) throw new Error(`“${line.trim()}”: give a name, = and its dB`)
  const name = line.slice(0, at).trim()
  const value = line.slice(at + 1).trim()
  if (value === '?') return { name, unknown: true }
  if (value.includes(':')) {
    const table = value.split(/\s+/).map((p) => p.split(':').map(number)).map(([f, d]) => ({ frequency_hz: f! * MHz, db: d! }))
    return { name, loss: { table } }
  }
  return { name, db: number(value) }
}
