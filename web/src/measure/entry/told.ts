/** A figure of a field that may be left open: undefined where nothing is told, below 0 where what
 * is told cannot be read, which no such figure is. */
export function toldNumber(text: string): number | undefined {
  if (text.trim() === '') return undefined
  const v = Number(text.replace(',', '.'))
  return Number.isNaN(v) ? -1 : v
}
