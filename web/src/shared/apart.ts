/** Heights moved apart so that none stands within the least distance of another: those of labels, which keep their
 * order from the top down. */
export function apart(heights: number[], least: number): number[] {
  const order = heights.map((y, i) => ({ y, i })).sort((a, b) => a.y - b.y)
  for (let n = 1; n < order.length; n++) order[n]!.y = Math.max(order[n]!.y, order[n - 1]!.y + least)
  // What was pushed too far down goes half of the way back up, as one.
  const down = order.length ? Math.max(...order.map((o) => o.y - heights[o.i]!)) / 2 : 0
  const out = [...heights]
  for (const o of order) out[o.i] = o.y - down
  return out
}
