// What a book can say, field by field: how each is asked for, in which unit, what a new one
// begins with.

export interface Field {
  key: string
  says: string
  /** A figure, words with commas between, a text, a date, a yes, or one of several. */
  as: 'figure' | 'words' | 'text' | 'date' | 'yes' | readonly string[]
  unit?: string
  scale?: number // of what is typed to what is kept
}
/** A part of a book as it is written: a figure that cannot be read stands in it as its text,
 * and is refused where it is kept. */
export type Part = Record<string, unknown>

const figure = (key: string, says: string, unit: string, scale = 1): Field => ({ key, says, as: 'figure', unit, scale })

export const head: Field[] = [
  { key: 'id', says: 'id', as: 'text' },
  { key: 'title', says: 'title', as: 'text' },
  { key: 'kind', says: 'is', as: ['law', 'house'] },
  { key: 'source', says: 'source', as: 'text' },
  { key: 'edition', says: 'edition', as: 'text' },
  { key: 'jurisdiction', says: 'holds in', as: 'text' },
  { key: 'service', says: 'for the service', as: 'text' },
  { key: 'otherwise', says: 'where no clause fits', as: 'text' },
  { key: 'otherwise_citation', says: 'by', as: 'text' },
  { key: 'carriers_citation', says: 'carriers by', as: 'text' },
  { key: 'note', says: 'note', as: 'text' },
]
export const carriers: Field[] = [figure('from_hz', 'from', 'MHz', 1e6), figure('to_hz', 'to', 'MHz', 1e6)]
export const when: Field[] = [
  figure('carrier_from_hz', 'carrier from', 'MHz', 1e6),
  figure('carrier_to_hz', 'carrier up to', 'MHz', 1e6),
  figure('mean_over_w', 'mean power over', 'W'),
  figure('mean_from_w', 'mean power from', 'W'),
  figure('mean_to_w', 'mean power up to', 'W'),
  figure('mean_under_w', 'mean power under', 'W'),
  { key: 'modes', says: 'modes', as: 'words' },
  { key: 'state', says: 'state', as: ['operating', 'standby'] },
  { key: 'services', says: 'services', as: 'words' },
  { key: 'classes', says: 'classes', as: 'words' },
  { key: 'installed_from', says: 'installed from', as: 'date' },
  { key: 'installed_before', says: 'installed before', as: 'date' },
  { key: 'marketed_before', says: 'marketed before', as: 'date' },
  { key: 'built_before', says: 'built before', as: 'date' },
]
export const clause: Field[] = [{ key: 'citation', says: 'by', as: 'text' }, { key: 'exempt', says: 'exempt: no limit', as: 'yes' }]
export const exclusion: Field[] = [figure('offset_hz', 'as far as', 'kHz', 1e3), figure('percent_of_bandwidth', 'as far as', '% of the authorised bandwidth')]
export const stretch: Field[] = [
  figure('from_hz', 'from', 'MHz', 1e6),
  figure('to_hz', 'up to', 'MHz', 1e6),
  figure('from_multiple', 'from', 'times the carrier'),
  figure('to_multiple', 'up to', 'times the carrier'),
  figure('from_offset_hz', 'beyond', 'kHz from the carrier', 1e3),
  figure('to_offset_hz', 'within', 'kHz of the carrier', 1e3),
  { key: 'harmonics_only', says: 'at harmonics only', as: 'yes' },
]
export const segment: Field[] = [
  { key: 'combine', says: 'of several terms the', as: ['stricter', 'lenient'] },
  figure('floor_dbm', 'need not be under', 'dBm'),
  figure('reference_bandwidth_hz', 'in a bandwidth of', 'kHz', 1e3),
  { key: 'detector', says: 'detector', as: ['peak', 'rms', 'average', 'sample'] },
  { key: 'citation', says: 'by', as: 'text' },
]
export const term: Field[] = [
  figure('relative_db', 'at least', 'dB below the carrier'),
  figure('formula_db', 'at least', '+ 10 log10 P dB below the carrier'),
  figure('absolute_dbm', 'at most', 'dBm'),
  { key: 'power', says: 'of the power', as: ['mean', 'pep'] },
]
export const bandwidth: Field[] = [figure('bandwidth_hz', 'authorised', 'kHz', 1e3)]
export const power: Field[] = [
  figure('max_w', 'at most', 'W'),
  { key: 'power', says: 'of', as: ['mean', 'carrier', 'pep'] },
  { key: 'as', says: 'at the', as: ['transmitter', 'erp', 'eirp'] },
  { key: 'citation', says: 'by', as: 'text' },
]
export const search: Field[] = [
  figure('from_hz', 'from', 'MHz', 1e6),
  figure('from_multiple', 'from', 'times the carrier'),
  { key: 'from_lowest_generated', says: 'from the lowest frequency the radio generates', as: 'yes' },
  figure('to_hz', 'up to', 'MHz', 1e6),
  figure('to_multiple', 'up to', 'times the carrier'),
  { key: 'citation', says: 'by', as: 'text' },
]

/** The parts of a book under a name: none where there are none, nothing where what stands
 * there is no list of parts. */
export function partsOf(of: Part, key: string): Part[] | null {
  const all = of[key] ?? []
  return Array.isArray(all) && all.every((p) => p && typeof p === 'object' && !Array.isArray(p)) ? (all as Part[]) : null
}
/** A part without what it says under a name. */
export const without = (of: Part, key: string): Part => Object.fromEntries(Object.entries(of).filter(([k]) => k !== key))
/** The part under a name, an empty one where there is none. */
export const partOf = (of: Part, key: string): Part => (of[key] && typeof of[key] === 'object' ? (of[key] as Part) : {})

/** Whether a book is shaped so that it can be written as sentences. */
export function readable(book: Part): boolean {
  const lists = ['carriers', 'authorised_bandwidths', 'power_limits', 'clauses', 'search'].map((k) => partsOf(book, k))
  if (lists.includes(null)) return false
  return partsOf(book, 'clauses')!.every((c) => partsOf(c, 'segments')?.every((s) => partsOf(s, 'terms')) ?? false)
}
