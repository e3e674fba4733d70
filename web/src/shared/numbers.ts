// Numbers as people type them: a point or a comma, a minus of any kind.

/** NaN where there is none. */
export function decimal(text: string): number {
  const t = text.trim().replace(',', '.').replace('\u2212', '-')
  return t === '' ? NaN : Number(t)
}

/** A figure of a field that may be left open: undefined where nothing is told, below 0 where what
 * is told cannot be read, which no such figure is. */
export function toldNumber(text: string): number | undefined {
  if (text.trim() === '') return undefined
  const v = decimal(text)
  return Number.isNaN(v) ? -1 : v
}
