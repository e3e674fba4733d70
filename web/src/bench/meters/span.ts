// The scale that meters are drawn on against each other.
import type { Schemas } from '../../shared/server'

/** Half the width of the picture in dB: the least round figure that holds every ring. */
export function spanOf(meters: Schemas['CalibrateMeterOffset'][]): number {
  const most = Math.max(0, ...meters.flatMap((m) => [...m.each_db, (m.offset_db ?? 0) + (m.spread_db ?? 0)]).map((v) => Math.abs(v ?? 0)))
  return [0.5, 1, 2, 5, 10, 20].find((s) => s >= most) ?? most
}

export function signed(v: number | null | undefined): string {
  return v == null ? 'alone' : `${v >= 0 ? '+' : '−'}${Math.abs(v).toFixed(2)} dB`
}
