// Showing figures: rounding happens here and nowhere before. Watts to three
// significant figures, decibels to 0.1, never without a unit. The server rounds the same
// way for editions (core/units, publish); a test holds the two to one another.

/** A number with so many decimals; what lies exactly between two goes to the even one. */
export function fixed(v: number, decimals: number): string {
  const nearest = v.toFixed(decimals)
  const [whole, rest] = Math.abs(v).toFixed(decimals + 60).split('.') as [string, string]
  const digits = whole + rest.slice(0, decimals)
  if (!/^50*$/.test(rest.slice(decimals)) || Number(digits.at(-1)) % 2 === 1) return nearest
  return (v < 0 ? '-' : '') + (decimals ? `${whole}.${rest.slice(0, decimals)}` : whole)
}

const minus = (s: string) => s.replace('-', '\u2212')

export function watts(w: number | null | undefined): string {
  if (w == null) return 'no figure'
  if (w === 0) return '0 W'
  const shown = rounded(w)
  const [value, unit] = shown >= 1e4 ? [w / 1e3, 'kW'] : shown < 1e-3 ? [w * 1e6, 'µW'] : shown < 1 ? [w * 1e3, 'mW'] : [w, 'W']
  return `${significant(value)} ${unit}`
}

// To three significant figures: 9.996 is 10.0, and 999.6 mW is 1.00 W.
const rounded = (v: number) => Number(v.toExponential(2))

function significant(v: number): string {
  return fixed(v, Math.min(Math.max(0, 2 - Math.floor(Math.log10(Math.abs(rounded(v))))), 12))
}

/** A mode behind a name: FM is what goes without saying, and where none was said there is none. */
export const inMode = (mode: string) => (mode === 'FM' || !mode ? '' : ` ${mode}`)

export const microvolts = (uv: number) => `${significant(uv)} µV`

/** A claimed power, which may be none. */
export function claimed(c: { claimed_w: number; pep: boolean }): string {
  return c.claimed_w > 0 ? `${c.claimed_w} W${c.pep ? ' PEP' : ''}` : 'no claim'
}

export function megahertz(hz: number): string {
  if (hz >= 1e9) return `${trim(hz / 1e9, 6)} GHz`
  if (hz >= 1e6) return `${trim(hz / 1e6, 6)} MHz`
  if (hz >= 1e3) return `${trim(hz / 1e3, 3)} kHz`
  return `${trim(hz, 1)} Hz`
}

/** A frequency as it is dialled, in MHz: three decimals, and all that a channel has. */
export function dial(hz: number): string {
  const [whole, decimals = ''] = trim(hz / 1e6, 6).split('.')
  return `${whole}.${decimals.padEnd(3, '0')}`
}

function trim(v: number, decimals: number): string {
  return fixed(v, decimals).replace(/(\.\d*?)0+$/, '$1').replace(/\.$/, '')
}

/** Words from the server, with true minus signs. */
export const words = (s: string) => s.replace(/(^|[\s(])-(?=\d)/g, '$1\u2212')

export function db(v: number | null | undefined): string {
  if (v == null) return 'no figure'
  const tenth = (Math.sign(v) * Math.round(Math.abs(v) * 10)) / 10 || 0 // never minus nought
  return minus(`${tenth >= 0 ? '+' : ''}${fixed(tenth, 1)} dB`)
}
export const dbm = (v: number | null | undefined) => (v == null ? 'no figure' : minus(`${fixed(v, 1)} dBm`))
export const dbc = (v: number | null | undefined) => (v == null ? 'no figure' : minus(`${fixed(v, 1)} dBc`))
export const fine = (v: number) => minus(`${fixed(v, 2)} dB`)

/** A share of a claim, as it is shown everywhere. */
export const percent = (v: number) => (v < 20 ? `${fixed(v, 1)} %` : `${fixed(v, 0)} %`)

/** A moment and a day, as the reader's own language writes them. */
export function day(iso: string): string {
  return new Date(iso).toLocaleString(undefined, { day: 'numeric', month: 'short', year: 'numeric', hour: '2-digit', minute: '2-digit' })
}
export function date(iso: string): string {
  if (!iso) return ''
  return new Date(iso.length === 10 ? `${iso}T12:00` : iso).toLocaleDateString(undefined, { day: 'numeric', month: 'short', year: 'numeric' })
}

const ordinals = new Intl.PluralRules('en', { type: 'ordinal' })
const suffix: Record<string, string> = { one: 'st', two: 'nd', few: 'rd', other: 'th' }

export function ordinal(n: number): string {
  return `${n}${suffix[ordinals.select(n)]}`
}

/** The room a product has under its limit; of one that was not seen, that it has at least that. */
export const room = (p: { seen: boolean; room_db: number | null }) => (p.seen || p.room_db == null ? '' : '≥ ') + db(p.room_db)
