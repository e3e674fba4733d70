// What was read of a line, in words under it.
import { megahertz, watts } from '../../shared/figures'
import type { Reading } from '../../shared/server'

/** A letter alone, or before a blank, may be a command: the server says. */
export const mayCommand = (line: string) => /^\p{L}(\s|$)/u.test(line.trim())

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
