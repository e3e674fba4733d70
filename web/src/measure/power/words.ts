// What a line says, in words under it: what Enter will do with a command, or what was read.
import { megahertz, watts } from '../../shared/figures'
import type { Reading } from '../../shared/server'
import type { Line } from './command'

/** What Enter does with a command; empty for an entry. */
export function told(t: Line): string {
  switch (t.kind) {
    case 'refused': return 'the radio refused to transmit here; Enter keeps it'
    case 'check': return `a check with the end ${t.check === 'short' ? 'shorted' : 'open'}; Enter keeps it`
    case 'step': return 'an unplanned step: frequency in MHz, and the level; Enter dials it'
    case 'target': return t.off ? 'Enter leaves the target' : `Enter sets the power to adjust to${t.w ? `: ${t.atMost ? 'at most ' : ''}${t.w} W` : ', the claim'}`
    case 'display': return `the radio’s own display says ${t.w} W; Enter keeps it with the next reading`
    case 'settings': return 'settings of the radio; Enter keeps them with every reading'
    case 'trusted': return `${t.name}, known to give ${t.w} W, is keyed next; Enter`
    case 'unclear': return t.why
    case 'alone': return t.says
  }
  return ''
}

/** What was parsed of an entry. */
export function echo(r: Reading): string {
  const e = r.entry
  const parts = e.readings.length ? [e.readings.map((v) => `${v.value}`).join(', ') + ` ${r.unit}`] : []
  if (e.level) parts.push(`radio shows ${e.level}`)
  if (e.swr != null) parts.push(`SWR ${e.swr}`)
  if (e.reflected_w != null) parts.push(`reflected ${watts(e.reflected_w)}`)
  if (e.peak_w != null) parts.push(`peak ${watts(e.peak_w)}`)
  if (e.supply_v != null) parts.push(`${e.supply_v} V`)
  if (e.supply_a != null) parts.push(`${e.supply_a} A`)
  if (e.frequency_hz != null) parts.push(megahertz(e.frequency_hz))
  if (e.remark) parts.push(`remark: ${e.remark}`)
  return parts.join('  ·  ')
}
